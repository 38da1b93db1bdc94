"""One connection to a runner that many callers share.

A system call and a change of process for each request would cost more than answering it. Callers that come at the same
time send together, and the runner answers what came together in one go. Works with threads and with gevent, whose
locks and threads stand in for the standard ones in the web processes.
"""

import contextlib
import socket
import threading
import time
from collections import deque
from collections.abc import Callable
from typing import Any

from .protocol import Frames, ProtocolError, pack

__all__ = ["Pipe", "PipeBroken"]

RECEIVE_BYTES = 1 << 16


class PipeBroken(Exception):
    """The runner is gone. `was_sent` tells whether it may have begun with the call."""

    def __init__(self, *, was_sent: bool) -> None:
        super().__init__("the runner closed the connection")
        self.was_sent = was_sent


class _Waiting:
    """One call under way. Its lock is held until there is a reply, or none will come."""

    __slots__ = ("done", "reply")

    def __init__(self) -> None:
        self.reply: dict[str, Any] | None = None
        self.done = threading.Lock()
        self.done.acquire()


class Pipe:
    """A connection, its callers in line, and the thread that hands out replies.

    Invariant: replies come in the order in which calls were sent, so the first in line gets the next reply.

    Parameters
    ----------
    connection : socket
        Connected. The pipe owns it from now on.
    on_end : callable
        Called once when the connection has ended.
    """

    def __init__(self, connection: socket.socket, *, on_end: Callable[["Pipe"], None]) -> None:
        self._connection = connection
        self._on_end = on_end
        self._line: deque[_Waiting] = deque()
        self._unsent: list[bytes] = []
        self._sending = False
        self._lock = threading.Lock()
        self.is_open = True
        connection.settimeout(None)
        threading.Thread(target=self._read, name="runner-replies", daemon=True).start()

    def call(self, message: dict[str, Any], *, timeout: float) -> dict[str, Any]:
        """The reply to `message`.

        Raises
        ------
        PipeBroken
            If the runner is gone before it replied.
        TimeoutError
            If that takes longer than `timeout` seconds.
        """
        frame, waiting = pack(message), _Waiting()
        with self._lock:
            if not self.is_open:
                raise PipeBroken(was_sent=False)
            self._line.append(waiting)
            self._unsent.append(frame)
            sends = not self._sending
            self._sending = True
        if sends:
            # Whoever else is about to call does so now; then all of it goes out at once.
            time.sleep(0)
            self._send()
        if not waiting.done.acquire(timeout=timeout):
            raise TimeoutError
        if waiting.reply is None:
            raise PipeBroken(was_sent=True)
        return waiting.reply

    def close(self) -> None:
        """End the connection; calls under way get no reply."""
        with contextlib.suppress(OSError):
            self._connection.shutdown(socket.SHUT_RDWR)

    def _send(self) -> None:
        while True:
            with self._lock:
                frames, self._unsent = self._unsent, []
                if not frames:
                    self._sending = False
                    return
            try:
                self._connection.sendall(b"".join(frames))
            except OSError:
                # The reader sees the end too and tells everybody in line.
                self.close()

    def _read(self) -> None:
        frames = Frames()
        with contextlib.suppress(OSError, ProtocolError):
            while data := self._connection.recv(RECEIVE_BYTES):
                for reply in frames.feed(data):
                    waiting = self._line.popleft()
                    waiting.reply = reply
                    waiting.done.release()
        with self._lock:
            self.is_open = False
            left, self._line = self._line, deque()
        self._connection.close()
        self._on_end(self)
        for waiting in left:
            waiting.done.release()
