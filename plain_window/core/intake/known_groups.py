"""What known cases are of: a batch, a person, a day, of which there are several each."""

import numpy as np
import pandas as pd

from ..trust.together import effective_trials

__all__ = ["cases_together", "grouping_columns", "unsaid_groups"]

MOST_COLUMNS = 100
# A column is only suspected where it has so many things, each of two cases and more on average.
FEWEST_THINGS = 10
# Cases go wrong together where they amount to fewer than this share of their number, and to fewer than chance makes
# of them: of 400 tables each of six sizes with nothing in it, two at the most were suspected.
LARGEST_SHARE, BEYOND = 2 / 3, 3.1


def cases_together(things: pd.Series) -> np.ndarray | None:
    """A number for each thing, None where each case is of another; one of which none is said is by itself.

    Parameters
    ----------
    things : Series
    """
    codes, known = pd.factorize(things)
    codes = np.where(codes < 0, len(known) + np.arange(len(codes)), codes)
    return codes if len(np.unique(codes)) < len(codes) else None


def grouping_columns(table: pd.DataFrame, kept: pd.Index, features: list[str], outcomes: list[str]) -> pd.DataFrame:
    """The columns that could say what known cases are of: some share a value, not all do.

    Those that the model is not told come first; a wide table has more of them than anybody would look through.

    Parameters
    ----------
    table : DataFrame
        Known cases.
    kept : Index
        Of the rows that count.
    features : list of str
        The model's columns.
    outcomes : list of str
    """
    names = sorted((name for name in table.columns if name not in outcomes), key=lambda name: name in features)
    found: dict[str, pd.Series] = {}
    for name in names:
        column = table[name].loc[kept]
        if _names_things(column):
            found[name] = column
        if len(found) == MOST_COLUMNS:
            break
    return pd.DataFrame(found, index=kept)


def _names_things(column: pd.Series) -> bool:
    try:
        return 1 < column.nunique() < len(column)
    except TypeError:
        # Lists and the like, as Parquet has them, name nothing.
        return False


def unsaid_groups(rows: pd.DataFrame, names: list[str], wrong: np.ndarray) -> dict[str, int]:
    """Columns whose cases go wrong together, with how many independent cases they amount to; worst first.

    Parameters
    ----------
    rows : DataFrame
        Known cases.
    names : list of str
        Columns that the model is not told.
    wrong : ndarray of shape (n_rows,)
        How wrong each case was answered; above the median counts as wrong where it is no yes or no.
    """
    is_wrong = wrong > np.median(wrong) if len(np.unique(wrong)) > 2 else wrong > 0
    found = {}
    for name in names:
        things = cases_together(rows[name])
        n_things = 0 if things is None else len(np.unique(things))
        if things is None or n_things < FEWEST_THINGS or 2 * n_things > len(rows):
            continue
        trials = effective_trials(is_wrong, things)
        # By chance alone the spread of things' means is off by about the square root of 2 / n_things.
        if trials < len(rows) * min(LARGEST_SHARE, 1 / (1 + BEYOND * (2 / n_things) ** 0.5)):
            found[name] = round(trials)
    return dict(sorted(found.items(), key=lambda one: one[1]))
