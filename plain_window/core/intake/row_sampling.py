"""Rows of a table, drawn to be kept, as plain values."""

import numpy as np
import pandas as pd

from ..contract.kept_rows import MOST_ROWS, MOST_VALUES
from ..contract.values import Value

__all__ = ["drawn_rows", "plain_value"]

SEED = 20260101


def drawn_rows(table: pd.DataFrame, names: list[str], may_miss: list[str]) -> pd.DataFrame:
    """The rows of a table that its model answers, in an order drawn once, no more than are kept.

    Parameters
    ----------
    table : DataFrame
    names : list of str
        The model's columns.
    may_miss : list of str
        Those that may have gaps.
    """
    answerable = table.dropna(subset=[name for name in names if name not in may_miss])
    most = max(1, min(MOST_ROWS, MOST_VALUES // max(1, len(names))))
    return answerable.sample(min(len(answerable), most), random_state=SEED)


def plain_value(value: object) -> Value:
    """A table's value as JSON has it.

    Parameters
    ----------
    value : object
        As a table or a library has it.
    """
    plain = value.item() if isinstance(value, np.generic) else value
    if plain is None or plain is pd.NA or (isinstance(plain, float) and np.isnan(plain)):
        return None
    return plain if isinstance(plain, bool | int | float | str) else str(plain)
