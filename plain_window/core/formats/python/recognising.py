"""Python files."""

import re
from typing import TYPE_CHECKING, BinaryIO

from ..format import Beside, Format, Head

if TYPE_CHECKING:
    from ..adapter import ModelAdapter
    from ..picture_input import PictureModel

__all__ = ["FORMAT"]

# Lines with which a file of code begins; one that cannot be parsed is told by them as well.
CODE = re.compile(
    rb"^(?:import[ \t]+\w|from[ \t]+[\w.]+[ \t]+import\b|(?:async[ \t]+)?def[ \t]+\w+[ \t]*\(|class[ \t]+\w)", re.M
)


def _recognise(head: Head) -> str | None:
    return "python" if b"\0" not in head.content and CODE.search(head.text) else None


def _open_model(file: BinaryIO, _kind: str) -> "ModelAdapter | PictureModel":
    return _open_code(file, Beside())


def _open_code(file: BinaryIO, beside: Beside) -> "ModelAdapter | PictureModel":
    from .opening import open_function

    return open_function(file.read(), beside)


FORMAT = Format("Python", _recognise, _open_model, open_code=_open_code)
