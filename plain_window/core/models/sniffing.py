"""What kind of file it is, by its content."""

import zipfile
from typing import BinaryIO, Literal

from ..errors import ModelNotOpened

__all__ = ["ModelFormat", "sniff_model"]

ModelFormat = Literal["pickle", "skops", "xgboost-json", "xgboost-ubj", "lightgbm", "onnx", "pmml"]

HEAD_BYTES = 4096
# The first bytes of what people upload by mistake.
OTHER_FILES = {
    b"\x89PNG": "a picture",
    b"\xff\xd8\xff": "a picture",
    b"GIF8": "a picture",
    b"%PDF": "a PDF document",
    b"PAR1": "a Parquet table",
    b"\x89HDF": "an HDF5 file",
    b"\x7fELF": "a program",
    b"MZ": "a program",
    b"#!": "a script",
    b"import ": "a script",
}
KINDS = (
    "It takes models saved with joblib, pickle or skops, XGBoost's .json or .ubj, LightGBM's .txt, ONNX and PMML files."
)


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
    text = head.removeprefix(b"\xef\xbb\xbf").lstrip()
    if head.startswith(b"PK\x03\x04"):
        return _sniff_zip(file)
    # Binary JSON: an object whose first key has its length as a typed number in front.
    if len(head) > 10 and head[:1] == b"{" and head[1:2] in (b"i", b"U", b"I", b"l", b"L"):
        return "xgboost-ubj"
    if text.startswith(b"{"):
        return _sniff_json(head)
    if text.startswith(b"<"):
        return _sniff_xml(head)
    if text.startswith((b"tree\n", b"tree\r\n")):
        return "lightgbm"
    for magic, what in OTHER_FILES.items():
        if head.startswith(magic):
            raise ModelNotOpened(f"The model file is {what}, not a model. {KINDS}")
    if head[:4] == b"binf" or head[:4] == b"bs64":
        raise ModelNotOpened(
            "The model file is in XGBoost's old binary format. Load it and save it again as .json or .ubj."
        )
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


def _sniff_zip(file: BinaryIO) -> ModelFormat:
    try:
        names = zipfile.ZipFile(file).namelist()
    except zipfile.BadZipFile:
        raise ModelNotOpened("The model file is a zip archive that was cut off or damaged. Upload it again.") from None
    finally:
        file.seek(0)
    if "schema.json" in names:
        return "skops"
    if any(name.endswith("data.pkl") for name in names):
        raise ModelNotOpened(
            "The model file was saved by a deep learning library. Export the model to ONNX and upload that file."
        )
    raise ModelNotOpened(f"The model file is a zip archive, not a model. {KINDS}")
