"""Reading tables, and building the table a model gets."""

import io

import numpy as np
import pandas as pd
import pytest

from plain_window.core.errors import MismatchFaults, TableNotRead
from plain_window.core.fields.inference import columns_of
from plain_window.core.formats.model_table import model_table
from plain_window.core.starters.columns import looks_of
from plain_window.core.tables.reading import read_table

from ..made_models import FEATURES, csv, firings


@pytest.mark.parametrize(
    ("content", "message"),
    [
        (b"", "The reference table is empty."),
        (b"a,b\n", "The reference table has no rows."),
        (b"a,b,a\n1,2,3\n", "The reference table has two columns called `a`."),
        (b"\x00\x01\x02\x03" * 50, "is not a table that is known here"),
        (b"PAR1 and then nothing", "The reference table could not be read"),
    ],
)
def test_what_is_no_table_is_refused_in_words(content, message):
    with pytest.raises(TableNotRead, match=message):
        read_table(io.BytesIO(content))


def test_csv_and_parquet_give_the_same_table():
    table = firings()
    parquet = io.BytesIO()
    table.to_parquet(parquet)
    parquet.seek(0)
    pd.testing.assert_frame_equal(
        read_table(io.BytesIO(csv(table))).table, read_table(parquet).table, check_dtype=False
    )


def test_rows_become_the_very_table_they_were_taken_from():
    table = read_table(io.BytesIO(csv(firings()))).table[FEATURES]
    rows = [
        {name: getattr(value, "item", lambda v=value: v)() for name, value in row.items()}
        for _, row in table.iterrows()
    ]
    pd.testing.assert_frame_equal(model_table(columns_of(table, FEATURES), rows), table)


def test_half_a_pot_reaches_the_model_as_it_was_asked():
    table = firings()
    built = model_table(columns_of(table, ["pots"]), [{"pots": 7.5}])
    assert built["pots"].tolist() == [7.5]


# --- tables as people have them ---------------------------------------------------------------------------------------


def read(content: bytes | str, **options):
    return read_table(io.BytesIO(content.encode() if isinstance(content, str) else content), **options)


def values(content: bytes | str, column: str, **options) -> list:
    return read(content, **options).table[column].tolist()


@pytest.mark.parametrize(
    ("written", "number"),
    [
        ("1,234,567", 1234567),
        ("1,234.5", 1234.5),
        ("1.234,5", 1234.5),
        ("1.234.567", 1234567),
        ("3,5", 3.5),
        ("0,125", 0.125),
        ("1 234", 1234),
        ("1\u202f234,5", 1234.5),
        ("1'234.50", 1234.5),
        ("12 %", 12),
        ("€ 3", 3),
        ("3,50 €", 3.5),
        ("-$1,234.00", -1234),
        ("CHF 1'200", 1200),
        ("−7,25", -7.25),
        ("(12.50)", -12.5),
        ("1,5e3", 1500),
    ],
)
def test_a_number_is_read_where_there_is_one_reading(written, number):
    assert values(f'price;pots\n"{written}";3\n"{written}";4\n', "price") == [number] * 2


@pytest.mark.parametrize(
    ("lines", "expected"), [(["41,006", "1,234,567"], [41006, 1234567]), (["41,006", "3,5"], [41.006, 3.5])]
)
def test_other_values_of_the_column_tell_what_a_comma_means(lines, expected):
    assert values("price\n" + "\n".join(f'"{line}"' for line in lines) + "\n", "price") == expected


def test_other_columns_tell_what_a_sign_means():
    table = read("ort;preis;brand\nUlm;41.006;1,5\nRom;7.250;2,25\n").table
    assert table["preis"].tolist() == [41006, 7250]
    assert table["brand"].tolist() == [1.5, 2.25]


def test_what_has_two_readings_is_asked_about_and_never_guessed():
    for content in ('price\n"41,006"\n"7,250"\n', "price;pots\n41.006;3\n7.250;4\n"):
        doubtful = read(content)
        with pytest.raises(MismatchFaults, match=r"two ways: \"41[,.]006\" may be 41006 or 41.006") as caught:
            doubtful.refuse_doubtful(["price"])
        assert caught.value.faults[0].field == "price"
        # A column nobody asks for is nobody's trouble.
        doubtful.refuse_doubtful(["pots"])
    assert values('price\n"41,006"\n', "price", numbers="point") == [41006]
    assert values('price\n"41,006"\n', "price", numbers="comma") == [41.006]
    assert values("price;pots\n41.006;3\n", "price", numbers="point") == [41.006]
    assert values("price;pots\n41.006;3\n", "price", numbers="comma") == [41006]


def test_plain_csv_is_read_as_pandas_reads_it():
    content = csv(firings(50).assign(share=np.linspace(0.001, 0.9, 50).round(3), code="12-34", three=1.125))
    pd.testing.assert_frame_equal(read(content).table, pd.read_csv(io.BytesIO(content)))
    assert read(content).notes == []


@pytest.mark.parametrize(
    "content",
    [
        "clay;pots\nGrès;3\n".encode("cp1252"),
        "\ufeffclay,pots\nGrès,3\n".encode(),
        "clay\tpots\r\nGrès\t3\r\n".encode("utf-16"),
        "sep=;\nclay;pots\nGrès;3\n".encode(),
        "clay|pots|\nGrès|3|\n".encode(),
        '{"clay": "Grès", "pots": 3}\n'.encode(),
        '[{"clay": "Grès", "pots": 3}]'.encode(),
    ],
    ids=["western and semicolons", "a BOM", "UTF-16 and tabs", "sep=", "strokes", "JSON lines", "a JSON list"],
)
def test_the_same_table_is_read_however_it_was_saved(content):
    table = read(content).table
    assert table.to_dict("records") == [{"clay": "Grès", "pots": 3}]


def spreadsheet(**sheets: pd.DataFrame) -> bytes:
    file = io.BytesIO()
    with pd.ExcelWriter(file, engine="openpyxl") as writer:
        for title, sheet in sheets.items():
            sheet.to_excel(writer, sheet_name=title, index=False)
    return file.getvalue()


def test_an_excel_file_is_read_if_one_sheet_has_something_in_it():
    table = firings(30)
    pd.testing.assert_frame_equal(
        read(spreadsheet(Firings=table, Empty=pd.DataFrame())).table, table, check_dtype=False
    )
    with pytest.raises(TableNotRead, match="an Excel file with 2 sheets \\(`one`, `two`\\)"):
        read(spreadsheet(one=table, two=table))


@pytest.mark.parametrize(
    ("content", "sentence"),
    [
        ("a,b\n1,2\n3,4,5\n", "Line 3 of the reference table has 3 values; those before it have 2"),
        ('a,b\n1,"2\n3,4\n', "a quotation mark that is never closed"),
        ('{"a": 1}\n{"a": \n', "Line 2 of the reference table is not valid JSON"),
        ('{"a": 1}\n{"a": [1]}\n', "Line 2 of the reference table has a list in `a`"),
        (b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1 and so on", "an old Excel file"),
        (b"\x80\x04\x95 and so on", "is a model saved by pickle, not a table"),
        (b"\x89PNG\r\n\x1a\n", "is a picture, not a table"),
        ("a;a\n1;2\n", "two columns called `a`"),
    ],
)
def test_what_cannot_be_read_says_where_and_why(content, sentence):
    with pytest.raises(TableNotRead, match=sentence):
        read(content)


def test_numbers_among_which_one_is_none_name_its_row():
    odd = read('pots,price\n1,"€ 3"\n2,"€ 4"\n3,€ 5\n4,"€ 6"\n5,dear\n')
    assert odd.odd == {"price": (4, "dear")}
    assert odd.table["price"].tolist()[:2] == ["€ 3", "€ 4"]


def test_every_number_of_a_long_column_is_read():
    count = 25_000
    lines = [f"{at},5" for at in range(count)]
    assert values("price;pots\n" + "\n".join(f"{line};3" for line in lines) + "\n", "price") == [
        at + 0.5 for at in range(count)
    ]


def test_names_in_brackets_and_long_cells_are_read_as_they_stand():
    note = "Oxblood, then celadon; " * 10_000
    table = read(f'[id],note\n7,"{note}"\n8,none\n').table
    assert table.columns.tolist() == ["[id]", "note"]
    assert table["note"].tolist() == [note, "none"]


@pytest.mark.parametrize(
    "cell", ["1" + " " * 300_000 + "!", "1,234" * 60_000 + "x", " 3" * 150_000, "1" * 300_000 + "kg"]
)
def test_a_long_cell_that_begins_as_a_number_does_is_soon_seen_to_be_none(cell):
    # Looked at sign by sign from each of its places it would take minutes.
    assert read(f'note\n"{cell}"\nnone\n').table["note"].tolist()[0].strip() == cell.strip()
    look = looks_of(pd.Series([cell, "none", "some"], name="note"), convention=None, of_table=None)
    assert look.kind in ("text", "category")
