"""Whose file a model file is, told by its head. Nothing large is loaded for that."""

from typing import BinaryIO

from ..errors import ModelNotOpened
from .format import Format, Head
from .network_files import network_kind
from .other_files import refuse_other_files
from .registry import FORMATS

__all__ = ["needs_libraries", "recognised"]

# Of a script whose first function stands below a long docstring, that must be seen.
HEAD_BYTES = 1 << 16


def recognised(file: BinaryIO) -> tuple[Format, str]:
    """Whose file it is, and of what kind.

    Parameters
    ----------
    file : binary file
        Seekable; left at its start.

    Raises
    ------
    ModelNotOpened
        If it is nobody's, saying what it is instead.
    """
    file.seek(0)
    content = file.read(HEAD_BYTES)
    file.seek(0)
    if not content:
        raise ModelNotOpened("The model file is empty. Save the model once more and upload that file.")
    refuse_other_files(file)
    head = Head(content)
    for each in FORMATS:
        if (kind := each.recognise(head)) is not None:
            return each, kind
    raise ModelNotOpened("No library here knows this file.")


def needs_libraries(file: BinaryIO) -> bool:
    """Whether a file is code, or runs some when it is opened: of anything else the author's libraries are not needed.

    Parameters
    ----------
    file : binary file
        Seekable; left at its start.
    """
    if network_kind(file) is not None:
        return True
    try:
        found, _ = recognised(file)
    except ModelNotOpened:
        return False
    return found.open_code is not None or found.open_object is not None
