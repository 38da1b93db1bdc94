"""What is stated about pictures: how one becomes a model's input, and how a visitor gives one.

Needs neither NumPy nor Pillow: the web tier imports it at every start.
"""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, model_validator
from pydantic import Field as Constrained

__all__ = ["MOST_POINTS", "WHITE", "Colour", "GivenPicture", "Preparation"]

Side = Annotated[int, Constrained(ge=1, le=4096)]
ColourPart = Annotated[int, Constrained(ge=0, le=255)]
Colour = Annotated[list[ColourPart], Constrained(min_length=3, max_length=3)]
Share = Annotated[float, Constrained(ge=0, le=1, allow_inf_nan=False)]
Coordinate = Annotated[float, Constrained(ge=-10, le=10, allow_inf_nan=False)]
Point = Annotated[list[Coordinate], Constrained(min_length=2, max_length=3)]
Stroke = Annotated[list[Point], Constrained(min_length=1, max_length=20_000)]
WHITE = [255, 255, 255]
# Points of all strokes of a drawing together.
MOST_POINTS = 50_000


class Preparation(BaseModel):
    """How a picture becomes a model's input."""

    model_config = ConfigDict(extra="forbid")

    width: Side
    height: Side
    own_size: bool = Constrained(
        False, description="Pictures keep their own size, but for those larger than `width` and `height`."
    )
    multiple: Annotated[int, Constrained(ge=1, le=512)] = Constrained(
        1, description="Of their own size: sides are made whole multiples of this."
    )
    fit: Literal["stretch", "border", "crop"] = Constrained(
        "stretch", description="Stretched to the size, whole inside a border, or the middle of it."
    )
    border: Colour = Constrained([0, 0, 0], description="The border's colour: red, green, blue.")
    colour: Literal["colour", "grey"] = "colour"
    trained_on: Literal["any", "light on dark", "dark on light"] = Constrained(
        "any",
        description="What the pictures of the training were: light strokes on dark, or dark ones on light. Pictures, "
        "samples and drawings that are the other way round are turned; `any` leaves all as they come.",
    )
    scale: Literal["0..255", "0..1", "-1..1", "spread"] = "0..1"
    mean: list[float] = Constrained([], description="For `spread`, of values from 0 to 1: one number a channel.")
    spread: list[float] = Constrained([], description="For `spread`: what is divided by, one number a channel.")
    order: Literal["rgb", "bgr"] = "rgb"
    layout: Literal["channels first", "channels last", "flat"] = "channels first"
    batch: bool = Constrained(True, description="Whether a batch dimension of one stands in front.")

    @property
    def n_channels(self) -> int:
        """Three for colour, one for grey."""
        return 3 if self.colour == "colour" else 1

    @model_validator(mode="before")
    @classmethod
    def _from_before(cls, data: Any) -> Any:
        """Documents of before said `invert` for dark pictures that are turned."""
        if isinstance(data, dict) and "invert" in data:
            data = dict(data)
            data["trained_on"] = "light on dark" if data.pop("invert") else "any"
        return data

    @model_validator(mode="after")
    def _has_a_number_a_channel(self) -> "Preparation":
        if self.scale == "spread":
            if len(self.mean) != self.n_channels or len(self.spread) != self.n_channels:
                raise ValueError(f"mean and spread need {self.n_channels} numbers each, one a channel")
            if any(not number > 0 for number in self.spread):
                raise ValueError("spread must be above 0")
        return self


class GivenPicture(BaseModel):
    """A picture or a drawing as a visitor gives it: where it comes from, and what part of it counts.

    The cut-out is told in shares of the upright picture, before it is turned clockwise.
    """

    model_config = ConfigDict(extra="forbid")

    data: str | None = Constrained(None, description="The file's content in base64.")
    link: Annotated[str, Constrained(max_length=2000)] | None = Constrained(None, description="A public web address.")
    sample: Annotated[str, Constrained(max_length=100)] | None = Constrained(
        None, description="One of the demo's own sample pictures."
    )
    strokes: Annotated[list[Stroke], Constrained(max_length=1000)] | None = Constrained(
        None, description="Of a drawing: points from 0 to 1, each with how hard the pen is pressed if that is known."
    )
    left: Share = 0.0
    top: Share = 0.0
    width: Share = 1.0
    height: Share = 1.0
    turn: Literal[0, 90, 180, 270] = 0

    @model_validator(mode="after")
    def _cuts_something_out(self) -> "GivenPicture":
        if self.width <= 0 or self.height <= 0 or self.left >= 1 or self.top >= 1:
            raise ValueError("the cut-out is empty")
        if sum(map(len, self.strokes or [])) > MOST_POINTS:
            raise ValueError(f"a drawing has at most {MOST_POINTS} points")
        return self
