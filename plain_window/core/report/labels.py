"""The figures of one of several labels."""

import numpy as np

from .classes import calibration_bins
from .figures import LabelFigures
from .intervals import share_of

__all__ = ["label_figures"]


def label_figures(
    probabilities: np.ndarray, applied: np.ndarray, *, threshold: float, together: np.ndarray | None = None
) -> LabelFigures:
    """How a label did at its threshold.

    Parameters
    ----------
    probabilities : ndarray of shape (n_cases,)
    applied : ndarray of bool, shape (n_cases,)
    threshold : float
        From this probability on it is said to apply.
    together : ndarray of int, shape (n_cases,), optional
        What each is a case of; each by itself if left out.
    """
    said = probabilities >= threshold
    n_right, n_said, n_applied = int((said & applied).sum()), int(said.sum()), int(applied.sum())
    return LabelFigures(
        share_right=share_of(said == applied, together),
        precision=n_right / n_said if n_said else None,
        recall=n_right / n_applied if n_applied else None,
        cases=n_applied,
        calibration=calibration_bins(probabilities, applied, together),
    )
