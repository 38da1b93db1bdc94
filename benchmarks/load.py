"""A client that keeps a number of connections busy and notes how long each request took.

Plain sockets and one selector: on two cores a heavier client would be what is measured. Goes to loopback only.
"""

import itertools
import selectors
import socket
import time
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

__all__ = ["Load", "first_request_ms", "keep_busy"]

RECEIVE_BYTES = 1 << 16
SOCKET_SECONDS = 30


@dataclass(frozen=True)
class Load:
    """What came of it; times in milliseconds."""

    connections: int
    requests: int
    failures: int
    per_second: float
    p50_ms: float
    p99_ms: float


class _Connection:
    def __init__(self, port: int, requests: Iterator[bytes]) -> None:
        self.socket = socket.create_connection(("127.0.0.1", port), timeout=SOCKET_SECONDS)
        self.socket.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        self._requests = requests
        self._received = b""
        self.started = 0.0

    def ask(self) -> None:
        self._received = b""
        self.started = time.perf_counter()
        self.socket.sendall(next(self._requests))

    def receive(self) -> int:
        """The status once the response is whole, else 0."""
        data = self.socket.recv(RECEIVE_BYTES)
        if not data:
            raise ConnectionError("the server closed a connection")
        self._received += data
        head, separator, body = self._received.partition(b"\r\n\r\n")
        if not separator:
            return 0
        lower = head.lower()
        at = lower.index(b"content-length:") + 15
        length = int(lower[at : lower.find(b"\r\n", at) if lower.find(b"\r\n", at) > 0 else None])
        return int(head[9:12]) if len(body) >= length else 0


def keep_busy(port: int, path: str, bodies: Sequence[bytes], *, connections: int, seconds: float) -> Load:
    """Post `bodies` to `path` in turns, over and over for `seconds`, on so many connections at once.

    Parameters
    ----------
    port : int
        On loopback.
    path : str
    bodies : sequence of bytes
        JSON.
    connections : int
    seconds : float
        After half a second that is not counted.
    """
    requests = [_request(path, body) for body in bodies]
    _run(port, requests, connections, 0.5)
    times, failures, spent = _run(port, requests, connections, seconds)
    times.sort()
    return Load(
        connections=connections,
        requests=len(times),
        failures=failures,
        per_second=len(times) / spent,
        p50_ms=times[len(times) // 2] * 1000,
        p99_ms=times[min(len(times) - 1, int(len(times) * 0.99))] * 1000,
    )


def first_request_ms(port: int, path: str, body: bytes) -> float:
    """How long the very first request takes, connecting included."""
    begun = time.perf_counter()
    _, failures, _ = _run(port, [_request(path, body)], 1, 0.0)
    if failures:
        raise RuntimeError("the first request failed")
    return (time.perf_counter() - begun) * 1000


def _request(path: str, body: bytes) -> bytes:
    lines = ["Host: 127.0.0.1", "Content-Type: application/json", f"Content-Length: {len(body)}"]
    head = "\r\n".join([f"POST {path} HTTP/1.1", *lines, "", ""])
    return head.encode() + body


def _run(port: int, requests: Sequence[bytes], connections: int, seconds: float) -> tuple[list[float], int, float]:
    selector = selectors.DefaultSelector()
    in_turns = itertools.cycle(requests)
    opened = [_Connection(port, in_turns) for _ in range(connections)]
    times: list[float] = []
    failures = 0
    begun = time.perf_counter()
    for connection in opened:
        selector.register(connection.socket, selectors.EVENT_READ, connection)
        connection.ask()
    under_way = len(opened)
    while under_way:
        for key, _ in selector.select():
            connection: _Connection = key.data
            status = connection.receive()
            if not status:
                continue
            now = time.perf_counter()
            times.append(now - connection.started)
            failures += status != 200
            if now - begun < seconds:
                connection.ask()
            else:
                under_way -= 1
    spent = time.perf_counter() - begun
    for connection in opened:
        connection.socket.close()
    selector.close()
    return times, failures, spent
