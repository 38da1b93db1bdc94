"""A table of any kind as chunks of rows, told by content."""

from typing import BinaryIO

from ..errors import TableNotRead
from ..tables.kinds_of_file import TABLE_KINDS, head_of_table
from .raw_chunks import TableChunks

__all__ = ["open_chunks"]


def open_chunks(file: BinaryIO, *, name: str) -> TableChunks:
    """A table ready to be read.

    Parameters
    ----------
    file : binary file
        Seekable.
    name : str
        What to call the table at the start of a sentence.

    Raises
    ------
    TableNotRead
        If it is no table that is taken, is damaged, or has no rows.
    """
    magic = head_of_table(file, name)
    try:
        return _opened(file, magic, name)
    except TableNotRead:
        raise
    except Exception as error:  # the readers raise whatever their parsers do; all of it means the file is no table
        reason = str(error).strip().split("\n")[0][:200]
        raise TableNotRead(f"{name} could not be read: {reason.rstrip('.')}. {TABLE_KINDS}") from error


def _opened(file: BinaryIO, magic: bytes, name: str) -> TableChunks:
    if magic.startswith(b"PAR1"):
        from .parquet_chunks import ParquetChunks

        return ParquetChunks(file, name)
    if magic.startswith(b"PK\x03\x04"):
        from .sheet_chunks import SheetChunks

        return SheetChunks(file, name)
    from .text_chunks import TextChunks

    return TextChunks(file, name)
