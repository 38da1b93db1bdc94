"""What the web tier asks of a runner. Every request has a tag; one that is none of these is no message."""

from typing import Literal

import msgspec

from .values import Row

__all__ = [
    "AmongRequest",
    "BoxToDraw",
    "BoxesRequest",
    "ChangesWanted",
    "DrawBoxesRequest",
    "ExplainRequest",
    "FieldMayChange",
    "MakePictureRequest",
    "MaskRequest",
    "OverallRequest",
    "PredictRequest",
    "RegionsRequest",
    "Request",
    "SlowRequest",
    "WriteRequest",
]


class _Request(msgspec.Struct, forbid_unknown_fields=True, tag_field="request", kw_only=True):
    """A call. `call` names it to the keeper; quick ones are answered before all others."""

    call: int = 0
    is_quick: bool = False


class PredictRequest(_Request, tag="predict"):
    """The model's outputs for these rows."""

    rows: list[Row]


class FieldMayChange(msgspec.Struct, forbid_unknown_fields=True):
    """How a field may change: in steps of what size, and in which direction; for numbers only."""

    step: float = 0.0
    direction: Literal["any", "up", "down"] = "any"


class ChangesWanted(msgspec.Struct, forbid_unknown_fields=True):
    """Ways to another class (`to`, or any), or to the number `reach`.

    With a `threshold`, of two classes one is said from its probability on: which, and from where.
    """

    fields: dict[str, FieldMayChange]
    to: int | None = None
    reach: float | None = None
    threshold: tuple[int, float] | None = None


class ExplainRequest(_Request, tag="explain"):
    """One row's outputs, with what explains them.

    `of` is the output that is explained; None for the likeliest class, or the only number.
    """

    row: Row
    of: int | None = None
    explanation: bool = False
    at_score: bool = False
    curves: bool = False
    full: bool = False
    similar: bool = False
    changes: ChangesWanted | None = None
    seen: bool = False

    @property
    def is_plain(self) -> bool:
        """Whether nothing is asked beside the outputs that takes its time."""
        return not (self.explanation or self.at_score or self.curves or self.full or self.similar or self.changes)


class OverallRequest(_Request, tag="overall"):
    """What matters overall for one output; `thorough` by all kept rows, for as long as somebody goes on asking."""

    of: int
    thorough: bool = False


class AmongRequest(_Request, tag="among"):
    """Reference rows: their values of a field, and the model's answers."""

    field: str
    of: int


class RegionsRequest(_Request, tag="regions"):
    """Where the model looked in the picture of `field`; the longer it is asked, the sharper."""

    row: Row
    field: str
    of: int | None = None


class BoxesRequest(_Request, tag="boxes"):
    """What the model finds in the picture of a row, with a score of at least so much.

    `reading` says how its outputs are read: a document's `BoxReading`, as plain values.
    """

    row: Row
    reading: dict[str, str | int | float | None]
    least_score: float
    seen: bool = False


class BoxToDraw(msgspec.Struct, forbid_unknown_fields=True):
    """A box in pixels of the picture as it was given, and what is written beside it. `colour` as "#1E6B6B"."""

    x: float
    y: float
    width: float
    height: float
    words: str
    colour: str


class DrawBoxesRequest(_Request, tag="draw-boxes"):
    """The picture of a row with boxes drawn into it, in the format it came in."""

    row: Row
    boxes: list[BoxToDraw]


class MakePictureRequest(_Request, tag="make-picture"):
    """The picture that the model makes of the one in a row, in the format that came in; no longer than `most_side`.

    `reading` says how its output is read: a document's `PictureReading`, as plain values.
    """

    row: Row
    reading: dict[str, str]
    most_side: int | None = None
    seen: bool = False


class MaskRequest(_Request, tag="mask"):
    """A class for each pixel of the picture in a row: as a mask, or laid over the picture, in the format it came in.

    `reading` says how its output is read: a document's `MaskReading`, as plain values. What is laid over has a colour a
    class, but for `nothing`.
    """

    row: Row
    reading: dict[str, str | float]
    n_classes: int
    most_side: int | None = None
    laid_over: bool = False
    nothing: int | None = None
    seen: bool = False


class WriteRequest(_Request, tag="write"):
    """The text or table that a function answers a row with."""

    row: Row
    seen: bool = False


SlowRequest = (
    ExplainRequest
    | OverallRequest
    | AmongRequest
    | RegionsRequest
    | BoxesRequest
    | DrawBoxesRequest
    | MakePictureRequest
    | MaskRequest
    | WriteRequest
)
Request = PredictRequest | SlowRequest
