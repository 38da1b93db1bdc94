"""What is wrong with a Python file by its text alone, told before anything large is loaded to open it."""

from typing import BinaryIO

from ..format import Head
from .recognising import FORMAT
from .signature import read_signature
from .source import MOST_SOURCE_BYTES

__all__ = ["refuse_unreadable_code"]

HEAD_BYTES = 1 << 16


def refuse_unreadable_code(file: BinaryIO, function: str | None) -> None:
    """Read a Python file's signature; return if it can be read, or if the file is no Python.

    Parameters
    ----------
    file : binary file
        Seekable; left at its start.
    function : str or None
        Which of its functions answers, where it has several.

    Raises
    ------
    ModelNotOpened, MismatchFaults
        As `read_signature` does.
    """
    head = file.read(HEAD_BYTES)
    file.seek(0)
    if FORMAT.recognise(Head(head)) is None or b"def " not in head:
        return
    content = file.read(MOST_SOURCE_BYTES + 1)
    file.seek(0)
    read_signature(content, function)
