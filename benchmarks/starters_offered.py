"""A table taken all the way to the model that is offered, in this process: what benches of such models share."""

import io
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import pandas as pd
from sklearn.pipeline import Pipeline

from plain_window.core.starters.by_hand import cases, columns, fit, kept_back, read
from plain_window.core.starters.candidates import CANDIDATES
from plain_window.core.starters.choices import Choices
from plain_window.core.starters.compared import Comparison, Tried
from plain_window.core.starters.comparing import compare
from plain_window.core.starters.looking import look_at_table
from plain_window.core.starters.recipe import recipe_of

__all__ = ["Offered", "offered_for"]


@dataclass(frozen=True)
class Offered:
    """The model, what was said of it, and its rows: which of the table they are, and which were kept back."""

    recipe: dict[str, Any]
    compared: Comparison
    said: Tried
    model: Pipeline
    table: pd.DataFrame
    features: pd.DataFrame
    outcome: pd.Series
    rows: np.ndarray
    kept: np.ndarray

    @property
    def is_class(self) -> bool:
        """Whether it says a class rather than a number."""
        return bool(self.recipe["target"]["kind"] == "class")


def offered_for(
    table: pd.DataFrame, target: str, choices: Choices | None = None, *, candidates: Sequence[str] = CANDIDATES
) -> Offered:
    """Look, compare, and fit what is offered.

    Parameters
    ----------
    table : DataFrame
    target : str
        The column that is predicted.
    choices : Choices, optional
    candidates : sequence of str, optional
    """
    file = io.BytesIO(table.to_csv(index=False).encode())
    sheet, how = look_at_table(file, target=target)
    recipe = recipe_of(sheet, how, choices or Choices())
    file.seek(0)
    compared = compare(file, recipe, progress=lambda _done, _total: None, candidates=candidates)
    said = next(one for one in compared.tried if one.candidate == compared.offered)
    recipe |= {"candidate": said.candidate, "settings": said.settings}
    file.seek(0)
    written = read(file, how, columns(recipe))
    features, outcome, rows = cases(written, recipe)
    written = written.iloc[rows].reset_index(drop=True)
    kept = kept_back(written, recipe)
    model = fit(features[~kept], outcome[~kept], recipe, said.candidate, said.settings)
    return Offered(recipe, compared, said, model, written, features, outcome, rows, kept)
