"""A file of any kind as a table, with what was concluded on the way."""

import contextlib
import re
from dataclasses import dataclass, field
from decimal import Decimal
from typing import BinaryIO

import pandas as pd
from pandas.api import types as dtypes

from ..errors import Fault, MismatchFaults, TableNotRead
from .delimited import Delimited, read_delimited, reread_as_text
from .kinds_of_file import refuse_other_files
from .numbers import Convention, Reading, convention_of, read_numbers
from .objects import read_objects
from .spreadsheets import read_spreadsheet

__all__ = ["TableRead", "read_table"]

MAGIC_BYTES = 64
PARQUET_MAGIC, ZIP_MAGIC = b"PAR1", b"PK\x03\x04"
# An object, or a list that begins with one; a name in brackets may stand over a column.
OBJECTS = re.compile(rb"\s*(?:\{|\[\s*(?:\{|\]|$))")
KINDS = "It takes CSV (with commas, semicolons or tabs), Excel (.xlsx), JSON lines and Parquet."
# How an author may say that numbers are written.
NUMBER_WAYS = ("1,234.5", "1.234,5")
# From this share of readable numbers on, a column of words was meant to hold numbers.
MOSTLY_NUMBERS = 0.8


@dataclass
class TableRead:
    """A table as it was read, its columns of words turned into numbers where they are.

    `as_written` has those columns before that, for models that know them as words; `two` an example of each column that
    has two readings, and `odd` row and text of what is no number in a column that else is of numbers.
    """

    table: pd.DataFrame
    name: str
    notes: list[str] = field(default_factory=list)
    as_written: dict[str, pd.Series] = field(default_factory=dict)
    two: dict[str, str] = field(default_factory=dict)
    odd: dict[str, tuple[int, str]] = field(default_factory=dict)

    def for_words(self, names: list[str]) -> pd.DataFrame:
        """The table with these columns as they are written.

        Parameters
        ----------
        names : list of str
        """
        own = {name: self.as_written[name] for name in names if name in self.as_written}
        return self.table.assign(**own) if own else self.table

    def refuse_doubtful(self, names: list[str]) -> None:
        """Ask about columns with two readings.

        Parameters
        ----------
        names : list of str
            The columns in use.

        Raises
        ------
        MismatchFaults
            With one fault for each of `names` whose numbers can be read in two ways.
        """
        faults = [
            Fault(name, _two_words(name, self.two[name], self.name), "numbers", NUMBER_WAYS)
            for name in names
            if name in self.two
        ]
        if faults:
            raise MismatchFaults(faults)


def read_table(file: BinaryIO, *, name: str = "the reference table", numbers: Convention | None = None) -> TableRead:
    """Read a table, whatever kind of file it is in, told by content.

    Parameters
    ----------
    file : binary file
        Seekable.
    name : str
        What to call the table in messages.
    numbers : "point" or "comma", optional
        How numbers are written, where the author has said so.

    Raises
    ------
    TableNotRead
        If it is no table, is damaged, has no rows, or has two columns of one name.
    """
    capital = name[:1].upper() + name[1:]
    magic = file.read(MAGIC_BYTES)
    file.seek(0)
    if not magic:
        raise TableNotRead(f"{capital} is empty. {KINDS}")
    try:
        read, delimited = _read(file, magic, capital)
    except (TableNotRead, MismatchFaults):
        raise
    except Exception as error:  # the readers raise whatever their parsers do; all of it means the file is no table
        reason = str(error).strip().split("\n")[0][:200]
        raise TableNotRead(f"{capital} could not be read: {reason.rstrip('.')}. {KINDS}") from error
    if read.table.empty:
        raise TableNotRead(f"{capital} has no rows. It needs a header and at least one row.")
    read.table.columns = [str(column).strip() for column in read.table.columns]
    read.table = read.table.reset_index(drop=True)
    read.name = name
    _read_words_as_numbers(read, file, delimited, numbers)
    return read


def _read(file: BinaryIO, magic: bytes, name: str) -> tuple[TableRead, Delimited | None]:
    if magic.startswith(PARQUET_MAGIC):
        return TableRead(_plain(pd.read_parquet(file)), name), None
    if magic.startswith(ZIP_MAGIC):
        table, sheet = read_spreadsheet(file, name)
        return TableRead(table, name, sheet.notes), None
    refuse_other_files(file, magic, name, kinds=KINDS)
    if OBJECTS.match(magic.removeprefix(b"\xef\xbb\xbf")):
        return TableRead(read_objects(file, name), name), None
    read = read_delimited(file, name)
    return TableRead(read.table, name, read.notes), read


def _plain(table: pd.DataFrame) -> pd.DataFrame:
    """What databases write, as a text would give it: decimal numbers, and words in bytes. A named index is a column."""
    named = [level for level in table.index.names if level is not None]
    table = table.reset_index(level=named) if named else table
    for name in table.columns:
        known = table[name].dropna() if dtypes.is_object_dtype(table[name]) else ()
        if not len(known):
            continue
        if all(isinstance(value, Decimal) for value in known):
            table[name] = table[name].astype("float64")
        elif all(isinstance(value, bytes) for value in known):
            with contextlib.suppress(UnicodeDecodeError):
                table[name] = table[name].map(bytes.decode, na_action="ignore")
    return table


def _read_words_as_numbers(
    read: TableRead, file: BinaryIO, delimited: Delimited | None, stated: Convention | None
) -> None:
    """Turn columns of words into numbers where each has one reading."""
    table = read.table
    words = [name for name in table.columns if _is_words(table[name])]
    conventions = {name: convention_of(table[name]) for name in words if _is_mostly_numbers(table[name])}
    told = {one for one in conventions.values() if one is not None}
    of_table = stated or (next(iter(told)) if len(told) == 1 else None)
    columns = {name: table[name] for name in conventions}
    if delimited is not None:
        columns |= _pointed_columns(read, file, delimited, of_table)
    for name, column in columns.items():
        _take(read, name, column, read_numbers(column, of_table))


def _is_words(column: pd.Series) -> bool:
    return not dtypes.is_numeric_dtype(column) and column.map(lambda value: isinstance(value, str)).any()


def _is_mostly_numbers(column: pd.Series) -> bool:
    known = column.dropna().astype(str)
    some = known.head(1000)
    return bool(len(some)) and some.str.contains(r"\d").mean() >= MOSTLY_NUMBERS


def _pointed_columns(
    read: TableRead, file: BinaryIO, delimited: Delimited, of_table: Convention | None
) -> dict[str, pd.Series]:
    """Columns that were read as numbers with a point, where that point may group: in tables that write a comma for it,
    or that are separated by semicolons."""
    if of_table == "point" or (of_table is None and delimited.separator != ";"):
        return {}
    floats = [name for name in read.table.columns if dtypes.is_float_dtype(read.table[name])]
    if not floats:
        return {}
    written = reread_as_text(file, delimited, floats)
    written.columns = [str(name).strip() for name in written.columns]
    doubtful = {}
    for name in floats:
        pointed = written[name].dropna().str.strip()
        pointed = pointed[pointed.str.contains(".", regex=False)]
        if len(pointed) and pointed.str.fullmatch(r"[-−]?[1-9]\d{0,2}(\.\d{3})+").all():
            doubtful[name] = written[name].reset_index(drop=True)
    return doubtful


def _take(read: TableRead, name: str, column: pd.Series, reading: Reading) -> None:
    if reading.two is not None:
        read.two[name] = reading.two
        return
    if reading.values is None:
        if reading.odd is not None and _share_of_numbers(column) >= MOSTLY_NUMBERS:
            read.odd[name] = reading.odd
        return
    read.as_written[name] = column
    read.table = read.table.assign(**{name: reading.values})
    if not reading.is_plain:
        at = next(at for at, value in enumerate(column) if isinstance(value, str) and value.strip())
        example, number = str(column.iloc[at]).strip(), reading.values.iloc[at]
        doubt = " If the model was trained on shares from 0 to 1, divide them first." if "%" in reading.signs else ""
        read.notes.append(f'`{name}` of {read.name}: "{example[:40]}" was read as {number:.12g}.{doubt}')


def _share_of_numbers(column: pd.Series) -> float:
    some = column.dropna().astype(str).head(1000)
    return float(some.map(lambda value: read_numbers(pd.Series([value]), "point").values is not None).mean())


def _two_words(name: str, example: str, table: str) -> str:
    digits = example.replace(".", "").replace(",", "")
    decimal = example.replace(",", ".")
    return (
        f'`{name}` of {table} can be read in two ways: "{example}" may be {digits} or {decimal}. Say how the table '
        f"writes numbers: send `numbers` as {' or as '.join(f'`{way}`' for way in NUMBER_WAYS)}."
    )
