"""Filling gaps, and telling that there were some."""

from typing import Any

import numpy as np
from sklearn.impute import MissingIndicator, SimpleImputer

from ....plan.building import Block, Builder, CannotCompile, Raw, RawColumn, plain_scalar
from .registry import Value, transformer

__all__: list[str] = []


@transformer(SimpleImputer)
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


@transformer(MissingIndicator)
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
