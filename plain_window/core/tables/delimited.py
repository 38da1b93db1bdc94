"""Text with separators: which encoding, which separator, and where a line does not fit the header.

What `pandas.read_csv` reads by itself is read by its defaults, because that is how it was read in the notebook the
model was trained in: the same column must get the same type here.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import BinaryIO

import pandas as pd

from ..errors import TableNotRead
from .written_text import Writing, columns_twice, how_written

__all__ = ["Delimited", "read_delimited", "reread_as_text"]


@dataclass(frozen=True)
class Delimited:
    """A table, how it was written, and what its author should know of that."""

    table: pd.DataFrame
    encoding: str
    separator: str
    skip: int
    notes: list[str]


def read_delimited(file: BinaryIO, name: str, *, as_text: bool = False) -> Delimited:
    """Read text with separators.

    Parameters
    ----------
    file : binary file
        Seekable, at its start.
    name : str
        What to call the table in messages.
    as_text : bool, optional
        Leave all values as they are written.

    Raises
    ------
    TableNotRead
        If it is no such text, naming the line that does not fit.
    """
    written = how_written(file, name)
    _refuse_twice(written.header, name)
    table = _parsed(file, name, written, as_text=as_text)
    return Delimited(_without_empty_columns(table), written.encoding, written.separator, written.skip, written.notes)


def reread_as_text(file: BinaryIO, read: Delimited, columns: Sequence[str]) -> pd.DataFrame:
    """Some columns again, as they are written.

    Parameters
    ----------
    file : binary file
        Seekable.
    read : Delimited
        What was read before.
    columns : sequence of str
        Their names.
    """
    file.seek(0)
    return pd.read_csv(
        file,
        sep=read.separator,
        encoding=read.encoding,
        skiprows=read.skip,
        usecols=list(columns),
        index_col=False,
        dtype="str",
    )


def _parsed(file: BinaryIO, name: str, written: Writing, *, as_text: bool) -> pd.DataFrame:
    # Lines longer than the header: pandas would take what is first for their names, and move the rest.
    n_more = max(0, len(written.first) - len(written.header))
    header = [column or f"Unnamed: {at}" for at, column in enumerate(written.header)]
    try:
        table = pd.read_csv(
            file,
            sep=written.separator,
            encoding=written.encoding,
            skiprows=written.skip,
            dtype="str" if as_text else None,
            **({"header": 0, "names": [*header, *map(str, range(-n_more, 0))]} if n_more else {}),
        )
    except pd.errors.ParserError as error:
        odd = re.search(r"Expected (\d+) fields in line (\d+), saw (\d+)", str(error))
        if odd:
            raise TableNotRead(
                f"Line {odd[2]} of {name[:1].lower()}{name[1:]} has {odd[3]} values; those before it have {odd[1]}. "
                "A value with a separator in it needs quotation marks. Mend the line and upload it again."
            ) from error
        if "EOF inside string" in str(error):
            raise TableNotRead(
                f"{name} has a quotation mark that is never closed{_line_of(str(error))}. Mend it and upload it again."
            ) from error
        raise
    except UnicodeDecodeError as error:
        raise TableNotRead(f"{name} mixes encodings. Save it as CSV in UTF-8 and upload it again.") from error
    return _without_nameless(table, n_more, name) if n_more else table


def _without_nameless(table: pd.DataFrame, n_more: int, name: str) -> pd.DataFrame:
    """Lines that end with separators, as the header does not, have only empty values beyond it.

    Raises
    ------
    TableNotRead
        If there is a value.
    """
    named, beyond = table.iloc[:, :-n_more], table.iloc[:, -n_more:].notna().any(axis=1)
    if not beyond.any():
        return named
    n_values = named.shape[1] + int(table.iloc[int(beyond.argmax()), -n_more:].notna().to_numpy().nonzero()[0][-1]) + 1
    raise TableNotRead(
        f"Row {int(beyond.argmax()) + 1} of {name[:1].lower()}{name[1:]} has {n_values} values, but its header names "
        f"{named.shape[1]}. Give every column a name, and put a value with a separator in it in quotation marks."
    )


def _line_of(message: str) -> str:
    row = re.search(r"row (\d+)", message)
    return f", in or before line {int(row[1]) + 1}" if row else ""


def _refuse_twice(header: Sequence[str], name: str) -> None:
    twice = columns_twice(header)
    if twice:
        names = ", ".join(f"`{column}`" for column in twice[:8])
        raise TableNotRead(f"{name} has two columns called {names}. Rename one of them.")


def _without_empty_columns(table: pd.DataFrame) -> pd.DataFrame:
    """Separators at the end of lines make a column with neither name nor values."""
    empty = [name for name in table.columns if str(name).startswith("Unnamed: ") and table[name].isna().all()]
    return table.drop(columns=empty) if empty and len(table) else table
