"""Answers that lie in a picture: boxes around what was found in it, a picture made of it, a class for each of its
pixels. The settings' side and the answer's, as types."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, model_validator
from pydantic import Field as Constrained

__all__ = [
    "IN_PICTURE",
    "MOST_BOXES",
    "MOST_KINDS",
    "BoxLabel",
    "BoxReading",
    "BoxesAnswer",
    "BoxesSetting",
    "FoundBox",
    "MaskAnswer",
    "MaskReading",
    "MaskSetting",
    "MaskedKind",
    "PictureAnswer",
    "PictureReading",
    "PictureSetting",
    "ViewPart",
]

# The kinds of answer that are here.
IN_PICTURE = ("boxes", "picture", "mask")
# Classes that a byte a pixel can tell apart.
MOST_KINDS = 256

# Boxes of one answer; nobody counts more by eye.
MOST_BOXES = 300

Words = Annotated[str, Constrained(max_length=200)]
OutputName = Annotated[str, Constrained(max_length=500)]
Column = Annotated[int, Constrained(ge=0, le=100_000)]
Score = Annotated[float, Constrained(gt=0, lt=1, allow_inf_nan=False)]


class BoxReading(BaseModel):
    """How a model's outputs are read as boxes.

    Either one output holds everything of a candidate side by side (`boxes` alone is named), or boxes, scores and
    classes are outputs of their own.
    """

    model_config = ConfigDict(extra="forbid")

    boxes: OutputName = Constrained(description="The output that holds the four numbers of each box.")
    scores: OutputName = Constrained("", description="The output of scores, where they are one of their own.")
    classes: OutputName = Constrained("", description="The output of class numbers, where they are one of their own.")
    chosen: OutputName = Constrained(
        "",
        description="The output that lists which boxes are left: picture, class and box, as suppression in ONNX does.",
    )
    count: OutputName = Constrained("", description="The output that says how many of the boxes count.")
    candidates: Literal["rows", "columns"] = Constrained(
        "rows", description="Whether the numbers of a candidate stand side by side or below one another."
    )
    box_at: Column = Constrained(0, description="Where the first of a box's four numbers stands.")
    score_at: Column | None = Constrained(
        None, description="Where a candidate's score stands; beside scores of classes, how likely it is a thing at all."
    )
    class_at: Column | None = Constrained(None, description="Where the number of its class stands.")
    classes_from: Column | None = Constrained(None, description="From where on there is a score for each class.")
    form: Literal["two corners", "two corners, down first", "centre and size", "corner and size"] = "two corners"
    unit: Literal["pixels", "shares"] = Constrained(
        "pixels", description="Of the picture as the model sees it, or shares of its width and height."
    )
    link: Literal["none", "sigmoid", "softmax"] = Constrained("none", description="What makes scores of the numbers.")
    background: Literal["none", "first", "last"] = Constrained(
        "none", description="Which of the classes means that there is nothing."
    )
    first_class: Literal[0, 1] = Constrained(0, description="The number of the first class.")
    suppression: Literal["ours", "inside"] = Constrained(
        "ours",
        description="Whether overlapping boxes of one thing are still to be thinned out, or the model does that.",
    )
    overlap: Score = Constrained(
        0.5, description="Of two boxes of a class that share more than this of their area the likelier one is kept."
    )

    @model_validator(mode="after")
    def _says_where_scores_are(self) -> "BoxReading":
        if not self.scores and self.score_at is None and self.classes_from is None:
            raise ValueError("must say where scores are: `scores`, `score_at` or `classes_from`")
        return self


class BoxLabel(BaseModel):
    """What a kind of box is called: its name from the model, and how a visitor reads it."""

    model_config = ConfigDict(extra="forbid")

    name: str
    label: Words = Constrained(description='One of them: "crack".')
    label_many: Words = Constrained("", description='Several: "cracks". Guessed from one if left empty.')
    tone: Literal["", "calm", "caution", "alert"] = Constrained(
        "", description="Whether finding one is good news or bad, if it is either."
    )


class BoxesSetting(BaseModel):
    """The answer is boxes around what the model finds in a picture."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["boxes"] = "boxes"
    labels: Annotated[list[BoxLabel], Constrained(min_length=1)]
    noun: Words = Constrained("things", description='What is found, in the plural: "flaws".')
    noun_one: Words = Constrained("", description='One of them: "flaw". Guessed from the plural if left empty.')
    least_score: Score = Constrained(0.3, description="Boxes with a lower score are not shown at first.")
    reading: BoxReading


class FoundBox(BaseModel):
    """One thing that was found. Places are pixels of the picture as it was given, from its upper left corner."""

    label: str
    name: str = Constrained(description="The class by its name in the model.")
    score: Annotated[float, Constrained(ge=0, le=1)]
    of_100: Annotated[int, Constrained(ge=0, le=100)]
    x: float
    y: float
    width: float
    height: float


class BoxesAnswer(BaseModel):
    """What was found in a picture, best score first. A picture that a phone took on its side counts as it is shown."""

    kind: Literal["boxes"] = "boxes"
    boxes: list[FoundBox]
    width: int
    height: int
    least_score: float = Constrained(description="The lowest score that was asked for.")


class PictureReading(BaseModel):
    """How a model's output is read as a picture."""

    model_config = ConfigDict(extra="forbid")

    output: OutputName
    layout: Literal["channels first", "channels last", "grey"] = Constrained(
        "channels first",
        description="Where the channels stand; `grey` where one number a pixel has no axis for them.",
    )
    scale: Literal["0..255", "0..1", "-1..1"] = Constrained("0..1", description="What black and white are.")
    order: Literal["rgb", "bgr"] = "rgb"


class PictureSetting(BaseModel):
    """The answer is a picture, made of the one that was given."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["picture"] = "picture"
    name: Words = Constrained("after", description='What the answer shows: "fired". It stands over the picture.')
    before: Words = Constrained("before", description='What the picture shows that was given: "raw".')
    reading: PictureReading


class ViewPart(BaseModel):
    """Which part of the picture, as it was cut out and turned, an answer is about: in shares of its sides."""

    left: float = 0.0
    top: float = 0.0
    width: float = 1.0
    height: float = 1.0


class PictureAnswer(BaseModel):
    """A picture made of the one that was given, cut out and turned as that was, in the format it came in."""

    kind: Literal["picture"] = "picture"
    type: str = Constrained(description="Its media type.")
    data: str = Constrained(description="The file in base64.")
    width: int
    height: int
    part: ViewPart = ViewPart()
    is_full: bool = Constrained(description="Whether it has as many pixels as what was given.")


class MaskReading(BaseModel):
    """How a model's output is read as a class for each pixel."""

    model_config = ConfigDict(extra="forbid")

    output: OutputName
    layout: Literal["scores first", "scores last", "numbers"] = Constrained(
        "scores first",
        description="A score for each class, in front of height and width or behind them, or the class's number.",
    )
    threshold: Score = Constrained(
        0.5, description="Of a model with one score a pixel: from here on a pixel is of the second class."
    )
    link: Literal["none", "sigmoid"] = Constrained("none", description="What makes a share of that score.")


class MaskSetting(BaseModel):
    """The answer is a class for each pixel of the picture."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["mask"] = "mask"
    labels: Annotated[list[BoxLabel], Constrained(min_length=1, max_length=MOST_KINDS)]
    nothing: Words = Constrained("", description="The class that means nothing in particular, by its name.")
    reading: MaskReading

    @model_validator(mode="after")
    def _has_what_is_nothing(self) -> "MaskSetting":
        if self.nothing and self.nothing not in [label.name for label in self.labels]:
            raise ValueError("`nothing` must name one of the classes, or be empty")
        return self


class MaskedKind(BaseModel):
    """One class of a mask, and how much of the picture it has."""

    label: str
    name: str = Constrained(description="The class by its name in the model.")
    place: int = Constrained(description="The value its pixels have in the mask.")
    share: Annotated[float, Constrained(ge=0, le=1)]
    of_100: Annotated[int, Constrained(ge=0, le=100)] = Constrained(
        description="Its share of 100 marks; the marks of all classes add up to 100."
    )


class MaskAnswer(BaseModel):
    """A class for each pixel, the largest first. `data` is a grey PNG in base64; its values are the classes' places."""

    kind: Literal["mask"] = "mask"
    kinds: list[MaskedKind]
    type: str = "image/png"
    data: str
    width: int
    height: int
    part: ViewPart = ViewPart()
