"""What matters overall: importance, direction and average curves, worked out piece by piece over the reference table.

Each call of `Overall.work` does one small piece, so that a runner can answer visitors in between. What is known so far
can be read at any time, with the interval that so many rows allow. For whoever waits a glance that is some of the rows;
thoroughly it is all of them, however long that takes.

- importance: the mean absolute contribution over reference rows, with its 95 % interval, and how much more often (or by
  how much more) the model is wrong on known cases when the field's values are shuffled among them [1]_;
- direction: how contributions spread for low, middle and high values, or for each option;
- average curve: the mean of individual cases' curves, with their middle half [2]_.

References
----------
.. [1] L. Breiman, "Random Forests", Machine Learning 45, 2001, section 10.
.. [2] A. Goldstein et al., "Peeking Inside the Black Box", Journal of Computational and Graphical Statistics 24(1),
       2015.
"""

import math
from collections.abc import Callable, Generator, Iterator, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

import numpy as np

from ..plan.columns import Columns
from .curves import grid_of
from .explainer import Explainer, FieldFacts

__all__ = ["FieldOverall", "Overall", "OverallState", "Part", "Spread"]


MOST_ROWS = 400
ROWS_OF_CURVES = 60
VALUES_OF_CURVES = 17
SHUFFLES = 3
MOST_KNOWN = 2000
FEWEST_KNOWN, FEWEST_ROWS_OF_CURVES, PIECE_SECONDS = 30, 3, 0.2
SEED = 20260103
NORMAL_975 = 1.96
# How long sampled contributions of one row may take: many rows with some error say more than few without.
SECONDS_A_ROW = 0.03
# The longest that contributions may take in all.
SECONDS = 8.0


@dataclass(frozen=True)
class Spread:
    """How some numbers lie: their middle, and a quarter below and above."""

    middle: float
    low: float
    high: float


@dataclass(frozen=True)
class Part:
    """A stretch of a field's values, or an option, and the contributions of the rows that have it."""

    words: Literal["low", "middle", "high", "option"]
    low: Any
    high: Any
    n_rows: int
    contributions: Spread


@dataclass
class FieldOverall:
    """What is known of one field. Intervals are 95 % ones."""

    name: str
    importance: float = 0.0
    importance_low: float = 0.0
    importance_high: float = 0.0
    shuffled: tuple[float, float, float] | None = None
    parts: list[Part] = field(default_factory=list)
    curve_x: list[Any] = field(default_factory=list)
    curve: list[Spread] = field(default_factory=list)


@dataclass(frozen=True)
class OverallState:
    """What is known so far: fields by importance, how many rows that is from, and whether there is more to come."""

    fields: list[FieldOverall]
    n_rows: int
    n_known: int
    share_done: float


class Overall:
    """Importance, direction and average curves of one output.

    Parameters
    ----------
    explainer : Explainer
    predict : callable
        Columns to outputs of shape (n_rows, n_outputs).
    columns : mapping
        Reference rows by column, in an order drawn at random.
    fields : sequence of FieldFacts
    of : int
        The output.
    known : mapping
        Known cases by column; empty if there are none.
    errors : callable
        Outputs for all known cases to the error of each: shape (n_known,).
    clock : callable
        Seconds, for the limit on contributions.
    thorough : bool, optional
        Go by all rows, however long that takes.
    """

    def __init__(
        self,
        explainer: Explainer,
        predict: Callable[[Columns], np.ndarray],
        columns: Columns,
        fields: Sequence[FieldFacts],
        *,
        of: int,
        known: Columns,
        errors: Callable[[np.ndarray], np.ndarray],
        clock: Callable[[], float],
        thorough: bool = False,
    ) -> None:
        self._explainer, self._predict, self._fields, self._of = explainer, predict, list(fields), of
        # Slow models are asked about fewer rows at a time: a visitor may be waiting.
        affordable = explainer.affordable_rows(PIECE_SECONDS)
        self._rows_at_once = max(1, affordable)
        self._seconds = math.inf if thorough else SECONDS
        n_rows = None if thorough else MOST_ROWS
        n_known = MOST_KNOWN if thorough else min(MOST_KNOWN, max(FEWEST_KNOWN, affordable))
        few = max(FEWEST_ROWS_OF_CURVES, affordable // VALUES_OF_CURVES)
        self._rows_of_curves = ROWS_OF_CURVES if thorough else min(ROWS_OF_CURVES, few)
        self._columns = {name: list(values)[:n_rows] for name, values in columns.items()}
        self._known = {name: list(values)[:n_known] for name, values in known.items()}
        self._errors, self._clock = errors, clock
        self._n_rows = len(next(iter(self._columns.values()), []))
        self._n_known = len(next(iter(self._known.values()), []))
        self._contributions: list[list[float]] = []
        self._explained: list[int] = []
        self._shuffled: dict[str, tuple[float, float, float]] = {}
        self._curves: dict[str, tuple[list[Any], list[Spread]]] = {}
        self._n_pieces = self._n_rows + len(self._fields) * (1 + (SHUFFLES if self._n_known else 0))
        self._n_done = 0
        self._pieces = self._all_pieces()

    @property
    def is_done(self) -> bool:
        """Whether nothing is left to do."""
        return self._n_done >= self._n_pieces

    def work(self) -> None:
        """Do the next piece, or as much of it as the model can be asked about at once."""
        did = next(self._pieces, None)
        self._n_done = self._n_pieces if did is None else self._n_done + did

    def state(self) -> OverallState:
        """What is known so far."""
        contributions = np.array(self._contributions).reshape(len(self._contributions), len(self._fields))
        fields = [self._field(at, one, contributions[:, at]) for at, one in enumerate(self._fields)]
        fields.sort(key=lambda one: -one.importance)
        return OverallState(fields, len(contributions), self._n_known, min(1.0, self._n_done / max(1, self._n_pieces)))

    def _all_pieces(self) -> Iterator[int]:
        """After each piece 1; after what is only a part of one, 0."""
        begun = self._clock()
        for at in range(self._n_rows):
            if self._clock() - begun > self._seconds and at > 1:
                # Fewer rows, wider intervals: those are stated.
                self._n_pieces -= self._n_rows - at
                break
            row = {name: values[at] for name, values in self._columns.items()}
            found = self._explainer.explain(
                row, of=self._of, seconds=SECONDS_A_ROW, most_seconds=PIECE_SECONDS
            ).contributions
            own = [found.get(one.name, 0.0) for one in self._fields]
            # A row the model has no number for says nothing, and takes its place in the table's columns with it.
            if all(map(math.isfinite, own)):
                self._contributions.append(own)
                self._explained.append(at)
            yield 1
        for one in self._fields:
            yield from self._average_curve(one)
            yield 1
        if self._n_known:
            usual = self._errors((yield from self._asked(self._known)))
            rng = np.random.default_rng(SEED)
            for one in self._fields:
                yield from self._shuffle(one, usual, rng)

    def _shuffle(self, one: FieldFacts, usual: np.ndarray, rng: np.random.Generator) -> Iterator[int]:
        rise = np.zeros(self._n_known)
        for n_times in range(1, SHUFFLES + 1):
            order = rng.permutation(self._n_known)
            values = [self._known[one.name][at] for at in order]
            outputs = yield from self._asked({**self._known, one.name: values})
            rise += self._errors(outputs) - usual
            self._shuffled[one.name] = _mean_and_interval(rise / n_times)
            yield 1

    def _asked(self, columns: Columns) -> Generator[int, None, np.ndarray]:
        """Outputs for rows, so many at once as take no longer than a piece may."""
        n_rows = len(next(iter(columns.values())))
        outputs = []
        for start in range(0, n_rows, self._rows_at_once):
            if start:
                yield 0
            end = start + self._rows_at_once
            outputs.append(self._predict({name: values[start:end] for name, values in columns.items()}))
        return np.concatenate(outputs)

    def _average_curve(self, one: FieldFacts) -> Iterator[int]:
        values: list[Any] = list(one.options)
        if one.kind == "number":
            known = [value for value in self._columns[one.name] if value is not None]
            grid = grid_of(known, one.low, one.high)
            values = grid[np.unique(np.linspace(0, grid.size - 1, VALUES_OF_CURVES).round().astype(int))].tolist()
        if not values:
            return
        n_rows = min(self._n_rows, self._rows_of_curves)
        columns = {name: column[:n_rows] * len(values) for name, column in self._columns.items()}
        columns[one.name] = [value for value in values for _ in range(n_rows)]
        outputs = (yield from self._asked(columns))[:, self._of].reshape(len(values), n_rows)
        outputs = outputs[:, np.isfinite(outputs).all(axis=0)]
        if outputs.size:
            self._curves[one.name] = (values, [_spread(own, middle=float(own.mean())) for own in outputs])

    def _field(self, at: int, one: FieldFacts, contributions: np.ndarray) -> FieldOverall:
        out = FieldOverall(one.name, shuffled=self._shuffled.get(one.name))
        if contributions.size:
            out.importance, out.importance_low, out.importance_high = _mean_and_interval(np.abs(contributions))
            out.importance_low = max(0.0, out.importance_low)
            out.parts = self._parts(one, contributions)
        if one.name in self._curves:
            out.curve_x, out.curve = self._curves[one.name]
        return out

    def _parts(self, one: FieldFacts, contributions: np.ndarray) -> list[Part]:
        """Contributions for low, middle and high values, or for each option."""
        values = [self._columns[one.name][at] for at in self._explained]
        if one.kind == "number":
            return _thirds(values, contributions)
        parts = []
        for option in one.options:
            has = np.array([value == option for value in values])
            if has.any():
                parts.append(Part("option", option, option, int(has.sum()), _spread(contributions[has])))
        return parts


def _thirds(values: Sequence[Any], contributions: np.ndarray) -> list[Part]:
    numbers = np.array([float("nan") if value is None else float(value) for value in values])
    known = numbers[~np.isnan(numbers)]
    if not known.size:
        return []
    first, second = np.quantile(known, [1 / 3, 2 / 3])
    thirds: tuple[tuple[Literal["low", "middle", "high"], np.ndarray], ...] = (
        ("low", numbers <= first),
        ("middle", (numbers > first) & (numbers <= second)),
        ("high", numbers > second),
    )
    return [
        Part(words, float(numbers[has].min()), float(numbers[has].max()), int(has.sum()), _spread(contributions[has]))
        for words, has in thirds
        if has.any()
    ]


def _spread(values: np.ndarray, *, middle: float | None = None) -> Spread:
    low, median, high = np.quantile(values, [0.25, 0.5, 0.75])
    return Spread(float(median) if middle is None else middle, float(low), float(high))


def _mean_and_interval(values: np.ndarray) -> tuple[float, float, float]:
    mean = float(values.mean())
    half = NORMAL_975 * float(values.std(ddof=1)) / math.sqrt(values.size) if values.size > 1 else math.inf
    return (mean, mean - half, mean + half) if math.isfinite(half) else (mean, mean, mean)
