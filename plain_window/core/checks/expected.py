"""Outputs that the author's notebook gave, put beside what the model answers here."""

import contextlib
import difflib
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

import numpy as np

from ..answers import ClassSetting, LabelsSetting, NumberSetting, NumbersSetting
from ..answers.deciding import decided_class
from ..answers.kinds import AnyAnswerSetting
from ..answers.written import WRITTEN
from ..contract.values import Row, Value
from ..documents import DemoDocument
from ..errors import Fault, InputFaults, MismatchFaults
from ..fields import NumberField, YesNoField
from ..fields.checking import check_inputs
from ..fields.kinds import AnyField

__all__ = ["ExpectedOutputs", "ExpectedUnfit", "Mismatch", "compare_expected", "expected_outputs"]

PREDICTION = "prediction"
NAMED = 8
# Numbers that agree to so many digits are one number; what a table has fewer of is held to what it has.
RELATIVE = 1e-6
# Shares that are all 0 or 1 were not rounded to whole ones.
FEWEST_OF_SHARES = 2


@dataclass(frozen=True)
class ExpectedOutputs:
    """Cases as the model is given them, with what the author's notebook made of each.

    Parameters
    ----------
    rows : list of Row
    places : list of int
        Where in the author's table each stands, from 0.
    inputs : list of dict
        The same cases as a page is filled in with.
    outputs : dict of str to ndarray of shape (n_rows,)
        Numbers by the output's column, by its place among the model's outputs.
    names : ndarray of str or None, shape (n_rows,)
        The class each was given, where the table has the class.
    unasked : list of (int, str)
        Places that no case could be made of, and why.
    decimals : dict of str to int
        To how many decimals each column of numbers is written.
    total : int
        Rows of the whole table; of a long one only the first are here.
    """

    rows: list[Row]
    places: list[int]
    inputs: list[dict[str, Value]]
    outputs: dict[tuple[str, int], np.ndarray]
    names: list[str | None] | None
    unasked: list[tuple[int, str]]
    decimals: dict[str, int]
    total: int = 0

    @property
    def columns(self) -> list[str]:
        """The table's columns of outputs."""
        return [*([PREDICTION] if self.names is not None else []), *(name for name, _ in self.outputs)]


@dataclass(frozen=True)
class ExpectedUnfit:
    """Outputs were brought, and cannot be compared any more; `why` is a sentence."""

    why: str


@dataclass(frozen=True)
class Mismatch:
    """One value that is not the same here: its place among the rows, its column, and both values."""

    at: int
    column: str
    expected: str | float
    answered: str | float


def expected_outputs(
    columns: Mapping[str, Sequence[Value]], document: DemoDocument, *, total: int | None = None
) -> ExpectedOutputs:
    """A table of inputs and outputs as cases with what is expected of each.

    Inputs are found by a field's name, or by its label. Outputs are a column `prediction`, or one a class, label or
    number by its name.

    Parameters
    ----------
    columns : mapping of str to sequence
        The table.
    document : DemoDocument
        What the demo says of itself.
    total : int, optional
        How many rows the whole table has, where these are its first.

    Raises
    ------
    MismatchFaults
        With one fault for every field that has no column, or where there is no column of outputs.
    """
    if document.has_pictures:
        detail = "Pictures do not fit into a table; compare a few by hand on the page."
        raise MismatchFaults([Fault("expected", detail)])
    if document.answer.kind in WRITTEN:
        detail = "A text or a table of an answer does not fit into a table's column; compare a few by hand on the page."
        raise MismatchFaults([Fault("expected", detail)])
    found = _output_columns(columns, document.answer)
    # What visitors do not see has values of its own in the notebook.
    fields = [field.model_copy(update={"hidden": False}) for field in document.fields]
    inputs = _input_columns(columns, fields, {name for name, _ in found})
    rows: list[Row] = []
    entered: list[dict[str, Value]] = []
    places: list[int] = []
    unasked: list[tuple[int, str]] = []
    for at in range(len(next(iter(columns.values()), []))):
        case = {field.name: _entered(field, columns[column][at]) for field, column in inputs}
        try:
            rows.append(dict(check_inputs(fields, case).values))
        except InputFaults as error:
            unasked.append((at, error.faults[0].message))
            continue
        entered.append(case)
        places.append(at)
    names = None
    if PREDICTION in columns and isinstance(document.answer, ClassSetting):
        names = [_class_name(document.answer, columns[PREDICTION][at]) for at in places]
    numbers = {
        (name, output): np.array([_number(columns[name][at]) for at in places], dtype="float64")
        for name, output in found
        if output >= 0
    }
    fewest = 0 if isinstance(document.answer, NumberSetting | NumbersSetting) else FEWEST_OF_SHARES
    decimals = {name: max(fewest, _decimals(values)) for (name, _), values in numbers.items()}
    n_all = len(rows) + len(unasked) if total is None else total
    return ExpectedOutputs(rows, places, entered, numbers, names, unasked, decimals, n_all)


def _output_columns(columns: Mapping[str, Sequence[Value]], setting: AnyAnswerSetting) -> list[tuple[str, int]]:
    """Columns of outputs with their place among the model's; -1 for the class itself.

    Raises
    ------
    MismatchFaults
        If there is none.
    """
    if isinstance(setting, ClassSetting | LabelsSetting):
        wordings = setting.classes if isinstance(setting, ClassSetting) else setting.labels
        names = [wording.name for wording in wordings]
        wanted = f"`{PREDICTION}` with the class, or one a class: " if isinstance(setting, ClassSetting) else ""
    else:
        names = [part.name for part in setting.values] if isinstance(setting, NumbersSetting) else [PREDICTION]
        wanted = ""
    found = [(name, at) for at, name in enumerate(names) if name in columns]
    if isinstance(setting, ClassSetting) and PREDICTION in columns:
        found = [(PREDICTION, -1), *(one for one in found if one[0] != PREDICTION)]
    if isinstance(setting, NumberSetting) and not found and setting.name in columns:
        found = [(setting.name, 0)]
    if not found:
        listed = ", ".join(f"`{name}`" for name in names[:NAMED])
        has = ", ".join(f"`{name}`" for name in list(columns)[:NAMED])
        detail = f"The table has no outputs. It needs a column {wanted}{listed}. It has {has}."
        raise MismatchFaults([Fault("expected", detail)])
    return found


def _input_columns(
    columns: Mapping[str, Sequence[Value]], fields: Sequence[AnyField], outputs: set[str]
) -> list[tuple[AnyField, str]]:
    """Each field with its column.

    Raises
    ------
    MismatchFaults
        With a fault for each that has none.
    """
    found: list[tuple[AnyField, str]] = []
    faults = []
    free = [name for name in columns if name not in outputs]
    for field in fields:
        column = next((name for name in (field.name, field.label) if name in free), None)
        if column is None:
            near = difflib.get_close_matches(field.name, free, n=1)
            way_on = f" Is it `{near[0]}`? Rename it." if near else " Add it: cases are found by their inputs."
            faults.append(Fault(field.name, f"The table has no column `{field.name}`.{way_on}"))
        else:
            found.append((field, column))
    if faults:
        raise MismatchFaults(faults)
    return found


def _entered(field: AnyField, value: Value) -> Value:
    """A value as it would be entered."""
    if isinstance(field, YesNoField) and value is not None and not isinstance(value, bool):
        if value in (field.yes, str(field.yes)):
            return True
        if value in (field.no, str(field.no)):
            return False
    if isinstance(field, NumberField) and field.calendar and isinstance(value, str):
        # As tables write them, perhaps with a time of day.
        return value.strip()[: len("2026-03-01")]
    if isinstance(field, NumberField) and isinstance(value, str):
        # One cell that is no number leaves all of its column as words.
        with contextlib.suppress(ValueError):
            return float(value.strip().replace(",", "."))
    return value


def _class_name(setting: ClassSetting, value: Value) -> str | None:
    """A class by the page's name for it; None for what is none."""
    if isinstance(value, float) and value.is_integer():
        value = int(value)
    for wording in setting.classes:
        if str(value) in (wording.name, wording.label, wording.headline):
            return wording.name
    return None if value is None else str(value)


def _number(value: Value) -> float:
    return float(value) if isinstance(value, int | float) else math.nan


def compare_expected(
    expected: ExpectedOutputs, outputs: np.ndarray, setting: AnyAnswerSetting
) -> tuple[list[Mismatch], float]:
    """What is not the same here, in the table's order, and the largest difference of a number.

    A number is the same if it agrees to as many digits as the table has, or to six.

    Parameters
    ----------
    expected : ExpectedOutputs
    outputs : ndarray of shape (n_rows, n_outputs)
        What the model answers here.
    setting : AnyAnswerSetting
    """
    wrong: list[Mismatch] = []
    largest = 0.0
    if expected.names is not None and isinstance(setting, ClassSetting):
        answered = [setting.classes[decided_class(setting, output)].name for output in outputs.tolist()]
        wrong += [
            Mismatch(at, PREDICTION, own or "nothing", here)
            for at, (own, here) in enumerate(zip(expected.names, answered, strict=True))
            if own != here
        ]
    for (name, place), own in expected.outputs.items():
        here = outputs[:, place]
        away = np.abs(own - here)
        largest = max(largest, float(np.nanmax(away, initial=0.0)))
        # A hair more than half a unit of the last digit: halves are rounded either way.
        allowed = np.maximum(0.5000001 * 10.0 ** -expected.decimals[name], RELATIVE * np.maximum(1.0, np.abs(own)))
        differs = ~(away <= allowed)
        wrong += [Mismatch(int(at), name, float(own[at]), float(here[at])) for at in np.flatnonzero(differs)]
    return sorted(wrong, key=lambda one: one.at), largest


def _decimals(values: np.ndarray) -> int:
    """To how many decimals the numbers of a column are written."""
    known = [value for value in values.tolist() if math.isfinite(value)]
    exponents = (Decimal(repr(value)).normalize().as_tuple().exponent for value in known)
    return max((-exponent for exponent in exponents if isinstance(exponent, int)), default=0)
