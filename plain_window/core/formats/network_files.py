"""Files of PyTorch and Keras, told by their content. They are opened with libraries of their own only."""

import json
import zipfile
from typing import BinaryIO

__all__ = ["LIBRARY_OF", "keras_version", "network_kind", "requirements_of_network"]

# PyTorch's own number at the front of its older files, as pickle writes it.
OLD_TORCH = b"\x80\x02\x8a\x0al\xfc\x9cF\xf9 j\xa8P\x19"
HEAD_BYTES, FIRST_OBJECT = 1 << 16, 40
MOST_HEADER = 100 << 20
LIBRARY_OF = {
    "torch-exported": "PyTorch",
    "torch-scripted": "PyTorch",
    "torch-pickled": "PyTorch",
    "torch-weights": "PyTorch",
    "safetensors": "PyTorch",
    "keras": "Keras",
    "keras-h5": "Keras",
}


def network_kind(file: BinaryIO) -> str | None:
    """Which kind of file of a network it is; None for any other.

    Parameters
    ----------
    file : binary file
        Seekable; left at its start.
    """
    file.seek(0)
    head = file.read(HEAD_BYTES)
    file.seek(0)
    if head.startswith(b"\x89HDF"):
        return "keras-h5"
    if head.startswith(OLD_TORCH):
        return "torch-weights" if b"OrderedDict" in head else "torch-pickled"
    size = int.from_bytes(head[:8], "little")
    if head[8:10] == b'{"' and 2 <= size < MOST_HEADER:
        return "safetensors"
    if not head.startswith(b"PK\x03\x04"):
        return None
    try:
        with zipfile.ZipFile(file) as archive:
            return _of_archive(archive)
    except (zipfile.BadZipFile, OSError, KeyError, RuntimeError):
        return None
    finally:
        file.seek(0)


def _of_archive(archive: zipfile.ZipFile) -> str | None:
    names = archive.namelist()
    ends = {name.rsplit("/", 1)[-1] for name in names}
    if "schema.json" in names:
        return None
    if "model.weights.h5" in ends and "config.json" in ends:
        return "keras"
    if "archive_format" in ends or "serialized_exported_program.json" in ends:
        return "torch-exported"
    if "data.pkl" not in ends:
        return None
    if any("/code/" in name for name in names):
        return "torch-scripted"
    return "torch-weights" if _holds_weights(archive, names) else "torch-pickled"


def _holds_weights(archive: zipfile.ZipFile, names: list[str]) -> bool:
    """Whether what was pickled is a dictionary of weights rather than a network."""
    name = next(name for name in names if name.endswith("data.pkl"))
    with archive.open(name) as file:
        start = file.read(HEAD_BYTES)
    # The first object in it: of a network its own class stands there.
    return b"OrderedDict" in start[:FIRST_OBJECT] or start[:3] in (b"\x80\x02}", b"\x80\x04}")


def requirements_of_network(kind: str) -> list[str]:
    """What a file of this kind opens with, as lines of a `requirements.txt`; none of them says its version for certain.

    Parameters
    ----------
    kind : str
        By `network_kind`.
    """
    if LIBRARY_OF[kind] == "Keras":
        return ["keras", "torch", "onnx", "onnxscript"]
    return ["torch", "onnx", "onnxscript", *(["safetensors"] if kind == "safetensors" else [])]


def keras_version(archive: zipfile.ZipFile) -> str:
    """What a Keras file was saved with, as words behind its name; nothing where it does not say.

    Parameters
    ----------
    archive : zipfile.ZipFile
    """
    try:
        with archive.open("metadata.json") as file:
            version = json.loads(file.read(HEAD_BYTES)).get("keras_version")
    except (KeyError, ValueError, zipfile.BadZipFile):
        return ""
    return f", saved with Keras {version[:20]}" if isinstance(version, str) else ""
