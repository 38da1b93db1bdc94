"""Classes against each other: votes of pairs, their probabilities, the median of several opinions."""

import numpy as np

from .registry import Arrays, Blocks, Columns, Settings, every_number, need, operation

__all__: list[str] = []

# libsvm keeps each pair's probability this far from 0 and 1, and stops when no class is off by more than this.
PAIR_BOUND = 1e-7
PAIR_ERROR = 0.005
PAIR_ROUNDS = 100


def _column_only(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    need(widths == [1], "one column is wanted")
    return 2


@operation("with_complement", _column_only, effort=every_number)
def _with_complement(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """(1 − p, p) for a column of p."""
    return np.concatenate([1 - blocks[0], blocks[0]], axis=1)


@operation("sign_class", _column_only, effort=every_number)
def _sign_class(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """1 at the first of two classes for a score at most 0, at the second above."""
    above = (blocks[0] > 0).astype("float64")
    return np.concatenate([1 - above, above], axis=1)


def _pairs(n_classes: int) -> list[tuple[int, int]]:
    return [(i, j) for i in range(n_classes) for j in range(i + 1, n_classes)]


def _pairs_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    n_classes = int(settings["n_classes"])
    need(n_classes >= 2 and widths == [len(_pairs(n_classes))], "each pair of classes wants a column")
    return n_classes


@operation("pair_votes", _pairs_width)
def _pair_votes(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """1 at the class most pairs decide for; a pair's column is above 0 where it decides for its first class."""
    votes = np.zeros((len(blocks[0]), int(settings["n_classes"])))
    for at, (i, j) in enumerate(_pairs(votes.shape[1])):
        first = blocks[0][:, at] > 0
        votes[:, i] += first
        votes[:, j] += ~first
    return (np.arange(votes.shape[1]) == votes.argmax(axis=1)[:, None]).astype("float64")


@operation("pair_scores", _pairs_width)
def _pair_scores(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """One score a class: its votes, and its confidence pressed into a third of a vote to break ties."""
    votes = np.zeros((len(blocks[0]), int(settings["n_classes"])))
    confidence = np.zeros_like(votes)
    for at, (i, j) in enumerate(_pairs(votes.shape[1])):
        column = blocks[0][:, at]
        confidence[:, i] += column
        confidence[:, j] -= column
        # Here a decision of exactly nothing is for the first class.
        votes[:, i] += ~(column < 0)
        votes[:, j] += column < 0
    return votes + confidence / (3 * (np.abs(confidence) + 1))


def _pair_sigmoids_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    need(arrays["slope"].shape == arrays["shift"].shape == (widths[0],), "each pair wants a slope and a shift")
    return _pairs_width(widths, arrays, settings)


@operation("pair_probabilities", _pair_sigmoids_width)
def _pair_probabilities(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Probabilities of classes from those of pairs, by the second method of Wu, Lin and Weng [1]_.

    Stopped where libsvm stops, so that the results are the same.

    References
    ----------
    .. [1] T.-F. Wu, C.-J. Lin, R. C. Weng, "Probability Estimates for Multi-class Classification by Pairwise
           Coupling", JMLR 5, 2004, algorithm 2.
    """
    n_classes = int(settings["n_classes"])
    exponent = blocks[0] * arrays["slope"] + arrays["shift"]
    small = np.exp(-np.abs(exponent))
    first = np.where(exponent >= 0, small / (1 + small), 1 / (1 + small))
    first = np.clip(first, PAIR_BOUND, 1 - PAIR_BOUND)
    n_rows = len(first)
    r = np.zeros((n_rows, n_classes, n_classes))
    for at, (i, j) in enumerate(_pairs(n_classes)):
        r[:, i, j], r[:, j, i] = first[:, at], 1 - first[:, at]
    q = -np.swapaxes(r, 1, 2) * r
    diagonal = np.arange(n_classes)
    q[:, diagonal, diagonal] = (r**2).sum(axis=1)
    p = np.full((n_rows, n_classes), 1 / n_classes)
    going = np.arange(n_rows)
    for _ in range(max(PAIR_ROUNDS, n_classes)):
        qp = np.einsum("rtj,rj->rt", q[going], p[going])
        pqp = (p[going] * qp).sum(axis=1)
        off = np.abs(qp - pqp[:, None]).max(axis=1) >= PAIR_ERROR / n_classes
        going, qp, pqp = going[off], qp[off], pqp[off]
        if not going.size:
            break
        p[going] = _coupling_round(q[going], p[going], qp, pqp)
    return p


def _coupling_round(q: np.ndarray, p: np.ndarray, qp: np.ndarray, pqp: np.ndarray) -> np.ndarray:
    """One round over all classes: each in turn is moved to where its own error is nothing."""
    for t in range(p.shape[1]):
        own = q[:, t, t]
        step = (pqp - qp[:, t]) / own
        p[:, t] += step
        pqp = (pqp + step * (step * own + 2 * qp[:, t])) / (1 + step) / (1 + step)
        qp = (qp + step[:, None] * q[:, t]) / (1 + step)[:, None]
        p = p / (1 + step)[:, None]
    return p


def _median_width(widths: list[int], arrays: Arrays, settings: Settings) -> int:
    need(len(widths) == 1 and arrays["weights"].shape == (widths[0],), "each opinion wants a weight")
    return 1


@operation("weighted_median", _median_width)
def _weighted_median(blocks: Blocks, arrays: Arrays, settings: Settings, columns: Columns) -> np.ndarray:
    """Of the opinions in ascending order, the one at which half of all weight is reached."""
    order = np.argsort(blocks[0], axis=1)
    reached = np.cumsum(arrays["weights"][order], axis=1)
    middle = (reached >= 0.5 * reached[:, -1:]).argmax(axis=1)
    chosen = np.take_along_axis(order, middle[:, None], axis=1)
    return np.take_along_axis(blocks[0], chosen, axis=1)
