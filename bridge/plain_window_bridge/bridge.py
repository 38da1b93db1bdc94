"""The connection: made from here, made again when it breaks, with many calls under way."""

from __future__ import annotations

import os
import platform
import ssl
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from typing import Any, Callable
from urllib.parse import urlsplit

import msgpack
from websockets.exceptions import ConnectionClosed, InvalidStatus, WebSocketException
from websockets.sync.client import connect as open_websocket

from .answers import Answers
from .codec import pack, unpack
from .estimators import functions_of
from .signature import described

__all__ = ["Bridge", "BridgeRefused", "connect"]

PROTOCOL, VERSION = 1, "1.0.0"
PATH = "/api/v1/bridge"
# What one message may be; the server takes no larger ones.
MOST_BYTES = 64 << 20
OPEN_SECONDS, READY_SECONDS = 10.0, 180.0
# How long it waits before it tries again: longer each time, and never long.
FIRST_WAIT, MOST_WAIT = 0.1, 1.0
PING_SECONDS = 5.0
# What this process has connected, by where and for what.
_MADE: dict[tuple[str, str], Bridge] = {}


class BridgeRefused(Exception):
    """The server does not take what is connected; the message says why."""


def connect(
    model: Any,
    *,
    to: str,
    demo: str | None = None,
    key: str | None = None,
    batch: Callable[..., Any] | None = None,
    reference: Any = None,
    target: str | None = None,
    title: str | None = None,
    name: str = "",
    take_over: bool = False,
    threads: int = 8,
    say: Callable[[str], None] = print,
) -> Bridge:
    """Let a demo be answered from here.

    Parameters
    ----------
    model : callable, or an object with `predict`
        A function with type hints; or a fitted model with `feature_names_in_`, or with a `reference` table.
    to : str
        Where Plain Window runs.
    demo : str, optional
        The demo's address; left out, one is made from the title or the function's name, and found again by it.
    key : str, optional
        PLAINWINDOW_KEY if left out.
    batch : callable, optional
        The function for many cases at once: columns, or one table.
    reference : DataFrame, or bytes of a CSV, optional
        Rows like those the model was trained on: then answers are explained against them.
    target : str, optional
        The outcome's column in it.
    title : str, optional
    name : str, optional
        What this process is called on the author's page.
    take_over : bool, optional
        Let go whoever answers this demo now.
    threads : int, optional
        How many calls may be under way.
    say : callable, optional
        Takes what happens, line by line.

    Raises
    ------
    BridgeRefused
        If the server does not take it.
    """
    key = key or os.environ.get("PLAINWINDOW_KEY", "")
    if not key:
        raise BridgeRefused("There is no key. Set PLAINWINDOW_KEY, or give `key`; `./plainwindow key NAME` makes one.")
    if callable(model) and not hasattr(model, "predict"):
        source, function = described(model, batch)
        answers = Answers(model, batch)
    elif hasattr(model, "predict"):
        source, function, functions = functions_of(model, has_table=reference is not None)
        answers = Answers(functions[0], functions[-1])
    else:
        raise BridgeRefused(f"A `{type(model).__name__}` is neither a function nor a model with `predict`.")
    # A cell that is run again means the newer function; this process would only be in its own way.
    what = (_address(to), demo or title or function)
    earlier = _MADE.pop(what, None)
    if earlier is not None:
        # The server may not have heard yet that it is closed.
        take_over = take_over or earlier.is_connected
        earlier.close()
    hello = {
        "say": "hello", "protocol": PROTOCOL, "client": VERSION, "python": platform.python_version(), "name": name,
        "demo": demo, "title": title, "source": source, "function": function, "target": target,
        "reference": _as_csv(reference), "take_over": take_over,
    }  # fmt: skip
    bridge = _MADE[what] = Bridge(what[0], key, hello, answers, threads=threads, say=say)
    bridge.wait_ready()
    return bridge


def _address(to: str) -> str:
    parts = urlsplit(to if "://" in to else f"https://{to}")
    scheme = {"http": "ws", "https": "wss"}.get(parts.scheme, parts.scheme)
    return f"{scheme}://{parts.netloc}{parts.path.rstrip('/')}{PATH}"


def _as_csv(reference: Any) -> bytes | None:
    if reference is None or isinstance(reference, bytes):
        return reference
    content: bytes = reference.to_csv(index=False).encode()
    return content


class Bridge:
    """What is connected. It goes on in the background until it is closed, or this process ends."""

    def __init__(
        self,
        address: str,
        key: str,
        hello: dict[str, Any],
        answers: Answers,
        *,
        threads: int,
        say: Callable[[str], None],
    ) -> None:
        self._address, self._key, self._hello, self._answers, self._say = address, key, hello, answers, say
        self._pool = ThreadPoolExecutor(threads, thread_name_prefix="bridge-call")
        self._closing, self._ready = threading.Event(), threading.Event()
        self._socket: Any = None
        self._sending = threading.Lock()
        self._refusal = ""
        self.demo = hello["demo"] or ""
        self._thread = threading.Thread(target=self._run, name="bridge", daemon=True)
        self._thread.start()

    def __enter__(self) -> Bridge:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    @property
    def is_connected(self) -> bool:
        """Whether the server has it."""
        return self._ready.is_set() and self._socket is not None

    def wait_ready(self, seconds: float = READY_SECONDS) -> None:
        """Until the demo is there; raises `BridgeRefused` if it is not to be."""
        until = time.monotonic() + seconds
        while not self._ready.wait(0.05):
            if self._refusal or not self._thread.is_alive():
                self.close()
                raise BridgeRefused(self._refusal or "The connection ended.")
            if time.monotonic() > until:
                self.close()
                raise BridgeRefused(f"Nothing answered at {self._address} within {seconds:g} seconds.")

    def wait(self) -> None:
        """Until it is closed, or Ctrl+C."""
        try:
            while self._thread.is_alive():
                self._thread.join(0.5)
        except KeyboardInterrupt:
            self.close()
        if self._refusal:
            raise BridgeRefused(self._refusal)

    def close(self) -> None:
        """Let go of the demo."""
        self._closing.set()
        socket = self._socket
        if socket is not None:
            socket.close()
        self._pool.shutdown(wait=False)

    def _run(self) -> None:
        wait = FIRST_WAIT
        while not self._closing.is_set():
            try:
                with self._opened() as self._socket:
                    self._serve(self._socket)
                wait = FIRST_WAIT
            except InvalidStatus as error:
                # A server that starts says so; a key that is none stays none.
                if error.response.status_code in (401, 403):
                    self._refusal = "The key is not known there. Make one with `./plainwindow key NAME`."
                    return
            except (OSError, WebSocketException, EOFError, TimeoutError):
                pass
            finally:
                was_ready, self._socket = self._ready.is_set(), None
            if self._refusal:
                return
            if was_ready and not self._closing.is_set() and wait == FIRST_WAIT:
                self._say(f"The line to `{self.demo}` is cut; trying again.")
            self._closing.wait(wait)
            wait = min(MOST_WAIT, 2 * wait)

    def _opened(self) -> Any:
        headers = {"Authorization": f"Bearer {self._key}"}
        context = ssl.create_default_context() if self._address.startswith("wss:") else None
        return open_websocket(
            self._address,
            additional_headers=headers,
            ssl=context,
            open_timeout=OPEN_SECONDS,
            ping_interval=PING_SECONDS,
            ping_timeout=3 * PING_SECONDS,
            max_size=MOST_BYTES,
            compression=None,
            # Straight there: what is set for browsers does not hold for it.
            proxy=None,
        )

    def _serve(self, socket: Any) -> None:
        socket.send(msgpack.packb(self._hello))
        while True:
            try:
                message = socket.recv()
            except ConnectionClosed:
                return
            said = msgpack.unpackb(message, raw=False)
            if said["say"] == "ask":
                self._pool.submit(self._answer, socket, said["id"], said["question"])
            elif said["say"] == "ready":
                self.demo = self._hello["demo"] = said["demo"]
                # From now on it is its own; whoever took it over later keeps it.
                self._hello["take_over"] = False
                if not self._ready.is_set() or said.get("again"):
                    self._say(f"Connected: {said['address']}")
                self._ready.set()
            elif said["say"] == "refused":
                self._refusal = said["reason"]
                return

    def _answer(self, socket: Any, number: int, question: bytes) -> None:
        reply = pack(self._answers.reply(unpack(question)))
        if len(reply) > MOST_BYTES - 1024:
            message = f"The function's answer is larger than the {MOST_BYTES >> 20} MB that cross at once."
            reply = pack({"wrong": "failed", "message": message, "traceback": ""})
        message = msgpack.packb({"say": "reply", "id": number, "reply": reply})
        try:
            with self._sending:
                socket.send(message)
        except (ConnectionClosed, OSError):
            # Whoever asked has been told that the line is cut.
            return
