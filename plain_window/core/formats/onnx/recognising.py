"""ONNX files."""

from typing import TYPE_CHECKING, BinaryIO

from ..format import Format, Head

if TYPE_CHECKING:
    from ..adapter import ModelAdapter
    from ..picture_input import PictureModel

__all__ = ["FORMAT"]


def _recognise(head: Head) -> str | None:
    # The first field of an ONNX file is the number of its format, a small one.
    content = head.content
    return "onnx" if content[:1] == b"\x08" and len(content) > 2 and content[1] < 64 else None


def _open_model(file: BinaryIO, _kind: str) -> "ModelAdapter | PictureModel":
    from .session import wants_pictures

    content = file.read()
    if wants_pictures(content):
        from .pictures import OnnxPictureModel

        return OnnxPictureModel(content)
    from .adapter import OnnxModel

    return OnnxModel(content)


FORMAT = Format("ONNX", _recognise, _open_model)
