"""How an answer is put at first: names, decimals and ranges from the model and from what happened."""

from dataclasses import dataclass, field

import numpy as np
import pandas as pd
from pandas.api import types as dtypes

from ..answers import (
    AnyAnswerSetting,
    ClassSetting,
    ClassWording,
    LabelsSetting,
    LabelWording,
    NumberSetting,
    NumbersSetting,
)
from ..answers.rounding import decimals_for_spread
from ..contract.inspection import Found, Question
from ..errors import Fault, MismatchFaults
from .class_names import names_of_classes

__all__ = ["AnswerPut", "Truth", "put_answer"]


# Of the outcomes that stand behind a number's scale.
BINS = 24


@dataclass(frozen=True)
class Truth:
    """What happened: the outcome's columns (one an output, or one) and what the model says of their first rows."""

    outcomes: pd.DataFrame
    outputs: np.ndarray


@dataclass
class AnswerPut:
    """The answer's setting, and what its author should check of it."""

    setting: AnyAnswerSetting
    notes: list[str] = field(default_factory=list)
    questions: list[Question] = field(default_factory=list)
    words: dict[str, str] = field(default_factory=dict)


def put_answer(found: Found, labels: list[str] | None, outputs: np.ndarray, truth: Truth | None) -> AnswerPut:
    """How the answer is put.

    Parameters
    ----------
    found : Found
    labels : list of str, optional
        Names for classes, labels or numbers, in the model's order.
    outputs : ndarray of shape (n_rows, n_outputs)
        What the model says of some rows.
    truth : Truth, optional
        Where the outcome's columns are known.

    Raises
    ------
    MismatchFaults
        If `labels` do not fit the model.
    """
    if found.task == "number":
        return AnswerPut(_number_setting(truth.outcomes.iloc[:, 0] if truth else None, outputs[:, 0]))
    if found.task in ("numbers", "labels"):
        return _several(found, labels, outputs, truth)
    outcomes = truth.outcomes.iloc[:, 0] if truth else None
    naming = names_of_classes(found.classes or [], labels, outcomes, truth.outputs if truth else outputs)
    put = AnswerPut(
        ClassSetting(classes=[_wording(name) for name in naming.names], gives_probabilities=found.gives_probabilities),
        notes=[naming.note] if naming.note else [],
        words=naming.words,
    )
    if naming.is_open and naming.note:
        put.questions.append(Question(name="class-order", text=naming.note))
    return put


def _several(found: Found, labels: list[str] | None, outputs: np.ndarray, truth: Truth | None) -> AnswerPut:
    """Several numbers or labels, named by the author, by the outcome's columns, or by the model."""
    n_outputs = outputs.shape[1]
    if labels is not None and len(labels) != n_outputs:
        message = f"The model gives {n_outputs} answers; `labels` names {len(labels)}. Give one name a line."
        raise MismatchFaults([Fault("labels", message)])
    by_columns = list(truth.outcomes.columns) if truth else []
    names = list(labels or by_columns or found.output_names or [])
    if found.task == "labels":
        names = names or list(found.classes or [])
        wordings = [LabelWording(name=name, label=_label(name), headline=_capital(name)) for name in names]
        return AnswerPut(LabelsSetting(labels=wordings, gives_probabilities=found.gives_probabilities))
    parts = []
    for at in range(n_outputs):
        part = _number_setting(truth.outcomes.iloc[:, at] if truth else None, outputs[:, at])
        part.name = _capital(_label(names[at])) if names else f"Answer {at + 1}"
        parts.append(part)
    return AnswerPut(NumbersSetting(values=parts))


def _wording(name: str) -> ClassWording:
    return ClassWording(name=name, label=name, headline=_capital(name))


def _number_setting(outcomes: pd.Series | None, outputs: np.ndarray) -> NumberSetting:
    if outcomes is None or not dtypes.is_numeric_dtype(outcomes) or outcomes.dropna().empty:
        return NumberSetting(decimals=decimals_for_spread(float(np.std(outputs))))
    known = outcomes.dropna().to_numpy(dtype="float64")
    return NumberSetting(
        name=_capital(_label(str(outcomes.name))),
        decimals=decimals_for_spread(float(np.std(known))),
        low=float(known.min()),
        high=float(known.max()),
        counts=np.histogram(known, bins=BINS)[0].tolist(),
    )


def _label(name: str) -> str:
    return name.replace("_", " ").strip() or name


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
