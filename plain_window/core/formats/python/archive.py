"""What lies beside a function: a zip archive, as it came or made of a folder."""

import io
import zipfile
from pathlib import Path

from ...errors import Fault, MismatchFaults
from ..format import Head
from .recognising import FORMAT

__all__ = ["packed_folder", "unpacked_bytes"]

# Zip archives have no earlier time; one of its own would make other bytes each time.
NO_TIME = (1980, 1, 1, 0, 0, 0)
# A list of some ten thousand names; the record at the end may have a comment of up to 64 KB behind it.
MOST_LIST_BYTES, END_BYTES, END_MARK = 2 << 20, (1 << 16) + 64, b"PK\x05\x06"
HEAD_BYTES = 1 << 16
NOT_MEANT = ("__pycache__", ".git", ".DS_Store", "__MACOSX")


def unpacked_bytes(path: Path, limit: int) -> int:
    """How much an archive says it unpacks to.

    Parameters
    ----------
    path : Path
    limit : int
        The most that it may.

    Raises
    ------
    MismatchFaults
        If it is no zip archive, or more.
    """
    if not zipfile.is_zipfile(path) and _is_python(path):
        # The classes of a network are in one file, mostly.
        return path.stat().st_size
    if _list_bytes(path) > MOST_LIST_BYTES:
        message = "The zip beside the function holds more files than a function reads. Leave out what it does not need."
        raise MismatchFaults([Fault("beside", message)])
    try:
        with zipfile.ZipFile(path) as archive:
            n_bytes = sum(entry.file_size for entry in archive.infolist())
    except (zipfile.BadZipFile, NotImplementedError, ValueError) as error:
        message = "The files beside the function are no zip archive, or it was cut off. Zip them anew and send that."
        raise MismatchFaults([Fault("beside", message)]) from error
    if n_bytes > limit:
        message = (
            f"The files beside the function unpack to {n_bytes / (1 << 20):.0f} MB; the limit is {limit >> 20} MB. "
            "Leave out what it does not need."
        )
        raise MismatchFaults([Fault("beside", message)])
    return n_bytes


def _is_python(path: Path) -> bool:
    with open(path, "rb") as file:
        return FORMAT.recognise(Head(file.read(HEAD_BYTES))) is not None


def _list_bytes(path: Path) -> int:
    """How long an archive says that its list of files is: all of it would be read at once.

    The list's place and length stand in the record at the end [1]_.

    References
    ----------
    .. [1] PKWARE, "APPNOTE.TXT - .ZIP File Format Specification", version 6.3.10, section 4.3.16.
    """
    with open(path, "rb") as file:
        file.seek(max(0, path.stat().st_size - END_BYTES))
        end = file.read()
    at = end.rfind(END_MARK)
    return int.from_bytes(end[at + 12 : at + 16], "little") if at >= 0 else 0


def packed_folder(folder: Path) -> bytes:
    """A folder as a zip archive, the same bytes for the same content.

    Parameters
    ----------
    folder : Path
    """
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        for path in sorted(one for one in folder.rglob("*") if one.is_file() and not one.is_symlink()):
            name = path.relative_to(folder)
            if set(name.parts) & set(NOT_MEANT):
                continue
            entry = zipfile.ZipInfo(name.as_posix(), NO_TIME)
            entry.compress_type = zipfile.ZIP_DEFLATED
            entry.external_attr = 0o644 << 16
            archive.writestr(entry, path.read_bytes())
    return packed.getvalue()
