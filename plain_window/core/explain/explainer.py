"""Explains the answers of one model, by the best method its plan allows."""

import functools
import hashlib
import json
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from ..contract import FieldFacts
from ..plan.columns import Columns
from ..plan.engine import CompiledModel
from .coalitions import enumerate_coalitions, sample_orders
from .curves import Curve, StepPlaces, grid_of, ribbon_steps, step_places
from .linear import find_linear_sum
from .pace import timed
from .splitting import SplitPlan
from .structure import used_fields
from .trees import LINKS, TreeSum, find_tree_sum

__all__ = ["MOST_SECONDS", "Explainer", "Explanation", "FieldFacts", "ReferenceSample", "TooSlow"]

Row = Mapping[str, Any]
# Up to here every coalition is asked, if there is time.
MOST_ENUMERATED = 10
# A model's own library takes longer for a row; every coalition is asked only for this many rows in all.
MOST_ENUMERATED_ROWS = 110_000
# A standard error too small to be seen, of the range the sample's answers cover.
SMALL_ERROR = 0.002
SECONDS = 0.15
# What slow models may take for contributions, and for curves, before a visitor is told that there are none.
MOST_SECONDS = 1.5
# Of all full curves of a case together: forests of millions of leaves jump more often than an answer can hold.
MOST_STEPS = 400_000
# Orders walked forward and backward that an estimate needs at the least.
FEWEST_ORDERS = 2
# For a model as quick as this nothing is left out.
QUICK_ROW_SECONDS = 1e-4


class TooSlow(Exception):
    """The model takes longer for what an explanation asks than anyone should wait."""


@dataclass(frozen=True)
class ReferenceSample:
    """Reference rows by column, each list of length n_rows."""

    columns: Mapping[str, list[Any]]

    @property
    def n_rows(self) -> int:
        """How many there are."""
        return len(next(iter(self.columns.values()), []))


@dataclass(frozen=True)
class Explanation:
    """Contributions by field, with their standard errors where they were sampled."""

    method: str
    baseline: float
    contributions: dict[str, float]
    errors: dict[str, float] = field(default_factory=dict)


class Explainer:
    """One model with its sample.

    Parameters
    ----------
    predict : callable
        Raw columns (lists by name) to outputs of shape (n_rows, n_outputs).
    sample : ReferenceSample
    fields : sequence of FieldFacts
        In any order; contributions are about these.
    compiled : CompiledModel, optional
        Where the model has a compiled form; more is then exact.
    """

    def __init__(
        self,
        predict: Callable[[Columns], np.ndarray],
        sample: ReferenceSample,
        fields: Sequence[FieldFacts],
        compiled: CompiledModel | None = None,
    ) -> None:
        self._predict, self._sample, self._fields = predict, sample, list(fields)
        self._compiled = compiled
        self._split: SplitPlan | None = None
        self._places: StepPlaces | None = None
        self.has_score = False
        # Contributions and curves of one case ask one after the other.
        self._last: tuple[Row, TreeSum, np.ndarray] | None = None
        n_rows = max(1, sample.n_rows)
        self._outputs, seconds = timed(lambda: predict(sample.columns), quick_seconds=QUICK_ROW_SECONDS * n_rows)
        # How long the model takes for a row when it is asked about many.
        self.row_seconds = seconds / n_rows
        spread = np.ptp(self._outputs, axis=0)
        self._small_errors = SMALL_ERROR * np.where(spread > 0, spread, 1.0)
        if compiled is not None:
            self._prepare(compiled)

    @property
    def n_sample_rows(self) -> int:
        """How many sample rows contributions are counted against."""
        return self._sample.n_rows

    def usual(self, of: int) -> float:
        """The average answer over the sample rows.

        Parameters
        ----------
        of : int
            Index of an output.
        """
        return float(self._outputs[:, of].mean())

    def _prepare(self, compiled: CompiledModel) -> None:
        self._split = split = SplitPlan(compiled)
        self._names = [item.name for item in compiled.plan.inputs]
        self._used = used_fields(compiled.plan)
        columns = {name: self._sample.columns[name] for name in self._names}
        self._parts = split.parts(columns) if split.mixable else None
        self.has_score = any(step.op in LINKS for step in compiled.plan.steps)
        # Where there is no score, what is found for the one is the other.
        plain = find_tree_sum(split)
        self._trees = {False: plain, True: find_tree_sum(split, at_score=True) if self.has_score else plain}
        self._linear = {at_score: find_linear_sum(split, at_score=at_score) for at_score in (False, True)}
        trees = self._trees[True]
        if trees is not None:
            self._tree_sample = trees.prepare(trees.inputs(columns))
        # What contributions are counted from, on either scale.
        self._sample_sums: dict[bool, np.ndarray] = {}
        for at_score, sums in self._trees.items():
            linear = self._linear[at_score]
            if sums is not None:
                self._sample_sums[at_score] = sums.outputs(self._tree_sample.rows)
            elif linear is not None and self._parts is not None:
                self._sample_sums[at_score] = linear.outputs(self._parts)
        trees = self._trees[False]
        if trees is not None:
            numbers = {one.name: (one.low, one.high) for one in self._fields if one.kind == "number"}
            ranges = {at: numbers[name] for at, name in enumerate(self._names) if name in numbers}
            self._places = step_places(trees, compiled.plan, ranges)

    # --- contributions ------------------------------------------------------------------------------------------------

    def explain(
        self,
        row: Row,
        *,
        of: int,
        at_score: bool = False,
        seconds: float = SECONDS,
        most_seconds: float = MOST_SECONDS,
    ) -> Explanation:
        """Contributions to output `of` for one row.

        Parameters
        ----------
        row : mapping
            Raw values by column.
        of : int
        at_score : bool
            On the scale before probabilities are made of it; only where the plan has one.
        seconds : float
            The most that sampling may take.
        most_seconds : float
            What asking about every coalition may take, or the roughest estimate.

        Raises
        ------
        ValueError
            If `at_score` is asked of a model that has no such scale.
        TooSlow
            If even a rough estimate would take too long.
        """
        found = self._exactly(row, of, at_score)
        if found is None and at_score:
            raise ValueError("this model has no score behind its probabilities")
        return found or self._by_coalitions(row, of, seconds, most_seconds)

    def _exactly(self, row: Row, of: int, at_score: bool) -> Explanation | None:
        if self._split is None:
            return None
        trees, linear = self._trees[at_score], self._linear[at_score]
        if trees is not None:
            method, outputs = "exact-forest", self._sample_sums[at_score]
            own, sign = _own_score(of, outputs.shape[1], at_score=at_score)
            contributions = trees.contributions(self._tree_inputs(trees, row), self._tree_sample, of=own)[0]
        elif linear is not None and self._parts is not None:
            method, outputs = "exact-linear", self._sample_sums[at_score]
            own, sign = _own_score(of, outputs.shape[1], at_score=at_score)
            contributions = linear.contributions(self._split.parts(self._columns_of(row)), self._parts, of=own)
        else:
            return None
        by_field = dict(zip(self._names, (sign * contributions).tolist(), strict=True))
        everyone = {one.name: by_field.get(one.name, 0.0) for one in self._fields}
        return Explanation(method, sign * float(outputs[:, own].mean()), everyone)

    def _columns_of(self, row: Row) -> dict[str, list[Any]]:
        return {name: [row[name]] for name in self._names}

    def _tree_inputs(self, trees: TreeSum, row: Row) -> np.ndarray:
        """What the trees are given for a case: shape (1, n_columns)."""
        if self._last is None or self._last[0] is not row or self._last[1] is not trees:
            self._last = (row, trees, trees.inputs(self._columns_of(row)))
        return self._last[2]

    def _by_coalitions(self, row: Row, of: int, seconds: float, most_seconds: float) -> Explanation:
        names = [one.name for one in self._fields]
        ask, players = self._mixer(row, of)
        n_sample_rows = self._sample.n_rows
        baseline = self.usual(of)
        if len(players) <= MOST_ENUMERATED and (1 << len(players)) * n_sample_rows <= self._most_enumerated(
            most_seconds
        ):
            exact = enumerate_coalitions(ask, n_fields=len(players), n_sample_rows=n_sample_rows)[:, 0]
            by_player = dict(zip(players, map(float, exact), strict=True))
            return Explanation("exact-enumeration", baseline, {name: by_player.get(name, 0.0) for name in names})
        if 2 * FEWEST_ORDERS * (len(players) + 1) * self.row_seconds > most_seconds:
            raise TooSlow
        whole = ask(np.ones((1, len(players)), dtype=bool), np.zeros(1, dtype="int64"))[0]
        sampled = sample_orders(
            ask,
            n_fields=len(players),
            n_sample_rows=n_sample_rows,
            seed=_seed_of(row),
            seconds=seconds,
            small_error=float(self._small_errors[of]),
            total=whole - baseline,
            rows_at_once=self.affordable_rows(seconds),
        )
        by_player = dict(zip(players, map(float, sampled.contributions[:, 0]), strict=True))
        errors = dict(zip(players, map(float, sampled.errors[:, 0]), strict=True))
        return Explanation(
            "sampled",
            baseline,
            {name: by_player.get(name, 0.0) for name in names},
            {name: errors.get(name, 0.0) for name in names},
        )

    def _most_enumerated(self, most_seconds: float) -> int:
        """For how many rows every coalition is asked about; mixed rows cost less than whole ones."""
        most = MOST_ENUMERATED_ROWS if self._compiled is not None else MOST_ENUMERATED_ROWS // 50
        return min(most, self.affordable_rows(2 * most_seconds))

    def affordable_rows(self, seconds: float) -> int:
        """How many rows the model can be asked about in this time.

        Parameters
        ----------
        seconds : float
        """
        return int(seconds / max(self.row_seconds, 1e-9))

    def _mixer(self, row: Row, of: int) -> tuple[Callable[[np.ndarray, np.ndarray], np.ndarray], list[str]]:
        """A function that asks about mixed rows, and the fields it mixes: those that can reach the answer."""
        if self._split is not None and self._parts is not None:
            split, parts = self._split, self._parts
            case = split.parts(self._columns_of(row))
            places = [at for at, name in enumerate(self._names) if name in self._used]

            def ask_parts(takes: np.ndarray, rows: np.ndarray) -> np.ndarray:
                every = np.zeros((len(takes), len(self._names)), dtype=bool)
                every[:, places] = takes
                return split.outputs(split.mixed(case, parts, every, rows))[:, [of]]

            return ask_parts, [self._names[at] for at in places]
        players = [one.name for one in self._fields]
        if self._split is not None:
            players = [name for name in self._names if name in self._used]

        def ask(takes: np.ndarray, rows: np.ndarray) -> np.ndarray:
            mixed: dict[str, Sequence[Any]] = {
                name: [row[name]] * len(takes) for name in self._sample.columns if name not in players
            }
            for at, name in enumerate(players):
                others = self._sample.columns[name]
                mixed[name] = [
                    row[name] if own else others[other] for own, other in zip(takes[:, at], rows, strict=True)
                ]
            return self._predict(mixed)[:, [of]]

        return ask, players

    # --- curves -------------------------------------------------------------------------------------------------------

    def ask_together(self, row: Row) -> np.ndarray | None:
        """A case's outputs, and below them those that its curves need: one question instead of two.

        Parameters
        ----------
        row : mapping

        Returns
        -------
        ndarray of shape (1 + n_asked, n_outputs), or None
            None where rows asked together need not come out to the bit as they do alone.
        """
        if self._places is None:
            return None
        return self._predict(_moved(row, self._to_ask, first=1))

    def curves(self, row: Row, *, of: int, full: bool = False, outputs: np.ndarray | None = None) -> dict[str, Curve]:
        """The curve of every field, in output `of`.

        Parameters
        ----------
        row : mapping
        of : int
        full : bool
            Every step, not only what a ribbon can show; of more than an answer can hold as many as it can.
        outputs : ndarray, optional
            From `ask_together`.
        """
        curves = self._stepped(row, of, full=full)
        if outputs is None:
            asked = self._affordable(self._to_ask)
            outputs = self._predict(_moved(row, asked)) if asked else None
        else:
            asked, outputs = self._to_ask, outputs[1:]
        if outputs is not None:
            curves.update(self._asked(asked, outputs[:, of]))
        self._add_unknown(curves, row, of)
        return curves

    @functools.cached_property
    def _to_ask(self) -> dict[str, list[Any]]:
        """Values to ask about, of each field whose curve is not known exactly."""
        places = self._places
        stepped = {name for name, x in zip(self._names, places.starts, strict=True) if x.size} if places else set()
        return {
            one.name: self._values_of(one) for one in self._fields if one.kind != "text" and one.name not in stepped
        }

    def _affordable(self, asked: Mapping[str, list[Any]]) -> dict[str, list[Any]]:
        """Fewer values of numbers for slow models.

        Raises
        ------
        TooSlow
            If two values a field are more than the model can be asked about.
        """
        most = self.affordable_rows(MOST_SECONDS) // max(1, len(asked))
        if asked and most < 2:
            raise TooSlow
        numbers = {one.name for one in self._fields if one.kind == "number"}
        return {
            name: [values[at] for at in np.unique(np.linspace(0, len(values) - 1, most).round().astype(int))]
            if name in numbers and len(values) > most
            else values
            for name, values in asked.items()
        }

    def _add_unknown(self, curves: dict[str, Curve], row: Row, of: int) -> None:
        """To the curves of numbers that may be unknown, what the answer is then."""
        names = [one.name for one in self._fields if one.optional and one.kind == "number" and one.name in curves]
        if not names:
            return
        columns = {name: [value] * len(names) for name, value in row.items()}
        for at, name in enumerate(names):
            columns[name][at] = None
        for name, output in zip(names, self._predict(columns)[:, of].tolist(), strict=True):
            if math.isfinite(output):
                curves[name] = replace(curves[name], unknown=output)

    def _stepped(self, row: Row, of: int, *, full: bool) -> dict[str, Curve]:
        """Exact curves of numbers, where the model is a sum of trees."""
        # Places are worked out of trees: where there are none, there are no trees either.
        if self._places is None or (trees := self._trees[False]) is None:
            return {}
        places = self._places
        first = places.first_piece
        jumps = trees.steps(self._tree_inputs(trees, row)[0], places.rank, first, of=of)
        if not full:
            steps = ribbon_steps(first, places.x, jumps)
        elif jumps.size > MOST_STEPS:
            steps = ribbon_steps(first, places.x, jumps, most=MOST_STEPS // len(places.starts))
        else:
            own = np.split(jumps, first[1:-1])
            steps = [(x, y, False) for x, y in zip(places.starts, own, strict=True)]
        return {
            name: Curve("steps", x.tolist(), y.tolist(), is_thinned)
            for name, (x, y, is_thinned) in zip(self._names, steps, strict=True)
            if x.size
        }

    def _values_of(self, one: FieldFacts) -> list[Any]:
        values: list[Any] = list(one.options)
        if one.kind == "number":
            grid = grid_of([_number(value) for value in self._sample.columns[one.name]], one.low, one.high)
            values = (
                np.unique(np.clip(np.rint(grid), np.ceil(one.low), np.floor(one.high))) if one.whole else grid
            ).tolist()
        return [*values, None] if one.optional and one.kind != "number" else values

    def _asked(self, asked: Mapping[str, list[Any]], outputs: np.ndarray) -> dict[str, Curve]:
        """Curves out of what was said of each value; none where a model has no number on the way."""
        kinds = {one.name: one.kind for one in self._fields}
        curves, at = {}, 0
        for name, values in asked.items():
            y = outputs[at : at + len(values)].tolist()
            at += len(values)
            if all(map(math.isfinite, y)):
                curves[name] = Curve("line" if kinds[name] == "number" else "options", values, y)
        return curves


def _moved(row: Row, asked: Mapping[str, list[Any]], *, first: int = 0) -> dict[str, list[Any]]:
    """A case so many times as it is, and then with one field after another at each of its values."""
    n_rows = first + sum(map(len, asked.values()))
    columns, at = {name: [value] * n_rows for name, value in row.items()}, first
    for name, values in asked.items():
        columns[name][at : at + len(values)] = values
        at += len(values)
    return columns


def _own_score(of: int, n_scores: int, *, at_score: bool) -> tuple[int, float]:
    """Which score speaks for output `of`, and its sign: two classes share one, which speaks for the second."""
    if at_score and n_scores == 1:
        return 0, -1.0 if of == 0 else 1.0
    return of, 1.0


def _number(value: Any) -> float:
    return float("nan") if value is None else float(value)


def _seed_of(row: Row) -> int:
    """Same case, same numbers."""
    text = json.dumps(row, sort_keys=True, default=str)
    return int.from_bytes(hashlib.sha256(text.encode()).digest()[:8], "big")
