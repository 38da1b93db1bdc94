"""Lines of CSV that no spreadsheet takes for a formula."""

import csv
import io
from collections.abc import Sequence

__all__ = ["csv_line"]

# What a spreadsheet takes for the beginning of a formula.
FORMULA_SIGNS = ("=", "+", "-", "@", "\t", "\r")


def csv_line(cells: Sequence[object]) -> str:
    """One line.

    Parameters
    ----------
    cells : sequence
        Words and numbers; None for an empty cell.
    """
    file = io.StringIO()
    csv.writer(file).writerow([_plain(cell) for cell in cells])
    return file.getvalue()


def _plain(cell: object) -> object:
    if isinstance(cell, str) and cell.startswith(FORMULA_SIGNS):
        return f"'{cell}"
    return "" if cell is None else cell
