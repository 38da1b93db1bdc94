"""The adapter for scikit-learn estimators and pipelines."""

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

import numpy as np
import pandas as pd
import sklearn
from sklearn.base import BaseEstimator, is_classifier, is_regressor
from sklearn.pipeline import Pipeline
from sklearn.utils.validation import check_is_fitted

from ...contract.inspection import Found
from ...errors import ModelNotOpened
from ...fields.columns import Column, ColumnUse
from ...guest.class_names import class_name
from ...plan.plan import Plan
from ..adapter import DOUBLE_PRECISION, SINGLE_PRECISION
from ..calling import ask
from .column_use import VECTORIZERS, column_uses, dropped_columns
from .pickled import Unpickled, only_model

if TYPE_CHECKING:
    from .compiling.registry import Wanted

__all__ = ["SklearnModel"]

BOOSTERS = {"xgboost": 'booster.save_model("model.ubj")', "lightgbm": 'booster.save_model("model.txt")'}


class SklearnModel:
    """A fitted scikit-learn classifier or regressor, asked through its own methods.

    Parameters
    ----------
    unpickled : Unpickled
        The object out of the file, which may turn out to be none of these.
    format : str
        What the file was.

    Raises
    ------
    ModelNotOpened
        If it is no fitted classifier or regressor.
    """

    def __init__(self, unpickled: Unpickled, *, format: str = "pickle") -> None:
        unpickled = only_model(unpickled)
        self.estimator = _fitted_predictor(unpickled.model)
        _use_one_thread(self.estimator)
        self.found = _found(self.estimator, unpickled, format)
        self.tolerance = SINGLE_PRECISION if _computes_in_single_precision(self.estimator) else DOUBLE_PRECISION

    def compile(self, columns: Sequence[Column]) -> Plan:
        """As `ModelAdapter.compile`."""
        from .compiling import compile_sklearn

        return compile_sklearn(self.estimator, [column.name for column in columns], wanted=self.wanted)

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """As `ModelAdapter.column_uses`."""
        return column_uses(self.estimator, names)

    def dropped_columns(self, names: Sequence[str]) -> set[str]:
        """As `ModelAdapter.dropped_columns`."""
        return dropped_columns(self.estimator, names)

    def settle(self, names: Sequence[str], categories: dict[str, list[str]]) -> list[str] | None:
        """As `ModelAdapter.settle`."""
        return None

    @property
    def wanted(self) -> "Wanted":
        """What is asked of the estimator, in the words of its compiled form."""
        if self.found.task in ("number", "numbers"):
            return "numbers"
        return "probabilities" if self.found.gives_probabilities else "classes"

    def predict(self, table: pd.DataFrame) -> np.ndarray:
        """What the model says of each row.

        Parameters
        ----------
        table : DataFrame of shape (n_rows, n_features)
            Columns by the model's names, in the model's order.

        Returns
        -------
        ndarray of shape (n_rows, n_outputs), float64
            Probabilities in class order, or numbers, or one probability a label.

        Raises
        ------
        ModelFailed
            With the library's traceback.
        """
        table_or_array = self._input_of(table)
        return ask(lambda: self._outputs(table_or_array))

    def _input_of(self, table: pd.DataFrame) -> pd.DataFrame | pd.Series | np.ndarray:
        """The table in the form the model was fitted on."""
        if self.found.features is not None:
            return table
        return table.iloc[:, 0] if _starts_with_text(self.estimator) else _as_array(table)

    def _outputs(self, table_or_array: pd.DataFrame | np.ndarray) -> np.ndarray:
        if self.found.task in ("number", "numbers"):
            return np.asarray(self.estimator.predict(table_or_array), dtype="float64").reshape(len(table_or_array), -1)
        if self.found.task == "labels":
            return self._label_outputs(table_or_array)
        if self.found.gives_probabilities:
            return np.asarray(self.estimator.predict_proba(table_or_array), dtype="float64")
        predicted = np.asarray(self.estimator.predict(table_or_array))
        return (predicted[:, None] == np.asarray(self.estimator.classes_)[None, :]).astype("float64")

    def _label_outputs(self, table_or_array: pd.DataFrame | np.ndarray) -> np.ndarray:
        if not self.found.gives_probabilities:
            return np.asarray(self.estimator.predict(table_or_array), dtype="float64")
        probabilities = self.estimator.predict_proba(table_or_array)
        if isinstance(probabilities, list):
            # One array of (n_rows, 2) a label; the second column is "it applies".
            return np.column_stack([np.asarray(part, dtype="float64")[:, -1] for part in probabilities])
        return np.asarray(probabilities, dtype="float64")


def _fitted_predictor(model: Any) -> BaseEstimator:
    what = type(model).__name__
    library = type(model).__module__.split(".")[0]
    if library in BOOSTERS and what == "Booster":
        raise ModelNotOpened(
            f"The model file holds a `Booster` of {library}. Save it as its library does, and bring that file:\n\n"
            f"{BOOSTERS[library]}"
        )
    if not hasattr(model, "predict") or not isinstance(model, BaseEstimator):
        raise ModelNotOpened(
            f"The model file holds a `{what}`, which is not a scikit-learn classifier or regressor. "
            "Save the fitted model with joblib.dump and upload that file."
        )
    if not (is_classifier(model) or is_regressor(model)):
        raise ModelNotOpened(f"A `{what}` neither classifies nor gives numbers, so there is nothing to answer with.")
    try:
        check_is_fitted(model[-1] if isinstance(model, Pipeline) else model)
    except Exception as error:
        raise ModelNotOpened(
            f"The `{what}` was saved before it was fitted. Fit it, save it, and upload that file."
        ) from error
    return model


def _starts_with_text(estimator: Any) -> bool:
    """Whether the first step takes one list of texts rather than a table."""
    while isinstance(estimator, Pipeline):
        estimator = estimator.steps[0][1]
    return isinstance(estimator, VECTORIZERS)


def _computes_in_single_precision(estimator: BaseEstimator) -> bool:
    parts = [estimator, *estimator.get_params(deep=True).values()]
    return any(type(part).__module__.split(".")[0] == "xgboost" for part in parts)


def _use_one_thread(estimator: BaseEstimator) -> None:
    """One row is never worth starting threads for; the answers are the same."""
    settings = estimator.get_params(deep=True)
    threads = {
        name: 1 for name, value in settings.items() if name.split("__")[-1] == "n_jobs" and value not in (None, 1)
    }
    if threads:
        estimator.set_params(**threads)


def _found(estimator: BaseEstimator, unpickled: Unpickled, format: str) -> Found:
    names = getattr(estimator, "feature_names_in_", None)
    n_features = 1 if _starts_with_text(estimator) else getattr(estimator, "n_features_in_", None)
    task, classes = _task(estimator)
    notes = list(unpickled.warnings)
    if unpickled.saved_with:
        notes.insert(
            0,
            f"The model was saved with scikit-learn {unpickled.saved_with} and is opened with {sklearn.__version__}. "
            "Its answers may differ from your notebook's; compare some before you publish, or let it run with "
            f"`scikit-learn=={unpickled.saved_with}` as its requirements.",
        )
    return Found(
        format=format,
        library="scikit-learn",
        saved_with=unpickled.saved_with or sklearn.__version__,
        running=sklearn.__version__,
        steps=_steps(estimator),
        task=task,
        features=None if names is None else [str(name) for name in names],
        n_features=None if n_features is None else int(n_features),
        classes=classes,
        gives_probabilities=hasattr(estimator, "predict_proba"),
        warnings=notes,
    )


def _task(estimator: BaseEstimator) -> tuple[str, list[str] | None]:
    if is_regressor(estimator):
        return ("numbers" if _n_outputs(estimator) > 1 else "number"), None
    classes = estimator.classes_
    if isinstance(classes, list):
        # Several outputs: each must be a yes or no to be read as a label.
        if any(len(part) != 2 for part in classes):
            raise ModelNotOpened(
                "The model gives several classes at once, which has no answer kind. Save one model a class."
            )
        return "labels", [f"Label {index + 1}" for index in range(len(classes))]
    return ("labels" if _is_multilabel(estimator) else "class"), [class_name(value) for value in classes]


def _is_multilabel(estimator: BaseEstimator) -> bool:
    """Whether each class may apply by itself, as the estimator was fitted; how many outputs it has does not tell."""
    last = _last_of(estimator)
    kind = getattr(getattr(last, "_label_binarizer", None), "y_type_", "")
    return bool(getattr(last, "multilabel_", False)) or str(kind).startswith("multilabel")


def _last_of(estimator: BaseEstimator) -> Any:
    """The estimator that answers, within pipelines and what searched for it."""
    last = estimator
    while True:
        if isinstance(last, Pipeline):
            last = last[-1]
        elif hasattr(last, "best_estimator_"):
            last = last.best_estimator_
        elif hasattr(last, "regressor_"):
            last = last.regressor_
        else:
            return last


def _n_outputs(estimator: BaseEstimator) -> int:
    """How many numbers a fitted regressor gives, by whichever of its parts tells."""
    last = _last_of(estimator)
    for name in ("n_outputs_", "n_outputs"):
        value = getattr(last, name, None)
        if isinstance(value, int | np.integer):
            return int(value)
    if is_regressor(last):
        coefficients = getattr(last, "coef_", None)
        if coefficients is not None and np.ndim(coefficients) == 2:
            return int(np.shape(coefficients)[0])
        fitted = getattr(last, "_y", None)
        if fitted is not None and np.ndim(fitted) == 2:
            return int(np.shape(fitted)[1])
        if hasattr(last, "estimators_") and type(last).__name__ == "MultiOutputRegressor":
            return len(last.estimators_)
    return 1


def _steps(estimator: BaseEstimator) -> list[str]:
    if isinstance(estimator, Pipeline):
        return [name for _, step in estimator.steps for name in _steps_of(step)]
    return [type(estimator).__name__]


def _steps_of(step: Any) -> list[str]:
    return [step] if isinstance(step, str) else _steps(step)


def _as_array(table: pd.DataFrame) -> np.ndarray:
    """The table as the array it was fitted on: floats where all columns are numbers, objects otherwise."""
    if all(pd.api.types.is_numeric_dtype(dtype) for dtype in table.dtypes):
        return table.to_numpy(dtype="float64")
    return table.to_numpy(dtype="object")
