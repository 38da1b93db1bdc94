"""Contributions by themselves: what a row costs, beside the library's own prediction, and how that grows.

Run as `./plainwindow bench --explaining docs/growth-explaining.svg`.
"""

from dataclasses import dataclass
from typing import Any

import numpy as np
import pandas as pd
from sklearn.ensemble import GradientBoostingRegressor

from plain_window.core.explain.splitting import SplitPlan
from plain_window.core.explain.trees import TreeSample, TreeSum, find_tree_sum
from plain_window.core.formats.sklearn.compiling import compile_sklearn
from plain_window.core.plan.engine import CompiledModel
from plain_window.core.plan.parity import columns_of_table

from .growth import Curve
from .in_process import median_ms

__all__ = ["Boosted", "measure_boosted", "measure_growth_of_explaining"]

SEED = 20261123
N_TRAINED, N_ROWS = 3000, 1000
USUAL = {"trees": 100, "depth": 6, "sample": 100, "fields": 10}
MOVES = {
    "trees": [10, 30, 100, 300, 1000],
    "depth": [2, 4, 6, 8, 10],
    "sample": [1, 10, 100, 300, 1000],
    "fields": [2, 5, 10, 30, 100],
}


@dataclass(frozen=True)
class Boosted:
    """Exact contributions of 1,000 rows of 300 boosted trees of depth 6 over 30 fields, 100 sample rows."""

    ms_a_row: float
    us_a_row_and_sample_row: float
    library_one_row_ms: float

    def words(self) -> dict[str, str]:
        """For a table."""
        return {
            "a row": f"{self.ms_a_row:.2f} ms",
            "a row and sample row": f"{self.us_a_row_and_sample_row:.1f} µs",
            "the library's own prediction of one row": f"{self.library_one_row_ms:.2f} ms",
        }


def measure_boosted() -> Boosted:
    """Time all 1,000 rows in one go."""
    made = _made(trees=300, depth=6, sample=100, fields=30)
    trees, sample, cases, model, table = made
    all_ms = median_ms(lambda: trees.contributions(cases, sample, of=0), 3)
    one = table.iloc[[0]]
    return Boosted(all_ms / N_ROWS, all_ms * 1000 / N_ROWS / 100, median_ms(lambda: model.predict(one), 50))


def measure_growth_of_explaining() -> list[Curve]:
    """Time one row's contributions as one size moves and the rest stay."""
    return [
        Curve(what, sizes, [_milliseconds(**{**USUAL, what: size}) for size in sizes]) for what, sizes in MOVES.items()
    ]


def _milliseconds(**sizes: int) -> float:
    trees, sample, cases, _, _ = _made(**sizes)
    at = iter(range(10**6))
    return median_ms(lambda: trees.contributions(cases[[next(at) % N_ROWS]], sample, of=0), 40)


def _made(
    *, trees: int, depth: int, sample: int, fields: int
) -> tuple[TreeSum, TreeSample, np.ndarray, Any, pd.DataFrame]:
    rng = np.random.default_rng(SEED)
    names = [f"field {at}" for at in range(fields)]
    table = pd.DataFrame(rng.normal(size=(N_TRAINED, fields)), columns=names)
    target = table.sum(axis=1) + table["field 0"] * table["field 1"] + rng.normal(size=N_TRAINED)
    model = GradientBoostingRegressor(n_estimators=trees, max_depth=depth, subsample=0.5, random_state=0)
    model.fit(table, target)
    found = find_tree_sum(SplitPlan(CompiledModel(compile_sklearn(model, names, wanted="numbers"))))
    rows = found.inputs(columns_of_table(table))
    return found, found.prepare(rows[-sample:]), rows[:N_ROWS], model, table
