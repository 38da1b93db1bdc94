"""Targets that were transformed before a regressor learned them, and how to come back from there."""

from typing import Any

import numpy as np
from sklearn.compose import TransformedTargetRegressor
from sklearn.pipeline import Pipeline
from sklearn.preprocessing import (
    FunctionTransformer,
    MaxAbsScaler,
    MinMaxScaler,
    PowerTransformer,
    QuantileTransformer,
    RobustScaler,
    StandardScaler,
)

from ....plan.building import Block, Builder, CannotCompile
from .registry import Value, Wanted, compile_model, head
from .scaling import FUNCTIONS

__all__: list[str] = []


@head(TransformedTargetRegressor)
def _transformed_target(builder: Builder, model: TransformedTargetRegressor, value: Value, wanted: Wanted) -> Block:
    return _undone(builder, model.transformer_, compile_model(builder, model.regressor_, value, "numbers"))


def _undone(builder: Builder, transform: Any, block: Block) -> Block:
    """The block as it was before `transform`."""
    kind = type(transform)
    if kind is Pipeline:
        for _, step in reversed(transform.steps):
            block = _undone(builder, step, block)
        return block
    if kind is FunctionTransformer:
        return _function_undone(builder, transform, block)
    if kind in (StandardScaler, RobustScaler):
        is_standard = kind is StandardScaler
        if transform.with_std if is_standard else transform.with_scaling:
            block = builder.vector("multiply", block, transform.scale_)
        if transform.with_mean if is_standard else transform.with_centering:
            block = builder.vector("add", block, transform.mean_ if is_standard else transform.center_)
        return block
    if kind is MinMaxScaler and not transform.clip:
        return builder.vector("divide", builder.vector("subtract", block, transform.min_), transform.scale_)
    if kind is MaxAbsScaler:
        return builder.vector("multiply", block, transform.scale_)
    if kind is PowerTransformer:
        if transform.standardize:
            block = _undone(builder, transform._scaler, block)
        op = "un_yeo_johnson" if transform.method == "yeo-johnson" else "un_box_cox"
        return builder.vector(op, block, transform.lambdas_)
    if kind is QuantileTransformer:
        return _quantiles_undone(builder, transform, block)
    raise CannotCompile(f"The target's `{kind.__name__}` has no compiled inverse yet.")


def _function_undone(builder: Builder, transform: FunctionTransformer, block: Block) -> Block:
    function = transform.inverse_func
    if function is None:
        return block
    if function not in FUNCTIONS or transform.inv_kw_args:
        name = getattr(function, "__name__", function)
        raise CannotCompile(f"The target's inverse `{name}` is no function that is known here.")
    return builder.each(FUNCTIONS[function], block)


def _quantiles_undone(builder: Builder, transform: QuantileTransformer, block: Block) -> Block:
    if block.width != 1:
        raise CannotCompile("Quantiles of several targets have no compiled inverse yet.")
    if transform.output_distribution == "normal":
        block = builder.each("normal_share", block)
    arrays = {"x": np.asarray(transform.references_), "y": np.asarray(transform.quantiles_[:, 0])}
    return builder.step("interpolated", 1, inputs=[block], arrays=arrays)
