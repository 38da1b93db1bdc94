"""What a job has made, on disk: the result's header, and its lines and faults chunk by chunk."""

import os
import shutil
from collections.abc import Iterator
from pathlib import Path
from typing import BinaryIO, cast

__all__ = ["JobFolder", "JoinedFile"]

COPY_BYTES = 1 << 20


class JobFolder:
    """One job's folder. A chunk is there whole or not at all.

    Parameters
    ----------
    jobs : Path
        Where all jobs' folders are.
    token : str
        The job's.
    """

    def __init__(self, jobs: Path, token: str) -> None:
        self.path = jobs / token

    def make(self) -> None:
        """Have it there, readable by us only."""
        self.path.mkdir(mode=0o700, parents=True, exist_ok=True)

    def remove(self) -> None:
        """Delete all of it."""
        shutil.rmtree(self.path, ignore_errors=True)

    def keep(self, name: str, content: bytes) -> None:
        """Write a part, whole or not at all.

        Parameters
        ----------
        name : str
        content : bytes

        Raises
        ------
        OSError
            If there is no room for it.
        """
        making = self.path / f"{name}.part"
        with open(making, "wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        making.replace(self.path / name)

    def keep_chunk(self, chunk: int, content: bytes, faults: bytes, known: bytes) -> None:
        """Write what came of a chunk.

        Parameters
        ----------
        chunk : int
        content, faults, known : bytes
            Lines of the result, lines about faults, and outputs beside what happened.

        Raises
        ------
        OSError
            If there is no room for it.
        """
        for suffix, part in (("faults", faults), ("known", known)):
            if part:
                self.keep(f"{chunk:06}.{suffix}", part)
        # Last: with it the chunk is there.
        self.keep(f"{chunk:06}.csv", content)

    def lines(self, name: str) -> Iterator[bytes]:
        """The lines of a part, in order; none where it is not there.

        Parameters
        ----------
        name : str
        """
        path = self.path / name
        if path.is_file():
            with open(path, "rb") as file:
                yield from file

    def result(self, chunks: int) -> "JoinedFile":
        """The result as one file.

        Parameters
        ----------
        chunks : int
            How many there are of it.
        """
        return JoinedFile([self.path / "header.csv", *(self.path / f"{at:06}.csv" for at in range(chunks))])

    def faults(self, chunks: int) -> Iterator[bytes]:
        """The lines about faults, in order.

        Parameters
        ----------
        chunks : int
            How many there are of it.
        """
        for at in range(chunks):
            yield from self.lines(f"{at:06}.faults")

    def known(self, chunks: int) -> Iterator[bytes]:
        """Outputs beside what happened, chunk by chunk.

        Parameters
        ----------
        chunks : int
        """
        for at in range(chunks):
            path = self.path / f"{at:06}.known"
            if path.is_file():
                yield path.read_bytes()


class JoinedFile:
    """Files one behind another, as one that can be read from anywhere.

    Parameters
    ----------
    paths : list of Path
    """

    def __init__(self, paths: list[Path]) -> None:
        self._paths = paths
        self._starts = [0]
        for path in paths:
            self._starts.append(self._starts[-1] + path.stat().st_size)
        self._at = 0
        self._open: tuple[int, BinaryIO] | None = None

    @property
    def size(self) -> int:
        """All bytes together."""
        return self._starts[-1]

    def seek(self, offset: int, whence: int = os.SEEK_SET) -> int:
        """Move, as in any file.

        Parameters
        ----------
        offset : int
        whence : int, optional
        """
        start = {os.SEEK_SET: 0, os.SEEK_CUR: self._at, os.SEEK_END: self.size}[whence]
        self._at = start + offset
        return self._at

    def read(self, size: int) -> bytes:
        """The bytes from here on; fewer at the end.

        Parameters
        ----------
        size : int
        """
        parts = []
        while size > 0 and self._at < self.size:
            which = next(at for at in range(len(self._paths)) if self._starts[at + 1] > self._at)
            file = self._file(which)
            file.seek(self._at - self._starts[which])
            part = file.read(min(size, self._starts[which + 1] - self._at))
            if not part:
                break
            parts.append(part)
            self._at += len(part)
            size -= len(part)
        return b"".join(parts)

    def parts(self) -> Iterator[bytes]:
        """All of it from the start, in parts."""
        for path in self._paths:
            with open(path, "rb") as file:
                while part := file.read(COPY_BYTES):
                    yield part

    def close(self) -> None:
        """Close what is open."""
        if self._open:
            self._open[1].close()
            self._open = None

    def _file(self, which: int) -> BinaryIO:
        if self._open is None or self._open[0] != which:
            self.close()
            self._open = (which, cast(BinaryIO, open(self._paths[which], "rb")))  # noqa: SIM115 -- until the next
        return self._open[1]
