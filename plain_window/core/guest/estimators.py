"""A fitted estimator out of a file of joblib, pickle or skops, with whatever libraries are here."""

import pickle
import traceback
import warnings
from collections.abc import Callable
from typing import Any, BinaryIO

import numpy as np

from ..environments.suggested import package_of
from ..errors import ModelFailed, ModelNotOpened
from .class_names import class_name
from .containers import model_in
from .failing import reason_of

__all__ = ["Estimator"]

ZIP = b"PK\x03\x04"
MOST_WARNINGS, WARNING_CHARACTERS = 5, 300
MOST_STEPS = 50


class Estimator:
    """A classifier or regressor with `predict`, and perhaps what its inputs go through first.

    Parameters
    ----------
    model, preprocessor : binary file or None

    Raises
    ------
    ModelNotOpened
        If there is no such thing in the file.
    """

    def __init__(self, model: BinaryIO, preprocessor: BinaryIO | None) -> None:
        with warnings.catch_warnings(record=True) as caught:
            warnings.simplefilter("always")
            self._model, notes = _predictor(_opened(model, "The model file"))
            self._first = _transformer(_opened(preprocessor, "The preprocessor")) if preprocessor is not None else None
        said = [*notes, *(str(one.message).split("\n")[0][:WARNING_CHARACTERS] for one in caught)]
        _use_one_thread(self._model)
        self._task, self._classes = _task_of(self._model)
        self._gives_probabilities = self._classes is not None and hasattr(self._model, "predict_proba")
        outer = self._first if self._first is not None else self._model
        names, n_features = getattr(outer, "feature_names_in_", None), getattr(outer, "n_features_in_", None)
        takes_texts = _takes_texts(outer)
        self.description = {
            "library": type(_last_of(self._model)).__module__.split(".")[0],
            "steps": ([type(self._first).__name__] if self._first is not None else []) + _steps(self._model),
            "task": self._task,
            "classes": None if self._classes is None else [class_name(one) for one in self._classes],
            "gives_probabilities": self._gives_probabilities,
            "features": None if names is None else [str(name) for name in names],
            "n_features": 1 if takes_texts else None if n_features is None else int(n_features),
            "takes_texts": takes_texts,
            "warnings": list(dict.fromkeys(said))[:MOST_WARNINGS],
        }

    def predict(self, table: Any) -> np.ndarray:
        """Outputs of shape (n_rows, n_outputs), float64.

        Parameters
        ----------
        table : pandas.DataFrame, ndarray or list of str
            Shape (n_rows, n_features).

        Raises
        ------
        ModelFailed
            With the library's traceback.
        """
        try:
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")
                given = self._first.transform(table) if self._first is not None else table
                return self._outputs(given, len(table))
        except Exception as error:  # any step of an author's model may raise anything
            message = f"The model could not answer: {reason_of(error)}."
            raise ModelFailed(message, traceback=traceback.format_exc(limit=-8)) from error

    def _outputs(self, given: Any, n_rows: int) -> np.ndarray:
        if self._classes is None:
            return np.asarray(self._model.predict(given), dtype="float64").reshape(n_rows, -1)
        if self._gives_probabilities:
            outputs = self._model.predict_proba(given)
            if isinstance(outputs, list):
                # One array of (n_rows, 2) a label; the second column is "it applies".
                return np.column_stack([np.asarray(part, dtype="float64")[:, -1] for part in outputs])
            return np.asarray(outputs, dtype="float64")
        predicted = np.asarray(self._model.predict(given))
        if self._task == "labels":
            return predicted.astype("float64").reshape(n_rows, -1)
        return (predicted[:, None] == np.asarray(self._classes)[None, :]).astype("float64")


def _opened(file: BinaryIO | None, what: str) -> Any:
    assert file is not None, "what is not there is not opened"
    loaders = [_skops] if file.read(len(ZIP)) == ZIP else [_joblib, _pickle]
    reasons = []
    for load in loaders:
        file.seek(0)
        try:
            return load(file)
        except ModuleNotFoundError as error:
            if load is _joblib and error.name == "joblib":
                continue
            raise ModelNotOpened(
                f"{what} needs the module `{error.name}`, which is not among its requirements. Add "
                f"`{package_of(error.name or '')}`.",
                requirements=[package_of(error.name or "")],
            ) from error
        # A damaged or hostile pickle can raise anything, `SystemExit` included; whatever it raises is the reason.
        except BaseException as error:
            reasons.append(reason_of(error))
            break
    raise ModelNotOpened(
        f"{what} cannot be opened with the libraries it asked for: {reasons[0]}. "
        "See that the versions are those it was saved with."
    )


def _joblib(file: BinaryIO) -> Any:
    import joblib

    return joblib.load(file)


def _pickle(file: BinaryIO) -> Any:
    return pickle.load(file)


def _skops(file: BinaryIO) -> Any:
    from skops.io import get_untrusted_types, loads

    content = file.read()
    # Behind the walls a type can do no more than a pickle can.
    return loads(content, trusted=get_untrusted_types(data=content))


def _predictor(found: Any) -> tuple[Any, list[str]]:
    model: Any
    model, notes = model_in(found)
    what = type(model).__name__
    if not callable(getattr(model, "predict", None)) or isinstance(model, type):
        raise ModelNotOpened(f"The model file holds a `{what}`, which has no `predict`. Save the fitted model itself.")
    return model, notes


def _transformer(found: Any) -> Any:
    if not callable(getattr(found, "transform", None)) or isinstance(found, type):
        what = type(found).__name__
        raise ModelNotOpened(
            f"The preprocessor file holds a `{what}`, which transforms nothing. Save the fitted transformer itself."
        )
    return found


def _task_of(model: Any) -> tuple[str, list[Any] | None]:
    """What it answers with, and its classes in the order of its outputs."""
    classes = getattr(model, "classes_", None)
    if classes is None or getattr(model, "_estimator_type", "") == "regressor":
        return ("numbers" if _n_outputs(model) > 1 else "number"), None
    if isinstance(classes, list):
        if any(len(part) != 2 for part in classes):
            raise ModelNotOpened(
                "The model gives several classes at once, which has no answer kind. Save one model a class."
            )
        return "labels", [f"Label {at + 1}" for at in range(len(classes))]
    last = _last_of(model)
    kind = str(getattr(getattr(last, "_label_binarizer", None), "y_type_", ""))
    is_labels = bool(getattr(last, "multilabel_", False)) or kind.startswith("multilabel")
    return ("labels" if is_labels else "class"), list(classes)


def _n_outputs(model: Any) -> int:
    last = _last_of(model)
    for name in ("n_outputs_", "n_outputs"):
        value = getattr(last, name, None)
        if isinstance(value, int | np.integer):
            return int(value)
    coefficients = getattr(last, "coef_", None)
    if coefficients is not None and np.ndim(coefficients) == 2:
        return int(np.shape(coefficients)[0])
    estimators = getattr(last, "estimators_", None)
    return len(estimators) if estimators is not None and type(last).__name__ == "MultiOutputRegressor" else 1


def _last_of(model: Any) -> Any:
    """The estimator that answers, within pipelines and what searched for it."""
    for _ in range(MOST_STEPS):
        inner = model.steps[-1][1] if hasattr(model, "steps") and model.steps else None
        inner = inner or getattr(model, "best_estimator_", None) or getattr(model, "regressor_", None)
        if inner is None or isinstance(inner, str):
            return model
        model = inner
    return model


def _steps(model: Any) -> list[str]:
    if hasattr(model, "steps") and isinstance(model.steps, list):
        return [name for _, step in model.steps for name in ([step] if isinstance(step, str) else _steps(step))]
    return [type(model).__name__]


def _takes_texts(model: Any) -> bool:
    """Whether the first step takes a list of texts rather than a table."""
    while hasattr(model, "steps") and model.steps:
        model = model.steps[0][1]
    return type(model).__name__ in ("CountVectorizer", "TfidfVectorizer", "HashingVectorizer")


def _use_one_thread(model: Any) -> None:
    """One row is never worth starting threads for; the answers are the same."""
    get: Callable[..., dict[str, Any]] | None = getattr(model, "get_params", None)
    try:
        settings = get(deep=True) if callable(get) else {}
        names = [name for name in settings if name.split("__")[-1] == "n_jobs" and settings[name] not in (None, 1)]
        threads = dict.fromkeys(names, 1)
        if threads:
            model.set_params(**threads)
    except Exception:  # an estimator of somebody's own need not have this
        return
