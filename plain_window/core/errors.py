"""What can be wrong with what came in.

    PlainWindowError
    ├── Faults                  several things wrong at once, each with the field it is about
    │   ├── InputFaults         a visitor's values
    │   ├── MismatchFaults      a model and a table that do not belong together
    │   └── DocumentFaults      an author's settings
    ├── ModelNotOpened          a model file that is none, or not one for this machine
    ├── PictureNotRead          a picture that cannot be read, or is too large
    ├── TableNotRead            a table that cannot be read
    ├── FilmNotRead             a film that cannot be read, or is too long
    └── ModelFailed             a model that raised, or answered nonsense, for one case

The lower layer says *what* is wrong; whoever shows it adds *where* and *what next*.
"""

from collections.abc import Iterable
from dataclasses import dataclass

__all__ = [
    "MOST_NAMED",
    "DocumentFaults",
    "Fault",
    "Faults",
    "FilmNotRead",
    "InputFaults",
    "MismatchFaults",
    "ModelFailed",
    "ModelNotOpened",
    "PictureNotRead",
    "PlainWindowError",
    "TableNotRead",
]


# Of many faults so many are named, and how many more there are.
MOST_NAMED = 50


class PlainWindowError(Exception):
    """Base of all errors that are about what came in rather than about this program."""


@dataclass(frozen=True)
class Fault:
    """One thing wrong: the name of the field or column, and a sentence with the way on. Where only its author can tell:
    the word that what they say is sent as, and what may be said."""

    field: str | None
    message: str
    asks: str = ""
    choices: tuple[str, ...] = ()


class Faults(PlainWindowError):
    """Several faults found in one go."""

    def __init__(self, faults: list[Fault], *, n_all: int | None = None) -> None:
        super().__init__(" ".join(fault.message for fault in faults[:MOST_NAMED]))
        self.faults = faults[:MOST_NAMED]
        # How many there are, where not all are given.
        self.n_all = len(faults) if n_all is None else n_all


class InputFaults(Faults):
    """A visitor's values do not fit the fields."""


class MismatchFaults(Faults):
    """The model and the table do not belong together."""


class DocumentFaults(Faults):
    """An author's settings contradict each other or the model."""


class ModelNotOpened(PlainWindowError):
    """The model file could not be opened; the message is a sentence for the author.

    Attributes
    ----------
    traceback : str
        Of a file of code: the lines that it failed at.
    requirements : list of str
        Lines of a `requirements.txt` with which it might open, as far as the file or the failure tell.
    """

    def __init__(self, message: str, *, traceback: str = "", requirements: Iterable[str] = ()) -> None:
        super().__init__(message)
        self.traceback, self.requirements = traceback, list(requirements)


class PictureNotRead(PlainWindowError):
    """The picture could not be read; the message is a sentence for the visitor."""


class TableNotRead(PlainWindowError):
    """The table could not be read; the message is a sentence for the author."""


class FilmNotRead(PlainWindowError):
    """The film could not be read; the message is a sentence for whoever chose it."""


class ModelFailed(PlainWindowError):
    """The model raised or answered something that is no answer.

    Attributes
    ----------
    traceback : str
        What the library reported, for the author only.
    """

    def __init__(self, message: str, *, traceback: str = "") -> None:
        super().__init__(message)
        self.traceback = traceback
