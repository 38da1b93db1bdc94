"""Means of what several cases amount to that are not independent, with how sure they are."""

import math
from dataclasses import dataclass

import numpy as np

from .student import normal_quantile, student_quantile

__all__ = ["Measured", "effective_trials", "is_apart", "measured", "wilson_interval"]

COVERAGE = 0.95
# So many standard errors to either side hold 95 of 100 of what is normal.
NORMAL_975 = normal_quantile((1 - COVERAGE) / 2)


@dataclass(frozen=True)
class Measured:
    """A mean error with its standard error, and the interval that goes with it."""

    mean: float
    error: float
    low: float
    high: float


def measured(
    errors: np.ndarray,
    of_unit: np.ndarray,
    of_class: np.ndarray | None = None,
    *,
    n_intervals: int = 1,
    is_share: bool = False,
    of_thing: np.ndarray | None = None,
) -> Measured:
    """The mean of rows' errors, each measured while its row was set aside, with an interval [1]_.

    Rows of one unit are not independent; its residuals are added up before they are squared [2]_. The interval of a
    share is a score interval on as many rows as that comes to [3]_: of none wrong, or few, it does not say that none
    ever will be.

    Parameters
    ----------
    errors : ndarray of shape (n_rows,)
    of_unit : ndarray of int, shape (n_rows,)
        What each row is a part of.
    of_class : ndarray of shape (n_rows,), optional
        Then it is the mean of the classes' means, each counting the same.
    n_intervals : int, default=1
        How many such intervals are to hold what they are about all at once, by Bonferroni's inequality.
    is_share : bool, default=False
        Whether errors are 1 or 0, or means of such.
    of_thing : ndarray of int, shape (n_rows,), optional
        What is a trial of its own where none goes wrong; a unit if left out.

    References
    ----------
    .. [1] P. Bayle et al., "Cross-validation Confidence Intervals for Test Error", NeurIPS 2020, section 4.
    .. [2] W. G. Cochran, "Sampling Techniques", 3rd ed., 1977, section 9A.
    .. [3] E. L. Korn and B. I. Graubard, "Confidence intervals for proportions with small expected number of positive
       counts estimated from survey data", Survey Methodology 24, 1998 (with Wilson's interval).

    Examples
    --------
    >>> found = measured(np.array([0.0, 1.0, 0.0, 1.0]), np.arange(4))
    >>> found.mean, round(found.error, 3)
    (0.5, 0.289)
    """
    groups = np.zeros(len(errors), dtype="int64") if of_class is None else np.unique(of_class, return_inverse=True)[1]
    sizes = np.bincount(groups)
    means = np.bincount(groups, weights=errors) / sizes
    mean = float(means.mean())
    residuals = (errors - means[groups]) / (sizes[groups] * len(sizes))
    sums = np.bincount(np.unique(of_unit, return_inverse=True)[1], weights=residuals)
    n_units, tail = len(sums), (1 - COVERAGE) / (2 * n_intervals)
    error = float(np.sqrt((sums @ sums) * n_units / (n_units - 1))) if n_units > 1 else float("inf")
    beyond = student_quantile(tail, max(1, n_units - 1))
    if not is_share:
        return Measured(mean, error, mean - beyond * error, mean + beyond * error)
    n_rows = _trials(np.arange(len(errors)), groups)
    if n_units == len(errors) and of_class is None:
        # Plain trials: Wilson's interval as it is known.
        n, beyond = n_rows, normal_quantile(tail)
    elif error > 0:
        # No more than if every row were a trial of its own.
        n = min(n_rows, mean * (1 - mean) / error**2)
    else:
        n = _trials(of_unit if of_thing is None else of_thing, groups)
    # Of one unit nothing follows.
    low, high = wilson_interval(mean * n, n, beyond=beyond) if n > 0 else (0.0, 1.0)
    # As if half a trial had gone otherwise: that none did does not show that none ever will.
    error = error if error > 0 else float(np.sqrt(0.5)) / n
    # Rounding must not leave the share itself outside.
    return Measured(mean, error, max(0.0, min(mean, low)), min(1.0, max(mean, high)))


def wilson_interval(n_true: float, n_all: float, *, beyond: float = NORMAL_975) -> tuple[float, float]:
    """The interval of a share [1]_, of 95 % if nothing else is said.

    Parameters
    ----------
    n_true, n_all : float
        How many turned out so, of how many; `n_all` above 0.
    beyond : float, optional
        How many standard errors it reaches.

    References
    ----------
    .. [1] E. B. Wilson, "Probable Inference, the Law of Succession, and Statistical Inference", JASA 22(158), 1927.

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


def effective_trials(happened: np.ndarray, of_unit: np.ndarray) -> float:
    """Of how many independent cases a share is as sure as it is of these [1]_.

    Parameters
    ----------
    happened : ndarray of bool, shape (n_cases,)
    of_unit : ndarray of int, shape (n_cases,)
        What each is a case of.

    References
    ----------
    .. [1] L. Kish, "Survey Sampling", 1965, section 8.2 (the design effect, here turned round).

    Examples
    --------
    >>> effective_trials(np.array([True, True, False, False]), np.array([0, 0, 1, 1]))
    2.0
    """
    n_units, share = len(np.unique(of_unit)), float(happened.mean())
    if share in (0.0, 1.0):
        # Where all go one way it cannot be seen how much cases of one thing have in common.
        return float(n_units)
    if n_units == 1:
        return 1.0
    # As they are spread here, not as they may be at large: things whose cases are all alike count as one.
    variance = measured(happened.astype("float64"), of_unit).error ** 2 * (n_units - 1) / n_units
    return float(min(len(happened), share * (1 - share) / variance)) if variance > 0 else float(len(happened))


def _trials(of_thing: np.ndarray, groups: np.ndarray) -> float:
    """Of how many trials a mean of classes' means is as sure as a plain one."""
    of_each = np.unique(of_thing, return_inverse=True)[1]
    n_each = np.bincount(np.unique(np.column_stack([groups, of_each]), axis=0)[:, 0])
    return float(len(n_each) ** 2 / (1 / n_each).sum())


def is_apart(one: Measured, other: Measured) -> bool:
    """Whether two means of different rows are further apart than chance explains, by their intervals [1]_.

    Parameters
    ----------
    one, other : Measured

    References
    ----------
    .. [1] G. Y. Zou and A. Donner, "Construction of confidence limits about effect measures", Statistics in Medicine
       27, 2008.

    Examples
    --------
    >>> is_apart(Measured(0.3, 0.05, 0.2, 0.4), Measured(0.1, 0.02, 0.06, 0.14))
    True
    """
    more, less = (one, other) if one.mean > other.mean else (other, one)
    return more.mean - less.mean > float(np.hypot(more.mean - more.low, less.high - less.mean))
