"""What differs between a demo's model and one that would replace it: features, classes, answers to the same cases."""

import difflib
import re
from collections.abc import Mapping, Sequence
from typing import Any, Literal

from pydantic import BaseModel

from ..answers import AnyAnswerSetting, ClassSetting, LabelsSetting
from ..answers.deciding import decided_class
from ..contract.inspection import Inspection
from ..fields import AnyField, NumberField
from .replacing import WORDINGS

__all__ = [
    "AnswerDifferences",
    "AnswerExample",
    "ClassDifferences",
    "Differences",
    "FeatureDifferences",
    "NotCompared",
    "Said",
    "compare_answers",
    "differences",
    "matched_class_names",
]

# From this likeness of names on a feature that went and one that came may be the same.
ALIKE = 0.6
# Answers that differ by less than what reading them shows count as the same.
SAME_WITHIN = 1e-6
# Cases that are shown one by one.
MOST_EXAMPLES = 30
Verdict = Literal["worse", "better", "changed"]
VERDICTS: tuple[Verdict, ...] = ("worse", "better", "changed")

# Why answers are not compared: no rows are kept; one takes features that the rows do not have; they answer with
# something else; they look at pictures; one of the two did not answer.
NotCompared = Literal["rows", "features", "answer", "pictures", "runner"]

# An answer as it is compared: a class's name, a number, several numbers, or whether each label applies.
Said = Sequence[str | float | bool]


class RangeDifference(BaseModel):
    """A number whose reference values lie elsewhere now: the lowest and the highest."""

    field: str
    before: tuple[float, float]
    after: tuple[float, float]


class FeatureDifferences(BaseModel):
    """Features by name. `renamed` pairs one that is gone with the added one it may have become."""

    added: list[str] = []
    gone: list[str] = []
    changed: list[str] = []
    renamed: list[tuple[str, str]] = []
    ranges: list[RangeDifference] = []


class ClassDifferences(BaseModel):
    """Classes by name."""

    added: list[str] = []
    gone: list[str] = []
    order_changed: bool = False


class AnswerExample(BaseModel):
    """One case that the two answer otherwise: a class's name, or the number.

    `at` is its place among those asked about, of a picture that in the archive; a picture has no `inputs`.
    """

    at: int
    before: str | float
    after: str | float
    truth: str | float | None = None
    verdict: Verdict = "changed"
    inputs: dict[str, Any] = {}


class AnswerDifferences(BaseModel):
    """Answers of both to the same cases.

    Where their outcomes are known, `better` and `worse`, and of all of them how many each of the two is right for, or
    how far off each is in the mean. With no cases `why_not` says why.
    """

    cases: int = 0
    same: int = 0
    changed: int = 0
    better: int = 0
    worse: int = 0
    right: tuple[int, int] | None = None
    mean_absolute_error: tuple[float, float] | None = None
    why_not: NotCompared | None = None
    examples: list[AnswerExample] = []


class Differences(BaseModel):
    """What differs between a demo's model and the one that would replace it."""

    features: FeatureDifferences = FeatureDifferences()
    classes: ClassDifferences = ClassDifferences()
    answers: AnswerDifferences = AnswerDifferences()


def differences(old: Inspection, new: Inspection) -> Differences:
    """What differs of features and classes; of answers, `compare_answers` tells.

    Parameters
    ----------
    old : Inspection
        Of the model that is there.
    new : Inspection
        Of the one that would replace it.
    """
    before, after = {field.name: field for field in old.fields}, {field.name: field for field in new.fields}
    gone = [name for name in before if name not in after]
    added = [name for name in after if name not in before]
    changed = [name for name in after if name in before and _facts(before[name]) != _facts(after[name])]
    old_classes, new_classes = _class_names(old.answer), _class_names(new.answer)
    kept_before = [name for name in old_classes if name in new_classes]
    kept_after = [name for name in new_classes if name in old_classes]
    return Differences(
        features=FeatureDifferences(
            added=added, gone=gone, changed=changed, renamed=_renamed(gone, added), ranges=_ranges(before, after)
        ),
        classes=ClassDifferences(
            added=[name for name in new_classes if name not in old_classes],
            gone=[name for name in old_classes if name not in new_classes],
            order_changed=kept_before != kept_after,
        ),
    )


def _ranges(before: Mapping[str, AnyField], after: Mapping[str, AnyField]) -> list[RangeDifference]:
    found = []
    for name, now in after.items():
        was = before.get(name)
        if isinstance(now, NumberField) and isinstance(was, NumberField):
            ends = (was.seen.low, was.seen.high), (now.seen.low, now.seen.high)
            if ends[0] != ends[1]:
                found.append(RangeDifference(field=name, before=ends[0], after=ends[1]))
    return found


def matched_class_names(settings: tuple[AnyAnswerSetting, AnyAnswerSetting]) -> tuple[list[str], list[str]]:
    """The classes of an old model and a new one by the names they have now, each in its own order; none of others.

    Classes are found again by name. Where no name is left and there are as many, they have been named anew.

    Parameters
    ----------
    settings : tuple of AnyAnswerSetting
        How the old one's answers are said, and the new one's.

    Examples
    --------
    >>> from plain_window.core.answers.kinds import ClassWording
    >>> def setting(*names):
    ...     return ClassSetting(classes=[ClassWording(name=name, label=name, headline=name) for name in names])
    >>> matched_class_names((setting("sound", "cracks"), setting("cracks", "sound")))
    (['sound', 'cracks'], ['cracks', 'sound'])
    >>> matched_class_names((setting("0", "1"), setting("Sound", "Cracks")))
    (['Sound', 'Cracks'], ['Sound', 'Cracks'])
    """
    before, after = ([one.name for one in each.classes] if isinstance(each, ClassSetting) else [] for each in settings)
    is_named_anew = len(before) == len(after) and not set(before) & set(after)
    return (after if is_named_anew else before), after


def compare_answers(
    old: Sequence[Sequence[float]],
    new: Sequence[Sequence[float]],
    truths: Sequence[Said] | None,
    *,
    settings: tuple[AnyAnswerSetting, AnyAnswerSetting],
) -> AnswerDifferences:
    """How the answers of two models to the same cases differ, each as the page says it.

    A case is answered better where nothing of the answer is further off than before, and something is nearer.

    Parameters
    ----------
    old, new : sequence of sequence of float, shape (n_rows, n_outputs)
        Classes by their places, which need not be the same for both.
    truths : sequence of list, length n_rows, optional
        What happened: the class's name as it is now, the number or numbers, or whether each label applies.
    settings : tuple of AnyAnswerSetting
        How the old one's answers are said, and the new one's: of one kind, with as many numbers or labels.
    """
    said = [
        [_said(setting, outputs, class_names) for outputs in each]
        for each, setting, class_names in zip((old, new), settings, matched_class_names(settings), strict=True)
    ]
    out = AnswerDifferences(cases=len(new))
    for at, (one, two) in enumerate(zip(*said, strict=True)):
        if _is_same(one, two):
            out.same += 1
            continue
        out.changed += 1
        example = AnswerExample(at=at, before=_text(one, settings[0]), after=_text(two, settings[1]))
        out.examples.append(example)
        if truths is not None:
            example.truth = _text(truths[at], settings[1])
            example.verdict = _verdict(_errors(one, truths[at]), _errors(two, truths[at]))
            out.better += example.verdict == "better"
            out.worse += example.verdict == "worse"
    # What got worse is what an author has to look at.
    out.examples = sorted(out.examples, key=lambda one: VERDICTS.index(one.verdict))[:MOST_EXAMPLES]
    if truths:
        errors = [[_errors(one, truth)[0] for one, truth in zip(each, truths, strict=True)] for each in said]
        if settings[1].kind == "class":
            out.right = (errors[0].count(0.0), errors[1].count(0.0))
        elif settings[1].kind == "number":
            out.mean_absolute_error = (sum(errors[0]) / len(truths), sum(errors[1]) / len(truths))
    return out


def _said(setting: AnyAnswerSetting, outputs: Sequence[float], class_names: Sequence[str]) -> Said:
    if isinstance(setting, ClassSetting):
        return [class_names[decided_class(setting, outputs)]]
    if isinstance(setting, LabelsSetting):
        return [value >= label.threshold for value, label in zip(outputs, setting.labels, strict=True)]
    return list(outputs)


def _is_same(one: Said, two: Said) -> bool:
    return all(
        a == b or (isinstance(a, float) and isinstance(b, float) and abs(a - b) <= SAME_WITHIN * max(1.0, abs(a)))
        for a, b in zip(one, two, strict=True)
    )


def _errors(said: Said, truth: Said) -> list[float]:
    """How far off each part of an answer is: 0 or 1 of what is one or the other."""
    return [
        abs(a - b) if isinstance(a, float) and isinstance(b, float) else float(a != b)
        for a, b in zip(said, truth, strict=True)
    ]


def _verdict(before: Sequence[float], after: Sequence[float]) -> Verdict:
    pairs = list(zip(before, after, strict=True))
    if all(now == was for was, now in pairs):
        return "changed"
    if all(now <= was for was, now in pairs):
        return "better"
    return "worse" if all(now >= was for was, now in pairs) else "changed"


def _text(said: Said, setting: AnyAnswerSetting) -> str | float:
    """What stands in a list: a class, a number, several numbers, or the labels that apply."""
    if isinstance(setting, LabelsSetting):
        return ", ".join(label.label for label, applies in zip(setting.labels, said, strict=True) if applies) or "none"
    return said[0] if len(said) == 1 else " · ".join(f"{value:.6g}" for value in said)


def _facts(field: AnyField) -> dict[str, Any]:
    """What a visitor's value must be: kind and options; ranges move with every table and are no change of the model."""
    options = [option.value for option in field.options] if field.kind == "choice" else None
    return {"kind": field.kind if field.kind != "drawing" else "picture", "options": options}


def _class_names(answer: AnyAnswerSetting) -> list[str]:
    listed = WORDINGS.get(answer.kind)
    return [one.name for one in getattr(answer, listed)] if listed else []


def _is_part(short: str, long: str) -> bool:
    """Whether a name is the other with something put before or behind it: `peak`, `peak_celsius`."""
    words, longer = (re.split(r"[\W_]+", name.casefold()) for name in (short, long))
    return len(words) < len(longer) and words in (longer[: len(words)], longer[-len(words) :])


def _renamed(gone: Sequence[str], added: Sequence[str]) -> list[tuple[str, str]]:
    pairs, left = [], list(added)
    for name in gone:
        near = difflib.get_close_matches(name, left, n=1, cutoff=ALIKE) or [
            other for other in left if _is_part(name, other) or _is_part(other, name)
        ]
        if near:
            pairs.append((name, near[0]))
            left.remove(near[0])
    return pairs
