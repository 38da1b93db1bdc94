"""A result that is there as CSV, made into Parquet or a spreadsheet, a part at a time."""

import re
import zipfile
from collections.abc import Iterator, Sequence
from typing import Any, BinaryIO, Literal
from xml.sax.saxutils import escape

import pyarrow as pa
from pyarrow import compute as pc
from pyarrow import parquet

from ..contract.table_cases import Style
from ..errors import TableNotRead
from .raw_chunks import RawChunk
from .text_chunks import TextChunks
from .writing import plain_numbers, unguarded

__all__ = ["convert_result"]

MOST_CELL_CHARACTERS = 32_767
# A number as a program would write it: what has zeros in front is a code.
CELL_NUMBER = re.compile(r"-?(?:0|[1-9]\d{0,14})(?:\.\d+)?(?:[eE][+-]?\d{1,3})?")
# What XML cannot hold.
NOT_IN_XML = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]")
PART_BYTES = 1 << 20
SHEET_PARTS = {
    "[Content_Types].xml": (
        '<?xml version="1.0" encoding="UTF-8"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/'
        'content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+'
        'xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" '
        'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override '
        'PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.'
        'spreadsheetml.worksheet+xml"/></Types>'
    ),
    "_rels/.rels": (
        '<?xml version="1.0" encoding="UTF-8"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/'
        'relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/'
        'relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>'
    ),
    "xl/workbook.xml": (
        '<?xml version="1.0" encoding="UTF-8"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/'
        'main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet '
        'name="answers" sheetId="1" r:id="r1"/></sheets></workbook>'
    ),
    "xl/_rels/workbook.xml.rels": (
        '<?xml version="1.0" encoding="UTF-8"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/'
        'relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/'
        'relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>'
    ),
}
SHEET_HEAD = (
    '<?xml version="1.0" encoding="UTF-8"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">'
    "<sheetData>"
)
SHEET_FOOT = "</sheetData></worksheet>"


class _Parts:
    """A file that is written from its start to its end, and taken away in parts."""

    closed = False

    def __init__(self) -> None:
        self._parts: list[bytes] = []

    def write(self, data: Any) -> int:
        data = bytes(data)
        self._parts.append(data)
        return len(data)

    def tell(self) -> int:
        raise OSError("it cannot be gone back in")

    def flush(self) -> None:
        """There is nothing to flush to."""

    def close(self) -> None:
        """It stays open for whoever takes what is left."""

    @property
    def size(self) -> int:
        return sum(map(len, self._parts))

    def taken(self) -> bytes:
        content = b"".join(self._parts)
        self._parts.clear()
        return content


def convert_result(
    file: BinaryIO, *, to: Literal["parquet", "xlsx"], types: Sequence[str], style: Style
) -> Iterator[bytes]:
    """A result in CSV as another kind of file, in parts.

    Parameters
    ----------
    file : binary file
        Seekable.
    to : "parquet" or "xlsx"
    types : sequence of str
        What each column holds, as Arrow names it.
    style : Style
        How the CSV is written.

    Raises
    ------
    TableNotRead
        If a column is not what it is said to be.
    """
    chunks = TextChunks(file, "The result", separator=style.separator)
    headings = unguarded(pa.array(chunks.columns, pa.string())).to_pylist()
    if to == "parquet":
        return _parquet(chunks, headings, types, style)
    return _sheet(chunks, headings, types, style)


def _parquet(chunks: TextChunks, headings: list[str], types: Sequence[str], style: Style) -> Iterator[bytes]:
    schema = pa.schema([(heading, _type(name)) for heading, name in zip(_apart(headings), types, strict=True)])
    out = _Parts()
    with parquet.ParquetWriter(pa.PythonFile(out, mode="w"), schema) as writer:
        for chunk in chunks:
            columns = [_cast(column, type_, style) for column, type_ in zip(chunk.texts, schema.types, strict=True)]
            writer.write_batch(pa.record_batch(columns, schema=schema))
            yield out.taken()
    yield out.taken()


def _apart(headings: Sequence[str]) -> list[str]:
    """Headings none of which stands twice: Parquet's columns are told by their names."""
    seen: dict[str, int] = {}
    out = []
    for heading in headings:
        seen[heading] = seen.get(heading, 0) + 1
        out.append(heading if seen[heading] == 1 else f"{heading} ({seen[heading]})")
    return out


def _type(name: str) -> pa.DataType:
    try:
        return pa.type_for_alias(name)
    except ValueError:
        return pa.string()


def _cast(column: pa.Array, type_: pa.DataType, style: Style) -> pa.Array:
    if pa.types.is_string(type_):
        return unguarded(column)
    if pa.types.is_float64(type_):
        numbers = plain_numbers(column, style)
        if numbers is None:
            raise TableNotRead("The result has a cell that is no number in a column of numbers. Take it as CSV.")
        return numbers
    return pc.cast(pc.if_else(pc.equal(column, ""), None, column), type_)


def _sheet(chunks: TextChunks, headings: list[str], types: Sequence[str], style: Style) -> Iterator[bytes]:
    out = _Parts()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=3) as book:
        for path, content in SHEET_PARTS.items():
            book.writestr(path, content)
        with book.open("xl/worksheets/sheet1.xml", "w", force_zip64=True) as sheet:
            sheet.write((SHEET_HEAD + _row([_word(heading) for heading in headings])).encode())
            for chunk in chunks:
                for rows in _written(chunk, types, style):
                    sheet.write(rows)
                    if out.size > PART_BYTES:
                        yield out.taken()
            sheet.write(SHEET_FOOT.encode())
    yield out.taken()


def _written(chunk: RawChunk, types: Sequence[str], style: Style) -> Iterator[bytes]:
    columns = [unguarded(column).to_pylist() for column in chunk.texts]
    has_comma = [style.has_decimal_comma and type_ == "double" for type_ in types]
    rows: list[str] = []
    for cells in zip(*columns, strict=True):
        rows.append(_row([_cell(cell, comma) for cell, comma in zip(cells, has_comma, strict=True)]))
        if len(rows) == 1000:
            yield "".join(rows).encode()
            rows = []
    yield "".join(rows).encode()


def _row(cells: Sequence[str]) -> str:
    return f"<row>{''.join(cells)}</row>"


def _cell(text: str | None, has_comma: bool) -> str:
    if not text:
        return "<c/>"
    number = text.replace(",", ".") if has_comma else text
    if CELL_NUMBER.fullmatch(number):
        return f"<c><v>{number}</v></c>"
    return _word(text)


def _word(text: str) -> str:
    clean = NOT_IN_XML.sub("", text)[:MOST_CELL_CHARACTERS]
    return f'<c t="inlineStr"><is><t xml:space="preserve">{escape(clean)}</t></is></c>'
