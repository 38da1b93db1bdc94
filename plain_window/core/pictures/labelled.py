"""Pictures with what they show: a zip archive whose folders are named after classes."""

import zipfile
from dataclasses import dataclass
from pathlib import PurePosixPath
from typing import BinaryIO

from ..errors import Fault, MismatchFaults
from ..tables.spreadsheets import is_spreadsheet

__all__ = ["MOST_LABELLED", "LabelledPicture", "is_zip", "labelled_at", "read_labelled"]

MOST_LABELLED = 5000
# What one entry, and all of them, may unpack to.
MOST_BYTES, MOST_BYTES_IN_ALL = 20 << 20, 1 << 30
PICTURE_ENDINGS = (".jpg", ".jpeg", ".png", ".webp", ".gif", ".bmp", ".tif", ".tiff")


@dataclass(frozen=True)
class LabelledPicture:
    """A picture's file and the class its folder is named after."""

    name: str
    outcome: str
    content: bytes


def is_zip(file: BinaryIO) -> bool:
    """Whether this is a zip archive, and no Excel file, which is one too; the file is left at its start.

    Parameters
    ----------
    file : binary file
        Seekable.
    """
    head = file.read(4)
    file.seek(0)
    return head == b"PK\x03\x04" and not is_spreadsheet(file)


def read_labelled(file: BinaryIO, *, most: int = MOST_LABELLED, loose: bool = False) -> list[LabelledPicture]:
    """All pictures of a zip archive, in the order of their names.

    Parameters
    ----------
    file : binary file
        Seekable.
    most : int
        How many there may be.
    loose : bool
        Whether they may lie in no folder, where nothing hangs on what they show.

    Raises
    ------
    MismatchFaults
        Saying how the archive must be made.
    """
    try:
        with zipfile.ZipFile(file) as archive:
            return _read(archive, most, loose=loose)
    except (zipfile.BadZipFile, EOFError, RuntimeError, NotImplementedError) as error:
        raise _fault("The archive of known pictures is cut off, damaged or locked. Zip the folders again.") from error


def labelled_at(file: BinaryIO, place: int) -> LabelledPicture | None:
    """One picture of an archive that was read before; None if there is none at that place.

    Parameters
    ----------
    file : binary file
        Seekable.
    place : int
        Among the archive's pictures in the order of their names, from 0.
    """
    try:
        with zipfile.ZipFile(file) as archive:
            entries = _pictures_in(archive)
            if not 0 <= place < len(entries):
                return None
            with archive.open(entries[place]) as packed:
                content = packed.read(MOST_BYTES + 1)
    except (zipfile.BadZipFile, EOFError, RuntimeError, NotImplementedError):
        return None
    path = PurePosixPath(entries[place].filename)
    return LabelledPicture(path.name, path.parts[-2], content) if len(content) <= MOST_BYTES else None


def _pictures_in(archive: zipfile.ZipFile) -> list[zipfile.ZipInfo]:
    entries = [entry for entry in archive.infolist() if _is_picture(entry.filename) and not entry.is_dir()]
    return sorted(entries, key=lambda entry: entry.filename)


def _read(archive: zipfile.ZipFile, most: int, *, loose: bool) -> list[LabelledPicture]:
    entries = _pictures_in(archive)
    if not entries:
        raise _fault(
            "The archive of known pictures holds no pictures. Make a folder for each class, named after it, put "
            "pictures into it, and zip the folders."
        )
    if len(entries) > most:
        raise _fault(f"The archive of known pictures holds {len(entries)} pictures; the limit is {most}.")
    alone = next((entry.filename for entry in entries if len(PurePosixPath(entry.filename).parts) < 2), None)
    if alone and not loose:
        raise _fault(f"`{alone[:80]}` lies in no folder. The folder's name says what a picture shows.")
    left = MOST_BYTES_IN_ALL
    found = []
    for entry in entries:
        with archive.open(entry) as packed:
            # The sizes a zip states may be lies; what comes out is counted.
            content = packed.read(MOST_BYTES + 1)
        left -= len(content)
        if len(content) > MOST_BYTES or left < 0:
            raise _fault(f"`{entry.filename[:80]}` is larger than a picture may be here. Make it smaller.")
        path = PurePosixPath(entry.filename)
        found.append(LabelledPicture(path.name, path.parts[-2] if len(path.parts) > 1 else "", content))
    return found


def _is_picture(name: str) -> bool:
    path = PurePosixPath(name)
    # What some systems put beside each file.
    hidden = any(part.startswith((".", "__MACOSX")) for part in path.parts)
    return path.suffix.lower() in PICTURE_ENDINGS and not hidden


def _fault(message: str) -> MismatchFaults:
    return MismatchFaults([Fault("known", message)])
