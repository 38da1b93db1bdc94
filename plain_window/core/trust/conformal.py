"""Split-conformal margins: how far an answer may be off, at a coverage one can choose [1]_, [2]_.

References
----------
.. [1] V. Vovk, A. Gammerman, G. Shafer, "Algorithmic Learning in a Random World", 2005, section 4.1.
.. [2] J. Lei et al., "Distribution-Free Predictive Inference for Regression", JASA 113(523), 2018, algorithm 2.
.. [3] Y. Lee, R. F. Barber, R. Willett, "Distribution-free inference with hierarchical data", 2023, section 3.
"""

import math

import numpy as np
from numpy.typing import ArrayLike

from .together import effective_trials

__all__ = ["class_scores", "conformal_margin"]


def conformal_margin(scores: ArrayLike, *, coverage: float, together: np.ndarray | None = None) -> float | None:
    """The score that a fresh case stays at or below with probability `coverage` or more.

    Where several rows are of one thing, a fresh case is of another thing, and a few things are few even with many
    rows [3]_. What is added for the fresh case is then what as many independent rows as these amount to would ask for:
    exact for rows that are independent, and for things whose rows are all alike.

    Parameters
    ----------
    scores : array-like of shape (n_rows,)
        How badly the model did on rows it was not fitted on: absolute errors, or `class_scores`.
    coverage : float
        Strictly between 0 and 1.
    together : ndarray of int, shape (n_rows,), optional
        What each is a row of; each by itself if left out.

    Returns
    -------
    float or None
        None if the rows are too few for this coverage.

    Raises
    ------
    ValueError
        If `coverage` is out of range or a score is not finite.

    Examples
    --------
    >>> conformal_margin([1, 2, 3, 4, 5, 6, 7, 8, 9], coverage=0.5)
    5.0
    """
    values = np.asarray(scores, dtype="float64")
    if not 0 < coverage < 1:
        raise ValueError(f"coverage must be strictly between 0 and 1. Got {coverage}.")
    if not np.isfinite(values).all():
        raise ValueError("scores must be finite.")
    n = values.size
    if together is not None and n > 0:
        within = values <= _at_rank(values, _rank(n * coverage))
        n_alone = effective_trials(within, together)
        rank = _rank((n_alone + 1) / n_alone * n * coverage)
    else:
        rank = _rank((n + 1) * coverage)
    return _at_rank(values, rank) if rank <= n else None


def _rank(place: float) -> int:
    # 100 * 0.55 lands just above 55 in floats; the slack keeps ceil() at 55.
    return math.ceil(place - 1e-9)


def _at_rank(values: np.ndarray, rank: int) -> float:
    return float(np.partition(values, rank - 1)[rank - 1])


def class_scores(probabilities: np.ndarray, classes: np.ndarray) -> np.ndarray:
    """One minus the probability given to the class that it was: shape (n_rows,).

    Parameters
    ----------
    probabilities : ndarray of shape (n_rows, n_classes)
    classes : ndarray of int, shape (n_rows,)
    """
    scores: np.ndarray = 1.0 - probabilities[np.arange(len(classes)), classes]
    return scores
