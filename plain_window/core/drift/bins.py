"""Into which bin a value of a field, or an answer, falls: counts of bins tell a table from its use, without any value.

Needs no NumPy: visitors' cases are counted where they are answered.
"""

import math
from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any

from ..answers import (
    BoxesSetting,
    ClassSetting,
    LabelsSetting,
    MaskSetting,
    NumberSetting,
    NumbersSetting,
    PictureSetting,
    TableSetting,
    TextSetting,
)
from ..answers.kinds import AnyAnswerSetting, LabelWording
from ..fields import ChoiceField, NumberField, YesNoField
from ..fields.calendars import date_text
from ..fields.checking import number_text
from ..fields.kinds import AnyField

__all__ = [
    "ANSWER",
    "GAP",
    "AnswerPart",
    "CaseBins",
    "answer_bins",
    "answer_parts",
    "answered_values",
    "count_bins",
    "field_bins",
    "has_bins",
]

# The bin of what is not known; the others are numbered from 0.
GAP = -1
# Stands for the answer where fields go by their names; none has this one.
ANSWER = ""
# Before the name of one of several answers: no feature's name has this sign.
ANSWER_PART = "\x1f"
ANSWER_BINS = 20
APPLIES_FROM = 0.5

AnswerPart = ClassSetting | NumberSetting | LabelWording
BinOf = Callable[[Any], int]


def has_bins(field: AnyField) -> bool:
    """Whether a field's values can be counted by bins: texts, pictures and drawings cannot.

    Parameters
    ----------
    field : field
    """
    if isinstance(field, NumberField):
        return bool(field.seen.counts)
    return isinstance(field, ChoiceField | YesNoField)


def field_bins(field: AnyField) -> list[str]:
    """The names of a field's bins in order; empty for a field whose values have none.

    Parameters
    ----------
    field : field
        As it was inferred: what an author renames or reorders moves no bin.
    """
    if isinstance(field, NumberField):
        if not field.seen.counts:
            return []
        calendar = field.calendar
        return _number_bins(
            field.seen.low,
            field.seen.high,
            len(field.seen.counts),
            text_of=(lambda value: date_text(value, calendar)) if calendar else None,
        )
    if isinstance(field, ChoiceField):
        return [*(str(option.value) for option in field.options), "other"]
    if isinstance(field, YesNoField):
        return ["no", "yes"]
    return []


def _bin_of_field(field: AnyField) -> BinOf | None:
    """Says the bin of each value of a field; None where the field has none."""
    if not has_bins(field):
        return None
    if isinstance(field, NumberField):
        return _bin_of_number(field.seen.low, field.seen.high, len(field.seen.counts))
    if isinstance(field, ChoiceField):
        # Of options that are alike the first counts.
        places = {option.value: at for at, option in reversed([*enumerate(field.options)])}
        n_options = len(field.options)
        return lambda value: GAP if value is None else places.get(value, n_options)
    assert isinstance(field, YesNoField), "other fields have no bins"
    yes = field.yes
    return lambda value: GAP if value is None else int(value == yes)


def answer_parts(setting: AnyAnswerSetting) -> dict[str, AnswerPart]:
    """What of an answer is counted, by the name it is counted under: itself, or each of several numbers or labels.

    Parameters
    ----------
    setting : answer setting
        As it was inferred.
    """
    if isinstance(setting, NumbersSetting):
        return {f"{ANSWER_PART}{value.name}": value for value in setting.values}
    if isinstance(setting, LabelsSetting):
        return {f"{ANSWER_PART}{label.name}": label for label in setting.labels}
    if isinstance(setting, BoxesSetting | PictureSetting | MaskSetting | TextSetting | TableSetting):
        return {}
    return {ANSWER: setting}


def answer_bins(part: AnswerPart) -> list[str]:
    """The names of the bins of a part of the answer; empty for a number without a scale.

    Parameters
    ----------
    part : answer setting, or label
        As it was inferred.
    """
    if isinstance(part, ClassSetting):
        return [wording.name for wording in part.classes]
    if isinstance(part, LabelWording):
        return ["does not apply", "applies"]
    return [] if part.low is None or part.high is None else _number_bins(part.low, part.high, ANSWER_BINS)


def _bin_of_part(part: AnswerPart) -> Callable[[Any], int | None]:
    """Says the bin of each value of a part of the answer."""
    if isinstance(part, ClassSetting):
        return {wording.name: at for at, wording in reversed([*enumerate(part.classes)])}.get
    if isinstance(part, LabelWording):
        return int
    if part.low is None or part.high is None:
        return lambda value: None
    return _bin_of_number(part.low, part.high, ANSWER_BINS)


def answered_values(setting: AnyAnswerSetting, outputs: Sequence[float]) -> list[str | float | bool]:
    """What an answer is counted by, a value a part.

    The likeliest class, whatever threshold it is said at, and labels from one half on: thresholds change from release
    to release.

    Parameters
    ----------
    setting : answer setting
        As it was inferred.
    outputs : sequence of float, shape (n_outputs,)
    """
    if isinstance(setting, ClassSetting):
        return [setting.classes[max(range(len(outputs)), key=outputs.__getitem__)].name]
    if isinstance(setting, LabelsSetting):
        return [value >= APPLIES_FROM for value in outputs]
    return list(outputs)


def _bins_of_fields(fields: Iterable[AnyField]) -> dict[str, BinOf]:
    """By field that has bins, and no name that stands for the answer."""
    found = {field.name: _bin_of_field(field) for field in fields}
    return {
        name: bin_of
        for name, bin_of in found.items()
        if bin_of is not None and name != ANSWER and not name.startswith(ANSWER_PART)
    }


class CaseBins:
    """The bins of cases and their answers: made ready once, since every answer to a visitor is counted.

    Parameters
    ----------
    fields : iterable of field
        As they were inferred.
    setting : answer setting
        As it was inferred.
    """

    def __init__(self, fields: Iterable[AnyField], setting: AnyAnswerSetting) -> None:
        self._fields = _bins_of_fields(fields)
        self._parts = [(name, _bin_of_part(part)) for name, part in answer_parts(setting).items()]

    def kept(self, values: Mapping[str, object]) -> dict[str, object]:
        """What of a case is counted: no text, no picture.

        Parameters
        ----------
        values : mapping of str to value
            As the model knows them; what is not among them is not known.
        """
        return {name: values.get(name) for name in self._fields}

    def of(self, kept: Mapping[str, object], answered: Sequence[str | float | bool]) -> dict[str, int]:
        """The bin of each value and of each part of the answer that has some.

        Parameters
        ----------
        kept : mapping of str to value
        answered : sequence of str, float or bool
            A value a part.
        """
        bins = {name: bin_of(kept[name]) for name, bin_of in self._fields.items()}
        for (name, bin_of_part), value in zip(self._parts, answered, strict=True):
            at = bin_of_part(value)
            if at is not None:
                bins[name] = at
        return bins


def count_bins(field: AnyField, values: Iterable[object]) -> dict[int, int]:
    """How many of some values fall into each bin of a field.

    Parameters
    ----------
    field : field
    values : iterable of value or None
    """
    bin_of = _bin_of_field(field)
    return {} if bin_of is None else dict(Counter(map(bin_of, values)))


def _number_bins(low: float, high: float, n_bins: int, *, text_of: Callable[[float], str] | None = None) -> list[str]:
    """Below, the bins between, above; with so many digits that neighbours differ."""
    width = (high - low) / max(1, n_bins)
    decimals = max(0, 1 - math.floor(math.log10(width))) if width > 0 else 2
    text = text_of or (lambda value: number_text(round(value, decimals)))
    between = [f"{text(low + at * width)} to {text(low + (at + 1) * width)}" for at in range(n_bins)]
    return [f"below {text(low)}", *between, f"above {text(high)}"]


def _bin_of_number(low: float, high: float, n_bins: int) -> BinOf:
    def bin_of(value: float | None) -> int:
        if value is None or not math.isfinite(value):
            return GAP
        if value < low:
            return 0
        if value > high:
            return n_bins + 1
        if high <= low:
            return 1
        return 1 + min(n_bins - 1, int((value - low) / (high - low) * n_bins))

    return bin_of
