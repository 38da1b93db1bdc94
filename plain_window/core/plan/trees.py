"""Trees of any library as the arrays a plan holds."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from .building import CannotCompile

__all__ = ["CategorySet", "Tree", "boosted_arrays", "in_order", "renumbered", "tree_arrays"]

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


def in_order(left: np.ndarray, right: np.ndarray, is_leaf: np.ndarray) -> np.ndarray:
    """The nodes that are reached from the first one, level by level.

    Parameters
    ----------
    left, right : ndarray of shape (n_nodes,)
        Where each node leads to; anything at a leaf.
    is_leaf : ndarray of bool, shape (n_nodes,)

    Returns
    -------
    ndarray of shape (n_reached,)

    Raises
    ------
    CannotCompile
        If a node leads out of the tree, or is reached twice.
    """
    order, visited = [0], {0}
    for node in order:
        if is_leaf[node]:
            continue
        for child in (int(left[node]), int(right[node])):
            if not 0 <= child < len(is_leaf) or child in visited:
                raise CannotCompile("A tree of the model leads out of itself; its file is damaged.")
            visited.add(child)
            order.append(child)
    return np.array(order)


def renumbered(tree: Tree, values: np.ndarray) -> tuple[Tree, np.ndarray]:
    """The tree with its nodes in order, and what they say likewise.

    Parameters
    ----------
    tree : Tree
    values : ndarray
        A row a node.
    """
    order = in_order(tree.left, tree.right, tree.is_leaf)
    place = np.zeros(tree.is_leaf.size, dtype="int64")
    place[order] = np.arange(order.size)
    # At a leaf the library may keep anything there.
    inner = ~tree.is_leaf[order]
    left = np.where(inner, place[np.where(inner, tree.left[order], 0)], -1)
    right = np.where(inner, place[np.where(inner, tree.right[order], 0)], -1)
    moved = Tree(
        is_leaf=tree.is_leaf[order],
        feature=tree.feature[order],
        threshold=tree.threshold[order],
        left=left,
        right=right,
        missing_left=tree.missing_left[order],
        sets={int(place[node]): own for node, own in tree.sets.items()},
    )
    return moved, values[order]


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


def boosted_arrays(
    trees: Sequence[tuple[Tree, np.ndarray]], *, tree_output: Sequence[int], start: np.ndarray
) -> dict[str, np.ndarray]:
    """The arrays of a `boosted` step.

    Parameters
    ----------
    trees : sequence of (Tree, ndarray of shape (n_nodes,))
        With what each of their nodes says.
    tree_output : sequence of int
        The output each tree adds to.
    start : ndarray of shape (n_outputs,)
    """
    ordered = [renumbered(tree, values) for tree, values in trees]
    arrays, leaves = tree_arrays([tree for tree, _ in ordered])
    picked = [values[own] for (_, values), own in zip(ordered, leaves, strict=True)]
    arrays["values"] = np.concatenate(picked).astype("float64")
    arrays["tree_output"] = np.asarray(tree_output, dtype="int32")
    arrays["start"] = np.asarray(start, dtype="float64")
    return arrays
