"""Products, splines, bins, quantiles and powers of columns."""

import math
from typing import Any

import numpy as np
from sklearn.preprocessing import (
    KBinsDiscretizer,
    PolynomialFeatures,
    PowerTransformer,
    QuantileTransformer,
    SplineTransformer,
)

from ....plan.building import Block, Builder, CannotCompile
from .registry import Value, compile_transformer, transformer

__all__: list[str] = []


@transformer(PolynomialFeatures)
def _products(builder: Builder, polynomial: PolynomialFeatures, value: Value) -> Block:
    powers = np.ascontiguousarray(polynomial.powers_, dtype="int64")
    return builder.step("products", len(powers), inputs=[builder.numbers(value)], arrays={"powers": powers})


@transformer(KBinsDiscretizer)
def _bins(builder: Builder, bins: KBinsDiscretizer, value: Value) -> Value:
    block = builder.numbers(value)
    parts = [
        builder.step("bins", 1, inputs=[builder.column(block, at)], arrays={"edges": np.asarray(edges[1:-1])})
        for at, edges in enumerate(bins.bin_edges_)
    ]
    binned = builder.join(parts)
    return binned if bins.encode == "ordinal" else compile_transformer(builder, bins._encoder, binned)


@transformer(QuantileTransformer)
def _quantiles(builder: Builder, transform: QuantileTransformer, value: Value) -> Block:
    block = builder.numbers(value)
    settings = {"distribution": transform.output_distribution}
    parts = []
    for at in range(block.width):
        own = {"quantiles": transform.quantiles_[:, at], "references": transform.references_}
        parts.append(builder.step("quantiles", 1, inputs=[builder.column(block, at)], arrays=own, settings=settings))
    return builder.join(parts)


@transformer(PowerTransformer)
def _power(builder: Builder, power: PowerTransformer, value: Value) -> Block:
    op = "yeo_johnson" if power.method == "yeo-johnson" else "box_cox"
    block = builder.vector(op, builder.numbers(value), power.lambdas_)
    return builder.numbers(compile_transformer(builder, power._scaler, block)) if power.standardize else block


@transformer(SplineTransformer)
def _splines(builder: Builder, splines: SplineTransformer, value: Value) -> Block:
    block = builder.numbers(value)
    parts = []
    for at, spline in enumerate(splines.bsplines_):
        breaks, coefficients, settings = _pieces(spline, splines.extrapolation, splines.degree)
        if not splines.include_bias:
            coefficients = coefficients[:, :, :-1]
        arrays = {"breaks": breaks, "coefficients": np.ascontiguousarray(coefficients)}
        column = builder.column(block, at)
        parts.append(builder.step("pieces", coefficients.shape[2], inputs=[column], arrays=arrays, settings=settings))
    return builder.join(parts)


def _pieces(spline: Any, extrapolation: str, degree: int) -> tuple[np.ndarray, np.ndarray, dict[str, float]]:
    """The basis functions of one column as polynomials in pieces: where each starts, and its coefficients."""
    knots = spline.t
    low, high = float(knots[degree]), float(knots[-degree - 1])
    # Knots outside the range only shape what is inside; a repeated one starts no piece.
    breaks = np.unique(knots[(knots >= low) & (knots < high)])
    powers = range(degree, -1, -1)
    coefficients = np.stack([spline(breaks, nu=power) / math.factorial(power) for power in powers], axis=1)
    if extrapolation == "periodic":
        n = knots.size - spline.k - 1
        start = float(knots[spline.k])
        return breaks, coefficients, {"start": start, "period": float(knots[n]) - start}
    if extrapolation in ("constant", "linear"):
        below, above = (_continued(spline, at, degree + 1, extrapolation) for at in (low, high))
        # The piece below is counted from `low`, where it ends: its break must be there too.
        breaks = np.concatenate([[low], breaks, [np.nextafter(high, np.inf)]])
        coefficients = np.concatenate([below[None], coefficients, above[None]])
    return breaks, coefficients, {}


def _continued(spline: Any, at: float, n_powers: int, extrapolation: str) -> np.ndarray:
    """The line that goes on beyond the end `at`, as coefficients of shape (n_powers, n_splines)."""
    values = np.asarray(spline(at), dtype="float64")
    line = np.zeros((max(n_powers, 2), values.size))
    line[-1] = values
    if extrapolation == "linear":
        line[-2] = np.asarray(spline(at, nu=1), dtype="float64")
    if line.shape[0] != n_powers:
        raise CannotCompile("`SplineTransformer` of degree 0 has no compiled form yet.")
    return line
