"""Whether probabilities come true: of the known cases given about this probability, how many turned out so.

Around each whole percent the known cases with the nearest probabilities are counted, and the share that turned out so
gets an interval. A probability is borne out where that interval holds it and is narrow enough to mean something.
"""

import numpy as np

from .together import measured, wilson_interval

__all__ = ["borne_out"]

# Known cases with a probability within this of the one in question count as like it.
WINDOW = 0.075
# Fewer of them say nothing; an interval wider than this does not either.
FEWEST, WIDEST = 30, 0.3


def borne_out(probabilities: np.ndarray, happened: np.ndarray, together: np.ndarray | None = None) -> list[list[int]]:
    """The whole percents at which known cases bear out what the model says of one class.

    Parameters
    ----------
    probabilities : ndarray of shape (n_rows,)
        What the model gave the class, on rows it was not fitted on.
    happened : ndarray of bool, shape (n_rows,)
        Whether it was the class.
    together : ndarray of int, shape (n_rows,), optional
        What each is a row of; each by itself if left out.

    Returns
    -------
    list of [int, int]
        Stretches of whole percents, both ends included.
    """
    good = [percent for percent in range(101) if _is_borne_out(percent / 100, probabilities, happened, together)]
    stretches: list[list[int]] = []
    for percent in good:
        if stretches and stretches[-1][1] == percent - 1:
            stretches[-1][1] = percent
        else:
            stretches.append([percent, percent])
    return stretches


def _is_borne_out(
    probability: float, probabilities: np.ndarray, happened: np.ndarray, together: np.ndarray | None
) -> bool:
    near = np.abs(probabilities - probability) <= WINDOW
    n_near = int(near.sum())
    if n_near < FEWEST:
        return False
    low, high = wilson_interval(float(happened[near].sum()), n_near)
    # Of cases that belong together it is wider, never narrower.
    if together is not None and high - low <= WIDEST:
        found = measured(happened[near].astype("float64"), together[near], is_share=True)
        low, high = found.low, found.high
    # The cases nearby were given other probabilities too: what they were given on average is what is borne out.
    stated = float(probabilities[near].mean())
    return high - low <= WIDEST and low <= stated <= high
