"""How text with separators is written: its encoding, what parts the values, its header. Needs no pandas."""

import contextlib
import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import BinaryIO

from charset_normalizer import from_bytes

from ..errors import TableNotRead
from .title_lines import header_row, left_out

__all__ = ["Writing", "columns_twice", "how_written"]

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
class Writing:
    """How a text with separators is written. `skip` lines stand before its header; `first` are the values below it."""

    encoding: str
    separator: str
    skip: int
    header: list[str]
    notes: list[str]
    first: list[str] = field(default_factory=list)


def how_written(file: BinaryIO, name: str) -> Writing:
    """Find out how a text with separators is written.

    Parameters
    ----------
    file : binary file
        Seekable, at its start; it is left there.
    name : str
        What to call the table in messages.

    Raises
    ------
    TableNotRead
        If it is no text.
    """
    head = file.read(HEAD_BYTES)
    file.seek(0)
    encoding, is_guessed = _encoding(file, head)
    if encoding is None:
        raise TableNotRead(
            f"{name} is not a table that is known here. Save it as CSV, Excel (.xlsx) or Parquet and upload it again."
        )
    text = head.decode(encoding, errors="replace")
    if "\0" in text:
        raise TableNotRead(f"{name} holds bytes that are no text. Save it as CSV or Excel (.xlsx) and upload it again.")
    lines = text.splitlines()
    # A first line that tells spreadsheets the separator.
    told = re.match(r"^sep=(.)$", lines[0]) if lines else None
    skip = 1 if told else 0
    separator = told[1] if told else _separator(lines)
    rows, ends = _rows(lines[skip : skip + HEAD_LINES], separator)
    at = header_row(rows)
    notes = []
    if is_guessed:
        notes.append(f"{name} is not in UTF-8; it was read as {encoding}. Check letters with accents.")
    if separator != ",":
        named = {";": "semicolons", "\t": "tabs", "|": "upright strokes"}.get(separator, f"`{separator}`")
        notes.append(f"{name} is separated by {named}.")
    notes += left_out(rows[:at], name)
    skip += ends[at - 1] if at else 0
    header, *below = [row for row in rows[at:] if row] or [[]]
    return Writing(encoding, separator, skip, header, notes, below[0] if below else [])


def columns_twice(header: Sequence[str]) -> list[str]:
    """Names that stand over more than one column.

    Parameters
    ----------
    header : sequence of str
    """
    return sorted({column for column in header if column and list(header).count(column) > 1})


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


def _rows(lines: Sequence[str], separator: str) -> tuple[list[list[str]], list[int]]:
    """What stands in some lines, and after how many of them each row ends."""
    reader = csv.reader(io.StringIO("\n".join(lines)), delimiter=separator)
    rows, ends = [], []
    with contextlib.suppress(csv.Error):
        for row in reader:
            rows.append(row)
            ends.append(reader.line_num)
    return rows, ends


def _separator(lines: Sequence[str]) -> str:
    """What parts the values: the sign by which most lines have as many values as the header, and more than one."""
    some = [line for line in lines[:HEAD_LINES] if line.strip()]
    best, best_fit = ",", (0.0, 0)
    for separator in SEPARATORS:
        rows, _ = _rows(some, separator)
        own = rows[header_row(rows) :]
        width = len(own[0]) if own else 0
        if width < 2:
            continue
        # The last line may be cut off.
        fit = (sum(len(row) == width for row in own) / len(own), width)
        if fit > best_fit and (best_fit[0] == 0 or fit[0] > best_fit[0] + 0.05):
            best, best_fit = separator, fit
    return best
