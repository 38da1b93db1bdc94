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

from .machine_code import helper, kernel

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


def _forest(t):
    """Rows, roots, nodes, and a row of values a leaf."""
    return t.float64[:, ::1], t.int32[::1], t.from_dtype(NODE)[::1], t.float64[:, ::1]


def _boosted(t):
    """Rows, roots, nodes, a value a leaf, each tree's output, the rate, and whether sums are rounded."""
    return (
        t.float64[:, ::1],
        t.int32[::1],
        t.from_dtype(NODE)[::1],
        t.float64[::1],
        t.int32[::1],
        t.float64,
        t.boolean,
    )


def _sets(t):
    """Where each set starts, the sets, and where strangers go."""
    return t.int32[::1], t.uint8[::1], t.uint8[::1]


@helper
def _step(x, row, node, nodes):
    """Where the row goes from here; a leaf leads to itself."""
    # Unsigned numbers throughout: a signed index is first looked at for being negative.
    feature = nodes[node].feature
    value = x[row, np.uintp(max(feature, 0) & FEATURE_BITS)]
    goes_left = (value <= nodes[node].threshold) | ((value != value) & (feature >= MISSING_LEFT))
    following = np.uintp(np.uint32(nodes[node].left)) + np.uintp(not goes_left)
    return following if feature >= 0 else node


@helper
def _four_leaves(x, row, next_row, roots, tree, next_tree, nodes):
    """The leaves of four walks: of rows `next_row` apart down trees `next_tree` apart.

    One walk waits for memory at each level; four at a time wait together.
    """
    one = np.uintp(next_row)
    row_a = np.uintp(row)
    row_b, row_c, row_d = row_a + one, row_a + one + one, row_a + one + one + one
    a, b = np.uintp(roots[tree]), np.uintp(roots[tree + next_tree])
    c, d = np.uintp(roots[tree + 2 * next_tree]), np.uintp(roots[tree + 3 * next_tree])
    # Invariant: each node is in the tree it started from; a turn goes one level down or stays at a leaf, so it ends.
    while True:
        to_a, to_b = _step(x, row_a, a, nodes), _step(x, row_b, b, nodes)
        to_c, to_d = _step(x, row_c, c, nodes), _step(x, row_d, d, nodes)
        if (to_a == a) & (to_b == b) & (to_c == c) & (to_d == d):
            return nodes[a].left, nodes[b].left, nodes[c].left, nodes[d].left
        a, b, c, d = to_a, to_b, to_c, to_d


@helper
def _leaf(x, row, root, nodes):
    node = np.uintp(root)
    following = _step(x, np.uintp(row), node, nodes)
    while following != node:
        node = following
        following = _step(x, np.uintp(row), node, nodes)
    return nodes[node].left


@helper
def _add_row(out, row, values, leaf):
    for output in range(out.shape[1]):
        out[row, output] += values[leaf, output]


@kernel(lambda t: t.void(*_forest(t), t.float64[:, ::1]))
def add_leaf_rows(x, roots, nodes, values, out):
    """Add the leaf's row of `values`, for every row of `x` and every tree, to `out`, tree after tree.

    Parameters
    ----------
    x : ndarray
        What the trees are given: a row, or rows, of columns.
    roots : ndarray of shape (n_trees,)
        Where trees begin.
    nodes : ndarray of NODE
    values : ndarray
        By leaf, and by output where there are several.
    out : ndarray
        Added to, or filled, in place.
    """
    n_rows, n_trees = out.shape[0], roots.size
    fours = n_rows - n_rows % 4
    for start in range(0, fours, ROWS_AT_ONCE):
        for tree in range(n_trees):
            for row in range(start, min(start + ROWS_AT_ONCE, fours), 4):
                a, b, c, d = _four_leaves(x, row, 1, roots, tree, 0, nodes)
                _add_row(out, row, values, a)
                _add_row(out, row + 1, values, b)
                _add_row(out, row + 2, values, c)
                _add_row(out, row + 3, values, d)
    for row in range(fours, n_rows):
        for tree in range(0, n_trees - 3, 4):
            a, b, c, d = _four_leaves(x, row, 0, roots, tree, 1, nodes)
            _add_row(out, row, values, a)
            _add_row(out, row, values, b)
            _add_row(out, row, values, c)
            _add_row(out, row, values, d)
        for tree in range(n_trees - n_trees % 4, n_trees):
            _add_row(out, row, values, _leaf(x, row, roots[tree], nodes))


@helper
def _add_value(out, row, output, value, is_single):
    total = out[row, output] + value
    out[row, output] = np.float64(np.float32(total)) if is_single else total


@kernel(lambda t: t.void(*_boosted(t), t.float64[:, ::1]))
def add_leaf_values(x, roots, nodes, values, tree_output, rate, is_single, out):
    """Add `rate` times the leaf's value to the one output that each tree is about.

    With `is_single` each sum is rounded to single precision, as libraries do that add in it.

    Parameters
    ----------
    x : ndarray
        What the trees are given: a row, or rows, of columns.
    roots : ndarray of shape (n_trees,)
        Where trees begin.
    nodes : ndarray of NODE
    values : ndarray
        By leaf, and by output where there are several.
    tree_output : ndarray of shape (n_trees,)
        The output each tree is about; negative for all.
    rate : float64
    is_single : bool
    out : ndarray
        Added to, or filled, in place.
    """
    n_rows, n_trees = out.shape[0], roots.size
    fours = n_rows - n_rows % 4
    for start in range(0, fours, ROWS_AT_ONCE):
        for tree in range(n_trees):
            output = tree_output[tree]
            for row in range(start, min(start + ROWS_AT_ONCE, fours), 4):
                a, b, c, d = _four_leaves(x, row, 1, roots, tree, 0, nodes)
                _add_value(out, row, output, rate * values[a], is_single)
                _add_value(out, row + 1, output, rate * values[b], is_single)
                _add_value(out, row + 2, output, rate * values[c], is_single)
                _add_value(out, row + 3, output, rate * values[d], is_single)
    for row in range(fours, n_rows):
        for tree in range(0, n_trees - 3, 4):
            a, b, c, d = _four_leaves(x, row, 0, roots, tree, 1, nodes)
            _add_value(out, row, tree_output[tree], rate * values[a], is_single)
            _add_value(out, row, tree_output[tree + 1], rate * values[b], is_single)
            _add_value(out, row, tree_output[tree + 2], rate * values[c], is_single)
            _add_value(out, row, tree_output[tree + 3], rate * values[d], is_single)
        for tree in range(n_trees - n_trees % 4, n_trees):
            _add_value(out, row, tree_output[tree], rate * values[_leaf(x, row, roots[tree], nodes)], is_single)


@helper
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


@kernel(lambda t: t.void(*_forest(t), *_sets(t), t.float64[:, ::1]))
def add_leaf_rows_by_sets(x, roots, nodes, values, set_starts, goes_left_sets, strangers_left, out):
    """As `add_leaf_rows`, for trees that split by sets."""
    n_rows, n_outputs = out.shape
    for tree in range(roots.size):
        for row in range(n_rows):
            leaf = _leaf_by_sets(x, np.uintp(row), roots[tree], nodes, set_starts, goes_left_sets, strangers_left)
            for output in range(n_outputs):
                out[row, output] += values[leaf, output]


@kernel(lambda t: t.void(*_boosted(t), *_sets(t), t.float64[:, ::1]))
def add_leaf_values_by_sets(
    x, roots, nodes, values, tree_output, rate, is_single, set_starts, goes_left_sets, strangers_left, out
):
    """As `add_leaf_values`, for trees that split by sets."""
    for tree in range(roots.size):
        output = tree_output[tree]
        for row in range(out.shape[0]):
            leaf = _leaf_by_sets(x, np.uintp(row), roots[tree], nodes, set_starts, goes_left_sets, strangers_left)
            _add_value(out, row, output, rate * values[leaf], is_single)
