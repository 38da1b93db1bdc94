"""From a file to an object: joblib and pickle, and why it failed in words.

Opening such a file runs whatever code it asks for. Call this in a confined runner only.
"""

import pickle
import re
import warnings
from collections.abc import Callable, Sequence
from importlib.metadata import PackageNotFoundError, version
from typing import Any, BinaryIO, NamedTuple

import joblib
import sklearn
from sklearn.exceptions import InconsistentVersionWarning

from ...environments.suggested import package_of, requirements_of_pickle, sklearn_version_in
from ...errors import ModelNotOpened
from ...guest.containers import model_in
from ..other_files import unpacked_head

__all__ = ["Unpickled", "later_failure", "open_pickled", "open_with"]


# What libraries and their packages are called.
NAMES = {"sklearn": "scikit-learn", "numpy": "NumPy", "scipy": "SciPy", "xgboost": "XGBoost", "lightgbm": "LightGBM"}
PACKAGES = {"sklearn": "scikit-learn", "xgboost": "xgboost-cpu"}
PACKAGES_HERE = ("sklearn", "numpy", "scipy", "pandas", "xgboost", "lightgbm")
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


def only_model(opened: Unpickled) -> Unpickled:
    """What is to be asked, where it was saved together with other things.

    Parameters
    ----------
    opened : Unpickled

    Raises
    ------
    ModelNotOpened
        If it cannot be told what that is.
    """
    model, notes = model_in(opened.model)
    return opened._replace(model=model, warnings=[*opened.warnings, *notes])


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
        return next(filter(None, map(sklearn_version_in, _contents(file))), None)

    return open_with(lambda: joblib.load(file), searched, lambda: requirements_of_pickle(_contents(file)))


def _contents(file: BinaryIO) -> list[bytes]:
    """As much of a file as is searched, as it is and unpacked."""
    file.seek(0)
    head = file.read(SEARCHED_BYTES)
    unpacked = unpacked_head(head)
    return [head] if unpacked is head else [head, unpacked]


def later_failure(file: BinaryIO, error: Exception) -> ModelNotOpened | None:
    """What is said of an object that another version saved, and that cannot be asked; None of any other.

    Parameters
    ----------
    file : binary file
        That it is out of; seekable.
    error : Exception
        What it raised.
    """
    contents = _contents(file)
    saved_with = next(filter(None, map(sklearn_version_in, contents)), None)
    if saved_with is None or saved_with == sklearn.__version__:
        return None
    lines = requirements_of_pickle(contents)
    return ModelNotOpened(_reason(error, saved_with, lines), requirements=lines)


def open_with(
    load: Callable[[], Any],
    version_named: Callable[[], str | None] = lambda: None,
    suggested: Callable[[], list[str]] = list,
) -> Unpickled:
    """What `load` returns, with the warnings on the way and failures in words.

    `version_named` looks for the version that the file names, if opening it fails.

    Parameters
    ----------
    load : callable
        Opens the object.
    version_named : callable, optional
        Tells what the file says it was saved with.
    suggested : callable, optional
        Tells which requirements it might open with, if opening it fails.

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
            saved_with = _saved_with(caught) or version_named()
            lines = _lines(error, saved_with, suggested())
            raise ModelNotOpened(_reason(error, saved_with, lines), requirements=lines) from error
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


def _lines(error: BaseException, saved_with: str | None, suggested: list[str]) -> list[str]:
    """Requirements that may help: of another version, or of a package that is not here."""
    if isinstance(error, ModuleNotFoundError) and error.name and error.name.split(".")[0] not in PACKAGES_HERE:
        return list(dict.fromkeys([*suggested, package_of(error.name)]))
    is_other = saved_with is not None and saved_with != sklearn.__version__
    return suggested or ([f"scikit-learn=={saved_with}"] if is_other else []) if is_other else []


def _reason(error: BaseException, saved_with: str | None, lines: Sequence[str]) -> str:
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
            f"Bring it with {_listed(lines)} as its `requirements`: it then runs with those. Or fit and save it with "
            f"{is_here}, or export it to ONNX where {saved_with} is installed:\n\n{TO_ONNX}"
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


def _listed(lines: Sequence[str]) -> str:
    named = [f"`{line}`" for line in lines]
    return " and ".join([", ".join(named[:-1]), named[-1]] if len(named) > 1 else named)


def _what_failed(error: BaseException) -> str:
    first = str(error).strip().split("\n")[0][:300]
    return f"{type(error).__name__}: {first}".rstrip(": .")


def _missing_module(error: ModuleNotFoundError) -> str:
    package = (error.name or "").split(".")[0]
    if package in PACKAGES_HERE:
        return (
            f"The model was saved with another version of {NAMES.get(package, package)}: `{error.name}` does not exist "
            f"in {version(PACKAGES.get(package, package))}, which is here. Fit and save it with this version, or "
            f"export it to ONNX where it was saved:\n\n{TO_ONNX}"
        )
    return (
        f"The model needs the package `{package}`, which is not installed here. "
        f"Bring it with a `requirements.txt` that names `{package_of(package)}` and what else it was saved with, or "
        "save a model without it."
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
