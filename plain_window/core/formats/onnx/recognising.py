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
    from .opening import model_of_graph
    from .session import open_graph

    return model_of_graph(open_graph(file.read()))


FORMAT = Format("ONNX", _recognise, _open_model)
