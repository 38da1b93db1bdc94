"""From what was seen in a table, and what its author wants, to the recipe that the training script follows."""

from typing import Any

from ..errors import Fault, MismatchFaults
from .choices import Choices
from .shapes import HowRead, Recipe
from .sheet import ColumnLook, Sheet

__all__ = ["drops_duplicates", "faults_in", "group_of", "recipe_of", "time_of", "used_columns", "year_counts"]

KEPT_BACK, SEED = 0.2, 20
# Two years: over less a trend from year to year cannot be told from chance.
SHORTEST_TREND_SECONDS = 2 * 365 * 86_400
USABLE = ("number", "category", "yes_no", "date", "text")


def used_columns(sheet: Sheet, choices: Choices) -> list[str]:
    """The columns that a model is told, in the table's order.

    Parameters
    ----------
    sheet : Sheet
    choices : Choices
    """
    left_out = {name for one in sheet.findings if one.leaves_out and one.kind != "group" for name in one.columns}
    left_out |= {sheet.target, group_of(sheet, choices)}
    left_out = (left_out - set(choices.keep) - set(choices.kinds)) | {sheet.target} | set(choices.drop)
    able = [one for one in sheet.columns if one.kind in USABLE or one.name in (*choices.keep, *choices.kinds)]
    return [one.name for one in able if one.name not in left_out and one.kind not in ("constant", "empty")]


def recipe_of(sheet: Sheet, how: HowRead, choices: Choices) -> Recipe:
    """The recipe of `by_hand`, without a candidate.

    Parameters
    ----------
    sheet : Sheet
    how : dict
        How the table is read.
    choices : Choices

    Raises
    ------
    MismatchFaults
        If something is wanted that cannot be.
    """
    faults = faults_in(sheet, choices)
    fields = _fields(sheet, choices)
    if faults:
        raise MismatchFaults(faults)
    target, time = sheet.column(sheet.target), time_of(sheet, choices)
    return {
        "table": how,
        "target": {
            "column": sheet.target,
            "kind": sheet.answer,
            "decimal": target.decimal,
            "gaps": target.stand_ins,
            "unit": target.unit,
            "spelled": target.spelled,
            "classes": sorted(one.value for one in sheet.classes),
        },
        "fields": fields,
        "group": group_of(sheet, choices) or None,
        "time": {"column": time, "day_first": sheet.column(time).day_first} if time else None,
        "alike": [one.name for one in sheet.columns] if drops_duplicates(sheet, choices) else [],
        "kept_back": KEPT_BACK,
        "seed": SEED,
    }


def _fields(sheet: Sheet, choices: Choices) -> list[dict[str, Any]]:
    others = {one.name for one in sheet.columns}
    time = time_of(sheet, choices)
    fields = [_field(sheet.column(name), choices, others, time) for name in used_columns(sheet, choices)]
    return [one for one in fields if one["kind"] != "date" or one["parts"]]


def group_of(sheet: Sheet, choices: Choices) -> str:
    """The column whose rows stay together; empty for none.

    Parameters
    ----------
    sheet : Sheet
    choices : Choices
    """
    return choices.group if choices.group is not None else sheet.group


def time_of(sheet: Sheet, choices: Choices) -> str:
    """The column of dates by which rows are parted; empty for none.

    Parameters
    ----------
    sheet : Sheet
    choices : Choices
    """
    return choices.time if choices.time is not None else sheet.time


def drops_duplicates(sheet: Sheet, choices: Choices) -> bool:
    """Whether rows that are the same in every column count once.

    Parameters
    ----------
    sheet : Sheet
    choices : Choices
    """
    return choices.duplicates == "drop" or (not choices.duplicates and sheet.drops_duplicates)


def _free_name(name: str, others: set[str]) -> str:
    """A name that no column has."""
    while name in others:
        name += "_"
    return name


def year_counts(look: ColumnLook) -> bool:
    """Whether a date's year is told to the model where rows are parted by it: what happens changes from year to year.
    Elsewhere it is not, as a page answers for years that nothing was learned of.

    Parameters
    ----------
    look : ColumnLook
    """
    return look.low is not None and look.high is not None and look.high - look.low >= SHORTEST_TREND_SECONDS


def _field(look: ColumnLook, choices: Choices, others: set[str], time: str) -> dict[str, Any]:
    kind = choices.kinds.get(look.name) or {"yes_no": "category", "identifier": _named_kind(look)}.get(
        look.kind, look.kind
    )
    field: dict[str, Any] = {"column": look.name, "kind": kind}
    if kind == "number":
        return {**field, "decimal": look.decimal, "gaps": look.stand_ins, "unit": look.unit}
    if kind == "category":
        return {**field, "spelled": look.spelled}
    if kind == "date":
        parts = [*look.parts, *(["year"] if look.name == time and year_counts(look) else [])]
        named = [_free_name(f"{look.name}_{part}", others) for part in parts]
        return {**field, "day_first": look.day_first, "parts": parts, "named": named}
    return field


def _named_kind(look: ColumnLook) -> str:
    return "number" if "number" in look.may_be else "category"


def faults_in(sheet: Sheet, choices: Choices) -> list[Fault]:
    """What of an author's choices cannot be, each in a sentence.

    Parameters
    ----------
    sheet : Sheet
    choices : Choices
    """
    names = {one.name: one for one in sheet.columns}
    named = [("drop", name) for name in choices.drop] + [("keep", name) for name in choices.keep]
    named += [("kinds", name) for name in choices.kinds]
    named += [(part, name) for part, name in (("group", choices.group), ("time", choices.time)) if name]
    faults = [Fault(part, f"The table has no column `{name[:80]}`.") for part, name in named if name not in names]
    faults += [
        Fault("keep", f"`{name}` is what is to be predicted; a model cannot be told it.")
        for name in choices.keep
        if name == sheet.target
    ]
    for name, kind in choices.kinds.items():
        look = names.get(name)
        if look is None or look.kind == kind:
            continue
        if kind == "number" and look.kind not in ("number", "yes_no") and "number" not in look.may_be:
            faults.append(Fault("kinds", f"`{name}` holds no numbers; it has values as {_quoted(look)}."))
        if kind == "date" and look.kind != "date":
            faults.append(Fault("kinds", f"`{name}` holds no dates; it has values as {_quoted(look)}."))
    if choices.time and choices.time in names and names[choices.time].kind != "date":
        faults.append(Fault("time", f"`{choices.time}` holds no dates; rows cannot be put in order by it."))
    if group_of(sheet, choices) == sheet.target:
        faults.append(
            Fault("group", f"`{sheet.target}` is what is to be predicted; rows cannot be kept together by it.")
        )
    if not faults and not _fields(sheet, choices):
        message = (
            f"No column is left to tell `{sheet.target}` from. Keep one that was pointed out, or bring more columns."
        )
        faults.append(Fault("drop", message))
    return faults + _questions(sheet, choices)


def _questions(sheet: Sheet, choices: Choices) -> list[Fault]:
    """What can be read in two ways, of the columns that are used."""
    used = {*used_columns(sheet, choices), sheet.target, time_of(sheet, choices)}
    asked = []
    for one in sheet.questions:
        if one.column not in used:
            continue
        if one.about == "numbers":
            ways: tuple[str, ...] = ("1,234.5", "1.234,5")
            text = f'`{one.column}` can be read in two ways: "{one.example}" may be grouped or have decimals.'
        else:
            ways, text = (
                ("day", "month"),
                f'In `{one.column}`, "{one.example}" may begin with the day or with the month.',
            )
        asked.append(Fault(one.about, f"{text} Say which.", one.about, ways))
    return asked


def _quoted(look: ColumnLook) -> str:
    return " and ".join(f'"{example[:30]}"' for example in look.examples[:2])
