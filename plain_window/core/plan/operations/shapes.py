"""Columns bent into shape: products, bins, pieces of polynomials, quantiles, powers."""

import numpy as np

from .normal import normal_cdf, normal_quantile
from .registry import (
    Arrays,
    Blocks,
    Columns,
    Settings,
    every_number,
    need,
    one_column,
    operation,
    same_width,
    vector_width,
)

__all__: list[str] = []

# As close to a bound as this counts as on it, and the bell curve ends there.
BOUND = 1e-7


def _products_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    powers = arrays["powers"]
    need(powers.ndim == 2 and powers.shape[1] == widths[0], "the powers do not fit the block")
    need(powers.dtype.kind in "iu" and bool(((powers >= 0) & (powers < 100)).all()), "powers are small whole numbers")
    return int(powers.shape[0])


@operation("products", _products_width)
def _products(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Each output column is the product of the input's columns, each to its power."""
    block, powers = blocks[0], arrays["powers"]
    out = np.ones((len(block), len(powers)))
    for at, own in enumerate(powers):
        for column in np.flatnonzero(own):
            for _ in range(own[column]):
                out[:, at] *= block[:, column]
    return out


def _bins_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    edges = arrays["edges"]
    need(edges.ndim == 1 and bool((np.diff(edges) >= 0).all()), "edges must ascend")
    return one_column(widths, arrays, settings)


@operation("bins", _bins_width, effort=every_number)
def _bins(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """How many of the edges a value has reached."""
    return np.searchsorted(arrays["edges"], blocks[0][:, 0], side="right").astype("float64")[:, None]


def _pieces_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    breaks, coefficients = arrays["breaks"], arrays["coefficients"]
    need(widths == [1] and coefficients.ndim == 3, "one column and a table of coefficients are wanted")
    need(breaks.ndim == 1 and bool((np.diff(breaks) >= 0).all()), "breaks must ascend")
    need(coefficients.shape[0] == breaks.size > 0, "each break starts one piece")
    return int(coefficients.shape[2])


@operation("pieces", _pieces_width)
def _pieces(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Polynomials in pieces; piece i holds from `breaks[i]` up to the next, counted from `breaks[i]`.

    `coefficients` has shape (n_pieces, degree + 1, width), the highest power first. Below the first break the first
    piece goes on. With a `period`, values are first moved into the first one. Missing values give zeros.
    """
    values, breaks, coefficients = blocks[0][:, 0], arrays["breaks"], arrays["coefficients"]
    missing = np.isnan(values)
    values = np.where(missing, breaks[0], values)
    if settings.get("period"):
        values = settings["start"] + (values - settings["start"]) % settings["period"]
    piece = np.clip(np.searchsorted(breaks, values, side="right") - 1, 0, breaks.size - 1)
    offset = (values - breaks[piece])[:, None]
    own = coefficients[piece]
    out = own[:, 0]
    for power in range(1, own.shape[1]):
        out = out * offset + own[:, power]
    return np.where(missing[:, None], 0.0, out)


def _quantiles_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    quantiles, references = arrays["quantiles"], arrays["references"]
    need(quantiles.shape == references.shape and quantiles.ndim == 1 and quantiles.size > 0, "quantiles do not fit")
    need(settings["distribution"] in ("uniform", "normal"), "no such distribution")
    return one_column(widths, arrays, settings)


@operation("quantiles", _quantiles_width)
def _quantiles(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """A value's rank among the quantiles, from 0 to 1, or that rank on the bell curve."""
    values, quantiles, references = blocks[0][:, 0], arrays["quantiles"], arrays["references"]
    # From below and from above, and the middle of the two: quantiles may repeat.
    ranks = 0.5 * (np.interp(values, quantiles, references) - np.interp(-values, -quantiles[::-1], -references[::-1]))
    is_normal = settings["distribution"] == "normal"
    slack = BOUND if is_normal else 0.0
    ranks[values + slack > quantiles[-1] if is_normal else values == quantiles[-1]] = 1.0
    ranks[values - slack < quantiles[0] if is_normal else values == quantiles[0]] = 0.0
    ranks[np.isnan(values)] = np.nan
    if is_normal:
        edge = BOUND - np.spacing(1)
        low, high = normal_quantile(np.array([edge, 1 - edge]))
        ranks = np.clip(normal_quantile(ranks), low, high)
    return ranks[:, None]


@operation("yeo_johnson", vector_width, effort=every_number)
def _yeo_johnson(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Yeo and Johnson's power transform [1]_, with one exponent a column.

    References
    ----------
    .. [1] I.-K. Yeo and R. A. Johnson, "A new family of power transformations to improve normality or symmetry",
           Biometrika 87(4), 2000, equation 2.1.
    """
    block, out = blocks[0], np.empty_like(blocks[0])
    for column, power in enumerate(arrays["vector"]):
        x = block[:, column]
        grown, shrunk = np.log1p(np.maximum(x, 0)), np.log1p(np.maximum(-x, 0))
        above = np.expm1(power * grown) / power if abs(power) >= np.spacing(1.0) else grown
        rest = 2 - power
        below = -np.expm1(rest * shrunk) / rest if abs(rest) > np.spacing(1.0) else -shrunk
        out[:, column] = np.where(np.isnan(x), np.nan, np.where(x >= 0, above, below))
    return out


@operation("box_cox", vector_width, effort=every_number)
def _box_cox(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """(x ** power − 1) / power, or log x, with one exponent a column."""
    logs, powers = np.log(blocks[0]), arrays["vector"]
    safe = np.where(powers == 0, 1.0, powers)
    return np.where(powers == 0, logs, np.expm1(safe * logs) / safe)


def _interpolated_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    x, y = arrays["x"], arrays["y"]
    need(x.ndim == 1 and x.shape == y.shape and x.size > 0, "as many x as y are wanted")
    need(bool((np.diff(x) >= 0).all()), "x must ascend")
    return one_column(widths, arrays, settings)


@operation("interpolated", _interpolated_width, effort=every_number)
def _interpolated(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Straight lines from point to point, level beyond the ends."""
    return np.asarray(np.interp(blocks[0], arrays["x"], arrays["y"]))


@operation("normal_share", same_width)
def _normal_share(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """The bell curve's share below each number."""
    return normal_cdf(blocks[0])


@operation("un_yeo_johnson", vector_width, effort=every_number)
def _un_yeo_johnson(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """What `yeo_johnson` made these numbers of."""
    block, out = blocks[0], np.empty_like(blocks[0])
    with np.errstate(invalid="ignore"):
        for column, power in enumerate(arrays["vector"]):
            x, rest = block[:, column], 2 - power
            is_log = abs(power) < np.spacing(1.0)
            above = np.expm1(x) if is_log else np.power(x * power + 1, 1 / power) - 1
            below = 1 - np.power(-rest * x + 1, 1 / rest) if abs(rest) > np.spacing(1.0) else -np.expm1(-x)
            out[:, column] = np.where(x >= 0, above, below)
    return out


@operation("un_box_cox", vector_width, effort=every_number)
def _un_box_cox(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """What `box_cox` made these numbers of."""
    block, powers = blocks[0], arrays["vector"]
    safe = np.where(powers == 0, 1.0, powers)
    return np.where(powers == 0, np.exp(block), np.exp(np.log1p(block * safe) / safe))
