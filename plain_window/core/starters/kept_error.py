"""What the model that was made does on the rows that were kept back: the one error that no choice was made by."""

from typing import Literal, Protocol

import numpy as np
import pandas as pd

from ..trust.together import Measured, is_apart, measured
from .by_hand import fit, latest, units
from .compared import Comparison, KeptError, Tried
from .comparing import measure_of
from .intervals import errors_of, stretches
from .shapes import Recipe
from .telling import Manner, manner_of, number, with_interval
from .wording import label_and_unit

__all__ = ["kept_error", "not_for", "together"]

# Of fewer rows, or things that several rows are of, there is no saying how sure it is.
FEWEST = 2


class Predicts(Protocol):
    """A fitted model."""

    def predict(self, features: pd.DataFrame, /) -> np.ndarray:
        """What it says of rows.

        Parameters
        ----------
        features : DataFrame of shape (n_rows, n_features)
        """


def kept_error(
    model: Predicts,
    features: pd.DataFrame,
    outcome: pd.Series,
    table: pd.DataFrame,
    kept: np.ndarray,
    recipe: Recipe,
    compared: Comparison | None,
) -> KeptError | None:
    """Ask the model about rows that were kept back; None where there are too few.

    Parameters
    ----------
    model : Pipeline
        The fitted model.
    features, outcome, table : DataFrame or Series of n_rows rows
        As `cases` says them, and the rows of the table that they are.
    kept : ndarray of bool, shape (n_rows,)
        Which of them were kept back; all others were learned from.
    recipe : dict
        With the candidate.
    compared : Comparison, optional
        What came of comparing models.
    """
    is_class = recipe["target"]["kind"] == "class"
    learned, rows = np.flatnonzero(~kept), np.flatnonzero(kept)
    if is_class:
        # What was never learned is no class of the model.
        rows = rows[outcome.iloc[rows].isin(outcome.iloc[learned].unique()).to_numpy()]
    of_unit = together(table, recipe, rows)
    if len(np.unique(of_unit)) < FEWEST:
        return None
    measure = compared.measure if compared is not None else measure_of(outcome.iloc[learned], recipe)
    happened = outcome.iloc[rows].to_numpy()
    of_class = happened if measure == "missed" else None
    guess = fit(features.iloc[learned], outcome.iloc[learned], recipe, "guess", {})
    errors, guessing = (
        errors_of(one.predict(features.iloc[rows]), happened, is_class=is_class) for one in (model, guess)
    )
    own = measured(errors, of_unit, of_class, is_share=measure != "off")
    gain = measured(guessing - errors, of_unit, of_class)
    stated = _stated(compared, recipe["candidate"])
    beside = _beside(own, stated)
    found = KeptError(
        measure=measure,
        error=own.mean,
        low=max(0.0, own.low),
        high=own.high,
        guessing=measured(guessing, of_unit, of_class).mean,
        n_rows=len(rows),
        is_better=gain.low > 0,
        beside=beside,
        sentence="",
    )
    unit = label_and_unit(recipe["target"]["column"])[1] if measure == "off" else ""
    manner = manner_of(compared) if compared is not None else Manner(measure, unit, own.error)
    found.sentence = _sentence(found, stated, manner, recipe)
    return found


def together(table: pd.DataFrame, recipe: Recipe, rows: np.ndarray) -> np.ndarray:
    """By row what goes wrong together: stretches of their time where order in time counts, else rows of one thing.

    Parameters
    ----------
    table : DataFrame
        Its rows that have an outcome.
    recipe : dict
    rows : ndarray of int
        Places in the table.
    """
    of_unit = units(table, recipe)
    return stretches(latest(table, recipe, of_unit)[of_unit][rows]) if recipe["time"] else of_unit[rows]


def _stated(compared: Comparison | None, candidate: str) -> Tried | None:
    return next((one for one in compared.tried if one.candidate == candidate), None) if compared is not None else None


def _beside(own: Measured, stated: Tried | None) -> Literal["", "alike", "worse", "better"]:
    if stated is None:
        return ""
    if not is_apart(own, Measured(stated.error, stated.standard_error, stated.low, stated.high)):
        return "alike"
    return "worse" if own.mean > stated.error else "better"


def _sentence(found: KeptError, stated: Tried | None, manner: Manner, recipe: Recipe) -> str:
    by_time, group = recipe["time"], recipe["group"]
    latest_by = f", the latest by `{by_time['column']}`," if by_time else ""
    does = "it" if found.measure == "missed" else "it is"
    why = ", as rows near in time go wrong together" if by_time else ""
    why = f", as rows of one `{group}` go wrong together" if group and not by_time else why
    told = (
        f"On the {found.n_rows:,} rows that were kept back{latest_by} {does} "
        f"{with_interval(found.error, found.low, found.high, manner, why)}; guessing {number(found.guessing, manner)}."
    )
    if stated is not None and found.beside in ("worse", "better"):
        told += (
            f" That is {'more' if found.beside == 'worse' else 'less'} than trying it out showed, "
            f"{number(stated.error, manner)} ({number(stated.low, manner)} to {number(stated.high, manner)})"
        )
        told += ": what happens has changed since." if by_time else "."
    if not found.is_better:
        told += " On them it is not surely better than guessing."
    return told


def not_for(compared: Comparison | None, found: KeptError | None) -> str:
    """What visitors are told that the model is not for; empty for nothing that was found.

    Parameters
    ----------
    compared : Comparison, optional
    found : KeptError, optional
    """
    if compared is not None and not compared.is_better:
        return "Relying on it: on cases it had not seen it was no better than guessing."
    if compared is not None and found is not None and found.beside == "worse":
        earlier = " than on earlier ones" if compared.parted_by == "time" else " than it had seemed before"
        wrong = "further off" if found.measure == "off" else "more often wrong"
        which = "the latest cases" if compared.parted_by == "time" else "cases that were kept back"
        return f"Relying on it closely: on {which}, which it had not seen, it was {wrong}{earlier}."
    return ""
