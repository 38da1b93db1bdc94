"""What goes between a runner and the process with a demo's own libraries: length-prefixed msgpack.

This is the part of msgpack that the two need, written with the standard library, because nothing else is there for
certain. Arrays are type, shape and bytes; what msgpack has no type for is an extension. The format is that of
https://github.com/msgpack/msgpack/blob/master/spec.md.
"""

import datetime as dt
import math
import struct
from collections.abc import Callable, Mapping, Sequence, Set
from typing import Any, BinaryIO

import numpy as np

__all__ = ["Frame", "Opaque", "Picture", "WireBroken", "pack", "read_message", "unpack", "write_message"]

ARRAY, FRAME, PICTURE, SET, DATE, OPAQUE, LARGE_INT = 1, 2, 3, 4, 5, 6, 7
LENGTH = struct.Struct(">Q")
MOST_BYTES = 2 << 30
MOST_DEEP = 60
# Types of arrays that may cross: numbers and truth values.
ARRAY_KINDS = "biufc"


class WireBroken(Exception):
    """What came is no message."""


class Frame:
    """A table as it crosses: names of its columns, and rows of values.

    Parameters
    ----------
    columns : sequence of str
    rows : sequence of sequence
    """

    def __init__(self, columns: Sequence[str], rows: Sequence[Sequence[Any]]) -> None:
        self.columns, self.rows = list(columns), [list(row) for row in rows]


class Picture:
    """A picture as it crosses.

    Parameters
    ----------
    mode : str
        As Pillow calls it.
    pixels : ndarray
        Shape (height, width) or (height, width, n_channels).
    """

    def __init__(self, mode: str, pixels: np.ndarray) -> None:
        self.mode, self.pixels = mode, pixels


class Opaque:
    """Something that cannot cross: what its type is called, and how it prints.

    Parameters
    ----------
    type_name, words : str
    """

    def __init__(self, type_name: str, words: str) -> None:
        self.type_name, self.words = type_name, words

    def __repr__(self) -> str:
        return self.words


def pack(value: Any) -> bytes:
    """A value as msgpack.

    Parameters
    ----------
    value : object
        None, truth values, numbers, texts, bytes, lists, mappings from texts, arrays, dates, sets, and the three
        classes here.

    Raises
    ------
    WireBroken
        If there is something else in it, or it is too deep.
    """
    parts: list[bytes] = []
    _pack(value, parts.append, 0)
    return b"".join(parts)


def _pack(value: Any, add: Callable[[bytes], None], deep: int) -> None:
    if deep > MOST_DEEP:
        raise WireBroken("the value is nested too deeply")
    if value is None or isinstance(value, bool):
        add({None: b"\xc0", False: b"\xc2", True: b"\xc3"}[value])
    elif isinstance(value, int):
        _pack_int(value, add)
    elif isinstance(value, float):
        add(struct.pack(">Bd", 0xCB, value))
    elif isinstance(value, str):
        content = value.encode("utf-8", "replace")
        add(struct.pack(">BI", 0xDB, len(content)) + content)
    elif isinstance(value, bytes | bytearray | memoryview):
        add(struct.pack(">BI", 0xC6, len(value)))
        add(bytes(value))
    elif isinstance(value, Mapping):
        add(struct.pack(">BI", 0xDF, len(value)))
        for name, each in value.items():
            _pack(str(name), add, deep)
            _pack(each, add, deep + 1)
    elif isinstance(value, list | tuple):
        add(struct.pack(">BI", 0xDD, len(value)))
        for each in value:
            _pack(each, add, deep + 1)
    else:
        _pack_extension(value, add, deep)


def _pack_int(value: int, add: Callable[[bytes], None]) -> None:
    if -(1 << 63) <= value < 1 << 63:
        add(struct.pack(">Bq", 0xD3, value))
    else:
        _extension(LARGE_INT, str(value).encode(), add)


def _pack_extension(value: Any, add: Callable[[bytes], None], deep: int) -> None:
    match value:
        case np.ndarray() if value.dtype.kind in ARRAY_KINDS:
            content = np.ascontiguousarray(value.astype(value.dtype.newbyteorder("<"), copy=False))
            _extension(ARRAY, pack([content.dtype.str, list(value.shape), content.tobytes()]), add)
        case np.ndarray():
            _pack(value.tolist(), add, deep + 1)
        case np.generic():
            _pack(value.item(), add, deep + 1)
        case Frame():
            _extension(FRAME, pack([value.columns, value.rows]), add)
        case Picture():
            _extension(PICTURE, pack([value.mode, value.pixels]), add)
        case Set():
            _extension(SET, pack(list(value)), add)
        case dt.datetime():
            _extension(DATE, value.isoformat().encode(), add)
        case dt.date():
            _extension(DATE, value.isoformat().encode(), add)
        case Opaque():
            _extension(OPAQUE, pack([value.type_name, value.words]), add)
        case _:
            raise WireBroken(f"a {type(value).__name__} cannot be sent")


def _extension(code: int, content: bytes, add: Callable[[bytes], None]) -> None:
    add(struct.pack(">BIb", 0xC9, len(content), code) + content)


def unpack(content: bytes | memoryview) -> Any:
    """The value of a message.

    Parameters
    ----------
    content : bytes

    Raises
    ------
    WireBroken
        If it is none.
    """
    try:
        value, end = _unpack(memoryview(content), 0, 0)
    except (struct.error, ValueError, TypeError, IndexError, OverflowError, KeyError) as error:
        raise WireBroken(f"what came is no message: {error}") from None
    if end != len(content):
        raise WireBroken("what came is longer than its message")
    return value


# By a type's first byte how its number, or its length, is written.
NUMBERS = {0xCA: ">f", 0xCB: ">d", 0xCC: ">B", 0xCD: ">H", 0xCE: ">I", 0xCF: ">Q", 0xD0: ">b", 0xD1: ">h", 0xD2: ">i",
           0xD3: ">q"}  # fmt: skip
LENGTHS = {
    "bin": {0xC4: ">B", 0xC5: ">H", 0xC6: ">I"},
    "ext": {0xC7: ">B", 0xC8: ">H", 0xC9: ">I"},
    "str": {0xD9: ">B", 0xDA: ">H", 0xDB: ">I"},
    "array": {0xDC: ">H", 0xDD: ">I"},
    "map": {0xDE: ">H", 0xDF: ">I"},
}
CONSTANTS = {0xC0: None, 0xC2: False, 0xC3: True}
FIXED_EXTENSIONS = {0xD4: 1, 0xD5: 2, 0xD6: 4, 0xD7: 8, 0xD8: 16}


def _unpack(data: memoryview, at: int, deep: int) -> tuple[Any, int]:
    if deep > MOST_DEEP:
        raise WireBroken("what came is nested too deeply")
    code = data[at]
    if code < 0x80 or code >= 0xE0:
        return (code if code < 0x80 else code - 0x100), at + 1
    if code in CONSTANTS:
        return CONSTANTS[code], at + 1
    if code in NUMBERS:
        form = struct.Struct(NUMBERS[code])
        return form.unpack_from(data, at + 1)[0], at + 1 + form.size
    kind, length, start = _kind_and_length(data, at, code)
    match kind:
        case "str":
            return str(_piece(data, start, length), "utf-8"), start + length
        case "bin":
            return bytes(_piece(data, start, length)), start + length
        case "ext":
            number = struct.unpack_from(">b", data, start)[0]
            return _unpack_extension(number, _piece(data, start + 1, length), deep), start + 1 + length
        case "array":
            return _unpack_list(data, start, length, deep)
    return _unpack_mapping(data, start, length, deep)


def _kind_and_length(data: memoryview, at: int, code: int) -> tuple[str, int, int]:
    """What begins here, how long it is, and where its content starts."""
    if code < 0x90:
        return "map", code & 0x0F, at + 1
    if code < 0xA0:
        return "array", code & 0x0F, at + 1
    if code < 0xC0:
        return "str", code & 0x1F, at + 1
    if code in FIXED_EXTENSIONS:
        return "ext", FIXED_EXTENSIONS[code], at + 1
    for kind, codes in LENGTHS.items():
        if code in codes:
            form = struct.Struct(codes[code])
            return kind, form.unpack_from(data, at + 1)[0], at + 1 + form.size
    raise WireBroken(f"what came is no message: there is no type {code:#x}")


def _unpack_list(data: memoryview, at: int, length: int, deep: int) -> tuple[list[Any], int]:
    values = []
    for _ in range(length):
        value, at = _unpack(data, at, deep + 1)
        values.append(value)
    return values, at


def _unpack_mapping(data: memoryview, at: int, length: int, deep: int) -> tuple[dict[str, Any], int]:
    mapping = {}
    for _ in range(length):
        name, at = _unpack(data, at, deep + 1)
        mapping[str(name)], at = _unpack(data, at, deep + 1)
    return mapping, at


def _piece(data: memoryview, start: int, length: int) -> memoryview:
    if start + length > len(data):
        raise WireBroken("what came ends too early")
    return data[start : start + length]


def _unpack_extension(kind: int, content: memoryview, deep: int) -> Any:
    if kind == LARGE_INT:
        return int(str(content, "ascii"))
    if kind == DATE:
        text = str(content, "ascii")
        return dt.datetime.fromisoformat(text) if "T" in text else dt.date.fromisoformat(text)
    inside, end = _unpack(content, 0, deep + 1)
    if end != len(content):
        raise WireBroken("what came is longer than its message")
    if kind == ARRAY:
        return _array(*inside)
    if kind == SET:
        return frozenset(inside)
    makers: dict[int, Callable[..., Any]] = {FRAME: Frame, PICTURE: Picture, OPAQUE: Opaque}
    return makers[kind](*inside)


def _array(type_: str, shape: Sequence[int], content: bytes) -> np.ndarray:
    dtype = np.dtype(type_)
    if dtype.kind not in ARRAY_KINDS or math.prod(shape) * dtype.itemsize != len(content):
        raise WireBroken("what came is no array")
    return np.frombuffer(content, dtype).reshape(shape)


def write_message(file: BinaryIO, value: Any) -> None:
    """Send a value.

    Parameters
    ----------
    file : binary file
        Not closed.
    value : object
        As `pack` takes it.

    Raises
    ------
    WireBroken
        If it cannot be sent.
    OSError
        If nobody is there any more.
    """
    content = pack(value)
    if len(content) > MOST_BYTES:
        raise WireBroken(f"a message has at most {MOST_BYTES >> 20} MB")
    file.write(LENGTH.pack(len(content)) + content)
    file.flush()


def read_message(file: BinaryIO) -> Any:
    """Take what comes next.

    Parameters
    ----------
    file : binary file

    Raises
    ------
    EOFError
        If nothing comes any more.
    WireBroken
        If what comes is no message.
    """
    head = file.read(LENGTH.size)
    if len(head) < LENGTH.size:
        raise EOFError
    (length,) = LENGTH.unpack(head)
    if length > MOST_BYTES:
        raise WireBroken(f"a message has at most {MOST_BYTES >> 20} MB")
    content = file.read(length)
    if len(content) < length:
        raise EOFError
    return unpack(content)
