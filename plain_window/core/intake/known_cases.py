"""Known cases: rows with their outcome that the model was not fitted on, and what they say of it."""

from dataclasses import dataclass, field

import numpy as np
import pandas as pd

from ..answers import ClassSetting
from ..contract.inspection import Found, Inspection
from ..errors import Fault, MismatchFaults, ModelFailed
from ..formats.adapter import ModelAdapter
from ..trust.evidence import Evidence
from ..trust.weighing import weigh_classes, weigh_numbers, weigh_several
from .known_groups import cases_together, grouping_columns, unsaid_groups
from .outcomes import as_numbers, class_places
from .row_sampling import drawn_rows

__all__ = ["KnownCases", "answer_known_cases", "group_notes", "read_known_cases", "weigh"]


@dataclass(frozen=True)
class KnownCases:
    """Rows of the model's columns, their outcomes of shape (n_rows, n_outcomes), and what was left out.

    An outcome is a class's place, a number, or whether a label applied; NaN where it is not known. `together` says by
    numbers which rows are of one thing, None where each is by itself; `groups` are the columns that could, those
    the model is not told in `untold`.
    """

    rows: pd.DataFrame
    outcomes: np.ndarray
    notes: list[str]
    together: np.ndarray | None = None
    groups: pd.DataFrame = field(default_factory=pd.DataFrame)
    untold: tuple[str, ...] = ()


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
    may_miss = [one.name for one in inspection.fields if one.optional]
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
    notes = [f"{n_lost:,} of the known {are} the model does not know, and {do} not count."]
    notes = notes if n_lost else []
    kept = rows.index[has]
    together = None if group is None else cases_together(table[group].loc[kept])
    if group is not None and together is None:
        notes.append(f"No two known cases have the same `{group}`: each counts by itself.")
    groups = grouping_columns(table, kept, names, targets)
    untold = tuple(name for name in groups if name not in names)
    return KnownCases(rows.loc[has, names], outcomes[has], notes, together, groups, untold)


def group_notes(known: KnownCases, outputs: np.ndarray, task: str) -> list[str]:
    """That cases go wrong together of which nobody said that they are of one thing.

    Parameters
    ----------
    known : KnownCases
    outputs : ndarray of shape (n_rows, n_outputs)
        The model's answers to them.
    task : str
    """
    has = np.isfinite(outputs).all(axis=1)
    if known.together is not None or task not in ("class", "number") or not has.any():
        return []
    truths = known.outcomes[has, 0]
    wrong = outputs[has].argmax(axis=1) != truths if task == "class" else np.abs(outputs[has, 0] - truths)
    found = unsaid_groups(known.groups[has], list(known.untold), np.asarray(wrong, dtype="float64"))
    return [
        f"Known cases with the same `{name}` go wrong together: their {int(has.sum()):,} are as sure as {n_alone:,} "
        "cases that have nothing in common. If they are of one thing, say so at “Each is a case of”."
        for name, n_alone in list(found.items())[:1]
    ]


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
    together = None if known.together is None else known.together[has]
    if task in ("numbers", "labels"):
        return weigh_several(outputs, outcomes, are_labels=task == "labels", together=together)
    if task == "class":
        return weigh_classes(outputs, outcomes[:, 0].astype("int64"), together)
    return weigh_numbers(outputs[:, 0], outcomes[:, 0], together)


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
