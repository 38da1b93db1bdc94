"""What the background looks like from each leaf of a forest, worked out once.

A leaf's share in the contributions depends on a background row only through which fields of the leaf's path the row
meets. Rows alike in that are counted together, and a case then looks at a handful of patterns a leaf, not at rows.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..compiled.kernels import FEATURE_BITS
from . import kernels

__all__ = ["Patterns", "find_patterns"]

# Beyond this the table would take more than it saves; trees are then walked with sets of rows.
MOST_ENTRIES = 24_000_000
ENTRIES_AT_ONCE = 500_000
# Fields on one path: a bit each.
MOST_FIELDS = 32


@dataclass(frozen=True)
class Patterns:
    """Patterns by leaf, and what is needed to number a path's fields."""

    end_of_tree: np.ndarray
    bits: np.ndarray
    is_new: np.ndarray
    longest_tree: int
    pattern_starts: np.ndarray
    patterns: np.ndarray
    counts: np.ndarray
    path_starts: np.ndarray
    path_fields: np.ndarray
    most_fields: int


def find_patterns(
    background: np.ndarray,
    roots: np.ndarray,
    nodes: np.ndarray,
    sets: Sequence[Any],
    field_of_column: np.ndarray,
) -> Patterns | None:
    """The patterns of `background` in a forest; None if the table would be too large.

    Parameters
    ----------
    background : ndarray of shape (n_rows, n_columns)
    roots, nodes, sets
        The forest.
    field_of_column : ndarray of int64, shape (n_columns,)
    """
    n_leaves = int(np.sum(nodes["feature"] < 0))
    if n_leaves * len(background) > MOST_ENTRIES:
        return None
    end_of_tree = np.concatenate([roots[1:], [nodes.size]]).astype("int32")
    bits, is_new, paths = _numbered(nodes, field_of_column, roots)
    if bits is None:
        return None
    if len(background) > np.iinfo("uint16").max:
        return None
    longest = int(np.max(end_of_tree - roots))
    leaves_before = np.concatenate([[0], np.cumsum(nodes["feature"] < 0)])
    n_patterns: list[np.ndarray] = []
    patterns: list[np.ndarray] = []
    counts: list[np.ndarray] = []
    masks = np.zeros((longest, len(background)), dtype="uint32")
    # A few trees at a time: most of the room for a leaf's patterns is not needed in the end.
    at_once = max(1, ENTRIES_AT_ONCE // (longest * len(background)))
    for start in range(0, roots.size, at_once):
        some = slice(start, start + at_once)
        first, last = (int(leaves_before[node]) for node in (roots[some][0], end_of_tree[some][-1]))
        found = np.zeros(last - first, dtype="int64")
        room = (last - first, len(background))
        own_patterns, own_counts = np.zeros(room, dtype="uint32"), np.zeros(room, dtype="uint16")
        forest = (background, roots[some], nodes, *sets, end_of_tree[some], bits, is_new)
        kernels.find_patterns(*forest, masks, first, found, own_patterns, own_counts)
        used = np.arange(len(background)) < found[:, None]
        n_patterns.append(found)
        patterns.append(own_patterns[used])
        counts.append(own_counts[used])
    path_lengths = np.array([len(path) for path in paths])
    return Patterns(
        end_of_tree,
        bits,
        is_new,
        longest,
        np.concatenate([[0], np.cumsum(np.concatenate(n_patterns))]),
        np.concatenate(patterns),
        np.concatenate(counts),
        np.concatenate([[0], np.cumsum(path_lengths)]),
        np.concatenate([np.array(path, dtype="int32") for path in paths]),
        int(path_lengths.max()),
    )


def _numbered(nodes: np.ndarray, field_of_column: np.ndarray, roots: np.ndarray) -> Any:
    """For each inner node its field's number on its path and if it is the first of it; for each leaf its fields."""
    feature, left = nodes["feature"], nodes["left"]
    bits, is_new = np.zeros(nodes.size, dtype="uint8"), np.zeros(nodes.size, dtype="uint8")
    path: dict[int, tuple[int, ...]] = {int(root): () for root in roots}
    leaves: dict[int, tuple[int, ...]] = {}
    fields = np.where(feature < 0, -1, field_of_column[np.maximum(feature, 0) & FEATURE_BITS]).tolist()
    # Parents stand before their children.
    for node, (field, child) in enumerate(zip(fields, left.tolist(), strict=True)):
        own = path.pop(node)
        if field < 0:
            leaves[child] = own
            continue
        if field not in own:
            is_new[node] = 1
            own = (*own, field)
            if len(own) > MOST_FIELDS:
                return None, None, None
        bits[node] = own.index(field)
        path[child] = path[child + 1] = own
    return bits, is_new, [leaves[leaf] for leaf in range(len(leaves))]
