"""Models held by another process with libraries of their own: the questions to it, and estimators that it holds."""

from collections.abc import Iterable, Mapping, Sequence
from typing import TYPE_CHECKING, Any, NoReturn, Protocol

import numpy as np

from ..contract.inspection import Found
from ..errors import Fault, MismatchFaults, ModelFailed, ModelNotOpened
from ..fields.columns import Column, ColumnUse
from ..guest.values import as_received
from .adapter import DOUBLE_PRECISION

if TYPE_CHECKING:
    import pandas as pd

    from ..plan.plan import Plan

__all__ = ["NO_COMPILED_FORM", "EstimatorElsewhere", "GuestLine", "asked_of", "columns_of"]

NO_COMPILED_FORM = "The model runs with libraries of its own, and has no compiled form."
# Packages as people call them.
NAMES = {"sklearn": "scikit-learn", "xgboost": "XGBoost", "lightgbm": "LightGBM", "catboost": "CatBoost"}
PACKAGES = {"sklearn": "scikit-learn"}


class GuestLine(Protocol):
    """The line to the process that holds the model."""

    def ask(self, question: Mapping[str, Any]) -> dict[str, Any]:
        """The reply to a question, of `core.guest.main`.

        Parameters
        ----------
        question : mapping

        Raises
        ------
        ModelNotOpened
            If the process has ended.
        """

    def descriptor(self, name: str) -> int | None:
        """That process's descriptor of one of the model's files; None if there is no such file.

        Parameters
        ----------
        name : str
            `model`, `preprocessor` or `beside`.
        """


def asked_of(line: GuestLine, do: str, **rest: Any) -> Any:
    """What the process that holds the model answers.

    Parameters
    ----------
    line : GuestLine
    do : str
        What is asked.
    **rest
        What goes with it.

    Raises
    ------
    ModelFailed, ModelNotOpened, MismatchFaults
        As it raised there.
    """
    reply = line.ask({"do": do, **rest})
    if reply.get("wrong"):
        _raise(reply)
    return as_received(reply.get("value"))


def _raise(reply: Mapping[str, Any]) -> NoReturn:
    message, traceback = str(reply.get("message", "")), str(reply.get("traceback", ""))
    match reply["wrong"]:
        case "faults":
            raise MismatchFaults([_fault(*one) for one in reply["faults"]])
        case "not opened":
            lines = [str(line) for line in reply.get("requirements", [])]
            raise ModelNotOpened(message, traceback=traceback, requirements=lines)
    raise ModelFailed(message, traceback=traceback)


def _fault(field: object, message: object, asks: object = "", choices: Iterable[object] = ()) -> Fault:
    return Fault(None if field is None else str(field), str(message), str(asks), tuple(str(one) for one in choices))


class EstimatorElsewhere:
    """A pickled estimator, asked with the libraries it was saved with.

    Parameters
    ----------
    line : GuestLine
    format : str
        What the file was.

    Raises
    ------
    ModelNotOpened
        If there is no estimator in it.
    """

    tolerance = DOUBLE_PRECISION

    def __init__(self, line: GuestLine, *, format: str) -> None:
        self._line = line
        opened = asked_of(
            line,
            "open_estimator",
            model=line.descriptor("model"),
            preprocessor=line.descriptor("preprocessor"),
        )
        self._takes_texts = bool(opened["takes_texts"])
        library = str(opened["library"])
        version = opened["versions"].get(PACKAGES.get(library, library))
        self.found = Found(
            format=format,
            library=NAMES.get(library, library),
            saved_with=None,
            running=str(version or f"Python {opened['python']}"),
            steps=[str(step) for step in opened["steps"]],
            task=opened["task"],
            features=opened["features"],
            n_features=opened["n_features"],
            classes=opened["classes"],
            gives_probabilities=opened["gives_probabilities"],
            warnings=[str(one) for one in opened["warnings"]],
        )

    def predict(self, table: "pd.DataFrame") -> np.ndarray:
        """As `ModelAdapter.predict`."""
        form = "texts" if self._takes_texts else "array" if self.found.features is None else "table"
        outputs = asked_of(self._line, "predict", form=form, columns=columns_of(table))
        return np.asarray(outputs, dtype="float64").reshape(len(table), -1)

    def compile(self, columns: Sequence[Column]) -> "Plan":
        """As `ModelAdapter.compile`.

        Parameters
        ----------
        columns : sequence of Column

        Raises
        ------
        CannotCompile
            Always.
        """
        from ..plan.building import CannotCompile

        raise CannotCompile(NO_COMPILED_FORM)

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """As `ModelAdapter.column_uses`."""
        return {}

    def dropped_columns(self, names: Sequence[str]) -> set[str]:
        """As `ModelAdapter.dropped_columns`."""
        return set()

    def settle(self, names: Sequence[str], categories: dict[str, list[str]]) -> list[str] | None:
        """As `ModelAdapter.settle`."""
        return None


def columns_of(table: "pd.DataFrame") -> dict[str, Any]:
    """A table's columns as they can be sent: numbers as arrays, all else as lists.

    Parameters
    ----------
    table : pandas.DataFrame
    """
    columns: dict[str, Any] = {}
    for at, name in enumerate(table.columns):
        values = table.iloc[:, at].to_numpy()
        if values.dtype.kind in "biuf":
            columns[str(name)] = values
        else:
            cells = zip(values, table.iloc[:, at].isna().to_numpy(), strict=True)
            columns[str(name)] = [float("nan") if is_gap else _cell(value) for value, is_gap in cells]
    return columns


def _cell(value: Any) -> Any:
    plain = value.item() if isinstance(value, np.generic) else value
    return plain if isinstance(plain, str | bool | int | float) else str(plain)
