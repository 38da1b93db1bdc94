"""The hot loops of explanations: what a case misses on the way to each leaf, and what follows from it.

Everything a leaf says depends on a row only through which fields of the leaf's path it misses, that is, which of them
have a condition on the path that the row does not meet: a bit a field. Kernels trust what they are given, as those of
`compiled.kernels` do, raise nothing and allocate nothing.
"""

import numpy as np

from ..plan.kernels import BY_SET, FEATURE_BITS
from ..plan.machine_code import helper, kernel
from .kernels import count_bits, goes_left

__all__ = ["add_contributions_by_patterns", "add_steps_by_paths", "find_missed", "find_ranges", "group_rows"]


@helper
def _lowest(word):
    """The number of the lowest bit of a word that has one."""
    return count_bits((word & (~word + np.uint64(1))) - np.uint64(1))


def _inner_nodes(t):
    """Number, feature, threshold, left child and field's bit of each inner node, parents first; then the sets."""
    return (
        t.int32[::1],
        t.int32[::1],
        t.float64[::1],
        t.int32[::1],
        t.uint32[::1],
        t.int32[::1],
        t.uint8[::1],
        t.uint8[::1],
    )


@kernel(lambda t: t.void(t.float64[::1], *_inner_nodes(t), t.int32[::1], t.uint32[::1], t.uint32[::1]))
def find_missed(
    x,
    inner_node,
    inner_feature,
    inner_threshold,
    inner_left,
    inner_bit,
    set_starts,
    goes_left_sets,
    strangers_left,
    leaf_node,
    masks,
    missed,
):
    """For each leaf the fields of its path that `x` misses; `masks` has room for all nodes, zero at the roots.

    Parameters
    ----------
    x : ndarray
        What the trees are given: a row, or rows, of columns.
    inner_node : ndarray of shape (n_inner,)
        Numbers of the inner nodes, parents first.
    inner_feature : ndarray of shape (n_inner,)
        Their columns, with flags.
    inner_threshold : ndarray of shape (n_inner,)
    inner_left : ndarray of shape (n_inner,)
        Their left children; the right ones follow.
    inner_bit : ndarray of shape (n_inner,)
        The bit of the node's field on its path.
    set_starts : ndarray of shape (n_sets + 1,)
        Where each set begins in `goes_left_sets`.
    goes_left_sets : ndarray
        By code, whether it goes left.
    strangers_left : ndarray of shape (n_sets,)
        Whether other codes go left.
    leaf_node : ndarray of shape (n_leaves,)
        Numbers of the leaves.
    masks : ndarray of shape (n_nodes,)
        Scratch.
    missed : ndarray of shape (n_leaves,)
        Filled in place.
    """
    one = np.uint64(1)
    for at in range(inner_node.size):
        feature = inner_feature[at]
        value = x[np.uint32(feature & FEATURE_BITS)]
        if value != value or feature & BY_SET:
            left = np.uint64(goes_left(value, feature, inner_threshold[at], set_starts, goes_left_sets, strangers_left))
        else:
            left = np.uint64(value <= inner_threshold[at])
        # Which side a case goes to is what a processor cannot foresee. Without a branch: the side says where to write.
        mask, child = masks[np.uint32(inner_node[at])], np.uint64(inner_left[at])
        masks[child + one - left] = mask
        masks[child + left] = mask | inner_bit[at]
    for leaf in range(leaf_node.size):
        missed[leaf] = masks[leaf_node[leaf]]


@kernel(lambda t: t.void(t.uint32[:, ::1], t.int64[::1], t.uint32[:, ::1], t.uint16[:, ::1]))
def group_rows(missed, n_patterns, patterns, counts):
    """For each leaf the different ways in which rows miss its fields, fewest missed first, and how many rows each.

    `missed` has a row for every sample row. Those that miss little are the ones a case meets with: they are to lie
    together.

    Parameters
    ----------
    missed : ndarray
        The fields missed on the way to each leaf, a bit a field.
    n_patterns : ndarray of shape (n_leaves,)
        Filled in place.
    patterns : ndarray of shape (n_leaves, n_sample_rows)
        Filled in place.
    counts : ndarray of shape (n_leaves, n_sample_rows)
        Zero; filled in place.
    """
    for leaf in range(missed.shape[1]):
        found = 0
        for row in range(missed.shape[0]):
            mask = missed[row, leaf]
            at = 0
            while at < found and patterns[leaf, at] != mask:
                at += 1
            if at < found:
                counts[leaf, at] += 1
                continue
            n_missed = count_bits(np.uint64(mask))
            while at > 0 and count_bits(np.uint64(patterns[leaf, at - 1])) > n_missed:
                patterns[leaf, at], counts[leaf, at] = patterns[leaf, at - 1], counts[leaf, at - 1]
                at -= 1
            patterns[leaf, at], counts[leaf, at] = mask, 1
            found += 1
        n_patterns[leaf] = found


def _patterns(t):
    """Starts of leaves' patterns, those, their counts, starts of leaves' words, and those."""
    return t.int64[::1], t.uint32[::1], t.uint16[::1], t.int64[::1], t.uint64[::1]


@kernel(
    lambda t: t.void(
        t.int32[::1],
        t.uint32[::1],
        *_patterns(t),
        t.int64[::1],
        t.int32[::1],
        t.float64[::1],
        t.float64[:, :, ::1],
        t.float64[::1],
        t.int64[::1],
    )
)
def add_contributions_by_patterns(
    leaves,
    missed_of_leaves,
    pattern_starts,
    patterns,
    counts,
    word_starts,
    words,
    path_starts,
    path_fields,
    values,
    weights,
    plus,
    out,
):
    """Add each field's contribution, summed over some leaves and all sample rows, to `out[field]`.

    For a sample row a leaf is reached by exactly those coalitions that hold the fields only the case meets (there
    are `a`) and none of those only the row meets (`b`); a field that neither meets makes it nothing. The leaf's value
    then counts (a − 1)! b! / (a + b)! for each of the former, and −a! (b − 1)! / (a + b)! for each of the latter.
    Which patterns are left is found for 64 at once: bit q of a field's word says whether pattern q meets the field.

    `missed_of_leaves` stands beside `leaves`; `values` are by leaf, so large that what is cut off behind the point does
    not matter: sums of whole numbers are the same in any order, and a leaf's share can be taken out again to the bit.

    Parameters
    ----------
    leaves : ndarray
        The leaves that count.
    missed_of_leaves : ndarray
    pattern_starts : ndarray of shape (n_leaves + 1,)
    patterns : ndarray
        The ways rows miss a leaf's fields.
    counts : ndarray
        How many rows each.
    word_starts : ndarray of shape (n_leaves + 1,)
    words : ndarray
        For each of a leaf's fields a bit a pattern.
    path_starts : ndarray of shape (n_leaves + 1,)
        Where each leaf's fields begin in `path_fields`.
    path_fields : ndarray
    values : ndarray
        By leaf, and by output where there are several.
    weights : ndarray
        As `patterns.coalition_weights` has them.
    plus : ndarray
        Scratch, zero.
    out : ndarray
        Added to, or filled, in place.
    """
    one = np.uint64(1)
    for at in range(leaves.size):
        leaf = leaves[at]
        missed = np.uint64(missed_of_leaves[at])
        first, n_left = pattern_starts[leaf], pattern_starts[leaf + 1] - pattern_starts[leaf]
        n_words = (n_left + 63) >> 6
        b = count_bits(missed)
        minus, touched = 0.0, np.uint64(0)
        for word in range(n_words):
            alive = ~np.uint64(0) if n_left >= 64 else (one << np.uint64(n_left)) - one
            n_left -= 64
            rest = missed
            while rest:
                alive &= words[word_starts[leaf] + _lowest(rest) * n_words + word]
                rest &= rest - one
            while alive:
                pattern = first + 64 * word + _lowest(alive)
                alive &= alive - one
                only_case = np.uint64(patterns[pattern])
                a = count_bits(only_case)
                minus += counts[pattern] * weights[a, b, 1]
                share = counts[pattern] * weights[a, b, 0]
                touched |= only_case
                while only_case:
                    plus[_lowest(only_case)] += share
                    only_case &= only_case - one
        value, start = values[leaf], path_starts[leaf]
        if minus != 0.0:
            while missed:
                out[path_fields[start + _lowest(missed)]] -= np.int64(minus * value)
                missed &= missed - one
        while touched:
            bit = _lowest(touched)
            out[path_fields[start + bit]] += np.int64(plus[bit] * value)
            plus[bit] = 0.0
            touched &= touched - one


@kernel(
    lambda t: t.void(
        t.int32[::1],
        t.int32[::1],
        t.int32[::1],
        t.int32[::1],
        t.int32[::1],
        t.int64[::1],
        t.int32[::1],
        t.int64[::1],
        t.int32[:, :, ::1],
        t.int32[:, ::1],
    )
)
def find_ranges(
    inner_node, inner_left, inner_bit_number, inner_field, leaf_node, rank, last_piece, path_starts, ranges, out
):
    """For each field on each leaf's path the first and the last piece of it that leads there, into `out`.

    `rank[node]` is the last piece that goes left at a node; `last_piece[field]` is negative for a field without pieces.
    `ranges[node, bit]` has those of the way down to a node, zero and the largest number at the roots.

    Parameters
    ----------
    inner_node : ndarray of shape (n_inner,)
        Numbers of the inner nodes, parents first.
    inner_left : ndarray of shape (n_inner,)
        Their left children; the right ones follow.
    inner_bit_number : ndarray of shape (n_inner,)
        The bit's number.
    inner_field : ndarray of shape (n_inner,)
    leaf_node : ndarray of shape (n_leaves,)
        Numbers of the leaves.
    rank : ndarray of shape (n_nodes,)
    last_piece : ndarray of shape (n_fields,)
    path_starts : ndarray of shape (n_leaves + 1,)
        Where each leaf's fields begin in `path_fields`.
    ranges : ndarray
    out : ndarray
        Added to, or filled, in place.
    """
    most = ranges.shape[1]
    for at in range(inner_node.size):
        node, left, bit = inner_node[at], inner_left[at], inner_bit_number[at]
        for other in range(most):
            for side in range(2):
                ranges[left + side, other, 0] = ranges[node, other, 0]
                ranges[left + side, other, 1] = ranges[node, other, 1]
        last = min(rank[node], np.int64(last_piece[inner_field[at]]))
        ranges[left, bit, 1] = min(ranges[left, bit, 1], last)
        ranges[left + 1, bit, 0] = max(ranges[left + 1, bit, 0], last + 1)
    for leaf in range(leaf_node.size):
        start = path_starts[leaf]
        for bit in range(path_starts[leaf + 1] - start):
            out[start + bit, 0] = ranges[leaf_node[leaf], bit, 0]
            out[start + bit, 1] = ranges[leaf_node[leaf], bit, 1]


@kernel(
    lambda t: t.void(
        t.int32[::1],
        t.uint32[::1],
        t.int64[::1],
        t.int32[::1],
        t.int32[:, ::1],
        t.int64[::1],
        t.float64[::1],
        t.float64[::1],
    )
)
def add_steps_by_paths(leaves, missed_by_case, path_starts, path_fields, ranges, first_piece, values, out):
    """Add to `out` the jumps of the sum of leaves as one field moves and the rest stay, for each field with pieces.

    The pieces of field f stand in `out` from `first_piece[f]` up to `first_piece[f + 1]`. A leaf whose path the case
    misses in one field alone is reached when that field is in its range there. The one leaf of a tree that the case
    reaches is reached by every field's pieces, but for those outside the range of a field on its path.

    Parameters
    ----------
    leaves : ndarray
        The leaves that count.
    missed_by_case : ndarray of shape (n_leaves,)
    path_starts : ndarray of shape (n_leaves + 1,)
        Where each leaf's fields begin in `path_fields`.
    path_fields : ndarray
    ranges : ndarray
    first_piece : ndarray of shape (n_fields + 1,)
        Where each field's pieces begin.
    values : ndarray
        By leaf, and by output where there are several.
    out : ndarray
        Added to, or filled, in place.
    """
    whole = 0.0
    for number in range(leaves.size):
        leaf = leaves[number]
        missed = missed_by_case[leaf]
        if missed & (missed - np.uint32(1)):
            continue
        value = values[leaf]
        if missed == 0:
            whole += value
        first, last = path_starts[leaf], path_starts[leaf + 1]
        if missed:
            first += _lowest(np.uint64(missed))
            last = first + 1
        for at in range(first, last):
            field = path_fields[at]
            start, end = first_piece[field], first_piece[field + 1]
            if start == end:
                continue
            if missed == 0:
                out[start] -= value
            low, high = start + ranges[at, 0], min(start + ranges[at, 1], end - 1)
            if low <= high:
                out[low] += value
                if high + 1 < end:
                    out[high + 1] -= value
    for field in range(first_piece.size - 1):
        if first_piece[field] < first_piece[field + 1]:
            out[first_piece[field]] += whole
