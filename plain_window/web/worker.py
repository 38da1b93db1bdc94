"""gunicorn's gevent worker, with a clock on whoever sends slowly and a bound on connections from one address.

A request that never ends costs its sender nothing and us a place in line. So the head of a request has ten seconds, its
body must keep coming, and one address has only so many connections at a time.
"""

import functools
import json
import os
import socket
import time
from collections import Counter
from collections.abc import Callable
from typing import Any

import gevent
from gevent.baseserver import BaseServer
from gunicorn.http import errors
from gunicorn.util import http_date
from gunicorn.workers.base_async import ALREADY_HANDLED
from gunicorn.workers.ggevent import GeventWorker

from .peers import TooSlow, network_of

__all__ = ["PacedWorker", "send_at_once"]

# From the first byte a connection could send to the end of a request's head; also how long a connection may idle.
HEAD_SECONDS = 10.0
# How long nothing at all may come, or be taken.
SILENCE_SECONDS = 20.0
# A body may take this long, and longer as it is larger: slower than an old telephone line is not a person waiting.
BODY_SECONDS, BODY_BYTES_A_SECOND = 20.0, 4096
# One person's browsers open a handful. Behind a proxy all connections are the proxy's, which has limits of its own.
CONNECTIONS_EACH = 250
ACCEPTED_AT_ONCE = 4
# Whoever has too many is told so; how long that may take, and for how many at a time.
TELL_SECONDS, TOLD_AT_ONCE, READ_BYTES = 1.0, 50, 1 << 16

IS_PROXIED = int(os.environ.get("PLAINWINDOW_TRUSTED_PROXIES") or 0) > 0

STATUS = {
    errors.LimitRequestLine: (414, "Too long", "The address is longer than any here. Shorten it."),
    errors.LimitRequestHeaders: (431, "Too long", "The request's headers are longer than they may be."),
}
BAD_REQUEST = (400, "Not a request", "This is not a request that can be read.")
TOO_SLOW = (408, "Too slow", "The request did not come within the time there is for it. Send it again.")
TOO_MANY = (429, "Too many connections", "Too many connections from your address are open. Try again in a moment.")
REASONS = {
    400: "Bad Request",
    408: "Request Timeout",
    414: "URI Too Long",
    429: "Too Many Requests",
    431: "Request Header Fields Too Large",
}


class _PacedSocket:
    """A connection that gives up on whoever is too slow. Everything else is the socket's own."""

    def __init__(self, connection: Any, *, may_stay: Callable[[], bool] = lambda: True) -> None:
        self._connection = connection
        # Whether the connection is kept for another request.
        self.may_stay = may_stay
        self.is_idle = True
        # RequestInputs up on: nothing more is read.
        self.is_over = False
        self.has_sent = False
        self._began, self._received = time.monotonic(), 0
        connection.settimeout(SILENCE_SECONDS)

    def __getattr__(self, name: str) -> Any:
        return getattr(self._connection, name)

    def unpaced(self) -> Any:
        """The connection itself, for what stays open for as long as it likes."""
        self._connection.settimeout(None)
        return self._connection

    def start_clock(self) -> None:
        """A body begins to be read."""
        self._began, self._received, self.is_idle = time.monotonic(), 0, False

    def setblocking(self, _flag: bool) -> None:
        """The worker asks for waiting without end; it keeps the limit."""

    def recv(self, size: int, *flags: int) -> bytes:
        """As a socket's own, unless the sender has been too slow all in all."""
        spent = time.monotonic() - self._began
        if not self.is_idle and spent > BODY_SECONDS + self._received / BODY_BYTES_A_SECOND:
            self.is_over = True
            raise TooSlow("the body comes too slowly")
        try:
            data: bytes = self._connection.recv(size, *flags)
        except TimeoutError:
            # Of another kind than a broken connection: whoever reads is to say so while there is somebody to tell.
            self.is_over = True
            raise TooSlow("nothing comes") from None
        self._received += len(data)
        self.has_sent = self.has_sent or bool(data)
        return data


def send_at_once(environ: dict[str, Any], head: bytes, body: bytes) -> Any:
    """Send a whole good answer in one piece, where that is all there is to it.

    gunicorn sends the head by itself and then the body: two calls to the system, and whoever waits is woken twice.

    Parameters
    ----------
    environ : dict
        Of a WSGI request.
    head : bytes
        Lines of the head, each with its end, without length, date and what is said of the connection.
    body : bytes

    Returns
    -------
    object or None
        What the application is to return; None if nothing was sent, and the answer must go out in the usual way.
    """
    paced = environ.get("gunicorn.socket")
    stays = environ["SERVER_PROTOCOL"] == "HTTP/1.1" and environ.get("HTTP_CONNECTION", "keep-alive") == "keep-alive"
    if not isinstance(paced, _PacedSocket) or not stays or not paced.may_stay():
        return None
    whole = (
        b"HTTP/1.1 200 OK\r\nServer: gunicorn\r\nDate: %b\r\nConnection: keep-alive\r\n%bContent-Length: %d\r\n\r\n%b"
        % (_date(int(time.time())), head, len(body), body)
    )
    # Nearly always all of it is taken at once; what sees to the rest looks first how much that may be.
    n_sent = paced.send(whole)
    if n_sent < len(whole):
        paced.sendall(whole[n_sent:])
    return ALREADY_HANDLED


@functools.lru_cache(maxsize=2)
def _date(second: int) -> bytes:
    return str(http_date(second)).encode("ascii")


def _problem(status: int, title: str, detail: str, *, headers: str = "") -> bytes:
    """A refusal of what never became a request, as it is sent."""
    body = json.dumps({"type": "about:blank", "title": title, "status": status, "detail": detail}).encode()
    head = (
        f"HTTP/1.1 {status} {REASONS[status]}\r\nContent-Type: application/problem+json\r\n{headers}"
        f"Content-Length: {len(body)}\r\nConnection: close\r\n\r\n"
    )
    return head.encode() + body


class PacedWorker(GeventWorker):  # type: ignore[misc]  # gunicorn says nothing of its types
    """Serves requests for those who send them in time."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._by_network: Counter[str] = Counter()
        self._open: set[_PacedSocket] = set()
        self._n_turned_away = 0

    def run(self) -> None:
        """Serve until told to stop.

        gunicorn has a worker among several take one connection at a time, each time it looks for what has come. When
        many come at once those behind wait for as many looks; a few at a time share them out nearly as well.
        """
        BaseServer.max_accept = ACCEPTED_AT_ONCE
        self.cfg.set("workers", 1)
        super().run()

    def timeout_ctx(self) -> gevent.Timeout:
        """How long the head of a request may take."""
        return gevent.Timeout(HEAD_SECONDS, TooSlow("the head of the request did not come"))

    def handle(self, listener: Any, client: Any, addr: Any) -> None:
        """Serve one connection, if its address has not too many.

        Parameters
        ----------
        listener : object
        client : object
            Its socket.
        addr : object
            The other end.
        """
        network = network_of(addr[0]) if addr else ""
        if self._by_network[network] >= CONNECTIONS_EACH and not IS_PROXIED:
            self._turn_away(client)
            return
        self._by_network[network] += 1
        paced = _PacedSocket(client, may_stay=lambda: self.alive)
        self._open.add(paced)
        try:
            super().handle(listener, paced, addr)
        finally:
            self._open.discard(paced)
            self._by_network[network] -= 1
            if not self._by_network[network]:
                del self._by_network[network]

    def _turn_away(self, client: Any) -> None:
        """Say that there are too many, to so many at a time: being told must not cost what being served would."""
        if self._n_turned_away < TOLD_AT_ONCE:
            self._n_turned_away += 1
            try:
                client.settimeout(TELL_SECONDS)
                # Closed with something unread, a connection takes what was written to it along.
                client.recv(READ_BYTES)
                client.sendall(_problem(*TOO_MANY, headers="Retry-After: 2\r\n"))
                client.shutdown(socket.SHUT_WR)
            except OSError:
                self.log.debug("nobody is there to be told")
            finally:
                self._n_turned_away -= 1
        client.close()

    def handle_request(self, listener_name: Any, req: Any, sock: Any, addr: Any) -> Any:
        """One request whose head has come.

        Parameters
        ----------
        listener_name : object
        req : object
        sock : object
            The client's.
        addr : object
            The other end.
        """
        sock.start_clock()
        try:
            super().handle_request(listener_name, req, sock, addr)
        finally:
            sock.is_idle, sock.has_sent = True, False
        # Whoever asks again at once would else be answered again at once, and everybody else wait.
        gevent.sleep(0)
        if sock.is_over:
            raise StopIteration

    def handle_exit(self, sig: int, frame: Any) -> None:
        """Told to stop: connections on which nothing is under way are closed, the others are finished.

        Parameters
        ----------
        sig : int
            The signal's number.
        frame : object
            Where the process was.
        """
        super().handle_exit(sig, frame)
        gevent.spawn(self._close_idle)

    def _close_idle(self) -> None:
        # Looked at when it is closed: a request may have begun since.
        for paced in list(self._open):
            if paced.is_idle and not paced.has_sent:
                paced.close()

    def handle_error(self, req: Any, client: Any, addr: Any, exc: BaseException) -> None:
        """What never became a request is refused like anything else: as a problem.

        Parameters
        ----------
        req : object
        client : object
            Its socket.
        addr : object
            The other end.
        exc : BaseException
        """
        if isinstance(exc, TooSlow):
            status, title, detail = TOO_SLOW
            # Nothing came at all: a connection that was kept open ends without a word.
            if not client.has_sent:
                return
        else:
            status, title, detail = next(
                (answer for kind, answer in STATUS.items() if isinstance(exc, kind)), BAD_REQUEST
            )
        try:
            client.sendall(_problem(status, title, detail))
        except OSError:
            self.log.debug("nobody is there to be told")
