"""The paths of a forest, by leaf: which fields are asked on the way, and what a row misses of them."""

import functools
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..plan.kernels import FEATURE_BITS
from . import path_kernels

__all__ = ["Paths", "find_paths"]

# Fields on one path: a bit each.
MOST_FIELDS = 32
# What `Paths.ranges` may take while it works.
MOST_RANGE_ENTRIES = 50_000_000


@dataclass(frozen=True)
class Paths:
    """A forest seen from its leaves.

    `inner` are number, feature, threshold, left child and field's bit of each inner node, parents first; `bit_numbers`
    and `fields` go with them. Leaf l has the fields `path_fields[path_starts[l] : path_starts[l + 1]]`, in the order of
    their bits.
    """

    inner: tuple[np.ndarray, ...]
    sets: Sequence[Any]
    bit_numbers: np.ndarray
    fields: np.ndarray
    leaf_node: np.ndarray
    path_starts: np.ndarray
    path_fields: np.ndarray
    n_nodes: int

    @property
    def n_leaves(self) -> int:
        """How many leaves there are, of all trees."""
        return self.leaf_node.size

    @functools.cached_property
    def most_fields(self) -> int:
        """The most fields on one path."""
        return int(np.diff(self.path_starts).max())

    def missed(self, row: np.ndarray) -> np.ndarray:
        """The fields a row misses on each leaf's path, bit by bit: uint32 of shape (n_leaves,).

        Parameters
        ----------
        row : ndarray
            What the trees are given for one row, shape (n_columns,).
        """
        out = np.empty(self.n_leaves, dtype="uint32")
        scratch = np.zeros(self.n_nodes, dtype="uint32")
        path_kernels.find_missed(np.ascontiguousarray(row), *self.inner, *self.sets, self.leaf_node, scratch, out)
        return out

    def ranges(self, rank: np.ndarray, n_pieces: np.ndarray) -> np.ndarray | None:
        """First and last piece of each field on each path that leads to its leaf: int32 of shape (n_path_fields, 2).

        Parameters
        ----------
        rank : ndarray of int64, shape (n_nodes,)
            The last piece of its field that goes left at each node.
        n_pieces : ndarray of int64, shape (n_fields,)

        Returns
        -------
        ndarray or None
            None if working it out would take too much memory.
        """
        if self.n_nodes * self.most_fields > MOST_RANGE_ENTRIES:
            return None
        scratch = np.zeros((self.n_nodes, self.most_fields, 2), dtype="int32")
        scratch[:, :, 1] = np.iinfo("int32").max - 1
        out = np.zeros((self.path_fields.size, 2), dtype="int32")
        # Columns of no field have no pieces.
        last_piece = np.concatenate([n_pieces, [0]]).astype("int32") - 1
        path_kernels.find_ranges(
            self.inner[0],
            self.inner[3],
            self.bit_numbers,
            self.fields,
            self.leaf_node,
            rank,
            last_piece,
            self.path_starts,
            scratch,
            out,
        )
        return out


def find_paths(
    roots: np.ndarray, nodes: np.ndarray, sets: Sequence[object], field_of_column: np.ndarray
) -> Paths | None:
    """The paths of a forest; None if one of them asks for more than 32 fields.

    Parameters
    ----------
    roots, nodes, sets
        The forest.
    field_of_column : ndarray of int64, shape (n_columns,)
    """
    feature = nodes["feature"]
    inner, leaves = np.flatnonzero(feature >= 0), np.flatnonzero(feature < 0)
    fields = field_of_column[feature[inner] & FEATURE_BITS]
    numbered = _numbered(inner.tolist(), fields.tolist(), nodes["left"][inner].tolist(), roots.tolist())
    if numbered is None:
        return None
    bit_numbers, path_of_node = numbered
    leaf_node = np.empty(leaves.size, dtype="int32")
    leaf_node[nodes["left"][leaves]] = leaves
    own = [path_of_node[node] for node in leaf_node.tolist()]
    numbers = np.array(bit_numbers, dtype="int32")
    return Paths(
        inner=(
            inner.astype("int32"),
            np.ascontiguousarray(feature[inner]),
            np.ascontiguousarray(nodes["threshold"][inner]),
            np.ascontiguousarray(nodes["left"][inner]),
            np.left_shift(np.uint32(1), numbers.astype("uint32"), dtype="uint32"),
        ),
        sets=sets,
        bit_numbers=numbers,
        fields=fields.astype("int32"),
        leaf_node=leaf_node,
        path_starts=np.concatenate([[0], np.cumsum([len(path) for path in own])]).astype("int64"),
        path_fields=np.array([field for path in own for field in path], dtype="int32"),
        n_nodes=nodes.size,
    )


def _numbered(
    inner: list[int], fields: list[int], left: list[int], roots: list[int]
) -> tuple[list[int], dict[int, tuple[int, ...]]] | None:
    """For each inner node its field's number on its path, and for each leaf's node the fields of its path."""
    path: dict[int, tuple[int, ...]] = dict.fromkeys(roots, ())
    numbers = []
    # Parents stand before their children.
    for node, field, child in zip(inner, fields, left, strict=True):
        own = path.pop(node)
        if field not in own:
            own = (*own, field)
            if len(own) > MOST_FIELDS:
                return None
        numbers.append(own.index(field))
        path[child] = path[child + 1] = own
    return numbers, path
