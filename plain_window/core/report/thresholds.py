"""What a threshold does: hits, misses and false alarms at each whole percent."""

import numpy as np

from .figures import ThresholdPoint

__all__ = ["threshold_points"]


def threshold_points(probabilities: np.ndarray, happened: np.ndarray) -> list[ThresholdPoint]:
    """The counts at each whole percent from 1 to 99.

    Parameters
    ----------
    probabilities : ndarray of shape (n_cases,)
        Of the class that is said from the threshold on.
    happened : ndarray of bool, shape (n_cases,)
    """
    points = []
    for percent in range(1, 100):
        said = probabilities >= percent / 100
        points.append(
            ThresholdPoint(
                threshold=percent / 100,
                hits=int((said & happened).sum()),
                misses=int((~said & happened).sum()),
                false_alarms=int((said & ~happened).sum()),
                quiet=int((~said & ~happened).sum()),
            )
        )
    return points
