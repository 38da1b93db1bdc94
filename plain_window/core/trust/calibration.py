"""Whether probabilities come true: of the known cases given about this probability, how many turned out so.

Around each whole percent the known cases with the nearest probabilities are counted, and the share that turned out so
gets Wilson's interval [1]_. A probability is borne out where that interval holds it and is narrow enough to mean
something.

References
----------
.. [1] E. B. Wilson, "Probable Inference, the Law of Succession, and Statistical Inference", JASA 22(158), 1927.
"""

import math

import numpy as np

from .student import normal_quantile

__all__ = ["borne_out", "wilson_interval"]

NORMAL_975 = normal_quantile(0.025)
# Known cases with a probability within this of the one in question count as like it.
WINDOW = 0.075
# Fewer of them say nothing; an interval wider than this does not either.
FEWEST, WIDEST = 30, 0.3


def wilson_interval(n_true: float, n_all: float, *, beyond: float = NORMAL_975) -> tuple[float, float]:
    """The interval of a share, of 95 % if nothing else is said.

    Parameters
    ----------
    n_true, n_all : float
        How many turned out so, of how many; `n_all` above 0.
    beyond : float, optional
        How many standard errors it reaches.

    Examples
    --------
    >>> [round(end, 3) for end in wilson_interval(5, 10)]
    [0.237, 0.763]
    """
    z2 = beyond**2
    share = n_true / n_all
    middle = (share + z2 / (2 * n_all)) / (1 + z2 / n_all)
    half = beyond * math.sqrt(share * (1 - share) / n_all + z2 / (4 * n_all**2)) / (1 + z2 / n_all)
    return middle - half, middle + half


def borne_out(probabilities: np.ndarray, happened: np.ndarray) -> list[list[int]]:
    """The whole percents at which known cases bear out what the model says of one class.

    Parameters
    ----------
    probabilities : ndarray of shape (n_rows,)
        What the model gave the class, on rows it was not fitted on.
    happened : ndarray of bool, shape (n_rows,)
        Whether it was the class.

    Returns
    -------
    list of [int, int]
        Stretches of whole percents, both ends included.
    """
    good = [percent for percent in range(101) if _is_borne_out(percent / 100, probabilities, happened)]
    stretches: list[list[int]] = []
    for percent in good:
        if stretches and stretches[-1][1] == percent - 1:
            stretches[-1][1] = percent
        else:
            stretches.append([percent, percent])
    return stretches


def _is_borne_out(probability: float, probabilities: np.ndarray, happened: np.ndarray) -> bool:
    near = np.abs(probabilities - probability) <= WINDOW
    n_near = int(near.sum())
    if n_near < FEWEST:
        return False
    low, high = wilson_interval(float(happened[near].sum()), n_near)
    # The cases nearby were given other probabilities too: what they were given on average is what is borne out.
    stated = float(probabilities[near].mean())
    return high - low <= WIDEST and low <= stated <= high
