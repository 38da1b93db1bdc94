"""From a file to an object: joblib and pickle, and why it failed in words.

Opening such a file runs whatever code it asks for. Call this in a confined runner only.
"""

import pickle
import re
import warnings
from collections.abc import Callable
from typing import Any, BinaryIO, NamedTuple

import joblib
from sklearn.exceptions import InconsistentVersionWarning

from ..errors import ModelNotOpened

__all__ = ["Unpickled", "open_pickled", "open_with"]


class Unpickled(NamedTuple):
    """The object, the version of scikit-learn it was saved with if it says another, and what was warned."""

    model: Any
    saved_with: str | None
    warnings: list[str]


def open_pickled(file: BinaryIO) -> Unpickled:
    """Open a model saved by joblib or pickle, compressed or not.

    Parameters
    ----------
    file : binary file
        Seekable.

    Returns
    -------
    Unpickled

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    """
    return open_with(lambda: joblib.load(file))


def open_with(load: Callable[[], Any]) -> Unpickled:
    """What `load` returns, with the warnings on the way and failures in words.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    """
    with warnings.catch_warnings(record=True) as caught:
        warnings.simplefilter("always")
        try:
            model = load()
        except ModelNotOpened:
            raise
        # A damaged or hostile pickle can raise anything, `SystemExit` included; whatever it raises is the reason.
        except BaseException as error:
            raise ModelNotOpened(_reason(error, _saved_with(caught))) from error
    return Unpickled(model, _saved_with(caught), _messages(caught))


def _saved_with(caught: list[warnings.WarningMessage]) -> str | None:
    for warning in caught:
        if isinstance(warning.message, InconsistentVersionWarning):
            return str(warning.message.original_sklearn_version)
    return None


def _messages(caught: list[warnings.WarningMessage]) -> list[str]:
    """What was warned, once each; version warnings are told apart, since each step repeats them."""
    others = [warning for warning in caught if not isinstance(warning.message, InconsistentVersionWarning)]
    return list(dict.fromkeys(str(warning.message).split("\n")[0][:300] for warning in others))[:5]


def _reason(error: BaseException, saved_with: str | None) -> str:
    version = f" It was saved with scikit-learn {saved_with}." if saved_with else ""
    text = str(error)
    if isinstance(error, ModuleNotFoundError):
        package = (error.name or "").split(".")[0]
        if package == "sklearn":
            return (
                f"The model was saved with another version of scikit-learn: `{error.name}` does not exist in this one."
                f"{version} Save it again with the version that is installed here."
            )
        return (
            f"The model needs the package `{package}`, which is not installed here. "
            "Save a model without it, or ask whoever runs this server to install it."
        )
    # The Python and the C unpickler say it in different words.
    missing = re.search(r"Can't get attribute '(?P<name>[^']+)' on <module '(?P<module>[^']+)'", text) or re.search(
        r"module '(?P<module>[^']+)' has no attribute '(?P<name>[^']+)'", text
    )
    if missing:
        name, module = missing["name"], missing["module"]
        where = "the training script or notebook" if module == "__main__" else f"`{module}`"
        fix = (
            "Put the class into a package that is installed here, or replace it with a step from scikit-learn."
            if module == "__main__"
            else f"Save it again with the version of `{module.split('.')[0]}` that is installed here."
        )
        return f"The model needs `{name}` from {where}, which is not there.{version} {fix}"
    if isinstance(error, EOFError) or "ran out of data" in text or "truncated" in text:
        return "The model file ends too early; it was cut off. Copy it again and upload the whole file."
    if isinstance(error, MemoryError):
        return "The model does not fit into the memory a runner may take."
    if isinstance(error, pickle.UnpicklingError | KeyError | UnicodeDecodeError | ValueError | IndexError):
        return (
            "The model file is damaged, or was not saved with joblib or pickle."
            f"{version} Save the fitted model with joblib.dump and upload that file."
        )
    return f"The model file could not be opened: {type(error).__name__}: {text[:300]}.{version}"
