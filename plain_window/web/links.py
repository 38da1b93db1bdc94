"""Pictures by their web address, fetched by the server, from public addresses only.

A link names a host, and a host may name anything: this machine, the network it stands in, or one address now and
another a moment later. So each connection, also after a redirect, goes to an address that was looked at itself.
"""

import ipaddress
import socket
import ssl
import time
from collections.abc import Iterable
from typing import Any
from urllib.parse import urljoin, urlsplit

import certifi
import httpcore

from ..core.errors import PictureNotRead

__all__ = ["fetch_picture"]

SECONDS = 8.0
CONNECT_SECONDS = 4.0
MOST_REDIRECTS = 3
PORTS = {"http": 80, "https": 443}
REDIRECTS = (301, 302, 303, 307, 308)
# Addresses of the next version of the protocol that stand for one of the last.
NAT64 = ipaddress.ip_network("64:ff9b::/96")
USER_AGENT = b"PlainWindow picture link"
WAY_ON = "Save the picture and choose the file instead."


class _Refused(Exception):
    """An address that links may not go to."""


class _PublicOnly(httpcore.NetworkBackend):
    """Connects to public addresses; what is looked at is what is connected to.

    Parameters
    ----------
    allowed : collection of str
        Other addresses that the operator lets links go to.
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
        try:
            found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
        except (OSError, UnicodeError) as error:
            raise httpcore.ConnectError("no such host") from error
        addresses = list(dict.fromkeys(str(entry[4][0]) for entry in found))
        # One private address among public ones is reason enough: it is not by chance.
        if not addresses or not all(self._may(address) for address in addresses):
            raise _Refused
        left = max(0.1, min(timeout or CONNECT_SECONDS, self._deadline - time.monotonic()))
        return self._real.connect_tcp(addresses[0], port, left, local_address, socket_options)

    def connect_unix_socket(self, path: str, timeout: float | None = None, socket_options: Any = None):
        """Never."""
        raise _Refused

    def _may(self, address: str) -> bool:
        return address in self._allowed or _is_public(address)


def fetch_picture(link: str, *, most_bytes: int, allowed: Iterable[str] = ()) -> bytes:
    """What a link leads to.

    Parameters
    ----------
    link : str
    most_bytes : int
    allowed : collection of str
        Addresses that are not public and may be gone to all the same.

    Raises
    ------
    PictureNotRead
        With a sentence for the visitor.
    """
    deadline = time.monotonic() + SECONDS
    context = ssl.create_default_context(cafile=certifi.where())
    try:
        with httpcore.ConnectionPool(ssl_context=context, network_backend=_PublicOnly(allowed, deadline)) as pool:
            for _ in range(MOST_REDIRECTS + 1):
                _check_form(link)
                content, link = _asked(pool, link, most_bytes, deadline)
                if content is not None:
                    return content
        raise PictureNotRead(f"The link leads on and on. {WAY_ON}")
    except _Refused:
        raise PictureNotRead(f"The link leads to an address that is not public. {WAY_ON}") from None
    except (httpcore.TimeoutException, TimeoutError):
        raise PictureNotRead(f"The picture behind the link took too long to come. {WAY_ON}") from None
    except (httpcore.NetworkError, httpcore.ProtocolError, httpcore.UnsupportedProtocol, OSError, ValueError):
        raise PictureNotRead(f"The link cannot be opened from here. Check it, or save the picture. {WAY_ON}") from None


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
    headers = [
        (b"Host", _host(link).encode("idna" if not _host(link).isascii() else "ascii")),
        (b"User-Agent", USER_AGENT),
        (b"Accept", b"image/*"),
        # What is packed could unpack to anything.
        (b"Accept-Encoding", b"identity"),
    ]
    with pool.stream("GET", link, headers=headers, extensions={"timeout": timeouts}) as response:
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
            # One that drips would keep within each single wait.
            if time.monotonic() > deadline:
                raise TimeoutError
            parts.append(part)
        return b"".join(parts), link


def _host(link: str) -> str:
    parts = urlsplit(link)
    host = f"[{parts.hostname}]" if ":" in (parts.hostname or "") else parts.hostname or ""
    return host if parts.port in (None, PORTS[parts.scheme]) else f"{host}:{parts.port}"


def _is_public(address: str) -> bool:
    """Whether an address belongs to the public internet, also where it stands for another one."""
    found = ipaddress.ip_address(address.partition("%")[0])
    if isinstance(found, ipaddress.IPv6Address):
        inner = found.ipv4_mapped or found.sixtofour or (found.teredo[1] if found.teredo else None)
        if inner is None and found in NAT64:
            inner = ipaddress.IPv4Address(int(found) & 0xFFFFFFFF)
        if inner is not None:
            return _is_public(str(inner))
    return found.is_global and not found.is_multicast
