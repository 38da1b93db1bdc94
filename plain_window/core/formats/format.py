"""What a library's room says of its files. Read before any library is loaded, so none may be imported for it."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, BinaryIO

if TYPE_CHECKING:
    from .adapter import ModelAdapter
    from .picture_input import PictureModel
    from .sklearn.pickled import Unpickled

__all__ = ["Format", "Head"]


@dataclass(frozen=True)
class Head:
    """The beginning of a file: as it is, and as text without what may stand in front of text."""

    content: bytes

    @property
    def text(self) -> bytes:
        """Without a byte order mark and blanks."""
        return self.content.removeprefix(b"\xef\xbb\xbf").lstrip()


@dataclass(frozen=True)
class Format:
    """One library's files.

    Parameters
    ----------
    library : str
        As people call it.
    recognise : callable
        From a file's head to the kind of file it is; None if it is not this library's. It may raise `ModelNotOpened`
        for what only looks like one.
    open_model : callable
        From a file and its kind to an adapter. It imports the library.
    open_object : callable, optional
        Where files hold objects that others may be put in front of: from a file and its kind to the object.
    """

    library: str
    recognise: Callable[[Head], str | None]
    open_model: Callable[[BinaryIO, str], "ModelAdapter | PictureModel"]
    open_object: Callable[[BinaryIO, str], "Unpickled"] | None = None
