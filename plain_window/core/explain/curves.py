"""Response curves: the answer as one field moves and the rest stay.

For sums of trees the curve of a number is exact: it is level between places that are worked out once for the model, and
one walk a tree finds the jumps at them. For other models a number's curve is asked at a grid that lies where the
reference values lie. Choices and yes/no are asked option by option.
"""

import functools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from ..plan.kernels import BY_SET, FEATURE_BITS
from ..plan.operations import OPERATIONS
from ..plan.plan import Plan
from . import curve_kernels
from .structure import Link, chain_of_column
from .trees import TreeSum

__all__ = ["Curve", "StepPlaces", "grid_of", "ribbon_steps", "step_places"]

Scalar = bool | int | float | str
GRID_POINTS = 33
# More points than this no ribbon can show.
RIBBON_POINTS = 160
BISECTIONS = 70


@dataclass(frozen=True)
class Curve:
    """One field's curve. `shape` is `steps` (y[i] holds from x[i] up to x[i + 1]), `line` or `options`.

    `unknown` is the answer for a number that is not known, where the model takes that; among options it is one of them.
    """

    shape: Literal["steps", "line", "options"]
    x: list[Scalar | None]
    y: list[float]
    thinned: bool = False
    unknown: float | None = None


@dataclass(frozen=True)
class StepPlaces:
    """Where numbers' curves can jump, whatever the rest is.

    `starts[field]` has the smallest value of each piece, the first at the lower end of the range; it is empty for a
    field without steps. `rank` of shape (n_nodes,) has for each node the last piece of its field that goes left.
    """

    starts: list[np.ndarray]
    rank: np.ndarray

    @functools.cached_property
    def first_piece(self) -> np.ndarray:
        """Where each field's pieces begin when they stand behind one another, and where the last one's end."""
        return np.concatenate([[0], np.cumsum([own.size for own in self.starts])]).astype("int64")

    @functools.cached_property
    def x(self) -> np.ndarray:
        """All starts behind one another."""
        return np.concatenate(self.starts)


def step_places(trees: TreeSum, plan: Plan, ranges: Mapping[int, tuple[float, float]]) -> StepPlaces:
    """The places for all fields of numbers whose columns rise with them.

    Parameters
    ----------
    trees : TreeSum
    plan : Plan
    ranges : mapping of int to (float, float)
        For each field that is asked about, its range.
    """
    feature = trees.nodes["feature"]
    column_of_node = np.where(feature < 0, -1, feature & FEATURE_BITS)
    rank = np.zeros(trees.nodes.size, dtype="int64")
    starts = [np.empty(0) for _ in range(len(plan.inputs))]
    for field, (low, high) in ranges.items():
        own = [at for at, column in enumerate(trees.columns) if field in column.fields]
        nodes = np.flatnonzero(np.isin(column_of_node, own))
        if not all(trees.columns[at].rises for at in own) or np.any(feature[nodes] & BY_SET):
            continue
        first_above = np.empty(nodes.size)
        for column in own:
            here = column_of_node[nodes] == column
            thresholds, which = np.unique(trees.nodes["threshold"][nodes[here]], return_inverse=True)
            chain = chain_of_column(plan, trees.block, column)
            first_above[here] = _first_above(chain, thresholds, low, high)[which]
        places, piece = np.unique(first_above, return_inverse=True)
        # What all of the range is above starts no piece in it, nor does what none of it reaches.
        inside = (places > low) & (places <= high)
        before: np.ndarray = np.cumsum(inside) - inside
        starts[field] = np.concatenate([[low], places[inside]])
        rank[nodes] = np.where(places <= low, -1, before)[piece]
    return StepPlaces(starts, rank)


def _first_above(chain: Sequence[Link], thresholds: np.ndarray, low: float, high: float) -> np.ndarray:
    """For each threshold the smallest raw value from which the column is above it.

    By bisection down to neighbouring numbers: rounding on the way from the value to the column is part of the model.
    Infinity where there is none up to `high`, `low` where all values are above.
    """
    below, above = np.full(thresholds.size, low), np.full(thresholds.size, high)

    def is_above(values: np.ndarray) -> np.ndarray:
        block: Any = values[:, None]
        for op, arrays, settings in chain:
            block = OPERATIONS[op].run([block], arrays, settings, {})
        return block[:, 0] > thresholds

    all_above, none_above = is_above(below), ~is_above(above)
    for _ in range(BISECTIONS):
        middle = below + (above - below) / 2
        up = is_above(middle)
        above, below = np.where(up, middle, above), np.where(up, below, middle)
        if np.all(np.nextafter(below, np.inf) >= above):
            break
    return np.where(all_above, low, np.where(none_above, np.inf, above))


def grid_of(values: Sequence[float], low: float, high: float) -> np.ndarray:
    """Where to ask a number's curve: half of the points evenly, half where the reference values lie.

    Parameters
    ----------
    values : sequence of float
        Reference values, shape (n_values,).
    low : float
        The lowest place.
    high : float
        The highest place.
    """
    evenly = np.linspace(low, high, GRID_POINTS // 2 + 1)
    within = np.asarray([value for value in values if value == value], dtype="float64")
    within = within[(within >= low) & (within <= high)]
    crowded = np.quantile(within, np.linspace(0, 1, GRID_POINTS // 2)) if within.size else np.empty(0)
    return np.unique(np.concatenate([evenly, crowded]))


def ribbon_steps(
    first_piece: np.ndarray, x: np.ndarray, y: np.ndarray, *, most: int = RIBBON_POINTS
) -> list[tuple[np.ndarray, np.ndarray, bool]]:
    """For each field the steps that a ribbon can show, and whether any were left out.

    Of equal neighbours the first is kept; where there are more than `most`, the last of each stretch of the range. The
    values kept hold where they say; only jumps between them are left out.

    Parameters
    ----------
    first_piece : ndarray of int64, shape (n_fields + 1,)
    x, y : ndarray of shape (n_pieces,)
        Where each piece begins, and what is said in it.
    most : int
    """
    x, y, n_fields = x.copy(), y.copy(), first_piece.size - 1
    n_left, n_jumps = np.empty(n_fields, dtype="int64"), np.empty(n_fields, dtype="int64")
    curve_kernels.thin_steps(first_piece, most, x, y, n_left, n_jumps)
    return [
        (x[start : start + left], y[start : start + left], jumps > most)
        for start, left, jumps in zip(first_piece[:-1].tolist(), n_left.tolist(), n_jumps.tolist(), strict=True)
    ]
