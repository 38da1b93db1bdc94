"""PMML files."""

from typing import TYPE_CHECKING, BinaryIO

from ...errors import ModelNotOpened
from ..format import Format, Head
from ..other_files import KINDS

if TYPE_CHECKING:
    from .adapter import PmmlModel

__all__ = ["FORMAT"]

# A declaration of entities may stand in front; the parser refuses such files by itself, in words.
MARKS = (b"PMML", b"<!DOCTYPE", b"<!ENTITY")


def _recognise(head: Head) -> str | None:
    if not head.text.startswith(b"<"):
        return None
    if any(mark in head.content for mark in MARKS):
        return "pmml"
    raise ModelNotOpened(f"The model file is an XML or HTML document, but not PMML. {KINDS}")


def _open_model(file: BinaryIO, _kind: str) -> "PmmlModel":
    from .adapter import PmmlModel

    return PmmlModel(file.read())


FORMAT = Format("PMML", _recognise, _open_model)
