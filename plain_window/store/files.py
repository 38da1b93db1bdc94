"""Files by content hash: what is stored under a name never changes, and the same file is stored once."""

import contextlib
import functools
import hashlib
import operator
import os
import tempfile
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import BinaryIO

from .records import Demo, Model, StoredFile

__all__ = ["FileStore", "Incoming"]

COPY_BYTES = 1 << 20


class Incoming:
    """A file on its way in, hashed while it is written. A binary file to whoever writes it.

    Parameters
    ----------
    folder : Path
        Where it is kept until it is known under its hash.
    limit : int
        The most bytes it may have.
    too_large : callable
        Called without arguments to make the error to raise beyond that.
    """

    def __init__(self, folder: Path, *, limit: int, too_large) -> None:
        descriptor, name = tempfile.mkstemp(dir=folder, prefix="incoming-")
        self.path = Path(name)
        self.size = 0
        self._file = os.fdopen(descriptor, "wb+")
        self._hash = hashlib.sha256()
        self._limit = limit
        self._too_large = too_large

    def write(self, data: bytes) -> int:
        """Take some bytes."""
        self.size += len(data)
        if self.size > self._limit:
            self.discard()
            raise self._too_large()
        self._hash.update(data)
        return self._file.write(data)

    def read(self, size: int = -1) -> bytes:
        """Read back, after `seek`."""
        return self._file.read(size)

    def seek(self, offset: int, whence: int = 0) -> int:
        """Move, as in any file."""
        return self._file.seek(offset, whence)

    def close(self) -> None:
        """Close and drop it; one that was taken into the store is not affected."""
        self.discard()

    def finish(self) -> str:
        """Close it and return its hash."""
        self._file.flush()
        os.fsync(self._file.fileno())
        self._file.close()
        return self._hash.hexdigest()

    def discard(self) -> None:
        """Drop it."""
        self._file.close()
        self.path.unlink(missing_ok=True)


class FileStore:
    """The folder of stored files.

    Parameters
    ----------
    folder : Path
    """

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def path(self, hash_: str) -> Path:
        """Where the file with this hash is."""
        return self._folder / hash_[:2] / hash_

    def incoming(self, *, limit: int, too_large) -> Incoming:
        """A new file on its way in."""
        return Incoming(self._folder, limit=limit, too_large=too_large)

    def take(self, incoming: Incoming) -> str:
        """Store a file that has arrived whole; return its hash."""
        size, hash_ = incoming.size, incoming.finish()
        place = self.path(hash_)
        place.parent.mkdir(exist_ok=True)
        # Runners read it under another user id, through a descriptor the keeper opened.
        incoming.path.chmod(0o600)
        incoming.path.replace(place)
        StoredFile.insert(hash=hash_, size=size).on_conflict_ignore().execute()
        return hash_

    def take_path(self, path: Path, *, limit: int, too_large) -> str:
        """Store a copy of a file on this machine; return its hash."""
        with open(path, "rb") as file:
            return self.take_file(file, limit=limit, too_large=too_large)

    def take_file(self, file: BinaryIO, *, limit: int, too_large) -> str:
        """Store what an open file holds; return its hash."""
        incoming = self.incoming(limit=limit, too_large=too_large)
        try:
            for part in _parts(file):
                incoming.write(part)
        except BaseException:
            incoming.discard()
            raise
        return self.take(incoming)

    def release(self, hashes: Iterable[str]) -> None:
        """Delete those of the files that nothing refers to."""
        for hash_ in set(hashes):
            parts = (
                Model.model_file,
                Model.preprocessor_file,
                Model.reference_file,
                Model.compiled_file,
                Model.study_file,
            )
            used = (
                Model.select().where(functools.reduce(operator.or_, (part == hash_ for part in parts))).exists()
                or Demo.select().where(Demo.known_file == hash_).exists()
            )
            if not used:
                StoredFile.delete().where(StoredFile.hash == hash_).execute()
                with contextlib.suppress(FileNotFoundError):
                    self.path(hash_).unlink()


def _parts(file: BinaryIO) -> Iterator[bytes]:
    while part := file.read(COPY_BYTES):
        yield part
