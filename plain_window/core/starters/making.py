"""What a demo is brought of: the model, rows like those it learned from, and those that were kept back."""

import hashlib
import io
from dataclasses import dataclass
from typing import Any, BinaryIO

import joblib
import numpy as np
import pandas as pd

from .by_hand import cases, columns, kept_back, read, words
from .compared import Comparison, KeptError
from .kept_error import kept_error, not_for, together
from .script import requirements_for, script_of, with_hash
from .shapes import Recipe
from .wording import words_of_page

__all__ = ["Made", "make"]

# So many rows are as many as a page makes anything of; the rest say no more of how values lie.
MOST_REFERENCE, MOST_KNOWN = 20_000, 20_000


@dataclass(frozen=True)
class Made:
    """The files, and what is set of the demo; how many rows each is of, and the error on those that were kept back.

    `known_group` is the column of the known cases that says which of them go wrong together; empty for none.
    """

    model: bytes
    reference: bytes
    known: bytes
    script: str
    requirements: str
    known_group: str
    changes: dict[str, Any]
    n_learned: int
    n_reference: int
    n_known: int
    n_kept_back: int
    kept_error: KeptError | None


def make(file: BinaryIO, recipe: Recipe, compared: Comparison | None, *, file_name: str, title: str = "") -> Made:
    """Make it: the script itself is run, so that whoever runs it by hand makes the same.

    Parameters
    ----------
    file : binary file
        The table; seekable.
    recipe : dict
        With `candidate` and `settings`.
    compared : Comparison, optional
        What came of comparing models.
    file_name : str
        What the table is called.
    title : str, optional
        If the author has chosen one.
    """
    script = script_of(recipe)
    # Run as it is handed out: which of two equal words are one object decides on bytes of a pickle.
    names: dict[str, Any] = {"__name__": "train"}
    exec(compile(script, "train.py", "exec"), names)
    file.seek(0)
    model: bytes = names["train"](file, names["RECIPE"])
    file.seek(0)
    table = read(file, recipe["table"], columns(recipe))
    features, outcome, there = cases(table, recipe)
    table = table.iloc[there].reset_index(drop=True)
    is_kept = kept_back(table, recipe)
    error = kept_error(joblib.load(io.BytesIO(model)), features, outcome, table, is_kept, recipe, compared)
    rows = features.assign(**{recipe["target"]["column"]: outcome})
    # What was never learned is no class of the model; known cases of it would be about another.
    is_known = is_kept & (outcome.isin(outcome[~is_kept].unique()) if recipe["target"]["kind"] == "class" else True)
    known_group, cases_known = _with_group(rows[is_known], np.flatnonzero(is_known), table, recipe)
    reference, known = _some(rows[~is_kept], MOST_REFERENCE), _some(cases_known, MOST_KNOWN)
    return Made(
        model=model,
        reference=_parquet(reference, rows),
        known=_parquet(known, rows),
        known_group=known_group,
        script=with_hash(script, hashlib.sha256(model).hexdigest()),
        requirements=requirements_for(recipe),
        changes=words_of_page(recipe, not_for(compared, error), reference, file_name=file_name, title=title),
        n_learned=int((~is_kept).sum()),
        n_reference=len(reference),
        n_known=len(known),
        n_kept_back=int(is_kept.sum()),
        kept_error=error,
    )


def _with_group(
    rows: pd.DataFrame, places: np.ndarray, table: pd.DataFrame, recipe: Recipe
) -> tuple[str, pd.DataFrame]:
    """Known cases with what each is a case of, and the name of that column; empty where each is by itself."""
    if recipe["time"]:
        name, things = "stretch of time", together(table, recipe, places)
    elif recipe["group"]:
        name, things = str(recipe["group"]), words(table[recipe["group"]]).iloc[places].to_numpy()
    else:
        return "", rows
    while name in rows.columns:
        name += "_"
    return name, rows.assign(**{name: things})


def _some(rows: pd.DataFrame, most: int) -> pd.DataFrame:
    if len(rows) <= most:
        return rows.reset_index(drop=True)
    some = np.sort(np.random.default_rng(0).choice(len(rows), most, replace=False))
    return rows.iloc[some].reset_index(drop=True)


def _parquet(some: pd.DataFrame, rows: pd.DataFrame) -> bytes:
    """As a file; whole numbers as such, so that the form asks for whole numbers."""
    whole = [
        name
        for name in rows.columns
        if pd.api.types.is_float_dtype(rows[name]) and bool((rows[name] == rows[name].round()).all())
    ]
    made = io.BytesIO()
    some.astype(dict.fromkeys(whole, "int64")).to_parquet(made, index=False)
    return made.getvalue()
