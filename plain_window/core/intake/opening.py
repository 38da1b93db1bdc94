"""From a model's file and its tables to what they amount to: the whole of the intake, in order."""

from dataclasses import replace
from typing import BinaryIO, cast

import pandas as pd

from ..answers.in_picture import IN_PICTURE
from ..contract.jobs import OpenFile
from ..contract.kept_rows import KeptRows
from ..contract.model_facts import OutputKind
from ..errors import Fault, Faults, MismatchFaults, ModelNotOpened, TableNotRead
from ..formats.adapter import ModelAdapter
from ..formats.format import Beside
from ..formats.network_files import network_kind
from ..formats.networks import conversion_words, open_network
from ..formats.opening import open_model
from ..formats.own_libraries import GuestLine
from ..formats.picture_input import FlatPictureModel, PictureModel
from ..formats.python.adapter import FunctionModel
from ..formats.python.pictures import FunctionPictureModel
from ..formats.recognition import recognised
from ..pictures.labelled import is_zip
from ..plan.container import read_plan, write_plan
from ..plan.engine import CompiledModel
from ..tables.reading import TableRead, read_table
from .evaluation import evaluate_model
from .function_learning import few_enough, learn_from_pictures, learn_from_table
from .functions import (
    as_stated,
    count_stated_dates,
    inspect_written,
    is_function,
    table_of_its_own,
    without_rows,
)
from .inspection import inspect_model
from .picture_inspection import inspect_picture_model
from .pixel_compiling import PixelCompiler
from .reopening import Files, Intake
from .without_table import (
    as_picture_model,
    like_pixels,
    looks_at_pictures,
    may_see_pictures,
    stand_in_lines,
    without_lines,
)

__all__ = ["take_in"]


def take_in(files: Files, told: OpenFile, line: GuestLine | None = None) -> Intake:
    """Open a model and put it together with its tables.

    Parameters
    ----------
    files : mapping of str to binary file
        `model`, and where there are any `preprocessor`, `reference` and `known`.
    told : OpenFile
        What its author knows better than what would be concluded.
    line : GuestLine, optional
        To a process with libraries of its own.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    MismatchFaults
        With one fault for everything that does not fit.
    """
    try:
        return _taken_in(files, told, line)
    except (ModelNotOpened, Faults, MemoryError):
        raise
    except Exception as error:
        # An object that another version saved may open and yet not be what it was.
        later = _of_another_version(files["model"], error) if line is None else None
        raise later or error from error


def _of_another_version(file: BinaryIO, error: Exception) -> ModelNotOpened | None:
    if recognised(file)[0].open_object is None:
        return None
    from ..formats.sklearn.pickled import later_failure

    return later_failure(file, error)


def _taken_in(files: Files, told: OpenFile, line: GuestLine | None) -> Intake:
    if told.known_group is not None and ("known" not in files or is_zip(files["known"])):
        message = "`known_group` names a column of a table of known cases, and none came. Send one as `known`."
        raise MismatchFaults([Fault("known_group", message)])
    kind = network_kind(files["model"]) if line is not None else None
    if line is not None and kind is not None:
        return _of_network(files, told, line, kind)
    pictures = next((files[name] for name in ("known", "reference") if name in files and is_zip(files[name])), None)
    has_table = any(name in files and files[name] is not pictures for name in ("reference", "known"))
    beside = Beside(files.get("beside"), told.function_name, has_table=has_table, line=line)
    model = open_model(files["model"], files.get("preprocessor"), beside)
    if is_function(model):
        return _of_function(model, files, pictures, told)
    return _with_tables(model, files, pictures, told)


def _of_network(files: Files, told: OpenFile, line: GuestLine, kind: str) -> Intake:
    """A network as ONNX, where that says the same as the original on all that it is asked about here; else as it is."""
    pictures = next((files[name] for name in ("known", "reference") if name in files and is_zip(files[name])), None)
    model, conversion = open_network(line, kind, told.function_name)
    intake = _with_tables(model, files, pictures, told)
    if conversion.content is not None and not conversion.is_same:
        reason = f"as ONNX its outputs differ by up to {conversion.largest_difference:.2g}"
        model, conversion = open_network(line, kind, told.function_name, as_it_is=True)
        conversion.obstacle = reason
        intake = _with_tables(model, files, pictures, told)
    has_cases = "reference" in files or "known" in files
    intake.inspection.notes.insert(0, conversion_words(conversion, has_cases=has_cases))
    obstacle = f"{conversion.library} networks have no compiled form; "
    served = "onnxruntime serves it." if conversion.content is not None else "its own libraries serve it."
    intake.inspection.compiled.obstacle = obstacle + served
    return replace(intake, converted=conversion.content)


def _with_tables(model: ModelAdapter | PictureModel, files: Files, pictures: BinaryIO | None, told: OpenFile) -> Intake:
    """What a model and the tables or pictures that came with it amount to."""
    reference = None
    if "reference" in files and (files["reference"] is not pictures or not may_see_pictures(model)):
        reference = _read(files, "reference", "the reference table", told)
    lines = stand_in_lines(model) if reference is None and not looks_at_pictures(model) else None
    if reference is None and lines is None:
        model = as_picture_model(model)
    compiler = PixelCompiler(model) if isinstance(model, FlatPictureModel) else None
    if compiler is not None:
        compiler.take_scale()
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
        if compiler is None:
            return Intake(model, inspection, kept_rows)
        content, inspection.compiled = compiler.compiled(pictures)
        return Intake(model, inspection, kept_rows, content)
    if pictures is not None:
        raise MismatchFaults([Fault("known", "The model takes rows of a table; known cases must be a table too.")])
    if told.answer_kind in IN_PICTURE:
        raise MismatchFaults([Fault("answer", "The model takes rows of a table; its answer lies in no picture.")])
    known = _read(files, "known", "the table of known cases", told) if "known" in files else None
    return _of_table(model, reference, lines, known, told)


def _of_function(
    model: FunctionModel | FunctionPictureModel,
    files: Files,
    pictures: BinaryIO | None,
    told: OpenFile,
) -> Intake:
    """A function with what came beside it."""
    needs_table = isinstance(model, FunctionModel) or bool(model.beside)
    reference = None
    if needs_table and "reference" in files and files["reference"] is not pictures:
        reference = _read(files, "reference", "the reference table", told)
    elif needs_table and "known" in files and files["known"] is not pictures:
        reference = _read(files, "known", "the table of known cases", told)
        reference.notes.append("No reference table came with the function; the known cases stand in for it.")
    cases = reference.table if reference is not None else (table_of_its_own(model) if needs_table else None)
    if isinstance(model, FunctionPictureModel):
        learn_from_pictures(model, cases, pictures, told)
        inspection, kept_rows = inspect_picture_model(
            model,
            cases,
            known=pictures,
            preparations=told.preparations,
            kind=told.answer_kind,
            target=told.target,
            labels=told.labels,
        )
        kept = kept_rows if reference is not None or not needs_table else KeptRows(columns={})
        return Intake(model, as_stated(inspection, model, has_table=reference is not None), kept)
    if pictures is not None:
        raise MismatchFaults([Fault("known", "The function takes no picture; known cases must be a table.")])
    assert cases is not None, "a function of values has cases"
    known = _read(files, "known", "the table of known cases", told) if "known" in files else None
    for read in (reference, known):
        if read is not None:
            count_stated_dates(model, read)
    cases = cases if reference is None else reference.table
    cases, notes = learn_from_table(model, cases, told=told, is_own=reference is None)
    if reference is not None:
        reference.table = cases
    if known is not None:
        notes += few_enough(model, known)
    if model.written is not None:
        read = reference or TableRead(cases, "the stated ranges")
        inspection = inspect_written(model, read, told=told)
        if reference is None:
            inspection = inspection.model_copy(update={"n_reference_rows": 0})
        return Intake(model, as_stated(inspection, model, has_table=reference is not None), KeptRows(columns={}))
    inspection, _ = inspect_model(
        model,
        cases if reference is None else reference,
        known_cases=known,
        kind=cast("OutputKind | None", told.answer_kind),
        target=told.target,
        labels=told.labels,
        dates=told.dates,
    )
    if reference is None:
        inspection, kept_rows = without_rows(inspection)
    else:
        inspection, kept_rows = evaluate_model(
            model, reference.table, inspection, known and known.table, None, told.known_group
        )
    inspection.notes += notes
    return Intake(model, as_stated(inspection, model, has_table=reference is not None), kept_rows)


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
    inspection.notes += like_pixels([column.name for column in inspection.columns])
    content = compiled = None
    if plan is not None:
        content = write_plan(plan)
        compiled = CompiledModel(read_plan(content))
    if reference is None:
        inspection, kept_rows = without_lines(inspection)
    else:
        inspection, kept_rows = evaluate_model(
            model, reference.table, inspection, known and known.table, compiled, told.known_group
        )
    return Intake(model, inspection, kept_rows, content)


def _read(files: Files, part: str, name: str, told: OpenFile) -> TableRead:
    files[part].seek(0)
    try:
        return read_table(files[part], name=name, numbers=told.numbers)
    except TableNotRead as error:
        raise MismatchFaults([Fault(part, str(error))]) from error
