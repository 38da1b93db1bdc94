"""A regressor's figures."""

import math

import numpy as np

from ..trust.conformal import conformal_margin
from .figures import ErrorBin, ErrorStretch, Estimate, NumberFigures
from .intervals import mean_interval, share_of

__all__ = ["number_figures"]

MOST_BINS = 24
# Of answers against errors: so many stretches, each of so many cases at the least.
MOST_STRETCHES, FEWEST_IN_STRETCH = 10, 20
# Intervals are tried on cases that had no part in making them: so many parts take turns.
N_PARTS, SEED = 5, 20261126


def number_figures(
    values: np.ndarray, truths: np.ndarray, *, coverage: float | None, together: np.ndarray | None = None
) -> NumberFigures:
    """How a regressor did.

    Parameters
    ----------
    values : ndarray of shape (n_cases,)
    truths : ndarray of shape (n_cases,)
    coverage : float or None
        What its intervals promise; None if it has none.
    together : ndarray of int, shape (n_cases,), optional
        What each is a case of; each by itself if left out.
    """
    errors = values - truths
    held = _coverage(np.abs(errors), coverage, together) if coverage else None
    spread = float(((truths - truths.mean()) ** 2).sum())
    return NumberFigures(
        mean_absolute_error=float(np.abs(errors).mean()),
        mean_absolute_error_interval=mean_interval(np.abs(errors), together),
        root_mean_square_error=math.sqrt(float((errors**2).mean())),
        median_absolute_error=float(np.median(np.abs(errors))),
        r2=1 - float((errors**2).sum()) / spread if spread > 0 else None,
        coverage=held and held.value,
        coverage_interval=held,
        stated_coverage=coverage,
        errors=_bins(errors),
        by_prediction=_stretches(values, errors),
    )


def _coverage(errors: np.ndarray, coverage: float, together: np.ndarray | None) -> Estimate | None:
    """How often the truth lay in an interval that was made from the other parts of the cases."""
    # Cases of one thing are in one part: of what is tried, nothing was there when its interval was made.
    of_unit = np.arange(len(errors)) if together is None else np.unique(together, return_inverse=True)[1]
    parts = (np.random.default_rng(SEED).permutation(int(of_unit.max()) + 1) % N_PARTS)[of_unit]
    is_held, is_tried = np.zeros(len(errors), dtype=bool), np.zeros(len(errors), dtype=bool)
    for part in range(N_PARTS):
        own = parts == part
        others = None if together is None else together[~own]
        margin = conformal_margin(errors[~own], coverage=coverage, together=others)
        if margin is not None:
            is_held[own], is_tried[own] = errors[own] <= margin, True
    if not is_tried.any():
        return None
    return share_of(is_held[is_tried], None if together is None else together[is_tried])


def _stretches(values: np.ndarray, errors: np.ndarray) -> list[ErrorStretch]:
    """Errors against answers: stretches of answers with as many cases each, as far as their values can be parted."""
    n_stretches = min(MOST_STRETCHES, len(values) // FEWEST_IN_STRETCH)
    if n_stretches < 2:
        return []
    edges = np.unique(np.quantile(values, np.linspace(0, 1, n_stretches + 1)))
    places = np.searchsorted(edges[1:-1], values, side="left")
    stretches = []
    for place in range(max(1, len(edges) - 1)):
        own = places == place
        if own.any():
            low_error, median, high_error = np.quantile(errors[own], [0.05, 0.5, 0.95])
            stretches.append(
                ErrorStretch(
                    low=float(values[own].min()),
                    high=float(values[own].max()),
                    cases=int(own.sum()),
                    median=float(median),
                    low_error=float(low_error),
                    high_error=float(high_error),
                )
            )
    return stretches


def _bins(errors: np.ndarray) -> list[ErrorBin]:
    """Errors in stretches of one width, zero between two of them."""
    most = float(np.abs(errors).max())
    if most == 0:
        return [ErrorBin(low=0.0, high=0.0, cases=len(errors))]
    n_bins = min(MOST_BINS, max(4, 2 * round(math.sqrt(len(errors)) / 2)))
    edges = np.linspace(-most, most, n_bins + 1)
    counts, _ = np.histogram(errors, edges)
    return [
        ErrorBin(low=float(edges[at]), high=float(edges[at + 1]), cases=int(count)) for at, count in enumerate(counts)
    ]
