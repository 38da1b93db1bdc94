"""What the sample looks like from each leaf of a forest, worked out once.

A leaf's share in the contributions depends on a sample row only through which fields of the leaf's path the row
misses. Rows alike in that are counted together, and a case then looks at a handful of patterns a leaf, not at rows.
"""

import functools
import math
from collections import deque
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Any

import numpy as np

from . import path_kernels
from .paths import Paths

__all__ = ["LeafContributions", "Patterns", "coalition_weights", "find_patterns"]

# Beyond this the table would take more than it saves; trees are then walked with sets of rows.
MOST_ENTRIES = 24_000_000
LEAVES_AT_ONCE = 4096
# Fewer leaves than this are done before a second thread has begun.
LEAVES_WORTH_A_THREAD = 10_000
THREADS = 2
# Cases told lately that a next one may be near to: visitors take turns at a runner.
CASES_KEPT = 8
# A case is held against those by every so-manieth of its leaves; which of them is nearest need not be known exactly.
LEAVES_COMPARED = 16
# A changed leaf is taken out and put in: up to this share of leaves that is less than adding all.
WORTH_CHANGING = 0.45

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

    def sums(self, leaves: np.ndarray, missed: np.ndarray, values: np.ndarray, n_fields: int) -> np.ndarray:
        """For each field what some leaves add to its contribution, over all rows: int64 of shape (n_fields,).

        Parameters
        ----------
        leaves : ndarray of int32
        missed : ndarray of uint32
            Of each of them what a case misses.
        values : ndarray of shape (n_leaves,)
            Scaled to whole numbers.
        n_fields : int
        """
        weights = coalition_weights(self.paths.most_fields)

        def some(own: slice) -> np.ndarray:
            out = np.zeros(n_fields, dtype="int64")
            path_kernels.add_contributions_by_patterns(
                leaves[own],
                missed[own],
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
            return some(slice(None))
        # Kernels let go of the interpreter.
        half = leaves.size // 2
        other = _pool.submit(some, slice(half, None))
        return some(slice(half)) + other.result()


@dataclass(frozen=True)
class _Told:
    """A case, by what it misses, and its sums."""

    missed: np.ndarray
    some: np.ndarray
    sums: np.ndarray


class LeafContributions:
    """Contributions of fields to a sum of leaves, case after case.

    Who moves a control asks about a case that differs from the one before in few leaves: those are taken out of its
    sums and put in anew. Sums are whole numbers, so this gives to the bit what adding everything up would.

    Parameters
    ----------
    patterns : Patterns
    leaves : ndarray of int32
        Those whose value counts.
    values : ndarray of shape (n_leaves,)
        What each adds.
    n_fields : int
    """

    def __init__(self, patterns: Patterns, leaves: np.ndarray, values: np.ndarray, n_fields: int) -> None:
        self._patterns, self._leaves, self._n_fields = patterns, leaves, n_fields
        # No coalition weighs more than one: the sums stay below 2 to the 62.
        most = float(np.abs(values[leaves]).sum()) * patterns.n_rows
        self._scale = 2.0 ** (61 - math.frexp(most)[1])
        self._scaled = values * self._scale
        self._told: deque[_Told] = deque(maxlen=CASES_KEPT)

    def of(self, missed_by_case: np.ndarray) -> np.ndarray:
        """One case's contributions: shape (n_fields,).

        Parameters
        ----------
        missed_by_case : ndarray of shape (n_leaves,)
            From `Paths.missed`.
        """
        missed = missed_by_case[self._leaves]
        some = np.ascontiguousarray(missed[::LEAVES_COMPARED])
        near = min(self._told, key=lambda told: np.count_nonzero(told.some != some), default=None)
        if near is None:
            sums = self._sums(slice(None), missed)
        else:
            changed = np.flatnonzero(near.missed != missed)
            if not changed.size:
                sums = near.sums
            elif changed.size > self._leaves.size * WORTH_CHANGING:
                sums = self._sums(slice(None), missed)
            else:
                sums = near.sums + self._sums(changed, missed) - self._sums(changed, near.missed)
        self._told.append(_Told(missed, some, sums))
        return sums / (self._scale * self._patterns.n_rows)

    def _sums(self, which: Any, missed: np.ndarray) -> np.ndarray:
        return self._patterns.sums(self._leaves[which], missed[which], self._scaled, self._n_fields)


def find_patterns(sample: np.ndarray, paths: Paths) -> Patterns | None:
    """The patterns of `sample` in a forest; None if the table would be too large.

    Parameters
    ----------
    sample : ndarray of shape (n_rows, n_columns)
    paths : Paths
    """
    n_rows, n_leaves = len(sample), paths.n_leaves
    if n_leaves * n_rows > MOST_ENTRIES or n_rows > np.iinfo("uint16").max:
        return None
    missed = np.array([paths.missed(row) for row in sample])
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


@functools.cache
def coalition_weights(most: int) -> np.ndarray:
    """Shape (most + 1, most + 1, 2): at (a, b) the weights (a − 1)! b! / (a + b)! and a! (b − 1)! / (a + b)!.

    Parameters
    ----------
    most : int
        Fields on the longest path.
    """
    weights = np.zeros((most + 1, most + 1, 2))
    for a in range(most + 1):
        for b in range(most + 1):
            ways = math.comb(a + b, a)
            weights[a, b, 0] = 1 / (a * ways) if a else 0.0
            weights[a, b, 1] = 1 / (b * ways) if b else 0.0
    return weights
