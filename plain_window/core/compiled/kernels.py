"""The hot loops: walking rows down trees.

Kernels trust what they are given: contiguous arrays of the stated types, nodes that lead to nodes of the same tree, and
feature numbers inside the rows. `plan.check_plan` sees to that once, when a plan is read.

A node with `feature` −1 is a leaf, and its `left` is the row of `values` it stands for. At any other node a row goes
left if its value is missing and `missing_left` is set, or if its value is at most `threshold`.
"""

import numpy as np
from numba import float64, int32, njit, uint8, void

__all__ = ["add_leaf_rows", "add_leaf_values"]

# Rows walked down one tree before the next: their values stay in the nearest cache while the tree's nodes are warm.
ROWS_AT_ONCE = 256

_nodes = (int32[::1], int32[::1], float64[::1], int32[::1], int32[::1], uint8[::1])


@njit(inline="always")
def _leaf(x, row, node, feature, threshold, left, right, missing_left):
    # Invariant: `node` is in the tree it started from; each turn goes one level down, so it ends.
    while feature[node] >= 0:
        value = x[row, feature[node]]
        if np.isnan(value):
            node = left[node] if missing_left[node] else right[node]
        elif value <= threshold[node]:
            node = left[node]
        else:
            node = right[node]
    return left[node]


@njit(void(float64[:, ::1], *_nodes, float64[:, ::1], float64[:, ::1]), cache=True, nogil=True)
def add_leaf_rows(x, roots, feature, threshold, left, right, missing_left, values, out):
    """Add the leaf's row of `values`, for every row of `x` and every tree, to `out`, tree after tree."""
    n_rows, n_outputs = out.shape
    for start in range(0, n_rows, ROWS_AT_ONCE):
        stop = min(start + ROWS_AT_ONCE, n_rows)
        for tree in range(roots.size):
            for row in range(start, stop):
                leaf = _leaf(x, row, roots[tree], feature, threshold, left, right, missing_left)
                for output in range(n_outputs):
                    out[row, output] += values[leaf, output]


@njit(void(float64[:, ::1], *_nodes, float64[::1], int32[::1], float64, float64[:, ::1]), cache=True, nogil=True)
def add_leaf_values(x, roots, feature, threshold, left, right, missing_left, values, tree_output, rate, out):
    """Add `rate` times the leaf's value to the one output that each tree is about."""
    n_rows = out.shape[0]
    for start in range(0, n_rows, ROWS_AT_ONCE):
        stop = min(start + ROWS_AT_ONCE, n_rows)
        for tree in range(roots.size):
            output = tree_output[tree]
            for row in range(start, stop):
                leaf = _leaf(x, row, roots[tree], feature, threshold, left, right, missing_left)
                out[row, output] += rate * values[leaf]
