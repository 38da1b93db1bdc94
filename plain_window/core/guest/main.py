"""The process with a demo's own libraries: it opens one model and answers the runner's questions, one after another.

Started with the descriptor of a socket to its runner, and the folder that the libraries lie in.
"""

import os
import platform
import site
import socket
import sys
from collections.abc import Callable, Mapping
from importlib.metadata import distributions
from importlib.util import find_spec
from typing import Any, BinaryIO, cast

import numpy as np

from ..errors import Faults, ModelFailed, ModelNotOpened
from .arguments import Taken
from .calling import AuthorsFunctions
from .estimators import Estimator
from .failing import own_libraries, reason_of
from .network import Network
from .networks import described, open_network
from .values import as_sent
from .wire import WireBroken, read_message, write_message

__all__ = ["Guest", "main"]


class Guest:
    """What it holds, and the answers to what it is asked.

    Parameters
    ----------
    libraries : str
        Folder of the environment.
    """

    def __init__(self, libraries: str) -> None:
        self._libraries = libraries
        self._functions: AuthorsFunctions | None = None
        self._estimator: Estimator | None = None
        self._network: Network | None = None
        self._answers: Mapping[str, Callable[[Mapping[str, Any]], Any]] = {
            "open_functions": self._open_functions,
            "open_estimator": self._open_estimator,
            "open_network": self._open_network,
            "run": lambda asked: self._held_network.run(asked["arrays"]),
            "answer": lambda asked: as_sent(self._held_functions.answer(asked["row"])),
            "answer_each": lambda asked: [as_sent(self._held_functions.answer(row)) for row in asked["rows"]],
            "answers": self._many,
            "answers_to": lambda asked: as_sent(self._held_functions.answers_to(_table_of(asked))),
            "predict": self._predict,
        }

    def reply(self, asked: Mapping[str, Any]) -> dict[str, Any]:
        """The answer to one question, or what went wrong with it.

        Parameters
        ----------
        asked : mapping
            `do` says what; the rest goes with it.
        """
        try:
            return {"value": self._answers[asked["do"]](asked)}
        except Faults as error:
            faults = [[one.field, one.message, one.asks, list(one.choices)] for one in error.faults]
            return {"wrong": "faults", "faults": faults, "message": str(error)}
        except (ModelFailed, ModelNotOpened) as error:
            kind = "failed" if isinstance(error, ModelFailed) else "not opened"
            requirements = error.requirements if isinstance(error, ModelNotOpened) else []
            told = {"message": str(error), "traceback": error.traceback, "requirements": requirements}
            return {"wrong": kind, **told}
        except MemoryError:
            return {"wrong": "failed", "message": "The model wants more memory than it may have.", "traceback": ""}

    @property
    def _held_functions(self) -> AuthorsFunctions:
        if self._functions is None:
            raise ModelFailed("No file has been opened.")
        return self._functions

    @property
    def _held_estimator(self) -> Estimator:
        if self._estimator is None:
            raise ModelFailed("No model has been opened.")
        return self._estimator

    @property
    def _held_network(self) -> Network:
        if self._network is None:
            raise ModelFailed("No network has been opened.")
        return self._network

    def _open_network(self, asked: Mapping[str, Any]) -> dict[str, Any]:
        """A network as it is, and as ONNX where it can be converted."""
        with _file(asked["model"]) as model, _file(asked["beside"]) as beside:
            assert model is not None, "there is always a model"
            path = f"/proc/self/fd/{asked['model']}"
            self._network = open_network(asked["kind"], model, path, beside, asked["name"])
        told = {**described(self._network), **self._what_runs()}
        try:
            return {**told, "onnx": self._network.onnx(), "obstacle": ""}
        except Exception as error:  # what cannot be converted is served as it is
            reason = str(error) if isinstance(error, ModelNotOpened) else reason_of(error)
            return {**told, "onnx": None, "obstacle": reason}

    def _open_functions(self, asked: Mapping[str, Any]) -> dict[str, Any]:
        record = asked["record"]
        with _file(asked["beside"]) as beside, _file(asked["model"]) as model:
            assert model is not None, "there is always a model"
            self._functions = AuthorsFunctions(
                model.read(),
                beside,
                asked["names"],
                [Taken(**one) for one in asked["parameters"]],
                (record[0], record[1]) if record else None,
            )
        return {"warnings": self._functions.warnings, **self._what_runs()}

    def _open_estimator(self, asked: Mapping[str, Any]) -> dict[str, Any]:
        with _file(asked["model"]) as model, _file(asked["preprocessor"]) as preprocessor:
            assert model is not None, "there is always a model"
            self._estimator = Estimator(model, preprocessor)
        return {**self._estimator.description, **self._what_runs()}

    def _predict(self, asked: Mapping[str, Any]) -> Any:
        estimator = self._held_estimator
        try:
            return estimator.predict(_table_of(asked))
        except ModelFailed as error:
            if asked["form"] != "table" or _has_pandas():
                raise
            message = f"{error} It was fitted on a table, and `pandas` is not among its requirements; add it."
            raise ModelFailed(message, traceback=error.traceback) from None

    def _what_runs(self) -> dict[str, Any]:
        """The libraries that are here, by version."""
        versions = {one.metadata["Name"]: one.version for one in distributions(path=[self._libraries])}
        return {"python": platform.python_version(), "versions": versions}

    def _many(self, asked: Mapping[str, Any]) -> Any:
        functions, which = self._held_functions, asked["which"]
        return as_sent(functions.answers(asked["columns"], asked["form"], asked["containers"], which=which))


class _file:
    """A file by its descriptor; None where there is none. The descriptor stays open: it may be asked for again."""

    def __init__(self, descriptor: int | None) -> None:
        self._file: BinaryIO | None = None
        if descriptor is not None:
            os.lseek(descriptor, 0, os.SEEK_SET)
            self._file = os.fdopen(descriptor, "rb", closefd=False)

    def __enter__(self) -> BinaryIO | None:
        return self._file

    def __exit__(self, *_: object) -> None:
        if self._file is not None:
            self._file.close()


def _has_pandas() -> bool:
    return find_spec("pandas") is not None


def _table_of(asked: Mapping[str, Any]) -> Any:
    """A table with the libraries that are here: as pandas has it, an array, or a list of texts."""
    columns: Mapping[str, Any] = asked["columns"]
    if asked["form"] == "texts":
        return [str(text) for text in next(iter(columns.values()))]
    if asked["form"] == "table" and _has_pandas():
        import pandas as pd

        return pd.DataFrame(dict(columns))
    arrays = [np.asarray(column) for column in columns.values()]
    are_numbers = all(array.dtype.kind in "biuf" for array in arrays)
    return np.column_stack([array.astype("float64" if are_numbers else "object") for array in arrays])


def main(descriptor: int, libraries: str) -> None:
    """Answer until nobody asks any more.

    Parameters
    ----------
    descriptor : int
        The socket to the runner.
    libraries : str
        Folder of the environment.
    """
    site.addsitedir(libraries)
    own_libraries.are_here = True
    guest = Guest(libraries)
    with socket.socket(fileno=descriptor) as line:
        file = cast("BinaryIO", line.makefile("rwb"))
        while True:
            try:
                asked = read_message(file)
            except (EOFError, ConnectionError):
                return
            reply = guest.reply(asked)
            try:
                write_message(file, reply)
            except WireBroken as error:
                message = f"The function gave no answer that can be shown: {error}."
                write_message(file, {"wrong": "failed", "message": message, "traceback": ""})


if __name__ == "__main__":
    main(int(sys.argv[1]), sys.argv[2])
