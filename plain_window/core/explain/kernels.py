"""Hot loops for forests too large for `path_kernels`: walking a case and its sample down trees together.

Kernels trust what they are given, as those of `compiled.kernels` do, raise nothing and allocate nothing: scratch space
comes in from outside. Sample rows are carried as sets, a bit a row, so that rows which agree are walked once.
"""

import numpy as np

from ..plan.kernels import BY_SET, FEATURE_BITS, MISSING_LEFT, NODE
from ..plan.machine_code import helper, kernel

__all__ = [
    "FRAME_NUMBERS",
    "add_contributions",
    "add_steps",
    "count_bits",
    "goes_left",
    "mark_rows_going_left",
]

# What a frame of the walk keeps: node, stage, whether its field is new on the path, whether the case held, its side.
FRAME_NUMBERS = 5


def _trees(t):
    """Roots, nodes, and the sets nodes may split by."""
    return t.int32[::1], t.from_dtype(NODE)[::1], t.int32[::1], t.uint8[::1], t.uint8[::1]


@helper
def goes_left(value, feature, threshold, set_starts, goes_left_sets, strangers_left):
    """Which side a value goes at a node, whatever it is and however the node splits.

    Parameters
    ----------
    value : float64
        What the row has in the node's column.
    feature : int
        The node's column, with its flags.
    threshold : float64
        The node's threshold, or the number of its set.
    set_starts : ndarray of shape (n_sets + 1,)
        Where each set begins in `goes_left_sets`.
    goes_left_sets : ndarray
        By code, whether it goes left.
    strangers_left : ndarray of shape (n_sets,)
        Whether other codes go left.
    """
    if value != value:
        return feature >= MISSING_LEFT
    if feature & BY_SET:
        number = int(threshold)
        start = set_starts[number]
        if value < 0.0 or value >= set_starts[number + 1] - start:
            return strangers_left[number] > 0
        return goes_left_sets[start + int(value)] > 0
    return value <= threshold


@helper
def _goes_left(value, node, nodes, set_starts, goes_left_sets, strangers_left):
    return goes_left(value, nodes[node].feature, nodes[node].threshold, set_starts, goes_left_sets, strangers_left)


@kernel(lambda t: t.void(t.float64[:, ::1], *_trees(t), t.uint64[:, ::1]))
def mark_rows_going_left(x, roots, nodes, set_starts, goes_left_sets, strangers_left, left_rows):
    """For every inner node the set of rows of `x` that go left there: bit r of `left_rows[node]`.

    Parameters
    ----------
    x : ndarray
        What the trees are given: a row, or rows, of columns.
    roots : ndarray of shape (n_trees,)
        Where trees begin.
    nodes : ndarray of NODE
    set_starts : ndarray of shape (n_sets + 1,)
        Where each set begins in `goes_left_sets`.
    goes_left_sets : ndarray
        By code, whether it goes left.
    strangers_left : ndarray of shape (n_sets,)
        Whether other codes go left.
    left_rows : ndarray of shape (n_nodes, n_words)
        A bit a sample row.
    """
    for node in range(nodes.size):
        feature = nodes[node].feature
        if feature < 0:
            continue
        column = feature & FEATURE_BITS
        for row in range(x.shape[0]):
            if _goes_left(x[row, column], node, nodes, set_starts, goes_left_sets, strangers_left):
                left_rows[node, row >> 6] |= np.uint64(1) << np.uint64(row & 63)


@helper
def count_bits(word):
    """How many bits of a word are set.

    Parameters
    ----------
    word : uint64
    """
    # As in Warren, Hacker's Delight, figure 5-2; the compiler knows it for one instruction.
    word = word - ((word >> np.uint64(1)) & np.uint64(0x5555555555555555))
    word = (word & np.uint64(0x3333333333333333)) + ((word >> np.uint64(2)) & np.uint64(0x3333333333333333))
    word = (word + (word >> np.uint64(4))) & np.uint64(0x0F0F0F0F0F0F0F0F)
    return np.int64((word * np.uint64(0x0101010101010101)) >> np.uint64(56))


@helper
def _leaf_shares(alive, depth, path, x_holds, z_holds, weights, planes, shares):
    """What one leaf adds to each field on its path, as a multiple of its value, summed over sample rows.

    For a sample row a leaf is reached by exactly those coalitions that hold the fields only the case agrees with
    (there are `a`) and none of those only the row agrees with (`b`). Its value then counts (a − 1)! b! / (a + b)! for
    each of the former, and −a! (b − 1)! / (a + b)! for each of the latter. Sixty-four rows are counted at once: bit p
    of their `a` stands in `planes[p]`.
    """
    b, most = 0, 0
    for at in range(depth):
        shares[path[at]] = 0.0
        if x_holds[path[at]]:
            most += 1
        else:
            b += 1
    n_planes = 0
    while (1 << n_planes) <= most:
        n_planes += 1
    minus = 0.0
    for word in range(alive.size):
        rows = alive[word]
        if not rows:
            continue
        for plane in range(n_planes):
            planes[plane] = np.uint64(0)
        for at in range(depth):
            if x_holds[path[at]]:
                carry = rows & ~z_holds[path[at], word]
                plane = 0
                while carry:
                    planes[plane], carry = planes[plane] ^ carry, planes[plane] & carry
                    plane += 1
        for a in range(most + 1):
            if a + b == 0:
                continue
            same = rows
            for plane in range(n_planes):
                same &= planes[plane] if (a >> plane) & 1 else ~planes[plane]
            if not same:
                continue
            minus += weights[a, b, 1] * count_bits(same)
            plus = weights[a, b, 0]
            for at in range(depth):
                field = path[at]
                if x_holds[field]:
                    shares[field] += plus * count_bits(same & ~z_holds[field, word])
    for at in range(depth):
        if not x_holds[path[at]]:
            shares[path[at]] = -minus


@helper
def _next_parting(node, level, x, case, trees, field_of_column, left_rows, alive, holds, z_holds):
    """Down from `node` as long as the case and all rows that are alive go together; where they part, or the leaf."""
    nodes, set_starts, goes_left_sets, strangers_left = trees
    feature = nodes[node].feature
    while feature >= 0:
        column = feature & FEATURE_BITS
        field = field_of_column[column]
        left, right = np.uint64(0), np.uint64(0)
        free = not holds[1, field]
        if free or holds[0, field]:
            x_left = _goes_left(x[case, column], node, nodes, set_starts, goes_left_sets, strangers_left)
            for word in range(left_rows.shape[1]):
                rows = alive[level, word] if free else alive[level, word] & z_holds[field, word]
                left |= rows & left_rows[node, word]
                right |= rows & ~left_rows[node, word]
            if x_left:
                left = np.uint64(1)
            else:
                right = np.uint64(1)
        else:
            # The case is out of the play for this field: only the rows decide.
            for word in range(left_rows.shape[1]):
                left |= alive[level, word] & left_rows[node, word]
                right |= alive[level, word] & ~left_rows[node, word]
        if left and right:
            return node
        node = nodes[node].left + (0 if left else 1)
        feature = nodes[node].feature
    return node


@helper
def _add_leaf(out, case, depth, path, shares, values, leaf, output):
    for at in range(depth):
        field = path[at]
        if output >= 0:
            out[case, field, output] += shares[field] * values[leaf, 0]
        else:
            for other in range(values.shape[1]):
                out[case, field, other] += shares[field] * values[leaf, other]


@kernel(
    lambda t: t.void(
        t.float64[:, ::1],
        *_trees(t),
        t.int64[::1],
        t.uint64[:, ::1],
        t.uint64[::1],
        t.float64[:, ::1],
        t.int32[::1],
        t.float64[:, :, ::1],
        t.int64[:, ::1],
        t.uint64[:, ::1],
        t.uint64[:, ::1],
        t.int64[::1],
        t.uint8[:, ::1],
        t.uint64[:, ::1],
        t.uint64[::1],
        t.float64[::1],
        t.float64[:, :, ::1],
    )
)
def add_contributions(
    x,
    roots,
    nodes,
    set_starts,
    goes_left_sets,
    strangers_left,
    field_of_column,
    left_rows,
    all_rows,
    values,
    tree_output,
    weights,
    frames,
    saved,
    alive,
    path,
    holds,
    z_holds,
    planes,
    shares,
    out,
):
    """Add each field's contribution, summed over trees and sample rows, to `out[case, field, output]`.

    A walk keeps a frame only where the case and some sample row part, and goes down to both sides there. On the way
    it keeps, for each field they parted on, whether the case meets all its conditions (`holds[0]`) and which rows do
    (`z_holds`); `alive` are the rows for which some coalition gets here. `holds[1]` marks those fields.

    Parameters
    ----------
    x : ndarray
        What the trees are given: a row, or rows, of columns.
    roots : ndarray of shape (n_trees,)
        Where trees begin.
    nodes : ndarray of NODE
    set_starts : ndarray of shape (n_sets + 1,)
        Where each set begins in `goes_left_sets`.
    goes_left_sets : ndarray
        By code, whether it goes left.
    strangers_left : ndarray of shape (n_sets,)
        Whether other codes go left.
    field_of_column : ndarray of shape (n_columns,)
    left_rows : ndarray of shape (n_nodes, n_words)
        A bit a sample row.
    all_rows : ndarray of shape (n_words,)
        A bit for each row there is.
    values : ndarray
        By leaf, and by output where there are several.
    tree_output : ndarray of shape (n_trees,)
        The output each tree is about; negative for all.
    weights : ndarray
        As `patterns.coalition_weights` has them.
    frames : ndarray
        Scratch.
    saved : ndarray
        Scratch.
    alive : ndarray
        Scratch.
    path : ndarray
        Scratch.
    holds : ndarray
        Scratch, zero.
    z_holds : ndarray
        Scratch.
    planes : ndarray
        Scratch.
    shares : ndarray
        Scratch.
    out : ndarray
        Added to, or filled, in place.
    """
    n_words = all_rows.size
    trees = (nodes, set_starts, goes_left_sets, strangers_left)
    for case in range(x.shape[0]):
        for tree in range(roots.size):
            depth, level = 0, 0
            frames[0, 0], frames[0, 1] = roots[tree], 0
            for word in range(n_words):
                alive[0, word] = all_rows[word]
            # Invariant: each stage of a frame is entered once, and its children lie below it; so the walk ends.
            while level >= 0:
                stage = frames[level, 1]
                if stage == 0:
                    node = _next_parting(
                        frames[level, 0], level, x, case, trees, field_of_column, left_rows, alive, holds, z_holds
                    )
                    if nodes[node].feature < 0:
                        _leaf_shares(alive[level], depth, path, holds[0], z_holds, weights, planes, shares)
                        _add_leaf(out, case, depth, path, shares, values, nodes[node].left, tree_output[tree])
                        level -= 1
                        continue
                    frames[level, 0] = node
                node = frames[level, 0]
                column = nodes[node].feature & FEATURE_BITS
                field = field_of_column[column]
                if stage == 0:
                    frames[level, 2] = 0 if holds[1, field] else 1
                    if not holds[1, field]:
                        holds[1, field], holds[0, field] = 1, 1
                        path[depth] = field
                        depth += 1
                        for word in range(n_words):
                            z_holds[field, word] = all_rows[word]
                    frames[level, 3] = holds[0, field]
                    for word in range(n_words):
                        saved[level, word] = z_holds[field, word]
                    frames[level, 4] = _goes_left(
                        x[case, column], node, nodes, set_starts, goes_left_sets, strangers_left
                    )
                elif stage == 2:
                    holds[0, field] = frames[level, 3]
                    for word in range(n_words):
                        z_holds[field, word] = saved[level, word]
                    if frames[level, 2]:
                        holds[1, field] = 0
                        depth -= 1
                    level -= 1
                    continue
                frames[level, 1] = stage + 1
                x_holds = 1 if frames[level, 3] and (frames[level, 4] == 1) == (stage == 0) else 0
                holds[0, field] = x_holds
                anyone = np.uint64(0)
                for word in range(n_words):
                    rows = left_rows[node, word] if stage == 0 else ~left_rows[node, word]
                    z_holds[field, word] = saved[level, word] & rows
                    still = alive[level, word] if x_holds else alive[level, word] & z_holds[field, word]
                    alive[level + 1, word] = still
                    anyone |= still
                if anyone:
                    level += 1
                    frames[level, 0] = nodes[node].left + stage
                    frames[level, 1] = 0


@helper
def _leaf_of(x, node, nodes, set_starts, goes_left_sets, strangers_left):
    feature = nodes[node].feature
    while feature >= 0:
        goes_left = _goes_left(x[feature & FEATURE_BITS], node, nodes, set_starts, goes_left_sets, strangers_left)
        node = nodes[node].left + (0 if goes_left else 1)
        feature = nodes[node].feature
    return nodes[node].left


@helper
def _add_jump(out, piece, values, leaf, output, sign):
    if output >= 0:
        out[piece, output] += sign * values[leaf, 0]
    else:
        for other in range(values.shape[1]):
            out[piece, other] += sign * values[leaf, other]


@kernel(
    lambda t: t.void(
        t.float64[::1],
        *_trees(t),
        t.int64[::1],
        t.uint8[:, ::1],
        t.int64[::1],
        t.int64[::1],
        t.float64[:, ::1],
        t.int32[::1],
        t.int64[:, ::1],
        t.float64[:, ::1],
    )
)
def add_steps(
    x,
    roots,
    nodes,
    set_starts,
    goes_left_sets,
    strangers_left,
    field_of_column,
    has_field,
    first_piece,
    rank,
    values,
    tree_output,
    frames,
    out,
):
    """Add to `out` the jumps of the sum of leaves as one field moves and the rest stay, for each field.

    The pieces of field f are the rows of `out` from `first_piece[f]` up to `first_piece[f + 1]`; a field without pieces
    is passed over. `rank[node]` is the place of a node's threshold among those of its field: with the field in its
    piece p a row goes left if p is at most that. Of a node of the field both sides are walked, each with the pieces
    that lead there. `has_field[tree, f]` tells whether the field is asked anywhere in a tree.

    Parameters
    ----------
    x : ndarray
        What the trees are given: a row, or rows, of columns.
    roots : ndarray of shape (n_trees,)
        Where trees begin.
    nodes : ndarray of NODE
    set_starts : ndarray of shape (n_sets + 1,)
        Where each set begins in `goes_left_sets`.
    goes_left_sets : ndarray
        By code, whether it goes left.
    strangers_left : ndarray of shape (n_sets,)
        Whether other codes go left.
    field_of_column : ndarray of shape (n_columns,)
    has_field : ndarray of shape (n_trees, n_fields)
    first_piece : ndarray of shape (n_fields + 1,)
        Where each field's pieces begin.
    rank : ndarray of shape (n_nodes,)
    values : ndarray
        By leaf, and by output where there are several.
    tree_output : ndarray of shape (n_trees,)
        The output each tree is about; negative for all.
    frames : ndarray
        Scratch.
    out : ndarray
        Added to, or filled, in place.
    """
    for tree in range(roots.size):
        output = tree_output[tree]
        usual = _leaf_of(x, np.int64(roots[tree]), nodes, set_starts, goes_left_sets, strangers_left)
        for field in range(first_piece.size - 1):
            start, n_pieces = first_piece[field], first_piece[field + 1] - first_piece[field]
            if n_pieces == 0:
                continue
            if not has_field[tree, field]:
                _add_jump(out, start, values, usual, output, 1.0)
                continue
            top = 0
            frames[0, 0], frames[0, 1], frames[0, 2] = roots[tree], 0, n_pieces - 1
            # Invariant: each entry of the stack is a node of the tree nobody has looked at, with its pieces.
            while top >= 0:
                node, first, last = frames[top, 0], frames[top, 1], frames[top, 2]
                top -= 1
                feature = nodes[node].feature
                while feature >= 0:
                    column = feature & FEATURE_BITS
                    split = rank[node]
                    if field_of_column[column] != field:
                        goes_left = _goes_left(x[column], node, nodes, set_starts, goes_left_sets, strangers_left)
                        node = nodes[node].left + (0 if goes_left else 1)
                    elif split >= first and split < last:
                        top += 1
                        frames[top, 0], frames[top, 1], frames[top, 2] = nodes[node].left + 1, split + 1, last
                        last = split
                        node = nodes[node].left
                    else:
                        node = nodes[node].left + (0 if last <= split else 1)
                    feature = nodes[node].feature
                leaf = nodes[node].left
                _add_jump(out, start + first, values, leaf, output, 1.0)
                if last + 1 < n_pieces:
                    _add_jump(out, start + last + 1, values, leaf, output, -1.0)
