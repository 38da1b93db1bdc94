"""Of boxes that lie over one another the best: greedy non-maximum suppression, class by class.

The boxes that are kept at a score are those that are kept at a lower one and have it: whether one is suppressed hangs
on better ones only. So a page may ask once, for low scores, and leave boxes out by itself.
"""

import numpy as np

from .candidates import Candidates

__all__ = ["MOST_LOOKED_AT", "overlaps", "suppressed"]

# So many of the best are looked at; what lies behind them has a score that nobody looks for.
MOST_LOOKED_AT = 5000


def suppressed(found: Candidates, *, overlap: float, most: int) -> Candidates:
    """The best candidates, none sharing more than `overlap` of its area with a better one of its class.

    Parameters
    ----------
    found : Candidates
    overlap : float
        From 0 to 1: the area that two boxes share, divided by the area that they cover together.
    most : int
        How many are kept at most.

    Returns
    -------
    Candidates
        Best score first; of equal scores the one that came first.
    """
    order = np.argsort(-found.scores, kind="stable")[:MOST_LOOKED_AT]
    best = found.among(order)
    is_left = np.ones(len(order), dtype=bool)
    kept: list[int] = []
    for at in range(len(order)):
        if not is_left[at]:
            continue
        kept.append(at)
        if len(kept) == most:
            break
        behind = slice(at + 1, None)
        shared = overlaps(best.corners[at], best.corners[behind])
        is_left[behind] &= (shared <= overlap) | (best.classes[behind] != best.classes[at])
    return best.among(np.array(kept, dtype="int64"))


def overlaps(box: np.ndarray, others: np.ndarray) -> np.ndarray:
    """Shared area divided by the area covered together, of shape (n,); 0 for boxes without an area.

    Parameters
    ----------
    box : ndarray, shape (4,)
        Left, top, right, bottom.
    others : ndarray, shape (n, 4)
    """
    low, high = np.maximum(box[:2], others[:, :2]), np.minimum(box[2:], others[:, 2:])
    shared = np.clip(high - low, 0, None).prod(axis=1)
    together = (box[2:] - box[:2]).prod() + (others[:, 2:] - others[:, :2]).prod(axis=1) - shared
    return np.divide(shared, together, out=np.zeros(len(others)), where=together > 0)
