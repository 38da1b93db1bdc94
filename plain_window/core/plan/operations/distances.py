"""Likeness to rows that were learned: kernel machines, nearest neighbours, bell curves around classes."""

import numpy as np

from .registry import Arrays, Blocks, Columns, Settings, need, operation

__all__: list[str] = []

KERNELS = ("linear", "poly", "rbf", "sigmoid")
WEIGHTS = ("uniform", "distance")


def _kernel_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    rows = arrays["rows"]
    need(rows.ndim == 2 and widths == [rows.shape[1]], "the learned rows do not fit the block")
    need(settings["kernel"] in KERNELS, "no such kernel")
    float(settings["gamma"]), float(settings["coef0"]), float(settings["degree"])
    return int(rows.shape[0])


@operation("kernel", _kernel_width, scratch=lambda arrays, settings: 2 * len(arrays["rows"]))
def _kernel(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """The likeness of each row to each learned row."""
    block, rows = blocks[0], arrays["rows"]
    gamma, shift = settings["gamma"], settings["coef0"]
    if settings["kernel"] == "rbf":
        return np.exp(-gamma * _squared_distances(block, rows))
    product = block @ rows.T
    if settings["kernel"] == "linear":
        return product
    if settings["kernel"] == "poly":
        return (gamma * product + shift) ** settings["degree"]
    return np.tanh(gamma * product + shift)


def _squared_distances(block: np.ndarray, rows: np.ndarray) -> np.ndarray:
    """Of shape (n_rows, n_learned). Differences first: the shorter way by products loses digits where rows are near."""
    total = np.zeros((len(block), len(rows)))
    for column in range(block.shape[1]):
        total += np.square(block[:, column, None] - rows[None, :, column])
    return total


def _neighbours_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    rows, values = arrays["rows"], arrays["values"]
    need(rows.ndim == 2 and widths == [rows.shape[1]], "the learned rows do not fit the block")
    need(values.ndim == 2 and len(values) == len(rows), "each learned row wants its values")
    need(1 <= int(settings["n_neighbours"]) <= len(rows), "more neighbours than learned rows")
    need(settings["weights"] in WEIGHTS and float(settings["power"]) > 0, "no such weights or distance")
    return int(values.shape[1])


@operation("neighbours", _neighbours_width, scratch=lambda arrays, settings: 3 * len(arrays["rows"]))
def _neighbours(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """The mean of the values of the nearest learned rows, each alike or by one over its distance."""
    distances = _minkowski(blocks[0], arrays["rows"], float(settings["power"]))
    k = int(settings["n_neighbours"])
    # Stable: of rows as far away the ones learned first count.
    nearest = np.argsort(distances, axis=1, kind="stable")[:, :k]
    near_by = np.take_along_axis(distances, nearest, axis=1)
    weights = np.ones_like(near_by)
    if settings["weights"] == "distance":
        with np.errstate(divide="ignore"):
            weights = 1 / near_by
        # A row that was learned itself outweighs all others.
        met = np.isinf(weights)
        weights = np.where(met.any(axis=1, keepdims=True), met, weights).astype("float64")
    totals = (weights[:, :, None] * arrays["values"][nearest]).sum(axis=1)
    return totals / weights.sum(axis=1, keepdims=True)


def _minkowski(block: np.ndarray, rows: np.ndarray, power: float) -> np.ndarray:
    if power == 2:
        return np.sqrt(_squared_distances(block, rows))
    total = np.zeros((len(block), len(rows)))
    for column in range(block.shape[1]):
        apart = np.abs(block[:, column, None] - rows[None, :, column])
        total = np.maximum(total, apart) if np.isinf(power) else total + apart**power
    return total if power == 1 or np.isinf(power) else total ** (1 / power)


def _bells_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    means, variances, priors = arrays["means"], arrays["variances"], arrays["priors"]
    need(means.ndim == 2 and widths == [means.shape[1]], "the means do not fit the block")
    need(variances.shape == means.shape and priors.shape == (len(means),), "each class wants its spread and its share")
    return len(means)


@operation("bells", _bells_width)
def _bells(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """For each class the logarithm of its share times independent bell curves around its means."""
    means, variances = arrays["means"], arrays["variances"]
    out = np.empty((len(blocks[0]), len(means)))
    for at, (mean, variance) in enumerate(zip(means, variances, strict=True)):
        constant = -0.5 * np.sum(np.log(2.0 * np.pi * variance))
        out[:, at] = constant - 0.5 * np.sum((blocks[0] - mean) ** 2 / variance, axis=1)
    return out + np.log(arrays["priors"])
