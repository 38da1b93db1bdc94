"""One date as people write it. Needs no pandas."""

import datetime as dt
import re

__all__ = ["MONTHS", "YEAR_FIRST", "YEAR_LAST", "date_in"]

# Year first, as standards want it; or year last, day and month parted by the same sign. A time of day may follow.
YEAR_FIRST = re.compile(r"(\d{4})([-/.])(\d{1,2})\2(\d{1,2})(?:[T ].*)?")
YEAR_LAST = re.compile(r"(\d{1,2})([-/.])(\d{1,2})\2(\d{4})(?:[T ].*)?")
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
