"""A visitor's values against the fields: every fault at once, and what is unusual as notes."""

import datetime as dt
import difflib
import functools
import math
from collections.abc import Callable, Mapping, Sequence
from typing import Any, Literal, NamedTuple

from pydantic import BaseModel

from ..errors import MOST_NAMED, Fault, InputFaults
from .calendars import date_text, number_of_date
from .kinds import AnyField, ChoiceField, DrawingField, NumberField, PictureField, Scalar, TextField, YesNoField
from .pictures import NotAccepted, check_picture

__all__ = ["CheckedInputs", "Note", "check_inputs", "check_value", "field_number_text", "number_text", "usual_range"]

# What came is quoted back to the visitor; no more of it than fits in a sentence.
QUOTED_CHARACTERS = 60
# Options named in a message before "and N more".
NAMED_OPTIONS = 8
# Of the range that was seen: further than this beyond it is beyond it, however coarse the author's steps are.
SLIDER_SLACK = 0.01
# Made once: every value of every case comes by here.
PICTURE_FIELDS, NUMBERS = (PictureField, DrawingField), (int, float)
# Unknown fields for which the nearest name is looked for.
MOST_GUESSED = 5


class Note(BaseModel):
    """Something a visitor should know about an answer that was given all the same."""

    field: str | None
    level: Literal["info", "warn"]
    message: str
    # For programs: what kind of note it is, where it is one that they act on.
    code: Literal["not-explained", "no-curves", "not-looked", "unlike-outcomes"] | None = None


class CheckedInputs(NamedTuple):
    """Values by field name, as the model knows them, and notes on what is unusual."""

    values: dict[str, Any]
    notes: list[Note]


def check_inputs(
    fields: Sequence[AnyField], inputs: Mapping[str, object], contents: Mapping[str, bytes] | None = None
) -> CheckedInputs:
    """Check a visitor's values and turn them into what the model knows.

    Parameters
    ----------
    fields : sequence of field
        The demo's fields, in any order.
    inputs : mapping
        Value by field name, as parsed from JSON.
    contents : mapping of str to bytes, optional
        The files of pictures that did not come within `inputs`.

    Returns
    -------
    CheckedInputs
        One value for every field, and the notes.

    Raises
    ------
    InputFaults
        With one fault for every missing, unknown and wrongly typed field.

    Examples
    --------
    >>> from plain_window.core.fields import YesNoField
    >>> handle = YesNoField(name="handle", label="Handle", no=0, yes=1, default=False)
    >>> check_inputs([handle], {"handle": True}).values
    {'handle': 1}
    """
    faults: list[Fault] = []
    notes: list[Note] = []
    values: dict[str, Any] = {}
    for field in fields:
        if field.hidden:
            values[field.name], fault = _fixed(field, inputs)
            if fault:
                faults.append(Fault(field.name, fault))
            continue
        if field.name not in inputs:
            way_on = " Give null where it is not known." if field.optional else ""
            faults.append(Fault(field.name, f"{field.label} is missing.{way_on}"))
            continue
        try:
            if isinstance(field, PICTURE_FIELDS):
                values[field.name], note = check_picture(field, inputs[field.name], contents or {}), ""
            else:
                values[field.name], note = check_value(field, inputs[field.name])
        except NotAccepted as fault:
            faults.append(Fault(field.name, f"{field.label} {fault}"))
        else:
            if note:
                notes.append(Note(field=field.name, level="warn", message=note))
    if faults or not inputs.keys() <= values.keys():
        named = {field.name for field in fields}
        strangers = [name for name in inputs if name not in named]
        raise InputFaults(faults + _unknown(strangers, list(named)), n_all=len(faults) + len(strangers))
    return CheckedInputs(values, notes)


def _fixed(field: AnyField, inputs: Mapping[str, Any]) -> tuple[Any, str]:
    """The value that every case has in a field that visitors do not see; and what is wrong if another was sent."""
    try:
        fixed = None if field.default is None else check_value(field, field.default)[0]
        if field.name not in inputs or check_value(field, inputs[field.name])[0] == fixed:
            return fixed, ""
    except NotAccepted as fault:
        return None, f"{field.label} {fault}"
    return fixed, f"{field.label} is fixed by the author of this page. Leave it out."


def _unknown(strangers: Sequence[str], names: list[str]) -> list[Fault]:
    """Faults for the first of the inputs that are no fields. Looking for what was meant takes time; slips are few."""
    faults = []
    for at, name in enumerate(strangers[:MOST_NAMED]):
        near = difflib.get_close_matches(str(name)[:QUOTED_CHARACTERS], names, n=1) if at < MOST_GUESSED else []
        way_on = f' Did you mean "{near[0]}"?' if near else " Leave it out."
        faults.append(Fault(str(name)[:200], f"There is no field {_quoted(name)}.{way_on}"))
    return faults


def check_value(field: AnyField, entered: object) -> tuple[Scalar | None, str]:
    """The value as the model knows it, and a note (or an empty string).

    Parameters
    ----------
    field : field
        Neither a picture nor a drawing.
    entered : object
        As parsed from JSON.

    Raises
    ------
    NotAccepted
        Saying what is wrong, without the field's name in front.
    """
    if entered is None:
        if field.optional:
            return None, ""
        raise NotAccepted(f"is empty. {_wanted(field)}")
    if isinstance(field, NumberField):
        return _check_number(field, entered)
    if isinstance(field, ChoiceField):
        return _check_choice(field, entered)
    if isinstance(field, YesNoField):
        return _check_yes_no(field, entered), ""
    assert isinstance(field, TextField), "pictures are checked before this"
    return _check_text(field, entered), ""


def _check_number(field: NumberField, entered: Any) -> tuple[float, str]:
    if field.calendar and isinstance(entered, str):
        try:
            entered = number_of_date(dt.date.fromisoformat(entered.strip()), field.calendar)
        except ValueError:
            raise NotAccepted(f"must be a date. You gave {_quoted(entered)}. {_wanted(field)}") from None
    # bool is an int to Python, but nobody who sends `true` for a number means 1.
    if isinstance(entered, bool) or not isinstance(entered, NUMBERS):
        raise NotAccepted(f"must be a number. You gave {_quoted(entered)}. {_wanted(field)}")
    try:
        value = float(entered)
    except OverflowError:
        value = math.inf
    if not math.isfinite(value):
        raise NotAccepted(f"must be an ordinary number, neither infinite nor “not a number”. {_wanted(field)}")
    if field.whole and not value.is_integer():
        raise NotAccepted(f"must be a whole number. You gave {number_text(value)}. Try {math.floor(value + 0.5)}.")
    seen = field.seen
    low, high = usual_range(field)
    if low <= value <= high:
        return value, ""
    side = ("before" if field.calendar else "below") if value < seen.low else ("after" if field.calendar else "above")
    unit = f" {field.unit}" if field.unit else ""
    known = "everything in the author's table" if seen.source == "table" else "what this page is made for"
    return value, (
        f"{field.label} {field_number_text(field, value)}{unit} is {side} {known} "
        f"({field_number_text(field, seen.low)} to {field_number_text(field, seen.high)}{unit}). "
        "Take the answer with care."
    )


def usual_range(field: NumberField) -> tuple[float, float]:
    """From where to where a number is nothing to take care of: without end where nothing is known of it.

    Parameters
    ----------
    field : NumberField
    """
    if field.seen.source == "none":
        return -math.inf, math.inf
    return control_ends(field.seen.low, field.seen.high, field.step)


@functools.lru_cache(maxsize=4096)
def control_ends(low: float, high: float, step: float) -> tuple[float, float]:
    """The control ends on a step just outside what was seen; its own ends are nothing to take care of.

    Parameters
    ----------
    low, high : float
        What was seen.
    step : float
    """
    slack = SLIDER_SLACK * (high - low)
    return max(_on_step(low, step, math.floor), low - slack), min(_on_step(high, step, math.ceil), high + slack)


def _on_step(value: float, step: float, to_whole: Callable[[float], int]) -> float:
    """The step at or beyond a value, where that is no further than a slider's own end."""
    return float(f"{to_whole(round(value / step, 6)) * step:.12g}")


def _check_choice(field: ChoiceField, entered: Any) -> tuple[Scalar, str]:
    if isinstance(entered, Scalar):
        for option in field.options:
            if _same_option(option.value, entered):
                return option.value, ""
        if field.other and isinstance(entered, str):
            return (
                entered,
                f"{_quoted(entered)} is not one of the usual options for {field.label}. Take the answer with care.",
            )
    raise NotAccepted(f"cannot be {_quoted(entered)}. {_wanted(field)}")


def _same_option(option: Scalar, entered: Scalar) -> bool:
    """Whether `entered` names this option: itself, or a number and its text taken for each other."""
    if isinstance(option, bool) or isinstance(entered, bool):
        return option is entered
    if isinstance(option, str) == isinstance(entered, str):
        return option == entered
    text, number = (option, entered) if isinstance(option, str) else (entered, option)
    try:
        return float(text) == number
    except ValueError:
        return False


def _check_yes_no(field: YesNoField, entered: Any) -> Scalar:
    if isinstance(entered, bool):
        return field.yes if entered else field.no
    for value in (field.no, field.yes):
        if isinstance(entered, Scalar) and not isinstance(value, bool) and _same_option(value, entered):
            return value
    # Tables write a yes as 1; so do programs that send a row of one.
    if isinstance(entered, int | float) and isinstance(field.yes, bool) and entered in (0, 1):
        return field.yes if entered else field.no
    raise NotAccepted(f"must be yes (true) or no (false). You gave {_quoted(entered)}.")


def _check_text(field: TextField, entered: Any) -> str:
    if not isinstance(entered, str):
        raise NotAccepted(f"must be text. You gave {_quoted(entered)}.")
    if not entered.strip():
        raise NotAccepted("is empty. Write a few words.")
    if len(entered) > field.max_length:
        raise NotAccepted(f"is {len(entered)} characters long; the limit is {field.max_length}. Shorten it.")
    return entered


def _wanted(field: AnyField) -> str:
    """What would be accepted, as a sentence."""
    if isinstance(field, NumberField):
        example = field.default if field.default is not None else field.seen.low
        return f"Try {field_number_text(field, example)}."
    if isinstance(field, ChoiceField):
        names = [_quoted(option.value) for option in field.options]
        more = f" and {len(names) - NAMED_OPTIONS} more" if len(names) > NAMED_OPTIONS else ""
        return f"Choose one of {', '.join(names[:NAMED_OPTIONS])}{more}."
    if isinstance(field, YesNoField):
        return "Choose yes (true) or no (false)."
    return "Write a few words."


def _quoted(entered: Any) -> str:
    text = f'"{entered}"' if isinstance(entered, str) else _json_text(entered)
    return text if len(text) <= QUOTED_CHARACTERS else text[: QUOTED_CHARACTERS - 1] + "…"


def _json_text(entered: Any) -> str:
    """A value named the way it stood in the JSON."""
    if isinstance(entered, bool):
        return "true" if entered else "false"
    if isinstance(entered, float):
        return number_text(entered)
    if isinstance(entered, int):
        # A number of thousands of digits must not be written out only to be cut.
        return str(entered) if abs(entered) < 10**QUOTED_CHARACTERS else "a number of very many digits"
    return "an object" if isinstance(entered, dict) else "a list" if isinstance(entered, list) else "nothing"


def number_text(value: float) -> str:
    """A number as a person would write it: no trailing zeros, no exponent in everyday sizes.

    Parameters
    ----------
    value : float
    """
    if math.isfinite(value) and value == int(value) and abs(value) < 1e15:
        return str(int(value))
    return f"{value:.6g}"


def field_number_text(field: NumberField, value: float) -> str:
    """A field's number without its unit; a date where it stands for one.

    Parameters
    ----------
    field : NumberField
    value : float
    """
    return date_text(value, field.calendar) if field.calendar else number_text(value)
