"""An author's file is run, with what lies beside it. Call this in a confined runner only."""

import contextlib
import errno
import lzma
import os
import sys
import tempfile
import types
import warnings
import zipfile
import zlib
from collections.abc import Iterator
from pathlib import Path, PurePosixPath
from typing import BinaryIO

from ..errors import Fault, MismatchFaults, ModelNotOpened
from .failing import failure, missing_packages

__all__ = ["MODULE", "LoadedFile", "load_file", "unpacked"]

# What the author's file is called in here, and in what it raises.
MODULE = "function"
MOST_FILES = 2000
COPY_BYTES = 1 << 20
# What `zipfile` raises: a password is a RuntimeError, and an unknown way of packing its NotImplementedError.
UNREADABLE = (zipfile.BadZipFile, zlib.error, lzma.LZMAError, RuntimeError, EOFError, OSError)
# What Python says to whoever writes libraries.
NOT_FOR_AUTHORS = (DeprecationWarning, PendingDeprecationWarning, ResourceWarning, ImportWarning)
# What some systems put into every archive.
NOT_MEANT = ("__MACOSX", ".DS_Store", "Thumbs.db")


class LoadedFile:
    """A file that was run.

    Attributes
    ----------
    module : module
    folder : Path
        Where it lies, with what was brought beside it.
    warnings : list of str
        What libraries said while it was run.
    """

    def __init__(self, module: types.ModuleType, folder: Path, said: list[str]) -> None:
        self.module, self.folder, self.warnings = module, folder, said


def load_file(content: bytes, beside: BinaryIO | None) -> LoadedFile:
    """Run a file.

    Parameters
    ----------
    content : bytes
        A Python file.
    beside : binary file or None
        A zip archive of what lies beside it.

    Raises
    ------
    ModelNotOpened
        If it raises, with the line.
    MismatchFaults
        If the archive cannot be unpacked.
    """
    folder = Path(tempfile.mkdtemp(prefix="model-"))
    if beside is not None:
        unpacked(beside, folder)
    path = folder / f"{MODULE}.py"
    path.write_bytes(content)
    # Paths in the file are meant from where it lies, and so are the modules beside it.
    os.chdir(folder)
    sys.path.insert(0, str(folder))
    module = types.ModuleType(MODULE)
    module.__file__ = str(path)
    sys.modules[MODULE] = module
    try:
        with warnings.catch_warnings(record=True) as caught, _as_main(module):
            warnings.simplefilter("always")
            exec(compile(content, str(path), "exec"), module.__dict__)
    except (Exception, SystemExit) as error:
        found = failure(error, folder, "The Python file could not be run")
        raise ModelNotOpened(str(found), traceback=found.traceback, requirements=missing_packages(error)) from None
    said = [
        f"{type(one.message).__name__}: {one.message}"[:300]
        for one in caught
        if not issubclass(one.category, NOT_FOR_AUTHORS)
    ]
    return LoadedFile(module, folder, list(dict.fromkeys(said))[:5])


@contextlib.contextmanager
def _as_main(module: types.ModuleType) -> Iterator[None]:
    """What was pickled by a script is looked for in the module that ran: that is this one, now and later."""
    main = sys.modules.get("__main__")
    sys.modules["__main__"] = module
    try:
        yield
    finally:
        if main is not None:
            sys.modules["__main__"] = main
            for name, value in vars(module).items():
                if isinstance(value, type | types.FunctionType) and not hasattr(main, name):
                    setattr(main, name, value)


def unpacked(archive: BinaryIO, folder: Path) -> None:
    """Unpack what lies beside a file; what a path inside says of places outside the folder counts for nothing.

    Parameters
    ----------
    archive : binary file
    folder : Path

    Raises
    ------
    MismatchFaults
        If it cannot be unpacked.
    """
    try:
        with zipfile.ZipFile(archive) as opened:
            entries = [one for one in opened.infolist() if not one.is_dir() and _is_meant(one.filename)]
            if len(entries) > MOST_FILES:
                raise _not_unpacked(f"it holds {len(entries)} files; the limit is {MOST_FILES}")
            for entry in entries:
                place = folder.joinpath(*_parts(entry.filename))
                place.parent.mkdir(parents=True, exist_ok=True)
                with opened.open(entry) as packed, open(place, "wb") as unpacked:
                    while part := packed.read(COPY_BYTES):
                        unpacked.write(part)
    except UNREADABLE as error:
        raise _not_unpacked(_why(error)) from error
    _lift_single_folder(folder)


def _not_unpacked(why: str) -> MismatchFaults:
    return MismatchFaults(
        [Fault("beside", f"The files beside the function could not be unpacked: {why}. Zip them anew.")]
    )


def _why(error: Exception) -> str:
    if isinstance(error, NotImplementedError):
        return "it is packed in a way that is not read here; use the usual one, deflate"
    if isinstance(error, RuntimeError):
        return "it is protected by a password"
    if not isinstance(error, OSError):
        return "it is no zip archive, or damaged"
    if error.errno in (errno.ENOSPC, errno.EDQUOT, errno.EFBIG):
        return f"it unpacks to more than it says ({error.strerror})"
    return f"a name in it cannot be used here ({error.strerror})"


def _is_meant(name: str) -> bool:
    return not set(PurePosixPath(name).parts) & set(NOT_MEANT) and bool(_parts(name))


def _parts(name: str) -> list[str]:
    return [part for part in PurePosixPath(name.replace("\\", "/")).parts if part not in ("/", "..", ".")]


def _lift_single_folder(folder: Path) -> None:
    """A zip made of a folder holds that folder: what is in it is found without it as well."""
    entries = list(folder.iterdir())
    if len(entries) == 1 and entries[0].is_dir():
        for one in entries[0].iterdir():
            if one.name != entries[0].name:
                (folder / one.name).symlink_to(one)
