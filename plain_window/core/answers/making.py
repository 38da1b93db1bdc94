"""A model's raw output as an answer."""

import math
from collections.abc import Sequence

from ..errors import ModelFailed
from ..fields.checking import Note, number_text
from ..trust.evidence import Evidence, bears_out, margin_at, still_possible
from .deciding import band_of, decided_class
from .in_picture import BoxesAnswer, BoxesSetting, FoundBox
from .kinds import (
    AnyAnswer,
    AnyAnswerSetting,
    ClassAnswer,
    ClassProbability,
    ClassSetting,
    ClassWording,
    Interval,
    LabelProbability,
    LabelsAnswer,
    LabelsSetting,
    NamedNumber,
    NumberAnswer,
    NumbersAnswer,
    NumberSetting,
    NumbersSetting,
    PossibleClasses,
)
from .rounding import margin_words, number_words, of_100, share_100
from .wording import singular_label

__all__ = ["LABEL_SEPARATOR", "SUM_TOLERANCE", "boxes_answer", "labelled_boxes", "make_answer"]

# Rounding inside a library may leave the sum of probabilities this far from 1.
SUM_TOLERANCE = 1e-3
# Between labels where several stand in one cell.
LABEL_SEPARATOR = "; "
# A class, a score, and x, y, width and height.
BoxNumbers = tuple[int, float, float, float, float, float]
# From these shares on a class is called so; what is still possible and less than that cannot be ruled out.
LIKELY, POSSIBLE = 0.5, 0.1


def make_answer(
    setting: AnyAnswerSetting, output: Sequence[float], evidence: Evidence | None = None, *, is_unlike: bool = False
) -> tuple[AnyAnswer, list[Note]]:
    """One row of a model's output as the demo's answer.

    Parameters
    ----------
    setting : answer setting
        What the demo says about its answer.
    output : sequence of float, length n_outputs
        Probabilities in class order (or, for a model without probabilities, 1 at the predicted class and 0
        elsewhere), one number, several numbers, or one probability a label.
    evidence : Evidence, optional
        What known cases say of the model: how far off a number may be, which classes are still possible.
    is_unlike : bool
        Whether the case is unlike anything seen. What known cases say of certainty does not hold for it.

    Returns
    -------
    answer, notes
        The notes say where the answer lies outside what the reference table has seen.

    Raises
    ------
    ModelFailed
        If the output is not finite, or no probabilities.
    """
    if not all(math.isfinite(value) for value in output):
        raise ModelFailed("The model gave no number for this case.", traceback=f"output: {list(output)}")
    if isinstance(setting, ClassSetting):
        return _class_answer(setting, output, evidence, is_unlike=is_unlike), []
    if isinstance(setting, NumberSetting):
        return _number_answer(setting, output[0], evidence)
    if isinstance(setting, LabelsSetting):
        return _labels_answer(setting, output, evidence), []
    assert isinstance(setting, NumbersSetting), "boxes are made of what was found, not of outputs"
    values, notes = [], []
    for at, (part, value) in enumerate(zip(setting.values, output, strict=True)):
        answer, part_notes = _number_answer(part, value, _of_output(evidence, at))
        values.append(
            NamedNumber(name=part.name, value=value, unit=part.unit, text=answer.text, interval=answer.interval)
        )
        notes += part_notes
    return NumbersAnswer(values=values), notes


def boxes_answer(
    setting: BoxesSetting, found: Sequence[BoxNumbers], *, size: tuple[int, int], least_score: float
) -> BoxesAnswer:
    """What was found in a picture as the demo's answer.

    Parameters
    ----------
    setting : BoxesSetting
    found : sequence of (class, score, x, y, width, height)
        Best score first, in pixels of the picture as it was given.
    size : (int, int)
        Of that picture.
    least_score : float
        The lowest score that was asked for.
    """
    boxes = labelled_boxes(setting, found)
    return BoxesAnswer(boxes=boxes, width=size[0], height=size[1], least_score=least_score)


def labelled_boxes(setting: BoxesSetting, found: Sequence[BoxNumbers]) -> list[FoundBox]:
    """Boxes with the names and marks that the demo has for them.

    Parameters
    ----------
    setting : BoxesSetting
    found : sequence of (class, score, x, y, width, height)
    """
    boxes = []
    for place, score, x, y, width, height in found:
        # A model may tell more classes apart than are named.
        known = setting.labels[place] if 0 <= place < len(setting.labels) else None
        name = known.name if known else str(place)
        boxes.append(
            FoundBox(
                label=known.label if known else name,
                name=name,
                score=score,
                of_100=of_100(score),
                x=x,
                y=y,
                width=width,
                height=height,
            )
        )
    return boxes


def _of_output(evidence: Evidence | None, at: int) -> Evidence | None:
    return evidence.outputs[at] if evidence is not None and at < len(evidence.outputs) else None


def _labels_answer(setting: LabelsSetting, output: Sequence[float], evidence: Evidence | None) -> LabelsAnswer:
    labels = []
    for at in sorted(range(len(output)), key=lambda index: -output[index]):
        wording, probability, own = setting.labels[at], min(max(output[at], 0.0), 1.0), _of_output(evidence, at)
        labels.append(
            LabelProbability(
                label=wording.label,
                name=wording.name,
                probability=probability,
                of_100=of_100(probability),
                applies=probability >= wording.threshold,
                calibrated=setting.gives_probabilities and own is not None and bears_out(own, 0, probability),
            )
        )
    return LabelsAnswer(labels=labels)


def _class_answer(
    setting: ClassSetting, output: Sequence[float], evidence: Evidence | None, *, is_unlike: bool
) -> ClassAnswer:
    if min(output) < -SUM_TOLERANCE or abs(math.fsum(output) - 1) > SUM_TOLERANCE:
        raise ModelFailed("The model gave no probabilities for this case.", traceback=f"output: {list(output)}")
    order = sorted(range(len(output)), key=lambda index: -output[index])
    said_at = decided_class(setting, output)
    said = setting.classes[said_at]
    if not setting.gives_probabilities:
        return ClassAnswer(class_=said.name, probabilities=[], headline=said.headline)
    marks = share_100([max(output[index], 0.0) for index in order])
    probabilities = [
        ClassProbability(
            class_=setting.classes[index].name,
            probability=min(max(output[index], 0.0), 1.0),
            of_100=mark,
            label=_label(setting.classes[index], mark),
        )
        for index, mark in zip(order, marks, strict=True)
    ]
    # What known cases say holds only for what is like them.
    borne = None if is_unlike else evidence
    possible = still_possible(borne, output, setting.coverage) if borne else None
    return ClassAnswer(
        class_=said.name,
        probabilities=probabilities,
        headline=said.headline,
        possible=possible and _possible(setting, output, possible),
        calibrated=borne is not None and bears_out(borne, said_at, output[said_at]),
        unlike=is_unlike,
    )


def _label(wording: ClassWording, mark: int) -> str:
    """What so many of 100 do: one cracks, two crack."""
    return singular_label(wording.label, wording.label_one) if mark == 1 else wording.label


def _possible(setting: ClassSetting, output: Sequence[float], places: Sequence[int]) -> PossibleClasses:
    shares = (output[place] for place in places)
    words = ["likely" if share >= LIKELY else "possible" if share >= POSSIBLE else "not ruled out" for share in shares]
    names = [setting.classes[place].name for place in places]
    return PossibleClasses(classes=names, words=words, coverage=setting.coverage)


def _interval(setting: NumberSetting, value: float, evidence: Evidence | None) -> Interval | None:
    margin = margin_at(evidence, setting.coverage) if evidence else None
    if margin is None:
        return None
    text = margin_words(margin, setting.decimals)
    return Interval(low=value - margin, high=value + margin, coverage=setting.coverage, text=text)


def _number_answer(
    setting: NumberSetting, value: float, evidence: Evidence | None = None
) -> tuple[NumberAnswer, list[Note]]:
    answer = NumberAnswer(
        value=value,
        unit=setting.unit,
        text=number_words(value, setting.decimals),
        interval=_interval(setting, value, evidence),
        band=band_of(setting, value),
    )
    if setting.low is None or setting.high is None or setting.low <= value <= setting.high:
        return answer, []
    unit = f" {setting.unit}" if setting.unit else ""
    side = "below" if value < setting.low else "above"
    message = (
        f"{setting.name} {answer.text}{unit} is {side} every outcome in the author's table "
        f"({number_text(setting.low)} to {number_text(setting.high)}{unit}). Take it with care."
    )
    return answer, [Note(field=None, level="warn", message=message, code="unlike-outcomes")]
