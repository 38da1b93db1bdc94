"""Columns as CSV that a spreadsheet takes for what it is: no cell of it is a formula."""

import codecs
import io
from collections.abc import Sequence

import pyarrow as pa
from pyarrow import compute as pc
from pyarrow import csv as arrow_csv

from ..contract.table_cases import Style

__all__ = ["POINTED", "as_csv", "csv_header", "guarded", "plain_numbers", "unguarded"]

POINTED = Style()
MARK = codecs.BOM_UTF8

# What spreadsheets take for the start of a formula, behind the marks that we or others put in front of one.
FORMULA = r"^'*[=+\-@\t\r]"
NUMBER = r"^[+\-]?(?:[0-9]+(?:[.,][0-9]+)*|[.,][0-9]+)(?:[eE][+\-]?[0-9]+)?\s*%?$"
GUARDED = r"^'+[=+\-@\t\r]"


def guarded(column: pa.Array) -> pa.Array:
    """Texts with a mark in front of what a spreadsheet would take for a formula. Numbers stay as they are.

    Parameters
    ----------
    column : pyarrow.Array of string
    """
    risky = pc.match_substring_regex(column, FORMULA)
    if not pc.any(risky).as_py():
        return column
    risky = pc.and_(risky, pc.invert(pc.match_substring_regex(column, NUMBER)))
    return pc.if_else(pc.fill_null(risky, False), pc.binary_join_element_wise("'", column, ""), column)


def unguarded(column: pa.Array) -> pa.Array:
    """The texts that `guarded` was given.

    Parameters
    ----------
    column : pyarrow.Array of string
    """
    marked = pc.match_substring_regex(column, GUARDED)
    if not pc.any(marked).as_py():
        return column
    return pc.if_else(pc.fill_null(marked, False), pc.utf8_slice_codeunits(column, 1), column)


def plain_numbers(column: pa.Array, style: Style) -> pa.Array | None:
    """Texts as numbers, empty ones as gaps; None unless all of them are written as a program writes numbers.

    Parameters
    ----------
    column : pyarrow.Array of string
    style : Style
        Whether a comma is for the decimals.
    """
    filled = pc.if_else(pc.equal(column, ""), None, column)
    if style.has_decimal_comma:
        filled = pc.replace_substring(filled, ",", ".")
    try:
        return pc.cast(filled, pa.float64())
    except pa.ArrowInvalid:
        return None


def csv_header(headings: Sequence[str], style: Style = POINTED) -> bytes:
    """The first line of a CSV.

    Parameters
    ----------
    headings : sequence of str
    style : Style, optional
    """
    row = guarded(pa.array(headings, pa.string()))
    return (MARK if style.has_mark else b"") + as_csv([row[at : at + 1] for at in range(len(row))], style)


def as_csv(columns: Sequence[pa.Array], style: Style = POINTED) -> bytes:
    """Columns as lines of CSV, without a header. Texts are expected to be guarded; a gap is an empty cell.

    Parameters
    ----------
    columns : sequence of pyarrow.Array, each of length n_rows
        Texts and numbers.
    style : Style, optional
    """
    if style.has_decimal_comma:
        columns = [_with_comma(column) if pa.types.is_floating(column.type) else column for column in columns]
    table = pa.table(list(columns), names=[str(at) for at in range(len(columns))])
    out = io.BytesIO()
    options = arrow_csv.WriteOptions(include_header=False, quoting_style="needed", delimiter=style.separator)
    arrow_csv.write_csv(table, out, options)
    return out.getvalue()


def _with_comma(column: pa.Array) -> pa.Array:
    return pc.replace_substring(pc.cast(column, pa.string()), ".", ",")
