"""Contributions of any model: every coalition of fields asked, or a sample of orders with its error.

Both are interventional Shapley values [1]_: a field outside a coalition has the values of the sample rows.

References
----------
.. [1] E. Štrumbelj, I. Kononenko, "Explaining prediction models and individual predictions with feature
       contributions", Knowledge and Information Systems 41, 2014, algorithm 1 and equation 12.
"""

import math
import time
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

__all__ = ["Sampled", "enumerate_coalitions", "every_coalition", "sample_orders", "shapley_values"]

# Rows of which each takes some fields from the case and the rest from a sample row, to outputs.
Mixed = Callable[[np.ndarray, np.ndarray], np.ndarray]
# Orders walked before the clock is looked at again: fewer where there are many fields, for each takes a row a field.
ORDERS_AT_ONCE, ROWS_AT_ONCE = 25, 2000
ENOUGH_ROUNDS = 6
# The 97.5 % quantile of Student's distribution by degrees of freedom, and of the normal one.
STUDENT_975 = (
    math.inf,
    12.706,
    4.303,
    3.182,
    2.776,
    2.571,
    2.447,
    2.365,
    2.306,
    2.262,
    2.228,
    2.201,
    2.179,
    2.16,
    2.145,
)
NORMAL_975 = 1.96


@dataclass(frozen=True)
class Sampled:
    """Estimates of shape (n_fields, n_outputs), their standard errors, and how many pairs of orders were walked."""

    contributions: np.ndarray
    errors: np.ndarray
    n_pairs: int


def enumerate_coalitions(ask: Mixed, *, n_fields: int, n_sample_rows: int) -> np.ndarray:
    """Exact contributions of shape (n_fields, n_outputs).

    Parameters
    ----------
    ask : callable
        Takes `takes` of shape (n_rows, n_fields) and `rows` of shape (n_rows,), returns outputs.
    n_fields : int
        Small: there are 2 ** n_fields coalitions.
    n_sample_rows : int
    """
    takes = every_coalition(n_fields)
    # Coalitions along the first axis, sample rows along the second.
    every = np.repeat(takes, n_sample_rows, axis=0)
    outputs = ask(every, np.tile(np.arange(n_sample_rows), len(takes)))
    return shapley_values(outputs.reshape(len(takes), n_sample_rows, -1).mean(axis=1))


def every_coalition(n_fields: int) -> np.ndarray:
    """Which fields each coalition has, bool of shape (2 ** n_fields, n_fields): those whose bits its number has.

    Parameters
    ----------
    n_fields : int
        Small.
    """
    return (np.arange(1 << n_fields)[:, None] >> np.arange(n_fields)) & 1 > 0


def shapley_values(value: np.ndarray) -> np.ndarray:
    """Contributions of shape (n_fields, n_outputs) from what every coalition is worth.

    Parameters
    ----------
    value : ndarray of shape (2 ** n_fields, n_outputs)
        In the order of `every_coalition`.
    """
    n_fields = len(value).bit_length() - 1
    takes = every_coalition(n_fields)
    size = takes.sum(axis=1)
    out = np.zeros((n_fields, value.shape[1]))
    for field in range(n_fields):
        without = np.flatnonzero(~takes[:, field])
        weights = 1 / (n_fields * np.array([math.comb(n_fields - 1, int(n)) for n in size[without]]))
        out[field] = weights @ (value[without | (1 << field)] - value[without])
    return out


def sample_orders(
    ask: Mixed,
    *,
    n_fields: int,
    n_sample_rows: int,
    seed: int,
    seconds: float,
    small_error: float,
    total: np.ndarray | None = None,
    most_pairs: int | None = None,
    rows_at_once: int = ROWS_AT_ONCE,
) -> Sampled:
    """Estimated contributions from random orders, each walked forward and backward with the same sample row.

    A round meets every sample row once. What differs between rows is therefore no error, only what differs between
    rounds is; until there are enough of those the error is taken from all pairs, which is more than it is. Stops when
    the largest standard error is below `small_error`, or when the time is up.

    Parameters
    ----------
    ask : callable
        As for `enumerate_coalitions`.
    n_fields, n_sample_rows : int
    seed : int
        Same seed, same numbers, for the same number of pairs.
    seconds : float
    small_error : float
        In the answer's own unit.
    total : ndarray of shape (n_outputs,), optional
        What the contributions add up to. A round that was cut short misses that; the remainder is then spread over the
        fields in proportion to how uncertain each is, which is the likeliest way for it to have come about.
    most_pairs : int, optional
        Stop after about so many pairs, whatever the error: the clock then decides nothing, and the same seed gives the
        same numbers.
    rows_at_once : int, optional
        Rows the model is asked about together.
    """
    rng = np.random.default_rng(seed)
    deadline = time.monotonic() + seconds
    pairs, rounds = _Moments(), _Moments()
    at_once = max(2, min(ORDERS_AT_ONCE, min(rows_at_once, ROWS_AT_ONCE) // (n_fields + 1)))
    while True:
        met = _Moments()
        rows = rng.permutation(n_sample_rows)
        for start in range(0, n_sample_rows, at_once):
            some = rows[start : start + at_once]
            orders = np.argsort(rng.random((some.size, n_fields)), axis=1)
            walked = (_walk(ask, orders, some) + _walk(ask, orders[:, ::-1], some)) / 2
            pairs.add(walked)
            met.add(walked)
            if time.monotonic() > deadline and pairs.n >= 2:
                break
        else:
            rounds.add(met.mean[None])
        mean, errors = pairs.mean, pairs.standard_error()
        if rounds.n >= ENOUGH_ROUNDS:
            # A round that was cut short does not count: it has met some sample rows more often than others.
            mean, errors = rounds.mean, rounds.standard_error()
        is_over = time.monotonic() > deadline or (most_pairs is not None and pairs.n >= most_pairs)
        is_enough = rounds.n >= ENOUGH_ROUNDS and errors.max() <= small_error
        # One pair tells nothing of its error.
        if is_enough or (is_over and pairs.n >= 2):
            return Sampled(mean if total is None else _adding_up(mean, errors, total), errors, pairs.n)


def _adding_up(mean: np.ndarray, errors: np.ndarray, total: np.ndarray) -> np.ndarray:
    """Estimates that add up to `total`, which is known: normal ones, given their sum."""
    variance = np.square(errors)
    all_of_it = variance.sum(axis=0)
    shares = np.where(all_of_it > 0, variance / np.where(all_of_it > 0, all_of_it, 1.0), 1 / len(mean))
    return mean + shares * (total - mean.sum(axis=0))


class _Moments:
    """Sum and sum of squares of arrays as they come."""

    def __init__(self) -> None:
        self.n = 0
        self._total: np.ndarray | float = 0.0
        self._squares: np.ndarray | float = 0.0

    def add(self, values: np.ndarray) -> None:
        """Take several, along the first axis."""
        self.n += len(values)
        self._total = self._total + values.sum(axis=0)
        self._squares = self._squares + np.square(values).sum(axis=0)

    @property
    def mean(self) -> np.ndarray:
        """Of all so far."""
        return np.asarray(self._total / self.n)

    def standard_error(self) -> np.ndarray:
        """Of the mean."""
        variance = np.maximum(self._squares - np.square(self._total) / self.n, 0.0) / max(self.n - 1, 1)
        # Where a handful agree by chance, as they do where most steps are nothing, the other fields tell what is usual.
        variance = variance + variance.mean(axis=0) * 2 / (self.n * max(self.n - 1, 1))
        # A few tell their own spread badly; Student's factor makes up for that. From fifteen on it goes as one over n.
        free = max(1, self.n - 1)
        factor = STUDENT_975[free] / NORMAL_975 if free < len(STUDENT_975) else 1 + 1.3 / free
        return np.sqrt(variance / self.n) * factor


def _walk(ask: Mixed, orders: np.ndarray, rows: np.ndarray) -> np.ndarray:
    """What each field added when its turn came: (n_orders, n_fields, n_outputs)."""
    n_orders, n_fields = orders.shape
    turn = np.argsort(orders, axis=1)
    # Row s of an order has taken the first s fields from the case.
    takes = turn[:, None, :] < np.arange(n_fields + 1)[None, :, None]
    outputs = ask(takes.reshape(-1, n_fields), np.repeat(rows, n_fields + 1)).reshape(n_orders, n_fields + 1, -1)
    steps = np.diff(outputs, axis=1)
    return np.take_along_axis(steps, turn[:, :, None], axis=1)
