"""Into which bin a value of a field, or an answer, falls: counts of bins tell a table from its use, without any value.

Needs no NumPy: visitors' cases are counted where they are answered.
"""

import math
from collections.abc import Iterable, Mapping
from typing import Any

from ..answers import ClassSetting, NumberSetting
from ..answers.kinds import AnyAnswerSetting
from ..fields import ChoiceField, NumberField, YesNoField
from ..fields.kinds import AnyField

__all__ = [
    "ANSWER",
    "GAP",
    "answer_bin",
    "answer_bins",
    "binned_row",
    "count_bins",
    "field_bin",
    "field_bins",
    "has_bins",
]

# The bin of what is not known; the others are numbered from 0.
GAP = -1
# Stands for the answer where fields go by their names; none has this one.
ANSWER = ""
ANSWER_BINS = 20


def has_bins(field: AnyField) -> bool:
    """Whether a field's values can be counted by bins: texts, pictures and drawings cannot.

    Parameters
    ----------
    field : field
    """
    return isinstance(field, NumberField | ChoiceField | YesNoField)


def field_bins(field: AnyField) -> list[str]:
    """The names of a field's bins in order; empty for a field whose values have none.

    Parameters
    ----------
    field : field
        As it was inferred: what an author renames or reorders moves no bin.
    """
    if isinstance(field, NumberField):
        low, high, n_bins = field.seen.low, field.seen.high, len(field.seen.counts)
        return _number_bins(low, high, n_bins)
    if isinstance(field, ChoiceField):
        return [*(str(option.value) for option in field.options), "other"]
    if isinstance(field, YesNoField):
        return ["no", "yes"]
    return []


def field_bin(field: AnyField, value: Any) -> int | None:
    """The bin of a value as the model knows it; None where the field has none.

    Parameters
    ----------
    field : field
    value : value or None
    """
    if isinstance(field, NumberField):
        return GAP if value is None else _number_bin(value, field.seen.low, field.seen.high, len(field.seen.counts))
    if isinstance(field, ChoiceField):
        if value is None:
            return GAP
        places = [at for at, option in enumerate(field.options) if option.value == value]
        return places[0] if places else len(field.options)
    if isinstance(field, YesNoField):
        return GAP if value is None else int(value == field.yes)
    return None


def answer_bins(setting: AnyAnswerSetting) -> list[str]:
    """The names of an answer's bins; empty for several answers at once, and for a number without a scale.

    Parameters
    ----------
    setting : answer setting
        As it was inferred.
    """
    if isinstance(setting, ClassSetting):
        return [wording.name for wording in setting.classes]
    if isinstance(setting, NumberSetting) and setting.low is not None and setting.high is not None:
        return _number_bins(setting.low, setting.high, ANSWER_BINS)
    return []


def answer_bin(setting: AnyAnswerSetting, value: str | float) -> int | None:
    """The bin of an answer; None where it has none.

    Parameters
    ----------
    setting : answer setting
    value : str or float
        The class by its name, or the number.
    """
    if isinstance(setting, ClassSetting):
        return next((at for at, wording in enumerate(setting.classes) if wording.name == value), None)
    if isinstance(setting, NumberSetting) and setting.low is not None and setting.high is not None:
        return _number_bin(float(value), setting.low, setting.high, ANSWER_BINS)
    return None


def binned_row(fields: Iterable[AnyField], values: Mapping[str, Any]) -> dict[str, int]:
    """The bin of each value of a case, by field.

    Parameters
    ----------
    fields : iterable of field
    values : mapping of str to value
        As the model knows them.
    """
    found = ((field.name, field_bin(field, values.get(field.name))) for field in fields if field.name in values)
    return {name: at for name, at in found if at is not None and name != ANSWER}


def count_bins(field: AnyField, values: Iterable[Any]) -> dict[int, int]:
    """How many of some values fall into each bin of a field.

    Parameters
    ----------
    field : field
    values : iterable of value or None
    """
    counts: dict[int, int] = {}
    for value in values:
        at = field_bin(field, value)
        if at is not None:
            counts[at] = counts.get(at, 0) + 1
    return counts


def _number_bins(low: float, high: float, n_bins: int) -> list[str]:
    """Below, the bins between, above."""
    width = (high - low) / max(1, n_bins)
    between = [f"{low + at * width:.4g} to {low + (at + 1) * width:.4g}" for at in range(n_bins)]
    return [f"below {low:.4g}", *between, f"above {high:.4g}"]


def _number_bin(value: float, low: float, high: float, n_bins: int) -> int:
    if not math.isfinite(value):
        return GAP
    if value < low:
        return 0
    if value > high:
        return n_bins + 1
    if high <= low:
        return 1
    return 1 + min(n_bins - 1, int((value - low) / (high - low) * n_bins))
