"""Scaling, projecting, selecting, known functions."""

from typing import Any

import numpy as np
from sklearn.decomposition import PCA, TruncatedSVD
from sklearn.feature_selection import (
    RFE,
    RFECV,
    SelectFdr,
    SelectFpr,
    SelectFromModel,
    SelectFwe,
    SelectKBest,
    SelectPercentile,
    SequentialFeatureSelector,
    VarianceThreshold,
)
from sklearn.preprocessing import (
    Binarizer,
    FunctionTransformer,
    MaxAbsScaler,
    MinMaxScaler,
    Normalizer,
    RobustScaler,
    StandardScaler,
)

from ....plan.building import Block, Builder, CannotCompile, Raw
from .registry import Value, transformer

# What a FunctionTransformer may be made of.
FUNCTIONS = {
    np.log: "log",
    np.log1p: "log1p",
    np.log2: "log2",
    np.log10: "log10",
    np.exp: "exp",
    np.expm1: "expm1",
    np.sqrt: "sqrt",
    np.cbrt: "cbrt",
    np.square: "square",
    np.abs: "absolute",
    np.negative: "negative",
    np.reciprocal: "reciprocal",
    np.sin: "sin",
    np.cos: "cos",
    np.tan: "tan",
    np.tanh: "tanh",
    np.arctan: "arctan",
    np.floor: "floor",
    np.ceil: "ceil",
    np.rint: "rint",
    np.sign: "sign",
}

__all__ = ["FUNCTIONS"]


@transformer(StandardScaler)
def _standard(builder: Builder, scaler: StandardScaler, value: Value) -> Block:
    block = builder.numbers(value)
    if scaler.with_mean:
        block = builder.vector("subtract", block, scaler.mean_)
    return builder.vector("divide", block, scaler.scale_) if scaler.with_std else block


@transformer(MinMaxScaler)
def _min_max(builder: Builder, scaler: MinMaxScaler, value: Value) -> Block:
    block = builder.vector("add", builder.vector("multiply", builder.numbers(value), scaler.scale_), scaler.min_)
    if scaler.clip:
        low, high = scaler.feature_range
        block = builder.vector("at_most", builder.vector("at_least", block, low), high)
    return block


@transformer(RobustScaler)
def _robust(builder: Builder, scaler: RobustScaler, value: Value) -> Block:
    block = builder.numbers(value)
    if scaler.with_centering:
        block = builder.vector("subtract", block, scaler.center_)
    return builder.vector("divide", block, scaler.scale_) if scaler.with_scaling else block


@transformer(MaxAbsScaler)
def _max_abs(builder: Builder, scaler: MaxAbsScaler, value: Value) -> Block:
    return builder.vector("divide", builder.numbers(value), scaler.scale_)


@transformer(Normalizer)
def _normalizer(builder: Builder, normalizer: Normalizer, value: Value) -> Block:
    return builder.each(f"share_{normalizer.norm}", builder.numbers(value))


@transformer(FunctionTransformer)
def _function(builder: Builder, transformer: FunctionTransformer, value: Value) -> Value:
    if transformer.func is None:
        return value
    if transformer.func not in FUNCTIONS or transformer.kw_args:
        name = getattr(transformer.func, "__name__", transformer.func)
        raise CannotCompile(f"`FunctionTransformer` with `{name}` has no compiled form: it is no known NumPy function.")
    return builder.each(FUNCTIONS[transformer.func], builder.numbers(value))


@transformer(PCA)
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


@transformer(TruncatedSVD)
def _svd(builder: Builder, svd: TruncatedSVD, value: Value) -> Block:
    weights = np.ascontiguousarray(svd.components_.T, dtype="float64")
    arrays = {"weights": weights, "offset": np.zeros(weights.shape[1])}
    return builder.step("linear", weights.shape[1], inputs=[builder.numbers(value)], arrays=arrays)


@transformer(Binarizer)
def _binarizer(builder: Builder, binarizer: Binarizer, value: Value) -> Block:
    return builder.vector("above", builder.numbers(value), binarizer.threshold)


@transformer(
    RFE,
    RFECV,
    SelectFdr,
    SelectFpr,
    SelectFromModel,
    SelectFwe,
    SelectKBest,
    SelectPercentile,
    SequentialFeatureSelector,
    VarianceThreshold,
)
def _selection(builder: Builder, selector: Any, value: Value) -> Value:
    kept = np.flatnonzero(selector.get_support())
    if isinstance(value, Raw):
        return Raw(tuple(value.columns[at] for at in kept))
    return builder.step("take", len(kept), inputs=[value], settings={"places": kept.tolist()})
