"""Raw values of many rows, as a plan is asked for them."""

from collections.abc import Mapping, Sequence

import numpy as np

from ..contract.values import Cell

__all__ = ["ColumnValues", "Columns"]

# Of each row a value, None or NaN where it is missing; numbers may come as an array.
ColumnValues = Sequence[Cell] | np.ndarray
Columns = Mapping[str, ColumnValues]
