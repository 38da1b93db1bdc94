"""The same recipe for another table: next month's, with more rows."""

from typing import Any

from ..errors import Fault, MismatchFaults
from .shapes import HowRead, Recipe
from .sheet import ColumnLook, Sheet

__all__ = ["recipe_again"]


def recipe_again(sheet: Sheet, how: HowRead, recipe: Recipe) -> Recipe:
    """The recipe, read out of a table that has its columns; which are used, and the model, stay as they are.

    Parameters
    ----------
    sheet : Sheet
        What is seen in the new table.
    how : dict
        How it is read.
    recipe : dict
        By which the model was made before.

    Raises
    ------
    MismatchFaults
        With one fault for each column that is missing, or holds something else by now.
    """
    looks = {one.name: one for one in sheet.columns}
    faults = [_fault(one, looks.get(one["column"])) for one in recipe["fields"]]
    if recipe["target"]["column"] in looks:
        faults.append(_other_unit(recipe["target"], looks[recipe["target"]["column"]]))
    needed = [recipe["group"], recipe["time"]["column"] if recipe["time"] else None]
    faults += [
        f"The table has no column `{name}`, by which rows were parted." for name in needed if name and name not in looks
    ]
    if recipe["time"] and (look := looks.get(recipe["time"]["column"])) is not None and look.kind != "date":
        faults.append(f"`{look.name}` held dates, by which rows were parted, and holds none now.")
    if any(faults):
        raise MismatchFaults([Fault("table", fault) for fault in faults if fault])
    target, time = looks[recipe["target"]["column"]], recipe["time"]
    return {
        **recipe,
        "table": how,
        "target": {
            **recipe["target"],
            "decimal": target.decimal,
            "gaps": target.stand_ins,
            "spelled": target.spelled,
            "unit": target.unit,
            "classes": sorted(one.value for one in sheet.classes),
        },
        "fields": [_field(one, looks[one["column"]]) for one in recipe["fields"]],
        "time": {**time, "day_first": looks[time["column"]].day_first} if time else None,
        "alike": [one.name for one in sheet.columns] if recipe["alike"] else [],
    }


def _field(field: dict[str, Any], look: ColumnLook) -> Recipe:
    new: dict[str, Any] = {
        "decimal": look.decimal,
        "unit": look.unit,
        "gaps": look.stand_ins,
        "spelled": look.spelled,
        "day_first": look.day_first,
    }
    return {**field, **{name: value for name, value in new.items() if name in field}}


def _other_unit(column: dict[str, Any], look: ColumnLook) -> str:
    """That a column is counted in something else now; empty if it is not."""
    before = column.get("unit", "")
    if not before or not look.unit or before.casefold() == look.unit.casefold():
        return ""
    return f"`{look.name}` was in {before} and is in {look.unit} now. Write it in {before}."


def _fault(field: dict[str, Any], look: ColumnLook | None) -> str:
    """What keeps a column from being what the recipe takes it for; empty if nothing does."""
    if look is None:
        return f"The table has no column `{field['column']}`, which the model is told."
    if look.kind == "empty":
        return f"`{look.name}` is empty now; the model is told it."
    is_number = look.kind in ("number", "yes_no", "identifier", "constant") and not look.spelled
    if field["kind"] == "number" and not is_number:
        return f'`{look.name}` held numbers and holds others now, as "{look.examples[0][:40]}".'
    if field["kind"] == "number" and (other := _other_unit(field, look)):
        return other
    if field["kind"] == "date" and look.kind not in ("date", "constant"):
        return f'`{look.name}` held dates and holds others now, as "{look.examples[0][:40]}".'
    return ""
