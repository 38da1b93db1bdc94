"""For a model without feature names: do the table's columns stand in the order it was trained with?

With outcomes, the model is asked again with columns exchanged: an order under which it does much better is the one it
was trained with. Without, only its author can tell, from a few rows whose answers the notebook has.
"""

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from time import monotonic

import numpy as np
import pandas as pd
from pandas.api import types as dtypes

from ..errors import ModelFailed

__all__ = ["OrderFit", "compare_orders"]

MOST_ROWS = 200
SEARCH_SECONDS = 8.0
# Another order is believed only if its error is at most this share of the error as given.
CLEARLY_BETTER = 0.8
# From fewer rows nothing is concluded.
FEWEST_ROWS = 20


@dataclass(frozen=True)
class OrderFit:
    """The error with the columns as they stand, and in the best order that was found: a share wrong, or how far off."""

    as_given: float
    best: float
    order: list[str]
    n_rows: int
    is_class: bool

    @property
    def fits(self) -> bool:
        """Whether no other order does clearly better."""
        return self.best > CLEARLY_BETTER * self.as_given or self.as_given - self.best < 2 / self.n_rows


def compare_orders(
    predict: Callable[[pd.DataFrame], np.ndarray],
    table: pd.DataFrame,
    names: Sequence[str],
    truth: np.ndarray,
    *,
    is_class: bool,
) -> OrderFit | None:
    """How well the model does with the columns as given, and with columns exchanged; None without enough outcomes.

    Parameters
    ----------
    predict : callable
        From a table with the columns `names` to outputs of shape (n_rows, n_outputs).
    table : DataFrame of shape (n_rows, ...)
    names : sequence of str
        The model's columns as the table has them.
    truth : ndarray of shape (n_rows,) or (n_rows, n_outputs)
        Places of classes, or numbers; NaN where nothing is known.
    is_class : bool
    """
    has = np.isfinite(truth) if truth.ndim == 1 else np.isfinite(truth).all(axis=1)
    rows = table.loc[has, list(names)].head(MOST_ROWS)
    known = truth[has][:MOST_ROWS]
    complete = rows.notna().all(axis=1).to_numpy()
    rows, known = rows[complete], known[complete]
    if len(rows) < FEWEST_ROWS:
        return None
    search = _Search(predict, rows, known, is_class=is_class)
    return search.run()


class _Search:
    """Exchanges two columns as long as that helps, from the order as given and from others that are usual."""

    def __init__(
        self, predict: Callable[[pd.DataFrame], np.ndarray], rows: pd.DataFrame, truth: np.ndarray, *, is_class: bool
    ) -> None:
        self._predict, self._rows, self._truth, self._is_class = predict, rows, truth, is_class
        self._names = list(rows.columns)
        self._known: dict[tuple[int, ...], float] = {}
        self._deadline = monotonic() + SEARCH_SECONDS
        # Columns of words are never taken for numbers.
        self._is_number = [dtypes.is_numeric_dtype(rows[name]) for name in self._names]

    def run(self) -> OrderFit | None:
        own = tuple(range(len(self._names)))
        as_given = self._error(own)
        if not np.isfinite(as_given):
            return None
        starts = [own, *self._usual_orders()]
        best = min(starts, key=self._error)
        best = self._descend(best)
        if best != own:
            also = self._descend(own)
            best = min(best, also, key=self._error)
        return OrderFit(as_given, self._error(best), [self._names[at] for at in best], len(self._rows), self._is_class)

    def _usual_orders(self) -> list[tuple[int, ...]]:
        """By name, backwards, and with the first column at the end or the last in front."""
        n = len(self._names)
        by_name = tuple(sorted(range(n), key=lambda at: self._names[at].casefold()))
        every = [by_name, by_name[::-1], tuple(range(n))[::-1], (*range(1, n), 0), (n - 1, *range(n - 1))]
        return [order for order in dict.fromkeys(every) if self._is_allowed(order)]

    def _is_allowed(self, order: tuple[int, ...]) -> bool:
        return all(self._is_number[at] == self._is_number[place] for place, at in enumerate(order))

    def _descend(self, order: tuple[int, ...]) -> tuple[int, ...]:
        while monotonic() < self._deadline:
            others = []
            for one, two in itertools.combinations(range(len(order)), 2):
                if monotonic() > self._deadline:
                    break
                swapped = list(order)
                swapped[one], swapped[two] = swapped[two], swapped[one]
                if self._is_allowed(tuple(swapped)):
                    others.append(tuple(swapped))
                    self._error(tuple(swapped))
            better = min(others, key=self._error, default=order)
            if self._error(better) >= self._error(order) - 1e-12:
                return order
            order = better
        return order

    def _error(self, order: tuple[int, ...]) -> float:
        if order not in self._known:
            self._known[order] = self._asked(order)
        return self._known[order]

    def _asked(self, order: tuple[int, ...]) -> float:
        reordered = pd.DataFrame(
            {name: self._rows[self._names[at]] for name, at in zip(self._names, order, strict=True)}
        )
        try:
            outputs = self._predict(reordered)
        except ModelFailed:
            return np.inf
        if not np.isfinite(outputs).all():
            return np.inf
        if self._is_class:
            return float(np.mean(outputs.argmax(axis=1) != self._truth))
        truth = self._truth.reshape(len(outputs), -1)
        spread = np.where(truth.std(axis=0) > 0, truth.std(axis=0), 1.0)
        # The middle of the errors: one wild answer says little of an order.
        return float(np.mean(np.abs(outputs - truth) / spread))
