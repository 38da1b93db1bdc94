"""A function with what came beside it: its fields from its signature and its table, its answer from what it returns."""

from typing import TYPE_CHECKING

from ..answers import AnyAnswerSetting, ClassSetting, NumberSetting, NumbersSetting, TableSetting, TextSetting
from ..contract.compilation import CompiledReport
from ..contract.inspection import Inspection
from ..contract.jobs import OpenFile
from ..contract.kept_rows import KeptRows
from ..errors import Fault, MismatchFaults
from ..fields.inference import columns_of, infer_fields, match_columns
from ..fields.kinds import AnyField
from ..formats.python.adapter import FunctionModel
from ..formats.python.pictures import FunctionPictureModel
from ..formats.python.signature import CALENDAR, HINTS, Signature
from ..formats.python.stand_in import stand_in_table
from ..tables.reading import TableRead
from .dated_columns import count_dates
from .inspection import plain_row
from .outcomes import named_targets
from .stated_fields import stated_field

if TYPE_CHECKING:
    import pandas as pd
    from typing_extensions import TypeIs

    from ..formats.adapter import ModelAdapter
    from ..formats.picture_input import PictureModel

__all__ = [
    "as_stated",
    "count_stated_dates",
    "inspect_written",
    "is_function",
    "table_of_its_own",
    "without_rows",
]

NO_COMPILED_FORM = "A function is code, and has no compiled form."
KINDS = {
    "class": "the probabilities of classes, of which one comes true",
    "labels": "labels, each of which may apply by itself",
    "numbers": "several numbers",
    "number": "one number",
}


def is_function(model: "ModelAdapter | PictureModel") -> "TypeIs[FunctionModel | FunctionPictureModel]":
    """Whether it is one of a Python file.

    Parameters
    ----------
    model : ModelAdapter or PictureModel
    """
    return isinstance(model, FunctionModel | FunctionPictureModel)


def table_of_its_own(model: FunctionModel | FunctionPictureModel) -> "pd.DataFrame":
    """Cases in the ranges that its signature states, where no table came with it.

    Parameters
    ----------
    model : FunctionModel or FunctionPictureModel

    Raises
    ------
    MismatchFaults
        If the signature does not say enough.
    """
    signature = _signature(model)
    if signature.form in ("table", "array"):
        takes = f"`{signature.function}` takes many cases as one {signature.form}, which says nothing of its columns."
        raise MismatchFaults([Fault("reference", f"{takes} Bring a reference table with such rows.")])
    if signature.without_hints:
        names = ", ".join(f"`{name}`" for name in signature.without_hints[:8])
        one = signature.without_hints[0]
        message = (
            f"Nothing says what {names} of `{signature.function}` may be. Add type hints, as `{one}: float`, or bring "
            f"a reference table. {HINTS}"
        )
        raise MismatchFaults([Fault("function", message)])
    return stand_in_table(signature)


def _signature(model: FunctionModel | FunctionPictureModel) -> Signature:
    return model.signature if isinstance(model, FunctionModel) else model.function.signature


def count_stated_dates(model: FunctionModel, read: TableRead) -> None:
    """Count the dates of a table where the function takes dates.

    Parameters
    ----------
    model : FunctionModel
    read : TableRead
        Its columns are replaced.

    Raises
    ------
    MismatchFaults
        If one cannot be read.
    """
    takes = {one.name: one.takes for one in _signature(model).parameters}
    dates = [name for name, one in takes.items() if one is not None and one.kind == "date"]
    count_dates(read, [name for name in dates if name in read.table.columns], {}, CALENDAR)


def inspect_written(model: FunctionModel, read: TableRead, *, told: OpenFile) -> Inspection:
    """The inspection of a function that answers with a text or a table: its fields, and nothing that is counted.

    Parameters
    ----------
    model : FunctionModel
        One that has learnt what it answers.
    read : TableRead
        The reference table, or cases in its place.
    told : OpenFile
        What its author knows better.
    """
    assert model.setting is not None, "only what is written comes here"
    table, found = read.table, model.found
    targets = named_targets(told.target, [table])
    names = match_columns(table, found.features, n_features=found.n_features, targets=targets)
    return Inspection(
        found=found,
        compiled=CompiledReport(adopted=False, obstacle=NO_COMPILED_FORM),
        target=None,
        columns=columns_of(table, names),
        ignored=[str(name) for name in table.columns if name not in names],
        fields=infer_fields(table, names, model.column_uses(names), takes_gaps=False),
        answer=model.setting,
        notes=list(read.notes),
        n_reference_rows=len(table),
        warm_up_row=plain_row(table, names),
    )


# --- what its author has stated ------------------------------------------------------------------------------------


def as_stated(inspection: Inspection, model: FunctionModel | FunctionPictureModel, *, has_table: bool) -> Inspection:
    """The inspection with what the signature and the docstring say: ranges, options, units, labels, words.

    Parameters
    ----------
    inspection : Inspection
        As it was concluded from values.
    model : FunctionModel or FunctionPictureModel
    has_table : bool
        Whether those are a table's.
    """
    signature = _signature(model)
    fields: list[AnyField] = []
    for field in inspection.fields:
        parameter = signature.parameter(field.name)
        fields.append(field if parameter is None else stated_field(field, parameter, has_table=has_table))
    notes = list(inspection.notes)
    unsaid = [one.label for one in fields if one.kind == "number" and one.seen.source == "none" and not one.calendar]
    if unsaid:
        names = ", ".join(unsaid[:6]) + (" …" if len(unsaid) > 6 else "")
        notes.append(
            f"Nothing says from where to where {names} may go; the control is a guess. Say so with "
            "`Annotated[float, (low, high)]`, bring a reference table, or set it under Inputs."
        )
    if inspection.found.task_is_guessed:
        notes.append(
            f"From what the function answered it was taken for {KINDS[inspection.found.task]}. If it is something "
            "else, say so under Model."
        )
    # What a few hundred cases did not show may still matter; what the code never reads does not.
    unread = [one.name for one in signature.parameters if not one.is_read]
    return inspection.model_copy(
        update={
            "fields": fields,
            "answer": _stated_answer(inspection.answer, model, inspection),
            "notes": notes,
            "title": signature.doc.title or _capital(signature.function.replace("_", " ").strip()),
            "description": signature.doc.description,
            "unused": [name for name in unread if any(field.name == name for field in fields)],
        }
    )


def _stated_answer(
    setting: AnyAnswerSetting, model: FunctionModel | FunctionPictureModel, inspection: Inspection
) -> AnyAnswerSetting:
    """With the units and names that the annotation of the answer states."""
    returned = model.returned if isinstance(model, FunctionModel) else model.function.returned
    if isinstance(setting, TextSetting | TableSetting):
        said = returned.label or returned.help
        return setting.model_copy(update={"name": _capital(said)}) if 0 < len(said) <= 60 else setting
    if isinstance(setting, NumberSetting):
        named = returned.label or (_capital(returned.help) if 0 < len(returned.help) <= 60 else "")
        is_named = inspection.target is not None
        return setting.model_copy(
            update={
                "unit": returned.units[0] if returned.units else "",
                "name": setting.name if is_named or not named else named,
            }
        )
    if isinstance(setting, NumbersSetting) and len(returned.units) == len(setting.values):
        pairs = zip(setting.values, returned.units, strict=True)
        return setting.model_copy(update={"values": [one.model_copy(update={"unit": unit}) for one, unit in pairs]})
    if isinstance(setting, ClassSetting) and [one.name for one in setting.classes] == ["no", "yes"]:
        words = {"no": "No", "yes": "Yes"}
        classes = [one.model_copy(update={"headline": words[one.name]}) for one in setting.classes]
        return setting.model_copy(update={"classes": classes})
    return setting


def _capital(words: str) -> str:
    return (words[:1].upper() + words[1:]).rstrip(".")


def without_rows(inspection: Inspection) -> tuple[Inspection, KeptRows]:
    """The inspection of a function that came without a table: nothing was counted on anything real.

    Parameters
    ----------
    inspection : Inspection
    """
    return inspection.model_copy(update={"n_reference_rows": 0}), KeptRows(columns={})
