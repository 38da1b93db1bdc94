"""A chunk of a table as it is written."""

import itertools
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
        # Of much the same size, so that they take much the same time.
        n_parts = -(-self.n_rows // CHUNK_ROWS)
        ends = [self.n_rows * at // n_parts for at in range(n_parts + 1)] if n_parts else []
        for start, end in itertools.pairwise(ends):
            yield self._some(start, end)

    def before(self, row: int) -> "RawChunk":
        """The rows before one.

        Parameters
        ----------
        row : int
        """
        return self._some(0, row)

    def after(self, row: int) -> "RawChunk":
        """That row, and those behind it.

        Parameters
        ----------
        row : int
        """
        return self._some(row, self.n_rows)

    def _some(self, start: int, end: int) -> "RawChunk":
        broken = {at - start: why for at, why in self.broken.items() if start <= at < end}
        typed = [column if column is None else column[start:end] for column in self.typed]
        return RawChunk([column[start:end] for column in self.texts], typed, broken)


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
