"""What is said between whoever holds a file and the confined process that reads it: bytes are asked for as they are
needed, and a file that is made comes in parts."""

from .messages import Ask, Said

__all__ = ["FileBytes", "FilePart", "NotRead", "Wanted"]


class FileBytes(Ask, tag="bytes", frozen=True):
    """The bytes that were wanted; fewer at the end of the file."""

    content: bytes


class Wanted(Said, tag="wanted", frozen=True):
    """Bytes of the file are wanted."""

    offset: int
    size: int


class FilePart(Said, tag="converted", frozen=True):
    """A part of the file that is made; the last one says so."""

    content: bytes
    is_last: bool


class NotRead(Said, tag="not_read", frozen=True):
    """The file cannot be read, in a sentence."""

    message: str
