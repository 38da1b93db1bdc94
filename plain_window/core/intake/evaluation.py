"""What is worked out once when a model is brought: which fields matter at all, and what known cases say."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from time import process_time
from typing import Any

import numpy as np
import pandas as pd

from ..contract.inspection import Inspection, LikenessFound
from ..contract.kept_rows import OUTCOME_SEPARATOR, TEXTS_COMPARED, KeptRows
from ..documents import BACKGROUND_ROWS
from ..errors import ModelFailed
from ..explain.pace import timed
from ..explain.structure import used_fields
from ..formats.adapter import ModelAdapter
from ..formats.model_table import model_table
from ..plan.columns import Columns
from ..plan.engine import CompiledModel
from ..trust.evidence import Evidence
from ..trust.likeness import FEWEST_KNOWN, describe_text, false_alarm_share
from .known_cases import KnownCases, answer_known_cases, group_notes, read_known_cases, weigh
from .outcomes import as_numbers, class_places
from .row_sampling import drawn_rows, plain_value

__all__ = ["evaluate_model", "field_strengths", "usual_outputs"]

STRENGTH_ROWS, FEWEST_STRENGTH_ROWS, STRENGTH_VALUES, STRENGTH_SECONDS = 100, 25, 5_000_000, 15.0
# How far the values of a field are moved down the rows, as shares of their number.
MOVES = (0.5, 0.29)


@dataclass(frozen=True)
class _SaidByKnown:
    """What known cases say of a model, what they could be of, and what their author should look at."""

    evidence: Evidence | None = None
    groups: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()


def evaluate_model(
    model: ModelAdapter,
    table: pd.DataFrame,
    inspection: Inspection,
    known_table: pd.DataFrame | None = None,
    compiled: CompiledModel | None = None,
    known_group: str | None = None,
) -> tuple[Inspection, KeptRows]:
    """The rows to keep beside a model, and the inspection with what was worked out from them.

    Parameters
    ----------
    model : ModelAdapter
    table : DataFrame
        The reference table.
    inspection : Inspection
    known_table : DataFrame, optional
        Known cases with the outcome's column.
    compiled : CompiledModel, optional
        The same model, to be asked faster and looked into.
    known_group : str, optional
        The column of the known cases that says what each is a case of.

    Raises
    ------
    MismatchFaults
        If the known cases do not belong to the model.
    """
    names = [column.name for column in inspection.columns]
    may_miss = [field.name for field in inspection.fields if field.optional]
    known = read_known_cases(known_table, inspection, known_group) if known_table is not None else None
    known_outputs = answer_known_cases(model, known) if known else None
    said_by_known = _SaidByKnown()
    if known is not None and known_outputs is not None:
        task = inspection.found.task
        said_by_known = _SaidByKnown(
            weigh(known_outputs, known, task),
            tuple(known.groups.columns),
            tuple(group_notes(known, known_outputs, task)),
        )
    rows = drawn_rows(table, names, may_miss)
    kept_rows = _with_known_cases(
        KeptRows(columns=_plain_columns(rows, names), outcomes=_outcomes(rows, inspection)),
        known,
        known_outputs,
        inspection,
    )

    def predict(columns: Columns) -> np.ndarray:
        if compiled is not None:
            return compiled.predict({item.name: columns[item.name] for item in compiled.plan.inputs})
        asked = [dict(zip(columns, values, strict=True)) for values in zip(*columns.values(), strict=True)]
        return model.predict(model_table(inspection.columns, asked))

    fields = [field.name for field in inspection.fields]
    # Wide tables are asked about fewer rows: each question takes a value of every field.
    n_rows = min(STRENGTH_ROWS, max(FEWEST_STRENGTH_ROWS, STRENGTH_VALUES // max(1, len(fields) ** 2)))
    strength = field_strengths(predict, kept_rows.first(n_rows), fields)
    usual = usual_outputs(predict, kept_rows.first(BACKGROUND_ROWS))
    worked_out = inspection.model_copy(
        update={
            "usual": usual,
            "usual_rows": min(BACKGROUND_ROWS, kept_rows.n_rows) if usual else 0,
            "strength": strength,
            "unused": _unused(fields, strength, compiled, n_rows),
            "evidence": said_by_known.evidence,
            "known_groups": list(said_by_known.groups),
            "notes": [*inspection.notes, *_notes(kept_rows, known), *said_by_known.notes],
            "likeness": _likeness_of_texts(kept_rows, inspection),
        }
    )
    return worked_out, kept_rows


def _with_known_cases(
    kept_rows: KeptRows, known: KnownCases | None, outputs: np.ndarray | None, inspection: Inspection
) -> KeptRows:
    if known is None or outputs is None:
        return kept_rows
    # How wrong an answer is can be said of one outcome only.
    is_one_of_one = inspection.found.task in ("class", "number")
    return replace(
        kept_rows,
        known_columns=_plain_columns(known.rows, list(kept_rows.columns)),
        known_outcomes=known.outcomes[:, 0].tolist() if is_one_of_one else [],
        known_places=[int(place) for place in known.rows.index],
        known_outputs=outputs.tolist(),
        known_truths=known.outcomes.tolist(),
        known_together=[] if known.together is None else known.together.tolist(),
    )


def usual_outputs(predict: Callable[[Columns], np.ndarray], columns: Columns) -> list[float]:
    """The model's average outputs over the rows that contributions are counted from.

    Parameters
    ----------
    predict : callable
        Columns to outputs of shape (n_rows, n_outputs).
    columns : mapping
        Reference rows by column.

    Returns
    -------
    list of float, length n_outputs
        Empty where the model does not answer all of them: there is nothing to count from then.
    """
    try:
        outputs = predict(columns)
    except ModelFailed:
        return []
    return outputs.mean(axis=0).tolist() if len(outputs) and np.isfinite(outputs).all() else []


def _likeness_of_texts(kept_rows: KeptRows, inspection: Inspection) -> list[LikenessFound]:
    """How texts unlike the reference rows' are told, and how often that is a false alarm."""
    found = []
    for field in inspection.fields:
        texts = [text for text in kept_rows.columns[field.name][:TEXTS_COMPARED] if isinstance(text, str)]
        if field.kind != "text" or len(texts) < FEWEST_KNOWN:
            continue
        share = false_alarm_share(np.array([describe_text(text) for text in texts]), is_text=True)
        by = "letters of the text"
        found.append(LikenessFound(field=field.name, by=by, n_known=len(texts), false_alarms=share))
    return found


def field_strengths(
    predict: Callable[[Columns], np.ndarray],
    columns: Columns,
    fields: Sequence[str],
) -> dict[str, float]:
    """How far answers move on average when one field takes the values of other rows, strongest first.

    Parameters
    ----------
    predict : callable
        Columns to outputs of shape (n_rows, n_outputs).
    columns : mapping
        Reference rows by column.
    fields : sequence of str

    Returns
    -------
    dict
        Exactly 0 for a field that never moved an answer. Fields that were not reached in time, or moved to where the
        model fails, are left out.
    """
    n_rows = len(next(iter(columns.values()), []))
    if not n_rows:
        return {}
    usual, seconds = timed(lambda: predict(columns), quick_seconds=STRENGTH_SECONDS / 10)
    if seconds > STRENGTH_SECONDS / 10:
        # So slow a model is not asked again and again while its author waits.
        return {}
    deadline = process_time() + STRENGTH_SECONDS
    strengths: dict[str, float] = {}
    for name in fields:
        if process_time() > deadline:
            break
        moved = 0.0
        try:
            for share in MOVES:
                by = max(1, int(n_rows * share))
                values = list(columns[name])
                apart = np.abs(predict({**columns, name: [*values[by:], *values[:by]]}) - usual)
                # A model may have no number for some rows; the others tell.
                moved += float(apart[np.isfinite(apart)].mean()) if np.isfinite(apart).any() else math.nan
        except ModelFailed:
            continue
        if math.isfinite(moved):
            strengths[name] = moved / len(MOVES)
    return dict(sorted(strengths.items(), key=lambda item: -item[1]))


def _unused(
    fields: Sequence[str], strength: Mapping[str, float], compiled: CompiledModel | None, n_rows: int
) -> list[str]:
    """The fields a model makes no use of: looked up in its steps, or concluded from many answers that never moved."""
    if compiled is not None:
        used = used_fields(compiled.plan)
        # An input whose weight is nothing is used by no answer; that is seen in the steps as well.
        return [name for name in fields if name not in used]
    return [name for name in fields if strength.get(name) == 0] if n_rows == STRENGTH_ROWS else []


def _plain_columns(rows: pd.DataFrame, names: Sequence[str]) -> dict[str, list[Any]]:
    return {name: [plain_value(value) for value in rows[name]] for name in names}


def _outcomes(rows: pd.DataFrame, inspection: Inspection) -> list[Any] | None:
    """What happened to the reference rows: numbers for a number, classes by the page's names for them, else words."""
    if len(inspection.targets) > 1 and set(inspection.targets) <= set(rows.columns):
        return _several_outcomes(rows, inspection.targets)
    if inspection.target is None or inspection.target not in rows.columns:
        return None
    outcomes = [plain_value(value) for value in rows[inspection.target]]
    if inspection.found.task == "number":
        return [value if isinstance(value, int | float) else None for value in outcomes]
    words = [None if value is None else str(value) for value in outcomes]
    if inspection.answer.kind != "class":
        return words
    names = [wording.name for wording in inspection.answer.classes]
    places = class_places(rows[inspection.target], inspection.found, names, inspection.outcome_words)
    return [names[int(place)] if place == place else word for place, word in zip(places, words, strict=True)]


def _several_outcomes(rows: pd.DataFrame, targets: Sequence[str]) -> list[Any]:
    """Of each row what all of its outcomes are, as one text; the page puts it into words."""
    numbers = np.column_stack([as_numbers(rows[name]) for name in targets])
    return [OUTCOME_SEPARATOR.join(f"{value:.12g}" for value in row) for row in numbers.tolist()]


def _notes(kept_rows: KeptRows, known: KnownCases | None) -> list[str]:
    notes = list(known.notes) if known else []
    if kept_rows.n_rows == 0:
        notes.append(
            "No reference row is without gaps, and the model does not take them: answers are not explained. Bring a "
            "table with complete rows."
        )
    return notes
