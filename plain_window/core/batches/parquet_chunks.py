"""Parquet, some rows at a time."""

import json
from collections.abc import Iterator
from typing import BinaryIO

import pyarrow as pa
from pyarrow import compute as pc
from pyarrow import parquet

from .raw_chunks import CHUNK_ROWS, RawChunk

__all__ = ["ParquetChunks"]

READ_BYTES = 1 << 20


class ParquetChunks:
    """A Parquet file.

    Parameters
    ----------
    file : binary file
        Seekable.
    name : str
        What to call the table at the start of a sentence.
    """

    def __init__(self, file: BinaryIO, name: str) -> None:
        # Columns are read as they are needed: a file may be one group of millions of rows.
        self._file = parquet.ParquetFile(pa.PythonFile(file, mode="r"), buffer_size=READ_BYTES, pre_buffer=False)
        schema = self._file.schema_arrow
        self.total: int | None = self._file.metadata.num_rows
        # What pandas keeps of its rows' names is no column of the table.
        own = [at for at, name in enumerate(schema.names) if not name.startswith("__index_level_")]
        self._names = [schema.names[at] for at in own]
        self.columns = [name.strip() for name in self._names]
        self.types = [_type_name(schema.types[at]) for at in own]
        self.notes: list[str] = []

    def __iter__(self) -> Iterator[RawChunk]:
        for batch in self._file.iter_batches(batch_size=CHUNK_ROWS, columns=self._names):
            columns = [_plain(column) for column in batch.columns]
            yield RawChunk([_texts(column) for column in columns], list(columns))


def _type_name(type_: pa.DataType) -> str:
    if pa.types.is_dictionary(type_):
        type_ = type_.value_type
    return "string" if pa.types.is_nested(type_) or pa.types.is_large_string(type_) else str(type_)


def _plain(column: pa.Array) -> pa.Array:
    return column.dictionary_decode() if pa.types.is_dictionary(column.type) else column


def _texts(column: pa.Array) -> pa.Array:
    """A column as it would be written."""
    if pa.types.is_nested(column.type):
        written = [None if value is None else json.dumps(value, default=str) for value in column.to_pylist()]
        return pa.array(written, pa.string())
    if pa.types.is_binary(column.type) or pa.types.is_large_binary(column.type):
        return pa.array([None if value is None else _word(value) for value in column.to_pylist()], pa.string())
    return pc.cast(column, pa.string())


def _word(value: bytes) -> str:
    """Words that were written without saying that they are text; other bytes as digits."""
    try:
        return value.decode()
    except UnicodeDecodeError:
        return value.hex()
