"""XGBoost's files: JSON and UBJSON."""

from typing import TYPE_CHECKING, BinaryIO

from ...errors import ModelNotOpened
from ..format import Format, Head
from ..other_files import KINDS

if TYPE_CHECKING:
    from .adapter import XgboostModel

__all__ = ["FORMAT"]

# Binary JSON: an object whose first key has its length as a typed number in front.
LENGTH_TYPES = (b"i", b"U", b"I", b"l", b"L")
KEYS = (b'"learner"', b'"gradient_booster"', b'"version"')


def _recognise(head: Head) -> str | None:
    content = head.content
    if len(content) > 10 and content[:1] == b"{" and content[1:2] in LENGTH_TYPES:
        return "xgboost-ubj"
    if not head.text.startswith(b"{"):
        return None
    if any(key in content for key in KEYS):
        return "xgboost-json"
    raise ModelNotOpened(f"The model file is a JSON document, but not one that XGBoost saved. {KINDS}")


def _open_model(file: BinaryIO, kind: str) -> "XgboostModel":
    from .adapter import XgboostModel

    return XgboostModel(file.read(), kind)


FORMAT = Format("XGBoost", _recognise, _open_model)
