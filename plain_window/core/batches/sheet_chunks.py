"""A spreadsheet, some rows at a time."""

import datetime as dt
import zipfile
from collections.abc import Iterator
from typing import Any, BinaryIO

import openpyxl
import pyarrow as pa

from ..errors import TableNotRead
from ..tables.spreadsheets import MOST_UNPACKED_BYTES
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
        unpacked = sum(entry.file_size for entry in zipfile.ZipFile(file).infolist())
        if unpacked > MOST_UNPACKED_BYTES:
            raise TableNotRead(f"{name} unpacks to more than {MOST_UNPACKED_BYTES >> 30} GB. Save it as Parquet.")
        file.seek(0)
        self._book = openpyxl.load_workbook(file, read_only=True, data_only=True)
        filled = [sheet for sheet in self._book.worksheets if any(_filled_rows(sheet))]
        if not filled:
            raise TableNotRead(f"{name} has no sheet with values. It needs a header and at least one row.")
        if len(filled) > 1:
            names = ", ".join(f"`{sheet.title}`" for sheet in filled[:8])
            raise TableNotRead(
                f"{name} is a spreadsheet with {len(filled)} sheets ({names}). Which one is meant cannot be told: save "
                "it by itself and upload that."
            )
        self._sheet = filled[0]
        header = next(iter(_filled_rows(self._sheet)))[:MOST_COLUMNS]
        width = max(at + 1 for at, cell in enumerate(header) if cell is not None)
        self.columns = ["" if cell is None else _text(cell).strip() for cell in header[:width]]
        self.types = ["string"] * width
        self.notes = [f"{name} is a spreadsheet; its sheet `{self._sheet.title}` was read."]

    def __iter__(self) -> Iterator[RawChunk]:
        width = len(self.columns)
        most_rows = max(1, min(CHUNK_ROWS, SHEET_CELLS // width))
        rows: list[list[str | None]] = []
        filled = iter(_filled_rows(self._sheet))
        next(filled)
        for row in filled:
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


def _filled_rows(sheet: Any) -> Iterator[tuple[Any, ...]]:
    """The rows that have something in them."""
    return (row for row in sheet.iter_rows(values_only=True) if any(cell is not None for cell in row))


def _text(cell: Any) -> str:
    """A cell as it would be written in a text."""
    if isinstance(cell, bool):
        return "true" if cell else "false"
    if isinstance(cell, float) and cell.is_integer() and abs(cell) < 1e15:
        return str(int(cell))
    if isinstance(cell, dt.datetime) and cell.time() == dt.time():
        return cell.date().isoformat()
    return str(cell)
