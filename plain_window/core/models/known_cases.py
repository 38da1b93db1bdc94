"""Known cases: rows with their outcome that the model was not fitted on, and what they say of it."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import pandas as pd

from ..answers import AnyAnswerSetting
from ..errors import Fault, MismatchFaults, ModelFailed
from ..fields.columns import Column
from ..trust.evidence import Evidence
from ..trust.weighing import weigh_classes, weigh_numbers
from .adapter import ModelAdapter
from .drawing import drawn_rows
from .found import Found
from .sklearn import class_name

__all__ = ["KnownCases", "class_places", "read_known_cases", "weigh"]


@dataclass(frozen=True)
class KnownCases:
    """Rows of the model's columns, their outcomes (a class's place, or a number), and what was left out."""

    rows: pd.DataFrame
    outcomes: np.ndarray
    notes: list[str]


def read_known_cases(
    table: pd.DataFrame,
    columns: Sequence[Column],
    *,
    target: str | None,
    found: Found,
    answer: AnyAnswerSetting,
    may_miss: Sequence[str],
) -> KnownCases | None:
    """Known cases that can be compared with the model's answers; None for kinds of answer that have no one outcome.

    Raises
    ------
    MismatchFaults
        If columns are missing, or no row has an outcome the model could give.
    """
    if found.task not in ("class", "number"):
        return None
    names = [column.name for column in columns]
    target = target or _only_other(table, names)
    missing = [name for name in [*names, *([target] if target else [])] if name not in table.columns]
    if target is None or missing:
        raise MismatchFaults([Fault("known", _missing_words(table, missing, target))])
    rows = drawn_rows(table, names, list(may_miss))
    outcomes = class_places(rows[target], found, answer) if found.task == "class" else _numbers(rows[target])
    has = np.isfinite(outcomes)
    if not has.any():
        raise MismatchFaults([Fault("known", _no_outcome_words(rows[target], found))])
    n_gaps = int(table[[name for name in names if name not in may_miss]].isna().any(axis=1).sum())
    n_lost = n_gaps + int((~has).sum())
    notes = [f"{n_lost} of the known cases have gaps or an outcome the model does not know, and do not count."]
    return KnownCases(rows.loc[has, names], outcomes[has], notes if n_lost else [])


def weigh(model: ModelAdapter, known: KnownCases, *, is_class: bool) -> Evidence | None:
    """What the model's answers to known cases say of it; None if it has a number for none of them.

    Raises
    ------
    MismatchFaults
        If the model cannot answer them.
    """
    try:
        outputs = model.predict(known.rows)
    except ModelFailed as error:
        raise MismatchFaults([Fault("known", f"The model could not answer the known cases. {error}")]) from error
    has = np.isfinite(outputs).all(axis=1)
    if not has.any():
        return None
    outputs, outcomes = outputs[has], known.outcomes[has]
    return weigh_classes(outputs, outcomes.astype("int64")) if is_class else weigh_numbers(outputs[:, 0], outcomes)


def _only_other(table: pd.DataFrame, names: list[str]) -> str | None:
    rest = [name for name in table.columns if name not in names]
    return rest[0] if len(rest) == 1 else None


def _missing_words(table: pd.DataFrame, missing: list[str], target: str | None) -> str:
    if target is None:
        return "Which column of the known cases is the outcome cannot be told. Name it as `target`."
    has = ", ".join(f"`{name}`" for name in list(table.columns)[:12])
    lacks = ", ".join(f"`{name}`" for name in missing[:8])
    return f"The known cases have no column {lacks}. They have {has}. Rename them or upload a table that has them."


def _no_outcome_words(outcomes: pd.Series, found: Found) -> str:
    seen = ", ".join(f"`{value}`" for value in outcomes.dropna().unique()[:6]) or "nothing"
    expected = ", ".join(f"`{name}`" for name in (found.classes or [])[:8]) or "a number"
    return f"No known case has an outcome the model could give. Expected {expected}; the column has {seen}."


def class_places(outcomes: pd.Series, found: Found, answer: AnyAnswerSetting) -> np.ndarray:
    """Each outcome's place among the classes, by the model's own names or by those of the page; NaN for strangers."""
    places: dict[str, int] = {}
    for names in (found.classes or [], [wording.name for wording in getattr(answer, "classes", [])]):
        for place, name in enumerate(names):
            places.setdefault(str(name), place)
    return np.array(
        [np.nan if pd.isna(value) else places.get(class_name(value), np.nan) for value in outcomes], dtype="float64"
    )


def _numbers(outcomes: pd.Series) -> np.ndarray:
    numbers = pd.to_numeric(outcomes, errors="coerce").to_numpy(dtype="float64")
    return np.where(np.isfinite(numbers), numbers, np.nan)
