"""Split-conformal margins: how far an answer may be off, at a coverage one can choose [1]_, [2]_.

References
----------
.. [1] V. Vovk, A. Gammerman, G. Shafer, "Algorithmic Learning in a Random World", 2005, section 4.1.
.. [2] J. Lei et al., "Distribution-Free Predictive Inference for Regression", JASA 113(523), 2018, algorithm 2.
"""

import math

import numpy as np
from numpy.typing import ArrayLike

__all__ = ["class_scores", "conformal_margin"]


def conformal_margin(scores: ArrayLike, *, coverage: float) -> float | None:
    """The score that a fresh case stays at or below with probability `coverage` or more.

    Parameters
    ----------
    scores : array-like of shape (n_rows,)
        How badly the model did on rows it was not fitted on: absolute errors, or `class_scores`.
    coverage : float
        Strictly between 0 and 1.

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
    # 100 * 0.55 lands just above 55 in floats; the slack keeps ceil() at 55.
    rank = math.ceil((values.size + 1) * coverage - 1e-9)
    return float(np.partition(values, rank - 1)[rank - 1]) if rank <= values.size else None


def class_scores(probabilities: np.ndarray, classes: np.ndarray) -> np.ndarray:
    """One minus the probability given to the class that it was: shape (n_rows,).

    Parameters
    ----------
    probabilities : ndarray of shape (n_rows, n_classes)
    classes : ndarray of int, shape (n_rows,)
    """
    scores: np.ndarray = 1.0 - probabilities[np.arange(len(classes)), classes]
    return scores
