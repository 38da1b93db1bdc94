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

from ..core.contract import encoded
from .protocol import FrameReader, ProtocolError, frame

__all__ = ["Pipe", "PipeBroken"]

RECEIVE_BYTES = 1 << 16


class PipeBroken(Exception):
    """The runner is gone, or said something that nobody asked.

    Attributes
    ----------
    was_sent : bool
        Whether it may have begun with the call.
    breach : str
        In what way it broke the protocol; empty if it is just gone.
    """

    def __init__(self, *, was_sent: bool, breach: str = "") -> None:
        super().__init__(breach or "the runner closed the connection")
        self.was_sent = was_sent
        self.breach = breach


class _Waiting:
    """One call under way. Its lock is held until there is a reply, or none will come."""

    __slots__ = ("done", "limit", "reply")

    def __init__(self, limit: int) -> None:
        self.reply: bytes | None = None
        self.limit = limit
        self.done = threading.Lock()
        self.done.acquire()


class Pipe:
    """A connection, its callers in line, and the thread that hands out replies.

    Invariant: replies come in the order in which calls were sent, so the first in line gets the next reply, and may
    not get more than it said that it takes.

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
        # In what way the runner broke the protocol, if that is what ended it.
        self.breach = ""
        self.is_open = True
        connection.settimeout(None)
        threading.Thread(target=self._read, name="runner-replies", daemon=True).start()

    def call(self, message: object, *, most_bytes: int, timeout: float) -> bytes:
        """The body of the reply to `message`.

        Parameters
        ----------
        message : object
        most_bytes : int
            A reply that says it is longer ends the connection before any of it is kept.
        timeout : float
            Seconds.

        Raises
        ------
        PipeBroken
            If the runner is gone before it replied, or broke the protocol.
        TimeoutError
            If that takes longer than `timeout`.
        """
        data, waiting = frame(encoded(message)), _Waiting(most_bytes)
        with self._lock:
            if not self.is_open:
                raise PipeBroken(was_sent=False, breach=self.breach)
            self._line.append(waiting)
            self._unsent.append(data)
            sends = not self._sending
            self._sending = True
        if sends:
            # Whoever else is about to call does so now; then all of it goes out at once.
            time.sleep(0)
            self._send()
        if not waiting.done.acquire(timeout=timeout):
            raise TimeoutError
        if waiting.reply is None:
            raise PipeBroken(was_sent=True, breach=self.breach)
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
        frames = FrameReader(limit=0)
        try:
            while data := self._connection.recv(RECEIVE_BYTES):
                frames.feed(data)
                self._hand_out(frames)
        except ProtocolError as error:
            self.breach = str(error)
        except OSError:
            pass
        with self._lock:
            self.is_open = False
            left, self._line = self._line, deque()
        self._connection.close()
        self._on_end(self)
        for waiting in left:
            waiting.done.release()

    def _hand_out(self, frames: FrameReader) -> None:
        """Give each whole reply to whom it is for.

        Raises
        ------
        ProtocolError
            If there is a reply too many, or one that is too long.
        """
        while not frames.is_empty:
            if not self._line:
                raise ProtocolError("a reply that nobody asked for")
            frames.limit = self._line[0].limit
            reply = frames.next()
            if reply is None:
                return
            waiting = self._line.popleft()
            waiting.reply = reply
            waiting.done.release()
