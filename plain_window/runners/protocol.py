"""Length-prefixed msgpack between processes, and the open files that ride along. Never pickle."""

import os
import socket
import struct
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

from ..core.contract import ContractBroken, decoded, encoded

if TYPE_CHECKING:
    from typing_extensions import TypeForm

__all__ = [
    "FrameReader",
    "ProtocolError",
    "connect",
    "frame",
    "listen",
    "receive",
    "receive_with_files",
    "send",
    "with_address",
]

Message = TypeVar("Message")

HEADER = struct.Struct(">I")
# What our own processes say to each other: a picture of 20 MB, or the compiled model the keeper hands on.
MAX_FRAME_BYTES = 256 << 20
RECEIVE_BYTES = 1 << 16
# A path in the kernel's sockaddr_un holds 108 bytes, the final zero included.
MAX_SOCKET_PATH = 107
MOST_FILES = 8


class ProtocolError(Exception):
    """The other side closed the connection, or does not speak this protocol."""


def frame(body: bytes) -> bytes:
    """One message as it travels, length first.

    Parameters
    ----------
    body : bytes
    """
    return HEADER.pack(len(body)) + body


def send(connection: socket.socket, message: object, *, files: Iterable[int] = ()) -> None:
    """Send one message whole.

    Parameters
    ----------
    connection : socket
    message : object
        A type of the contract, or plain values.
    files : iterable of int
        Descriptors that the other side gets copies of.
    """
    data, descriptors = frame(encoded(message)), list(files)
    if descriptors:
        # They ride on the first four bytes, which the other side reads alone.
        socket.send_fds(connection, [data[: HEADER.size]], descriptors)
        data = data[HEADER.size :]
    connection.sendall(data)


def receive(connection: socket.socket, type_: "TypeForm[Message]", *, limit: int = MAX_FRAME_BYTES) -> Message:
    """Receive one message of a process of ours whole.

    Parameters
    ----------
    connection : socket
    type_ : type
        A type of the contract, or a union of tagged ones.
    limit : int
        The most bytes it may have.

    Raises
    ------
    ProtocolError
        If the connection is closed or what comes is no such message.
    TimeoutError
        If the connection has a timeout and it passes.
    """
    length = _checked(HEADER.unpack(_exactly(connection, HEADER.size))[0], limit)
    return _message(_exactly(connection, length), type_)


def receive_with_files(
    connection: socket.socket, type_: "TypeForm[Message]", *, limit: int = MAX_FRAME_BYTES
) -> tuple[Message, list[int]]:
    """Receive one message whole, and the descriptors that came with it.

    Parameters
    ----------
    connection : socket
    type_ : type
    limit : int

    Raises
    ------
    ProtocolError, TimeoutError
        As `receive` does.
    """
    header, descriptors, _, _ = socket.recv_fds(connection, HEADER.size, MOST_FILES)
    try:
        header += _exactly(connection, HEADER.size - len(header))
        length = _checked(HEADER.unpack(header)[0], limit)
        return _message(_exactly(connection, length), type_), list(descriptors)
    except BaseException:
        for descriptor in descriptors:
            os.close(descriptor)
        raise


class FrameReader:
    """Bytes in, bodies of whole messages out: for who reads connections without waiting.

    Parameters
    ----------
    limit : int
        The most bytes the next message may have. May be changed between messages.
    """

    def __init__(self, *, limit: int = MAX_FRAME_BYTES) -> None:
        self.limit = limit
        self._pending = bytearray()

    def feed(self, data: bytes) -> None:
        """Take bytes as they came.

        Parameters
        ----------
        data : bytes
        """
        self._pending += data

    @property
    def is_empty(self) -> bool:
        """Whether nothing of a message has come."""
        return not self._pending

    def next(self) -> bytes | None:
        """The body of the next whole message; None if there is none yet.

        Raises
        ------
        ProtocolError
            If it says that it is longer than it may be.
        """
        if len(self._pending) < HEADER.size:
            return None
        end = HEADER.size + _checked(HEADER.unpack_from(self._pending)[0], self.limit)
        if len(self._pending) < end:
            return None
        body = bytes(self._pending[HEADER.size : end])
        del self._pending[:end]
        return body


def listen(path: Path) -> socket.socket:
    """A listening socket at `path`, in place of whatever a dead process left there.

    Parameters
    ----------
    path : Path
    """
    path.unlink(missing_ok=True)
    listening = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
    with_address(path, listening.bind)
    path.chmod(0o600)
    listening.listen(128)
    return listening


def connect(path: Path, *, timeout: float | None = None) -> socket.socket:
    """A connection to the socket at `path`.

    Parameters
    ----------
    path : Path
    timeout : float or None, optional
        In seconds; for ever if None.

    Raises
    ------
    OSError
        If nothing listens there.
    """
    connection = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
    try:
        connection.settimeout(timeout)
        with_address(path, connection.connect)
    except BaseException:
        connection.close()
        raise
    return connection


def _message(body: bytes, type_: "TypeForm[Message]") -> Message:
    try:
        return decoded(body, type_)
    except ContractBroken as error:
        raise ProtocolError(f"not a message: {error}") from error


def with_address(path: Path, use: Callable[[str], object]) -> None:
    """Bind or connect a Unix socket at a path, however long that is.

    Parameters
    ----------
    path : Path
    use : callable
        A socket's `bind` or `connect`.
    """
    if len(os.fsencode(path)) <= MAX_SOCKET_PATH:
        use(str(path))
        return
    # A deep state directory does not fit the kernel's address; its descriptor does.
    folder = os.open(path.parent, os.O_PATH)
    try:
        use(f"/proc/self/fd/{folder}/{path.name}")
    finally:
        os.close(folder)


def _exactly(connection: socket.socket, size: int) -> bytes:
    parts, missing = [], size
    while missing:
        part = connection.recv(min(missing, 1 << 20))
        if not part:
            raise ProtocolError("the connection was closed")
        parts.append(part)
        missing -= len(part)
    return b"".join(parts)


def _checked(length: int, limit: int) -> int:
    if length > limit:
        raise ProtocolError(f"a message of {length} bytes is larger than any that may come here ({limit})")
    return length
