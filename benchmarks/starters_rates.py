"""How often what is said of models made of tables is true, where truth is known: `bench --starters-rates`."""

from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context

import numpy as np
import pandas as pd
from scipy.signal import lfilter

from plain_window.core.starters.by_hand import cases
from plain_window.core.starters.choices import Choices
from plain_window.core.starters.intervals import errors_of
from plain_window.core.starters.kept_error import kept_error

from .report import print_measures
from .starters_offered import offered_for

__all__ = ["measure_rates"]

N_TABLES, N_ROWS, N_FRESH = 60, 600, 20_000
# Boosted trees would take five times as long as these together.
CANDIDATES = ("linear", "tree", "neighbours")
Drawn = Callable[[np.random.Generator, int], pd.DataFrame]


def measure_rates() -> None:
    """Measure and print, for each way of making tables up: how often the stated interval held the error on fresh rows,
    how often it and the kept-back rows' own error agreed, and how often something was called better than guessing."""
    words = {}
    # Each fits with one thread.
    with ProcessPoolExecutor(2, mp_context=get_context("spawn")) as pool:
        for name in WAYS:
            drawn = list(pool.map(_tried, [name] * N_TABLES, range(N_TABLES)))
            held, agreed, better = (100 * np.mean([one[at] for one in drawn]) for at in range(3))
            apart = np.mean([one[3] for one in drawn])
            words[name] = (
                f"interval holds the truth {held:.0f}, kept-back rows agree {agreed:.0f}, better than guessing "
                f"{better:.0f} of 100; error said − true, mean {apart:+.3f}"
            )
    print_measures(f"{N_TABLES} made-up tables of {N_ROWS} rows each", words)


def _tried(name: str, seed: int) -> tuple[bool, bool, bool, float]:
    """Of a table: whether the interval holds the truth, the kept-back rows agree, anything is better; and the bias."""
    rng = np.random.default_rng(seed)
    drawn = WAYS[name](rng, N_ROWS + N_FRESH)
    # Groups of fresh rows are others than those that were learned from.
    table, fresh = drawn.iloc[:N_ROWS], drawn.iloc[N_ROWS:].reset_index(drop=True)
    one = offered_for(table, "outcome", Choices(time="fired" if "fired" in table else ""), candidates=CANDIDATES)
    features, outcome, _ = cases(fresh.astype("str"), one.recipe)
    truth = errors_of(one.model.predict(features), outcome.to_numpy(), is_class=one.is_class).mean()
    found = kept_error(one.model, one.features, one.outcome, one.table, one.kept, one.recipe, one.compared)
    agreed = found is not None and found.beside == "alike"
    holds = bool(one.said.low <= truth <= one.said.high)
    return holds, agreed, one.compared.is_better, float(one.said.error - truth)


def _measures(rng: np.random.Generator, n_rows: int) -> pd.DataFrame:
    table = pd.DataFrame(rng.normal(10, 3, (n_rows, 5)).round(2), columns=[f"m{at}" for at in range(5)])
    return table.assign(clay=rng.choice(["red", "white", "black"], n_rows))


def _noise(rng: np.random.Generator, n_rows: int) -> pd.DataFrame:
    return _measures(rng, n_rows).assign(outcome=np.where(rng.random(n_rows) < 0.45, "a", "b"))


def _noise_number(rng: np.random.Generator, n_rows: int) -> pd.DataFrame:
    return _measures(rng, n_rows).assign(outcome=rng.gamma(2, 10, n_rows).round(2))


def _classes(rng: np.random.Generator, n_rows: int) -> pd.DataFrame:
    table = _measures(rng, n_rows)
    score = table["m0"] - 10 + 2 * (table["clay"] == "red") * (table["m1"] - 10) / 3 + rng.logistic(0, 2, n_rows)
    return table.assign(outcome=np.where(score > 0, "cracked", "whole"))


def _number(rng: np.random.Generator, n_rows: int) -> pd.DataFrame:
    table = _measures(rng, n_rows)
    mean = 3 * table["m0"] + 10 * np.sin(table["m1"] / 3) + 8 * (table["clay"] == "red")
    return table.assign(outcome=(mean + rng.normal(0, 8, n_rows)).round(2))


def _groups(rng: np.random.Generator, n_rows: int) -> pd.DataFrame:
    """Eight rows of each thing, which has measures and a way of its own."""
    n_things = -(-n_rows // 8)
    things = _measures(rng, n_things).assign(piece=[f"P{at:05d}" for at in range(n_things)])
    own = rng.normal(0, 6, n_things)
    of_row = np.arange(n_rows) // 8
    table = things.iloc[of_row].reset_index(drop=True).assign(m4=rng.normal(10, 3, n_rows).round(2))
    score = table["m0"] - 10 + table["m4"] - 10 + own[of_row] + rng.logistic(0, 1, n_rows)
    return table.assign(outcome=np.where(score > 0, "cracked", "whole"))


def _spells(rng: np.random.Generator, n_rows: int) -> pd.DataFrame:
    """One a day, of which more crack for some weeks, then fewer."""
    table = _measures(rng, n_rows)
    spell = lfilter([2 * np.sqrt(1 - 0.95**2)], [1, -0.95], rng.normal(size=n_rows))
    score = table["m0"] - 10 + spell + rng.logistic(0, 1, n_rows)
    days = np.datetime64("2024-01-01") + np.arange(n_rows)
    return table.assign(fired=days.astype("str"), outcome=np.where(score > 0, "cracked", "whole"))


WAYS: dict[str, Drawn] = {
    "noise, two classes": _noise,
    "noise, a number": _noise_number,
    "two classes": _classes,
    "a number": _number,
    "two classes, groups of eight": _groups,
    "two classes, one a day, in spells": _spells,
}
