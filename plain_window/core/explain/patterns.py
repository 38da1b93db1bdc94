"""What the background looks like from each leaf of a forest, worked out once.

A leaf's share in the contributions depends on a background row only through which fields of the leaf's path the row
misses. Rows alike in that are counted together, and a case then looks at a handful of patterns a leaf, not at rows.
"""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np

from . import path_kernels
from .paths import Paths

__all__ = ["Patterns", "find_patterns"]

# Beyond this the table would take more than it saves; trees are then walked with sets of rows.
MOST_ENTRIES = 24_000_000
LEAVES_AT_ONCE = 4096
# Fewer leaves than this are done before a second thread has begun.
LEAVES_WORTH_A_THREAD = 10_000
THREADS = 2

_pool = ThreadPoolExecutor(THREADS - 1)


@dataclass(frozen=True)
class Patterns:
    """Patterns by leaf: what they miss, how many rows each, and for each field of the leaf's path which meet it."""

    paths: Paths
    n_rows: int
    starts: np.ndarray
    missed: np.ndarray
    counts: np.ndarray
    word_starts: np.ndarray
    words: np.ndarray

    def contributions(
        self,
        missed_by_case: np.ndarray,
        leaves: np.ndarray,
        values: np.ndarray,
        weights: np.ndarray,
        n_fields: int,
    ) -> np.ndarray:
        """Contributions to the sum of leaves: shape (n_fields,).

        Parameters
        ----------
        missed_by_case : ndarray of shape (n_leaves,)
            From `Paths.missed`.
        leaves : ndarray of int32
            Those whose value counts.
        values : ndarray of shape (n_leaves,)
        weights : ndarray of shape (most_fields + 1, most_fields + 1, 2)
            What coalitions weigh, by how many fields only the case meets and how many only the row.
        n_fields : int
        """

        def some(own: np.ndarray) -> np.ndarray:
            out = np.zeros(n_fields)
            path_kernels.add_contributions_by_patterns(
                own,
                missed_by_case,
                self.starts,
                self.missed,
                self.counts,
                self.word_starts,
                self.words,
                self.paths.path_starts,
                self.paths.path_fields,
                values,
                weights,
                np.zeros(len(weights)),
                out,
            )
            return out

        if leaves.size < LEAVES_WORTH_A_THREAD:
            return some(leaves) / self.n_rows
        # Kernels let go of the interpreter. Always split in the same place: same case, same numbers.
        half = leaves.size // 2
        other = _pool.submit(some, leaves[half:])
        return (some(leaves[:half]) + other.result()) / self.n_rows


def find_patterns(background: np.ndarray, paths: Paths) -> Patterns | None:
    """The patterns of `background` in a forest; None if the table would be too large.

    Parameters
    ----------
    background : ndarray of shape (n_rows, n_columns)
    paths : Paths
    """
    n_rows, n_leaves = len(background), paths.n_leaves
    if n_leaves * n_rows > MOST_ENTRIES or n_rows > np.iinfo("uint16").max:
        return None
    missed = np.array([paths.missed(row) for row in background])
    n_patterns = np.zeros(n_leaves, dtype="int64")
    patterns: list[np.ndarray] = []
    counts: list[np.ndarray] = []
    words: list[np.ndarray] = []
    # A few leaves at a time: most of the room for a leaf's patterns is not needed in the end.
    for first in range(0, n_leaves, LEAVES_AT_ONCE):
        some = slice(first, first + LEAVES_AT_ONCE)
        own_missed = np.ascontiguousarray(missed[:, some])
        found = np.zeros(own_missed.shape[1], dtype="int64")
        own = np.zeros(own_missed.shape[::-1], dtype="uint32")
        own_counts = np.zeros(own_missed.shape[::-1], dtype="uint16")
        path_kernels.group_rows(own_missed, found, own, own_counts)
        used = np.arange(n_rows) < found[:, None]
        n_patterns[some] = found
        patterns.append(own[used])
        counts.append(own_counts[used])
        words.append(_words(found, patterns[-1], np.diff(paths.path_starts)[some]))
    del missed
    n_words = (n_patterns + 63) // 64 * np.diff(paths.path_starts)
    return Patterns(
        paths,
        n_rows,
        starts=np.concatenate([[0], np.cumsum(n_patterns)]),
        missed=np.concatenate(patterns),
        counts=np.concatenate(counts),
        word_starts=np.concatenate([[0], np.cumsum(n_words)]),
        words=np.concatenate(words),
    )


def _words(n_patterns: np.ndarray, patterns: np.ndarray, n_fields: np.ndarray) -> np.ndarray:
    """For each leaf and field of its path the patterns that meet the field, a bit each, 64 to a word."""
    n_words = (n_patterns + 63) // 64
    word_starts = np.concatenate([[0], np.cumsum(n_words * n_fields)])
    words = np.zeros(word_starts[-1], dtype="uint64")
    leaf = np.repeat(np.arange(n_patterns.size), n_patterns)
    number = np.arange(patterns.size) - np.repeat(np.cumsum(n_patterns) - n_patterns, n_patterns)
    bit = np.left_shift(np.uint64(1), (number & 63).astype("uint64"))
    # Every leaf has patterns; each word begins with one whose number is a multiple of 64.
    begins = np.flatnonzero(number & 63 == 0)
    leaf_of_word, word = leaf[begins], number[begins] >> 6
    for field in range(int(n_fields.max())):
        met = np.where((patterns >> np.uint32(field)) & 1 == 0, bit, np.uint64(0))
        # Different bits: their sum is their union.
        union = np.add.reduceat(met, begins)
        has = field < n_fields[leaf_of_word]
        here = leaf_of_word[has]
        words[word_starts[here] + field * n_words[here] + word[has]] = union[has]
    return words
