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
    left = np.arange(len(order))
    areas = (best.corners[:, 2:] - best.corners[:, :2]).prod(axis=1)
    kept: list[int] = []
    while len(left) and len(kept) < most:
        at, left = left[0], left[1:]
        kept.append(int(at))
        shared = _overlaps(best.corners[at], areas[at], best.corners[left], areas[left])
        left = left[(shared <= overlap) | (best.classes[left] != best.classes[at])]
    return best.among(np.array(kept, dtype="int64"))


def overlaps(box: np.ndarray, others: np.ndarray) -> np.ndarray:
    """Shared area divided by the area covered together, of shape (n,); 0 for boxes without an area.

    Parameters
    ----------
    box : ndarray, shape (4,)
        Left, top, right, bottom.
    others : ndarray, shape (n, 4)
    """
    areas = (others[:, 2:] - others[:, :2]).prod(axis=1)
    return _overlaps(box, float((box[2:] - box[:2]).prod()), others, areas)


def _overlaps(box: np.ndarray, area: float, others: np.ndarray, areas: np.ndarray) -> np.ndarray:
    across = np.minimum(box[2], others[:, 2]) - np.maximum(box[0], others[:, 0])
    down = np.minimum(box[3], others[:, 3]) - np.maximum(box[1], others[:, 1])
    shared = np.maximum(across, 0) * np.maximum(down, 0)
    together = area + areas - shared
    return np.divide(shared, together, out=np.zeros(len(others)), where=together > 0)
