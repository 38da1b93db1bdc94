"""A spreadsheet, some rows at a time."""

import datetime as dt
from collections.abc import Iterator
from typing import Any, BinaryIO

import pyarrow as pa

from ..tables.spreadsheets import open_sheet
from .raw_chunks import CHUNK_ROWS, RawChunk

__all__ = ["SheetChunks"]

# Reading cells of a spreadsheet takes its time: no more of them at once than a second or two take.
SHEET_CELLS = 100_000
# A sheet that claims to be wider than any is not looked at cell by cell.
MOST_COLUMNS = 16_384


class SheetChunks:
    """The one sheet of a spreadsheet that has something in it.

    Parameters
    ----------
    file : binary file
        Seekable.
    name : str
        What to call the table at the start of a sentence.

    Raises
    ------
    TableNotRead
        If there is no such sheet, or several.
    """

    total: int | None = None

    def __init__(self, file: BinaryIO, name: str) -> None:
        sheet = open_sheet(file, name)
        self._rows = sheet.rows
        self.columns = sheet.header[:MOST_COLUMNS]
        self.types = ["string"] * len(self.columns)
        self.notes = sheet.notes

    def __iter__(self) -> Iterator[RawChunk]:
        width = len(self.columns)
        most_rows = max(1, min(CHUNK_ROWS, SHEET_CELLS // width))
        rows: list[list[str | None]] = []
        for row in self._rows():
            if all(cell is None for cell in row):
                continue
            cells = [None if cell is None else _text(cell) for cell in row[:width]]
            rows.append([*cells, *[None] * (width - len(cells))])
            if len(rows) == most_rows:
                yield _chunk(rows, width)
                rows = []
        if rows:
            yield _chunk(rows, width)


def _chunk(rows: list[list[str | None]], width: int) -> RawChunk:
    columns = zip(*rows, strict=True)
    return RawChunk([pa.array(column, pa.string()) for column in columns], [None] * width)


def _text(cell: Any) -> str:
    """A cell as it would be written in a text."""
    if isinstance(cell, bool):
        return "true" if cell else "false"
    if isinstance(cell, float) and cell.is_integer() and abs(cell) < 1e15:
        return str(int(cell))
    if isinstance(cell, dt.datetime) and cell.time() == dt.time():
        return cell.date().isoformat()
    return str(cell)
