"""Trees: single, averaged, added up."""

import numpy as np

from .. import kernels
from ..machine_code import fixed
from ..plan import SET_ARRAYS, TREE_ARRAYS
from .registry import Arrays, Blocks, Columns, Settings, need, operation

__all__: list[str] = []

# Deeper trees than this are not measured level by level; a walk then passes every node, for all that is known.
MOST_LEVELS = 64


def _check_trees(width: int, arrays: Arrays, n_leaves: int) -> None:
    for part, dtype in TREE_ARRAYS.items():
        need(arrays[part].ndim == 1 and str(arrays[part].dtype) == dtype, f"`{part}` must be a list of {dtype}")
    feature, left = arrays["feature"], arrays["left"]
    n_nodes = feature.size
    same = all(arrays[part].size == n_nodes for part in TREE_ARRAYS if part != "roots")
    need(same and n_nodes > 0, "the nodes' arrays differ in length")
    need(bool(((arrays["roots"] >= 0) & (arrays["roots"] < n_nodes)).all()), "a tree starts outside the nodes")
    is_leaf = feature < 0
    need(bool((feature < min(width, kernels.BY_SET)).all()), "a node asks for a feature that is not there")
    need(bool(((left[is_leaf] >= 0) & (left[is_leaf] < n_leaves)).all()), "a leaf has no value")
    # Children stand behind their parent: a walk goes forward only, and so ends.
    at = np.flatnonzero(~is_leaf)
    need(bool(((left[at] > at) & (left[at] < n_nodes - 1)).all()), "a node leads backwards or out of the nodes")
    if any(part in arrays for part in SET_ARRAYS):
        _check_sets(arrays)


def _check_sets(arrays: Arrays) -> None:
    for part, dtype in SET_ARRAYS.items():
        need(arrays[part].ndim == 1 and str(arrays[part].dtype) == dtype, f"`{part}` must be a list of {dtype}")
    of_node, starts = arrays["set_of_node"], arrays["set_starts"]
    need(of_node.size == arrays["feature"].size, "each node wants its set, or −1")
    # Compared, not subtracted: a difference of 32 bits can come out positive by running over.
    need(starts.size >= 1 and starts[0] == 0 and bool((starts[1:] >= starts[:-1]).all()), "sets must ascend")
    need(starts[-1] == arrays["goes_left_sets"].size, "the sets do not fill their list")
    need(arrays["strangers_left"].size == starts.size - 1, "each set says where strangers go")
    need(bool((of_node < starts.size - 1).all()), "a node asks for a set that is not there")


def _walks(width: int, arrays: Arrays) -> int:
    """Steps from root to leaf in all trees, and what their leaves say."""
    feature, left = arrays["feature"], arrays["left"]
    at, depth = np.unique(arrays["roots"]), 0
    while at.size:
        depth += 1
        inner = at[feature[at] >= 0]
        at = np.unique(np.concatenate([left[inner], left[inner] + 1])) if depth < MOST_LEVELS else at[:0]
    per_tree = depth if depth < MOST_LEVELS else feature.size
    return int(arrays["roots"].size) * (per_tree + width)


def _packed(arrays: Arrays) -> Arrays:
    """The nodes as the kernels want them: all of a node in one place."""
    nodes = np.empty(arrays["feature"].size, dtype=kernels.NODE)
    nodes["threshold"], nodes["left"] = arrays["threshold"], arrays["left"]
    flag = np.where(arrays["missing_left"] > 0, kernels.MISSING_LEFT, 0).astype("int32")
    if "set_of_node" in arrays:
        by_set = arrays["set_of_node"] >= 0
        flag |= np.where(by_set, kernels.BY_SET, 0).astype("int32")
        nodes["threshold"] = np.where(by_set, arrays["set_of_node"], arrays["threshold"])
    nodes["feature"] = np.where(arrays["feature"] < 0, -1, arrays["feature"] | flag)
    dropped = {*TREE_ARRAYS, "set_of_node"} - {"roots"}
    kept = {part: array for part, array in arrays.items() if part not in dropped}
    return {**kept, "nodes": nodes}


def _forest_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    values = arrays["values"]
    need(values.ndim == 2 and str(values.dtype) == "float64", "leaf values must be a table of float64")
    _check_trees(widths[0], arrays, len(values))
    return int(values.shape[1])


def _forest_fixed(arrays: Arrays, settings: Settings) -> Settings:
    every = [*(arrays[part] for part in ("roots", "nodes", "values")), *_sets(arrays)]
    return {"fixed": [fixed(array) for array in every]}


@operation("forest", _forest_width, prepare=_packed, ready=_forest_fixed, effort=_walks)
def _forest(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """The mean of the trees' leaf values: summed tree after tree, then divided."""
    out = np.zeros((len(blocks[0]), arrays["values"].shape[1]))
    add = kernels.add_leaf_rows_by_sets if "set_starts" in arrays else kernels.add_leaf_rows
    kept = (settings if "fixed" in settings else _forest_fixed(arrays, settings))["fixed"]
    add(np.ascontiguousarray(blocks[0]), *kept, out)
    out /= arrays["roots"].size
    return out


def _boosted_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    values, outputs, start = arrays["values"], arrays["tree_output"], arrays["start"]
    need(values.ndim == 1 and str(values.dtype) == "float64", "leaf values must be a list of float64")
    need(str(outputs.dtype) == "int32" and outputs.shape == arrays["roots"].shape, "each tree wants one output")
    need(start.ndim == 1 and bool(((outputs >= 0) & (outputs < start.size)).all()), "a tree has no output")
    _check_trees(widths[0], arrays, values.size)
    float(settings["rate"])
    return int(start.size)


def _boosted_fixed(arrays: Arrays, settings: Settings) -> Settings:
    parts = ("roots", "nodes", "values", "tree_output")
    numbers = [float(settings["rate"]), bool(settings.get("is_single"))]
    return {"fixed": [*(fixed(arrays[part]) for part in parts), *numbers, *map(fixed, _sets(arrays))]}


@operation("boosted", _boosted_width, prepare=_packed, ready=_boosted_fixed, effort=_walks)
def _boosted(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Where it starts, plus each tree's leaf value at the learning rate, tree after tree."""
    out = np.tile(arrays["start"].astype("float64"), (len(blocks[0]), 1))
    add = kernels.add_leaf_values_by_sets if "set_starts" in arrays else kernels.add_leaf_values
    kept = (settings if "fixed" in settings else _boosted_fixed(arrays, settings))["fixed"]
    add(np.ascontiguousarray(blocks[0]), *kept, out)
    return out


def _sets(arrays: Arrays) -> list[np.ndarray]:
    """What trees that split by sets have besides; nothing for others."""
    return [arrays[part] for part in ("set_starts", "goes_left_sets", "strangers_left") if part in arrays]
