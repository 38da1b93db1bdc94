"""Columns of dates that a model knows as numbers: counted as its author says they are counted."""

import math
from collections.abc import Mapping, Sequence

import pandas as pd

from ..errors import Fault, MismatchFaults
from ..fields import AnyField, NumberField
from ..fields.calendars import CALENDARS, SAY_HOW_COUNTED, Calendar, number_of_date
from ..fields.columns import ColumnUse
from ..fields.dated import as_date
from ..tables.dates import DayOrMonth, NoDate, dates_of, looks_like_dates
from ..tables.reading import TableRead

__all__ = ["MOSTLY_DATES", "count_dates", "with_dates"]

# From this share of dates on, a column was meant to hold them.
MOSTLY_DATES = 0.8


def count_dates(
    read: TableRead, names: Sequence[str], uses: Mapping[str, ColumnUse], calendar: Calendar | None
) -> set[str]:
    """Turn the columns of dates that the model takes as numbers into these; which they were.

    A model of which it is not known what it does with a column may take dates as they are written: such a column is
    only counted where its author has said how.

    Parameters
    ----------
    read : TableRead
        Its columns are replaced.
    names : sequence of str
        The columns that the model takes.
    uses : mapping of str to ColumnUse
    calendar : str, optional
        How the author's training script counted.

    Raises
    ------
    MismatchFaults
        For each such column, if it is not said how to count, or it cannot be read.
    """
    counted: dict[str, pd.Series] = {}
    faults = []
    for name in names:
        wants = uses.get(name, ColumnUse()).wants
        is_number = wants == "number" or (wants is None and calendar is not None)
        if not is_number or not looks_like_dates(read.table[name], share=MOSTLY_DATES):
            continue
        column = read.table[name]
        if calendar is None:
            example = str(column.dropna().iloc[0])[:10]
            message = f"Column `{name}` of {read.name} holds dates ({example}), which the model takes as numbers."
            faults.append(Fault(name, f"{message} {SAY_HOW_COUNTED}", "dates", CALENDARS))
            continue
        try:
            counted[name] = _counted(column, calendar)
        except NoDate as error:
            message = f'Column `{name}` should hold dates; row {error.row + 2} of {read.name} has "{error.text[:40]}".'
            faults.append(Fault(name, f"{message} Mend the value or leave it empty."))
        except DayOrMonth as error:
            message = f"Column `{name}` of {read.name} writes dates like {error.text}, which can be read in two ways."
            faults.append(Fault(name, f"{message} Write them as 2026-03-01."))
    if faults:
        raise MismatchFaults(faults)
    read.table = read.table.assign(**counted)
    for name in counted:
        # It is neither a number with two readings nor one that is odd among numbers.
        read.odd.pop(name, None)
        read.two.pop(name, None)
    return set(counted)


def _counted(column: pd.Series, calendar: Calendar) -> pd.Series:
    numbers = [math.nan if date is None else number_of_date(date, calendar) for date in dates_of(column)]
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
