"""A demo whose model or tables are replaced: what of the draft stays."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from ..answers import AnyAnswerSetting, BoxesSetting, MaskSetting, PictureSetting
from ..contract.inspection import Inspection
from ..errors import InputFaults
from ..fields import AnyField, ChoiceField, DrawingField, PictureField, check_inputs
from .document import DemoDocument

__all__ = ["WORDINGS", "carried_over"]

Setting = TypeVar("Setting", bound=BaseModel)

# What model and table decide: taken from the new ones, whatever the draft had.
FACTS = ("name", "kind", "seen", "optional", "no", "yes", "options", "whole")
# Parts of an answer by which its wordings are found again.
IN_PICTURE = (BoxesSetting, PictureSetting, MaskSetting)
WORDINGS = {"class": "classes", "labels": "labels", "numbers": "values", "boxes": "labels", "mask": "labels"}


def carried_over(
    document: DemoDocument, old: Inspection, new: Inspection, renames: Mapping[str, str] | None = None
) -> DemoDocument:
    """The draft for the new model: what its author set stays where there is still something to set.

    Parameters
    ----------
    document : DemoDocument
        The draft as it was.
    old, new : Inspection
        What was found in the model before, and now. What the draft has other than `old` is what its author set.
    renames : mapping of str to str, optional
        Of features that only have another name now: the name each had, by the one it has.
    """
    named = _renamer(renames or {})
    document = _with_new_names(document, named)
    old = old.model_copy(update={"fields": [named(field) for field in old.fields]})
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


def _renamer(renames: Mapping[str, str]) -> Callable[[AnyField], AnyField]:
    now = {before: after for after, before in renames.items()}
    return lambda field: field.model_copy(update={"name": now[field.name]}) if field.name in now else field


def _with_new_names(document: DemoDocument, named: Callable[[AnyField], AnyField]) -> DemoDocument:
    """The draft with features by the names they have now, its ready cases too."""
    fields = [named(field) for field in document.fields]
    now = {before.name: after.name for before, after in zip(document.fields, fields, strict=True)}
    samples = [
        sample.model_copy(update={"inputs": {now.get(name, name): value for name, value in sample.inputs.items()}})
        for sample in document.samples
    ]
    return document.model_copy(update={"fields": fields, "samples": samples})


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
    if isinstance(new, IN_PICTURE) and new.reading.model_dump() != was.get("reading"):
        # Outputs of another kind are not read as the author had those of before read.
        own.pop("reading", None)
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
