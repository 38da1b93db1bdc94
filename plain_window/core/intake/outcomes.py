"""Which columns hold what happened, and which words there mean which of the model's classes."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import pandas as pd
from pandas.api import types as dtypes

from ..contract.inspection import Found
from ..errors import Fault, MismatchFaults
from ..fields.inference import NO_WORDS, YES_WORDS
from ..guest.class_names import class_name

__all__ = [
    "OutcomeColumns",
    "WordMatch",
    "as_numbers",
    "class_places",
    "find_outcome_columns",
    "in_order_of_outputs",
    "match_words",
    "named_targets",
]

# Another order of columns, or other words for classes, must be so much better before it is believed.
CLEARLY_BETTER = 0.8
# So many standard errors of what chance would do, before a matching of words with classes is believed.
FAR_FROM_CHANCE = 4.0
# From fewer rows with an outcome nothing is concluded.
FEWEST_ROWS = 10


@dataclass(frozen=True)
class OutcomeColumns:
    """The columns with outcomes, one an output; none if the author must be asked which of `candidates` they are."""

    names: list[str]
    candidates: list[str]


@dataclass(frozen=True)
class WordMatch:
    """Words for classes, found by where model and outcomes agree.

    `by_class` has a word for each class, in class order; `agreement` is the share of rows where model and outcome then
    agree, `by_chance` what it would be if they had nothing to do with each other, and `as_listed` what it is for the
    words in the order of the alphabet.
    """

    by_class: list[str]
    agreement: float
    by_chance: float
    as_listed: float
    n_rows: int

    @property
    def is_believed(self) -> bool:
        """Whether they agree far oftener than by chance: enough to take it for true until the author says otherwise."""
        chance = min(max(self.by_chance, 1e-3), 1 - 1e-3)
        off = (self.agreement - chance) * math.sqrt(max(self.n_rows, 1) / (chance * (1 - chance)))
        return self.n_rows >= FEWEST_ROWS and self.agreement > 0.5 and off >= FAR_FROM_CHANCE

    @property
    def words(self) -> str:
        """How many agree, for a sentence."""
        return f"{round(self.agreement * 100)} of 100 rows"


def named_targets(target: str | None, tables: Sequence[pd.DataFrame | None]) -> list[str]:
    """The outcome's columns as the author named them: one, or several parted by commas.

    Parameters
    ----------
    target : str or None
        The column with outcomes, if it was named.
    tables : sequence of pandas.DataFrame or None
        Reference table and known cases, where there are such.

    Raises
    ------
    MismatchFaults
        If neither the reference table nor the known cases have one of them.
    """
    if target is None:
        return []
    there = {str(name) for table in tables if table is not None for name in table.columns}
    names = [target] if target in there else [part.strip() for part in target.split(",") if part.strip()]
    faults = [
        Fault(
            "target",
            f"Neither the reference table nor the known cases have a column `{name}` to be the outcome. They have "
            f"{_listed(sorted(there))}.",
        )
        for name in names
        if name not in there
    ]
    if faults:
        raise MismatchFaults(faults)
    return names


def find_outcome_columns(
    found: Found, n_outputs: int, targets: Sequence[str], rest: Sequence[str], table: pd.DataFrame
) -> OutcomeColumns:
    """The outcome's columns: those the author named, or all that the model does not ask for, if they are so many.

    Parameters
    ----------
    found : Found
    n_outputs : int
    targets : sequence of str
        Named by the author.
    rest : sequence of str
        Columns of the table that are no features.
    table : DataFrame
        That has the outcomes.

    Raises
    ------
    MismatchFaults
        If the author named another number of columns than the model has outputs.
    """
    n_wanted = n_outputs if found.task in ("numbers", "labels") else 1
    if len(targets) == n_wanted:
        return OutcomeColumns(list(targets), [])
    if len(targets) > n_wanted:
        raise MismatchFaults(
            [
                Fault(
                    "target",
                    f"The model gives {n_wanted} {'answer' if n_wanted == 1 else 'answers'}; `target` names "
                    f"{len(targets)} columns ({_listed(targets)}). Name one column an answer, in the model's order.",
                )
            ]
        )
    fitting = [name for name in rest if _can_hold(table[name], found.task)]
    if len(rest) == n_wanted and (n_wanted == 1 or len(fitting) == n_wanted):
        return OutcomeColumns(list(rest), [])
    return OutcomeColumns([], fitting if len(fitting) >= n_wanted else [])


def in_order_of_outputs(names: Sequence[str], truth: pd.DataFrame, outputs: np.ndarray) -> tuple[list[str], str]:
    """The columns in the order of the outputs they fit, and a note if that is not the order they stand in.

    Parameters
    ----------
    names : sequence of str, length n_outputs
    truth : DataFrame of shape (n_rows, ...)
    outputs : ndarray of shape (n_rows, n_outputs)
    """
    columns = [as_numbers(truth[name]) for name in names]
    off = np.array([[_usual_error(outputs[:, at], column) for column in columns] for at in range(outputs.shape[1])])
    if not np.isfinite(off).all():
        return list(names), ""
    rows, best = _best_pairs(off)
    if off[rows, best].sum() >= CLEARLY_BETTER * np.trace(off):
        return list(names), ""
    ordered = [names[at] for at in best]
    return ordered, (
        f"The model's answers fit the columns {_listed(ordered)} in this order, not in the order they stand in the "
        "table. They are taken so; check it."
    )


def match_words(
    words: Sequence[str], outcomes: Sequence[str | None], outputs: np.ndarray, *, n_classes: int
) -> WordMatch | None:
    """Which word means which class; None if there are not as many words as classes.

    Parameters
    ----------
    words : sequence of str, length n_classes
    outcomes : sequence of str or None, length n_rows
    outputs : ndarray of shape (n_rows, n_classes)
    n_classes : int
    """
    if len(words) != n_classes:
        return None
    places = {word: at for at, word in enumerate(words)}
    counts = np.zeros((n_classes, n_classes))
    for answered, outcome in zip(outputs.argmax(axis=1), outcomes, strict=True):
        if outcome in places:
            counts[answered, places[outcome]] += 1
    total = counts.sum()
    # By shares of each class's rows: a rare class counts as much as a common one.
    rows, columns = _best_pairs(-counts / np.maximum(counts.sum(axis=0), 1.0))
    by_class = [words[at] for at in columns]
    shares = counts / max(total, 1.0)
    by_chance = float(shares.sum(axis=1)[rows] @ shares.sum(axis=0)[columns])
    return WordMatch(by_class, float(shares[rows, columns].sum()), by_chance, float(np.trace(shares)), int(total))


def class_places(
    outcomes: pd.Series, found: Found, names: Sequence[str], words: Mapping[str, str] | None = None
) -> np.ndarray:
    """Each outcome's place among the classes, by the model's own names or by those of the page; NaN for strangers.

    Parameters
    ----------
    outcomes : Series of length n_rows
    found : Found
    names : sequence of str
        The page's names, in class order.
    words : mapping of str to str, optional
        The page's names by the words that outcomes have for them.
    """
    places: dict[str, int] = {}
    for own in (found.classes or [], names):
        for place, name in enumerate(own):
            places.setdefault(str(name), place)
    for word, name in (words or {}).items():
        places.setdefault(word, list(names).index(name))
    return np.array(
        [np.nan if pd.isna(value) else places.get(class_name(value), np.nan) for value in outcomes], dtype="float64"
    )


def as_numbers(column: pd.Series) -> np.ndarray:
    """Outcomes as numbers, yes and no as 1 and 0; NaN for what is neither.

    Parameters
    ----------
    column : pandas.Series
    """
    if dtypes.is_numeric_dtype(column) or dtypes.is_bool_dtype(column):
        return pd.to_numeric(column).to_numpy(dtype="float64", na_value=np.nan)
    numbers = column.map(lambda value: _yes_no(class_name(value)) if pd.notna(value) else np.nan)
    return pd.to_numeric(numbers, errors="coerce").to_numpy(dtype="float64")


def _yes_no(word: str) -> float | str:
    plain = word.casefold()
    return 1.0 if plain in YES_WORDS else 0.0 if plain in NO_WORDS else word


def _can_hold(column: pd.Series, task: str) -> bool:
    """Whether a column could hold the outcomes of such a model."""
    if task == "class":
        return not dtypes.is_float_dtype(column) or column.dropna().nunique() <= 20
    numbers = as_numbers(column)
    known = numbers[np.isfinite(numbers)]
    if not known.size or known.size < column.notna().sum():
        return False
    return bool(np.isin(known, (0, 1)).all()) if task == "labels" else True


def _usual_error(answers: np.ndarray, truth: np.ndarray) -> float:
    """How far off an output is of a column, in units of that column's spread."""
    has = np.isfinite(answers) & np.isfinite(truth)
    if has.sum() < FEWEST_ROWS:
        return np.nan
    spread = float(np.std(truth[has])) or 1.0
    return float(np.mean(np.abs(answers[has] - truth[has]))) / spread


def _listed(names: Sequence[str]) -> str:
    return ", ".join(f"`{name}`" for name in list(names)[:12]) + (" …" if len(names) > 12 else "")


def _best_pairs(costs: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """For each row a column of its own, so that the costs add up to the least."""
    # It takes a second to load, and few models need it.
    from scipy.optimize import linear_sum_assignment

    rows, columns = linear_sum_assignment(costs)
    return rows, columns
