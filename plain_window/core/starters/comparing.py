"""Models fitted and tried on rows they had not seen, again and again, and held against guessing."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any, BinaryIO, Literal

import numpy as np
import pandas as pd
from sklearn.model_selection import GroupKFold, KFold, StratifiedGroupKFold, StratifiedKFold

from ..trust.together import Measured, measured
from .by_hand import cases, columns, kept_back, latest, read, units
from .candidates import CANDIDATES, settings_of
from .compared import NAMES, Comparison, Tried
from .intervals import plainest_within_one, stretches
from .shapes import CandidateSettings, Recipe
from .telling import told, verdict
from .trial import Trial
from .wording import label_and_unit

__all__ = ["compare", "measure_of"]

FOLDS = 5
# A small table is parted several times over; of a large one so many rows are enough to tell models apart.
REPEATS = ((500, 4), (2_000, 2), (10**12, 1))
MOST_ROWS = 20_000
# From this share of the most frequent class on, being right in most rows says little.
UNEVEN = 0.75
# How much of what a model learns from is set aside to choose its settings.
INNER_FOLDS = 4


@dataclass(frozen=True)
class _Rows:
    features: pd.DataFrame
    outcome: pd.Series
    of_unit: np.ndarray
    moments: np.ndarray | None
    n_of: int
    n_kept_back: int


def compare(
    file: BinaryIO,
    recipe: Recipe,
    *,
    weights: str = "",
    progress: Callable[[int, int], None],
    candidates: Sequence[str] = CANDIDATES,
) -> Comparison:
    """Try all candidates on rows that were not kept back.

    Parameters
    ----------
    file : binary file
        The table.
    recipe : dict
    weights : "none" or "balanced", optional
        How much rare classes count; tried both ways where it matters if left out.
    progress : callable
        Called with how many fits are done, and how many there are.
    candidates : sequence of str, optional

    Raises
    ------
    ValueError
        If there are too few rows, or groups, to part.
    """
    rows = _rows_of(file, recipe)
    if rows.outcome.nunique() == 1:
        target = recipe["target"]["column"]
        parted = "; part them by chance rather than by time" if recipe["time"] else ""
        raise ValueError(
            f"All rows that are not kept back have the same `{target}`, {rows.outcome.iloc[0]}: nothing can be learned "
            f"from them{parted}."
        )
    measure = measure_of(rows.outcome, recipe)
    weighing = weights or ("both" if measure == "missed" else "none")
    splits = list(_splits(rows, recipe["target"]["kind"], seed=recipe["seed"]))
    fewest = min(len(learned) for learned, _ in splits)
    kind = recipe["target"]["kind"]
    settings = {
        one: settings_of(one, answer=kind, weights=weighing, fewest_rows=fewest * (INNER_FOLDS - 1) // INNER_FOLDS)
        for one in ("guess", *candidates)
    }
    n_each = {one: len(tried) + 1 if len(tried) > 1 else 1 for one, tried in settings.items()}
    total, done = len(splits) * sum(n_each.values()), 0
    wrong = {one: _Wrong(len(rows.outcome)) for one in settings}
    chosen: dict[str, list[np.ndarray]] = {one: [] for one in settings}

    def step() -> None:
        nonlocal done
        done += 1
        progress(done, total)

    for learned, tried_on in splits:
        inner_trial, trial = (
            Trial(rows.features, rows.outcome, recipe, *parts)
            for parts in (_inner_split(rows, recipe, learned), (learned, tried_on))
        )
        for one, tried in settings.items():
            inner = _inner_errors(inner_trial, one, tried, measure, step)
            wrong[one].add(tried_on, trial.errors(one, tried[int(np.argmin(inner))]))
            chosen[one].append(inner)
            step()
    unit = label_and_unit(recipe["target"]["column"])[1] if measure == "off" else ""
    return _compared(rows, measure, weighing, settings, wrong, chosen, len(splits), unit)


def measure_of(outcome: pd.Series, recipe: Recipe) -> Literal["wrong", "missed", "off"]:
    """What of a model is measured, as `Comparison.measure` says it.

    Parameters
    ----------
    outcome : Series
        Of the rows that are learned from.
    recipe : dict
    """
    if recipe["target"]["kind"] == "number":
        return "off"
    return "missed" if outcome.value_counts(normalize=True).max() >= UNEVEN else "wrong"


class _Wrong:
    """Each row's error while it was set aside, over all times that it was."""

    def __init__(self, n_rows: int) -> None:
        self._sums, self._times = np.zeros(n_rows), np.zeros(n_rows, dtype="int64")

    def add(self, rows: np.ndarray, errors: np.ndarray) -> None:
        self._sums[rows] += errors
        self._times[rows] += 1

    @property
    def there(self) -> np.ndarray:
        """Which rows were ever set aside."""
        return np.flatnonzero(self._times)

    @property
    def errors(self) -> np.ndarray:
        """Their mean errors."""
        return self._sums[self.there] / self._times[self.there]


def _rows_of(file: BinaryIO, recipe: Recipe) -> _Rows:
    table = read(file, recipe["table"], columns(recipe))
    features, outcome, there = cases(table, recipe)
    table = table.iloc[there].reset_index(drop=True)
    is_kept = kept_back(table, recipe)
    learned = np.flatnonzero(~is_kept)
    of_unit = units(table, recipe)
    moments = latest(table, recipe, of_unit)[of_unit] if recipe["time"] else None
    n_of = len(learned)
    if n_of > MOST_ROWS:
        learned = _some(learned, of_unit)
    return _Rows(
        features.iloc[learned].reset_index(drop=True),
        outcome.iloc[learned].reset_index(drop=True),
        pd.factorize(of_unit[learned])[0],
        moments[learned] if moments is not None else None,
        n_of,
        int(is_kept.sum()),
    )


def _some(learned: np.ndarray, of_unit: np.ndarray) -> np.ndarray:
    """Some of the rows, whole units of them."""
    names = np.unique(of_unit[learned])
    order = np.random.default_rng(0).permutation(names)
    sizes = np.bincount(of_unit[learned], minlength=int(of_unit.max()) + 1)[order]
    taken = order[np.cumsum(sizes) <= MOST_ROWS]
    return learned[np.isin(of_unit[learned], taken)]


def _splits(rows: _Rows, kind: str, *, seed: int) -> Iterator[tuple[np.ndarray, np.ndarray]]:
    """Rows to learn from and rows to try it on: later ones where order in time counts, whole groups always."""
    n_rows = len(rows.outcome)
    if rows.moments is not None:
        yield from _later(rows)
        return
    repeats = next(n for most, n in REPEATS if n_rows <= most)
    for repeat in range(repeats):
        yield from _parted(rows, np.arange(n_rows), kind, FOLDS, seed + repeat)


def _later(rows: _Rows) -> Iterator[tuple[np.ndarray, np.ndarray]]:
    assert rows.moments is not None, "rows are parted by time only where they have one"
    # A unit's moment is its latest row's: rows of one unit are next to each other.
    order = np.lexsort((rows.of_unit, rows.moments))
    of_unit = rows.of_unit[order]
    starts = np.flatnonzero(np.r_[True, of_unit[1:] != of_unit[:-1]])
    wanted = np.linspace(0, len(order), FOLDS + 2).astype("int64")[1:-1]
    cuts = [int(starts[np.searchsorted(starts, cut)]) for cut in wanted if cut <= starts[-1]]
    for at, cut in enumerate(cuts):
        until = cuts[at + 1] if at + 1 < len(cuts) else len(order)
        if until > cut:
            yield order[:cut], order[cut:until]


def _parted(
    rows: _Rows, within: np.ndarray, kind: str, n_folds: int, seed: int
) -> Iterator[tuple[np.ndarray, np.ndarray]]:
    outcome, of_unit = rows.outcome.to_numpy()[within], rows.of_unit[within]
    n_units = len(np.unique(of_unit))
    if n_units < n_folds:
        raise ValueError(
            f"The rows are of {n_units} groups; at least {n_folds} are needed to learn from some and try others."
        )
    is_class = kind == "class" and pd.Series(outcome).value_counts().min() >= n_folds
    has_groups = _has_groups(of_unit)
    if has_groups:
        parted = (StratifiedGroupKFold if is_class else GroupKFold)(n_folds, shuffle=True, random_state=seed)
    else:
        parted = (StratifiedKFold if is_class else KFold)(n_folds, shuffle=True, random_state=seed)
    for learned, tried_on in parted.split(
        np.zeros(len(within)), outcome if is_class else None, of_unit if has_groups else None
    ):
        if len(learned) and len(tried_on):
            yield within[learned], within[tried_on]


def _inner_errors(
    trial: Trial, candidate: str, tried: list[CandidateSettings], measure: str, step: Callable[[], None]
) -> np.ndarray:
    """Each setting's error on a part of what is learned from that it did not see."""
    if len(tried) == 1:
        return np.zeros(1)
    found = []
    for settings in tried:
        errors = trial.errors(candidate, settings)
        found.append(_mean(errors, trial.happened if measure == "missed" else None))
        step()
    return np.array(found)


def _inner_split(rows: _Rows, recipe: Recipe, learned: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """What is learned from, once more in two: settings are chosen by the second part."""
    if rows.moments is None:
        return next(_parted(rows, learned, recipe["target"]["kind"], INNER_FOLDS, recipe["seed"]))
    order = learned[np.argsort(rows.moments[learned], kind="stable")]
    cut = len(order) * (INNER_FOLDS - 1) // INNER_FOLDS
    first, rest = order[:cut], order[cut:]
    apart = rest[~np.isin(rows.of_unit[rest], rows.of_unit[first])]
    return first, apart if len(apart) else rest


def _mean(errors: np.ndarray, of_class: np.ndarray | None) -> float:
    if of_class is None:
        return float(errors.mean())
    return float(np.mean([errors[of_class == one].mean() for one in np.unique(of_class)]))


def _compared(
    rows: _Rows,
    measure: Literal["wrong", "missed", "off"],
    weighing: Any,
    settings: dict[str, list[CandidateSettings]],
    wrong: dict[str, _Wrong],
    chosen: dict[str, list[np.ndarray]],
    n_splits: int,
    unit: str,
) -> Comparison:
    there = wrong["guess"].there
    of_thing = rows.of_unit[there]
    of_unit = of_thing if rows.moments is None else stretches(rows.moments[there])
    of_class = rows.outcome.to_numpy()[there] if measure == "missed" else None
    by_name = {
        one: measured(each.errors, of_unit, of_class, is_share=measure != "off", of_thing=of_thing)
        for one, each in wrong.items()
    }
    models = [one for one in by_name if one != "guess"]
    best = min(models, key=lambda one: by_name[one].mean)
    tried = [
        _tried(
            one,
            own,
            # Widened for as many models as are held against guessing: of noise it is rarely said that one is better.
            gain=measured(wrong["guess"].errors - wrong[one].errors, of_unit, of_class, n_intervals=len(models)),
            behind=measured(wrong[one].errors - wrong[best].errors, of_unit, of_class, n_intervals=len(models)),
            settings=settings[one][int(np.argmin(np.mean(chosen[one], axis=0)))],
        )
        for one, own in by_name.items()
    ]
    found = Comparison(
        measure=measure,
        tried=tried,
        offered=models[plainest_within_one([by_name[one] for one in models])],
        best=best,
        n_rows=len(rows.outcome),
        n_tried=len(there),
        n_of=rows.n_of,
        n_kept_back=rows.n_kept_back,
        n_splits=n_splits,
        n_repeats=max(1, n_splits // FOLDS) if rows.moments is None else 1,
        parted_by="time" if rows.moments is not None else "group" if _has_groups(rows.of_unit) else "chance",
        n_units=len(np.unique(rows.of_unit)),
        is_better=any(one.is_better for one in tried),
        weights=weighing,
        unit=unit,
    )
    for each in found.tried:
        each.text = told(each, found)
    found.verdict = verdict(found)
    return found


def _tried(candidate: str, own: Measured, *, gain: Measured, behind: Measured, settings: CandidateSettings) -> Tried:
    """One model as it did: by itself, against guessing, and behind the best of them."""
    return Tried.model_validate(
        {
            "candidate": candidate,
            "name": NAMES[candidate],
            "error": own.mean,
            "low": max(0.0, own.low),
            "high": own.high,
            "standard_error": own.error,
            "settings": settings,
            "is_better": candidate != "guess" and gain.low > 0,
            "gain_low": gain.low,
            "gain_high": gain.high,
            "behind_low": behind.low,
            "behind_high": behind.high,
        }
    )


def _has_groups(of_unit: np.ndarray) -> bool:
    return len(np.unique(of_unit)) < len(of_unit)
