"""Questions of the server answered by calling what is connected."""

from __future__ import annotations

import dataclasses
import datetime as dt
import enum
import importlib
import traceback
from collections.abc import Mapping, Sequence, Set
from typing import Any, Callable

from .codec import Frame, Picture

__all__ = ["Answers"]

YES = ("yes", "y", "true", "t", "on", "1")
EPOCH = dt.datetime(1970, 1, 1)
MOST_DEEP = 30
TRACEBACK_LINES = -8
NOTHING = ("NaTType", "NAType")


class Answers:
    """The functions that are connected: one of one case, and perhaps one of many."""

    def __init__(self, function: Callable[..., Any], batch: Callable[..., Any] | None = None) -> None:
        self._functions = [function, batch or function]
        self._taken: dict[str, Mapping[str, Any]] = {}
        self._record: tuple[str, Any] | None = None

    def reply(self, asked: Mapping[str, Any]) -> dict[str, Any]:
        """The answer to one question, or what went wrong with it."""
        try:
            return {"value": getattr(self, f"_{asked['do']}")(asked)}
        except Exception as error:
            line = str(error).strip().split("\n")[0][:300].rstrip(".")
            message = f"The function could not answer: {type(error).__name__}{': ' if line else ''}{line}."
            return {"wrong": "failed", "message": message, "traceback": traceback.format_exc(limit=TRACEBACK_LINES)}

    def _open_functions(self, asked: Mapping[str, Any]) -> dict[str, Any]:
        self._taken = {one["name"]: one for one in asked["parameters"]}
        record = asked["record"]
        if record:
            self._record = (record[0], getattr(self._functions[0], "__globals__", {})[record[1]])
        return {"warnings": [], "python": "", "versions": {}}

    def _answer(self, asked: Mapping[str, Any]) -> Any:
        return as_sent(self._called(0, asked["row"]))

    def _answer_each(self, asked: Mapping[str, Any]) -> list[Any]:
        return [as_sent(self._called(0, row)) for row in asked["rows"]]

    def _called(self, which: int, row: Mapping[str, Any]) -> Any:
        made = {name: self._made(name, row[name]) for name in self._taken if name in row}
        if self._record is not None:
            name, class_ = self._record
            return self._functions[which](**{name: class_(**made)})
        by_place = [made.pop(name) for name, one in self._taken.items() if one["by_place"] and name in made]
        return self._functions[which](*by_place, **made)

    def _answers(self, asked: Mapping[str, Any]) -> Any:
        function, columns = self._functions[asked["which"]], asked["columns"]
        if asked["form"] == "columns":
            containers = asked["containers"]
            made = {name: [self._made(name, value) for value in columns[name]] for name in containers}
            return as_sent(function(**{name: _column(values, containers[name]) for name, values in made.items()}))
        pandas = importlib.import_module("pandas")
        table = pandas.DataFrame({name: [self._made(name, one) for one in each] for name, each in columns.items()})
        return as_sent(function(table if asked["form"] == "table" else table.to_numpy()))

    def _answers_to(self, asked: Mapping[str, Any]) -> Any:
        if asked["form"] == "array":
            numpy = importlib.import_module("numpy")
            return as_sent(self._functions[0](numpy.column_stack(list(asked["columns"].values()))))
        pandas = importlib.import_module("pandas")
        return as_sent(self._functions[0](pandas.DataFrame(dict(asked["columns"]))))

    def _made(self, name: str, value: Any) -> Any:
        taken = self._taken.get(name)
        return value if value is None or taken is None else _as_taken(taken, value, self._functions[0])


def _as_taken(taken: Mapping[str, Any], value: Any, function: Callable[..., Any]) -> Any:
    """A cell as what the function's parameter takes."""
    kind = taken["kind"]
    if kind == "number" and isinstance(value, (int, float)):
        number = float(value)
        return int(number) if taken["whole"] and number.is_integer() else number
    if kind == "yes_no":
        return value.strip().casefold() in YES if isinstance(value, str) else bool(value)
    if kind == "choice":
        return _option(taken, value, function)
    if kind == "text":
        return str(value)
    if kind == "date":
        moment = EPOCH + dt.timedelta(days=float(value))
        return moment if taken["with_time"] else moment.date()
    if kind == "picture" and taken["as_image"]:
        array = value[:, :, 0] if value.ndim == 3 and value.shape[2] == 1 else value
        return importlib.import_module("PIL.Image").fromarray(array)
    return value


def _option(taken: Mapping[str, Any], value: Any, function: Callable[..., Any]) -> Any:
    if taken["enum"]:
        class_ = getattr(function, "__globals__", {})[taken["enum"]]
        by_name = {str(name): member for name, member in class_.__members__.items()}
        try:
            return class_(value)
        except ValueError:
            return by_name.get(str(value), value)
    by_text = {str(option): option for option in taken["options"]}
    return value if value in taken["options"] else by_text.get(str(value), value)


def _column(values: list[Any], container: str) -> Any:
    if container == "list":
        return values
    if container == "series":
        return importlib.import_module("pandas").Series(values)
    return importlib.import_module("numpy").asarray(values)


def as_sent(answer: Any, deep: int = 0) -> Any:
    """An answer as values that can be sent, of whatever types it came."""
    if answer is None or type(answer).__name__ in NOTHING:
        return None
    if isinstance(answer, enum.Enum):
        return answer.value if isinstance(answer.value, str) else answer.name
    if isinstance(answer, (bool, int, float, str, bytes)):
        return _scalar(answer)
    if isinstance(answer, dt.datetime) and hasattr(answer, "to_pydatetime"):
        return answer.to_pydatetime()
    if isinstance(answer, (dt.date, dt.datetime)) or deep > MOST_DEEP:
        return answer
    if hasattr(answer, "columns") and hasattr(answer, "to_numpy"):
        rows = answer.to_numpy(dtype=object).tolist()
        return Frame([str(name) for name in answer.columns], [[as_sent(one, deep + 1) for one in row] for row in rows])
    if hasattr(answer, "mode") and hasattr(answer, "getbands"):
        return Picture(str(answer.mode), importlib.import_module("numpy").asarray(answer))
    return _as_collection(answer, deep)


def _scalar(answer: Any) -> Any:
    for type_ in (bool, int, float, str, bytes):
        if isinstance(answer, type_):
            return type_(answer)
    return answer


def _as_collection(answer: Any, deep: int) -> Any:
    if dataclasses.is_dataclass(answer) and not isinstance(answer, type):
        return {one.name: as_sent(getattr(answer, one.name), deep + 1) for one in dataclasses.fields(answer)}
    for method in ("_asdict", "model_dump", "to_dict"):
        make = getattr(answer, method, None)
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
    if not hasattr(answer, "tobytes") and hasattr(answer, "__array__"):
        answer = importlib.import_module("numpy").asarray(answer)
    if getattr(answer, "shape", None) == ():
        return as_sent(answer.item(), deep + 1)
    kind = getattr(getattr(answer, "dtype", None), "kind", "biuf")
    return answer if kind in "biuf" else as_sent(answer.tolist(), deep + 1)


def _name(value: Any) -> str:
    known = value.value if isinstance(value, enum.Enum) and isinstance(value.value, str) else value
    if isinstance(known, enum.Enum):
        return known.name
    return ("yes" if known else "no") if isinstance(known, bool) else str(known)
