"""Columns that give the outcome away, or are only known once it is."""

import numpy as np
import pandas as pd
from sklearn.model_selection import KFold, StratifiedKFold
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor

from .by_hand import dates, numbers, words
from .sheet import ColumnLook, Finding, Sheet

__all__ = ["find_leaks"]

LOOKED_AT, FOLDS, MOST_LEAVES = 10_000, 3, 32
# How much of what guessing gets wrong a column alone puts right, to give the outcome away; to be far stronger than
# others it must leave the next behind by as much again.
GIVES_AWAY, STRONG, AHEAD = 0.95, 0.75, 0.3
FEWEST_ROWS = 30
# Filled in only after something happened: nearly all rows that have it have that outcome, and others often do not.
ONLY_AFTER, FEWEST_FILLED = 0.95, 10
ADDS_UP, MOST_SUMMED = 1 - 1e-6, 60


def find_leaks(table: pd.DataFrame, sheet: Sheet, outcome: pd.Series) -> list[Finding]:
    """Columns that give the outcome away, the surest first.

    Parameters
    ----------
    table : DataFrame
        As it is written.
    sheet : Sheet
        With its columns and outcome.
    outcome : Series
        What happened, as numbers or words; gaps where that is not known.
    """
    there = np.flatnonzero(outcome.notna())
    if len(there) < FEWEST_ROWS:
        return []
    if len(there) > LOOKED_AT:
        there = np.sort(np.random.default_rng(0).choice(there, LOOKED_AT, replace=False))
    table, outcome = table.iloc[there].reset_index(drop=True), outcome.iloc[there].reset_index(drop=True)
    columns = [one for one in sheet.columns if one.kind not in ("constant", "empty") and one.name != sheet.target]
    skills = {one.name: _skill(_plain_values(table[one.name], one), outcome, sheet.answer) for one in columns}
    found = [_gives_away(one, sheet, outcome, skills[one.name]) for one in columns if skills[one.name] >= GIVES_AWAY]
    given = {name for finding in found for name in finding.columns}
    after = [_known_afterwards(table, one, sheet, outcome) for one in columns if one.name not in given]
    found += [finding for finding in after if finding is not None]
    given = {name for finding in found for name in finding.columns}
    if sheet.answer == "number":
        found += _adds_up(
            table, [one for one in columns if one.name not in given and one.kind == "number"], sheet, outcome
        )
        given = {name for finding in found for name in finding.columns}
    return found + _far_stronger({name: skill for name, skill in skills.items() if name not in given}, sheet)


def _plain_values(column: pd.Series, look: ColumnLook) -> np.ndarray:
    """A column as numbers by which a tree can part rows; words in the order of how often they are met."""
    if look.kind == "number" or (look.kind in ("yes_no", "identifier") and pd.api.types.is_numeric_dtype(column)):
        values = numbers(column, look.decimal, look.stand_ins, look.unit)
    elif look.kind == "identifier" and "number" in look.may_be:
        values = numbers(column, look.decimal, unit=look.unit)
    elif look.kind == "date":
        read = dates(column, look.day_first)
        values = read.astype("int64").where(read.notna()).astype("float64")
    else:
        return np.asarray(words(column, look.spelled).fillna("").astype("str"), dtype="object")
    return np.asarray(values, dtype="float64")


def _skill(values: np.ndarray, outcome: pd.Series, answer: str) -> float:
    """How much of what guessing gets wrong this column alone puts right, on rows that it was not tried out on."""
    y = outcome.to_numpy()
    is_class = answer == "class"
    if is_class and outcome.value_counts().min() < FOLDS:
        splits = KFold(FOLDS, shuffle=True, random_state=0).split(values)
    else:
        splits = (StratifiedKFold if is_class else KFold)(FOLDS, shuffle=True, random_state=0).split(values, y)
    said = np.empty(len(y), dtype="object" if is_class else "float64")
    for learned, asked in splits:
        said[asked] = _told_by(values[learned], y[learned], values[asked], is_class=is_class)
    if is_class:
        wrong_by_guess = 1 - outcome.value_counts(normalize=True).max()
        return float(1 - (said != y).mean() / wrong_by_guess) if wrong_by_guess else 0.0
    spread = float(np.mean((y - y.mean()) ** 2))
    return float(1 - np.mean((y - said.astype("float64")) ** 2) / spread) if spread else 0.0


def _told_by(values: np.ndarray, y: np.ndarray, asked: np.ndarray, *, is_class: bool) -> np.ndarray:
    if values.dtype == object:
        # Words one by one: what happened to those that are the same.
        learned = pd.DataFrame({"value": values, "y": y})
        of = learned.groupby("value")["y"]
        told = of.agg(lambda each: each.mode().iloc[0]) if is_class else of.mean()
        usual = learned["y"].mode().iloc[0] if is_class else learned["y"].mean()
        return np.asarray(pd.Series(asked).map(told).fillna(usual))
    tree = (DecisionTreeClassifier if is_class else DecisionTreeRegressor)(
        max_leaf_nodes=MOST_LEAVES, min_samples_leaf=3, random_state=0
    )
    return np.asarray(tree.fit(values[:, None], y).predict(asked[:, None]))


def _gives_away(column: ColumnLook, sheet: Sheet, outcome: pd.Series, skill: float) -> Finding:
    if sheet.answer == "class":
        usual = float(outcome.value_counts(normalize=True).max())
        right = 1 - (1 - skill) * (1 - usual)
        said = f"tells `{sheet.target}` in {_of_100(right)} of 100 rows; guessing is right in {_of_100(usual)}"
    else:
        said = f"says {100 * skill:.4g} of 100 parts of how `{sheet.target}` varies"
    return Finding(
        kind="gives-away",
        columns=[column.name],
        sentence=f"`{column.name}` alone {said}. It may be the outcome in other words, or follow from it.",
        suggestion="Left out: whoever asks the page does not know it yet. Keep it if they do.",
        leaves_out=True,
    )


def _of_100(share: float) -> str:
    """Never all of them, and never none, while that is not so."""
    if 0.01 <= share <= 0.99 or share in (0, 1):
        return f"{100 * share:.0f}"
    return f"{min(99.9, max(0.1, 100 * share)):.1f}".removesuffix(".0")


def _known_afterwards(table: pd.DataFrame, column: ColumnLook, sheet: Sheet, outcome: pd.Series) -> Finding | None:
    """A column that is filled in only where something happened."""
    is_filled = table[column.name].notna().to_numpy()
    n_filled = int(is_filled.sum())
    if sheet.answer != "class" or n_filled < FEWEST_FILLED or is_filled.mean() > 1 - ONLY_AFTER / 10:
        return None
    for name, share in outcome.value_counts(normalize=True).items():
        happened = outcome.to_numpy() == name
        within = float(happened[is_filled].mean())
        # Filled in where it happened; or left empty just there.
        if within >= ONLY_AFTER and share < ONLY_AFTER - 0.15:
            seen = f"is filled in for {n_filled:,} rows, of which {_of_100(within)} of 100 are `{name}`; "
            seen += f"of all rows {_of_100(share)} of 100 are"
        elif within <= 1 - ONLY_AFTER and (without := float(happened[~is_filled].mean())) >= ONLY_AFTER:
            seen = f"is empty in {len(outcome) - n_filled:,} rows, of which {_of_100(without)} of 100 are `{name}`"
        else:
            continue
        return Finding(
            kind="known-afterwards",
            columns=[column.name],
            sentence=f"`{column.name}` {seen}. It seems to be written down once that is known.",
            suggestion="Left out: whoever asks the page does not know it yet.",
            leaves_out=True,
        )
    return None


def _adds_up(table: pd.DataFrame, columns: list[ColumnLook], sheet: Sheet, outcome: pd.Series) -> list[Finding]:
    """Columns of numbers that the outcome is a sum of."""
    columns = columns[:MOST_SUMMED]
    values = np.array([_plain_values(table[one.name], one) for one in columns]).T
    if len(columns) < 2:
        return []
    there = np.isfinite(values).all(axis=1)
    y = outcome.to_numpy(dtype="float64")[there]
    x = np.column_stack([values[there], np.ones(int(there.sum()))])
    if len(y) < 3 * x.shape[1] + FEWEST_ROWS or not y.std():
        return []
    names = [one.name for one in columns]
    if _fits(x, y) < ADDS_UP:
        return []
    # Those that are not needed for it go, one after another.
    at = 0
    while at < len(names):
        without = np.delete(x, at, axis=1)
        if _fits(without, y) >= ADDS_UP:
            x, names = without, [name for place, name in enumerate(names) if place != at]
        else:
            at += 1
    if len(names) < 2:
        return []
    listed = ", ".join(f"`{name}`" for name in names[:-1]) + f" and `{names[-1]}`"
    return [
        Finding(
            kind="adds-up",
            columns=names,
            sentence=f"{listed} together give `{sheet.target}` by plain adding and multiplying.",
            suggestion="Left out: there is nothing to predict where these are known.",
            leaves_out=True,
        )
    ]


def _fits(x: np.ndarray, y: np.ndarray) -> float:
    """How much of the variance a linear combination explains, from 0 to 1."""
    scale = np.abs(x).max(axis=0)
    solved, *_ = np.linalg.lstsq(x / np.where(scale > 0, scale, 1), y, rcond=None)
    left = y - (x / np.where(scale > 0, scale, 1)) @ solved
    return float(1 - (left @ left) / ((y - y.mean()) @ (y - y.mean())))


def _far_stronger(skills: dict[str, float], sheet: Sheet) -> list[Finding]:
    """A column that tells far more than any other: pointed out, and kept."""
    order = sorted(skills, key=lambda name: -skills[name])
    if not order or skills[order[0]] < STRONG:
        return []
    following = max(0.0, skills[order[1]]) if len(order) > 1 else 0.0
    if skills[order[0]] - following < AHEAD:
        return []
    return [
        Finding(
            kind="strong",
            columns=[order[0]],
            sentence=f"`{order[0]}` alone puts right {100 * skills[order[0]]:.0f} of 100 parts of what guessing gets "
            f"wrong about `{sheet.target}`; the next column {100 * following:.0f}.",
            suggestion="Kept. Leave it out if it is not known yet when somebody asks.",
        )
    ]
