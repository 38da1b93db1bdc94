"""From a file to an object: joblib and pickle, and why it failed in words.

Opening such a file runs whatever code it asks for. Call this in a confined runner only.
"""

import pickle
import re
import warnings
from collections.abc import Callable
from importlib.metadata import PackageNotFoundError, version
from typing import Any, BinaryIO, NamedTuple

import joblib
import sklearn
from sklearn.exceptions import InconsistentVersionWarning

from ...errors import ModelNotOpened
from ..other_files import unpacked_head

__all__ = ["Unpickled", "open_pickled", "open_with"]


# What libraries and their packages are called.
NAMES = {"sklearn": "scikit-learn", "numpy": "NumPy", "scipy": "SciPy", "xgboost": "XGBoost", "lightgbm": "LightGBM"}
PACKAGES = {"sklearn": "scikit-learn", "xgboost": "xgboost-cpu"}
MISSING_NAME = re.compile(r"Can't get attribute '(?P<name>[^']+)' on <module '(?P<module>[^']+)'")
MISSING_ATTRIBUTE = re.compile(r"module '(?P<module>[^']+)' has no attribute '(?P<name>[^']+)'")
# How much of a pickle is searched for the version it was saved with.
SEARCHED_BYTES = 64 << 20
TO_ONNX = """pip install skl2onnx
import skl2onnx
from skl2onnx.common.data_types import FloatTensorType
shape = [("input", FloatTensorType([None, model.n_features_in_]))]
open("model.onnx", "wb").write(skl2onnx.to_onnx(model, initial_types=shape).SerializeToString())"""


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

    def searched() -> str | None:
        file.seek(0)
        head = file.read(SEARCHED_BYTES)
        return _version_in(head) or _version_in(unpacked_head(head))

    return open_with(lambda: joblib.load(file), searched)


def open_with(load: Callable[[], Any], version_named: Callable[[], str | None] = lambda: None) -> Unpickled:
    """What `load` returns, with the warnings on the way and failures in words.

    `version_named` looks for the version that the file names, if opening it fails.

    Parameters
    ----------
    load : callable
        Opens the object.
    version_named : callable, optional
        Tells what the file says it was saved with.

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
            raise ModelNotOpened(_reason(error, _saved_with(caught) or version_named())) from error
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
    text = str(error)
    if isinstance(error, EOFError) or "ran out of data" in text or "truncated" in text:
        return "The model file ends too early; it was cut off. Copy it again and upload the whole file."
    if isinstance(error, MemoryError):
        return "The model does not fit into the memory a runner may take."
    is_here = sklearn.__version__
    failed = _what_failed(error)
    if saved_with is not None and saved_with != is_here:
        return (
            f"The model was saved with scikit-learn {saved_with}; here is {is_here}, which cannot read it: {failed}. "
            f"Fit and save it with {is_here}, or export it to ONNX where {saved_with} is installed:\n\n" + TO_ONNX
        )
    if isinstance(error, ModuleNotFoundError):
        return _missing_module(error)
    # The Python and the C unpickler say it in different words.
    missing = MISSING_NAME.search(text) or MISSING_ATTRIBUTE.search(text)
    if missing:
        return _missing_name(missing["name"], missing["module"])
    if isinstance(error, pickle.UnpicklingError | KeyError | UnicodeDecodeError | ValueError | IndexError):
        return (
            "The model file is damaged, or was not saved with joblib or pickle. "
            "Save the fitted model with joblib.dump and upload that file."
        )
    return f"The model file could not be opened: {failed}."


def _what_failed(error: BaseException) -> str:
    first = str(error).strip().split("\n")[0][:300]
    return f"{type(error).__name__}: {first}".rstrip(": .")


def _missing_module(error: ModuleNotFoundError) -> str:
    package = (error.name or "").split(".")[0]
    if package in ("sklearn", "numpy", "scipy", "pandas", "xgboost", "lightgbm"):
        return (
            f"The model was saved with another version of {NAMES.get(package, package)}: `{error.name}` does not exist "
            f"in {version(PACKAGES.get(package, package))}, which is here. Fit and save it with this version, or "
            f"export it to ONNX where it was saved:\n\n{TO_ONNX}"
        )
    return (
        f"The model needs the package `{package}`, which is not installed here. "
        "Save a model without it, or ask whoever runs this server to install it."
    )


def _missing_name(name: str, module: str) -> str:
    if module in ("__main__", "__mp_main__") or module.split(".")[0] == "plain_window":
        return (
            f"The model needs `{name}`, which was defined in the training script or notebook it was saved from and is "
            "not in the file. Save the model without it, with a step of scikit-learn in its place; or export the whole "
            "to ONNX. (A function file, a Python file that brings its own classes, is not taken here yet.)"
        )
    package = module.split(".")[0]
    try:
        is_here = f"{NAMES.get(package, package)} {version(PACKAGES.get(package, package))} is"
    except PackageNotFoundError:
        is_here = "it is"
    return (
        f"The model needs `{name}` from `{module}`, which is not there: it was saved with another version. Here "
        f"{is_here} installed; save the model with that."
    )


def _version_in(content: bytes) -> str | None:
    """The version of scikit-learn that a pickle names, where opening it fails before it can be warned of."""
    found = re.search(rb"_sklearn_version.{1,12}?(\d+\.\d+(?:\.\d+)?(?:\.?(?:dev|rc|post)\d+)?)", content, re.DOTALL)
    return found[1].decode() if found else None
