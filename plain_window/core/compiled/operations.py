"""What each step of a plan does, on blocks of shape (n_rows, width).

An operation has two sides: `width` says how wide its result is and raises if its parts do not fit together (called
once, when a plan is read); `run` computes it (called for each batch, trusting what was checked).
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from . import kernels
from .plan import TREE_ARRAYS

__all__ = ["OPERATIONS", "Operation", "ValueNotKnown"]

Blocks = list[np.ndarray]
Arrays = Mapping[str, np.ndarray]
Settings = Mapping[str, Any]
Columns = Mapping[str, Sequence[Any]]


class ValueNotKnown(Exception):
    """A value that is not among a column's categories, where the original refuses such a row too."""


@dataclass(frozen=True)
class Operation:
    """The two sides of an operation."""

    width: Callable[[list[int], Arrays, Settings], int]
    run: Callable[[Blocks, Arrays, Settings, Columns], np.ndarray]
    # Once, when a plan is made ready: its arrays in the form that `run` wants.
    prepare: Callable[[Arrays], Arrays] = lambda arrays: arrays


OPERATIONS: dict[str, Operation] = {}


def _operation(
    name: str,
    width: Callable[[list[int], Arrays, Settings], int],
    prepare: Callable[[Arrays], Arrays] = lambda arrays: arrays,
):
    def register(run: Callable[[Blocks, Arrays, Settings, Columns], np.ndarray]):
        OPERATIONS[name] = Operation(width, run, prepare)
        return run

    return register


def _need(holds: bool, what: str) -> None:
    if not holds:
        raise ValueError(what)


# --- from raw columns -------------------------------------------------------------------------------------------------


@_operation("numbers", lambda widths, arrays, settings: len(settings["columns"]))
def _numbers(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Columns of numbers side by side; a missing value becomes NaN, yes and no become 1 and 0."""
    names = settings["columns"]
    out = np.empty((len(columns[names[0]]), len(names)))
    for at, name in enumerate(names):
        out[:, at] = columns[name]
    return out


def _codes_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    _need(len(settings["columns"]) == 1, "one column is looked up at a time")
    _need(isinstance(settings["categories"], list), "categories must be a list")
    return 1


@_operation("codes", _codes_width)
def _codes(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Each value's place in the list of categories; NaN for one that is not in it, or an error if that is refused.

    `None` in the list stands for a missing value.
    """
    places = {category: float(at) for at, category in enumerate(settings["categories"])}
    values = columns[settings["columns"][0]]
    found = [places.get(None if value is None or value != value else value, np.nan) for value in values]
    codes = np.array(found, dtype="float64").reshape(-1, 1)
    if settings.get("refuse_unknown") and np.isnan(codes).any():
        stranger = values[int(np.argmax(np.isnan(codes[:, 0])))]
        name = settings["columns"][0]
        raise ValueNotKnown(
            f"The model does not know the value {stranger!r} of `{name}`. It knows {settings['categories'][:8]}."
        )
    return codes


# --- from blocks to blocks --------------------------------------------------------------------------------------------


@_operation("join", lambda widths, arrays, settings: sum(widths))
def _join(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    return np.concatenate(blocks, axis=1)


def _take_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    _need(all(0 <= at < widths[0] for at in settings["places"]), "a place outside the block")
    return len(settings["places"])


@_operation("take", _take_width)
def _take(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    return np.ascontiguousarray(blocks[0][:, settings["places"]])


def _one_hot_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    width, places = int(settings["width"]), settings["places"]
    _need(widths == [1] and all(-1 <= at < width for at in places), "a place outside the block")
    return width


@_operation("one_hot", _one_hot_width)
def _one_hot(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """1 in the column that `places` gives for the code, 0 elsewhere; −1, or a code that is NaN, gives only zeros."""
    # One place more, at the end, for the code that is NaN: it has none.
    places = np.array([*settings["places"], -1])
    codes = blocks[0][:, 0]
    at = places[np.where(np.isnan(codes), len(places) - 1, codes).astype("int64")]
    out = np.zeros((len(codes), int(settings["width"])))
    rows = np.flatnonzero(at >= 0)
    out[rows, at[rows]] = 1.0
    return out


def _lookup_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    _need(widths == [1] and arrays["table"].ndim == 2, "a lookup wants one column of codes and a table")
    return int(arrays["table"].shape[1])


@_operation("lookup", _lookup_width)
def _lookup(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """The row of `table` for each code; the last row for a code that is NaN."""
    table = arrays["table"]
    codes = blocks[0][:, 0]
    rows = np.where(np.isnan(codes), len(table) - 1, codes).astype("int64")
    return table[rows]


def _vector_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    _need(len(widths) == 1 and arrays["vector"].shape == (widths[0],), "the vector does not fit the block")
    return widths[0]


def _arithmetic(name: str, compute: Callable[[np.ndarray, np.ndarray], np.ndarray]) -> None:
    @_operation(name, _vector_width)
    def run(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
        return compute(blocks[0], arrays["vector"])


# Kept apart, not folded into one scale and shift: the results must have the very digits of the original.
_arithmetic("add", np.add)
_arithmetic("subtract", np.subtract)
_arithmetic("multiply", np.multiply)
_arithmetic("divide", np.divide)
_arithmetic("at_least", np.maximum)
_arithmetic("at_most", np.minimum)
_arithmetic("fill", lambda block, vector: np.where(np.isnan(block), vector, block))


def _same_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    _need(len(widths) == 1, "one block is wanted")
    return widths[0]


def _elementwise(name: str, compute: Callable[[np.ndarray], np.ndarray]) -> None:
    @_operation(name, _same_width)
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
_elementwise("sqrt", np.sqrt)
_elementwise("square", np.square)
_elementwise("absolute", np.abs)
_elementwise("tanh", np.tanh)
_elementwise("sigmoid", _sigmoid)
_elementwise("softmax", _softmax)
_elementwise("share", lambda block: block / block.sum(axis=1, keepdims=True))
_elementwise("share_l2", lambda block: block / _lengths(np.sqrt((block**2).sum(axis=1))))
_elementwise("share_l1", lambda block: block / _lengths(np.abs(block).sum(axis=1)))
_elementwise("share_max", lambda block: block / _lengths(np.abs(block).max(axis=1)))
_elementwise("largest", lambda block: (np.arange(block.shape[1]) == block.argmax(axis=1)[:, None]).astype("float64"))


def _lengths(lengths: np.ndarray) -> np.ndarray:
    """A row of zeros stays one."""
    return np.where(lengths == 0, 1.0, lengths)[:, None]


def _column_only(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    _need(widths == [1], "one column is wanted")
    return 2


@_operation("with_complement", _column_only)
def _with_complement(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """(1 − p, p) for a column of p."""
    return np.concatenate([1 - blocks[0], blocks[0]], axis=1)


@_operation("sign_class", _column_only)
def _sign_class(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """1 at the first of two classes for a score at most 0, at the second above."""
    above = (blocks[0] > 0).astype("float64")
    return np.concatenate([1 - above, above], axis=1)


def _matrix_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    weights, offset = arrays["weights"], arrays["offset"]
    _need(weights.ndim == 2 and weights.shape[0] == widths[0], "the weights do not fit the block")
    _need(offset.shape == (weights.shape[1],), "the offset does not fit the weights")
    return int(weights.shape[1])


@_operation("linear", _matrix_width)
def _linear(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    return blocks[0] @ arrays["weights"] + arrays["offset"]


# --- trees ------------------------------------------------------------------------------------------------------------


def _check_trees(width: int, arrays: Arrays, n_leaves: int) -> None:
    for part, dtype in TREE_ARRAYS.items():
        _need(arrays[part].ndim == 1 and str(arrays[part].dtype) == dtype, f"`{part}` must be a list of {dtype}")
    feature, left = arrays["feature"], arrays["left"]
    n_nodes = feature.size
    same = all(arrays[part].size == n_nodes for part in TREE_ARRAYS if part != "roots")
    _need(same and n_nodes > 0, "the nodes' arrays differ in length")
    _need(bool(((arrays["roots"] >= 0) & (arrays["roots"] < n_nodes)).all()), "a tree starts outside the nodes")
    is_leaf = feature < 0
    _need(bool((feature < min(width, kernels.MISSING_LEFT)).all()), "a node asks for a feature that is not there")
    _need(bool(((left[is_leaf] >= 0) & (left[is_leaf] < n_leaves)).all()), "a leaf has no value")
    # Children stand behind their parent: a walk goes forward only, and so ends.
    at = np.flatnonzero(~is_leaf)
    _need(bool(((left[at] > at) & (left[at] < n_nodes - 1)).all()), "a node leads backwards or out of the nodes")


def _packed(arrays: Arrays) -> Arrays:
    """The nodes as the kernels want them: all of a node in one place."""
    nodes = np.empty(arrays["feature"].size, dtype=kernels.NODE)
    nodes["threshold"], nodes["left"] = arrays["threshold"], arrays["left"]
    flag = np.where(arrays["missing_left"] > 0, kernels.MISSING_LEFT, 0).astype("int32")
    nodes["feature"] = np.where(arrays["feature"] < 0, -1, arrays["feature"] | flag)
    kept = {part: array for part, array in arrays.items() if part not in TREE_ARRAYS or part == "roots"}
    return {**kept, "nodes": nodes}


def _forest_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    values = arrays["values"]
    _need(values.ndim == 2 and str(values.dtype) == "float64", "leaf values must be a table of float64")
    _check_trees(widths[0], arrays, len(values))
    return int(values.shape[1])


@_operation("forest", _forest_width, _packed)
def _forest(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """The mean of the trees' leaf values: summed tree after tree, then divided."""
    out = np.zeros((len(blocks[0]), arrays["values"].shape[1]))
    kernels.add_leaf_rows(np.ascontiguousarray(blocks[0]), arrays["roots"], arrays["nodes"], arrays["values"], out)
    out /= arrays["roots"].size
    return out


def _boosted_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    values, outputs, start = arrays["values"], arrays["tree_output"], arrays["start"]
    _need(values.ndim == 1 and str(values.dtype) == "float64", "leaf values must be a list of float64")
    _need(str(outputs.dtype) == "int32" and outputs.shape == arrays["roots"].shape, "each tree wants one output")
    _need(start.ndim == 1 and bool(((outputs >= 0) & (outputs < start.size)).all()), "a tree has no output")
    _check_trees(widths[0], arrays, values.size)
    float(settings["rate"])
    return int(start.size)


@_operation("boosted", _boosted_width, _packed)
def _boosted(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Where it starts, plus each tree's leaf value at the learning rate, tree after tree."""
    out = np.tile(arrays["start"].astype("float64"), (len(blocks[0]), 1))
    block, rate = np.ascontiguousarray(blocks[0]), float(settings["rate"])
    roots, nodes, outputs = arrays["roots"], arrays["nodes"], arrays["tree_output"]
    kernels.add_leaf_values(block, roots, nodes, arrays["values"], outputs, rate, out)
    return out
