"""What a file is that is no table, by its first bytes."""

import re
from typing import BinaryIO

from ..errors import TableNotRead

__all__ = ["LFS_POINTER", "TABLE_KINDS", "head_of_table", "refuse_other_files"]

HEAD_BYTES = 64
TABLE_KINDS = "It takes CSV (with commas, semicolons or tabs), spreadsheets (.xlsx) and Parquet."
OLD_EXCEL_MAGIC = b"\xd0\xcf\x11\xe0"
# Within such a file, what has been locked with a password.
ENCRYPTED, LOOKED_FOR_BYTES = "EncryptedPackage".encode("utf-16-le"), 1 << 20
OTHER_FILES = {
    b"\x89PNG": "a picture",
    b"\xff\xd8\xff": "a picture",
    b"%PDF": "a PDF document",
    b"\x80\x02": "a model saved by pickle",
    b"\x80\x03": "a model saved by pickle",
    b"\x80\x04": "a model saved by pickle",
    b"\x80\x05": "a model saved by pickle",
    b"\x08": "an ONNX model",
    b"SQLite": "a database",
    b"\x89HDF": "an HDF5 file",
    b"ARROW1\0": "a Feather file",
    b"\x93NUMPY": "a NumPy array",
}
# What a clone has in a large file's place until that is fetched.
LFS_POINTER = b"version https://git-lfs"
PACKED = {b"\x1f\x8b": "gzip", b"BZh": "bzip2", b"\xfd7zXZ": "xz"}
# Some programs call such a page an Excel file.
WEB_PAGE = re.compile(rb"(?:\xef\xbb\xbf)?\s*<(?:!doctype|html|table|head|\?xml)", re.IGNORECASE)


def refuse_other_files(file: BinaryIO, magic: bytes, name: str, *, kinds: str) -> None:
    """Refuse what is known to be something else.

    Parameters
    ----------
    file : binary file
        Seekable; it is left at its start.
    magic : bytes
        Its first.
    name : str
        What to call the table at the start of a sentence.
    kinds : str
        What is taken, as a sentence.

    Raises
    ------
    TableNotRead
        Saying what it is.
    """
    if magic.startswith(OLD_EXCEL_MAGIC):
        is_locked = ENCRYPTED in file.read(LOOKED_FOR_BYTES) or _at_end(file)
        file.seek(0)
        if is_locked:
            raise TableNotRead(f"{name} is locked with a password. Save it without one, and upload that.")
        raise TableNotRead(f"{name} is an old Excel file (.xls). Open it, save it as .xlsx or CSV, and upload that.")
    if magic.startswith(LFS_POINTER):
        raise TableNotRead(f"{name} is a pointer of Git LFS, not the file it stands for. Run `git lfs pull` first.")
    for start, program in PACKED.items():
        if magic.startswith(start):
            raise TableNotRead(f"{name} is packed with {program}. Unpack it, and upload what comes of that.")
    if WEB_PAGE.match(magic):
        raise TableNotRead(
            f"{name} is a web page or XML, whatever its name says. Open it in a spreadsheet program, save it as .xlsx "
            "or CSV, and upload that."
        )
    for start, what in OTHER_FILES.items():
        if magic.startswith(start):
            raise TableNotRead(f"{name} is {what}, not a table. {kinds}")


def _at_end(file: BinaryIO) -> bool:
    """Whether the names of what is in the file, which may stand at its end, tell of a password."""
    size = file.seek(0, 2)
    file.seek(max(0, size - LOOKED_FOR_BYTES))
    return ENCRYPTED in file.read(LOOKED_FOR_BYTES)


def head_of_table(file: BinaryIO, name: str) -> bytes:
    """The first bytes of a table of rows; the file is left at its start.

    Parameters
    ----------
    file : binary file
        Seekable, at its start.
    name : str
        What to call the table at the start of a sentence.

    Raises
    ------
    TableNotRead
        If it is empty, or of a kind that is not taken.
    """
    magic = file.read(HEAD_BYTES)
    file.seek(0)
    if not magic:
        raise TableNotRead(f"{name} is empty. {TABLE_KINDS}")
    refuse_other_files(file, magic, name, kinds=TABLE_KINDS)
    if magic.removeprefix(b"\xef\xbb\xbf").lstrip()[:1] in (b"{", b"["):
        raise TableNotRead(f"{name} is JSON, not a table. {TABLE_KINDS}")
    return magic
