"""Errors on rows that a model had not seen, and which model that lets one choose."""

from collections.abc import Sequence

import numpy as np

from ..trust.together import Measured

__all__ = ["errors_of", "plainest_within_one", "stretches"]

# Rows in order of time are taken in so many stretches: of twenty, spells of some weeks in two years were still seen as
# chance, and of 100 intervals 82 held what they were about; of ten 90.
MOST_STRETCHES = 10


def errors_of(said: np.ndarray, happened: np.ndarray, *, is_class: bool) -> np.ndarray:
    """By row whether it was said wrongly (1 or 0), or how far off.

    Parameters
    ----------
    said, happened : ndarray of shape (n_rows,)
    is_class : bool
    """
    if is_class:
        return np.asarray((said != happened).astype("float64"))
    return np.asarray(np.abs(said.astype("float64") - happened.astype("float64")))


def stretches(moments: np.ndarray, *, most: int = MOST_STRETCHES) -> np.ndarray:
    """By row the stretch of time it lies in: what is near in time goes wrong together, and counts as one [1]_.

    Parameters
    ----------
    moments : ndarray of shape (n_rows,)
        Rows of the same moment lie in the same stretch.
    most : int, optional
        How many stretches there are at most, of about as many rows each.

    References
    ----------
    .. [1] A. M. Law, "Simulation Modeling and Analysis", 5th ed., 2015, section 9.5.3 (batch means).

    Examples
    --------
    >>> stretches(np.array([7, 1, 1, 3, 9, 9]), most=3).tolist()
    [1, 0, 0, 1, 2, 2]
    """
    _, at, counts = np.unique(moments, return_inverse=True, return_counts=True)
    middles = np.cumsum(counts) - counts / 2
    return np.asarray((middles * min(most, len(counts)) / len(moments)).astype("int64")[at])


def plainest_within_one(found: Sequence[Measured]) -> int:
    """Place of the first whose mean error is within one standard error of the best [1]_.

    Parameters
    ----------
    found : sequence of Measured
        The plainest first.

    References
    ----------
    .. [1] L. Breiman et al., "Classification and Regression Trees", 1984, section 3.4.3.

    Examples
    --------
    >>> plainest_within_one([Measured(3.0, 0.5, 2, 4), Measured(2.2, 0.3, 2, 3), Measured(2.0, 0.4, 1, 3)])
    1
    """
    best = min(found, key=lambda one: one.mean)
    return next(at for at, one in enumerate(found) if one.mean <= best.mean + best.error)
