"""What is wanted of a film, what is known of it once it was looked at, and what came of its frames."""

from typing import Annotated, Any

import msgspec
from pydantic import BaseModel, ConfigDict
from pydantic import Field as Constrained

from ..core.documents.document import FilmRate

__all__ = ["FilmFound", "FilmOptions", "FrameAnswer"]


class FilmOptions(BaseModel):
    """How a film is asked about."""

    model_config = ConfigDict(extra="forbid")

    inputs: dict[str, Any] = Constrained({}, description="What the other fields hold, for all frames alike.")
    rate: FilmRate | None = Constrained(
        None, description="About how many frames of a second are asked about, if not as many as the author says."
    )
    least_score: Annotated[float, Constrained(ge=0, le=1)] | None = Constrained(
        None, description="Boxes with a lower score are left out; the author's least score if not given."
    )


class FilmFound(BaseModel):
    """What came of looking at a film."""

    width: int
    height: int
    seconds: float | None = Constrained(description="How long it lasts, where that can be told.")
    film_rate: float = Constrained(description="Its own frames a second.")
    has_sound: bool
    rate: float = Constrained(description="About how many frames a second are asked about.")


class FrameAnswer(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What came of one frame, shown from `at` seconds on: outputs, or boxes as class, score, x, y, width and height.

    With a `fault` there is neither.
    """

    at: float
    values: list[float] = []
    boxes: list[tuple[int, float, float, float, float, float]] = []
    fault: str = ""
