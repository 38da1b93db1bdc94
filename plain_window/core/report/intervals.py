"""How sure a share or a mean of known cases is; cases of one thing go wrong together, and count as one."""

import numpy as np

from ..trust.together import measured, wilson_interval
from .figures import Estimate

__all__ = ["mean_interval", "share_interval", "share_of"]


def share_interval(n_true: int, n_all: int) -> Estimate:
    """A share with its interval.

    Parameters
    ----------
    n_true, n_all : int
        How many, of how many; `n_all` above 0.
    """
    low, high = wilson_interval(n_true, n_all)
    return Estimate(value=n_true / n_all, low=max(0.0, low), high=min(1.0, high))


def share_of(happened: np.ndarray, together: np.ndarray | None = None) -> Estimate:
    """The share of cases of which it is so, with its interval.

    Parameters
    ----------
    happened : ndarray of bool, shape (n_cases,)
        At least one.
    together : ndarray of int, shape (n_cases,), optional
        What each is a case of; each by itself if left out.

    Examples
    --------
    >>> share_of(np.array([True, False])).value
    0.5
    """
    if together is None:
        return share_interval(int(happened.sum()), len(happened))
    found = measured(happened.astype("float64"), together, is_share=True)
    return Estimate(value=found.mean, low=found.low, high=found.high)


def mean_interval(values: np.ndarray, together: np.ndarray | None = None) -> Estimate | None:
    """A mean of what is never negative with its interval, by Student's t; None for one case, or for cases of one thing.

    Parameters
    ----------
    values : ndarray of shape (n_cases,)
    together : ndarray of int, shape (n_cases,), optional
        What each is a case of; each by itself if left out.
    """
    of_unit = np.arange(len(values)) if together is None else together
    if len(np.unique(of_unit)) < 2:
        return None
    found = measured(values, of_unit)
    return Estimate(value=found.mean, low=max(0.0, found.low), high=found.high)
