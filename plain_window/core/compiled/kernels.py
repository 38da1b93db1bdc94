"""The hot loops: walking rows down trees.

Kernels trust what they are given: contiguous arrays of the stated types, nodes that lead forward to nodes of the same
tree, and feature numbers inside the rows. `operations` sees to that once, when a plan is read.

A node is 16 bytes, and the two nodes it leads to stand side by side, so that one step down a tree touches one place in
memory and needs no branch: the row goes to `left`, or, if its value is above `threshold`, to the node behind it. A
missing value goes left where `feature` carries the flag for it. A node whose `feature` is negative is a leaf, and its
`left` is the row of the leaf values it stands for.

Trees that split by sets of categories have kernels of their own. A node with the flag for that holds the number of its
set in `threshold`; a code goes left if the set says so, or, if the set is too short to know it, by `strangers_left`.
"""

import numpy as np
from numba import boolean, float64, from_dtype, int32, njit, uint8, void

__all__ = [
    "BY_SET",
    "FEATURE_BITS",
    "MISSING_LEFT",
    "NODE",
    "add_leaf_rows",
    "add_leaf_rows_by_sets",
    "add_leaf_values",
    "add_leaf_values_by_sets",
]

NODE = np.dtype([("threshold", "float64"), ("feature", "int32"), ("left", "int32")])
# The flags sit above any feature's number.
MISSING_LEFT = 1 << 30
BY_SET = 1 << 29
FEATURE_BITS = BY_SET - 1
# Rows walked down one tree before the next: the tree's nodes stay in the nearest cache.
ROWS_AT_ONCE = 256

_nodes = from_dtype(NODE)[::1]


@njit(inline="always")
def _leaf(x, row, root, nodes):
    # Invariant: `node` is in the tree it started from; each turn goes one level down, so it ends.
    # Unsigned numbers throughout: a signed index is first looked at for being negative.
    node = np.uintp(root)
    feature = nodes[node].feature
    while feature >= 0:
        value = x[row, np.uintp(feature & FEATURE_BITS)]
        goes_left = (value <= nodes[node].threshold) | ((value != value) & (feature >= MISSING_LEFT))
        node = np.uintp(np.uint32(nodes[node].left)) + np.uintp(not goes_left)
        feature = nodes[node].feature
    return nodes[node].left


@njit(void(float64[:, ::1], int32[::1], _nodes, float64[:, ::1], float64[:, ::1]), cache=True, nogil=True)
def add_leaf_rows(x, roots, nodes, values, out):
    """Add the leaf's row of `values`, for every row of `x` and every tree, to `out`, tree after tree."""
    n_rows, n_outputs = out.shape
    for start in range(0, n_rows, ROWS_AT_ONCE):
        stop = min(start + ROWS_AT_ONCE, n_rows)
        for tree in range(roots.size):
            for row in range(start, stop):
                leaf = _leaf(x, np.uintp(row), roots[tree], nodes)
                for output in range(n_outputs):
                    out[row, output] += values[leaf, output]


@njit(
    void(float64[:, ::1], int32[::1], _nodes, float64[::1], int32[::1], float64, boolean, float64[:, ::1]),
    cache=True,
    nogil=True,
)
def add_leaf_values(x, roots, nodes, values, tree_output, rate, is_single, out):
    """Add `rate` times the leaf's value to the one output that each tree is about.

    With `is_single` each sum is rounded to single precision, as libraries do that add in it.
    """
    n_rows = out.shape[0]
    for start in range(0, n_rows, ROWS_AT_ONCE):
        stop = min(start + ROWS_AT_ONCE, n_rows)
        for tree in range(roots.size):
            output = tree_output[tree]
            for row in range(start, stop):
                total = out[row, output] + rate * values[_leaf(x, np.uintp(row), roots[tree], nodes)]
                out[row, output] = float64(np.float32(total)) if is_single else total


@njit(inline="always")
def _leaf_by_sets(x, row, root, nodes, set_starts, goes_left_sets, strangers_left):
    # As `_leaf`; `set_starts` has one entry more than there are sets.
    node = np.uintp(root)
    feature = nodes[node].feature
    while feature >= 0:
        value = x[row, np.uintp(feature & FEATURE_BITS)]
        if value != value:
            goes_left = feature >= MISSING_LEFT
        elif feature & BY_SET:
            number = int(nodes[node].threshold)
            size = set_starts[number + 1] - set_starts[number]
            if value < 0.0 or value >= size:
                goes_left = strangers_left[number] > 0
            else:
                goes_left = goes_left_sets[set_starts[number] + int(value)] > 0
        else:
            goes_left = value <= nodes[node].threshold
        node = np.uintp(np.uint32(nodes[node].left)) + np.uintp(not goes_left)
        feature = nodes[node].feature
    return nodes[node].left


_sets = (int32[::1], uint8[::1], uint8[::1])


@njit(void(float64[:, ::1], int32[::1], _nodes, float64[:, ::1], *_sets, float64[:, ::1]), cache=True, nogil=True)
def add_leaf_rows_by_sets(x, roots, nodes, values, set_starts, goes_left_sets, strangers_left, out):
    """As `add_leaf_rows`, for trees that split by sets."""
    n_rows, n_outputs = out.shape
    for tree in range(roots.size):
        for row in range(n_rows):
            leaf = _leaf_by_sets(x, np.uintp(row), roots[tree], nodes, set_starts, goes_left_sets, strangers_left)
            for output in range(n_outputs):
                out[row, output] += values[leaf, output]


@njit(
    void(float64[:, ::1], int32[::1], _nodes, float64[::1], int32[::1], float64, boolean, *_sets, float64[:, ::1]),
    cache=True,
    nogil=True,
)
def add_leaf_values_by_sets(
    x, roots, nodes, values, tree_output, rate, is_single, set_starts, goes_left_sets, strangers_left, out
):
    """As `add_leaf_values`, for trees that split by sets."""
    for tree in range(roots.size):
        output = tree_output[tree]
        for row in range(out.shape[0]):
            leaf = _leaf_by_sets(x, np.uintp(row), roots[tree], nodes, set_starts, goes_left_sets, strangers_left)
            total = out[row, output] + rate * values[leaf]
            out[row, output] = float64(np.float32(total)) if is_single else total
