"""A preprocessor from a second file in front of a model."""

from collections.abc import Sequence
from typing import Any

import numpy as np
import pandas as pd
from sklearn.pipeline import make_pipeline

from ..contract.inspection import Found
from ..errors import ModelNotOpened
from ..fields.columns import Column, ColumnUse
from ..plan.building import Builder
from ..plan.plan import Plan
from .adapter import NativeModel
from .calling import ask
from .sklearn.column_use import column_uses, dropped_columns
from .sklearn.pickled import Unpickled, only_model

__all__ = ["PreprocessedModel", "in_front"]


def in_front(preprocessor: Unpickled, model: Unpickled) -> Unpickled:
    """Both as one pipeline.

    Parameters
    ----------
    preprocessor : Unpickled
    model : Unpickled
    """
    model = only_model(model)
    whole = make_pipeline(_transformer(preprocessor.model), model.model)
    saved_with = model.saved_with or preprocessor.saved_with
    return Unpickled(whole, saved_with, [*model.warnings, *preprocessor.warnings])


def _transformer(preprocessor: Any) -> Any:
    if not hasattr(preprocessor, "transform") or isinstance(preprocessor, type):
        what = type(preprocessor).__name__
        raise ModelNotOpened(
            f"The preprocessor file holds a `{what}`, which transforms nothing. Save the fitted transformer itself."
        )
    return preprocessor


class PreprocessedModel:
    """A fitted transformer, and a model of another library that is given what it makes.

    Parameters
    ----------
    preprocessor : Unpickled
    model : NativeModel

    Raises
    ------
    ModelNotOpened
        If the first is no transformer.
    """

    def __init__(self, preprocessor: Unpickled, model: NativeModel) -> None:
        self._transformer = _transformer(preprocessor.model)
        self._model = model
        names = getattr(self._transformer, "feature_names_in_", None)
        n_features = getattr(self._transformer, "n_features_in_", None)
        steps = [type(self._transformer).__name__, *model.found.steps]
        changes = {
            "features": None if names is None else [str(name) for name in names],
            "n_features": None if n_features is None else int(n_features),
            "steps": steps,
            "warnings": [*model.found.warnings, *preprocessor.warnings],
        }
        self.found: Found = model.found.model_copy(update=changes)
        self.tolerance = model.tolerance

    def predict(self, table: pd.DataFrame) -> np.ndarray:
        """As `ModelAdapter.predict`."""
        table_or_array = table if self.found.features is not None else table.to_numpy()

        def transformed() -> np.ndarray:
            made = self._transformer.transform(table_or_array)
            dense = made.toarray() if hasattr(made, "toarray") else np.asarray(made)
            names = self._model.found.features or [f"column {at + 1}" for at in range(dense.shape[1])]
            return self._model.predict(pd.DataFrame(dense.astype("float64"), columns=names[: dense.shape[1]]))

        return ask(transformed)

    def compile(self, columns: Sequence[Column]) -> Plan:
        """As `ModelAdapter.compile`."""
        from .sklearn.compiling import compile_transformer

        builder = Builder([column.name for column in columns])
        value = builder.numbers(compile_transformer(builder, self._transformer, builder.raw))
        return builder.finish(self._model.compile_onto(builder, value))

    def column_uses(self, names: Sequence[str]) -> dict[str, ColumnUse]:
        """As `ModelAdapter.column_uses`."""
        return column_uses(make_pipeline(self._transformer, "passthrough"), names)

    def dropped_columns(self, names: Sequence[str]) -> set[str]:
        """As `ModelAdapter.dropped_columns`."""
        return dropped_columns(make_pipeline(self._transformer, "passthrough"), names)

    def settle(self, names: Sequence[str], categories: dict[str, list[str]]) -> list[str] | None:
        """As `ModelAdapter.settle`."""
        return None
