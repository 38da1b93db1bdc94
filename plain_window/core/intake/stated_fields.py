"""A field as a function's signature states it, with what a table adds."""

import math
from typing import Any

from ..fields.calendars import date_of
from ..fields.dated import as_date
from ..fields.kinds import AnyField, ChoiceField, NumberField, Option, Scalar, Seen, TextField, YesNoField
from ..formats.python.annotations import Takes
from ..formats.python.signature import CALENDAR, Parameter
from ..formats.python.stand_in import range_of, start_value

__all__ = ["stated_field"]

STEPS_ACROSS = 200


def stated_field(field: AnyField, parameter: Parameter, *, has_table: bool) -> AnyField:
    """The field that values suggested, put right by what its author has stated.

    Parameters
    ----------
    field : field
        As it was inferred.
    parameter : Parameter
    has_table : bool
        Whether the values were a table's.
    """
    takes = parameter.takes
    if takes is None:
        return field
    words: dict[str, Any] = {"optional": takes.optional or field.optional}
    words |= {"label": takes.label[:200]} if takes.label else {}
    words |= {"help": takes.help} if takes.help else {}
    made = _of_kind(field, parameter, takes, has_table=has_table)
    return made.model_copy(update=words)


def _of_kind(field: AnyField, parameter: Parameter, takes: Takes, *, has_table: bool) -> AnyField:
    match takes.kind:
        case "number" | "date":
            return _number(field, parameter, takes, has_table=has_table)
        case "choice":
            return _choice(field, parameter, takes, has_table=has_table)
        case "yes_no":
            default = bool(start_value(parameter))
            if isinstance(field, YesNoField):
                return field.model_copy(
                    update={"default": field.default if has_table and not parameter.has_default else default}
                )
            return YesNoField(name=field.name, label=field.label, no=False, yes=True, default=default)
        case "text":
            return _text(field, parameter, takes, has_table=has_table)
    return field


def _text(field: AnyField, parameter: Parameter, takes: Takes, *, has_table: bool) -> AnyField:
    if has_table and not isinstance(field, TextField):
        # Words of a few kinds are chosen rather than typed; others are taken too.
        return field
    default = parameter.default if isinstance(parameter.default, str) else None
    own = TextField(name=field.name, label=field.label, default=default)
    return own.model_copy(update={"max_length": takes.max_length}) if takes.max_length else own


def _choice(field: AnyField, parameter: Parameter, takes: Takes, *, has_table: bool) -> ChoiceField:
    """The options in the order in which they are stated, as often as the table has each."""
    counts: dict[str, int] = {}
    if has_table and isinstance(field, ChoiceField):
        counts = {str(one.value): one.count for one in field.options}
    labels = takes.option_labels or ("",) * len(takes.options)
    options = [
        Option(value=value, label=label or _words(value), count=counts.get(str(value), 0))
        for value, label in zip(takes.options, labels, strict=True)
    ]
    usual = (
        field.default
        if isinstance(field, ChoiceField) and field.default in takes.options and any(counts.values())
        else None
    )
    default: Scalar | None = parameter.default if parameter.has_default else usual
    if default is None and not takes.optional:
        default = takes.options[0]
    return ChoiceField(name=field.name, label=field.label, options=options, default=default)


def _words(value: Scalar) -> str:
    words = str(value).replace("_", " ").strip() or str(value)
    return (words[:1].upper() + words[1:])[:200] if isinstance(value, str) else words


def _number(field: AnyField, parameter: Parameter, takes: Takes, *, has_table: bool) -> AnyField:
    (low, high), is_said = range_of(parameter)
    if has_table and isinstance(field, NumberField):
        made = _of_table(field, parameter, takes, (low, high) if is_said else None)
    else:
        made = _of_signature(field, parameter, takes, low, high, is_said=is_said)
    made = made.model_copy(update={"unit": takes.unit[:40] or made.unit, "whole": takes.whole})
    if (
        takes.kind == "date"
        and not made.calendar
        and date_of(made.seen.low, CALENDAR)
        and date_of(made.seen.high, CALENDAR)
    ):
        return as_date(made, CALENDAR)
    return made


def _of_table(
    field: NumberField, parameter: Parameter, takes: Takes, stated: tuple[float, float] | None
) -> NumberField:
    """The table's values stay what was seen; the control goes where the author says."""
    changes: dict[str, Any] = {}
    if stated is not None:
        changes |= {"minimum": stated[0], "maximum": stated[1]}
    if takes.step:
        changes["step"] = takes.step
    elif takes.whole:
        changes["step"] = max(1.0, round(field.step))
    minimum, maximum = changes.get("minimum", field.minimum), changes.get("maximum", field.maximum)
    if parameter.has_default:
        changes["default"] = _inside(parameter.default, minimum, maximum)
    elif field.default is not None:
        changes["default"] = _inside(field.default, minimum, maximum)
    return field.model_copy(update=changes)


def _inside(value: object, low: float, high: float) -> float | None:
    return min(max(float(value), low), high) if isinstance(value, int | float) else None


def _of_signature(
    field: AnyField, parameter: Parameter, takes: Takes, low: float, high: float, *, is_said: bool
) -> NumberField:
    start = start_value(parameter)
    return NumberField(
        name=field.name,
        label=field.label,
        minimum=low,
        maximum=high,
        step=takes.step or (1.0 if takes.whole or takes.kind == "date" else _step(low, high)),
        default=None if start is None else _inside(start, low, high),
        seen=Seen(
            source="function" if is_said else "none", low=low, high=high, usual_low=low, usual_high=high, counts=[]
        ),
    )


def _step(low: float, high: float) -> float:
    """One of 1, 2 or 5 times a power of ten, fine enough to reach any value that matters."""
    if high <= low:
        return 1.0
    wanted = (high - low) / STEPS_ACROSS
    power = 10.0 ** math.floor(math.log10(wanted))
    return float(f"{max(factor * power for factor in (1, 2, 5) if factor * power <= wanted * (1 + 1e-9)):.12g}")
