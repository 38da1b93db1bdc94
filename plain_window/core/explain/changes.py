"""What would change an answer: the smallest believable changes that bring another one.

A change is small if few fields move, each little against how its reference values spread [1]_. It is believable if
every value lies within the reference range, only fields the author marked as changeable move, only in the directions
allowed, and the case that comes of it is not unlike anything seen, unless the case at hand is. Single fields are tried
first, then pairs, then triples; what one field can do alone is not offered again with others beside it, so that the
ways are different ones.

References
----------
.. [1] S. Wachter, B. Mittelstadt, C. Russell, "Counterfactual explanations without opening the black box", Harvard
       Journal of Law & Technology 31(2), 2017, section IV.
"""

import itertools
import time
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from ..plan.columns import Columns

__all__ = [
    "LEAST_LEAD",
    "Change",
    "Changeable",
    "Changes",
    "Goal",
    "class_goal",
    "find_changes",
    "number_goal",
    "threshold_goal",
]

Row = Mapping[str, Any]
# Columns to outputs of shape (n_rows, n_outputs).
Predict = Callable[[Columns], np.ndarray]
# Outputs to how far beyond the goal each row is: above 0 where it is reached.
Goal = Callable[[np.ndarray], np.ndarray]

MOST_WAYS = 4
# By so much the class that is reached must be likelier than the next.
LEAST_LEAD = 0.05
# Values tried of each field: alone, in a pair, in a triple; and rows asked at once, at the most.
VALUES_ALONE, VALUES_IN_PAIR, VALUES_IN_TRIPLE = 24, 9, 5
MOST_ROWS_ALONE = 4000
FIELDS_IN_PAIRS, FIELDS_IN_TRIPLES = 7, 5
MOST_ROWS_TOGETHER = 2000
FEWEST_VALUES = 3
REFINEMENTS = 3
# What is begun while there is time may take a little longer; what slow models may take for the first round.
SECONDS, SLOWEST_SECONDS = 0.4, 1.0
# By the clock a search may take so many times what it may of the processor.
CLOCK_FACTOR = 5.0


@dataclass(frozen=True)
class Changeable:
    """A field that may change: its believable values, and how they spread (1 for options)."""

    name: str
    values: tuple[Any, ...]
    is_number: bool = False
    spread: float = 1.0
    step: float = 0.0

    @classmethod
    def number(
        cls,
        name: str,
        now: float,
        reference_values: Sequence[float],
        *,
        step: float,
        direction: Literal["any", "up", "down"] = "any",
    ) -> "Changeable":
        """A number: values on its control's steps, where the reference values lie, on the side allowed.

        Parameters
        ----------
        name : str
        now : float
            The case's value.
        reference_values : sequence of float
            Reference values without gaps, at least one.
        step : float
            Above 0.
        direction : {"any", "up", "down"}
        """
        low, high = min(reference_values), max(reference_values)
        places = np.quantile(np.asarray(reference_values, dtype="float64"), np.linspace(0, 1, VALUES_ALONE))
        snapped = {_snapped(value, step, low, high) for value in places.tolist()}
        allowed = [
            value
            for value in sorted(snapped)
            if value != now and (direction == "any" or (value > now) == (direction == "up"))
        ]
        return cls(name, tuple(allowed), True, float(np.std(reference_values)) or 1.0, step)


@dataclass(frozen=True)
class Change:
    """One way: the values that change, what the model then says, and how much of a change it is."""

    values: dict[str, Any]
    outputs: np.ndarray
    size: float


@dataclass(frozen=True)
class Changes:
    """The ways found, smallest first; not complete if the time did not allow for all that is usually tried, be it for
    other fields or to make a way that was found smaller."""

    ways: list[Change]
    is_complete: bool


def class_goal(now: int, *, to: int | None = None) -> Goal:
    """Another class than `now` as the likeliest, or class `to`; by a lead that makes a difference.

    Where two classes stand level a hair's breadth of any field tips the answer. That is no advice.

    Parameters
    ----------
    now : int
        The class that is likeliest.
    to : int or None, optional
        The class that is wanted; any other if none is named.
    """

    def beyond(outputs: np.ndarray) -> np.ndarray:
        place = now if to is None else to
        others = np.delete(outputs, place, axis=1)
        ahead = outputs[:, place] - others.max(axis=1)
        return (-ahead if to is None else ahead) - LEAST_LEAD

    return beyond


def threshold_goal(now: int, place: int, least: float) -> Goal:
    """The other of two classes, where one is said from a probability on; past the threshold by half the lead.

    Parameters
    ----------
    now : int
        The class that is said.
    place : int
        The class that has the threshold.
    least : float
        From this probability on it is said.
    """
    side = -1.0 if now == place else 1.0
    return lambda outputs: side * (outputs[:, place] - least) - LEAST_LEAD / 2


def number_goal(now: float, reach: float) -> Goal:
    """An answer at `reach` or beyond it, seen from `now`.

    Parameters
    ----------
    now : float
        The answer as it is.
    reach : float
        The value that is wanted.
    """
    side = 1.0 if reach >= now else -1.0
    # At the number itself it is reached; the goal counts as reached above 0.
    return lambda outputs: side * (outputs[:, 0] - reach) + np.finfo("float64").tiny


def find_changes(
    predict: Predict,
    row: Row,
    fields: Sequence[Changeable],
    goal: Goal,
    *,
    is_unlike: Callable[[Row], bool] | None = None,
    seconds: float = SECONDS,
    row_seconds: float = 0.0,
) -> Changes:
    """Different small changes of a case that reach a goal.

    Parameters
    ----------
    predict : callable
    row : mapping
        The case, which has not reached the goal.
    fields : sequence of Changeable
    goal : callable
    is_unlike : callable, optional
        Whether a row is not believable as a whole.
    seconds : float
        Of the processor's time. After this, nothing more is begun.
    row_seconds : float
        What the model takes for a row: slow ones are asked about fewer values and fields, and then not everything was
        tried.
    """
    affordable = MOST_ROWS_ALONE if row_seconds == 0 else min(MOST_ROWS_ALONE, int(SLOWEST_SECONDS / row_seconds))
    usable = [one for one in fields if one.values]
    tried = usable[: affordable // FEWEST_VALUES]
    budget = _Budget(seconds)
    search = _Search(predict, row, tried, goal, is_unlike, affordable=affordable, budget=budget)
    search.was_cut = len(tried) < len(usable)
    ways = search.alone(max(FEWEST_VALUES, affordable // max(1, len(tried))))
    done = {name for way in ways for name in way.values}
    for size, n_fields, n_values in ((2, FIELDS_IN_PAIRS, VALUES_IN_PAIR), (3, FIELDS_IN_TRIPLES, VALUES_IN_TRIPLE)):
        if len(ways) >= MOST_WAYS or (size == 3 and ways):
            break
        if budget.is_spent or affordable < MOST_ROWS_TOGETHER:
            return Changes(_smallest(ways), False)
        ways += search.together([name for name in search.promising if name not in done][:n_fields], size, n_values)
    return Changes(_smallest(ways), not search.was_cut)


def _smallest(ways: list[Change]) -> list[Change]:
    return sorted(ways, key=lambda way: way.size)[:MOST_WAYS]


class _Budget:
    """The time a search may take: the processor's, so that a busy machine finds what an idle one does. Where a model is
    waited for rather than computed, the clock ends it."""

    def __init__(self, seconds: float) -> None:
        self._processor = time.thread_time() + seconds
        self._clock = time.monotonic() + CLOCK_FACTOR * seconds

    @property
    def is_spent(self) -> bool:
        """Whether nothing more may be begun."""
        return time.thread_time() > self._processor or time.monotonic() > self._clock


class _Search:
    """One case's search."""

    def __init__(
        self,
        predict: Predict,
        row: Row,
        fields: Sequence[Changeable],
        goal: Goal,
        is_unlike: Callable[[Row], bool] | None,
        *,
        affordable: int,
        budget: "_Budget",
    ) -> None:
        self._predict, self._row, self._goal, self._is_unlike = predict, row, goal, is_unlike
        # Rows that may be asked about at once, and when nothing more is to be asked.
        self._affordable, self._budget = affordable, budget
        self._fields = {one.name: one for one in fields}
        # Fields by how near to the goal they get alone, best first.
        self.promising: list[str] = []
        # Whether something was left out that a faster model, or more time, would have been asked about.
        self.was_cut = False

    def alone(self, most_values: int) -> list[Change]:
        tried = [
            {name: value}
            for name, one in self._fields.items()
            for value in _some(one.values, min(most_values, VALUES_ALONE))
        ]
        if not tried:
            return []
        self.was_cut |= any(most_values < min(len(one.values), VALUES_ALONE) for one in self._fields.values())
        beyond, outputs = self._ask(tried)
        best: dict[str, float] = {}
        for values, gain in zip(tried, beyond.tolist(), strict=True):
            (name,) = values
            best[name] = max(best.get(name, -np.inf), gain)
        self.promising = sorted(best, key=lambda name: -best[name])
        return self._smallest_of_each(tried, beyond, outputs)

    def together(self, names: Sequence[str], size: int, n_values: int) -> list[Change]:
        tried = [
            dict(zip(some, values, strict=True))
            for some in itertools.combinations(names, size)
            for values in itertools.product(*(_some(self._fields[name].values, n_values) for name in some))
        ]
        if not tried:
            return []
        return self._smallest_of_each(tried, *self._ask(tried))

    def _smallest_of_each(
        self, tried: Sequence[dict[str, Any]], beyond: np.ndarray, outputs: np.ndarray
    ) -> list[Change]:
        """Of each set of fields the smallest believable change that reaches the goal, made smaller still."""
        reached: dict[tuple[str, ...], list[int]] = {}
        for at in np.flatnonzero(beyond > 0).tolist():
            reached.setdefault(tuple(tried[at]), []).append(at)
        found = []
        for places in reached.values():
            places.sort(key=lambda at: self._size(tried[at]))
            for at in places[:8]:
                if self._is_believable(tried[at]):
                    found.append(self._refined(Change(tried[at], outputs[at], self._size(tried[at]))))
                    break
        found.sort(key=lambda way: way.size)
        return self._different(found)

    def _different(self, ways: Sequence[Change]) -> list[Change]:
        """Of ways that share a field in a pair or triple, the smaller; single fields are different anyway."""
        kept: list[Change] = []
        for way in ways:
            if all(len(set(way.values) & set(other.values)) < len(way.values) for other in kept):
                kept.append(way)
        return kept[:MOST_WAYS]

    def _refined(self, way: Change) -> Change:
        """Numbers moved back towards the case, step by step of their controls, as far as the goal stays reached."""
        for _ in range(REFINEMENTS):
            if self._budget.is_spent:
                self.was_cut = True
                return way
            tried = [
                {**way.values, name: value}
                for name in way.values
                if self._fields[name].is_number
                for value in self._between(self._fields[name], way.values[name])
            ]
            if not tried:
                return way
            self.was_cut |= len(tried) > self._affordable
            tried = _some(tried, self._affordable)
            beyond, outputs = self._ask(tried)
            order = sorted(np.flatnonzero(beyond > 0).tolist(), key=lambda at: self._size(tried[at]))
            better = next((at for at in order[:8] if self._is_believable(tried[at])), None)
            if better is None or self._size(tried[better]) >= way.size:
                return way
            way = Change(tried[better], outputs[better], self._size(tried[better]))
        return way

    def _between(self, one: Changeable, value: float) -> list[float]:
        now = self._row[one.name]
        if now is None:
            return []
        low, high = min(one.values), max(one.values)
        places = np.linspace(now, value, VALUES_ALONE + 2)[1:-1]
        snapped = {_snapped(place, one.step, min(low, value), max(high, value)) for place in places.tolist()}
        return sorted(snapped - {now, value})

    def _size(self, values: Mapping[str, Any]) -> float:
        size = 0.0
        for name, value in values.items():
            one, now = self._fields[name], self._row[name]
            size += 1.0 + (abs(value - now) / one.spread if one.is_number and now is not None else 1.0)
        return size

    def _is_believable(self, values: Mapping[str, Any]) -> bool:
        return self._is_unlike is None or not self._is_unlike({**self._row, **values})

    def _ask(self, tried: Sequence[Mapping[str, Any]]) -> tuple[np.ndarray, np.ndarray]:
        columns = {name: [value] * len(tried) for name, value in self._row.items()}
        for at, values in enumerate(tried):
            for name, value in values.items():
                columns[name][at] = value
        outputs = self._predict(columns)
        beyond = self._goal(outputs)
        return np.where(np.isfinite(beyond), beyond, -np.inf), outputs


def _some(values: Sequence[Any], most: int) -> list[Any]:
    """Evenly picked values, the first and the last among them."""
    if len(values) <= most:
        return list(values)
    return [values[at] for at in np.unique(np.linspace(0, len(values) - 1, most).round().astype(int))]


def _snapped(value: float, step: float, low: float, high: float) -> float:
    """A value on the control's steps, inside the range; the range's own end where no step is inside."""
    snapped = round(value / step) * step
    # Ten digits are more than any control's step has; what floats add behind them is noise.
    snapped = float(f"{snapped:.10g}")
    return min(max(snapped, low), high)
