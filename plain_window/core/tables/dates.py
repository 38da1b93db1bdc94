"""Columns that hold dates: as a table's own, or written as people write them."""

import datetime as dt

import pandas as pd
from pandas.api import types as dtypes

from .date_words import MONTHS, YEAR_FIRST, YEAR_LAST, date_in

__all__ = ["DayOrMonth", "NoDate", "dates_of", "looks_like_dates"]

# Values that are looked at to tell whether a column is one of dates.
LOOKED_AT = 1000


class NoDate(Exception):
    """A text among dates that is none; `row` counts from 0."""

    def __init__(self, text: str, row: int) -> None:
        super().__init__(text)
        self.text, self.row = text, row


class DayOrMonth(Exception):
    """Which is the day and which the month cannot be told, as in `text`: 03/04/2026."""

    def __init__(self, text: str) -> None:
        super().__init__(text)
        self.text = text


def looks_like_dates(column: pd.Series, *, share: float = 1.0) -> bool:
    """Whether the first values that are there are dates: all of them, or so many.

    Parameters
    ----------
    column : Series
    share : float, optional
        Of the values that are there.
    """
    if dtypes.is_datetime64_any_dtype(column):
        return True
    known = column.dropna().head(LOOKED_AT)
    return bool(len(known)) and not dtypes.is_numeric_dtype(known) and float(known.map(_is_date_like).mean()) >= share


def dates_of(column: pd.Series) -> list[dt.date | None]:
    """The dates of a column, None for gaps; times of day are left out.

    Parameters
    ----------
    column : Series

    Raises
    ------
    NoDate
        For the first text that is none, as 2026-02-30.
    DayOrMonth
        If all could be read in two ways.

    Examples
    --------
    >>> dates_of(pd.Series(["13/04/2026", None]))
    [datetime.date(2026, 4, 13), None]
    """
    order = "day" if dtypes.is_datetime64_any_dtype(column) else _order(column.dropna())
    return [None if pd.isna(value) else _date(value, order, row) for row, value in enumerate(column)]


def _is_date_like(value: object) -> bool:
    if isinstance(value, dt.date):
        return True
    text = value.strip() if isinstance(value, str) else ""
    return bool(YEAR_FIRST.fullmatch(text) or YEAR_LAST.fullmatch(text))


def _order(known: pd.Series) -> str:
    """What comes first where the year is last: the day or the month."""
    found = [match for value in known if isinstance(value, str) and (match := YEAR_LAST.fullmatch(value.strip()))]
    if not found or any(int(match[1]) > MONTHS for match in found):
        return "day"
    if any(int(match[3]) > MONTHS for match in found):
        return "month"
    # With points it is the day, wherever points are written.
    if all(match[2] == "." for match in found):
        return "day"
    raise DayOrMonth(found[0][0])


def _date(value: object, order: str, row: int) -> dt.date:
    if isinstance(value, dt.datetime):
        return value.date()
    if isinstance(value, dt.date):
        return value
    text = str(value).strip()
    date = date_in(text, day_first=order == "day")
    if date is None:
        raise NoDate(text, row)
    return date
