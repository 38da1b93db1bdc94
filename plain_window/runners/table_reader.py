"""Reads a job's table and writes its result: a confined process that is asked for a piece at a time.

It has no path to the table. Whoever asks holds the file, and sends the bytes that are wanted: the file stays where it
is, no copy of it is made, and memory stays flat however large it is.
"""

import contextlib
import io
import queue
import socket
import threading
import time
from collections.abc import Iterator

from ..core.batches.table_cases import TableCases
from ..core.contract.table_cases import (
    Begin,
    Convert,
    Converted,
    LookAt,
    NextChunk,
    NotRead,
    SkipChunk,
    TableAsk,
    TableBytes,
    TableReply,
    Wanted,
    WriteChunk,
)
from ..core.errors import TableNotRead
from .protocol import ProtocolError, receive, send
from .waiting import connections
from .watching import write_beat

__all__ = ["serve_table"]

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
    wanted : queue of TableReply
        Where what is wanted is put.
    brought : queue of bytes
        Where it comes.
    """

    def __init__(self, size: int, wanted: "queue.SimpleQueue[TableReply]", brought: "queue.SimpleQueue[bytes]") -> None:
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


class _Reader:
    """Does what is asked in a thread of its own, which waits for the bytes it wants."""

    def __init__(self) -> None:
        self._asked: queue.SimpleQueue[TableAsk] = queue.SimpleQueue()
        self._said: queue.SimpleQueue[TableReply] = queue.SimpleQueue()
        self._brought: queue.SimpleQueue[bytes] = queue.SimpleQueue()
        self._cases: TableCases | None = None
        self._converted: Iterator[bytes] | None = None
        threading.Thread(target=self._run, name="table", daemon=True).start()

    def answer(self, ask: TableAsk) -> TableReply:
        """What is said to this; that bytes are wanted before it can be answered, maybe."""
        if isinstance(ask, TableBytes):
            self._brought.put(ask.content)
        else:
            self._asked.put(ask)
        return self._said.get()

    def _run(self) -> None:
        while True:
            ask = self._asked.get()
            try:
                self._said.put(self._done(ask))
            except TableNotRead as error:
                self._said.put(NotRead(str(error)))
            except MemoryError:
                self._said.put(NotRead("The table has a part that does not fit into the memory a table may take."))
            except Exception as error:  # whatever a file made to do harm brings about, who asked hears of it
                self._said.put(NotRead(f"The table could not be read: {type(error).__name__}: {str(error)[:200]}"))

    def _done(self, ask: TableAsk) -> TableReply:
        match ask:
            case LookAt():
                return self._of_size(ask.size).look(ask)
            case Begin():
                return self._of_size(ask.size).begin(ask)
            case NextChunk() if self._cases is not None:
                return self._cases.next_chunk()
            case SkipChunk() if self._cases is not None:
                return self._cases.skip_chunk()
            case WriteChunk() if self._cases is not None:
                return self._cases.write_chunk(ask)
            case Convert():
                from ..core.batches.converting import convert_result

                file = io.BufferedReader(self._elsewhere(ask.size))
                self._converted = convert_result(file, to=ask.to, types=ask.types, style=ask.style)
                return self._part()
        if self._converted is not None:
            return self._part()
        return NotRead("Nothing was begun.")

    def _part(self) -> Converted:
        """The next part of what is being made that has something in it."""
        for content in self._converted or ():
            if content:
                return Converted(content, is_last=False)
        return Converted(b"", is_last=True)

    def _of_size(self, size: int) -> TableCases:
        if self._cases is None:
            self._cases = TableCases(io.BufferedReader(self._elsewhere(size)))
        return self._cases

    def _elsewhere(self, size: int) -> _Elsewhere:
        return _Elsewhere(size, self._said, self._brought)


def serve_table(listening: socket.socket, control: socket.socket, heartbeat: memoryview) -> None:
    """Answer the one job that this is for, until it or the keeper goes.

    Parameters
    ----------
    listening : socket.socket
    control : socket.socket
    heartbeat : memoryview
        Shared with the keeper, which ends what takes too long.
    """
    for connection in connections(listening, control, seconds=IDLE_SECONDS):
        reader, n_asked = _Reader(), 0
        with connection, contextlib.suppress(OSError, ProtocolError):
            while True:
                ask = receive(connection, TableAsk)
                n_asked += 1
                write_beat(heartbeat, time.monotonic_ns(), n_asked, is_quick=False)
                reply = reader.answer(ask)
                write_beat(heartbeat, 0, 0, is_quick=False)
                send(connection, reply)
