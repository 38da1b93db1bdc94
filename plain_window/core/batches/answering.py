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
from ..answers.making import LABEL_SEPARATOR, SUM_TOLERANCE
from ..fields.checking import number_text
from ..report.answers import said_classes
from ..trust.evidence import Evidence, margin_at

__all__ = ["AnswerColumn", "Answers", "make_answers", "n_outputs_of"]

NO_ANSWER = "The model gave no answer for this row that could be one."
UNLIKE = "Unlike anything in the author's table: take the answer with care."


@dataclass(frozen=True)
class AnswerColumn:
    """A column of the result: its heading, and its values, or texts, by row; what has no answer has a gap."""

    heading: str
    values: pa.Array


@dataclass(frozen=True)
class Answers:
    """Columns of answers, and notes: of which rows, and what is to be said of them."""

    columns: list[AnswerColumn]
    notes: list[tuple[np.ndarray, str]]


def n_outputs_of(setting: AnyAnswerSetting) -> int:
    """How many outputs a row has.

    Parameters
    ----------
    setting : answer setting
    """
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
        assert isinstance(setting, NumbersSetting), "pictures do not fit into a table"
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
    said = said_classes(np.nan_to_num(outputs, nan=-np.inf), threshold_of(setting))
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
