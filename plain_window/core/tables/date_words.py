"""One date as people write it. Needs no pandas."""

import datetime as dt
import re

__all__ = ["MONTHS", "SHORT_YEAR", "YEAR_FIRST", "YEAR_LAST", "date_in", "is_day_like"]

# Year first, as standards want it; or year last, day and month parted by the same sign. A time of day may follow.
YEAR_FIRST = re.compile(r"(\d{4})([-/.])(\d{1,2})\2(\d{1,2})(?:[T ].*)?")
YEAR_LAST = re.compile(r"(\d{1,2})([-/.])(\d{1,2})\2(\d{4})(?:[T ].*)?")
# Other ways that are met: 13/04/26, 13 April 2026, April 13th, 2026, 20260413.
SHORT_YEAR = re.compile(r"(\d{1,2})([-/.])(\d{1,2})\2(\d{2})(?:[T ].*)?")
# Nobody writes a day at more length, and looking for one in a long text takes very long.
LONGEST = 80
_MONTH_NAME = r"(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?"
_DAY = r"\d{1,2}(?:st|nd|rd|th)?"
_DAY_LIKE = (
    YEAR_FIRST,
    YEAR_LAST,
    SHORT_YEAR,
    re.compile(rf"{_DAY}[-/. ]+{_MONTH_NAME}[-/., ]+(?:\d{{4}}|\d{{2}})(?: .*)?", re.IGNORECASE),
    re.compile(rf"{_MONTH_NAME}[-/. ]+{_DAY},?[-/. ]+\d{{4}}(?: .*)?", re.IGNORECASE),
    re.compile(r"(?:19|20)\d\d(?:0[1-9]|1[0-2])(?:0[1-9]|[12]\d|3[01])"),
)
MONTHS = 12


def date_in(text: str, *, day_first: bool) -> dt.date | None:
    """The date that a text is, without its time of day; None if it is none.

    Parameters
    ----------
    text : str
    day_first : bool
        Whether the day comes before the month where the year is last.

    Examples
    --------
    >>> date_in("13.04.2026", day_first=True)
    datetime.date(2026, 4, 13)
    """
    try:
        if match := YEAR_FIRST.fullmatch(text):
            return dt.date(int(match[1]), int(match[3]), int(match[4]))
        match = YEAR_LAST.fullmatch(text)
        if match is None:
            return None
        day, month = (match[1], match[3]) if day_first else (match[3], match[1])
        return dt.date(int(match[4]), int(month), int(day))
    except ValueError:
        return None


def is_day_like(text: str) -> bool:
    """Whether a text is written as a day is, in any way that is met; a time of day may follow.

    Parameters
    ----------
    text : str
        Without space around it.

    Examples
    --------
    >>> is_day_like("13 April 2026"), is_day_like("13.4"), is_day_like("20261301")
    (True, False, False)
    """
    return len(text) <= LONGEST and any(pattern.fullmatch(text) for pattern in _DAY_LIKE)
