"""A column's values as a field takes them, with what is wrong and what is unusual in which row.

Whatever stands often is looked at once: each distinct text is read as one visitor's value is (`fields.checking`), so
that a table is refused and noted by the same rules in the same words.
"""

import contextlib
import datetime as dt
import re
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import pyarrow as pa
from pyarrow import compute as pc

from ..contract.table_cases import ColumnMatch
from ..contract.values import Value
from ..fields.checking import check_value, usual_range
from ..fields.kinds import AnyField, ChoiceField, NumberField, TextField, YesNoField
from ..fields.pictures import NotAccepted
from ..tables.date_words import date_in
from ..tables.number_words import number_of, parted
from .units import are_of_one_kind, factor_between, unit_in

__all__ = ["GAPS", "CellsRead", "bare_number", "read_cells"]

# What reading a plain CSV takes for a gap in training scripts.
GAPS = frozenset(
    (
        *("", "#N/A", "#N/A N/A", "#NA", "-1.#IND", "-1.#QNAN", "-NaN", "-nan", "1.#IND", "1.#QNAN"),
        *("<NA>", "N/A", "NA", "NULL", "NaN", "None", "n/a", "nan", "null"),
    )
)
# Digits in front, and behind them something that may be a unit; percent signs and currencies are read with the number.
WITH_UNIT = re.compile(r"(.*[\d.,])\s*([^\W\d_]{1,5}|°[CF]|‰)")
YES = frozenset({"yes", "true", "y", "t", "x"})
NO = frozenset({"no", "false", "n", "f"})


@dataclass
class CellsRead:
    """A field's values by row. Exactly one of the three forms holds them.

    Parameters
    ----------
    numbers : ndarray of shape (n_rows,), optional
        NaN for a gap.
    codes, values : ndarray of int32 of shape (n_rows,) and list, optional
        Places in a list of few values.
    texts : list of str or None, optional
    faults, notes : ndarray of int32 of shape (n_rows,), optional
        Of each row the place of its sentence among `sentences`, −1 for none.
    """

    numbers: np.ndarray | None = None
    codes: np.ndarray | None = None
    values: list[Value] = field(default_factory=list)
    texts: list[str | None] | None = None
    faults: np.ndarray | None = None
    notes: np.ndarray | None = None
    sentences: list[str] = field(default_factory=list)


def read_cells(one: AnyField, texts: pa.Array, typed: pa.Array | None, match: ColumnMatch) -> CellsRead:
    """Read one field's column.

    Parameters
    ----------
    one : field
        Neither a picture nor a drawing.
    texts : pyarrow.Array of string
        The column as it is written.
    typed : pyarrow.Array, optional
        The column where the file says what it holds.
    match : ColumnMatch
        How it is to be read.
    """
    if isinstance(one, NumberField) and not one.calendar:
        return _numbers(one, texts, typed, match)
    if isinstance(one, TextField):
        return _texts(one, texts)
    return _few_values(one, texts, match)


def _numbers(one: NumberField, texts: pa.Array, typed: pa.Array | None, match: ColumnMatch) -> CellsRead:
    n_rows = len(texts)
    values = np.full(n_rows, np.nan)
    is_odd = np.zeros(n_rows, dtype=bool)
    if typed is not None and _is_number(typed.type):
        values = _as_floats(typed) * match.factor
        # A gap in a Parquet file is one, and so is what is no number in it.
        is_gap = np.isnan(values)
    else:
        trimmed = pc.utf8_trim_whitespace(texts)
        is_gap = _as_bools(pc.is_in(trimmed, value_set=pa.array(sorted(GAPS)))) | _as_bools(pc.is_null(trimmed))
        values, is_odd = _plain_numbers(one, trimmed, is_gap, match)
    out = CellsRead(numbers=values)
    wrong = is_odd | (is_gap & (not one.optional)) | np.isinf(values)
    low, high = usual_range(one)
    with np.errstate(invalid="ignore"):
        unusual = ~is_gap & ~is_odd & ((values < low) | (values > high))
    if wrong.any() or unusual.any():
        _look_closer(one, texts, out, match, np.flatnonzero(wrong | unusual))
    return out


def _is_number(type_: pa.DataType) -> bool:
    return bool(pa.types.is_integer(type_) or pa.types.is_floating(type_) or pa.types.is_decimal(type_))


def _as_floats(column: pa.Array) -> np.ndarray:
    out: np.ndarray = pc.cast(column, pa.float64(), safe=False).to_numpy(zero_copy_only=False).astype("float64")
    return out


def _as_bools(column: pa.Array) -> np.ndarray:
    return np.asarray(column.to_numpy(zero_copy_only=False), dtype=bool)


def _plain_numbers(
    one: NumberField, trimmed: pa.Array, is_gap: np.ndarray, match: ColumnMatch
) -> tuple[np.ndarray, np.ndarray]:
    """Numbers where they are written plainly; the rest is read one distinct text at a time."""
    is_odd = np.zeros(len(trimmed), dtype=bool)
    without_gaps = pc.if_else(pa.array(is_gap), None, trimmed)
    if match.numbers != "comma":
        with contextlib.suppress(pa.ArrowInvalid):
            return _as_floats(pc.cast(without_gaps, pa.float64())) * match.factor, is_odd
    encoded = pc.dictionary_encode(without_gaps)
    distinct = [_number_in(text, match, one.unit) for text in encoded.dictionary.to_pylist()]
    known = np.array([np.nan if value is None else value for value in distinct] or [np.nan])
    codes = _codes(encoded)
    values = np.where(codes >= 0, known[np.maximum(codes, 0)], np.nan)
    unread = np.array([value is None for value in distinct] or [False])
    return values, (codes >= 0) & unread[np.maximum(codes, 0)]


def bare_number(text: str) -> tuple[str, str]:
    """A number without the unit that is written behind it, and that unit; empty if there is none.

    Parameters
    ----------
    text : str

    Examples
    --------
    >>> bare_number("1240 °C"), bare_number("7,5mm"), bare_number("12 %")
    (('1240', '°C'), ('7,5', 'mm'), ('12 %', ''))
    """
    found = WITH_UNIT.fullmatch(text)
    return (found[1], found[2]) if found and unit_in(f" {found[2]}") else (text, "")


def _number_in(text: str, match: ColumnMatch, wanted: str = "") -> float | None:
    """The number that a cell holds, in the unit that is wanted; None if it holds none, or one of another kind."""
    if match.numbers != "comma":
        with contextlib.suppress(ValueError):
            # Not "1_000", which only Python reads as a number.
            return float(text) * match.factor if "_" not in text else None
    bare, unit = bare_number(text)
    part = parted(bare)
    number = None if part is None else number_of(part, match.numbers)
    if number is None or not unit:
        return None if number is None else number * match.factor
    # What the cell says of itself goes before what stands over its column.
    return number * factor_between(unit, wanted) if are_of_one_kind(unit, wanted) else None


def _codes(encoded: pa.DictionaryArray) -> np.ndarray:
    codes: np.ndarray = pc.fill_null(encoded.indices, -1).to_numpy(zero_copy_only=False).astype("int32")
    return codes


def _look_closer(one: AnyField, texts: pa.Array, out: CellsRead, match: ColumnMatch, rows: np.ndarray) -> None:
    """What is wrong or unusual in these rows, once for each distinct text."""
    encoded = pc.dictionary_encode(pc.fill_null(texts.take(pa.array(rows)), ""))
    faults, notes = np.full(len(texts), -1, dtype="int32"), np.full(len(texts), -1, dtype="int32")
    fault_of, note_of = [], []
    for text in encoded.dictionary.to_pylist():
        _, fault, note = _checked(one, text, match)
        fault_of.append(_place(out.sentences, fault))
        note_of.append(_place(out.sentences, note))
    codes = _codes(encoded)
    faults[rows], notes[rows] = np.array(fault_of, dtype="int32")[codes], np.array(note_of, dtype="int32")[codes]
    out.faults, out.notes = faults, notes


def _place(sentences: list[str], sentence: str) -> int:
    if not sentence:
        return -1
    sentences.append(sentence)
    return len(sentences) - 1


def _checked(one: AnyField, text: str, match: ColumnMatch) -> tuple[Value, str, str]:
    """A cell's value as the model knows it, what is wrong with it, and what is unusual."""
    try:
        value, note = check_value(one, _entered(one, text, match))
    except NotAccepted as fault:
        return None, f"{one.label} {fault}", ""
    return value, "", note


def _entered(one: AnyField, text: str, match: ColumnMatch) -> Any:
    """A cell as a visitor would have entered it."""
    bare = text.strip()
    if isinstance(one, ChoiceField):
        for option in one.options:
            if bare == str(option.value):
                return option.value
        for option in one.options:
            if bare == option.label:
                return option.value
        folded = [option.value for option in one.options if bare.casefold() == str(option.value).casefold()]
        if bare and len(folded) == 1:
            return folded[0]
        return None if bare in GAPS else bare
    if isinstance(one, YesNoField):
        for value in (one.no, one.yes):
            if bare == str(value):
                return value
        if bare.casefold() in YES | NO:
            return bare.casefold() in YES
        number = _number_in(bare, match) if bare not in GAPS else None
        return None if bare in GAPS else bare if number is None else number
    assert isinstance(one, NumberField), "texts are taken as they are"
    if bare in GAPS:
        return None
    if one.calendar:
        date = date_in(bare, day_first=match.day_first)
        return date.isoformat() if isinstance(date, dt.date) else bare
    number = _number_in(bare, match, one.unit)
    return bare if number is None else number


def _few_values(one: AnyField, texts: pa.Array, match: ColumnMatch) -> CellsRead:
    encoded = pc.dictionary_encode(pc.fill_null(texts, ""))
    checked = [_checked(one, text, match) for text in encoded.dictionary.to_pylist()]
    codes = _codes(encoded)
    out = CellsRead()
    if isinstance(one, NumberField):
        known = np.array([np.nan if value is None else value for value, _, _ in checked] or [np.nan], dtype="float64")
        out.numbers = known[codes]
    else:
        out.codes, out.values = codes, [value for value, _, _ in checked]
    fault_of = [_place(out.sentences, fault) for _, fault, _ in checked]
    note_of = [_place(out.sentences, note) for _, _, note in checked]
    if out.sentences:
        out.faults = np.array(fault_of, dtype="int32")[codes]
        out.notes = np.array(note_of, dtype="int32")[codes]
    return out


def _texts(one: TextField, texts: pa.Array) -> CellsRead:
    out = CellsRead(texts=texts.to_pylist())
    is_long = _as_bools(pc.greater(pc.utf8_length(pc.fill_null(texts, "")), one.max_length))
    is_empty = _as_bools(pc.equal(pc.utf8_trim_whitespace(pc.fill_null(texts, "")), ""))
    wrong = is_long | is_empty
    if not wrong.any():
        return out
    faults = np.full(len(texts), -1, dtype="int32")
    for at in np.flatnonzero(wrong):
        text = out.texts[at] if out.texts else None
        if not (text or "").strip():
            out.texts[at] = None  # type: ignore[index]
            entered = None
        else:
            entered = text
        try:
            check_value(one, entered)
        except NotAccepted as fault:
            faults[at] = _place(out.sentences, f"{one.label} {fault}")
    out.faults = faults
    return out
