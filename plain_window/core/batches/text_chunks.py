"""Text with separators, a block of whole lines at a time."""

import codecs
import csv
import io
from collections.abc import Iterator
from typing import BinaryIO

import pyarrow as pa
from pyarrow import csv as arrow_csv

from ..errors import TableNotRead
from ..tables.written_text import Writing, how_written
from .raw_chunks import RawChunk

__all__ = ["TextChunks"]

BLOCK_BYTES = 4 << 20
# A line longer than this is none: a quotation mark was never closed.
MOST_LINE_BYTES = 64 << 20
PLAIN_ENCODINGS = ("utf-8", "utf-8-sig")
BOM = codecs.BOM_UTF8


class TextChunks:
    """A text with separators.

    Parameters
    ----------
    file : binary file
        Seekable, at its start.
    name : str
        What to call the table at the start of a sentence.
    separator : str, optional
        What parts its values, where that is known; then it is in UTF-8 as well.

    Raises
    ------
    TableNotRead
        If it is no such text.
    """

    total: int | None = None

    def __init__(self, file: BinaryIO, name: str, *, separator: str = "") -> None:
        self._file, self._name = file, name
        written = Writing("utf-8", separator, 0, _header(file, separator), []) if separator else how_written(file, name)
        self._written = written
        self._n_rows = self._n_bytes = 0
        self.columns, self.notes = [column.strip() for column in written.header], list(written.notes)
        self.types = ["string"] * len(self.columns)
        if not self.columns:
            raise TableNotRead(f"{name} has no header. Its first line names the columns.")

    @property
    def separator(self) -> str:
        """What parts its values."""
        return self._written.separator

    @property
    def has_mark(self) -> bool:
        """Whether it begins with a mark that says it is in UTF-8."""
        return self._written.encoding == "utf-8-sig"

    def rows_in_all(self, size: int) -> int | None:
        """How many rows there are, going by what has been read so far; None before any has.

        Parameters
        ----------
        size : int
            Of the whole, in bytes.
        """
        if not self._n_rows:
            return None
        return self._n_rows if self.is_read(size) else round(self._n_rows / self._n_bytes * size)

    def is_read(self, size: int) -> bool:
        """Whether all of it has been read.

        Parameters
        ----------
        size : int
            Of the whole, in bytes.
        """
        return self._file.tell() >= size

    def __iter__(self) -> Iterator[RawChunk]:
        n_lines, self._n_rows, self._n_bytes = self._written.skip + 1, 0, 0
        for block in self._blocks():
            body, n_lines = _without_lines(block, n_lines)
            if body.strip():
                chunk = self._parsed(body)
                self._refuse_unclosed(body, chunk)
                self._n_rows += chunk.n_rows
                self._n_bytes += len(block)
                yield from chunk.parts()

    def _blocks(self) -> Iterator[bytes]:
        """The text in UTF-8, in blocks that end with a line."""
        self._file.seek(0)
        pending = b""
        decoder = None
        if self._written.encoding not in PLAIN_ENCODINGS:
            decoder = codecs.getincrementaldecoder(self._written.encoding)("replace")
        is_first = True
        while data := self._file.read(BLOCK_BYTES):
            pending += decoder.decode(data).encode() if decoder else data
            if is_first:
                pending, is_first = pending.removeprefix(BOM), False
            # Line ends of long ago.
            if b"\n" not in pending and b"\r" in pending:
                pending = pending.replace(b"\r", b"\n")
            end = _end_of_lines(pending)
            if not end and len(pending) > MOST_LINE_BYTES:
                raise TableNotRead(
                    f"{self._name} has a line of more than {MOST_LINE_BYTES >> 20} MB, or a quotation mark that is "
                    "never closed. Mend it and upload it again."
                )
            yield pending[:end]
            pending = pending[end:]
        yield pending + (decoder.decode(b"", final=True).encode() if decoder else b"") + b"\n"

    def _parsed(self, block: bytes) -> RawChunk:
        names = [str(at) for at in range(len(self.columns))]
        odd_lines = []

        def skip(row: arrow_csv.InvalidRow) -> str:
            odd_lines.append(row.actual_columns)
            return "skip"

        try:
            table = arrow_csv.read_csv(
                pa.BufferReader(block),
                read_options=arrow_csv.ReadOptions(
                    column_names=names, use_threads=False, block_size=max(len(block) + 1, BLOCK_BYTES)
                ),
                parse_options=arrow_csv.ParseOptions(
                    delimiter=self._written.separator, newlines_in_values=True, invalid_row_handler=skip
                ),
                convert_options=arrow_csv.ConvertOptions(
                    column_types=dict.fromkeys(names, pa.string()), strings_can_be_null=False
                ),
            )
        except pa.ArrowInvalid as error:
            if "UTF8" not in str(error):
                raise
            raise TableNotRead(f"{self._name} mixes encodings. Save it as CSV in UTF-8 and upload it again.") from error
        if odd_lines:
            return self._line_by_line(block)
        return RawChunk([column.combine_chunks() for column in table.columns], [None] * len(names))

    def _refuse_unclosed(self, block: bytes, chunk: RawChunk) -> None:
        """Refuse a last value that runs to the end of the table because its quotation mark is never closed."""
        if block.count(b'"') % 2 and any("\n" in (column[-1].as_py() or "") for column in chunk.texts):
            row = self._n_rows + chunk.n_rows
            raise TableNotRead(
                f"{self._name} has a quotation mark that is never closed: a value in row {row} runs to the end of the "
                "table. Mend it and upload it again."
            )

    def _line_by_line(self, block: bytes) -> RawChunk:
        """A block with lines that do not fit the header: short ones are filled up, long ones are said to be so."""
        width = len(self.columns)
        rows: list[list[str]] = []
        broken: dict[int, str] = {}
        for row in csv.reader(io.StringIO(block.decode(), newline=""), delimiter=self._written.separator):
            if not row:
                continue
            if any(row[width:]):
                broken[len(rows)] = (
                    f"The line has {len(row)} values; the header has {width}. A value with a separator in it needs "
                    "quotation marks."
                )
            rows.append([*row[:width], *[""] * (width - len(row))])
        columns = list(zip(*rows, strict=True)) or [()] * width
        return RawChunk([pa.array(column, pa.string()) for column in columns], [None] * width, broken)


def _header(file: BinaryIO, separator: str) -> list[str]:
    head = file.read(BLOCK_BYTES)
    file.seek(0)
    text = head.removeprefix(BOM).decode("utf-8", errors="replace")
    return next(csv.reader(io.StringIO(text, newline=""), delimiter=separator), [])


def _end_of_lines(block: bytes) -> int:
    """Where the last whole line ends: at a line end before which every quotation mark is closed."""
    end = block.rfind(b"\n")
    n_quotes = block.count(b'"', 0, end + 1)
    while end >= 0 and n_quotes % 2:
        before = block.rfind(b"\n", 0, end)
        n_quotes -= block.count(b'"', before + 1, end + 1)
        end = before
    return end + 1


def _without_lines(block: bytes, n_lines: int) -> tuple[bytes, int]:
    """A block without its first lines, and how many are still to be left out."""
    at = 0
    while n_lines and at < len(block):
        end = block.find(b"\n", at)
        while end >= 0 and block.count(b'"', at, end) % 2:
            end = block.find(b"\n", end + 1)
        at = end + 1 if end >= 0 else len(block)
        n_lines -= 1
    return block[at:], n_lines
