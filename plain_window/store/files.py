"""Files by content hash: what is stored under a name never changes, and the same file is stored once.

Two who bring the same file share it, so neither may delete it while the other works with it. Whoever takes a file in
holds it (`take`), and lets go of it when a record refers to it, or when none will (`let_go`). A file goes when nobody
holds it and nothing refers to it. Its row in the database is locked while it is put in its place or taken away; so what
the row says of the file is so.
"""

import contextlib
import datetime as dt
import functools
import hashlib
import operator
import os
import tempfile
import time
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path
from typing import Any, BinaryIO

import peewee

from .database import database, now, unlocked
from .queries import tuples_of
from .records import Demo, Job, Model, StoredFile

__all__ = ["FileStore", "Incoming"]

COPY_BYTES = 1 << 20
# Nobody works with a file they brought for longer than this; whoever held it then has died.
HOLD_HOURS = 24


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

    def __init__(self, folder: Path, *, limit: int, too_large: Callable[[], Exception]) -> None:
        descriptor, name = tempfile.mkstemp(dir=folder, prefix="incoming-")
        self.path = Path(name)
        self.size = 0
        self._file = os.fdopen(descriptor, "wb+")
        self._hash = hashlib.sha256()
        self._limit = limit
        self._too_large = too_large

    def write(self, data: bytes) -> int:
        """Take some bytes.

        Parameters
        ----------
        data : bytes
        """
        self.size += len(data)
        if self.size > self._limit:
            self.discard()
            raise self._too_large()
        self._hash.update(data)
        return self._file.write(data)

    def read(self, size: int = -1) -> bytes:
        """Read back, after `seek`.

        Parameters
        ----------
        size : int, optional
            In bytes.
        """
        return self._file.read(size)

    def seek(self, offset: int, whence: int = 0) -> int:
        """Move, as in any file.

        Parameters
        ----------
        offset : int
            In bytes from where `whence` says.
        whence : int, optional
            As `io.IOBase.seek`.
        """
        return self._file.seek(offset, whence)

    def flush(self) -> None:
        """See that all that was written can be read at `path`."""
        self._file.flush()

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
        """Where the file with this hash is.

        Parameters
        ----------
        hash_ : str
            SHA-256 of the content, in hexadecimal digits.
        """
        return self._folder / hash_[:2] / hash_

    def incoming(self, *, limit: int, too_large: Callable[[], Exception]) -> Incoming:
        """A new file on its way in.

        Parameters
        ----------
        limit : int
            In bytes.
        too_large : callable
            Makes the error to raise when there is more.
        """
        return Incoming(self._folder, limit=limit, too_large=too_large)

    def take(self, incoming: Incoming) -> str:
        """Store a file that has arrived whole, and hold it; return its hash.

        Parameters
        ----------
        incoming : Incoming
        """
        size, hash_ = incoming.size, incoming.finish()
        place = self.path(hash_)
        place.parent.mkdir(exist_ok=True)
        incoming.path.chmod(0o600)

        def put() -> None:
            # From here until the end nobody else puts this file anywhere, or takes it away.
            database.execute_sql(
                "INSERT INTO stored_file (hash, size, created, holds, held_at) VALUES (%s, %s, %s, 1, %s) "
                "ON DUPLICATE KEY UPDATE holds = holds + 1, held_at = VALUES(held_at)",
                (hash_, size, now(), now()),
            )
            incoming.path.replace(place)

        unlocked(put)
        return hash_

    def take_path(self, path: Path, *, limit: int, too_large: Callable[[], Exception]) -> str:
        """Store a copy of a file on this machine; return its hash.

        Parameters
        ----------
        path : Path
        limit : int
            In bytes.
        too_large : callable
            Makes the error to raise when there is more.
        """
        with open(path, "rb") as file:
            return self.take_file(file, limit=limit, too_large=too_large)

    def take_file(self, file: BinaryIO, *, limit: int, too_large: Callable[[], Exception]) -> str:
        """Store what an open file holds; return its hash.

        Parameters
        ----------
        file : binary file
            Seekable.
        limit : int
            In bytes.
        too_large : callable
            Makes the error to raise when there is more.
        """
        incoming = self.incoming(limit=limit, too_large=too_large)
        try:
            for part in _parts(file):
                incoming.write(part)
        except BaseException:
            incoming.discard()
            raise
        return self.take(incoming)

    def hold(self, hashes: Iterable[str]) -> None:
        """Hold files that are there already, as `take` holds what it takes in.

        Parameters
        ----------
        hashes : iterable of str
            Of the files, as `path` takes them.
        """
        for hash_ in hashes:
            StoredFile.update(holds=StoredFile.holds + 1, held_at=now()).where(StoredFile.hash == hash_).execute()

    def let_go(self, hashes: Iterable[str]) -> None:
        """No longer hold files; those that nobody holds and nothing refers to are deleted.

        Parameters
        ----------
        hashes : iterable of str
            Of the files, as `path` takes them.
        """
        for hash_ in hashes:
            unlocked(functools.partial(self._let_go, hash_))

    def _let_go(self, hash_: str) -> None:
        file = self._locked(hash_)
        if file is None:
            return
        StoredFile.update(holds=max(0, file.holds - 1)).where(StoredFile.hash == hash_).execute()
        if file.holds <= 1:
            self._delete_unless_used(hash_)

    def sweep(self) -> int:
        """Delete what nothing refers to and nobody holds any more, and what never arrived; return how many files."""
        before = now() - dt.timedelta(hours=HOLD_HOURS)
        is_idle = (StoredFile.holds == 0) | (StoredFile.held_at < before)
        n_deleted = 0
        idle = StoredFile.select(StoredFile.hash).where(is_idle & ~_is_used(StoredFile.hash))
        for (hash_,) in tuples_of(idle, tuple[str]):
            with database.atomic():
                file = self._locked(hash_)
                if file is not None and (file.holds == 0 or file.held_at is None or file.held_at < before):
                    n_deleted += self._delete_unless_used(hash_)
        for left in self._folder.glob("incoming-*"):
            with contextlib.suppress(FileNotFoundError):
                if time.time() - left.stat().st_mtime > HOLD_HOURS * 3600:
                    left.unlink()
                    n_deleted += 1
        return n_deleted

    def _locked(self, hash_: str) -> StoredFile | None:
        found: StoredFile | None = StoredFile.select().where(StoredFile.hash == hash_).for_update().first()
        return found

    def _delete_unless_used(self, hash_: str) -> bool:
        """With its row locked: take it away if nothing refers to it."""
        if StoredFile.select().where((StoredFile.hash == hash_) & _is_used(StoredFile.hash)).exists():
            return False
        StoredFile.delete().where(StoredFile.hash == hash_).execute()
        with contextlib.suppress(FileNotFoundError):
            self.path(hash_).unlink()
        return True


def _is_used(hash_: Any) -> Any:
    """Whether any record refers to a file."""
    parts = (
        Model.model_file,
        Model.preprocessor_file,
        Model.beside_file,
        Model.reference_file,
        Model.compiled_file,
        Model.study_file,
        Model.converted_file,
    )
    of_model = Model.select(Model.id).where(functools.reduce(operator.or_, (part == hash_ for part in parts)))
    of_demo = Demo.select(Demo.id).where(
        (Demo.known_file == hash_) | (Demo.expected_file == hash_) | (Demo.expected_rows_file == hash_)
    )
    of_job = Job.select(Job.id).where(Job.file == hash_)
    return functools.reduce(operator.or_, map(peewee.fn.EXISTS, (of_model, of_demo, of_job)))


def _parts(file: BinaryIO) -> Iterator[bytes]:
    while part := file.read(COPY_BYTES):
        yield part
