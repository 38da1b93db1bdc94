"""From a model's file and its tables to what they amount to: the whole of the intake, in order."""

from typing import cast

import pandas as pd

from ..answers.in_picture import IN_PICTURE
from ..contract.jobs import OpenFile
from ..contract.model_facts import OutputKind
from ..errors import Fault, MismatchFaults, TableNotRead
from ..formats.adapter import ModelAdapter
from ..formats.opening import open_model
from ..pictures.labelled import is_zip
from ..plan.container import read_plan, write_plan
from ..plan.engine import CompiledModel
from ..tables.reading import TableRead, read_table
from .evaluation import evaluate_model
from .inspection import inspect_model
from .picture_inspection import inspect_picture_model
from .reopening import Files, Intake
from .without_table import as_picture_model, looks_at_pictures, may_see_pictures, stand_in_lines, without_lines

__all__ = ["take_in"]


def take_in(files: Files, told: OpenFile) -> Intake:
    """Open a model and put it together with its tables.

    Parameters
    ----------
    files : mapping of str to binary file
        `model`, and where there are any `preprocessor`, `reference` and `known`.
    told : OpenFile
        What its author knows better than what would be concluded.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    MismatchFaults
        With one fault for everything that does not fit.
    """
    model = open_model(files["model"], files.get("preprocessor"))
    pictures = next((files[name] for name in ("known", "reference") if name in files and is_zip(files[name])), None)
    reference = None
    if "reference" in files and (files["reference"] is not pictures or not may_see_pictures(model)):
        reference = _read(files, "reference", "the reference table", told)
    lines = stand_in_lines(model) if reference is None and not looks_at_pictures(model) else None
    if reference is None and lines is None:
        model = as_picture_model(model)
    if looks_at_pictures(model):
        inspection, kept_rows = inspect_picture_model(
            model,
            reference and reference.table,
            known=pictures,
            preparations=told.preparations,
            kind=told.answer_kind,
            target=told.target,
            labels=told.labels,
        )
        return Intake(model, inspection, kept_rows)
    if pictures is not None:
        raise MismatchFaults([Fault("known", "The model takes rows of a table; known cases must be a table too.")])
    if told.answer_kind in IN_PICTURE:
        raise MismatchFaults([Fault("answer", "The model takes rows of a table; its answer lies in no picture.")])
    known = _read(files, "known", "the table of known cases", told) if "known" in files else None
    return _of_table(model, reference, lines, known, told)


def _of_table(
    model: ModelAdapter,
    reference: TableRead | None,
    lines: pd.DataFrame | None,
    known: TableRead | None,
    told: OpenFile,
) -> Intake:
    inspection, plan = inspect_model(
        model,
        lines if reference is None else reference,
        known_cases=known,
        kind=cast("OutputKind | None", told.answer_kind),
        target=told.target,
        labels=told.labels,
        dates=told.dates,
    )
    content = compiled = None
    if plan is not None:
        content = write_plan(plan)
        compiled = CompiledModel(read_plan(content))
    if reference is None:
        inspection, kept_rows = without_lines(inspection)
    else:
        inspection, kept_rows = evaluate_model(model, reference.table, inspection, known and known.table, compiled)
    return Intake(model, inspection, kept_rows, content)


def _read(files: Files, part: str, name: str, told: OpenFile) -> TableRead:
    try:
        return read_table(files[part], name=name, numbers=told.numbers)
    except TableNotRead as error:
        raise MismatchFaults([Fault(part, str(error))]) from error
