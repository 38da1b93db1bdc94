"""Values in the stated ranges, to try a function on that comes without a table. They are no reference rows."""

import datetime as dt
import math
from typing import TYPE_CHECKING, Any

import numpy as np

from ...fields.calendars import number_of_date
from .annotations import Takes
from .signature import CALENDAR, Parameter, Signature

if TYPE_CHECKING:
    import pandas as pd

__all__ = ["Range", "range_of", "stand_in_table", "start_value"]

N_ROWS, SEED = 60, 20261127
# Where nothing is said of a number, its control goes so far.
UNSAID_LOW, UNSAID_HIGH = 0.0, 100.0
# Around a default of which nothing else is said.
TIMES_DEFAULT = 2.0
DATES = (dt.date(2020, 1, 1), dt.date(2030, 1, 1))
WORDS = "The kiln was cold and a pot cracked after firing."

Range = tuple[float, float]


def range_of(parameter: Parameter) -> tuple[Range, bool]:
    """From where to where a number goes, and whether its author has said so.

    Parameters
    ----------
    parameter : Parameter
        Of a number or a date.
    """
    takes = parameter.takes or Takes("number")
    if takes.kind == "date":
        return (number_of_date(DATES[0], CALENDAR), number_of_date(DATES[1], CALENDAR)), False
    step = takes.step or (1.0 if takes.whole else None)
    low, high = takes.low, takes.high
    if low is not None and takes.is_above and step is not None:
        low += step
    if high is not None and takes.is_below and step is not None:
        high -= step
    if low is not None and high is not None:
        return (low, max(low, high)), True
    default = parameter.default
    near = float(default) if isinstance(default, int | float) and not isinstance(default, bool) else None
    if low is not None:
        return (low, max(low + UNSAID_HIGH, TIMES_DEFAULT * (near or 0.0))), False
    if high is not None:
        return (min(high - UNSAID_HIGH, TIMES_DEFAULT * (near or 0.0)), high), False
    if near:
        return (min(0.0, TIMES_DEFAULT * near), max(0.0, TIMES_DEFAULT * near)), False
    return (UNSAID_LOW, UNSAID_HIGH), False


def start_value(parameter: Parameter) -> Any:
    """What its field starts with: its default, the middle of its range, the first option.

    Parameters
    ----------
    parameter : Parameter
    """
    takes = parameter.takes or Takes("number")
    if parameter.default is not None:
        return parameter.default
    if takes.optional and parameter.has_default:
        return None
    match takes.kind:
        case "yes_no":
            return False
        case "choice":
            return takes.options[0]
        case "text":
            return None
        case "date":
            return number_of_date(dt.date.today(), CALENDAR)
    (low, high), _ = range_of(parameter)
    middle = (low + high) / 2
    return float(round(middle)) if takes.whole else middle


def stand_in_table(signature: Signature) -> "pd.DataFrame":
    """Rows drawn from what the parameters take: the first is the one a page starts with.

    Parameters
    ----------
    signature : Signature
        With hints for all that is no picture.

    Returns
    -------
    pandas.DataFrame of shape (n_rows, n_parameters)
    """
    import pandas as pd

    random = np.random.default_rng(SEED)
    columns = {}
    for one in signature.parameters:
        takes = one.takes
        if takes is None or takes.kind == "picture":
            continue
        start = start_value(one)
        first = WORDS if start is None and takes.kind == "text" else start
        columns[one.name] = [first, *_drawn(one, takes, random)]
    return pd.DataFrame(columns, index=range(N_ROWS))


def _drawn(parameter: Parameter, takes: Takes, random: np.random.Generator) -> list[Any]:
    n_rows = N_ROWS - 1
    match takes.kind:
        case "yes_no":
            return random.integers(0, 2, n_rows).astype(bool).tolist()
        case "choice":
            # Every option is met once, if there are no more than rows.
            return [takes.options[at % len(takes.options)] for at in range(n_rows)]
        case "text":
            words = WORDS.rstrip(".").split()
            return [" ".join(random.choice(words, size=random.integers(1, 12))) for _ in range(n_rows)]
    (low, high), _ = range_of(parameter)
    values = random.uniform(low, high, n_rows)
    if takes.step:
        values = np.clip(low + np.round((values - low) / takes.step) * takes.step, low, high)
    elif takes.whole or takes.kind == "date":
        values = np.clip(np.round(values), np.ceil(low), np.floor(high)) if np.ceil(low) <= np.floor(high) else values
    else:
        # As somebody would write them.
        values = np.clip(np.round(values, max(0, 3 - math.floor(math.log10((high - low) or 1.0)))), low, high)
    return [float(value) for value in values]
