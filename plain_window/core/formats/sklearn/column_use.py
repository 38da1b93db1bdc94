"""What a scikit-learn pipeline does with each of its columns, as far as its steps tell.

Only steps whose meaning is certain are read. A step that is not known ends the reading for its columns; nothing is
guessed from there on.
"""

from collections.abc import Sequence
from typing import Any

import numpy as np
from sklearn.base import BaseEstimator
from sklearn.compose import ColumnTransformer
from sklearn.feature_extraction.text import CountVectorizer, HashingVectorizer, TfidfVectorizer
from sklearn.impute import SimpleImputer
from sklearn.pipeline import FeatureUnion, Pipeline
from sklearn.preprocessing import (
    KBinsDiscretizer,
    MaxAbsScaler,
    MinMaxScaler,
    Normalizer,
    OneHotEncoder,
    OrdinalEncoder,
    PolynomialFeatures,
    PowerTransformer,
    QuantileTransformer,
    RobustScaler,
    SplineTransformer,
    StandardScaler,
    TargetEncoder,
)

from ...fields.columns import ColumnUse
from ...fields.kinds import Scalar

__all__ = ["VECTORIZERS", "column_uses", "dropped_columns", "resolve_columns"]

NEEDS_NUMBERS = (
    KBinsDiscretizer,
    MaxAbsScaler,
    MinMaxScaler,
    Normalizer,
    PolynomialFeatures,
    PowerTransformer,
    QuantileTransformer,
    RobustScaler,
    SplineTransformer,
    StandardScaler,
)
ENCODERS = (OneHotEncoder, OrdinalEncoder, TargetEncoder)
VECTORIZERS = (CountVectorizer, HashingVectorizer, TfidfVectorizer)


def column_uses(model: BaseEstimator, columns: Sequence[str]) -> dict[str, ColumnUse]:
    """What `model` does with each of `columns`.

    Parameters
    ----------
    model : estimator
        Fitted.
    columns : sequence of str, length n_features
        In the model's order.

    Returns
    -------
    dict of str to ColumnUse
        Without an entry where nothing is certain.
    """
    uses: dict[str, ColumnUse] = {}
    _read_step(model, list(columns), uses)
    return uses


def dropped_columns(model: BaseEstimator, columns: Sequence[str]) -> set[str]:
    """Columns that the model was fitted with and throws away at once.

    Parameters
    ----------
    model : BaseEstimator
    columns : sequence of str
        Their names.
    """
    step = model
    while isinstance(step, Pipeline):
        step = step.steps[0][1]
    if not isinstance(step, ColumnTransformer):
        return set()
    kept: set[str] = set()
    for _, transformer, selected in step.transformers_:
        if not (isinstance(transformer, str) and transformer == "drop"):
            kept.update(resolve_columns(selected, list(columns)))
    return set(columns) - kept


def _read_step(step: Any, columns: list[str], uses: dict[str, ColumnUse]) -> bool:
    """Note what `step` does with `columns`; True if it hands the same columns on, still to be read."""
    if isinstance(step, str):
        return step == "passthrough"
    if isinstance(step, Pipeline):
        return all(_read_step(inner, columns, uses) for _, inner in step.steps)
    if isinstance(step, ColumnTransformer):
        for _, transformer, selected in step.transformers_:
            _read_step(transformer, resolve_columns(selected, columns), uses)
        return False
    if isinstance(step, FeatureUnion):
        for _, inner in step.transformer_list:
            _read_step(inner, columns, uses)
        return False
    if isinstance(step, SimpleImputer):
        if step.strategy in ("mean", "median"):
            _note_all(columns, ColumnUse(wants="number"), uses)
        return not step.add_indicator
    if isinstance(step, ENCODERS):
        _note_categories(step, columns, uses)
    elif isinstance(step, NEEDS_NUMBERS):
        _note_all(columns, ColumnUse(wants="number"), uses)
    elif isinstance(step, VECTORIZERS):
        _note_all(columns, ColumnUse(wants="text"), uses)
    return False


def _note_all(columns: list[str], use: ColumnUse, uses: dict[str, ColumnUse]) -> None:
    for column in columns:
        uses.setdefault(column, use)


def _note_categories(encoder: Any, columns: list[str], uses: dict[str, ColumnUse]) -> None:
    refuses = getattr(encoder, "handle_unknown", "ignore") == "error"
    for column, categories in zip(columns, encoder.categories_, strict=False):
        known = [plain for plain in map(_plain, categories) if plain is not None]
        uses.setdefault(column, ColumnUse(wants="category", categories=known, refuses_others=refuses))


def _plain(value: Any) -> Scalar | None:
    """A category as a plain value; None for the ones that stand for a missing value."""
    plain = value.item() if isinstance(value, np.generic) else value
    if plain is None or (isinstance(plain, float) and np.isnan(plain)):
        return None
    return plain if isinstance(plain, bool | int | float | str) else str(plain)


def resolve_columns(selected: Any, columns: list[str]) -> list[str]:
    """The names that a column selection of any of scikit-learn's forms stands for.

    Parameters
    ----------
    selected : object
        What a `ColumnTransformer` names: names, places, a slice, a mask or a function.
    columns : list of str
        The columns there are.
    """
    if isinstance(selected, str):
        return [selected]
    if isinstance(selected, slice):
        if isinstance(selected.start, str) or isinstance(selected.stop, str):
            start = columns.index(selected.start) if selected.start else 0
            stop = columns.index(selected.stop) + 1 if selected.stop else len(columns)
            return columns[start:stop]
        return columns[selected]
    if isinstance(selected, int | np.integer):
        return [columns[selected]]
    chosen = list(selected)
    if chosen and all(isinstance(item, bool | np.bool_) for item in chosen):
        return [column for column, is_in in zip(columns, chosen, strict=False) if is_in]
    return [item if isinstance(item, str) else columns[item] for item in chosen]
