"""What each column of a table is: a number, a category, a date, a name for its row, and what in it is odd."""

import datetime as dt
import re
from collections.abc import Iterable
from typing import Literal, cast

import numpy as np
import pandas as pd
from pandas.api import types as dtypes

from ..tables.date_words import MONTHS, SHORT_YEAR, YEAR_LAST, is_day_like
from ..tables.number_words import Convention
from ..tables.numbers import convention_of, read_numbers
from .by_hand import dates, numbers, words
from .sheet import ColumnKind, ColumnLook, OddValue, SheetQuestion, ValueCount
from .wording import is_unit

__all__ = ["BINS", "MOST_CLASSES", "NAMES_ROWS", "first_by_unit", "looks_of", "of_table"]

BINS, MOST_COMMON, MOST_ODD, EXAMPLES = 16, 12, 5, 3
# From this share of readable values on, a column was meant to hold them.
MOSTLY = 0.8
# A name for its row: hardly any value is met twice.
DISTINCT_SHARE = 0.98
FEWEST_FOR_NAMES = 20
# Of whole numbers that name rows nearly all between the first and the last are there.
DENSE = 2.0
MOST_CLASSES = 50
# With so many distinct values a category is no list to choose from; if they consist of several words they are text.
MANY_VALUES, WORDS_OF_TEXT = 60, 3.0
# Numbers that are written where nothing was measured, if they also lie far outside.
STAND_INS = {-1.0, *(sign * float("9" * n) for n in range(2, 7) for sign in (1, -1))}
FAR_OUTSIDE = 5.0
# A number with what it is counted in behind it, as "2.5 kg".
WITH_UNIT = re.compile(r"\s*([-+−]?\d[\d.,'’\s]*?)\s*([^\d\s.,'’+−-][^\d.,]{0,11}?)\s*")
LONGEST_WITH_UNIT = 80
CODE = re.compile(r"0\d+")
NAMES_ROWS = re.compile(r"(?:^|[\W_])(?i:id|no|nr|num|number|key|index|ref)$|[a-z](?:Id|ID|No|Nr)$")
LOOKED_AT = 20_000
# Of a column whose values are looked at one by one.
FIRST_VALUES = 1000


def of_table(
    table: pd.DataFrame, *, convention: Convention | None, day_first: bool | None
) -> tuple[list[ColumnLook], list[SheetQuestion]]:
    """What all columns are; and what can be read in two ways.

    Parameters
    ----------
    table : DataFrame
        As it is written.
    convention : "point" or "comma", optional
        How numbers are written, where somebody has said so.
    day_first : bool, optional
        What comes first in dates whose year is last, likewise.
    """
    own = {name: _own_convention(table[name]) for name in table.columns if _is_text(table[name])}
    told = {one for one in own.values() if one is not None}
    of_all = convention or (next(iter(told)) if len(told) == 1 else None)
    found, questions = [], []
    for name in table.columns:
        looked = looks_of(table[name], convention=own.get(name) if convention is None else None, of_table=of_all)
        if isinstance(looked, SheetQuestion):
            questions.append(looked)
            looked = looks_of(table[name], convention=None, of_table="point")
        assert isinstance(looked, ColumnLook), "with a convention there is no question"
        if looked.kind == "date":
            order = _day_first(table[name], day_first)
            if order is None:
                questions.append(SheetQuestion(about="dates", column=name, example=_telling_date(table[name])))
            looked = _with_dates(looked, table[name], day_first=order is not False)
        found.append(looked)
    return found, questions


def looks_of(
    column: pd.Series, *, convention: Convention | None, of_table: Convention | None
) -> ColumnLook | SheetQuestion:
    """What a column is.

    Parameters
    ----------
    column : Series
        As it is written.
    convention : "point" or "comma", optional
        How its own values say that numbers are written.
    of_table : "point" or "comma", optional
        How the others do.
    """
    name, known = str(column.name), column.dropna()
    look = ColumnLook(
        name=name,
        kind="empty",
        n_distinct=int(known.nunique()),
        n_gaps=int(column.isna().sum()),
        examples=[str(value)[:80] for value in known.head(200).unique()[:EXAMPLES]],
    )
    if look.n_distinct == 0:
        return look
    if dtypes.is_bool_dtype(known):
        return _category(look, column, "yes_no")
    if _holds_days(column, known):
        look.kind = "date" if look.n_distinct > 1 else "constant"
        return look
    if dtypes.is_numeric_dtype(column):
        return _number(look, column, column.astype("float64"))
    return _of_text(look, column, convention, of_table)


def _holds_days(column: pd.Series, known: pd.Series) -> bool:
    if dtypes.is_datetime64_any_dtype(column):
        return True
    some = known.head(FIRST_VALUES)
    if dtypes.is_numeric_dtype(column):
        # An amount is seldom of eight digits that all are days: 20260413.
        return bool(dtypes.is_integer_dtype(known) and some.map(lambda value: is_day_like(str(value))).all())
    return float(some.map(_is_day).mean()) >= MOSTLY


def _is_day(value: object) -> bool:
    return isinstance(value, dt.date) or is_day_like(str(value).strip())


def _is_text(column: pd.Series) -> bool:
    return not dtypes.is_numeric_dtype(column) and not dtypes.is_datetime64_any_dtype(column)


def _of_text(
    look: ColumnLook, column: pd.Series, convention: Convention | None, of_table: Convention | None
) -> ColumnLook | SheetQuestion:
    known = column.dropna().astype("str").str.strip()
    unit = _unit_of(known)
    some = _without_unit(known.head(LOOKED_AT), unit)
    decimal = convention or of_table
    reading = read_numbers(some, decimal)
    if reading.two is not None:
        return SheetQuestion(about="numbers", column=look.name, example=reading.two)
    if reading.values is not None or _share_of_numbers(some, decimal) >= MOSTLY:
        look.decimal = reading.convention or decimal or "point"
        if some.str.fullmatch(CODE.pattern).mean() > 0.5:
            # Digits with noughts in front are names, not amounts.
            return _category(look, column, _kind_of_words(look, column))
        look.unit = unit
        values = numbers(column, look.decimal, unit=unit)
        odd = column.notna() & values.isna()
        look.odd, look.n_gaps = _odd(column[odd]), int(values.isna().sum())
        return _number(look, column, values)
    return _category(look, column, _kind_of_words(look, column))


def first_by_unit(texts: Iterable[str]) -> dict[str, str]:
    """By what stands behind a number, in small letters, the first cell that has it; empty where most are no such cells.

    Parameters
    ----------
    texts : iterable of str

    Examples
    --------
    >>> first_by_unit(["2.5 kg", "500 g", "3Kg"])
    {'kg': '2.5 kg', 'g': '500 g'}
    """
    known = [str(text) for text in texts]
    found = [(match[2].lower(), text) for text in known if (match := _with_unit(text))]
    return dict(reversed(found)) if len(found) >= MOSTLY * max(1, len(known)) else {}


def _with_unit(text: str) -> re.Match[str] | None:
    # Nobody writes a number at such length, and looking for one in it takes long.
    return WITH_UNIT.fullmatch(text) if len(text) <= LONGEST_WITH_UNIT else None


def _unit_of(known: pd.Series) -> str:
    """What stands behind the number in most cells, as it is mostly written; empty for none."""
    some = known.head(FIRST_VALUES).astype("str")
    matches = [match for text in some if (match := _with_unit(text))]
    if not matches or len(matches) < MOSTLY * len(some):
        return ""
    small = pd.Series([match[2].lower() for match in matches])
    usual = str(small.mode()[0])
    own = [match for match, one in zip(matches, small, strict=True) if one == usual]
    # A letter right behind a number may as well be a part of a name: 3A, 4A.
    is_part = len(usual) == 1 and not is_unit(usual) and own[0][0].strip()[-2].isdigit()
    if len(own) < MOSTLY * len(some) or is_part:
        return ""
    return str(pd.Series([match[2] for match in own]).mode()[0])


def _without_unit(known: pd.Series, unit: str) -> pd.Series:
    if not unit:
        return known
    return known.astype("str").str.replace(rf"(?<=[\d\s]){re.escape(unit)}\s*$", "", case=False, regex=True)


def _own_convention(column: pd.Series) -> Convention | None:
    known = column.dropna()
    return convention_of(_without_unit(known, _unit_of(known)))


def _share_of_numbers(some: pd.Series, decimal: Convention | None) -> float:
    return float(numbers(some, decimal or "point").notna().mean()) if len(some) else 0.0


def _odd(column: pd.Series) -> list[OddValue]:
    counts = column.astype("str").value_counts().head(MOST_ODD)
    first = {str(value): at for at, value in reversed(list(column.items()))}
    return [
        OddValue(value=value[:80], row=int(cast(int, first[value])) + 1, rows=int(rows))
        for value, rows in counts.items()
    ]


def _number(look: ColumnLook, column: pd.Series, values: pd.Series) -> ColumnLook:
    known = values.dropna().to_numpy(dtype="float64")
    known = known[np.isfinite(known)]
    look.n_distinct = len(np.unique(known))
    look.stand_ins = _stand_ins(known)
    known = known[~np.isin(known, look.stand_ins)]
    if not len(known):
        look.kind = "empty"
        return look
    look.low, look.high = float(known.min()), float(known.max())
    look.counts = _counts(known)
    if look.low == look.high:
        look.kind = "constant"
        return look
    is_whole = bool((known == np.round(known)).all())
    look.kind = "number"
    if set(np.unique(known)) == {0.0, 1.0}:
        look.kind, look.may_be = "yes_no", ["number"]
        look.common = _common(words(column))
    elif is_whole and look.n_distinct >= DISTINCT_SHARE * len(known) and len(known) >= FEWEST_FOR_NAMES:
        is_dense = look.high - look.low < DENSE * len(known)
        # A table may be sorted by what was measured; a name says so of itself.
        if is_dense or look.low > 1e7 or NAMES_ROWS.search(look.name):
            look.kind, look.may_be = "identifier", ["number"]
    elif is_whole and look.n_distinct <= MOST_CLASSES:
        look.may_be = ["category"]
        look.common = _common(words(column))
    return look


def _counts(known: np.ndarray) -> list[int]:
    """How many values lie in each bin; of a few whole numbers each has one of its own."""
    low, high = float(known.min()), float(known.max())
    if high - low < 2 * BINS and bool((known == np.round(known)).all()):
        counts: list[int] = np.bincount((known - low).astype("int64")).tolist()
        return counts
    # Of numbers beyond what differences of floats can hold.
    scaled = known / max(1.0, abs(low), abs(high))
    counts = np.histogram(scaled, bins=BINS)[0].tolist()
    return counts


def _stand_ins(known: np.ndarray) -> list[float]:
    """Numbers as -999 that lie far outside of all others and are met more than once."""
    found = []
    for value in sorted(STAND_INS):
        rest = known[known != value]
        if (known == value).sum() < 2 or len(rest) < FEWEST_FOR_NAMES:
            continue
        low, high = rest.min(), rest.max()
        spread = high - low
        if (
            value < low - FAR_OUTSIDE * spread
            or value > high + FAR_OUTSIDE * spread
            or (value == -1.0 and low >= 0 and (known == value).mean() < 0.5 and len(np.unique(rest)) > 2)
        ):
            found.append(value)
    return found


def _kind_of_words(look: ColumnLook, column: pd.Series) -> ColumnKind:
    values = words(column).dropna()
    look.n_distinct = int(values.nunique())
    n_words = float(values.head(LOOKED_AT).astype("str").str.split().str.len().mean())
    is_mostly_once = look.n_distinct > MANY_VALUES and look.n_distinct > len(values) / 2
    if n_words >= WORDS_OF_TEXT and (is_mostly_once or look.n_distinct > MANY_VALUES):
        look.may_be = ["category"]
        return "text"
    if look.n_distinct >= DISTINCT_SHARE * len(values) and len(values) >= FEWEST_FOR_NAMES:
        look.may_be = ["text", "category"]
        return "identifier"
    look.may_be = ["text"] if n_words >= 2 else []
    return "category"


def _category(look: ColumnLook, column: pd.Series, kind: ColumnKind) -> ColumnLook:
    values = words(column)
    look.n_gaps = int(values.isna().sum())
    if kind in ("category", "yes_no"):
        look.spelled = _spellings(values.dropna())
        values = words(column, look.spelled)
    look.n_distinct = int(values.nunique())
    look.kind = "constant" if look.n_distinct == 1 else "empty" if look.n_distinct == 0 else kind
    if look.kind == "category" and {str(one).casefold() for one in values.dropna().unique()[:3]} in YES_NO:
        look.kind = "yes_no"
    look.common = _common(values)
    return look


YES_NO = ({"yes", "no"}, {"y", "n"}, {"true", "false"}, {"t", "f"}, {"on", "off"})


def _spellings(values: pd.Series) -> dict[str, str]:
    """By spelling the most frequent one of those that differ only in case, space or a closing point."""
    counts = values.value_counts()
    usual: dict[str, str] = {}
    spelled = {}
    for value in counts.index:
        plain = re.sub(r"[\s_]+", " ", str(value)).strip(" .").casefold()
        if plain in usual:
            spelled[str(value)] = usual[plain]
        elif plain:
            usual[plain] = str(value)
    return spelled


def _common(values: pd.Series) -> list[ValueCount]:
    counts = values.value_counts().head(MOST_COMMON)
    return [ValueCount(value=str(value)[:200], rows=int(rows)) for value, rows in counts.items()]


def _day_first(column: pd.Series, told: bool | None) -> bool | None:
    """What comes first where the year is last; None if that cannot be told."""
    if told is not None or not _is_text(column):
        return told is not False
    distinct = column.dropna().unique()[:LOOKED_AT]
    texts = [str(value).strip() for value in distinct]
    found = [match for text in texts if (match := YEAR_LAST.fullmatch(text) or SHORT_YEAR.fullmatch(text))]
    if not found or any(int(match[1]) > MONTHS for match in found) or all(match[2] == "." for match in found):
        return True
    return False if any(int(match[3]) > MONTHS for match in found) else None


def _telling_date(column: pd.Series) -> str:
    """One of which the two readings differ, if there is one: 03/04/2026 rather than 01/01/2026."""
    texts = [str(value).strip() for value in column.dropna().unique()[:LOOKED_AT]]
    found = [(text, YEAR_LAST.fullmatch(text) or SHORT_YEAR.fullmatch(text)) for text in texts]
    return next((text for text, match in found if match and int(match[1]) != int(match[3])), texts[0])


def _with_dates(look: ColumnLook, column: pd.Series, *, day_first: bool) -> ColumnLook:
    """How a column of dates lies in time, and what is made of it."""
    read = dates(column, day_first)
    look.day_first = day_first
    look.odd = _odd(column[column.notna() & read.isna()])
    look.n_gaps, known = int(read.isna().sum()), read.dropna()
    if known.empty:
        look.kind = "empty"
        return look
    seconds = known.astype("int64").to_numpy() / 1e6
    look.low, look.high = float(seconds.min()), float(seconds.max())
    look.counts = np.histogram(seconds, bins=BINS)[0].tolist()
    look.n_distinct = int(known.nunique())
    look.parts = _parts(known)
    return look


def _parts(known: pd.Series) -> list[Literal["month", "weekday", "hour"]]:
    """What of a date comes again: its month and weekday, and its hour where there are times; of years `recipe` says."""
    of: dict[Literal["month", "weekday", "hour"], pd.Series] = {
        "month": known.dt.month,
        "weekday": known.dt.day_of_week,
        "hour": known.dt.hour,
    }
    span = known.max() - known.min()
    if known.dt.day.nunique() == 1 or known.dt.is_month_end.all():
        # They stand for months or years; on which weekday those begin says nothing.
        del of["weekday"]
    made = [part for part, values in of.items() if values.nunique() > 1]
    # Of less than a year months are a trend rather than a season.
    return [part for part in made if part != "month" or span >= pd.Timedelta(days=300)]
