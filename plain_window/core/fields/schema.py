"""The fields' rules as JSON Schema 2020-12, for other programs."""

from collections.abc import Sequence
from typing import Any

from ..pictures.settings import GivenPicture
from .checking import field_number_text, number_text
from .kinds import AnyField, ChoiceField, DrawingField, NumberField, PictureField, Scalar, TextField, YesNoField

__all__ = ["inputs_schema"]

DATE = r"^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$"


def inputs_schema(fields: Sequence[AnyField], *, title: str) -> dict[str, object]:
    """JSON Schema of the `inputs` object: what passes it is what `check_inputs` accepts.

    Parameters
    ----------
    fields : sequence of field
    title : str
        The demo's title.

    Returns
    -------
    dict
        A schema of draft 2020-12.
    """
    shown = [field for field in fields if not field.hidden]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": title,
        "type": "object",
        "properties": {field.name: _field_schema(field) for field in shown},
        "required": [field.name for field in shown],
        "additionalProperties": False,
    }


def _field_schema(field: AnyField) -> dict[str, Any]:
    schema = {"title": field.label, "description": _description(field), **_value_schema(field)}
    if field.default is not None:
        schema["default"] = field.default
    if not schema["description"]:
        del schema["description"]
    return schema


def _description(field: AnyField) -> str:
    parts = [field.help]
    if isinstance(field, NumberField):
        unit = f" {field.unit}" if field.unit else ""
        low, high = (field_number_text(field, value) for value in (field.seen.low, field.seen.high))
        words = {"table": "Seen from", "function": "Made for", "none": ""}[field.seen.source]
        parts.append(f"{words} {low} to {high}{unit}." if words else "")
    return " ".join(part for part in parts if part)


def _value_schema(field: AnyField) -> dict[str, Any]:
    if isinstance(field, NumberField) and field.calendar:
        date = {"type": "string", "format": "date", "pattern": DATE}
        return {"anyOf": [date, {"type": "number"}, *([{"type": "null"}] if field.optional else [])]}
    if isinstance(field, NumberField):
        kind = "integer" if field.whole else "number"
        return {"type": [kind, "null"] if field.optional else kind}
    if isinstance(field, PictureField | DrawingField):
        return _picture_schema(field)
    if isinstance(field, TextField):
        # The pattern refuses what has no visible character, as the check does.
        text: dict[str, Any] = {"minLength": 1, "maxLength": field.max_length, "pattern": r"\S"}
        return {"type": ["string", "null"] if field.optional else "string", **text}
    if isinstance(field, ChoiceField) and field.other:
        kinds = ["string", "number", "boolean"] if _has_other_types(field) else ["string"]
        return {"type": [*kinds, "null"] if field.optional else kinds, "examples": [o.value for o in field.options]}
    return {"enum": _enumerated(field)}


def _picture_schema(field: PictureField | DrawingField) -> dict[str, Any]:
    schema = GivenPicture.model_json_schema()
    # Values of their own have no place for definitions: this one has none.
    sources = ["data", "link", "sample", *(["strokes"] if isinstance(field, DrawingField) else [])]
    kept = {
        name: {key: value for key, value in described.items() if key not in ("title", "default")}
        for name, described in schema["properties"].items()
        if name != "strokes" or isinstance(field, DrawingField)
    }
    for source in sources:
        kept[source] = {**kept[source].pop("anyOf")[0], **kept[source]}
    value_schema = {
        "type": "object",
        "properties": kept,
        "additionalProperties": False,
        "oneOf": [{"required": [source]} for source in sources],
    }
    return {"anyOf": [value_schema, {"type": "null"}]} if field.optional else value_schema


def _has_other_types(field: ChoiceField) -> bool:
    return any(not isinstance(option.value, str) for option in field.options)


def _enumerated(field: ChoiceField | YesNoField) -> list[Scalar | None]:
    if isinstance(field, YesNoField):
        listed: list[Scalar | None] = [False, True]
        for value in (field.no, field.yes):
            listed += _spellings(value)
        if isinstance(field.yes, bool):
            listed += [0, 1]
    else:
        listed = [spelling for option in field.options for spelling in _spellings(option.value)]
    if field.optional:
        listed.append(None)
    # JSON tells true from 1 where Python's `in` does not.
    return list({(type(value), value): value for value in listed}.values())


def _spellings(value: Scalar) -> list[Scalar]:
    """The value, and its other reading where a number and its text are taken for each other."""
    if isinstance(value, bool):
        return [value]
    if isinstance(value, str):
        try:
            number = float(value)
        except ValueError:
            return [value]
        return [value, int(number) if number == int(number) else number] if abs(number) < 1e15 else [value]
    return [value, number_text(value)]
