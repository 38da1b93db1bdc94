"""Excel files: one sheet with a header."""

import zipfile
from typing import TYPE_CHECKING, Any, BinaryIO

from ..errors import TableNotRead

if TYPE_CHECKING:  # whether a file is one is asked of every model file
    import pandas as pd

__all__ = ["is_spreadsheet", "read_spreadsheet", "sheet_place"]

# What a sheet may unpack to.
MOST_UNPACKED_BYTES = 2 << 30


def is_spreadsheet(file: BinaryIO) -> bool:
    """Whether it is an Excel file of today; the file is left at its start.

    Parameters
    ----------
    file : binary file
        Seekable.
    """
    try:
        return "xl/workbook.xml" in zipfile.ZipFile(file).namelist()
    except (zipfile.BadZipFile, OSError):
        return False
    finally:
        file.seek(0)


def read_spreadsheet(file: BinaryIO, name: str) -> "tuple[pd.DataFrame, list[str]]":
    """The one sheet that has something in it.

    Parameters
    ----------
    file : binary file
    name : str
        What to call the table in messages.

    Returns
    -------
    DataFrame, list of str
        And what its author should know.

    Raises
    ------
    TableNotRead
        If there are several sheets, or none.
    """
    import openpyxl
    import pandas as pd

    unpacked = sum(entry.file_size for entry in zipfile.ZipFile(file).infolist())
    if unpacked > MOST_UNPACKED_BYTES:
        raise TableNotRead(f"{name} unpacks to more than {MOST_UNPACKED_BYTES >> 30} GB. Save it as Parquet.")
    book = openpyxl.load_workbook(file, read_only=True, data_only=True)
    sheets = {sheet.title: rows for sheet in book.worksheets if (rows := _rows(sheet))}
    if not sheets:
        raise TableNotRead(f"{name} has no sheet with values. It needs a header and at least one row.")
    if len(sheets) > 1:
        names = ", ".join(f"`{title}`" for title in list(sheets)[:8])
        raise TableNotRead(
            f"{name} is an Excel file with {len(sheets)} sheets ({names}). Which one is meant cannot be told: save it "
            "by itself and upload that."
        )
    ((title, rows),) = sheets.items()
    header = ["" if cell is None else str(cell).strip() for cell in rows[0]]
    width = max((at + 1 for at, cell in enumerate(header) if cell), default=0)
    twice = sorted({cell for cell in header if cell and header.count(cell) > 1})
    if twice:
        raise TableNotRead(f"{name} has two columns called {', '.join(f'`{one}`' for one in twice)}. Rename one.")
    if not all(header[:width]) or width == 0:
        at = next((at for at, cell in enumerate(header[:width]) if not cell), 0)
        column = openpyxl.utils.get_column_letter(at + 1)
        raise TableNotRead(f"Cell {column}1 of {name[:1].lower()}{name[1:]} is empty; the first row names the columns.")
    body = [[*row[:width], *[None] * (width - len(row[:width]))] for row in rows[1:]]
    body = [row for row in body if any(cell is not None for cell in row)]
    table = pd.DataFrame(body, columns=header[:width]).infer_objects()
    notes = [f"{name} is an Excel file; its sheet `{title}` was read."]
    return table.map(lambda cell: cell.strip() or None if isinstance(cell, str) else cell), notes


def sheet_place(file: BinaryIO) -> tuple[str, int]:
    """Title of the first sheet that has something in it, and how many empty rows stand before its header.

    Parameters
    ----------
    file : binary file
        Seekable; it is left at its start.

    Raises
    ------
    StopIteration
        If no sheet has anything in it.
    """
    import openpyxl

    book = openpyxl.load_workbook(file, read_only=True, data_only=True)
    places = (
        (str(sheet.title), at)
        for sheet in book.worksheets
        for at, row in enumerate(sheet.iter_rows(values_only=True))
        if any(cell is not None for cell in row)
    )
    found = next(places)
    file.seek(0)
    return found


def _rows(sheet: Any) -> list[tuple[Any, ...]]:
    """The rows from the first that has something in it."""
    rows = list(sheet.iter_rows(values_only=True))
    while rows and all(cell is None for cell in rows[0]):
        rows.pop(0)
    while rows and all(cell is None for cell in rows[-1]):
        rows.pop()
    return rows
