"""Reading tables, and building the table a model gets."""

import io

import pandas as pd
import pytest

from plain_window.core.errors import TableNotRead
from plain_window.core.fields.inference import columns_of
from plain_window.core.fields.tables import model_table, read_table

from ..made_models import FEATURES, csv, firings


@pytest.mark.parametrize(
    ("content", "message"),
    [
        (b"", "The reference table is empty."),
        (b"a,b\n", "The reference table has no rows."),
        (b"a,b,a\n1,2,3\n", "The reference table has two columns called `a`."),
        (b"a,b\n1,2\n1,2,3\n", "could not be read as CSV or Parquet"),
        (b"a\n\xff\xfe\n", "is not in UTF-8"),
        (b"\x00\x01\x02\x03" * 50, "is not a CSV or Parquet file"),
        (b"PAR1 and then nothing", "could not be read as CSV or Parquet"),
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
    pd.testing.assert_frame_equal(read_table(io.BytesIO(csv(table))), read_table(parquet), check_dtype=False)


def test_rows_become_the_very_table_they_were_taken_from():
    table = read_table(io.BytesIO(csv(firings())))[FEATURES]
    rows = [
        {name: getattr(value, "item", lambda v=value: v)() for name, value in row.items()}
        for _, row in table.iterrows()
    ]
    pd.testing.assert_frame_equal(model_table(columns_of(table, FEATURES), rows), table)


def test_half_a_pot_reaches_the_model_as_it_was_asked():
    table = firings()
    built = model_table(columns_of(table, ["pots"]), [{"pots": 7.5}])
    assert built["pots"].tolist() == [7.5]
