"""Reads a job's table and writes its result: a confined process that is asked for a piece at a time."""

import io
from collections.abc import Iterator

from ..core.batches.table_cases import TableCases
from ..core.contract.elsewhere import FilePart, NotRead
from ..core.contract.messages import Said
from ..core.contract.table_cases import Begin, Convert, LookAt, NextChunk, SkipChunk, TableAsk, WriteChunk
from .elsewhere import Desk, FileOf

__all__ = ["TableDesk"]


class TableDesk(Desk[TableAsk]):
    """What is asked about one table.

    Parameters
    ----------
    file_of : callable
        Gives the file of a size.
    """

    noun, asks = "table", TableAsk

    def __init__(self, file_of: FileOf) -> None:
        super().__init__(file_of)
        self._cases: TableCases | None = None
        self._converted: Iterator[bytes] | None = None

    def done(self, ask: TableAsk) -> Said:
        """What is said to this.

        Parameters
        ----------
        ask : TableAsk
        """
        match ask:
            case LookAt():
                return self._of_size(ask.size).look(ask)
            case Begin():
                return self._of_size(ask.size).begin(ask)
            case NextChunk() if self._cases is not None:
                return self._cases.next_chunk()
            case SkipChunk() if self._cases is not None:
                return self._cases.skip_chunk()
            case WriteChunk() if self._cases is not None:
                return self._cases.write_chunk(ask)
            case Convert():
                from ..core.batches.converting import convert_result

                file = io.BufferedReader(self._file_of(ask.size))
                self._converted = convert_result(file, to=ask.to, types=ask.types, style=ask.style)
                return self._part()
        if self._converted is not None:
            return self._part()
        return NotRead("Nothing was begun.")

    def _part(self) -> FilePart:
        """The next part of what is being made that has something in it."""
        for content in self._converted or ():
            if content:
                return FilePart(content, is_last=False)
        return FilePart(b"", is_last=True)

    def _of_size(self, size: int) -> TableCases:
        if self._cases is None:
            self._cases = TableCases(io.BufferedReader(self._file_of(size)))
        return self._cases
