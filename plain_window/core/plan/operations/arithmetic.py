"""Number by number, and row by row."""

from collections.abc import Callable

import numpy as np

from .registry import Arrays, Blocks, Columns, Settings, every_number, need, operation, same_width, vector_width
from .sparse import Sparse

__all__: list[str] = []

# What counts as zero where zeros stand for missing values.
TINY = 1e-35


def _arithmetic(name: str, compute: Callable[[np.ndarray, np.ndarray], np.ndarray]) -> None:
    @operation(name, vector_width, effort=every_number)
    def run(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
        return compute(blocks[0], arrays["vector"])


@operation("multiply", vector_width, takes_sparse=True, effort=every_number)
def _multiply(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray | Sparse:
    block, vector = blocks[0], arrays["vector"]
    if isinstance(block, Sparse):
        return block.with_data(block.data * vector[block.columns])
    return block * vector


# Kept apart, not folded into one scale and shift: the results must have the very digits of the original.
_arithmetic("add", np.add)
_arithmetic("subtract", np.subtract)
_arithmetic("divide", np.divide)
_arithmetic("at_least", np.maximum)
_arithmetic("at_most", np.minimum)
_arithmetic("power", np.power)
_arithmetic("above", lambda block, vector: (block > vector).astype("float64"))
# Where the vector says so, zeros stand for missing values.
_arithmetic("zero_as_missing", lambda block, vector: np.where((vector > 0) & (np.abs(block) <= TINY), np.nan, block))
_arithmetic("fill", lambda block, vector: np.where(np.isnan(block), vector, block))


def _elementwise(name: str, compute: Callable[[np.ndarray], np.ndarray]) -> None:
    @operation(name, same_width, effort=every_number)
    def run(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
        return compute(blocks[0])


def _sigmoid(block: np.ndarray) -> np.ndarray:
    # Split by sign so that neither side overflows.
    small = np.exp(-np.abs(block))
    return np.where(block >= 0, 1 / (1 + small), small / (1 + small))


def _softmax(block: np.ndarray) -> np.ndarray:
    exponents = np.exp(block - block.max(axis=1, keepdims=True))
    return exponents / exponents.sum(axis=1, keepdims=True)


_elementwise("float32", lambda block: block.astype("float32").astype("float64"))
_elementwise("is_missing", lambda block: np.isnan(block).astype("float64"))
_elementwise("exp", np.exp)
_elementwise("log1p", np.log1p)
_elementwise("expm1", np.expm1)
_elementwise("log", np.log)
_elementwise("log2", np.log2)
_elementwise("log10", np.log10)
_elementwise("sqrt", np.sqrt)
_elementwise("cbrt", np.cbrt)
_elementwise("square", np.square)
_elementwise("absolute", np.abs)
_elementwise("negative", np.negative)
_elementwise("reciprocal", np.reciprocal)
_elementwise("sin", np.sin)
_elementwise("cos", np.cos)
_elementwise("tan", np.tan)
_elementwise("tanh", np.tanh)
_elementwise("arctan", np.arctan)
_elementwise("floor", np.floor)
_elementwise("ceil", np.ceil)
_elementwise("rint", np.rint)
_elementwise("sign", np.sign)
_elementwise("signed_square", lambda block: np.sign(block) * np.square(block))
_elementwise("sigmoid", _sigmoid)
_elementwise("softmax", _softmax)
_elementwise("share", lambda block: block / block.sum(axis=1, keepdims=True))
_elementwise("share_or_even", lambda block: _share_or_even(block))
_elementwise("largest", lambda block: (np.arange(block.shape[1]) == block.argmax(axis=1)[:, None]).astype("float64"))


def _share_or_even(block: np.ndarray) -> np.ndarray:
    total = block.sum(axis=1, keepdims=True)
    return np.where(total == 0, 1 / block.shape[1], block / np.where(total == 0, 1.0, total))


# How long a row is, from its numbers, by each of the norms.
LENGTHS: dict[str, tuple[Callable[[np.ndarray], np.ndarray], Callable[[np.ndarray], np.ndarray]]] = {
    "share_l1": (np.abs, lambda total: total),
    "share_l2": (np.square, np.sqrt),
}


def _row_share(name: str) -> None:
    each, whole = LENGTHS[name]

    @operation(name, same_width, takes_sparse=True, effort=every_number)
    def run(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray | Sparse:
        block = blocks[0]
        if isinstance(block, Sparse):
            lengths = _lengths(whole(block.row_sums(each(block.data))))
            return block.with_data(block.data / lengths[block.rows])
        return block / _lengths(whole(each(block).sum(axis=1)))[:, None]


_row_share("share_l1")
_row_share("share_l2")
_elementwise("share_max", lambda block: block / _lengths(np.abs(block).max(axis=1))[:, None])


def _lengths(lengths: np.ndarray) -> np.ndarray:
    """A row of zeros stays one."""
    return np.where(lengths == 0, 1.0, lengths)


@operation("log_counts", same_width, takes_sparse=True)
def _log_counts(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray | Sparse:
    """1 + log(count), where there is any."""
    block = blocks[0]
    if isinstance(block, Sparse):
        return block.with_data(np.log(block.data) + 1)
    return np.where(block > 0, np.log(np.where(block > 0, block, 1.0)) + 1, 0.0)


def _sum_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    need(len(set(widths)) == 1 and arrays["weights"].shape == (len(widths),), "blocks of one width and a weight each")
    return widths[0]


@operation("sum", _sum_width, effort=every_number)
def _sum(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """The blocks, each times its weight, added up one after another."""
    total = np.zeros_like(blocks[0])
    for block, weight in zip(blocks, arrays["weights"], strict=True):
        total += weight * block
    return total


def _matrix_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    weights, offset = arrays["weights"], arrays["offset"]
    need(weights.ndim == 2 and weights.shape[0] == widths[0], "the weights do not fit the block")
    need(offset.shape == (weights.shape[1],), "the offset does not fit the weights")
    return int(weights.shape[1])


@operation("linear", _matrix_width, takes_sparse=True, effort=every_number)
def _linear(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    block, weights = blocks[0], arrays["weights"]
    if isinstance(block, Sparse):
        return block.row_sums(block.data[:, None] * weights[block.columns]) + arrays["offset"]
    return block @ weights + arrays["offset"]
