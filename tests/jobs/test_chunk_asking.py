"""Chunks in parts, and as the rows they are."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from plain_window.core.batches.asking import columns_of
from plain_window.core.contract.chunks import ChunkColumns, CodedColumn
from plain_window.jobs.chunk_asking import part_of, rows_of


@st.composite
def chunks(draw: st.DrawFn) -> ChunkColumns:
    n_rows = draw(st.integers(1, 20))
    numbers = draw(st.lists(st.floats(allow_infinity=False), min_size=n_rows, max_size=n_rows))
    codes = draw(st.lists(st.integers(0, 2), min_size=n_rows, max_size=n_rows))
    texts = draw(st.lists(st.none() | st.text(max_size=3), min_size=n_rows, max_size=n_rows))
    return ChunkColumns(
        n_rows,
        {"peak": np.array(numbers, dtype="float64").tobytes()},
        {"kiln": CodedColumn(np.array(codes, dtype="int32").tobytes(), ["gas", True, None])},
        {"said": list(texts)},
    )


@given(chunks(), st.data())
def test_a_part_of_a_chunk_is_those_rows_of_it(chunk: ChunkColumns, data: st.DataObject) -> None:
    start = data.draw(st.integers(0, chunk.n_rows))
    end = data.draw(st.integers(start, chunk.n_rows + 5))
    assert rows_of(part_of(chunk, start, end)) == rows_of(chunk)[start:end]


@given(chunks())
def test_a_worker_and_a_runner_are_asked_about_the_same_rows(chunk: ChunkColumns) -> None:
    columns = columns_of(chunk)
    rows = rows_of(chunk)
    assert len(rows) == chunk.n_rows
    for at, row in enumerate(rows):
        assert row["kiln"] is columns["kiln"][at]
        assert row["said"] == columns["said"][at]
        number = columns["peak"][at]
        # A gap is NaN to a plan, and nothing to a library.
        assert row["peak"] == (None if np.isnan(number) else number)
