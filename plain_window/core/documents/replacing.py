"""A demo whose model or tables are replaced: what of the draft stays, and what differs between old and new."""

import difflib
from collections.abc import Mapping, Sequence
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from ..answers import AnyAnswerSetting
from ..contract.inspection import Inspection
from ..errors import InputFaults
from ..fields import AnyField, ChoiceField, DrawingField, PictureField, check_inputs
from .document import DemoDocument

__all__ = [
    "AnswerDifferences",
    "ClassDifferences",
    "Differences",
    "FeatureDifferences",
    "carried_over",
    "compare_answers",
    "differences",
]

Setting = TypeVar("Setting", bound=BaseModel)

# What model and table decide: taken from the new ones, whatever the draft had.
FACTS = ("name", "kind", "seen", "optional", "no", "yes", "options")
# Parts of an answer by which its wordings are found again.
WORDINGS = {"class": "classes", "labels": "labels", "numbers": "values"}
# From this likeness of names on a feature that went and one that came may be the same.
ALIKE = 0.6
# Answers that differ by less than what reading them shows count as the same.
SAME_WITHIN = 1e-6


class FeatureDifferences(BaseModel):
    """Features by name. `renamed` pairs one that is gone with the added one it may have become."""

    added: list[str] = []
    gone: list[str] = []
    changed: list[str] = []
    renamed: list[tuple[str, str]] = []


class ClassDifferences(BaseModel):
    """Classes by name."""

    added: list[str] = []
    gone: list[str] = []
    order_changed: bool = False


class AnswerDifferences(BaseModel):
    """Answers of both to the same cases; `better` and `worse` where the outcome is known."""

    cases: int = 0
    same: int = 0
    changed: int = 0
    better: int = 0
    worse: int = 0


class Differences(BaseModel):
    """What differs between a demo's model and the one that would replace it."""

    features: FeatureDifferences = FeatureDifferences()
    classes: ClassDifferences = ClassDifferences()
    answers: AnswerDifferences = AnswerDifferences()


def carried_over(document: DemoDocument, old: Inspection, new: Inspection) -> DemoDocument:
    """The draft for the new model: what its author set stays where there is still something to set.

    Parameters
    ----------
    document : DemoDocument
        The draft as it was.
    old, new : Inspection
        What was found in the model before, and now. What the draft has other than `old` is what its author set.
    """
    fields = [_carried_field(field, document.fields, old.fields) for field in new.fields]
    order = [field.name for field in document.fields]
    if [name for name in order if name in {field.name for field in old.fields}] != [field.name for field in old.fields]:
        # The author ordered them; what is new comes last.
        place = {name: at for at, name in enumerate(order)}
        fields.sort(key=lambda field: place.get(field.name, len(place)))
    answer = _carried_answer(document.answer, old.answer, new.answer)
    asked = {question.name: question.text for question in old.questions}
    still_asked = {question.name for question in new.questions if asked.get(question.name) == question.text}
    return document.model_copy(
        update={
            "fields": fields,
            "answer": answer,
            "samples": [sample for sample in document.samples if _fits(fields, sample.inputs)],
            "confirmed": [name for name in document.confirmed if name in still_asked],
        }
    )


def _fits(fields: Sequence[AnyField], inputs: Mapping[str, Any]) -> bool:
    try:
        check_inputs(fields, inputs)
    except InputFaults:
        return False
    return True


def _carried_field(field: AnyField, drafted: Sequence[AnyField], inferred: Sequence[AnyField]) -> AnyField:
    before = next((one for one in drafted if one.name == field.name), None)
    first = next((one for one in inferred if one.name == field.name), None)
    if before is None or first is None:
        return field
    if before.kind != field.kind:
        # A picture's field that its author made a drawing's stays one.
        if not isinstance(before, PictureField | DrawingField) or not isinstance(field, PictureField | DrawingField):
            return field
        field = type(before).model_validate({**before.model_dump(), "preparation": field.preparation.model_dump()})
    was = first.model_dump()
    own = {
        key: value
        for key, value in before.model_dump().items()
        if key not in FACTS and key in type(field).model_fields and was.get(key) != value
    }
    if isinstance(field, ChoiceField) and isinstance(before, ChoiceField):
        own["options"] = _carried_options(field, before)
    return _with(field, own)


def _carried_options(field: ChoiceField, before: ChoiceField) -> list[dict[str, Any]]:
    labels = {(type(option.value), option.value): option.label for option in before.options}
    return [
        {**option.model_dump(), "label": labels.get((type(option.value), option.value), option.label)}
        for option in field.options
    ]


def _with(thing: Setting, own: Mapping[str, Any]) -> Setting:
    """The thing with settings of its author's, but for those that no longer fit."""
    try:
        return type(thing).model_validate({**thing.model_dump(), **own})
    except ValidationError:
        for key, value in own.items():
            try:
                thing = type(thing).model_validate({**thing.model_dump(), key: value})
            except ValidationError:
                continue
        return thing


def _carried_answer(before: AnyAnswerSetting, first: AnyAnswerSetting, new: AnyAnswerSetting) -> AnyAnswerSetting:
    if before.kind != new.kind:
        return new
    was = first.model_dump() if first.kind == before.kind else {}
    listed = WORDINGS.get(new.kind)
    own = {
        key: value
        for key, value in before.model_dump().items()
        if key not in ("kind", "low", "high", "counts", "gives_probabilities", listed) and was.get(key) != value
    }
    changed = _with(new, own)
    if listed is None:
        return changed
    wordings = _carried_wordings(before, first, new, listed)
    carried: AnyAnswerSetting = type(new).model_validate({**changed.model_dump(), listed: wordings})
    return carried


def _carried_wordings(before: Any, first: Any, new: Any, listed: str) -> list[dict[str, Any]]:
    """Wordings by name; numbers, whose names are the author's to change, by the name they came with."""
    now_first = [one.model_dump() for one in getattr(first, listed, [])]
    drafted = [one.model_dump() for one in getattr(before, listed)]
    set_by_author: dict[str, dict[str, Any]] = {}
    for was, own in zip(now_first, drafted, strict=False):
        changed = {
            key: value for key, value in own.items() if key not in ("low", "high", "counts") and was.get(key) != value
        }
        set_by_author[was["name"]] = changed
    return [{**one.model_dump(), **set_by_author.get(one.name, {})} for one in getattr(new, listed)]


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
        features=FeatureDifferences(added=added, gone=gone, changed=changed, renamed=_renamed(gone, added)),
        classes=ClassDifferences(
            added=[name for name in new_classes if name not in old_classes],
            gone=[name for name in old_classes if name not in new_classes],
            order_changed=kept_before != kept_after,
        ),
    )


def compare_answers(
    old: Sequence[Sequence[float]], new: Sequence[Sequence[float]], truths: Sequence[float] | None, *, is_class: bool
) -> AnswerDifferences:
    """How the answers of two models to the same cases differ.

    Parameters
    ----------
    old, new : sequence of sequence of float, shape (n_rows, n_outputs)
    truths : sequence of float, length n_rows, optional
        The class's place, or the number.
    is_class : bool
    """
    out = AnswerDifferences(cases=len(new))
    for at, (before, after) in enumerate(zip(old, new, strict=True)):
        if is_class:
            one, two = float(_likeliest(before)), float(_likeliest(after))
            is_same = one == two
        else:
            is_same = len(before) == len(after) and all(
                abs(a - b) <= SAME_WITHIN * max(1.0, abs(a)) for a, b in zip(before, after, strict=True)
            )
            one, two = before[0], after[0]
        out.same += is_same
        out.changed += not is_same
        if truths is None or is_same:
            continue
        wrong = (one != truths[at], two != truths[at]) if is_class else (abs(one - truths[at]), abs(two - truths[at]))
        out.better += wrong[1] < wrong[0]
        out.worse += wrong[1] > wrong[0]
    return out


def _likeliest(outputs: Sequence[float]) -> int:
    return max(range(len(outputs)), key=lambda at: outputs[at])


def _facts(field: AnyField) -> dict[str, Any]:
    """What a visitor's value must be: kind and options; ranges move with every table and are no change of the model."""
    options = [option.value for option in field.options] if field.kind == "choice" else None
    return {"kind": field.kind if field.kind != "drawing" else "picture", "options": options}


def _class_names(answer: AnyAnswerSetting) -> list[str]:
    listed = WORDINGS.get(answer.kind)
    return [one.name for one in getattr(answer, listed)] if listed else []


def _renamed(gone: Sequence[str], added: Sequence[str]) -> list[tuple[str, str]]:
    pairs, left = [], list(added)
    for name in gone:
        near = difflib.get_close_matches(name, left, n=1, cutoff=ALIKE)
        if near:
            pairs.append((name, near[0]))
            left.remove(near[0])
    return pairs
