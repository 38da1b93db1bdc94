"""A chunk of a table as it is written."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Protocol

import pyarrow as pa

__all__ = ["CHUNK_ROWS", "RawChunk", "TableChunks"]

# So many rows are asked about together, and kept apart; fewer where they are wide.
CHUNK_ROWS = 50_000


@dataclass(frozen=True)
class RawChunk:
    """Some rows, column by column.

    Parameters
    ----------
    texts : list of pyarrow.Array of string, each of length n_rows
        Each column as it is written.
    typed : list of pyarrow.Array or None
        The same columns where the file itself says what they hold.
    broken : dict of int to str
        By place in the chunk what is wrong with a row as a whole.
    """

    texts: list[pa.Array]
    typed: list[pa.Array | None]
    broken: dict[int, str] = field(default_factory=dict)

    @property
    def n_rows(self) -> int:
        """How many rows there are."""
        return len(self.texts[0]) if self.texts else 0

    def parts(self) -> "Iterator[RawChunk]":
        """The same in pieces of so many rows as are asked about together."""
        for start in range(0, self.n_rows, CHUNK_ROWS):
            end = min(start + CHUNK_ROWS, self.n_rows)
            broken = {at - start: why for at, why in self.broken.items() if start <= at < end}
            typed = [column if column is None else column[start:end] for column in self.typed]
            yield RawChunk([column[start:end] for column in self.texts], typed, broken)


class TableChunks(Protocol):
    """A table that is read from its start to its end, a chunk at a time; the same chunks each time."""

    columns: list[str]
    # As Arrow names them; `string` where the file does not say.
    types: list[str]
    notes: list[str]
    total: int | None

    def __iter__(self) -> Iterator[RawChunk]:
        """Its chunks in order.

        Raises
        ------
        TableNotRead
            Where it is damaged.
        """
