"""What kind of file it is, by its content."""

from typing import BinaryIO, Literal

from ..errors import ModelNotOpened
from .other_files import KINDS, refuse_other_files

__all__ = ["ModelFormat", "sniff_model"]

ModelFormat = Literal["pickle", "skops", "xgboost-json", "xgboost-ubj", "lightgbm", "onnx", "pmml"]

HEAD_BYTES = 4096


def sniff_model(file: BinaryIO) -> ModelFormat:
    """The format of a model file.

    Parameters
    ----------
    file : binary file
        Seekable; left at its start.

    Raises
    ------
    ModelNotOpened
        If it is none of those that are known, saying what it is as far as that can be seen.
    """
    head = file.read(HEAD_BYTES)
    file.seek(0)
    if not head:
        raise ModelNotOpened("The model file is empty. Save the model once more and upload that file.")
    refuse_other_files(file)
    text = head.removeprefix(b"\xef\xbb\xbf").lstrip()
    if head.startswith(b"PK\x03\x04"):
        # Any other archive is refused by now.
        return "skops"
    # Binary JSON: an object whose first key has its length as a typed number in front.
    if len(head) > 10 and head[:1] == b"{" and head[1:2] in (b"i", b"U", b"I", b"l", b"L"):
        return "xgboost-ubj"
    if text.startswith(b"{"):
        return _sniff_json(head)
    if text.startswith(b"<"):
        return _sniff_xml(head)
    if text.startswith((b"tree\n", b"tree\r\n")):
        return "lightgbm"
    # The first field of an ONNX file is the number of its format, a small one.
    if head[:1] == b"\x08" and len(head) > 2 and head[1] < 64:
        return "onnx"
    return "pickle"


def _sniff_json(head: bytes) -> ModelFormat:
    if b'"learner"' in head or b'"gradient_booster"' in head or b'"version"' in head:
        return "xgboost-json"
    raise ModelNotOpened(f"The model file is a JSON document, but not one that XGBoost saved. {KINDS}")


def _sniff_xml(head: bytes) -> ModelFormat:
    # A declaration of entities may stand in front; the parser refuses such files by itself, in words.
    if b"PMML" in head or b"<!DOCTYPE" in head or b"<!ENTITY" in head:
        return "pmml"
    raise ModelNotOpened(f"The model file is an XML or HTML document, but not PMML. {KINDS}")
