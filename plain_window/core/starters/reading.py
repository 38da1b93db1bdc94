"""A table read as it is written, and how it was: the same way the training script reads it."""

from typing import BinaryIO

import numpy as np
import pandas as pd

from ..errors import TableNotRead
from ..tables.delimited import read_delimited
from ..tables.kinds_of_file import TABLE_KINDS, head_of_table
from ..tables.spreadsheets import read_spreadsheet
from .by_hand import read
from .shapes import HowRead

__all__ = ["as_written"]

MOST_COLUMNS = 500
NO_VALUES = (list, dict, np.ndarray, bytes)


def as_written(file: BinaryIO, *, name: str) -> tuple[pd.DataFrame, HowRead, list[str]]:
    """A table, how it is read, and what its author should know of that.

    Parameters
    ----------
    file : binary file
        Seekable, at its start.
    name : str
        What to call the table at the start of a sentence.

    Returns
    -------
    table : DataFrame
        A text's columns as they are written.
    how : dict
        As the recipe of `by_hand` has it.
    notes : list of str

    Raises
    ------
    TableNotRead
        If it is no table that is taken, is damaged, or too small or too wide.
    """
    magic = head_of_table(file, name)
    try:
        table, how, notes = _read(file, magic, name)
    except TableNotRead:
        raise
    except Exception as error:  # the readers raise whatever their parsers do; all of it means the file is no table
        reason = str(error).strip().split("\n")[0][:200]
        raise TableNotRead(f"{name} could not be read: {reason.rstrip('.')}. {TABLE_KINDS}") from error
    _refuse_shape(table, name)
    return table, how, notes


def _read(file: BinaryIO, magic: bytes, name: str) -> tuple[pd.DataFrame, HowRead, list[str]]:
    if magic.startswith(b"PAR1"):
        how: HowRead = {"kind": "parquet"}
        table = read(file, how)
        nested = [one for one in table.columns if table[one].map(lambda v: isinstance(v, NO_VALUES)).any()]
        notes = [f"`{one}` holds lists or bytes, no values; it is left out." for one in nested]
        return table.drop(columns=nested), how, notes
    if magic.startswith(b"PK\x03\x04"):
        _, sheet = read_spreadsheet(file, name)
        file.seek(0)
        how = {"kind": "xlsx", "sheet": sheet.title, "skip": sheet.n_above}
        return _without_unnamed(read(file, how)), how, sheet.notes
    written = read_delimited(file, name, as_text=True)
    how = {"kind": "csv", "encoding": written.encoding, "separator": written.separator, "skip": written.skip}
    table = written.table
    table.columns = [str(column).strip() for column in table.columns]
    return table.reset_index(drop=True), how, written.notes


def _without_unnamed(table: pd.DataFrame) -> pd.DataFrame:
    return table.drop(columns=[column for column in table.columns if column.startswith("Unnamed: ")])


def _refuse_shape(table: pd.DataFrame, name: str) -> None:
    if table.empty:
        raise TableNotRead(f"{name} has no rows. It needs a header and rows below it.")
    if table.shape[1] < 2:
        raise TableNotRead(
            f"{name} has one column. It needs one that is to be predicted, and at least one to tell it from."
        )
    if table.shape[1] > MOST_COLUMNS:
        raise TableNotRead(f"{name} has {table.shape[1]} columns; a form can be made of at most {MOST_COLUMNS}.")
