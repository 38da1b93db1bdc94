"""Rows of values as what a function takes: its own types, one case or many."""

import datetime as dt
import enum
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from types import ModuleType
from typing import Any

import numpy as np

__all__ = ["Arguments", "Taken"]

YES = ("yes", "y", "true", "t", "on", "1")
EPOCH = dt.datetime(1970, 1, 1)

Row = Mapping[str, Any]


@dataclass(frozen=True)
class Taken:
    """What one parameter takes, as far as calling its function needs it.

    Attributes
    ----------
    kind : str
        Of its field; empty where nothing says it.
    whole : bool
        Whole numbers only.
    options : sequence of str, bool, int or float
        Of a choice.
    enum : str
        The class whose members are meant, where options are an enum's values.
    as_image : bool
        A picture as Pillow has it, rather than an array.
    with_time : bool
        A `datetime` rather than a date.
    container : str
        What a column comes in: `list`, `array` or `series`.
    by_place : bool
        It has no name for its caller.
    """

    name: str
    kind: str = ""
    whole: bool = False
    options: Sequence[Any] = ()
    enum: str = ""
    as_image: bool = False
    with_time: bool = False
    container: str = ""
    by_place: bool = False


class Arguments:
    """Makes arguments of rows.

    Parameters
    ----------
    parameters : sequence of Taken
    module : module
        Where the enums are that the file has.
    record : (str, str), optional
        The one parameter that takes them together, and its class.
    """

    def __init__(self, parameters: Sequence[Taken], module: ModuleType, record: tuple[str, str] | None = None) -> None:
        self._parameters = parameters
        self._record = (record[0], getattr(module, record[1])) if record is not None else None
        self._makers = {one.name: _maker(one, module) for one in parameters}

    def of_case(self, row: Row) -> tuple[list[Any], dict[str, Any]]:
        """What a function of one case is called with: by place, and by name.

        Parameters
        ----------
        row : mapping
            Value by parameter.
        """
        made = {one.name: self._made(one.name, row[one.name]) for one in self._parameters if one.name in row}
        if self._record is not None:
            name, class_ = self._record
            return [], {name: class_(**made)}
        by_place = [made.pop(one.name) for one in self._parameters if one.by_place and one.name in made]
        return by_place, made

    def of_many(
        self, columns: Mapping[str, Sequence[Any]], form: str, containers: Mapping[str, str]
    ) -> tuple[list[Any], dict[str, Any]]:
        """What a function of many cases is called with.

        Parameters
        ----------
        columns : mapping
            Values by parameter, one a case.
        form : str
            `columns`, one `table`, or one `array`.
        containers : mapping
            By parameter of a function of columns, what its column comes in.
        """
        if form == "columns":
            made = {name: [self._made(name, value) for value in columns[name]] for name in containers}
            return [], {name: _column(values, containers[name]) for name, values in made.items()}
        import pandas as pd

        table = pd.DataFrame({name: [self._plain(name, value) for value in each] for name, each in columns.items()})
        return [table if form == "table" else table.to_numpy()], {}

    def _made(self, name: str, value: Any) -> Any:
        return None if value is None else self._makers[name](value)

    def _plain(self, name: str, value: Any) -> Any:
        """In a table members of enums are their values."""
        made = self._made(name, value) if name in self._makers else value
        return made.value if isinstance(made, enum.Enum) else made


def _maker(taken: Taken, module: ModuleType) -> Callable[[Any], Any]:
    """What makes a parameter's value of a cell."""
    match taken.kind:
        case "number":
            return _whole if taken.whole else _number
        case "yes_no":
            return _yes
        case "choice":
            return _member_of(getattr(module, taken.enum)) if taken.enum else _option_of(taken.options)
        case "text":
            return str
        case "date":
            return _moment if taken.with_time else _date
        case "picture":
            return _image if taken.as_image else np.asarray
    return _scalar


def _scalar(value: Any) -> Any:
    return value.item() if isinstance(value, np.generic) else value


def _number(value: Any) -> Any:
    return float(value) if isinstance(value, int | float | np.generic) else value


def _whole(value: Any) -> Any:
    number = _number(value)
    return int(number) if isinstance(number, float) and number.is_integer() else number


def _yes(value: Any) -> bool:
    return value.strip().casefold() in YES if isinstance(value, str) else bool(value)


def _date(value: Any) -> dt.date | None:
    """Dates stand in a row as days since 1970 began."""
    if not math.isfinite(float(value)):
        return None
    try:
        return dt.date.fromordinal(EPOCH.toordinal() + math.floor(float(value)))
    except (ValueError, OverflowError):
        return None


def _moment(value: Any) -> dt.datetime:
    return EPOCH + dt.timedelta(days=float(value))


def _image(value: Any) -> Any:
    from PIL import Image

    array = np.asarray(value)
    return Image.fromarray(array[:, :, 0] if array.ndim == 3 and array.shape[2] == 1 else array)


def _option_of(options: Sequence[Any]) -> Callable[[Any], Any]:
    """The option as the file has it: a table may have its numbers as texts."""
    by_text = {str(option): option for option in options}
    return lambda value: value if value in options else by_text.get(str(_scalar(value)), _scalar(value))


def _member_of(class_: Any) -> Callable[[Any], Any]:
    by_name = {str(name): member for name, member in class_.__members__.items()}

    def member(value: Any) -> Any:
        plain = _scalar(value)
        try:
            return class_(plain)
        except ValueError:
            return by_name.get(str(plain), plain)

    return member


def _column(values: list[Any], container: str) -> Any:
    if container == "list":
        return values
    if container == "series":
        import pandas as pd

        return pd.Series(values)
    array = np.array([np.nan if value is None else value for value in values]) if _are_numbers(values) else None
    return array if array is not None else np.array(values, dtype=object)


def _are_numbers(values: Sequence[Any]) -> bool:
    return all(value is None or isinstance(value, bool | int | float | np.generic) for value in values)
