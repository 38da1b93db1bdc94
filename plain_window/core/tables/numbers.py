"""Columns of words that are numbers: with grouping, decimal commas, percent signs and currencies.

A number is read where there is one reading of it. "41,006" alone has two, and is never taken for 41.006: other values
of its column, then other columns of its table, may tell which is meant; else the author is asked.
"""

import re
from dataclasses import dataclass
from typing import Literal

import numpy as np
import pandas as pd

__all__ = ["Convention", "Reading", "convention_of", "read_numbers"]

# Whether "1,234.5" or "1.234,5" is how the table writes a number.
Convention = Literal["point", "comma"]

CURRENCIES = r"(?:[€$£¥₹₩₽]|EUR|USD|GBP|CHF|SEK|NOK|DKK|PLN|CZK|JPY|kr\.?|zł|Kč|Fr\.?)"
SPACES = " \u00a0\u202f\u2009"
# What may stand around the digits.
AROUND = re.compile(
    rf"^(?P<front>[(\-−–+]?\s*{CURRENCIES}?\s*[\-−–+]?)(?P<digits>[\d.,'’{SPACES}]*\d[\d.,'’{SPACES}]*(?:[eE][+\-]?\d+)?)(?P<back>\s*(?:%|{CURRENCIES})?\s*[)\-−]?)$"
)
PLAIN = re.compile(r"^\d+$")
POINTED = re.compile(r"^\d*\.\d+(?:[eE][+\-]?\d+)?$|^\d+\.$|^\d+[eE][+\-]?\d+$")
GROUPED_BY_COMMA = re.compile(r"^\d{1,3}(?:,\d{3})+$")
GROUPED_BY_POINT = re.compile(r"^\d{1,3}(?:\.\d{3})+$")
COMMAS_THEN_POINT = re.compile(r"^\d{1,3}(?:,\d{3})+\.\d+$")
POINTS_THEN_COMMA = re.compile(r"^\d{1,3}(?:\.\d{3})+,\d+$")
COMMAED = re.compile(r"^\d*,\d+(?:[eE][+\-]?\d+)?$")
SEPARATED = re.compile(rf"^\d{{1,3}}(?:[{SPACES}'’]\d{{3}})+(?=$|[.,])")
# Distinct values that tell how numbers are written; from more nothing new is learnt.
MOST_TELLING = 20_000


@dataclass(frozen=True)
class Reading:
    """How a column of words reads as numbers.

    `odd` is the place and text of a value that is no number; `two` an example with two readings, where nothing tells
    which is meant; `signs` what stood around the digits.
    """

    values: pd.Series | None
    convention: Convention | None = None
    odd: tuple[int, str] | None = None
    two: str | None = None
    signs: frozenset[str] = frozenset()
    is_plain: bool = True


def convention_of(column: pd.Series) -> Convention | None:
    """The convention that a column's values follow beyond doubt; None if they leave it open, or contradict.

    Parameters
    ----------
    column : pandas.Series
    """
    told = _told(_distinct(column)[:MOST_TELLING])
    return next(iter(told)) if len(told) == 1 else None


def read_numbers(column: pd.Series, known: Convention | None = None) -> Reading:
    """A column of words as numbers, where all of them are.

    Parameters
    ----------
    column : Series of str, with gaps
    known : "point" or "comma", optional
        What the author or the rest of the table says of how numbers are written.
    """
    distinct = _distinct(column)
    parts = {text: part for text in distinct if (part := _parted(text)) is not None}
    if len(parts) < len(distinct) or not distinct:
        odd = next((text for text in distinct if text not in parts), None)
        if odd is None:
            return Reading(None)
        # How many are numbers decides elsewhere whether this one is a slip or the column is of words.
        return Reading(None, odd=(int(np.argmax((column == odd).to_numpy())), odd))
    told = _told(distinct)
    if len(told) == 2:
        minority = next(text for text in distinct if _of_one(parts[text][0]) not in (None, _majority(distinct)))
        return Reading(None, odd=(int(np.argmax((column == minority).to_numpy())), minority))
    convention = next(iter(told), None) or known
    doubtful = next((text for text in distinct if _is_doubtful(parts[text][0])), None)
    if doubtful is not None and convention is None:
        return Reading(None, two=doubtful)
    numbers = {text: _number(part, convention) for text, part in parts.items()}
    if any(number is None for number in numbers.values()):
        odd = next(text for text, number in numbers.items() if number is None)
        return Reading(None, odd=(int(np.argmax((column == odd).to_numpy())), odd))
    values = column.map(lambda value: numbers.get(value.strip()) if isinstance(value, str) else value)
    signs = frozenset(sign for part in parts.values() for sign in part[1])
    is_plain = all(PLAIN.match(part[0]) or POINTED.match(part[0]) for part in parts.values()) and not signs
    return Reading(_as_pandas_would(values), convention, signs=signs, is_plain=is_plain)


def _as_pandas_would(values: pd.Series) -> pd.Series:
    """Whole numbers without gaps as such, as reading a plain CSV gives them."""
    numbers = pd.to_numeric(values, errors="coerce").astype("float64")
    whole = numbers.notna().all() and (numbers == numbers.round()).all() and (numbers.abs() < 2**53).all()
    return numbers.astype("int64") if whole else numbers


def _distinct(column: pd.Series) -> list[str]:
    known = column.dropna()
    return list(dict.fromkeys(str(value).strip() for value in pd.unique(known) if str(value).strip()))


def _parted(text: str) -> tuple[str, tuple[str, ...], bool] | None:
    """The digits with their separators, the signs around them, and whether it is negative; None if it is no number."""
    found = AROUND.match(text)
    if found is None:
        return None
    front, back = found["front"].strip(), found["back"].strip()
    minus = [sign for sign in (*front, *back) if sign in "-−–("]
    # One minus, in front or behind, or brackets around.
    if len(minus) > 1 or ("(" in front) != (")" in back):
        return None
    signs = tuple(part for part in (front.strip("(-−–+ "), back.strip(")-− ")) if part)
    digits = found["digits"].strip()
    separated = SEPARATED.match(digits)
    if separated:
        digits = re.sub(rf"[{SPACES}'’]", "", digits)
    elif re.search(rf"[{SPACES}'’]", digits):
        return None
    if not any(
        pattern.match(digits)
        for pattern in (
            PLAIN,
            POINTED,
            GROUPED_BY_COMMA,
            GROUPED_BY_POINT,
            COMMAS_THEN_POINT,
            POINTS_THEN_COMMA,
            COMMAED,
        )
    ):
        return None
    return digits, signs, bool(minus)


def _of_one(digits: str) -> Convention | None:
    """The convention that this number alone tells."""
    if COMMAS_THEN_POINT.match(digits) or (GROUPED_BY_COMMA.match(digits) and digits.count(",") > 1):
        return "point"
    if POINTS_THEN_COMMA.match(digits) or (GROUPED_BY_POINT.match(digits) and digits.count(".") > 1):
        return "comma"
    if _is_doubtful(digits) or PLAIN.match(digits):
        return None
    return "comma" if "," in digits else "point" if "." in digits else None


def _is_doubtful(digits: str) -> bool:
    """Whether three digits follow one separator, so that it may be either."""
    if digits.startswith("0"):
        return False
    return bool(
        (GROUPED_BY_COMMA.match(digits) and digits.count(",") == 1)
        or (GROUPED_BY_POINT.match(digits) and digits.count(".") == 1)
    )


def _told(distinct: list[str]) -> set[Convention]:
    parts = (_parted(text) for text in distinct)
    return {told for part in parts if part is not None and (told := _of_one(part[0])) is not None}


def _majority(distinct: list[str]) -> Convention:
    told = [_of_one(part[0]) for text in distinct if (part := _parted(text)) is not None]
    return "point" if told.count("point") >= told.count("comma") else "comma"


def _number(part: tuple[str, tuple[str, ...], bool], convention: Convention | None) -> float | None:
    digits, _, is_negative = part
    group, point = (".", ",") if convention == "comma" else (",", ".")
    if group in digits:
        whole, _, rest = digits.partition(point)
        if not re.match(rf"^\d{{1,3}}(?:{re.escape(group)}\d{{3}})+$", whole) or group in rest:
            return None
    value = float(digits.replace(group, "").replace(point, "."))
    return -value if is_negative else value
