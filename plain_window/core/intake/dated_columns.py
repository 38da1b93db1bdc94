"""Columns of dates that a model knows as numbers: counted as its author says they are counted."""

import math

import pandas as pd

from ..errors import Fault
from ..fields import AnyField, NumberField
from ..fields.calendars import SAY_HOW_COUNTED, Calendar, number_of_date
from ..fields.columns import ColumnUse
from ..fields.dated import as_date
from ..tables.dates import AMBIGUOUS, dates_of, looks_like_dates
from ..tables.reading import TableRead

__all__ = ["MOSTLY_DATES", "count_dates", "with_dates"]

# From this share of dates on, a column was meant to hold them.
MOSTLY_DATES = 0.8


def count_dates(
    read: TableRead, names: list[str], uses: dict[str, ColumnUse], calendar: Calendar | None
) -> list[Fault]:
    """Turn the columns of dates that the model takes as numbers into these; what is wrong with them otherwise.

    A model of which it is not known what it does with a column may take dates as they are written: such a column is
    only counted where its author has said how.

    Parameters
    ----------
    read : TableRead
        Its columns are replaced.
    names : list of str
        The columns that the model takes.
    uses : dict of str to ColumnUse
    calendar : str, optional
        How the author's training script counted.
    """
    faults = []
    for name in names:
        use = uses.get(name, ColumnUse())
        is_number = use.wants == "number" or (use.wants is None and calendar is not None)
        if not is_number or not looks_like_dates(read.table[name], share=MOSTLY_DATES):
            continue
        counted = _counted(read, name, calendar)
        if isinstance(counted, Fault):
            faults.append(counted)
        else:
            read.table = read.table.assign(**{name: counted})
            read.odd.pop(name, None)
            read.two.pop(name, None)
    return faults


def _counted(read: TableRead, name: str, calendar: Calendar | None) -> pd.Series | Fault:
    column = read.table[name]
    example = str(next(value for value in column.dropna() if looks_like_dates(pd.Series([value]))))[:10]
    if calendar is None:
        message = f"Column `{name}` of {read.name} holds dates ({example}), which the model takes as numbers."
        return Fault(name, f"{message} {SAY_HOW_COUNTED}")
    try:
        dates = dates_of(column)
    except ValueError as error:
        text, row = error.args
        message = f'Column `{name}` should hold dates; row {row + 2} of {read.name} has "{text[:40]}".'
        return Fault(name, f"{message} Mend the value or leave it empty.")
    if isinstance(dates, str):
        assert dates == AMBIGUOUS
        message = (
            f"Column `{name}` of {read.name} writes dates like {example}, which can be read in two ways. "
            "Write them as 2026-03-01."
        )
        return Fault(name, message)
    numbers = [math.nan if date is None else number_of_date(date, calendar) for date in dates]
    return pd.Series(numbers, index=column.index, dtype="float64")


def with_dates(fields: list[AnyField], dated: set[str], calendar: Calendar | None) -> list[AnyField]:
    """The fields, those of columns that held dates read and entered as dates.

    Parameters
    ----------
    fields : list of field
    dated : set of str
        The columns that held dates.
    calendar : str, optional
        How the author's training script counted.
    """
    if calendar is None:
        return fields
    return [as_date(one, calendar) if isinstance(one, NumberField) and one.name in dated else one for one in fields]
