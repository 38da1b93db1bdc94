"""Values as they cross: msgpack, with extensions for what it has no type for."""

from __future__ import annotations

import datetime as dt
import importlib
from typing import Any

import msgpack

__all__ = ["Frame", "Picture", "pack", "unpack"]

ARRAY, FRAME, PICTURE, SET, DATE, OPAQUE, LARGE_INT = 1, 2, 3, 4, 5, 6, 7
ARRAY_KINDS = "biuf"
MOST_WORDS = 200


class Frame:
    """A table as it crosses: names of its columns, and rows."""

    def __init__(self, columns: list[str], rows: list[list[Any]]) -> None:
        self.columns, self.rows = columns, rows


class Picture:
    """A picture as it crosses: Pillow's mode, and pixels as an array."""

    def __init__(self, mode: str, pixels: Any) -> None:
        self.mode, self.pixels = mode, pixels


def pack(value: Any) -> bytes:
    """A value as bytes; whatever cannot cross crosses as its type's name and how it prints."""
    return msgpack.packb(value, default=_extension, use_bin_type=True, strict_types=False)


def unpack(content: bytes) -> Any:
    """The value of some bytes."""
    return msgpack.unpackb(content, ext_hook=_from_extension, raw=False, strict_map_key=False)


def _extension(value: Any) -> Any:
    if isinstance(value, int):
        return msgpack.ExtType(LARGE_INT, str(value).encode())
    if isinstance(value, (dt.datetime, dt.date)):
        return msgpack.ExtType(DATE, value.isoformat().encode())
    if isinstance(value, (set, frozenset)):
        return msgpack.ExtType(SET, pack(list(value)))
    if isinstance(value, Frame):
        return msgpack.ExtType(FRAME, pack([value.columns, value.rows]))
    if isinstance(value, Picture):
        return msgpack.ExtType(PICTURE, pack([value.mode, value.pixels]))
    kind = getattr(getattr(value, "dtype", None), "kind", "")
    if kind and hasattr(value, "tobytes") and hasattr(value, "shape"):
        if kind not in ARRAY_KINDS:
            return value.tolist()
        numpy = importlib.import_module("numpy")
        array = numpy.ascontiguousarray(value.astype(value.dtype.newbyteorder("<"), copy=False))
        return msgpack.ExtType(ARRAY, pack([array.dtype.str, list(value.shape), array.tobytes()]))
    return msgpack.ExtType(OPAQUE, pack([type(value).__name__, repr(value)[:MOST_WORDS]]))


def _from_extension(kind: int, content: bytes) -> Any:
    if kind == LARGE_INT:
        return int(content)
    if kind == DATE:
        text = content.decode("ascii")
        return dt.datetime.fromisoformat(text) if "T" in text else dt.date.fromisoformat(text)
    inside = unpack(content)
    if kind == ARRAY:
        numpy = importlib.import_module("numpy")
        return numpy.frombuffer(inside[2], numpy.dtype(inside[0])).reshape(inside[1])
    if kind == SET:
        return frozenset(inside)
    return {FRAME: Frame, PICTURE: Picture}.get(kind, lambda *parts: parts)(*inside)
