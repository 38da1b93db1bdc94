"""What an author's code gave back, as values that can be sent; and as it is read on the other side."""

import dataclasses
import datetime as dt
import enum
from collections.abc import Callable, Mapping, Sequence, Set
from typing import Any, cast

import numpy as np

from .wire import Frame, Opaque, Picture

__all__ = ["as_received", "as_sent"]

MOST_WORDS = 200
MOST_DEEP = 30
# How tables of pandas write what is missing.
NOTHING = ("NaTType", "NAType")


def as_sent(answer: Any, deep: int = 0) -> Any:
    """An answer as values that can be sent, of whatever types it came.

    Parameters
    ----------
    answer : object
    deep : int, optional
        How deep in the answer it stands.
    """
    if answer is None or isinstance(answer, bool | int | float | str | bytes | dt.date):
        return _plain_scalar(answer)
    if type(answer).__name__ in NOTHING:
        return None
    if deep > MOST_DEEP:
        return _opaque(answer)
    if isinstance(answer, enum.Enum):
        return answer.value if isinstance(answer.value, str) else answer.name
    if isinstance(answer, np.generic):
        return as_sent(answer.item(), deep + 1)
    if isinstance(answer, np.ndarray):
        return answer if answer.dtype.kind in "biuf" else as_sent(answer.tolist(), deep + 1)
    if hasattr(answer, "columns") and hasattr(answer, "to_dict") and hasattr(answer, "to_numpy"):
        return _frame(answer, deep)
    if hasattr(answer, "mode") and hasattr(answer, "getbands"):
        return Picture(str(answer.mode), np.asarray(answer))
    return _as_collection(answer, deep)


def _as_collection(answer: Any, deep: int) -> Any:
    if dataclasses.is_dataclass(answer) and not isinstance(answer, type):
        return {one.name: as_sent(getattr(answer, one.name), deep + 1) for one in dataclasses.fields(answer)}
    for method in ("_asdict", "model_dump", "to_dict"):
        make: Callable[[], Any] | None = getattr(answer, method, None)
        if callable(make):
            return as_sent(make(), deep + 1)
    if isinstance(answer, Mapping):
        return {_name(name): as_sent(value, deep + 1) for name, value in answer.items()}
    if isinstance(answer, Set):
        return frozenset(_name(one) for one in answer)
    if isinstance(answer, Sequence):
        return [as_sent(one, deep + 1) for one in answer]
    # Tensors of every library have one of these.
    for method in ("detach", "cpu"):
        make = getattr(answer, method, None)
        answer = make() if callable(make) else answer
    if hasattr(answer, "__array__"):
        array = np.asarray(answer)
        return as_sent(array, deep + 1) if array.dtype != object else _opaque(answer)
    to_list = getattr(answer, "tolist", None)
    return as_sent(to_list(), deep + 1) if callable(to_list) else _opaque(answer)


def _plain_scalar(answer: Any) -> Any:
    """Without a class of its own that behaves like one of these."""
    if type(answer).__name__ in NOTHING:
        return None
    if isinstance(answer, dt.datetime):
        to_python = getattr(answer, "to_pydatetime", None)
        return to_python() if callable(to_python) else answer
    if isinstance(answer, enum.Enum):
        return answer.value if isinstance(answer.value, str) else answer.name
    types: tuple[Callable[[Any], Any], ...] = (bool, int, float, str, bytes)
    return next((make(answer) for make in types if isinstance(answer, cast("type", make))), answer)


def _frame(table: Any, deep: int) -> Frame:
    rows = table.to_numpy(dtype=object).tolist()
    return Frame([str(name) for name in table.columns], [[as_sent(value, deep + 1) for value in row] for row in rows])


def _name(value: Any) -> str:
    known = value.value if isinstance(value, enum.Enum) and isinstance(value.value, str) else value
    if isinstance(known, enum.Enum):
        return known.name
    if isinstance(known, bool | np.bool_):
        return "yes" if known else "no"
    return str(known)


def _opaque(answer: Any) -> Opaque:
    try:
        words = repr(answer)[:MOST_WORDS]
    except Exception as error:  # an author's class may print itself as it likes
        words = f"<{type(answer).__name__}: {type(error).__name__}>"
    return Opaque(type(answer).__name__, words)


def as_received(value: Any) -> Any:
    """What was sent, as the types that the functions here would have returned: tables, pictures, objects.

    Parameters
    ----------
    value : object
    """
    match value:
        case Frame():
            import pandas as pd

            return pd.DataFrame([list(map(as_received, row)) for row in value.rows], columns=value.columns)
        case Picture():
            from PIL import Image

            return Image.fromarray(np.ascontiguousarray(value.pixels), mode=value.mode if value.mode == "1" else None)
        case Opaque():
            return type(value.type_name, (_Unknown,), {})(value.words)
        case dict():
            return {name: as_received(each) for name, each in value.items()}
        case list():
            return [as_received(each) for each in value]
    return value


class _Unknown:
    """Something that could not be sent; it prints as it did there."""

    def __init__(self, words: str) -> None:
        self._words = words

    def __repr__(self) -> str:
        return self._words
