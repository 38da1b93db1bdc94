"""A field that visitors do not see: every row has its start value."""

import numpy as np

from ..contract.chunks import CodedColumn
from ..fields.checking import check_value
from ..fields.kinds import AnyField

__all__ = ["fixed_column"]


def fixed_column(field: AnyField, n_rows: int) -> CodedColumn:
    """The field's value for so many rows.

    Parameters
    ----------
    field : field
        One that is hidden.
    n_rows : int
    """
    value = None if field.default is None else check_value(field, field.default)[0]
    return CodedColumn(np.zeros(n_rows, dtype="int32").tobytes(), [value])
