"""Calls of another Plain Window's API: with a key, with patience, and what went wrong in words."""

import json
import os
import ssl
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any, TypeVar
from urllib.parse import urlsplit

import certifi
import httpcore
import msgspec

from .replies import Problem

__all__ = ["Api", "Refused", "Reply"]

API = "/api/v1"
SECONDS = 300.0
# A server that starts, or has much to do, says when to come back; it is asked again for so long.
PATIENCE_SECONDS, PAUSE_SECONDS = 90.0, 2.0
COPY_BYTES = 1 << 18
LATER = (429, 503)

Shape = TypeVar("Shape")


class Refused(Exception):
    """It did not do what was asked; the message says why, and what to do."""

    def __init__(self, message: str, *, status: int = 0) -> None:
        super().__init__(message)
        self.status = status


class Reply:
    """What came back: a status, and a JSON body."""

    def __init__(self, status: int, content: bytes) -> None:
        self.status, self._content = status, content

    def read(self, shape: type[Shape]) -> Shape:
        """The body.

        Parameters
        ----------
        shape : type
            What it is to hold; what it holds besides is passed over.

        Raises
        ------
        Refused
            If it does not: something else answers at that address.
        """
        return _read(self._content, shape)

    def lines(self, shape: type[Shape]) -> list[Shape]:
        """The body line by line.

        Parameters
        ----------
        shape : type
            What each line is to hold.

        Raises
        ------
        Refused
            If one does not.
        """
        return [_read(line, shape) for line in self._content.split(b"\n") if line.strip()]


def _read(content: bytes, shape: type[Shape]) -> Shape:
    try:
        return msgspec.json.decode(content, type=shape)
    except (msgspec.MsgspecError, ValueError, RecursionError) as error:
        raise Refused("What answers at that address is no Plain Window. Is `--to` its address?") from error


class Api:
    """The API at an address, with an author's key.

    Parameters
    ----------
    address : str
        `https://host` or `http://host:port`.
    key : str

    Raises
    ------
    Refused
        If the address is none.
    """

    def __init__(self, address: str, key: str) -> None:
        parts = urlsplit(address if "://" in address else f"https://{address}")
        if parts.scheme not in ("http", "https") or not parts.hostname:
            raise Refused(f"`{address}` is no address. Say where Plain Window runs: https://demos.example.org.")
        self.address = f"{parts.scheme}://{parts.netloc}{parts.path.rstrip('/')}"
        self._headers = {"Authorization": f"Bearer {key}"}
        trusted = ssl.create_default_context(cafile=certifi.where())
        # And whom this machine trusts besides: companies sign their own servers.
        trusted.load_default_certs()
        self._pool = httpcore.ConnectionPool(ssl_context=trusted)

    def __enter__(self) -> "Api":
        return self

    def __exit__(self, *_: object) -> None:
        self._pool.close()

    def call(self, method: str, path: str, body: object = None, *, may_be: tuple[int, ...] = ()) -> Reply:
        """A call with a JSON body, or none.

        Parameters
        ----------
        method, path : str
        body : object, optional
        may_be : tuple of int
            Statuses of failures that are no failure here.

        Raises
        ------
        Refused
            If it fails otherwise.
        """
        content = None if body is None else json.dumps(body).encode()
        headers = {"Content-Type": "application/json"} if body is not None else {}
        return self._patiently(method, path, lambda: content, headers, may_be)

    def send_file(self, method: str, path: str, part: str, file: Path) -> Reply:
        """A call with one file in a multipart body, read a piece at a time.

        Parameters
        ----------
        method, path : str
        part : str
            The part's name.
        file : Path

        Raises
        ------
        Refused
            If it fails.
        """
        boundary = f"plain-window-{os.urandom(12).hex()}"
        head = (
            f'--{boundary}\r\nContent-Disposition: form-data; name="{part}"; filename="{part}.zip"\r\n'
            "Content-Type: application/zip\r\n\r\n"
        ).encode()
        tail = f"\r\n--{boundary}--\r\n".encode()

        def content() -> Iterator[bytes]:
            yield head
            with open(file, "rb") as opened:
                while piece := opened.read(COPY_BYTES):
                    yield piece
            yield tail

        headers = {
            "Content-Type": f"multipart/form-data; boundary={boundary}",
            "Content-Length": str(len(head) + file.stat().st_size + len(tail)),
        }
        return self._patiently(method, path, content, headers, ())

    def _patiently(
        self, method: str, path: str, content: Any, headers: dict[str, str], may_be: tuple[int, ...]
    ) -> Reply:
        until = time.monotonic() + PATIENCE_SECONDS
        while True:
            reply, pause = self._once(method, path, content(), headers)
            if reply.status < 400 or reply.status in may_be:
                return reply
            if reply.status not in LATER or time.monotonic() + pause > until:
                raise _refusal(reply)
            time.sleep(pause)

    def _once(self, method: str, path: str, content: Any, headers: dict[str, str]) -> tuple[Reply, float]:
        url = f"{self.address}{API}{path}"
        timeouts = dict.fromkeys(("connect", "read", "write", "pool"), SECONDS)
        try:
            response = self._pool.request(
                method,
                url,
                headers=[*self._headers.items(), *headers.items()],
                content=content,
                extensions={"timeout": timeouts},
            )
        except (httpcore.NetworkError, httpcore.ProtocolError, httpcore.TimeoutException, OSError) as error:
            why = str(error) or type(error).__name__
            raise Refused(
                f"`{self.address}` cannot be reached: {why}. Is it running, and is `--to` its address?"
            ) from error
        found = {name.lower(): value for name, value in response.headers}
        pause = found.get(b"retry-after", b"")
        return Reply(response.status, response.content), float(pause) if pause.isdigit() else PAUSE_SECONDS


def _refusal(reply: Reply) -> Refused:
    if reply.status == 401:
        return Refused("The key is not one of that server's. Make one there: `./plainwindow key NAME`.", status=401)
    try:
        problem = reply.read(Problem)
    except Refused:
        return Refused(f"It answered with {reply.status}. Is `--to` its address?", status=reply.status)
    lines = [problem.detail, *(one.message for one in problem.errors or [] if one.message != problem.detail)]
    if problem.traceback:
        lines.append(f"\n{problem.traceback}")
    return Refused("\n".join(lines), status=reply.status)
