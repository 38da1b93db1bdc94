"""Reading reference tables, and rows of values as the table a model gets.

Tables are read with the defaults of `pandas.read_csv`, because that is how they were read in the notebook the model
was trained in: the same column must get the same type here.
"""

import csv
import io
from collections.abc import Mapping, Sequence
from typing import BinaryIO

import numpy as np
import pandas as pd

from ..errors import TableNotRead
from .columns import Column
from .kinds import Scalar

__all__ = ["model_table", "read_table"]

PARQUET_MAGIC = b"PAR1"
# How much of a CSV is looked at for its header.
HEADER_BYTES = 1 << 20


def read_table(file: BinaryIO, *, name: str = "the reference table") -> pd.DataFrame:
    """Read a CSV or Parquet table, told apart by content.

    Parameters
    ----------
    file : binary file
        Seekable.
    name : str
        What to call the table in messages.

    Returns
    -------
    pandas.DataFrame of shape (n_rows, n_columns)

    Raises
    ------
    TableNotRead
        If it is neither, is damaged, has no rows, or has two columns of one name.
    """
    magic = file.read(4)
    file.seek(0)
    if not magic:
        raise TableNotRead(f"{_capital(name)} is empty. Upload a CSV or Parquet file with a header and rows.")
    try:
        table = pd.read_parquet(file) if magic == PARQUET_MAGIC else _read_csv(file, name)
    except TableNotRead:
        raise
    except Exception as error:  # the readers raise whatever their parsers do; all of it means the file is no table
        reason = str(error).strip().split("\n")[0][:200]
        raise TableNotRead(f"{_capital(name)} could not be read as CSV or Parquet: {reason}") from error
    if table.empty:
        raise TableNotRead(f"{_capital(name)} has no rows. It needs a header and at least one row.")
    table.columns = [str(column) for column in table.columns]
    return table


def _read_csv(file: BinaryIO, name: str) -> pd.DataFrame:
    head = file.read(HEADER_BYTES)
    file.seek(0)
    if b"\0" in head:
        raise TableNotRead(
            f"{_capital(name)} is not a CSV or Parquet file. Save it as one of these and upload it again."
        )
    first_line = head.decode("utf-8-sig", errors="replace").splitlines()[:1]
    header = next(csv.reader(io.StringIO(first_line[0] if first_line else "")), [])
    twice = sorted({column for column in header if column and header.count(column) > 1})
    if twice:
        raise TableNotRead(f"{_capital(name)} has two columns called {_names(twice)}. Rename one of them.")
    try:
        return pd.read_csv(file)
    except UnicodeDecodeError:
        raise TableNotRead(f"{_capital(name)} is not in UTF-8. Save it as CSV in UTF-8 and upload it again.") from None


def model_table(columns: Sequence[Column], rows: Sequence[Mapping[str, Scalar | None]]) -> pd.DataFrame:
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


def _series(column: Column, values: list[Scalar | None]) -> pd.Series:
    if column.categories is not None:
        return pd.Series(pd.Categorical(values, categories=column.categories))
    if column.dtype in ("bool", "boolean"):
        return pd.Series(values, dtype="object" if None in values else column.dtype)
    if column.dtype.startswith(("int", "uint", "Int", "UInt")):
        # A visitor may ask for half a day where the table has whole ones; the model sees what was asked.
        whole = all(value is not None and float(value).is_integer() for value in values)
        return pd.Series(values, dtype=column.dtype if whole else "float64")
    if column.dtype.startswith(("float", "Float")):
        filled = [np.nan if value is None else value for value in values]
        return pd.Series(filled, dtype=column.dtype)
    if column.dtype == "object":
        return pd.Series([np.nan if value is None else value for value in values], dtype="object")
    return pd.Series(values, dtype=column.dtype)


def _names(names: Sequence[str]) -> str:
    return ", ".join(f"`{name}`" for name in names)


def _capital(name: str) -> str:
    return name[:1].upper() + name[1:]
