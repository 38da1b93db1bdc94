"""Rows of values as the table a model was trained on."""

from collections.abc import Mapping, Sequence

import numpy as np
import pandas as pd

from ..contract.values import Cell
from ..fields.columns import Column

__all__ = ["model_table"]


def model_table(columns: Sequence[Column], rows: Sequence[Mapping[str, Cell]]) -> pd.DataFrame:
    """Rows of values as the table the model was trained on: its columns, its order, its types.

    Parameters
    ----------
    columns : sequence of Column, length n_features
        In the model's order.
    rows : sequence of mapping, length n_rows
        Value by column name.

    Returns
    -------
    pandas.DataFrame of shape (n_rows, n_features)
    """
    return pd.DataFrame({column.name: _series(column, [row[column.name] for row in rows]) for column in columns})


def _series(column: Column, values: Sequence[Cell]) -> pd.Series:
    if column.categories is not None:
        return pd.Series(pd.Categorical(values, categories=column.categories))
    if column.dtype in ("bool", "boolean"):
        return pd.Series(values, dtype="object" if None in values else column.dtype)
    if column.dtype.startswith(("int", "uint", "Int", "UInt")):
        # A visitor may ask for half a day where the table has whole ones; the model sees what was asked.
        whole = all(isinstance(value, int | float) and float(value).is_integer() for value in values)
        return pd.Series(values, dtype=column.dtype if whole else "float64")
    if column.dtype.startswith(("float", "Float")):
        filled = [np.nan if value is None else value for value in values]
        return pd.Series(filled, dtype=column.dtype)
    if column.dtype == "object":
        return pd.Series([np.nan if value is None else value for value in values], dtype="object")
    return pd.Series(values, dtype=column.dtype)
