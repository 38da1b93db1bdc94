"""LightGBM's files: text."""

from typing import TYPE_CHECKING, BinaryIO

from ..format import Format, Head

if TYPE_CHECKING:
    from .adapter import LightgbmModel

__all__ = ["FORMAT"]


def _recognise(head: Head) -> str | None:
    return "lightgbm" if head.text.startswith((b"tree\n", b"tree\r\n")) else None


def _open_model(file: BinaryIO, _kind: str) -> "LightgbmModel":
    from .adapter import LightgbmModel

    return LightgbmModel(file.read())


FORMAT = Format("LightGBM", _recognise, _open_model)
