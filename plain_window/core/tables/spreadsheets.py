"""Excel files: one sheet with a header."""

import itertools
import re
import zipfile
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, BinaryIO

from ..errors import TableNotRead
from .title_lines import header_row, is_empty, left_out

if TYPE_CHECKING:  # whether a file is one is asked of every model file
    import pandas as pd

__all__ = ["Sheet", "is_spreadsheet", "open_sheet", "read_spreadsheet"]

# What a sheet may unpack to.
MOST_UNPACKED_BYTES = 2 << 30
ROWS_LOOKED_AT = 200
# As a sheet's file has them: a formula without a value, and merged cells. What comes to an empty text has none either,
# and says that it is a text.
UNWORKED = re.compile(
    rb"<(?:\w+:)?c\b([^<>]*)>\s*<(?:\w+:)?f\b(?:[^<>]*/>|[^<>]*>[^<]*</(?:\w+:)?f>)\s*"
    rb"(?:<(?:\w+:)?v\s*/>|<(?:\w+:)?v>\s*</(?:\w+:)?v>)?\s*</(?:\w+:)?c>"
)
AS_TEXT = b't="str"'
MERGED = re.compile(rb'<(?:\w+:)?mergeCell ref="[A-Z]+\d+:[A-Z]+(\d+)"')
# The longest formula, and what is around it.
LONGEST_CELL, PART_BYTES = 1 << 14, 1 << 20


@dataclass(frozen=True)
class Sheet:
    """A sheet, and where its table is.

    Attributes
    ----------
    sheet : Worksheet
    title : str
    n_above : int
        Rows above the one that names the columns.
    header : list of str
        The names; empty where a column has none.
    notes : list of str
        What the table's author should know.
    """

    sheet: Any
    title: str
    n_above: int
    header: list[str]
    notes: list[str]

    def rows(self) -> Iterator[tuple[object, ...]]:
        """The rows below the header."""
        return iter(self.sheet.iter_rows(min_row=self.n_above + 2, values_only=True))


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


def open_sheet(file: BinaryIO, name: str) -> Sheet:
    """The one sheet that has something in it.

    Parameters
    ----------
    file : binary file
        Seekable, at its start.
    name : str
        What to call the table at the start of a sentence.

    Raises
    ------
    TableNotRead
        If there are several sheets, or none, or a formula without its value.
    """
    import openpyxl

    _refuse_other_archives(file, name)
    unpacked = sum(entry.file_size for entry in zipfile.ZipFile(file).infolist())
    if unpacked > MOST_UNPACKED_BYTES:
        raise TableNotRead(f"{name} unpacks to more than {MOST_UNPACKED_BYTES >> 30} GB. Save it as Parquet.")
    last_merged = _look_at_cells(file, name)
    sheets = openpyxl.load_workbook(file, read_only=True, data_only=True).worksheets
    for sheet in sheets:
        # How large a sheet says it is need not be true: some programs write that of an empty one.
        sheet.reset_dimensions()
    filled = [sheet for sheet in sheets if any(map(_is_filled, sheet.iter_rows(values_only=True)))]
    if not filled:
        raise TableNotRead(f"{name} has no sheet with values. It needs a header and at least one row.")
    if len(filled) > 1:
        names = ", ".join(f"`{sheet.title}`" for sheet in filled[:8])
        raise TableNotRead(
            f"{name} is an Excel file with {len(filled)} sheets ({names}). Which one is meant cannot be told: save it "
            "by itself and upload that."
        )
    return _placed(filled[0], name, last_merged)


def _placed(sheet: Any, name: str, last_merged: int) -> Sheet:
    """Where its header is; titles above it are often merged, and nothing hangs on that."""
    rows = sheet.iter_rows(values_only=True)
    n_empty, first = next((at, row) for at, row in enumerate(rows) if _is_filled(row))
    some = [first, *itertools.islice(rows, ROWS_LOOKED_AT)]
    at = header_row(some)
    header = ["" if cell is None else str(cell).strip() for cell in some[at]]
    while header and not header[-1]:
        header.pop()
    notes = [f"{name} is an Excel file; its sheet `{sheet.title}` was read.", *left_out(some[:at], name)]
    if last_merged > n_empty + at:
        notes.append(f"{name} has merged cells: only the first of them holds the value, the others are empty.")
    return Sheet(sheet, str(sheet.title), n_empty + at, header, notes)


def _refuse_other_archives(file: BinaryIO, name: str) -> None:
    if is_spreadsheet(file):
        return
    try:
        archive = zipfile.ZipFile(file)
        kind = archive.read("mimetype") if "mimetype" in archive.namelist() else b""
    except (zipfile.BadZipFile, OSError) as error:
        raise TableNotRead(
            f"{name} is a spreadsheet or an archive that was cut off or damaged. Save it again, and upload that."
        ) from error
    if b"opendocument.spreadsheet" in kind:
        raise TableNotRead(f"{name} is an OpenDocument spreadsheet. Save it as .xlsx or CSV, and upload that.")
    raise TableNotRead(f"{name} is a zip archive, not a table. Unpack it, and upload the table in it.")


def read_spreadsheet(file: BinaryIO, name: str) -> "tuple[pd.DataFrame, Sheet]":
    """The one sheet that has something in it.

    Parameters
    ----------
    file : binary file
    name : str
        What to call the table in messages.

    Returns
    -------
    DataFrame, Sheet
        And where it stood. What its author should know is in its notes.

    Raises
    ------
    TableNotRead
        If there are several sheets, or none; if a column with values has no name, or two have the same.
    """
    import pandas as pd

    sheet = open_sheet(file, name)
    header = sheet.header
    twice = sorted({cell for cell in header if cell and header.count(cell) > 1})
    if twice:
        raise TableNotRead(f"{name} has two columns called {', '.join(f'`{one}`' for one in twice)}. Rename one.")
    rows = [row for row in sheet.rows() if _is_filled(row)]
    named = [at for at, cell in enumerate(header) if cell]
    nameless = {at for row in rows for at, cell in enumerate(row) if cell is not None} - set(named)
    inside, beside = sorted(at for at in nameless if at < len(header)), [at for at in nameless if at >= len(header)]
    if inside == [0] and [row[0] for row in rows] in (list(range(len(rows))), list(range(1, len(rows) + 1))):
        sheet.notes.append(f"{name} has row numbers without a name in its first column; they were left out.")
    elif inside:
        raise TableNotRead(
            f"Cell {_letters(inside[0])}{sheet.n_above + 1} of {name[:1].lower()}{name[1:]} is empty, and below it are "
            "values. The row names the columns: give that one a name."
        )
    if beside and len(named) == 1:
        raise TableNotRead(
            f"Row {sheet.n_above + 1} of {name[:1].lower()}{name[1:]} names one column, and others have values below "
            "it. Give every column a name."
        )
    if beside:
        letters = f"`{_letters(min(beside))}`"
        sheet.notes.append(f"{name} has values in column {letters}, which has no name; they were left out.")
    body = [[row[at] if at < len(row) else None for at in named] for row in rows]
    body = [row for row in body if _is_filled(row)]
    table = pd.DataFrame(body, columns=[header[at] for at in named]).infer_objects()
    return table.map(lambda cell: cell.strip() or None if isinstance(cell, str) else cell), sheet


def _letters(at: int) -> str:
    import openpyxl

    letters: str = openpyxl.utils.get_column_letter(at + 1)
    return letters


def _is_filled(row: Sequence[object]) -> bool:
    return not all(map(is_empty, row))


def _look_at_cells(file: BinaryIO, name: str) -> int:
    """The number of the last row with merged cells, 0 without any.

    Raises
    ------
    TableNotRead
        If a formula has no value: a program wrote the file, and no spreadsheet program has worked it out since.
    """
    last_merged = 0
    with zipfile.ZipFile(file) as book:
        for entry in book.namelist():
            if not entry.startswith("xl/worksheets/") or not entry.endswith(".xml"):
                continue
            with book.open(entry) as part:
                before = b""
                while some := part.read(PART_BYTES):
                    before += some
                    if unworked := next((cell for cell in UNWORKED.finditer(before) if AS_TEXT not in cell[1]), None):
                        _refuse_formula(unworked[1], name)
                    last_merged = max(last_merged, *(int(found[1][:8]) for found in MERGED.finditer(before)), 0)
                    before = before[-LONGEST_CELL:]
    file.seek(0)
    return last_merged


def _refuse_formula(attributes: bytes, name: str) -> None:
    place = re.search(rb'r="([A-Z]+\d+)"', attributes)
    where = f"Cell {place[1].decode()}" if place else "A cell"
    raise TableNotRead(
        f"{where} of {name[:1].lower()}{name[1:]} is a formula, and the file does not say what it comes to. Open it in "
        "a spreadsheet program, save it, and upload that."
    )
