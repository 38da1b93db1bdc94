"""The figures of one of several labels."""

import numpy as np

from .classes import calibration_bins, share_interval
from .figures import LabelFigures

__all__ = ["label_figures"]


def label_figures(probabilities: np.ndarray, applied: np.ndarray, *, threshold: float) -> LabelFigures:
    """How a label did at its threshold.

    Parameters
    ----------
    probabilities : ndarray of shape (n_cases,)
    applied : ndarray of bool, shape (n_cases,)
    threshold : float
        From this probability on it is said to apply.
    """
    said = probabilities >= threshold
    n_right, n_said, n_applied = int((said & applied).sum()), int(said.sum()), int(applied.sum())
    return LabelFigures(
        share_right=share_interval(int((said == applied).sum()), len(applied)),
        precision=n_right / n_said if n_said else None,
        recall=n_right / n_applied if n_applied else None,
        cases=n_applied,
        calibration=calibration_bins(probabilities, applied),
    )
