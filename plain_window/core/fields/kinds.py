"""The kinds of field: what a visitor can give, and what the author may set about it."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Constrained

from ..pictures.settings import WHITE, Colour, Preparation
from .calendars import Calendar

__all__ = [
    "AnyField",
    "ChoiceField",
    "DrawingField",
    "NumberField",
    "Option",
    "PictureField",
    "Scalar",
    "Seen",
    "TextField",
    "YesNoField",
]

Scalar = bool | int | float | str
Finite = Annotated[float, Constrained(allow_inf_nan=False)]
Words = Annotated[str, Constrained(max_length=200)]
Sentence = Annotated[str, Constrained(max_length=1000)]


class Seen(BaseModel):
    """How the reference values of a number lie, or what else its range is known by. Facts, not settings."""

    source: Literal["table", "function", "none"] = Constrained(
        "table",
        description="Where the range is from: the reference table, or the function, which says what it is for. `none`: "
        "nobody said, and it is where the control goes.",
    )
    low: Finite
    high: Finite
    usual_low: Finite = Constrained(description="A quarter of the reference values lie below.")
    usual_high: Finite = Constrained(description="A quarter of the reference values lie above.")
    counts: list[int] = Constrained(
        description="Reference values in equally wide bins from `low` to `high`; none without a table."
    )


class _Field(BaseModel):
    """What every field has. `name` is the model's own name for the feature and never changes."""

    model_config = ConfigDict(extra="forbid")

    name: str
    label: Words
    help: Sentence = ""
    group: Words = ""
    optional: bool = Constrained(
        False, description="May be left unknown (null): the reference column has gaps and the model takes them."
    )
    hidden: bool = Constrained(
        False, description="Visitors do not see it: every case has its start value. Chosen on purpose, and said."
    )
    changeable: bool = Constrained(True, description="Whether a visitor could change this about the case at all.")


class NumberField(_Field):
    """A number, dragged or typed. `minimum` and `maximum` bound the control, not what is accepted."""

    kind: Literal["number"] = "number"
    unit: Annotated[str, Constrained(max_length=40)] = ""
    minimum: Finite
    maximum: Finite
    step: Annotated[float, Constrained(gt=0, allow_inf_nan=False)]
    default: Finite | None
    seen: Seen
    direction: Literal["any", "up", "down"] = Constrained(
        "any", description="Which way a visitor could change it: drying can go on, but not be taken back."
    )
    whole: bool = Constrained(False, description="Only whole numbers are taken. A fact, not a setting.")
    calendar: Literal["", Calendar] = Constrained(
        "", description="The number stands for a date, counted in this way; it is read and entered as a date."
    )


class Option(BaseModel):
    """One option of a choice: the value the model knows and the words a visitor reads."""

    model_config = ConfigDict(extra="forbid")

    value: Scalar
    label: Words
    count: int = Constrained(0, description="Reference rows with it. A fact, not a setting.")


class ChoiceField(_Field):
    """One of several options."""

    kind: Literal["choice"] = "choice"
    options: Annotated[list[Option], Constrained(min_length=1)]
    default: Scalar | None
    other: bool = Constrained(False, description="Values that are not among the options are answered, with a note.")


class YesNoField(_Field):
    """Yes or no. `no` and `yes` are the values the model knows them by."""

    kind: Literal["yes_no"] = "yes_no"
    no: Scalar
    yes: Scalar
    default: bool | None


class TextField(_Field):
    """A piece of text."""

    kind: Literal["text"] = "text"
    default: str | None
    max_length: Annotated[int, Constrained(gt=0, le=1_000_000)] = 20_000


class PictureField(_Field):
    """A picture: chosen, dropped, pasted, taken, linked to, or one of the demo's samples."""

    kind: Literal["picture"] = "picture"
    default: None = None
    preparation: Preparation
    behind: Colour = Constrained(WHITE, description="The colour that see-through places are laid on.")


class DrawingField(_Field):
    """A drawing: strokes in the order they were drawn. A picture is taken too."""

    kind: Literal["drawing"] = "drawing"
    default: None = None
    preparation: Preparation
    behind: Colour = Constrained(WHITE, description="The colour of the paper.")
    line_width: Annotated[float, Constrained(ge=0.005, le=0.4, allow_inf_nan=False)] = Constrained(
        0.07, description="How wide a line is, as a share of the drawing's side; as in the pictures of the training."
    )
    centred: bool = Constrained(
        False, description="The drawing is moved to the middle and made to fill most of the paper."
    )


AnyField = Annotated[
    NumberField | ChoiceField | YesNoField | TextField | PictureField | DrawingField,
    Constrained(discriminator="kind"),
]
