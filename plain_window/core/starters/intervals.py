"""Errors on rows that a model had not seen: how sure they are, and which model that lets one choose."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import pandas as pd
from scipy import stats

__all__ = ["Measured", "errors_of", "is_apart", "measured", "plainest_within_one", "stretches"]

COVERAGE = 0.95
# Rows in order of time are taken in so many stretches: of twenty, spells of some weeks in two years were still seen as
# chance, and of 100 intervals 82 held what they were about; of ten 90.
MOST_STRETCHES = 10


@dataclass(frozen=True)
class Measured:
    """A mean error with its standard error, and the interval that goes with it."""

    mean: float
    error: float
    low: float
    high: float


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
    n_units = len(sums)
    error = float(np.sqrt((sums @ sums) * n_units / (n_units - 1))) if n_units > 1 else float("inf")
    beyond = float(stats.t.ppf(1 - (1 - COVERAGE) / (2 * n_intervals), max(1, n_units - 1)))
    if not is_share:
        return Measured(mean, error, mean - beyond * error, mean + beyond * error)
    if error > 0:
        # No more than if every row were a trial of its own.
        n = min(_trials(np.arange(len(errors)), groups), mean * (1 - mean) / error**2)
        return Measured(mean, error, *_score_interval(mean, n, beyond))
    n = _trials(of_unit if of_thing is None else of_thing, groups)
    # As if half a trial had gone otherwise: that none did does not show that none ever will.
    return Measured(mean, float(np.sqrt(0.5)) / n, *_score_interval(mean, n, beyond))


def _trials(of_thing: np.ndarray, groups: np.ndarray) -> float:
    """Of how many trials a mean of classes' means is as sure as a plain one."""
    n_each = pd.DataFrame({"thing": of_thing, "class": groups}).groupby("class")["thing"].nunique().to_numpy()
    return float(len(n_each) ** 2 / (1 / n_each).sum())


def _score_interval(share: float, n: float, beyond: float) -> tuple[float, float]:
    """Wilson's, at `beyond` standard errors, of `n` trials."""
    middle = (share + beyond**2 / (2 * n)) / (1 + beyond**2 / n)
    half = beyond / (1 + beyond**2 / n) * float(np.sqrt(share * (1 - share) / n + beyond**2 / (4 * n * n)))
    # Rounding must not leave the share itself outside.
    return max(0.0, min(share, middle - half)), min(1.0, max(share, middle + half))


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
