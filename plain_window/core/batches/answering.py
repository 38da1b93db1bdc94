"""The outputs of many rows as columns of answers: what `answers.making` says of one, for all of them at once."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import pyarrow as pa

from ..answers.deciding import band_of, threshold_of
from ..answers.kinds import (
    AnyAnswerSetting,
    ClassSetting,
    LabelsSetting,
    NumberSetting,
    NumbersSetting,
)
from ..fields.checking import number_text
from ..trust.evidence import Evidence, margin_at

__all__ = ["AnswerColumn", "Answers", "answer_columns", "answer_headings", "make_answers"]

SUM_TOLERANCE = 1e-3
NO_ANSWER = "The model gave no answer for this row that could be one."
UNLIKE = "Unlike anything in the author's table: take the answer with care."
LABEL_SEPARATOR = "; "


@dataclass(frozen=True)
class AnswerColumn:
    """A column of the result: its heading, and its values, or texts, by row; what has no answer has a gap."""

    heading: str
    values: pa.Array


@dataclass(frozen=True)
class Answers:
    """Columns of answers, and sentences on each row: places in `sentences` for some of the rows."""

    columns: list[AnswerColumn]
    # Pairs of which rows, and what is to be said of them.
    notes: list[tuple[np.ndarray, str]]


def answer_headings(setting: AnyAnswerSetting, evidence: Evidence | None) -> list[tuple[str, str]]:
    """What the columns of answers are called, and what they hold, as Arrow names it.

    Parameters
    ----------
    setting : answer setting
        What the demo says about its answer.
    evidence : Evidence, optional
    """
    n_outputs = _n_outputs(setting)
    answers = make_answers(setting, evidence, np.full((0, n_outputs), np.nan), None)
    return [(column.heading, str(column.values.type)) for column in answers.columns]


def _n_outputs(setting: AnyAnswerSetting) -> int:
    match setting:
        case ClassSetting():
            return len(setting.classes)
        case LabelsSetting():
            return len(setting.labels)
        case NumbersSetting():
            return len(setting.values)
    return 1


def make_answers(
    setting: AnyAnswerSetting, evidence: Evidence | None, outputs: np.ndarray, unlike: np.ndarray | None
) -> Answers:
    """Answers for rows of outputs.

    Parameters
    ----------
    setting : answer setting
        What the demo says about its answer.
    evidence : Evidence, optional
        What known cases say of the model.
    outputs : ndarray of shape (n_rows, n_outputs)
    unlike : ndarray of bool of shape (n_rows,), optional
        Which rows are unlike anything seen, where that is known.
    """
    is_none = ~np.isfinite(outputs).all(axis=1)
    if isinstance(setting, ClassSetting):
        with np.errstate(invalid="ignore"):
            is_none |= (outputs.min(axis=1, initial=0.0) < -SUM_TOLERANCE) | (
                np.abs(outputs.sum(axis=1) - 1) > SUM_TOLERANCE
            )
        columns = _class_columns(setting, outputs, is_none)
        notes: list[tuple[np.ndarray, str]] = []
    elif isinstance(setting, LabelsSetting):
        columns, notes = _label_columns(setting, outputs, is_none), []
    elif isinstance(setting, NumberSetting):
        columns, notes = _number_columns("answer", setting, evidence, outputs[:, 0], is_none)
    else:
        columns, notes = [], []
        for at, part in enumerate(setting.values):
            own = evidence.outputs[at] if evidence is not None and at < len(evidence.outputs) else None
            more, said = _number_columns(part.name, part, own, outputs[:, at], is_none)
            columns += more
            notes += said
    if is_none.any():
        notes.append((is_none, NO_ANSWER))
    if unlike is not None and unlike.any():
        notes.append((unlike & ~is_none, UNLIKE))
    return Answers(columns, notes)


def _class_columns(setting: ClassSetting, outputs: np.ndarray, is_none: np.ndarray) -> list[AnswerColumn]:
    names = [wording.name for wording in setting.classes]
    threshold = threshold_of(setting)
    if threshold is None:
        said = np.nan_to_num(outputs, nan=-np.inf).argmax(axis=1)
    else:
        place, least = threshold
        said = np.where(outputs[:, place] >= least, place, 1 - place)
    columns = [AnswerColumn("answer", _words(names, said, is_none))]
    if setting.gives_probabilities:
        shares = np.clip(outputs, 0.0, 1.0)
        columns += [
            AnswerColumn(f"probability {name}", _floats(shares[:, at], is_none)) for at, name in enumerate(names)
        ]
    return columns


def _label_columns(setting: LabelsSetting, outputs: np.ndarray, is_none: np.ndarray) -> list[AnswerColumn]:
    names = [wording.name for wording in setting.labels]
    applies = outputs >= np.array([wording.threshold for wording in setting.labels])
    joined = [LABEL_SEPARATOR.join(name for name, yes in zip(names, row, strict=True) if yes) for row in applies]
    columns = [AnswerColumn("answer", pa.array(joined, pa.string(), mask=is_none))]
    if setting.gives_probabilities:
        shares = np.clip(outputs, 0.0, 1.0)
        columns += [
            AnswerColumn(f"probability {name}", _floats(shares[:, at], is_none)) for at, name in enumerate(names)
        ]
    return columns


def _number_columns(
    heading: str, setting: NumberSetting, evidence: Evidence | None, values: np.ndarray, is_none: np.ndarray
) -> tuple[list[AnswerColumn], list[tuple[np.ndarray, str]]]:
    columns = [AnswerColumn(heading, _floats(values, is_none))]
    margin = margin_at(evidence, setting.coverage) if evidence else None
    own = "" if heading == "answer" else f"{heading} "
    if margin is not None:
        of_100 = f"({round(setting.coverage * 100)} of 100)"
        columns.append(AnswerColumn(f"{own}low {of_100}", _floats(values - margin, is_none)))
        columns.append(AnswerColumn(f"{own}high {of_100}", _floats(values + margin, is_none)))
    if setting.bands:
        labels = [band.label for band in setting.bands]
        bands = [band_of(setting, value) if np.isfinite(value) else None for value in values.tolist()]
        places = [labels.index(band.label) if band else -1 for band in bands]
        columns.append(AnswerColumn(f"{own}band", _words(labels, np.array(places, dtype=int), is_none)))
    return columns, _beyond(setting, values)


def _beyond(setting: NumberSetting, values: np.ndarray) -> list[tuple[np.ndarray, str]]:
    """Which answers lie outside what the author's table has seen."""
    if setting.low is None or setting.high is None:
        return []
    unit = f" {setting.unit}" if setting.unit else ""
    seen = f"({number_text(setting.low)} to {number_text(setting.high)}{unit}). Take it with care."
    with np.errstate(invalid="ignore"):
        return [
            (where, f"{setting.name} is {side} every outcome in the author's table {seen}")
            for where, side in ((values < setting.low, "below"), (values > setting.high, "above"))
            if where.any()
        ]


def _words(names: Sequence[str], places: np.ndarray, is_none: np.ndarray) -> pa.Array:
    codes = pa.array(places.astype("int32"), mask=is_none | (places < 0))
    return pa.DictionaryArray.from_arrays(codes, pa.array(names, pa.string())).cast(pa.string())


def _floats(values: np.ndarray, is_none: np.ndarray) -> pa.Array:
    return pa.array(np.ascontiguousarray(values, dtype="float64"), mask=is_none | np.isnan(values))


def answer_columns(setting: AnyAnswerSetting, evidence: Evidence | None) -> list[str]:
    """The headings alone.

    Parameters
    ----------
    setting : answer setting
    evidence : Evidence, optional
    """
    return [heading for heading, _ in answer_headings(setting, evidence)]
