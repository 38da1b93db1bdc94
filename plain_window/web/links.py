"""Pictures by their web address, fetched by the server, from public addresses only.

A link names a host, and a host may name anything: this machine, the network it stands in, or one address now and
another a moment later. So each connection, also after a redirect, goes to an address that was looked at itself.
"""

import functools
import socket
import ssl
import threading
import time
from collections.abc import Collection, Iterable
from typing import Any, NoReturn
from urllib.parse import quote, urljoin, urlsplit

import certifi
import httpcore

from ..core.errors import PictureNotRead
from .addresses import is_public

__all__ = ["fetch_picture"]

# All of it: looking up the name, connecting, every redirect, every byte of headers and content.
SECONDS = 8.0
CONNECT_SECONDS = 4.0
MOST_REDIRECTS = 3
PORTS = {"http": 80, "https": 443}
REDIRECTS = (301, 302, 303, 307, 308)
# What has a meaning of its own in an address, and what is written out already.
SAFE = "/%?:@!$&'()*+,;=-._~[]"
USER_AGENT = b"PlainWindow picture link"
WAY_ON = "Save the picture and choose the file instead."


class _Refused(Exception):
    """Where links may not go; the message says what is wrong with it."""


class _Timed(httpcore.NetworkStream):
    """A connection whose every wait ends with the whole: one that drips would keep within each single wait."""

    def __init__(self, stream: httpcore.NetworkStream, deadline: float) -> None:
        self._stream, self._deadline = stream, deadline

    def read(self, max_bytes: int, timeout: float | None = None) -> bytes:
        """As `NetworkStream.read`."""
        return self._stream.read(max_bytes, _left(self._deadline, timeout))

    def write(self, buffer: bytes, timeout: float | None = None) -> None:
        """As `NetworkStream.write`."""
        self._stream.write(buffer, _left(self._deadline, timeout))

    def close(self) -> None:
        """As `NetworkStream.close`."""
        self._stream.close()

    def start_tls(
        self, ssl_context: ssl.SSLContext, server_hostname: str | None = None, timeout: float | None = None
    ) -> "_Timed":
        """As `NetworkStream.start_tls`."""
        begun = self._stream.start_tls(ssl_context, server_hostname, _left(self._deadline, timeout))
        return _Timed(begun, self._deadline)

    def get_extra_info(self, info: str) -> Any:
        """As `NetworkStream.get_extra_info`."""
        return self._stream.get_extra_info(info)


class _PublicOnly(httpcore.NetworkBackend):
    """Connects to public addresses at ordinary ports; what is looked at is what is connected to.

    Parameters
    ----------
    allowed : collection of str
        Where else the operator lets links go: `address` (at ordinary ports) or `address:port`.
    deadline : float
        By the monotonic clock.
    """

    def __init__(self, allowed: Iterable[str], deadline: float) -> None:
        self._real = httpcore.SyncBackend()
        self._allowed = frozenset(allowed)
        self._deadline = deadline

    def connect_tcp(
        self,
        host: str,
        port: int,
        timeout: float | None = None,
        local_address: str | None = None,
        socket_options: Any = None,
    ) -> httpcore.NetworkStream:
        """As `NetworkBackend.connect_tcp`, to an address that was looked at."""
        addresses = _looked_up(host, port, _left(self._deadline, CONNECT_SECONDS))
        # One private address among public ones is reason enough: it is not by chance.
        if not addresses or not all(_may(address, port, self._allowed) for address in addresses):
            is_port = all(map(is_public, addresses)) and port not in PORTS.values()
            raise _Refused(f"to port {port}, not to a usual one" if is_port else "to an address that is not public")
        wait = _left(self._deadline, CONNECT_SECONDS)
        return _Timed(self._real.connect_tcp(addresses[0], port, wait, local_address, socket_options), self._deadline)

    def connect_unix_socket(self, path: str, timeout: float | None = None, socket_options: Any = None) -> NoReturn:
        """Never."""
        raise _Refused("into this machine")


def _may(address: str, port: int, allowed: Collection[str]) -> bool:
    """Whether a link may go to this address at this port."""
    named = f"[{address}]:{port}" if ":" in address else f"{address}:{port}"
    if named in allowed:
        return True
    return port in PORTS.values() and (address in allowed or is_public(address))


def _looked_up(host: str, port: int, seconds: float) -> list[str]:
    """The addresses of a name. Looking one up has no time limit of its own, so it is left behind when it takes long."""
    found: list[str] = []
    failed: list[Exception] = []

    def look_up() -> None:
        try:
            entries = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
            found.extend(dict.fromkeys(str(entry[4][0]) for entry in entries))
        except (OSError, UnicodeError) as error:
            failed.append(error)

    looking = threading.Thread(target=look_up, daemon=True)
    looking.start()
    looking.join(seconds)
    if looking.is_alive():
        raise httpcore.ConnectTimeout("the name was not found in time")
    if failed:
        raise httpcore.ConnectError("no such host") from failed[0]
    return found


def _left(deadline: float, most: float | None) -> float:
    """How long a wait may still be.

    Raises
    ------
    httpcore.ReadTimeout
        If the time is up.
    """
    left = deadline - time.monotonic()
    if left <= 0:
        raise httpcore.ReadTimeout("the time is up")
    return left if most is None else min(left, most)


@functools.cache
def _tls() -> ssl.SSLContext:
    """Made once: reading the certificates takes longer than most pictures."""
    return ssl.create_default_context(cafile=certifi.where())


def fetch_picture(link: str, *, most_bytes: int, allowed: Iterable[str] = ()) -> bytes:
    """What a link leads to.

    Parameters
    ----------
    link : str
    most_bytes : int
    allowed : collection of str
        Where links may go although it is not public, or not an ordinary port: `address` or `address:port`.

    Raises
    ------
    PictureNotRead
        With a sentence for the visitor.
    """
    deadline = time.monotonic() + SECONDS
    try:
        with httpcore.ConnectionPool(ssl_context=_tls(), network_backend=_PublicOnly(allowed, deadline)) as pool:
            for _ in range(MOST_REDIRECTS + 1):
                _check_form(link)
                content, link = _asked(pool, link, most_bytes, deadline)
                if content is not None:
                    return content
        raise PictureNotRead(f"The link leads on and on. {WAY_ON}")
    except _Refused as refused:
        raise PictureNotRead(f"The link leads {refused}. {WAY_ON}") from None
    except (httpcore.TimeoutException, TimeoutError):
        raise PictureNotRead(f"The picture behind the link took too long to come. {WAY_ON}") from None
    except (httpcore.NetworkError, httpcore.ProtocolError, httpcore.UnsupportedProtocol, OSError, ValueError):
        raise PictureNotRead(f"The link cannot be opened from here. {WAY_ON}") from None


def _check_form(link: str) -> None:
    parts = urlsplit(link)
    if parts.scheme not in PORTS or not parts.hostname:
        raise PictureNotRead(f"A link must begin with https:// or http://. {WAY_ON}")
    if parts.username is not None or parts.password is not None:
        raise PictureNotRead(f"A link with a name and a password in it is not opened. {WAY_ON}")


def _asked(pool: httpcore.ConnectionPool, link: str, most_bytes: int, deadline: float) -> tuple[bytes | None, str]:
    """The content, or where it is said to be instead."""
    left = max(0.1, deadline - time.monotonic())
    timeouts = {"connect": min(CONNECT_SECONDS, left), "read": left, "write": left, "pool": left}
    address, host = _as_asked(link)
    headers = [
        (b"Host", host),
        (b"User-Agent", USER_AGENT),
        (b"Accept", b"image/*"),
        # What is packed could unpack to anything.
        (b"Accept-Encoding", b"identity"),
    ]
    with pool.stream("GET", address, headers=headers, extensions={"timeout": timeouts}) as response:
        if response.status in REDIRECTS:
            where = next((value for name, value in response.headers if name.lower() == b"location"), b"")
            return None, urljoin(link, where.decode("latin-1"))
        if response.status != 200:
            raise PictureNotRead(f"The link answers with {response.status}, not with a picture. Check it. {WAY_ON}")
        parts, size = [], 0
        for part in response.iter_stream():
            size += len(part)
            if size > most_bytes:
                raise PictureNotRead(
                    f"The picture behind the link is larger than {most_bytes >> 20} MB. Choose a smaller one."
                )
            parts.append(part)
        return b"".join(parts), link


def _as_asked(link: str) -> tuple[httpcore.URL, bytes]:
    """A link as it goes over the wire, and its `Host` header: names in other scripts written in ASCII's letters.

    Raises
    ------
    ValueError
        If it cannot be written so.
    """
    parts = urlsplit(link)
    # Also turns digits of other scripts into ours, so that what is looked at is what is meant.
    host = (parts.hostname or "").encode("idna")
    target = quote(parts.path or "/", safe=SAFE) + (f"?{quote(parts.query, safe=SAFE)}" if parts.query else "")
    shown = b"[" + host + b"]" if b":" in host else host
    if parts.port not in (None, PORTS[parts.scheme]):
        shown += f":{parts.port}".encode()
    return httpcore.URL(scheme=parts.scheme, host=host, port=parts.port, target=target), shown
