"""Numbers that stand for dates: how a model counts them, and what a visitor reads."""

import datetime as dt
import math
from typing import Literal, get_args

__all__ = ["CALENDARS", "SAY_HOW_COUNTED", "Calendar", "date_of", "date_text", "number_of_date", "numbers_a_day"]

# Days since 1970 began; days since the year 1 began, that day being 1; days as spreadsheets count them; seconds, and
# parts of them, since 1970 began in UTC.
Calendar = Literal["days", "ordinal", "spreadsheet", "seconds", "milliseconds", "microseconds", "nanoseconds"]
CALENDARS: tuple[Calendar, ...] = get_args(Calendar)
SAY_HOW_COUNTED = (
    "Say how your training script counted them: send `dates` as one of "
    f"{', '.join(f'`{calendar}`' for calendar in CALENDARS)}."
)

EPOCH = dt.date(1970, 1, 1).toordinal()
# Where spreadsheets would begin if they knew that 1900 was no leap year: from March 1900 on they count from here.
SPREADSHEET_EPOCH = dt.date(1899, 12, 30).toordinal()
EPOCHS = {"ordinal": 0, "spreadsheet": SPREADSHEET_EPOCH}
DAY_SECONDS = 86_400
PER_DAY = {
    "seconds": DAY_SECONDS,
    "milliseconds": DAY_SECONDS * 10**3,
    "microseconds": DAY_SECONDS * 10**6,
    "nanoseconds": DAY_SECONDS * 10**9,
}


def numbers_a_day(calendar: Calendar) -> int:
    """By how much the number grows from one day to the next.

    Parameters
    ----------
    calendar : str
        How the model counts.
    """
    return PER_DAY.get(calendar, 1)


def number_of_date(date: dt.date, calendar: Calendar) -> float:
    """The number that the model knows a date by.

    Parameters
    ----------
    date : datetime.date
    calendar : str
        How the model counts.

    Examples
    --------
    >>> [number_of_date(dt.date(2026, 3, 1), calendar) for calendar in ("days", "ordinal", "spreadsheet")]
    [20513.0, 739676.0, 46082.0]
    """
    return float((date.toordinal() - EPOCHS.get(calendar, EPOCH)) * numbers_a_day(calendar))


def date_of(value: float, calendar: Calendar) -> dt.date | None:
    """The date that a number stands for, without its time of day; None if it stands for none.

    Parameters
    ----------
    value : float
    calendar : str
        How the model counts.

    Examples
    --------
    >>> date_of(46082.75, "spreadsheet")
    datetime.date(2026, 3, 1)
    """
    if not math.isfinite(value):
        return None
    try:
        return dt.date.fromordinal(math.floor(value / numbers_a_day(calendar)) + EPOCHS.get(calendar, EPOCH))
    except (ValueError, OverflowError):
        return None


def date_text(value: float, calendar: Calendar) -> str:
    """A date as 2026-03-01; the number itself where it stands for no date.

    Parameters
    ----------
    value : float
    calendar : str
        How the model counts.
    """
    date = date_of(value, calendar)
    return date.isoformat() if date else f"{value:g}"
