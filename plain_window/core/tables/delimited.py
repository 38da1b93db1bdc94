"""Text with separators: which encoding, which separator, and where a line does not fit the header.

What `pandas.read_csv` reads by itself is read by its defaults, because that is how it was read in the notebook the
model was trained in: the same column must get the same type here.
"""

import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import BinaryIO

import pandas as pd
from charset_normalizer import from_bytes

from ..errors import TableNotRead

__all__ = ["Delimited", "read_delimited", "reread_as_text"]

# How much is looked at to find the separator and the encoding.
HEAD_BYTES, HEAD_LINES = 1 << 20, 200
SEPARATORS = (",", ";", "\t", "|")
# The encodings spreadsheets save in, apart from UTF-8; which of them it is hardly ever changes what is read.
# A cell may be as long as what is looked at; the usual limit is an eighth of that.
csv.field_size_limit(2 * HEAD_BYTES)
USUAL_ENCODINGS = ["cp1252", "cp1250", "cp1251", "mac_roman", "cp932", "gb18030"]
FEWEST_LETTERS = 40
BOMS = {b"\xef\xbb\xbf": "utf-8-sig", b"\xff\xfe": "utf-16", b"\xfe\xff": "utf-16"}


@dataclass(frozen=True)
class Delimited:
    """A table, how it was written, and what its author should know of that."""

    table: pd.DataFrame
    encoding: str
    separator: str
    skip: int
    notes: list[str]


def read_delimited(file: BinaryIO, name: str) -> Delimited:
    """Read text with separators.

    Parameters
    ----------
    file : binary file
        Seekable, at its start.
    name : str
        What to call the table in messages.

    Raises
    ------
    TableNotRead
        If it is no such text, naming the line that does not fit.
    """
    head = file.read(HEAD_BYTES)
    file.seek(0)
    encoding, is_guessed = _encoding(file, head)
    if encoding is None:
        raise TableNotRead(
            f"{name} is not a table that is known here. Save it as CSV, Excel (.xlsx), JSON lines or Parquet and "
            "upload it again."
        )
    text = head.decode(encoding, errors="replace")
    if "\0" in text:
        raise TableNotRead(f"{name} holds bytes that are no text. Save it as CSV or Excel (.xlsx) and upload it again.")
    lines = text.splitlines()
    # A first line that tells spreadsheets the separator.
    told = re.match(r"^sep=(.)$", lines[0]) if lines else None
    skip = 1 if told else 0
    separator = told[1] if told else _separator(lines)
    header = next(csv.reader(io.StringIO("\n".join(lines[skip : skip + 5])), delimiter=separator), [])
    _refuse_twice(header, name)
    notes = []
    if is_guessed:
        notes.append(f"{name} is not in UTF-8; it was read as {encoding}. Check letters with accents.")
    if separator != ",":
        named = {";": "semicolons", "\t": "tabs", "|": "upright strokes"}.get(separator, f"`{separator}`")
        notes.append(f"{name} is separated by {named}.")
    table = _parsed(file, name, encoding, separator, skip)
    return Delimited(_without_empty_columns(table), encoding, separator, skip, notes)


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
        file, sep=read.separator, encoding=read.encoding, skiprows=read.skip, usecols=list(columns), dtype="str"
    )


def _parsed(file: BinaryIO, name: str, encoding: str, separator: str, skip: int) -> pd.DataFrame:
    try:
        return pd.read_csv(file, sep=separator, encoding=encoding, skiprows=skip)
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


def _line_of(message: str) -> str:
    row = re.search(r"row (\d+)", message)
    return f", in or before line {int(row[1]) + 1}" if row else ""


def _encoding(file: BinaryIO, head: bytes) -> tuple[str | None, bool]:
    """The encoding, and whether it was guessed; None if it is no text."""
    for mark, encoding in BOMS.items():
        if head.startswith(mark):
            return encoding, False
    if b"\0" in head:
        return None, False
    try:
        for part in iter(lambda: file.read(HEAD_BYTES), b""):
            # A character may be cut in two between parts.
            part.decode("utf-8", errors="strict") if len(part) < HEAD_BYTES else _decode_part(part, file)
        return "utf-8", False
    except UnicodeDecodeError:
        return _guessed(head), True
    finally:
        file.seek(0)


def _guessed(head: bytes) -> str:
    """The likeliest encoding of what is no UTF-8; from a few letters it cannot be told, and the usual one is taken."""
    if sum(byte > 127 for byte in head) < FEWEST_LETTERS:
        return USUAL_ENCODINGS[0]
    guess = from_bytes(head, cp_isolation=USUAL_ENCODINGS).best()
    if guess is None or _reads_alike(head, guess.encoding):
        return USUAL_ENCODINGS[0]
    return str(guess.encoding)


def _reads_alike(head: bytes, encoding: str) -> bool:
    """Whether the usual encoding gives the same letters, so that nothing hangs on which it is called."""
    usual = head.decode(USUAL_ENCODINGS[0], errors="replace")
    return head.decode(encoding, errors="replace") == usual


def _decode_part(part: bytes, file: BinaryIO) -> None:
    for cut in range(4):
        try:
            part[: len(part) - cut].decode("utf-8", errors="strict")
        except UnicodeDecodeError as error:
            if cut == 3 or error.start < len(part) - 4:
                raise
        else:
            file.seek(-cut, io.SEEK_CUR)
            return


def _separator(lines: Sequence[str]) -> str:
    """What parts the values: the sign by which most lines have as many values as the header, and more than one."""
    some = [line for line in lines[:HEAD_LINES] if line.strip()]
    best, best_fit = ",", (0.0, 0)
    for separator in SEPARATORS:
        try:
            rows = list(csv.reader(io.StringIO("\n".join(some)), delimiter=separator))
        except csv.Error:
            continue
        width = len(rows[0]) if rows else 0
        if width < 2:
            continue
        # The last line may be cut off.
        fit = (sum(len(row) == width for row in rows) / len(rows), width)
        if fit > best_fit and (best_fit[0] == 0 or fit[0] > best_fit[0] + 0.05):
            best, best_fit = separator, fit
    return best


def _refuse_twice(header: Sequence[str], name: str) -> None:
    twice = sorted({column for column in header if column and list(header).count(column) > 1})
    if twice:
        names = ", ".join(f"`{column}`" for column in twice[:8])
        raise TableNotRead(f"{name} has two columns called {names}. Rename one of them.")


def _without_empty_columns(table: pd.DataFrame) -> pd.DataFrame:
    """Separators at the end of lines make a column with neither name nor values."""
    empty = [name for name in table.columns if str(name).startswith("Unnamed: ") and table[name].isna().all()]
    return table.drop(columns=empty) if empty and len(table) else table
