"""The kinds of answer, and what a demo says about its answer.

A *setting* is the author's side (what the classes are called, the unit); an *answer* is one case's.
"""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, model_validator
from pydantic import Field as Constrained

from .in_picture import BoxesAnswer, BoxesSetting, MaskAnswer, MaskSetting, PictureAnswer, PictureSetting
from .written import TableAnswer, TableSetting, TextAnswer, TextSetting

__all__ = [
    "AnyAnswer",
    "AnyAnswerSetting",
    "Band",
    "ClassAnswer",
    "ClassSetting",
    "ClassWording",
    "LabelWording",
    "LabelsAnswer",
    "LabelsSetting",
    "NumberAnswer",
    "NumberSetting",
    "NumbersAnswer",
    "NumbersSetting",
]

Words = Annotated[str, Constrained(max_length=200)]
Unit = Annotated[str, Constrained(max_length=40)]
Tone = Literal["", "calm", "caution", "alert"]
Share = Annotated[float, Constrained(gt=0, lt=1, multiple_of=0.01)]
Cost = Annotated[float, Constrained(ge=0, allow_inf_nan=False)]
# Whole percents; evidence is kept for each of them.
Coverage = Annotated[float, Constrained(ge=0.5, le=0.99, multiple_of=0.01)]


class _Setting(BaseModel):
    model_config = ConfigDict(extra="forbid")


class ClassWording(_Setting):
    """One class: its name from the model, and how a visitor reads it."""

    name: str
    label: Words = Constrained(description='Under the marks: "crack", as in "72 crack".')
    label_one: Words = Constrained("", description='The same of one: "cracks". Guessed from the label if left empty.')
    headline: Words = Constrained(description='Above the answer when this class is the likeliest: "Likely to crack".')
    tone: Tone = Constrained("", description="Whether this class is good news or bad, if it is either.")


class ClassSetting(_Setting):
    """The answer is one of several classes."""

    kind: Literal["class"] = "class"
    classes: Annotated[list[ClassWording], Constrained(min_length=1)]
    noun: Words = Constrained("cases", description='What is counted, in the plural: "pieces".')
    noun_one: Words = Constrained("", description='One of them: "piece". Guessed from the plural if left empty.')
    gives_probabilities: bool = True
    coverage: Coverage = Constrained(
        0.9, description="How often the classes that are still possible hold the true one."
    )
    threshold: Share | None = Constrained(
        None, description="Of two classes: from this probability on `threshold_of` is said; None for the likelier one."
    )
    threshold_of: str = Constrained("", description="The class that the threshold is about, by its name.")
    cost_of_miss: Cost | None = Constrained(
        None, description="What it costs not to say `threshold_of` where it is so; it only helps to find a threshold."
    )
    cost_of_false_alarm: Cost | None = Constrained(None, description="What it costs to say it where it is not.")

    @model_validator(mode="after")
    def _has_a_threshold_of_its_own(self) -> "ClassSetting":
        if self.threshold is None:
            return self
        names = [wording.name for wording in self.classes]
        if len(names) != 2 or not self.gives_probabilities:
            raise ValueError("a threshold is for two classes with probabilities")
        if self.threshold_of not in names:
            raise ValueError(f"`threshold_of` must name the class it is about: {' or '.join(names)}")
        return self


class Band(_Setting):
    """A stretch of numbers with a name: "low use"."""

    label: Annotated[str, Constrained(min_length=1, max_length=200)]
    below: Annotated[float, Constrained(allow_inf_nan=False)] | None = Constrained(
        None, description="Numbers below this, from where the band before ends; None for all that are left."
    )
    tone: Tone = Constrained("", description="Whether it is good news or bad, if it is either.")


class NumberSetting(_Setting):
    """The answer is one number."""

    kind: Literal["number"] = "number"
    name: Words = "Answer"
    unit: Unit = ""
    decimals: Annotated[int, Constrained(ge=0, le=10)] = 2
    low: float | None = Constrained(None, description="The lowest outcome in the reference table.")
    high: float | None = Constrained(None, description="The highest outcome in the reference table.")
    counts: list[int] = Constrained([], description="Outcomes in equally wide bins from `low` to `high`.")
    better: Literal["", "low", "high"] = Constrained("", description="Which way is good news, if either is.")
    coverage: Coverage = Constrained(0.9, description="How often the interval around the answer holds the outcome.")
    bands: Annotated[list[Band], Constrained(max_length=8)] = Constrained(
        [], description="Named stretches, the lowest first; the last has no end."
    )

    @model_validator(mode="after")
    def _has_bands_in_order(self) -> "NumberSetting":
        ends = [band.below for band in self.bands]
        known = [end for end in ends if end is not None]
        if ends and (ends[-1] is not None or len(known) != len(ends) - 1 or known != sorted(set(known))):
            raise ValueError("`bands` go from the lowest up, each with `below` but for the last")
        return self


class NumbersSetting(_Setting):
    """The answer is several numbers."""

    kind: Literal["numbers"] = "numbers"
    values: Annotated[list[NumberSetting], Constrained(min_length=1)]


class LabelWording(ClassWording):
    """One label: how a visitor reads it, and from where on it applies."""

    threshold: Share = Constrained(0.5, description="From this probability on the page says that the label applies.")


class LabelsSetting(_Setting):
    """The answer is several labels, each of which may apply."""

    kind: Literal["labels"] = "labels"
    labels: Annotated[list[LabelWording], Constrained(min_length=1)]
    gives_probabilities: bool = True


AnyAnswerSetting = Annotated[
    ClassSetting
    | NumberSetting
    | NumbersSetting
    | LabelsSetting
    | BoxesSetting
    | PictureSetting
    | MaskSetting
    | TextSetting
    | TableSetting,
    Constrained(discriminator="kind"),
]


class ClassProbability(BaseModel):
    """How likely one class is."""

    class_: Annotated[str, Constrained(alias="class")]
    probability: Annotated[float, Constrained(ge=0, le=1)]
    of_100: Annotated[int, Constrained(ge=0, le=100)] = Constrained(
        description="Its share of 100 marks; the marks of all classes add up to 100."
    )
    label: str

    model_config = ConfigDict(validate_by_name=True)


class PossibleClasses(BaseModel):
    """The classes that known cases do not rule out, likeliest first, each with the word for its probability.

    `likely` is half or more, `possible` a tenth or more; what is less cannot be ruled out all the same.
    """

    classes: list[str]
    words: list[Literal["likely", "possible", "not ruled out"]] = []
    coverage: float = Constrained(description="How often such a set holds the true class.")


class ClassAnswer(BaseModel):
    """A class with probabilities, likeliest first (none where the model gives none)."""

    kind: Literal["class"] = "class"
    class_: Annotated[str, Constrained(alias="class")]
    probabilities: list[ClassProbability]
    headline: str
    possible: PossibleClasses | None = Constrained(None, description="None without enough known cases.")
    calibrated: bool = Constrained(
        False, description="Whether known cases bear out the said class's probability: so many do turn out so."
    )
    unlike: bool = Constrained(
        False, description="Whether the case is unlike anything seen: nothing is then said of what is still possible."
    )

    model_config = ConfigDict(validate_by_name=True)


class Interval(BaseModel):
    """Where the outcome lies as often as `coverage` says."""

    low: float
    high: float
    coverage: float
    text: str = Constrained(description='How far it may be off, rounded for reading: "34" for plus or minus 34.')


class NumberAnswer(BaseModel):
    """A number; `text` is the same rounded for reading."""

    kind: Literal["number"] = "number"
    value: float
    unit: str
    text: str
    interval: Interval | None = Constrained(None, description="None without enough known cases.")
    band: Band | None = Constrained(None, description="The named stretch it lies in, where there are some.")


class NamedNumber(BaseModel):
    """One of several numbers."""

    name: str
    value: float
    unit: str
    text: str
    interval: Interval | None = Constrained(None, description="None without enough known cases.")


class NumbersAnswer(BaseModel):
    """Several numbers."""

    kind: Literal["numbers"] = "numbers"
    values: list[NamedNumber]


class LabelProbability(BaseModel):
    """How likely one label applies, and whether it is taken to."""

    label: str
    name: str = Constrained(description="The label by its name in the model, as `of` takes it.")
    probability: Annotated[float, Constrained(ge=0, le=1)]
    of_100: Annotated[int, Constrained(ge=0, le=100)]
    applies: bool = Constrained(description="Whether the probability reaches the label's threshold.")
    calibrated: bool = Constrained(False, description="Whether known cases bear out this probability.")


class LabelsAnswer(BaseModel):
    """Several labels at once, likeliest first."""

    kind: Literal["labels"] = "labels"
    labels: list[LabelProbability]


AnyAnswer = Annotated[
    ClassAnswer
    | NumberAnswer
    | NumbersAnswer
    | LabelsAnswer
    | BoxesAnswer
    | PictureAnswer
    | MaskAnswer
    | TextAnswer
    | TableAnswer,
    Constrained(discriminator="kind"),
]
