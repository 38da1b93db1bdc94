"""Trees of any library as the arrays a plan holds."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

__all__ = ["CategorySet", "Tree", "tree_arrays"]

DTYPES = {"feature": "int32", "threshold": "float64", "left": "int32", "missing_left": "uint8", "set_of_node": "int32"}


@dataclass(frozen=True)
class CategorySet:
    """Where the codes 0, 1, 2 … go, and where a code beyond them does."""

    goes_left: np.ndarray
    strangers_left: bool


@dataclass(frozen=True)
class Tree:
    """One tree's nodes, each array of shape (n_nodes,), parents before their children, the root first.

    At a leaf only `is_leaf` counts.
    """

    is_leaf: np.ndarray
    feature: np.ndarray
    threshold: np.ndarray
    left: np.ndarray
    right: np.ndarray
    missing_left: np.ndarray
    # For nodes that split by a set of categories, by node: which codes go left, and whether unknown ones do.
    sets: Mapping[int, CategorySet] = field(default_factory=dict)


def tree_arrays(trees: Sequence[Tree]) -> tuple[dict[str, np.ndarray], list[np.ndarray]]:
    """Nodes of all trees in one run, children side by side.

    Parameters
    ----------
    trees : sequence of Tree

    Returns
    -------
    arrays : dict of str to ndarray
        As `plan.TREE_ARRAYS` names them, and `plan.SET_ARRAYS` if there are sets. A leaf's `left` counts the leaves
        of all trees in this order.
    leaves : list of ndarray
        For each tree the numbers of its leaf nodes, in the order their values must stand in.
    """
    parts: dict[str, list[np.ndarray]] = {name: [] for name in DTYPES}
    sets: list[CategorySet] = []
    leaves, roots = [], []
    n_nodes = n_leaves = 0
    for tree in trees:
        size, own = tree.is_leaf.size, np.flatnonzero(tree.is_leaf)
        inner = np.flatnonzero(~tree.is_leaf)
        # The r-th inner node's children go to places 2r + 1 and 2r + 2. An ancestor has a smaller r: it stands before.
        first_child = 2 * np.arange(inner.size) + 1
        place = np.zeros(size, dtype="int64")
        place[tree.left[inner]], place[tree.right[inner]] = first_child, first_child + 1
        left = np.empty(size, dtype="int64")
        left[place[inner]] = first_child + n_nodes
        left[place[own]] = np.arange(n_leaves, n_leaves + own.size)
        for part, values, at_leaf in (
            ("feature", tree.feature, -1),
            ("threshold", tree.threshold, 0.0),
            ("missing_left", tree.missing_left, 0),
        ):
            placed = np.empty(size, dtype="float64" if part == "threshold" else "int64")
            placed[place] = np.where(tree.is_leaf, at_leaf, values)
            parts[part].append(placed)
        parts["left"].append(left)
        of_node = np.full(size, -1, dtype="int64")
        for node, own_set in tree.sets.items():
            of_node[place[node]] = len(sets)
            sets.append(own_set)
        parts["set_of_node"].append(of_node)
        leaves.append(own)
        roots.append(n_nodes)
        n_nodes, n_leaves = n_nodes + size, n_leaves + own.size
    arrays = {part: np.concatenate(pieces).astype(DTYPES[part]) for part, pieces in parts.items()}
    if sets:
        arrays["set_starts"] = np.cumsum([0, *(own.goes_left.size for own in sets)]).astype("int32")
        arrays["goes_left_sets"] = np.concatenate([own.goes_left for own in sets]).astype("uint8")
        arrays["strangers_left"] = np.array([own.strangers_left for own in sets], dtype="uint8")
    else:
        del arrays["set_of_node"]
    return {"roots": np.array(roots, dtype="int32"), **arrays}, leaves
