"""An author's changes to the fields."""

from collections.abc import Iterator
from typing import Any

from pydantic import ValidationError

from ..errors import Fault
from ..fields import AnyField, ChoiceField, DrawingField, NumberField, PictureField, TextField, YesNoField
from ..fields.dated import as_date
from .faults import faults_of

__all__ = ["changed_fields"]

# What the model and the table decided; an author may send it back but not change it.
FACTS_OF_A_FIELD = ("kind", "seen", "optional", "no", "yes", "whole")
# What a visitor gives where a model looks at a picture; the author says which.
PICTURE_KINDS = ("picture", "drawing")


def changed_fields(fields: list[AnyField], wanted: list[dict[str, object]], faults: list[Fault]) -> list[AnyField]:
    """The fields with changes to some of them, in the order that naming all of them gives.

    Parameters
    ----------
    fields : list of AnyField
        Not touched.
    wanted : list of dict
        Settings of each, found by `name`.
    faults : list of Fault
        What does not fit is added here.
    """
    by_name = {field.name: field for field in fields}
    names = [item["name"] for item in wanted]
    for name in dict.fromkeys(names):
        if name not in by_name:
            known = ", ".join(f"`{known}`" for known in list(by_name)[:20])
            faults.append(Fault(f"fields.{name}", f"The model has no feature `{name}`. It has {known}."))
        elif names.count(name) > 1:
            faults.append(Fault(f"fields.{name}", f"`{name}` is named twice under fields. Keep one of them."))
    for item in wanted:
        if item["name"] in by_name:
            by_name[item["name"]] = _changed_field(by_name[item["name"]], item, faults)
    order = names if set(names) == set(by_name) and len(names) == len(by_name) else list(by_name)
    return [by_name[name] for name in order if name in by_name]


def _changed_field(field: AnyField, wanted: dict[str, Any], faults: list[Fault]) -> AnyField:
    path = f"fields.{field.name}"
    if wanted.get("kind") in PICTURE_KINDS and field.kind in PICTURE_KINDS:
        field = _as_kind(field, wanted["kind"])
    current = field.model_dump()
    settings = {}
    for key, value in wanted.items():
        if key in FACTS_OF_A_FIELD:
            if value is not None and value != current.get(key):
                faults.append(
                    Fault(
                        f"{path}.{key}", f"`{key}` of `{field.name}` comes from the model and the table; leave it out."
                    )
                )
        elif key not in current:
            # An editor that sends every key sends empty ones for what this kind does not have.
            if value not in (None, ""):
                faults.append(
                    Fault(f"{path}.{key}", f"`{field.name}` is a {_kind_word(field)} and has no `{key}`. Leave it out.")
                )
        elif key == "preparation" and value is not None:
            # Some of it may be said; the rest stays.
            settings[key] = {**current[key], **value}
        elif value is not None:
            settings[key] = value
    try:
        changed = type(field).model_validate({**current, **settings})
    except ValidationError as error:
        faults.extend(faults_of(error, prefix=f"{path}."))
        return field
    if isinstance(changed, NumberField) and changed.calendar and changed.calendar != getattr(field, "calendar", ""):
        try:
            changed = as_date(changed, changed.calendar)
        except ValueError as error:
            faults.append(Fault(f"{path}.calendar", f"`{field.name}` has {error}, which is no date counted that way."))
            return field
    faults.extend(Fault(f"{path}.{key}", message) for key, message in _contradictions(field, changed))
    return _with_counts(field, changed)


def _as_kind(field: AnyField, kind: str) -> AnyField:
    """A picture's field as a drawing's, or the other way: a model takes either."""
    other = DrawingField if kind == "drawing" else PictureField
    return other.model_validate({key: value for key, value in field if key in other.model_fields and key != "kind"})


def _with_counts(before: AnyField, after: AnyField) -> AnyField:
    """Settings name options by value and label; how often the table has each stays what it is."""
    if isinstance(before, ChoiceField) and isinstance(after, ChoiceField):
        counts = {(type(option.value), option.value): option.count for option in before.options}
        for option in after.options:
            option.count = counts.get((type(option.value), option.value), 0)
    return after


def _kind_word(field: AnyField) -> str:
    words = {"yes_no": "yes/no field", "text": "text field", "choice": "choice"}
    return words.get(field.kind, field.kind)


def _contradictions(before: AnyField, after: AnyField) -> list[tuple[str, str]]:
    """Settings that do not go together, as key and sentence."""
    name = before.name
    if after.hidden and isinstance(after, PictureField | DrawingField | TextField):
        return [("hidden", f"`{name}` cannot be fixed and hidden: it is what visitors bring.")]
    if after.hidden and after.default is None and not after.optional:
        return [("hidden", f"`{name}` needs a start value to be fixed at. Set its `default` first.")]
    if isinstance(after, NumberField):
        return list(_number_contradictions(name, after))
    if isinstance(after, ChoiceField) and isinstance(before, ChoiceField):
        values = [option.value for option in after.options]
        if sorted(map(repr, values)) != sorted(repr(option.value) for option in before.options):
            message = f"The options of `{name}` come from the model; only their labels and order can be set."
            return [("options", message)]
        if after.default is not None and after.default not in values:
            return [("default", f"The default of `{name}` must be one of its options. Got {after.default!r}.")]
    if isinstance(after, YesNoField) and not isinstance(after.default, bool | None):
        return [("default", f"The default of `{name}` must be true or false. Got {after.default!r}.")]
    return []


def _number_contradictions(name: str, field: NumberField) -> Iterator[tuple[str, str]]:
    if field.minimum > field.maximum or (field.minimum == field.maximum and field.seen.low != field.seen.high):
        yield "minimum", f"`minimum` of `{name}` must be below `maximum`. Got {field.minimum:g} and {field.maximum:g}."
    elif field.default is not None and not field.minimum <= field.default <= field.maximum:
        yield (
            "default",
            f"The default of `{name}` must lie from {field.minimum:g} to {field.maximum:g}. Got {field.default:g}.",
        )
    if field.step > field.maximum - field.minimum > 0:
        yield "step", f"`step` of `{name}` must not be larger than its range. Got {field.step:g}."
