"""Why an answer is what it is."""

from typing import Any, Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

from ...core.answers import AnyAnswer

__all__ = [
    "AmongAnswer",
    "ChangesAnswer",
    "ContributionAnswer",
    "CurveAnswer",
    "ExplanationAnswer",
    "Familiarity",
    "OverallAnswer",
    "OverallField",
    "OverallPart",
    "Region",
    "SimilarCase",
    "ValueChange",
    "Way",
    "WhereAnswer",
    "WordAnswer",
    "WordsAnswer",
]


class ContributionAnswer(BaseModel):
    """What one field adds to the answer, or takes off it."""

    field: str
    value: Any
    contribution: float
    error: float | None = Constrained(None, description="Standard error, where it was sampled.")


class WordAnswer(BaseModel):
    """What one word of a text did."""

    word: str
    places: list[list[int]] = Constrained(description="Start and end of each occurrence, in characters.")
    contribution: float
    error: float = Constrained(description="Standard error; 0 where it is exact.")
    left_out: float = Constrained(description="By how much the answer falls when this word alone is left out.")


class WordsAnswer(BaseModel):
    """What the words of one field did; contributions add up from the answer to no words to the answer."""

    field: str
    method: str
    baseline: float = Constrained(description="The answer to no words at all.")
    words: list[WordAnswer] = Constrained(description="The strongest first.")


class ExplanationAnswer(BaseModel):
    """What brought the answer from the baseline to where it is; contributions add up to the difference."""

    of: str = Constrained(description="The class, or the number, that is explained.")
    unit: str
    baseline: float = Constrained(description="The average answer over the reference sample.")
    method: str
    contributions: list[ContributionAnswer] = Constrained(description="The largest first.")
    error: float = Constrained(description="The largest standard error; 0 where the method is exact.")
    n_background: int
    words: list[WordsAnswer] = Constrained(default=[], description="For fields of text, what their words did.")


class CurveAnswer(BaseModel):
    """How the answer would move if only this field moved."""

    field: str
    of: str
    shape: Literal["steps", "line", "options"]
    x: list[Any]
    y: list[float]
    thinned: bool = Constrained(False, description="Jumps too close for a small chart were left out.")
    unknown: float | None = Constrained(None, description="For a number that may be unknown, the answer if it is.")


class Familiarity(BaseModel):
    """How like the reference rows a case is."""

    is_unlike: bool = Constrained(description="Whether the case is unlike anything seen.")
    distance: float = Constrained(description="From its nearest reference rows; about 1 is a usual difference.")
    share_as_far: float = Constrained(description="Of the reference rows, the share at least as far from theirs.")


class SimilarCase(BaseModel):
    """A reference row like the case."""

    inputs: dict[str, Any]
    outcome: str | float | None = Constrained(description="What happened, if the table says so.")
    outcome_text: str | None
    answer: AnyAnswer = Constrained(description="What the model says of it.")
    distance: float


class ValueChange(BaseModel):
    """One field that changes."""

    field: str
    before: Any
    after: Any


class Way(BaseModel):
    """Changes that together bring another answer, and that answer."""

    changes: list[ValueChange]
    answer: AnyAnswer


class ChangesAnswer(BaseModel):
    """The smallest believable changes that bring another class, or reach a number; different ones, smallest first."""

    ways: list[Way]
    reach: float | None = Constrained(description="The number to be reached; the usual answer if none was given.")
    is_complete: bool = Constrained(
        description="False if the time did not allow for all that is usually tried; there may be smaller ones then."
    )
    is_there: bool = Constrained(description="Whether the answer is already what was wanted.")


class OverallPart(BaseModel):
    """A stretch of a field's values, or an option, and the contributions of the reference rows that have it."""

    words: Literal["low", "middle", "high", "option"]
    low: Any
    high: Any
    n_rows: int
    spread: list[float] = Constrained(description="Middle contribution, and a quarter below and above.")


class OverallField(BaseModel):
    """What one field does overall."""

    field: str
    importance: list[float] = Constrained(description="Mean absolute contribution, and its 95 % interval.")
    shuffled: list[float] | None = Constrained(
        description="By how much the error on known cases rises when the field is shuffled, and its 95 % interval."
    )
    parts: list[OverallPart]
    x: list[Any]
    y: list[list[float]] = Constrained(description="Average answer at each x, and the middle half of the cases.")


class OverallAnswer(BaseModel):
    """What matters overall; ask again while `share_done` is below 1."""

    of: str
    unit: str
    fields: list[OverallField] = Constrained(description="The most important first.")
    n_rows: int
    n_known: int
    share_done: float


class AmongAnswer(BaseModel):
    """Reference rows by one field and the model's answer."""

    field: str
    of: str
    x: list[Any]
    y: list[float]
    outcomes: list[str | float | None] | None


class Region(BaseModel):
    """A ninth of a picture, by its place in words."""

    words: str
    contribution: float
    error: float | None = Constrained(description="Standard error; null while it is only a sketch.")


class WhereAnswer(BaseModel):
    """Where the model looked: what each patch of a picture, or each stroke of a drawing, adds to the answer.

    Contributions run row by row and add up to `whole` − `covered`. Ask on until `is_done`: they get sharper.
    """

    field: str
    of: str
    unit: str
    parts: Literal["patches", "strokes"]
    method: Literal["sketch", "sampled", "exact-enumeration"]
    whole: float = Constrained(description="The answer to the picture as it is.")
    covered: float = Constrained(description="The answer with all of it covered, or nothing drawn.")
    n_rows: int
    n_columns: int
    contributions: list[float]
    errors: list[float | None] = Constrained(description="Standard errors; null while it is only a sketch.")
    regions: list[Region] = Constrained(description="Ninths of a picture, the largest contribution first.")
    n_asked: int = Constrained(description="How many pictures with covered parts the model was asked about.")
    is_done: bool
