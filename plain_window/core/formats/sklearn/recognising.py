"""scikit-learn's files: joblib and pickle, and skops."""

from typing import TYPE_CHECKING, BinaryIO

from ..format import Format, Head

if TYPE_CHECKING:
    from .adapter import SklearnModel
    from .pickled import Unpickled

__all__ = ["FORMAT"]


def _recognise(head: Head) -> str | None:
    # Any other archive is refused by now, and whatever nobody else knows is a pickle: opening it says if it is none.
    return "skops" if head.content.startswith(b"PK\x03\x04") else "pickle"


def _open_object(file: BinaryIO, kind: str) -> "Unpickled":
    if kind == "skops":
        from .skops_file import open_skops

        return open_skops(file)
    from .pickled import open_pickled

    return open_pickled(file)


def _open_model(file: BinaryIO, kind: str) -> "SklearnModel":
    from .adapter import SklearnModel

    return SklearnModel(_open_object(file, kind), format=kind)


FORMAT = Format("scikit-learn", _recognise, _open_model, _open_object)
