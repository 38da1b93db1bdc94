"""How like the reference rows a case is.

Two rows are as far apart as the root mean square of how they differ, field by field: numbers in units of how they
spread among the reference rows, choices and gaps as the same or not. Fields that the model ignores do not count. A case
is unlike anything seen if its nearest reference rows are further away than those of 99 in 100 reference rows are, which
is a conformal test for strangers [1]_.

References
----------
.. [1] R. Laxhammar, G. Falkman, "Conformal prediction for distribution-independent anomaly detection in streaming
       vessel data", StreamKDD 2010, section 3.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np

__all__ = ["STRANGE_SHARE", "Compared", "Familiarity", "Similarity"]

NEIGHBOURS = 5
STRANGE_SHARE = 0.01
# Reference rows whose own nearest rows tell what is usual.
ROWS_FOR_USUAL, ROW_SEED = 500, 20260102
# Rows a case is compared with for that; they stand in an order drawn once, so the first are a fair draw.
ROWS_FOR_LIKENESS = 2000
# From quartiles to a standard deviation, for a normal spread.
QUARTILES_TO_SPREAD = 1.349


@dataclass(frozen=True)
class Familiarity:
    """How far a case is from its nearest known ones, the share of those at least as far from theirs, and whether it is
    unlike anything seen."""

    distance: float
    share_as_far: float
    is_unlike: bool


class Compared(NamedTuple):
    """What a case is compared with for whether it is like any, and how.

    `numbers` and `options` are fields; `known` of shape (n_known, n_numbers) is scaled by `spread`, `codes` of shape
    (n_known, n_options) are places in `places`. A case is like them if `n_needed` are no further than `furthest`.
    """

    numbers: list[str]
    options: list[str]
    spread: np.ndarray
    places: list[dict[Any, int]]
    known: np.ndarray
    codes: np.ndarray
    furthest: float
    n_needed: int


class Similarity:
    """The reference rows, ready to be compared with.

    Parameters
    ----------
    columns : mapping of str to list
        Raw values by field, each of length n_rows, at least one row.
    numbers : sequence of str
        Which of the fields are numbers.
    options : sequence of str
        Which are choices or yes/no. Fields in neither do not count.
    """

    def __init__(self, columns: Mapping[str, Sequence[Any]], numbers: Sequence[str], options: Sequence[str]) -> None:
        self._numbers, self._options = list(numbers), list(options)
        self.n_rows = len(next(iter(columns.values()), []))
        raw = self._as_numbers(columns)
        spread = np.array([_spread(column) for column in raw.T])
        self._spread = np.where(spread > 0, spread, 1.0)
        # Fields along the first axis: the distance to every row is summed field by field.
        self._scaled = np.ascontiguousarray((raw / self._spread).T)
        self._known: list[dict[Any, int]] = [
            {value: code for code, value in enumerate(dict.fromkeys(columns[name]))} for name in self._options
        ]
        self._codes = np.array(
            [[known[value] for value in columns[name]] for name, known in zip(self._options, self._known, strict=True)],
            dtype="int32",
        ).reshape(len(self._options), self.n_rows)
        self._has_gaps = bool(np.isnan(self._scaled).any())
        self._usual = self._usual_distances()
        self._furthest_usual = _furthest_usual(self._usual)

    def nearest(self, row: Mapping[str, object], *, most: int = NEIGHBOURS) -> tuple[np.ndarray, np.ndarray]:
        """The nearest reference rows and how far away they are, nearest first.

        Parameters
        ----------
        row : mapping
            Value by column.
        most : int, optional
            At most so many.
        """
        away = self._distances(*self._read(row))
        order = np.argsort(away, kind="stable")[:most]
        return order, away[order]

    def familiarity(self, away: np.ndarray) -> Familiarity:
        """How like the reference rows a case is that is so far from each of them.

        Parameters
        ----------
        away : ndarray of shape (n_compared,)
            From those that `compared` has, in any order.
        """
        distance = _kth(away, min(NEIGHBOURS, away.size))
        share = float((1 + np.sum(self._usual >= distance)) / (1 + self._usual.size))
        return Familiarity(distance, share, share < STRANGE_SHARE)

    @property
    def usual(self) -> list[float]:
        """For some reference rows how far away their nearest other rows are."""
        usual: list[float] = self._usual.tolist()
        return usual

    @property
    def compared(self) -> Compared:
        """What `familiarity` looks at, for whoever only asks whether cases are unlike them."""
        n_compared = min(ROWS_FOR_LIKENESS, self.n_rows)
        return Compared(
            self._numbers,
            self._options,
            self._spread,
            self._known,
            np.ascontiguousarray(self._scaled[:, :n_compared].T),
            np.ascontiguousarray(self._codes[:, :n_compared].T.astype("int64")),
            self._furthest_usual,
            min(NEIGHBOURS, n_compared),
        )

    def _as_numbers(self, columns: Mapping[str, Sequence[Any]]) -> np.ndarray:
        if not self._numbers:
            return np.zeros((self.n_rows, 0))
        return np.array([[_number(value) for value in columns[name]] for name in self._numbers]).T

    def _read(self, row: Mapping[str, Any]) -> tuple[np.ndarray, np.ndarray]:
        numbers = np.array([_number(row[name]) for name in self._numbers]) / self._spread
        # An option no reference row has is like none of them.
        codes = [known.get(row[name], -1) for name, known in zip(self._options, self._known, strict=True)]
        return numbers, np.array(codes, dtype="int32")

    def _distances(self, numbers: np.ndarray, codes: np.ndarray, *, most: int | None = None) -> np.ndarray:
        known = self._scaled[:, :most]
        apart = known - numbers[:, None]
        if self._has_gaps or np.isnan(numbers).any():
            # A gap is as far from any number as numbers are on average, and no way from another gap.
            apart[np.isnan(apart)] = 1.0
            apart[np.isnan(known) & np.isnan(numbers)[:, None]] = 0.0
        apart *= apart
        total = apart.sum(axis=0) + (self._codes[:, :most] != codes[:, None]).sum(axis=0)
        return np.sqrt(total / max(1, len(numbers) + len(codes)))

    def _usual_distances(self) -> np.ndarray:
        """For some reference rows how far away their nearest other rows are."""
        rng = np.random.default_rng(ROW_SEED)
        some = rng.permutation(self.n_rows)[:ROWS_FOR_USUAL]
        out = np.empty(some.size)
        for at, row in enumerate(some):
            away = self._distances(self._scaled[:, row], self._codes[:, row], most=ROWS_FOR_LIKENESS)
            away = np.delete(away, row) if row < away.size else away
            out[at] = _kth(away, min(NEIGHBOURS, away.size)) if away.size else 0.0
        return out


def _furthest_usual(usual: np.ndarray) -> float:
    """The largest distance at which a case is still like the known ones; infinite where too few are known to tell."""
    # Once so many of the usual distances are at least as large as a case's, its share is no longer too small.
    as_far = int(np.ceil(STRANGE_SHARE * (1 + usual.size))) - 1
    if as_far < 1:
        return float("inf")
    return float(np.sort(usual)[usual.size - as_far])


def _kth(values: np.ndarray, k: int) -> float:
    return float(np.partition(values, k - 1)[k - 1])


def _spread(column: np.ndarray) -> float:
    known = column[~np.isnan(column)]
    if not known.size:
        return 0.0
    low, high = np.quantile(known, [0.25, 0.75])
    # A number that is nearly always the same has no quartiles apart.
    return float((high - low) / QUARTILES_TO_SPREAD) or float(known.std())


def _number(value: Any) -> float:
    return float("nan") if value is None else float(value)
