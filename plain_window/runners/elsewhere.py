"""A confined process that reads a file which lies elsewhere, and is asked for a piece at a time.

It has no path to the file. Whoever asks holds it, and sends the bytes that are wanted: the file stays where it is, no
copy of it is made, and memory stays flat however large it is.
"""

import contextlib
import io
import queue
import socket
import threading
import time
from abc import ABC, abstractmethod
from collections.abc import Callable
from typing import Any, ClassVar, Generic, TypeVar

from ..core.contract.elsewhere import FileBytes, NotRead, Wanted
from ..core.contract.messages import Said
from ..core.errors import FilmNotRead, TableNotRead
from .protocol import ProtocolError, receive, send
from .waiting import connections
from .watching import write_beat

__all__ = ["Desk", "FileOf", "serve_file"]

# What gives the file of a size.
FileOf = Callable[[int], io.RawIOBase]
# How much is asked for at a time; what a reader wants next mostly lies behind it.
AHEAD_BYTES = 1 << 20
# How long it waits for somebody to ask.
IDLE_SECONDS = 120.0


class _Elsewhere(io.RawIOBase):
    """A file that lies with whoever asks.

    Parameters
    ----------
    size : int
        In bytes.
    wanted : queue of Said
        Where what is wanted is put.
    brought : queue of bytes
        Where it comes.
    """

    def __init__(self, size: int, wanted: "queue.SimpleQueue[Said]", brought: "queue.SimpleQueue[bytes]") -> None:
        self._size, self._wanted, self._brought = size, wanted, brought
        self._at, self._ahead_at, self._ahead = 0, 0, b""

    def readable(self) -> bool:
        return True

    def seekable(self) -> bool:
        return True

    def tell(self) -> int:
        return self._at

    def seek(self, offset: int, whence: int = io.SEEK_SET) -> int:
        start = {io.SEEK_SET: 0, io.SEEK_CUR: self._at, io.SEEK_END: self._size}[whence]
        self._at = max(0, start + offset)
        return self._at

    def readinto(self, buffer: "memoryview") -> int:  # type: ignore[override]
        data = self.read(len(buffer))
        buffer[: len(data)] = data
        return len(data)

    def read(self, size: int = -1) -> bytes:
        left = max(0, self._size - self._at)
        size = left if size is None or size < 0 else min(size, left)
        parts = []
        while size > 0:
            part = self._some(size)
            if not part:
                break
            parts.append(part)
            self._at += len(part)
            size -= len(part)
        return b"".join(parts)

    def _some(self, size: int) -> bytes:
        """Bytes from here on: what is there already, or what is brought."""
        inside = self._at - self._ahead_at
        if not 0 <= inside < len(self._ahead):
            self._wanted.put(Wanted(self._at, max(AHEAD_BYTES, min(size, 8 * AHEAD_BYTES))))
            self._ahead_at, self._ahead, inside = self._at, self._brought.get(), 0
        return self._ahead[inside : inside + size]


Asked = TypeVar("Asked")


class Desk(ABC, Generic[Asked]):
    """Does what is asked about one file.

    `noun` is what the file is called in sentences, `asks` what may be asked: a union of tagged types.

    Parameters
    ----------
    file_of : callable
        Gives the file of a size.
    """

    noun: ClassVar[str]
    asks: ClassVar[Any]

    def __init__(self, file_of: FileOf) -> None:
        self._file_of = file_of

    @abstractmethod
    def done(self, ask: Asked) -> Said:
        """What is said to this.

        Parameters
        ----------
        ask : Ask
            One of `asks`.
        """


class _Reader(Generic[Asked]):
    """Does what is asked in a thread of its own, which waits for the bytes it wants."""

    def __init__(self, desk: type[Desk[Asked]]) -> None:
        self._asked: queue.SimpleQueue[Asked] = queue.SimpleQueue()
        self._said: queue.SimpleQueue[Said] = queue.SimpleQueue()
        self._brought: queue.SimpleQueue[bytes] = queue.SimpleQueue()
        self._desk = desk(lambda size: _Elsewhere(size, self._said, self._brought))
        threading.Thread(target=self._run, name="reader", daemon=True).start()

    def answer(self, ask: Asked | FileBytes) -> Said:
        """What is said to this; that bytes are wanted before it can be answered, maybe."""
        if isinstance(ask, FileBytes):
            self._brought.put(ask.content)
        else:
            self._asked.put(ask)
        return self._said.get()

    def _run(self) -> None:
        noun = self._desk.noun
        while True:
            ask = self._asked.get()
            try:
                self._said.put(self._desk.done(ask))
            except (TableNotRead, FilmNotRead) as error:
                self._said.put(NotRead(str(error)))
            except MemoryError:
                self._said.put(NotRead(f"The {noun} has a part that does not fit into the memory a {noun} may take."))
            except Exception as error:  # whatever a file made to do harm brings about, who asked hears of it
                self._said.put(NotRead(f"The {noun} could not be read: {type(error).__name__}: {str(error)[:200]}"))


def serve_file(
    desk: type[Desk[Asked]], listening: socket.socket, control: socket.socket, heartbeat: memoryview
) -> None:
    """Answer the one job that this is for, until it or the keeper goes.

    Parameters
    ----------
    desk : type
        A desk's, made of what gives the file of a size.
    listening : socket.socket
    control : socket.socket
    heartbeat : memoryview
        Shared with the keeper, which ends what takes too long.
    """
    for connection in connections(listening, control, seconds=IDLE_SECONDS):
        reader, n_asked = _Reader(desk), 0
        with connection, contextlib.suppress(OSError, ProtocolError):
            while True:
                ask = receive(connection, desk.asks)
                n_asked += 1
                write_beat(heartbeat, time.monotonic_ns(), n_asked, is_quick=False)
                reply = reader.answer(ask)
                write_beat(heartbeat, 0, 0, is_quick=False)
                send(connection, reply)
