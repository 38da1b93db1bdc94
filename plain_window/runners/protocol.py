"""Length-prefixed msgpack between processes; arrays as dtype, shape and bytes.

Needs no NumPy: the web tier reads what runners send without it.
"""

import array
import math
import os
import socket
import struct
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import msgpack

__all__ = ["Array", "Frames", "ProtocolError", "connect", "listen", "receive", "send"]

HEADER = struct.Struct(">I")
# No message is larger; a length beyond it means the other side speaks something else.
MAX_FRAME_BYTES = 256 << 20
RECEIVE_BYTES = 1 << 16
ARRAY_TYPE = 1
TYPE_CODES = {"float64": "d", "float32": "f", "int64": "q", "int32": "i"}
# A path in the kernel's sockaddr_un holds 108 bytes, the final zero included.
MAX_SOCKET_PATH = 107


class ProtocolError(Exception):
    """The other side closed the connection, or does not speak this protocol."""


@dataclass(frozen=True, slots=True)
class Array:
    """An array as it travels."""

    dtype: str
    shape: tuple[int, ...]
    data: bytes

    def rows(self) -> list[list[float]]:
        """The array of shape (n_rows, n_columns) as lists.

        Raises
        ------
        ProtocolError
            If dtype, shape and bytes contradict each other.
        """
        if self.dtype not in TYPE_CODES or len(self.shape) != 2:
            raise ProtocolError(f"expected a table of numbers, got {self.dtype} of shape {self.shape}")
        values = array.array(TYPE_CODES[self.dtype])
        if len(self.data) != math.prod(self.shape) * values.itemsize:
            raise ProtocolError("an array's bytes do not fit its shape")
        values.frombytes(self.data)
        n_rows, n_columns = self.shape
        return [values[row * n_columns : (row + 1) * n_columns].tolist() for row in range(n_rows)]


def send(connection: socket.socket, message: dict[str, Any]) -> None:
    """Send one message whole."""
    connection.sendall(pack(message))


def receive(connection: socket.socket) -> dict[str, Any]:
    """Receive one message whole.

    Raises
    ------
    ProtocolError
        If the connection is closed or what comes is not a message.
    TimeoutError
        If the connection has a timeout and it passes.
    """
    # One question, one answer: nothing follows a message unasked, so what comes in one piece belongs to it.
    data = connection.recv(RECEIVE_BYTES)
    if not data:
        raise ProtocolError("the connection was closed")
    if len(data) < HEADER.size:
        data += _exactly(connection, HEADER.size - len(data))
    length = _checked(HEADER.unpack_from(data)[0])
    missing = HEADER.size + length - len(data)
    if missing > 0:
        data += _exactly(connection, missing)
    return _unpack(data[HEADER.size : HEADER.size + length])


def pack(message: dict[str, Any]) -> bytes:
    """One message as bytes, length first."""
    body = msgpack.packb(message, default=_encode)
    return HEADER.pack(len(body)) + body


class Frames:
    """Bytes in, whole messages out: for a process that reads many connections without waiting."""

    def __init__(self) -> None:
        self._pending = bytearray()

    def feed(self, data: bytes) -> list[dict[str, Any]]:
        """Take bytes as they came; return the messages they complete."""
        self._pending += data
        messages = []
        while len(self._pending) >= HEADER.size:
            end = HEADER.size + _checked(HEADER.unpack_from(self._pending)[0])
            if len(self._pending) < end:
                break
            messages.append(_unpack(bytes(self._pending[HEADER.size : end])))
            del self._pending[:end]
        return messages


def listen(path: Path) -> socket.socket:
    """A listening socket at `path`, in place of whatever a dead process left there."""
    path.unlink(missing_ok=True)
    listening = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
    _with_address(path, listening.bind)
    path.chmod(0o600)
    listening.listen(128)
    return listening


def connect(path: Path, *, timeout: float | None = None) -> socket.socket:
    """A connection to the socket at `path`.

    Raises
    ------
    OSError
        If nothing listens there.
    """
    connection = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
    try:
        connection.settimeout(timeout)
        _with_address(path, connection.connect)
    except BaseException:
        connection.close()
        raise
    return connection


def _with_address(path: Path, use: Any) -> None:
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


def _checked(length: int) -> int:
    if length > MAX_FRAME_BYTES:
        raise ProtocolError(f"a message of {length} bytes is larger than any this program sends")
    return length


def _unpack(body: bytes) -> dict[str, Any]:
    try:
        message = msgpack.unpackb(body, ext_hook=_decode)
    except (ValueError, msgpack.UnpackException) as error:
        raise ProtocolError(f"not a message: {error}") from error
    if not isinstance(message, dict):
        raise ProtocolError("not a message: expected an object")
    return message


def _encode(value: Any) -> msgpack.ExtType:
    if isinstance(value, Array):
        return msgpack.ExtType(ARRAY_TYPE, msgpack.packb([value.dtype, list(value.shape), value.data]))
    raise TypeError(f"{type(value).__name__} cannot be sent")


def _decode(code: int, data: bytes) -> Any:
    if code != ARRAY_TYPE:
        raise ValueError(f"unknown type {code}")
    dtype, shape, content = msgpack.unpackb(data)
    return Array(dtype, tuple(shape), content)
