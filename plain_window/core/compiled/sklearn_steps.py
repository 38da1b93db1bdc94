"""scikit-learn's transformers as steps.

Each function takes the builder, the fitted transformer and what comes in, and returns what goes out. They repeat the
original's arithmetic in the original's order: folding a subtraction and a division into one step would be faster and
differ in the last digit.
"""

from collections.abc import Callable
from typing import Any

import numpy as np
from sklearn.decomposition import PCA, TruncatedSVD
from sklearn.feature_selection import SelectFromModel, SelectKBest, SelectPercentile, VarianceThreshold
from sklearn.impute import MissingIndicator, SimpleImputer
from sklearn.preprocessing import (
    FunctionTransformer,
    MaxAbsScaler,
    MinMaxScaler,
    Normalizer,
    OneHotEncoder,
    OrdinalEncoder,
    RobustScaler,
    StandardScaler,
)

from .building import Block, Builder, CannotCompile, Raw, RawColumn, plain_scalar

__all__ = ["TRANSFORMERS"]

Value = Raw | Block
Transform = Callable[[Builder, Any, Value], Value]
Inverse = Callable[[Builder, Block], Block]

# What a FunctionTransformer may be made of.
FUNCTIONS = {
    np.log: "log",
    np.log1p: "log1p",
    np.exp: "exp",
    np.expm1: "expm1",
    np.sqrt: "sqrt",
    np.square: "square",
    np.abs: "absolute",
}


class _Transformers:
    """The transformers that can be compiled, by their very type."""

    def __init__(self) -> None:
        self._known: dict[type, Transform] = {}

    def add(self, *types: type) -> Callable[[Transform], Transform]:
        def register(transform: Transform) -> Transform:
            for type_ in types:
                self._known[type_] = transform
            return transform

        return register

    def find(self, transformer: Any) -> Transform:
        """The function for this transformer.

        Raises
        ------
        CannotCompile
        """
        transform = self._known.get(type(transformer))
        if transform is None:
            raise CannotCompile(f"`{type(transformer).__name__}` has no compiled form yet.")
        return transform

    def inverse(self, transformer: Any) -> Inverse:
        """How to undo this transformer of a target.

        Raises
        ------
        CannotCompile
        """
        if type(transformer) is FunctionTransformer:
            function = transformer.inverse_func
            if function is None:
                return lambda builder, block: block
            if function not in FUNCTIONS:
                raise CannotCompile(f"The target's inverse `{function}` is no function that is known here.")
            return lambda builder, block: builder.each(FUNCTIONS[function], block)
        if type(transformer) is StandardScaler:
            return lambda builder, block: _unscale(builder, transformer, block)
        raise CannotCompile(f"The target's `{type(transformer).__name__}` has no compiled inverse yet.")


TRANSFORMERS = _Transformers()


def _unscale(builder: Builder, scaler: StandardScaler, block: Block) -> Block:
    if scaler.with_std:
        block = builder.vector("multiply", block, scaler.scale_)
    return builder.vector("add", block, scaler.mean_) if scaler.with_mean else block


@TRANSFORMERS.add(StandardScaler)
def _standard(builder: Builder, scaler: StandardScaler, value: Value) -> Block:
    block = builder.numbers(value)
    if scaler.with_mean:
        block = builder.vector("subtract", block, scaler.mean_)
    return builder.vector("divide", block, scaler.scale_) if scaler.with_std else block


@TRANSFORMERS.add(MinMaxScaler)
def _min_max(builder: Builder, scaler: MinMaxScaler, value: Value) -> Block:
    block = builder.vector("add", builder.vector("multiply", builder.numbers(value), scaler.scale_), scaler.min_)
    if scaler.clip:
        low, high = scaler.feature_range
        block = builder.vector("at_most", builder.vector("at_least", block, low), high)
    return block


@TRANSFORMERS.add(RobustScaler)
def _robust(builder: Builder, scaler: RobustScaler, value: Value) -> Block:
    block = builder.numbers(value)
    if scaler.with_centering:
        block = builder.vector("subtract", block, scaler.center_)
    return builder.vector("divide", block, scaler.scale_) if scaler.with_scaling else block


@TRANSFORMERS.add(MaxAbsScaler)
def _max_abs(builder: Builder, scaler: MaxAbsScaler, value: Value) -> Block:
    return builder.vector("divide", builder.numbers(value), scaler.scale_)


@TRANSFORMERS.add(Normalizer)
def _normalizer(builder: Builder, normalizer: Normalizer, value: Value) -> Block:
    return builder.each(f"share_{normalizer.norm}", builder.numbers(value))


@TRANSFORMERS.add(FunctionTransformer)
def _function(builder: Builder, transformer: FunctionTransformer, value: Value) -> Value:
    if transformer.func is None:
        return value
    if transformer.func not in FUNCTIONS or transformer.kw_args:
        name = getattr(transformer.func, "__name__", transformer.func)
        raise CannotCompile(f"`FunctionTransformer` with `{name}` has no compiled form: it is no known NumPy function.")
    return builder.each(FUNCTIONS[transformer.func], builder.numbers(value))


@TRANSFORMERS.add(PCA)
def _pca(builder: Builder, pca: PCA, value: Value) -> Block:
    # The library projects first and subtracts the projected mean; so do we.
    weights = np.ascontiguousarray(pca.components_.T, dtype="float64")
    offset = -(pca.mean_.reshape(1, -1) @ weights)[0]
    block = builder.step(
        "linear", weights.shape[1], inputs=[builder.numbers(value)], arrays={"weights": weights, "offset": offset}
    )
    if pca.whiten:
        scale = np.sqrt(pca.explained_variance_)
        scale = np.maximum(scale, np.finfo(scale.dtype).eps)
        block = builder.vector("divide", block, scale)
    return block


@TRANSFORMERS.add(TruncatedSVD)
def _svd(builder: Builder, svd: TruncatedSVD, value: Value) -> Block:
    weights = np.ascontiguousarray(svd.components_.T, dtype="float64")
    arrays = {"weights": weights, "offset": np.zeros(weights.shape[1])}
    return builder.step("linear", weights.shape[1], inputs=[builder.numbers(value)], arrays=arrays)


@TRANSFORMERS.add(SelectKBest, SelectPercentile, SelectFromModel, VarianceThreshold)
def _selection(builder: Builder, selector: Any, value: Value) -> Value:
    kept = np.flatnonzero(selector.get_support())
    if isinstance(value, Raw):
        return Raw(tuple(value.columns[at] for at in kept))
    return builder.step("take", len(kept), inputs=[value], settings={"places": kept.tolist()})


# --- missing values ---------------------------------------------------------------------------------------------------


@TRANSFORMERS.add(SimpleImputer)
def _simple_imputer(builder: Builder, imputer: SimpleImputer, value: Value) -> Value:
    if not (imputer.missing_values is None or _is_nan(imputer.missing_values)):
        raise CannotCompile("`SimpleImputer` for another value than a missing one has no compiled form yet.")
    fills = [plain_scalar(fill) for fill in imputer.statistics_]
    if any(fill is None for fill in fills):
        raise CannotCompile("`SimpleImputer` met a column without any value; it drops or fills it by rules of its own.")
    filled: Value
    if isinstance(value, Raw):
        pairs = zip(value.columns, fills, strict=True)
        filled = Raw(
            tuple(RawColumn(column.name, column.fill if column.fill is not None else fill) for column, fill in pairs)
        )
    else:
        filled = builder.vector("fill", value, fills)
    if imputer.indicator_ is None:
        return filled
    return builder.join([filled, _indicator(builder, imputer.indicator_, value)])


@TRANSFORMERS.add(MissingIndicator)
def _indicator(builder: Builder, indicator: MissingIndicator, value: Value) -> Block:
    if not (indicator.missing_values is None or _is_nan(indicator.missing_values)):
        raise CannotCompile("`MissingIndicator` for another value than a missing one has no compiled form yet.")
    flags = builder.each("is_missing", builder.numbers(value))
    places = [int(at) for at in indicator.features_]
    if places == list(range(flags.width)):
        return flags
    return builder.step("take", len(places), inputs=[flags], settings={"places": places})


def _is_nan(value: Any) -> bool:
    return isinstance(value, float) and np.isnan(value)


# --- categories -------------------------------------------------------------------------------------------------------


def _raw_columns(value: Value, name: str) -> tuple[RawColumn, ...]:
    if not isinstance(value, Raw):
        raise CannotCompile(f"`{name}` of numbers that another step made has no compiled form yet.")
    return value.columns


@TRANSFORMERS.add(OneHotEncoder)
def _one_hot(builder: Builder, encoder: OneHotEncoder, value: Value) -> Block:
    parts = []
    for at, column in enumerate(_raw_columns(value, "OneHotEncoder")):
        categories = [plain_scalar(category) for category in encoder.categories_[at]]
        places, width = _one_hot_places(encoder, at, len(categories))
        codes = builder.codes(column, categories, refuse_unknown=encoder.handle_unknown == "error")
        if encoder.handle_unknown == "infrequent_if_exist" and encoder.infrequent_categories_[at] is not None:
            codes = _unknown_as_infrequent(builder, encoder, at, codes, len(categories))
        if width:
            parts.append(builder.step("one_hot", width, inputs=[codes], settings={"places": places, "width": width}))
    if not parts:
        raise CannotCompile("`OneHotEncoder` makes no columns.")
    return builder.join(parts)


def _one_hot_places(encoder: OneHotEncoder, at: int, n_categories: int) -> tuple[list[int], int]:
    """The output column of each category, −1 where it has none, and how many columns there are."""
    mappings = getattr(encoder, "_default_to_infrequent_mappings", None)
    grouped = mappings[at] if mappings is not None else None
    places = list(range(n_categories)) if grouped is None else [int(place) for place in grouped]
    width = max(places) + 1
    dropped = None if encoder.drop_idx_ is None else encoder.drop_idx_[at]
    if dropped is not None:
        # `drop_idx_` counts categories as fitted; what leaves is the column they were grouped into.
        gone = places[int(dropped)]
        places = [-1 if place == gone else place - (place > gone) for place in places]
        width -= 1
    return places, width


def _unknown_as_infrequent(builder: Builder, encoder: OneHotEncoder, at: int, codes: Block, n_categories: int) -> Block:
    """An unknown value counts as the first of the infrequent ones."""
    first = [plain_scalar(category) for category in encoder.categories_[at]].index(
        plain_scalar(encoder.infrequent_categories_[at][0])
    )
    table = np.array([[float(code)] for code in [*range(n_categories), first]])
    return builder.step("lookup", 1, inputs=[codes], arrays={"table": table})


@TRANSFORMERS.add(OrdinalEncoder)
def _ordinal(builder: Builder, encoder: OrdinalEncoder, value: Value) -> Block:
    parts = []
    grouped = getattr(encoder, "_default_to_infrequent_mappings", None)
    if grouped is not None and any(mapping is not None for mapping in grouped):
        raise CannotCompile("`OrdinalEncoder` with infrequent categories has no compiled form yet.")
    unknown = encoder.unknown_value if encoder.handle_unknown == "use_encoded_value" else np.nan
    for column, fitted in zip(_raw_columns(value, "OrdinalEncoder"), encoder.categories_, strict=True):
        categories = [plain_scalar(category) for category in fitted]
        values = [
            float(encoder.encoded_missing_value) if category is None else float(at)
            for at, category in enumerate(categories)
        ]
        table = np.array([[item] for item in [*values, float(unknown)]])
        codes = builder.codes(column, categories, refuse_unknown=encoder.handle_unknown == "error")
        parts.append(builder.step("lookup", 1, inputs=[codes], arrays={"table": table}))
    return builder.join(parts)
