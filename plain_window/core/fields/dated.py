"""A number as a date: whole days, between whole days."""

import math

from .calendars import Calendar, date_of, numbers_a_day
from .kinds import NumberField

__all__ = ["as_date"]


def as_date(field: NumberField, calendar: Calendar) -> NumberField:
    """The field with a control that goes from day to day.

    Parameters
    ----------
    field : NumberField
    calendar : str
        How the model counts.

    Raises
    ------
    ValueError
        With the value seen that stands for no date.
    """
    for value in (field.seen.low, field.seen.high):
        if date_of(value, calendar) is None:
            raise ValueError(f"{value:g}")
    day = float(numbers_a_day(calendar))
    minimum, maximum = math.floor(field.minimum / day) * day, math.ceil(field.maximum / day) * day
    default = None if field.default is None else min(max(round(field.default / day) * day, minimum), maximum)
    own = {"calendar": calendar, "unit": "", "step": day, "minimum": minimum, "maximum": maximum, "default": default}
    return field.model_copy(update=own)
