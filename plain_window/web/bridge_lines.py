"""The lines of one connected process: runners ask at a socket here, and their questions go on over its WebSocket.

Nothing of what crosses is read here but whose it is: questions are made in a runner, and answers are decoded in it.
"""

import contextlib
import datetime as dt
import itertools
import json
import os
import socket
import struct
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

import msgspec
from simple_websocket import ConnectionClosed, Server

from ..runners.protocol import listen
from ..settings import Settings
from .types.bridges import BridgeView

__all__ = ["MOST_BYTES", "BridgeLines", "BridgeState", "Taken", "bridge_state", "bridge_view", "since_of"]

LENGTH = struct.Struct(">Q")
# What one message may be, and how many lines runners may have open to one process.
MOST_BYTES, MOST_LINES = 64 << 20, 16
LOOK_SECONDS, LET_GO_SECONDS = 0.5, 5.0
ENDINGS = ("sock", "json")
LEFT = "left"


class Taken(Exception):
    """Another process answers for this already; the message is what it is called."""


@dataclass(frozen=True)
class BridgeState:
    """Who answers, or since when nobody does. Times are seconds since 1970 began, in UTC."""

    is_connected: bool
    since: float | None = None
    name: str = ""
    python: str = ""
    client: str = ""
    token: str = ""


def bridge_state(settings: Settings, key: str) -> BridgeState:
    """Whether somebody answers for a bridge.

    Parameters
    ----------
    settings : Settings
    key : str
        Of the bridge.
    """
    place = settings.bridges / key
    try:
        if _is_answered(place.with_suffix(".sock")):
            return BridgeState(**json.loads(place.with_suffix(".json").read_text()))
    except (OSError, ValueError, TypeError):
        pass
    try:
        return BridgeState(False, since=place.with_suffix(f".{LEFT}").stat().st_mtime)
    except OSError:
        return BridgeState(False)


def bridge_view(slug: str, found: BridgeState) -> BridgeView:
    """Who answers for a demo.

    Parameters
    ----------
    slug : str
        Of the demo.
    found : BridgeState
    """
    return BridgeView(
        demo=slug,
        connected=found.is_connected,
        since=since_of(found),
        name=found.name,
        python=found.python,
        client=found.client,
    )


def since_of(found: BridgeState) -> dt.datetime | None:
    """Since when somebody answers, or nobody does, in UTC.

    Parameters
    ----------
    found : BridgeState
    """
    return dt.datetime.fromtimestamp(found.since, dt.UTC).replace(tzinfo=None) if found.since else None


def _is_answered(path: Path) -> bool:
    """Whether somebody takes a connection there: a file alone may be left of a process that is gone."""
    with socket.socket(socket.AF_UNIX) as tried:
        try:
            tried.connect(str(path))
        except OSError:
            return False
    return True


class BridgeLines:
    """Runners' lines to one process.

    Parameters
    ----------
    settings : Settings
    key : str
        Of the bridge.
    websocket : simple_websocket.Server
    """

    def __init__(self, settings: Settings, key: str, websocket: Server) -> None:
        self._place = settings.bridges / key
        self._websocket, self._sending = websocket, threading.Lock()
        self._numbers = itertools.count(1)
        self._asked: dict[int, socket.socket] = {}
        self._lines: set[socket.socket] = set()
        self._listening: socket.socket | None = None
        self._token = os.urandom(8).hex()
        self.is_taken = False

    @property
    def _socket(self) -> Path:
        return self._place.with_suffix(".sock")

    def open(self, *, name: str, python: str, client: str, take_over: bool) -> None:
        """Let runners ask here from now on.

        Parameters
        ----------
        name, python, client : str
            What the process says of itself.
        take_over : bool
            Let go whoever answers now.

        Raises
        ------
        Taken
            If another process answers, and is to stay.
        """
        if _is_answered(self._socket):
            if not take_over:
                raise Taken(json.loads(self._place.with_suffix(".json").read_text()).get("name", ""))
            self._place.with_suffix(".json").write_text(json.dumps({"token": self._token}))
            until = time.monotonic() + LET_GO_SECONDS
            while self._socket.exists() and time.monotonic() < until:
                time.sleep(0.05)
        self._socket.unlink(missing_ok=True)
        state = BridgeState(True, time.time(), name[:80], python[:20], client[:20], self._token)
        self._place.with_suffix(".json").write_text(json.dumps(asdict(state)))
        self._listening = listen(self._socket)
        threading.Thread(target=self._accept, daemon=True).start()

    def close(self) -> None:
        """Nobody answers any more: runners hear it at once."""
        listening, self._listening = self._listening, None
        if listening is not None:
            listening.close()
            if self._owns():
                self._place.with_suffix(f".{LEFT}").touch()
                self._place.with_suffix(".json").unlink(missing_ok=True)
            self._socket.unlink(missing_ok=True)
        for line in list(self._lines):
            with contextlib.suppress(OSError):
                line.shutdown(socket.SHUT_RDWR)
            line.close()

    def _owns(self) -> bool:
        try:
            return bool(json.loads(self._place.with_suffix(".json").read_text())["token"] == self._token)
        except (OSError, ValueError, KeyError):
            return True

    def serve(self, is_over: Callable[[], bool]) -> None:
        """Hand answers on until the process goes, is taken over from, or does what it must not.

        Parameters
        ----------
        is_over : callable
            Whether it is to be let go of.
        """
        looked = time.monotonic()
        while not is_over():
            message = self._websocket.receive(timeout=LOOK_SECONDS)
            if time.monotonic() - looked > LOOK_SECONDS:
                looked = time.monotonic()
                if not self._owns():
                    self.is_taken = True
                    return
            if message is not None and not self._take(message):
                return

    def _take(self, message: Any) -> bool:
        """One reply; False where it is none that anybody waits for."""
        try:
            said = msgspec.msgpack.decode(message, type=_Reply)
        except (msgspec.MsgspecError, TypeError):
            return False
        line = self._asked.pop(said.id, None)
        if line is None:
            return False
        with contextlib.suppress(OSError):
            line.sendall(LENGTH.pack(len(said.reply)) + said.reply)
        return True

    def _accept(self) -> None:
        while (listening := self._listening) is not None:
            try:
                line, _ = listening.accept()
            except OSError:
                return
            if len(self._lines) >= MOST_LINES:
                line.close()
                continue
            self._lines.add(line)
            threading.Thread(target=self._ask, args=(line,), daemon=True).start()

    def _ask(self, line: socket.socket) -> None:
        """Hand a runner's questions on, one after another, for as long as it asks."""
        try:
            for question in _questions(line):
                number = next(self._numbers)
                self._asked[number] = line
                with self._sending:
                    self._websocket.send(msgspec.msgpack.encode({"say": "ask", "id": number, "question": question}))
        except (OSError, ConnectionClosed):
            pass
        finally:
            self._lines.discard(line)
            line.close()


class _Reply(msgspec.Struct, tag_field="say", tag="reply"):
    """What a process answers."""

    id: int
    reply: bytes


def _questions(line: socket.socket) -> Iterator[bytes]:
    file = line.makefile("rb")
    while len(head := file.read(LENGTH.size)) == LENGTH.size:
        (length,) = LENGTH.unpack(head)
        if length > MOST_BYTES:
            return
        content = file.read(length)
        if len(content) < length:
            return
        yield content
