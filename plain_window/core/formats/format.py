"""What a library's room says of its files. Read before any library is loaded, so none may be imported for it."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, BinaryIO

if TYPE_CHECKING:
    from .adapter import ModelAdapter
    from .own_libraries import GuestLine
    from .picture_input import PictureModel
    from .sklearn.pickled import Unpickled

__all__ = ["Beside", "Format", "Head"]


@dataclass(frozen=True)
class Head:
    """The beginning of a file: as it is, and as text without what may stand in front of text."""

    content: bytes

    @property
    def text(self) -> bytes:
        """Without a byte order mark and blanks."""
        return self.content.removeprefix(b"\xef\xbb\xbf").lstrip()


@dataclass(frozen=True)
class Beside:
    """What a model file comes with: a file of code, and one that needs libraries of its own.

    Attributes
    ----------
    archive : binary file or None
        A zip archive of what lies beside it.
    function : str or None
        Which of its functions answers, where it has several.
    has_table : bool
        Whether there is a table of what it takes.
    line : GuestLine or None
        To a process with libraries of its own, where it has any.
    """

    archive: BinaryIO | None = None
    function: str | None = None
    has_table: bool = False
    line: "GuestLine | None" = None


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
    open_code : callable, optional
        In place of `open_model` where files are code: from a file and what it comes with to an adapter.
    """

    library: str
    recognise: Callable[[Head], str | None]
    open_model: Callable[[BinaryIO, str], "ModelAdapter | PictureModel"]
    open_object: Callable[[BinaryIO, str], "Unpickled"] | None = None
    open_code: Callable[[BinaryIO, Beside], "ModelAdapter | PictureModel"] | None = None
