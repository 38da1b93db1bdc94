"""One table, with what programs and people put around it, read the same wherever a table is brought."""

import gzip
import io
import re
import zipfile
from collections.abc import Callable
from decimal import Decimal
from typing import Any

import openpyxl
import pandas as pd
import pytest

from plain_window.core.batches.chunks import open_chunks
from plain_window.core.errors import TableNotRead
from plain_window.core.starters.reading import as_written
from plain_window.core.tables.reading import read_table

HEADER, ROWS = ["kiln", "peak", "pots"], [["A", 1240, 12], ["B", 1180, 7], ["C", 1200, 9]]
LINES = "kiln,peak,pots\nA,1240,12\nB,1180,7\nC,1200,9\n"
SEMICOLONS = LINES.replace(",", ";")


def sheet(*rows: list[Any], then: Callable[[Any], None] = lambda sheet: None) -> bytes:
    """A spreadsheet with these rows."""
    book = openpyxl.Workbook()
    for row in rows:
        book.active.append(row)
    then(book.active)
    file = io.BytesIO()
    book.save(file)
    return file.getvalue()


def with_sheet(content: bytes, what: bytes, instead: bytes) -> bytes:
    """A spreadsheet in whose sheet's file something stands instead of something else."""
    file = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as old, zipfile.ZipFile(file, "w") as new:
        for name in old.namelist():
            new.writestr(name, re.sub(what, instead, old.read(name)))
    return file.getvalue()


def stating_size(content: bytes, size: str) -> bytes:
    """A spreadsheet that says it is of another size."""
    return with_sheet(content, rb'<dimension ref="[^"]*"', f'<dimension ref="{size}"'.encode())


def parquet() -> bytes:
    """As a database's driver may write it, with the rows called by a column."""
    rows = [(name.encode(), Decimal(peak), pots) for name, peak, pots in ROWS]
    file = io.BytesIO()
    pd.DataFrame(rows, columns=HEADER).set_index("pots").to_parquet(file)
    return file.getvalue()


def archive(**files: str) -> bytes:
    """A zip archive."""
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as made:
        for name, text in files.items():
            made.writestr(name, text)
    return file.getvalue()


def read_for_a_model(content: bytes) -> tuple[pd.DataFrame, list[str]]:
    read = read_table(io.BytesIO(content), name="the table")
    return read.table, read.notes


def read_for_a_job(content: bytes) -> tuple[pd.DataFrame, list[str]]:
    chunks = open_chunks(io.BytesIO(content), name="The table")
    parts = [
        pd.DataFrame({name: cells.to_pylist() for name, cells in zip(chunks.columns, chunk.texts, strict=True)})
        for chunk in chunks
    ]
    return pd.concat(parts), chunks.notes


def read_for_fitting(content: bytes) -> tuple[pd.DataFrame, list[str]]:
    table, _, notes = as_written(io.BytesIO(content), name="The table")
    return table, notes


READERS = [read_for_a_model, read_for_a_job, read_for_fitting]
TITLE = "Firings of March"
SAVED = {
    "as it is": LINES.encode(),
    "a title and an empty line": f"{TITLE}\n\n{LINES}".encode(),
    "a title right above numbers": f"{TITLE}\n{SEMICOLONS}".encode(),
    "a sheet with a title, saved as text": f"{TITLE},,\n,,\n{LINES}".encode("cp1252"),
    "remarks": f"# {TITLE}\n# from kiln three\n{LINES}".encode(),
    "separators behind lines but not behind the header": LINES.replace("\n", ",\n").replace("pots,", "pots").encode(),
    "a sheet": sheet(HEADER, *ROWS),
    "a sheet with a title": sheet([TITLE], [], HEADER, *ROWS),
    "a sheet that begins elsewhere": sheet([], *([None, None, *row] for row in [HEADER, *ROWS])),
    "a sheet that says it is smaller": stating_size(sheet(HEADER, *ROWS), "A1:B2"),
    "a sheet that says it is empty": stating_size(sheet(HEADER, *ROWS), "A1"),
    "out of a database": parquet(),
}


@pytest.mark.parametrize("reader", READERS)
@pytest.mark.parametrize("saved", SAVED)
def test_the_table_is_found_in_what_was_saved(reader: Callable, saved: str) -> None:
    table, notes = reader(SAVED[saved])
    texts = table[HEADER].map(lambda value: f"{float(value):g}" if re.fullmatch(r"[\d.]+", str(value)) else str(value))
    assert texts.to_numpy().tolist() == [[kiln, str(peak), str(pots)] for kiln, peak, pots in ROWS]
    # What was left out is said.
    assert any(TITLE in note for note in notes) == (TITLE.encode() in SAVED[saved] or saved == "a sheet with a title")


REFUSED = {
    "one column of text with commas": (
        b"note\nblue, wide\nred, tall\n",
        "Row 1 of the table has 2 values, but its header",
    ),
    "words below words": (
        b"Kilns\nkiln,clay\nA,red\nB,white\n",
        "Row 1 of the table has 2 values, but its header names 1",
    ),
    "single quotation marks": (b"a,b\n'x, y',1\n'z',2\n", "Row 1 of the table has 3 values, but its header names 2"),
    "a value without a name": (b"a,b\n1,2,\n3,4,5\n", "Row 2 of the table has 3 values, but its header names 2"),
    "a formula": (sheet(HEADER, ["A", "=600+640", 12]), "Cell B2 of the table is a formula, and the file does not say"),
    "a sheet with words right above words": (
        sheet(["Kilns"], ["kiln", "clay"], ["A", "red"]),
        "names one column, and others",
    ),
    "a column without a name": (
        sheet(["kiln", None, "pots"], *ROWS),
        "Cell B1 of the table is empty, and below it are",
    ),
    "packed": (gzip.compress(LINES.encode()), "is packed with gzip. Unpack it"),
    "a web page": (b"<!DOCTYPE html><table><tr><td>kiln</td></tr></table>", "is a web page or XML"),
    "OpenDocument": (
        archive(mimetype="application/vnd.oasis.opendocument.spreadsheet"),
        "is an OpenDocument spreadsheet",
    ),
    "cut off": (sheet(HEADER, *ROWS)[:-40], "is a spreadsheet or an archive that was cut off"),
    "an archive": (archive(**{"firings.csv": LINES}), "is a zip archive, not a table. Unpack it"),
}


@pytest.mark.parametrize("case", REFUSED)
def test_what_would_be_read_wrong_is_refused_in_words(case: str) -> None:
    content, sentence = REFUSED[case]
    with pytest.raises(TableNotRead, match=re.escape(sentence)):
        read_for_a_model(content)


def test_what_a_sheet_has_besides_its_table_is_said() -> None:
    merged = sheet(HEADER, *ROWS, then=lambda sheet: sheet.merge_cells("A2:A3"))
    beside = sheet([*HEADER, None], *([*row, "checked by Mia"] for row in ROWS))
    numbered = sheet([None, *HEADER], *([at, *row] for at, row in enumerate(ROWS)))
    for content, words in (
        (merged, "has merged cells"),
        (beside, "values in column `D`, which has no name"),
        (numbered, "row numbers without a name"),
    ):
        table, notes = read_for_a_model(content)
        assert table["peak"].tolist() == [peak for _, peak, _ in ROWS]
        assert any(words in note for note in notes)
    titled = sheet([TITLE], [], HEADER, *ROWS, then=lambda sheet: sheet.merge_cells("A1:C1"))
    assert not any("merged" in note for note in read_for_a_model(titled)[1])


def test_a_formula_that_comes_to_nothing_is_a_gap() -> None:
    worked = sheet(HEADER, *ROWS, then=lambda sheet: sheet.__setitem__("A3", '=IF(B3>1200,"B","")'))
    cell = b'<c r="A3" t="str"><f>IF(B3&gt;1200,"B","")</f><v></v></c>'
    table, _ = read_for_a_model(with_sheet(worked, rb'<c r="A3".*?</c>', cell))
    assert table["kiln"].isna().tolist() == [False, True, False]


def test_a_sheet_whose_header_is_space_is_refused_in_words() -> None:
    for reader in READERS:
        with pytest.raises(TableNotRead, match="has no sheet with values"):
            reader(sheet([" "], [" "]))


def test_a_header_of_one_name_stays_one() -> None:
    assert read_for_a_model(b"pots\n12\n7\n")[0]["pots"].tolist() == [12, 7]
    table, notes = read_for_a_model(b"kiln,,\nA,red,3\nB,white,4\n")
    assert (table.columns[0], table["kiln"].tolist(), notes) == ("kiln", ["A", "B"], [])


def test_lists_are_left_out_of_what_a_model_is_made_of() -> None:
    file = io.BytesIO()
    pd.DataFrame(
        {"kiln": ["A", "B"], "peak": [1240, 1180], "curve": [[20, 600], [20, 580]], "blob": [b"\xff", b"\xfe"]}
    ).to_parquet(file)
    table, notes = read_for_fitting(file.getvalue())
    assert list(table.columns) == ["kiln", "peak"]
    assert [note.split(" holds lists or bytes")[0] for note in notes] == ["`curve`", "`blob`"]
