"""Known cases: rows with their outcome that the model was not fitted on, and what they say of it."""

from dataclasses import dataclass

import numpy as np
import pandas as pd

from ..answers import ClassSetting
from ..contract.inspection import Found, Inspection
from ..errors import Fault, MismatchFaults, ModelFailed
from ..formats.adapter import ModelAdapter
from ..trust.evidence import Evidence
from ..trust.weighing import weigh_classes, weigh_numbers, weigh_several
from .outcomes import as_numbers, class_places
from .row_sampling import drawn_rows

__all__ = ["KnownCases", "answer_known_cases", "read_known_cases", "weigh"]


@dataclass(frozen=True)
class KnownCases:
    """Rows of the model's columns, their outcomes of shape (n_rows, n_outcomes), and what was left out.

    An outcome is a class's place, a number, or whether a label applied; NaN where it is not known. `together` says by
    numbers which rows are of one thing, None where each is by itself.
    """

    rows: pd.DataFrame
    outcomes: np.ndarray
    notes: list[str]
    together: np.ndarray | None = None


def read_known_cases(table: pd.DataFrame, inspection: Inspection, group: str | None = None) -> KnownCases:
    """Known cases that can be compared with the model's answers.

    Parameters
    ----------
    table : DataFrame
    inspection : Inspection
        Of the model, with the outcome's columns as far as they are known.
    group : str, optional
        The column that says what each row is a case of.

    Raises
    ------
    MismatchFaults
        If columns are missing, or no row has an outcome the model could give.
    """
    if group is not None and group not in table.columns:
        raise MismatchFaults([Fault("known_group", _missing_words(table, [group], [group]))])
    names = [column.name for column in inspection.columns]
    may_miss = [field.name for field in inspection.fields if field.optional]
    targets = inspection.targets or _others(table, [*names, *([group] if group else [])], inspection)
    if group in targets:
        message = f"`{group}` is the outcome. Name the column that says what several known cases are of, or none."
        raise MismatchFaults([Fault("known_group", message)])
    missing = [name for name in [*names, *targets] if name not in table.columns]
    if not targets or missing:
        raise MismatchFaults([Fault("known", _missing_words(table, missing, targets))])
    rows = drawn_rows(table, names, may_miss)
    outcomes = np.column_stack([_outcomes(rows[name], inspection) for name in targets])
    has = np.isfinite(outcomes).any(axis=1)
    if not has.any():
        raise MismatchFaults([Fault("known", _no_outcome_words(rows[targets[0]], inspection.found))])
    n_gaps = int(table[[name for name in names if name not in may_miss]].isna().any(axis=1).sum())
    n_lost = n_gaps + int((~has).sum())
    are, do = ("case has a gap or an outcome", "does") if n_lost == 1 else ("cases have gaps or an outcome", "do")
    notes = [f"{n_lost} of the known {are} the model does not know, and {do} not count."]
    notes = notes if n_lost else []
    together = None if group is None else _together(table.loc[rows.index[has], group])
    if group is not None and together is None:
        notes.append(f"No two known cases have the same `{group}`: each counts by itself.")
    return KnownCases(rows.loc[has, names], outcomes[has], notes, together)


def _together(things: pd.Series) -> np.ndarray | None:
    """A number for each thing, None where each case is of another; one of which none is said is by itself."""
    codes, known = pd.factorize(things)
    codes = np.where(codes < 0, len(known) + np.arange(len(codes)), codes)
    return codes if len(np.unique(codes)) < len(codes) else None


def _outcomes(column: pd.Series, inspection: Inspection) -> np.ndarray:
    if isinstance(inspection.answer, ClassSetting):
        names = [wording.name for wording in inspection.answer.classes]
        return class_places(column, inspection.found, names, inspection.outcome_words)
    numbers = as_numbers(column)
    return np.where(np.isfinite(numbers), numbers, np.nan)


def answer_known_cases(model: ModelAdapter, known: KnownCases) -> np.ndarray:
    """What the model says of known cases, shape (n_rows, n_outputs).

    Parameters
    ----------
    model : ModelAdapter
    known : KnownCases

    Raises
    ------
    MismatchFaults
        If the model cannot answer them.
    """
    try:
        return model.predict(known.rows)
    except ModelFailed as error:
        raise MismatchFaults([Fault("known", f"The model could not answer the known cases. {error}")]) from error


def weigh(outputs: np.ndarray, known: KnownCases, task: str) -> Evidence | None:
    """What the model's answers to known cases say of it; None if it has a number for none of them.

    Parameters
    ----------
    outputs : ndarray of shape (n_rows, n_outputs)
    known : KnownCases
    task : str
    """
    has = np.isfinite(outputs).all(axis=1)
    if not has.any():
        return None
    outputs, outcomes = outputs[has], known.outcomes[has]
    if task in ("numbers", "labels"):
        return weigh_several(outputs, outcomes, are_labels=task == "labels")
    if task == "class":
        return weigh_classes(outputs, outcomes[:, 0].astype("int64"))
    return weigh_numbers(outputs[:, 0], outcomes[:, 0])


def _others(table: pd.DataFrame, names: list[str], inspection: Inspection) -> list[str]:
    """The columns that are no features, if they are as many as the outcomes."""
    rest = [name for name in table.columns if name not in names]
    setting = inspection.answer
    n_wanted = (
        len(setting.values) if setting.kind == "numbers" else len(setting.labels) if setting.kind == "labels" else 1
    )
    return rest if len(rest) == n_wanted else []


def _missing_words(table: pd.DataFrame, missing: list[str], targets: list[str]) -> str:
    if not targets:
        return "Which column of the known cases is the outcome cannot be told. Name it as `target`."
    has = ", ".join(f"`{name}`" for name in list(table.columns)[:12])
    lacks = ", ".join(f"`{name}`" for name in missing[:8])
    return f"The known cases have no column {lacks}. They have {has}. Rename them or upload a table that has them."


def _no_outcome_words(outcomes: pd.Series, found: Found) -> str:
    listed = ", ".join(f"`{value}`" for value in outcomes.dropna().unique()[:6]) or "nothing"
    expected = ", ".join(f"`{name}`" for name in (found.classes or [])[:8]) or "a number"
    return f"No known case has an outcome the model could give. Expected {expected}; the column has {listed}."
