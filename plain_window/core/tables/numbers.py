"""Columns of words that are numbers: with grouping, decimal commas, percent signs and currencies.

A number is read where there is one reading of it. "41,006" alone has two, and is never taken for 41.006: other values
of its column, then other columns of its table, may tell which is meant; else the author is asked.
"""

from dataclasses import dataclass

import numpy as np
import pandas as pd

from .number_words import (
    PLAIN,
    POINTED,
    Convention,
    is_doubtful,
    majority,
    number_of,
    parted,
    told_by,
    told_by_one,
)

__all__ = ["Convention", "Reading", "convention_of", "read_numbers"]

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
    told = told_by(_distinct(column)[:MOST_TELLING])
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
    parts = {text: part for text in distinct if (part := parted(text)) is not None}
    if len(parts) < len(distinct) or not distinct:
        odd = next((text for text in distinct if text not in parts), None)
        if odd is None:
            return Reading(None)
        # How many are numbers decides elsewhere whether this one is a slip or the column is of words.
        return Reading(None, odd=(int(np.argmax((column == odd).to_numpy())), odd))
    told = told_by(distinct)
    if len(told) == 2:
        minority = next(text for text in distinct if told_by_one(parts[text][0]) not in (None, majority(distinct)))
        return Reading(None, odd=(int(np.argmax((column == minority).to_numpy())), minority))
    convention = next(iter(told), None) or known
    doubtful = next((text for text in distinct if is_doubtful(parts[text][0])), None)
    if doubtful is not None and convention is None:
        return Reading(None, two=doubtful)
    numbers = {text: number_of(part, convention) for text, part in parts.items()}
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
