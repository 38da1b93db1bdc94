"""What a runner answers to a call. Every reply has a tag, so that a decoder takes only those that were asked for."""

from array import array
from typing import Literal

import msgspec

from .values import Value

__all__ = [
    "AmongReply",
    "BoxFound",
    "BoxesReply",
    "ChangesFound",
    "CurveFound",
    "ExplainReply",
    "ExplanationFound",
    "FamiliarityFound",
    "Missing",
    "Numbers",
    "OverallReply",
    "PictureReply",
    "PredictReply",
    "Raised",
    "Reason",
    "Refused",
    "RegionFound",
    "RegionsReply",
    "SimilarFound",
    "WayFound",
    "WordFound",
    "WordsFound",
    "WrittenReply",
]

# Why there is nothing of what was asked for; the web tier has the sentences.
Reason = Literal[
    "no-reference-rows",
    "reference-not-answered",
    "reference-without-numbers",
    "mixtures-not-answered",
    "too-slow",
    "no-picture",
    "not-for-pictures",
    "no-score",
]


class _Part(msgspec.Struct, forbid_unknown_fields=True):
    """Part of a reply."""


class _Reply(msgspec.Struct, forbid_unknown_fields=True, tag_field="reply"):
    """A whole reply."""


class Refused(_Reply, tag="refused"):
    """A visitor's values cannot be used: field and sentence of each fault."""

    faults: list[tuple[str | None, str]]


class Raised(_Reply, tag="raised"):
    """The model raised; `traceback` is for its author."""

    message: str
    traceback: str


class Missing(_Reply, tag="missing"):
    """There is nothing of what was asked for, and why."""

    reason: Reason


class Numbers(_Part):
    """A table of 64-bit numbers, row by row."""

    n_rows: int
    n_columns: int
    data: bytes

    def rows(self) -> list[list[float]]:
        """The table of shape (n_rows, n_columns) as lists."""
        values = array("d", self.data).tolist()
        return [values[at : at + self.n_columns] for at in range(0, len(values), self.n_columns)]


class PredictReply(_Reply, tag="predicted"):
    """Outputs of shape (n_rows, n_outputs), and how long the model took for the batch they came in.

    `unlike` says of each row whether it is unlike anything seen; it is empty where nothing hangs on that.
    """

    outputs: Numbers
    predict_ms: float
    unlike: list[bool] = []


class ExplanationFound(_Part):
    """Contributions by field, which add up to the output less the baseline."""

    method: str
    baseline: float
    contributions: dict[str, float]
    errors: dict[str, float]
    n_background: int


class CurveFound(_Part):
    """One field's response curve; `y[i]` belongs to `x[i]`."""

    shape: Literal["steps", "line", "options"]
    x: list[Value]
    y: list[float]
    thinned: bool = False
    unknown: float | None = None


class WordFound(_Part):
    """What one word of a text did; `places` are start and end of each occurrence, in characters."""

    word: str
    places: list[tuple[int, int]]
    contribution: float
    error: float
    left_out: float


class WordsFound(_Part):
    """What the words of one field did."""

    method: str
    baseline: float
    words: list[WordFound]


class FamiliarityFound(_Part):
    """How like the reference rows a case is."""

    distance: float
    share_as_far: float
    is_unlike: bool


class SimilarFound(_Part):
    """A reference row like the case, and the model's outputs for it."""

    values: dict[str, Value]
    outcome: Value
    outputs: list[float]
    distance: float


class WayFound(_Part):
    """Values that together bring another answer."""

    values: dict[str, Value]
    outputs: list[float]


class ChangesFound(_Part):
    """Ways to another answer."""

    ways: list[WayFound]
    is_complete: bool
    reach: float | None
    is_there: bool


class RegionFound(_Part):
    """A part of a picture, by its place in words."""

    words: str
    contribution: float
    error: float | None


class RegionsReply(_Reply, tag="regions"):
    """Where the model looked, as far as that is known."""

    parts: Literal["patches", "strokes"]
    of: int
    method: Literal["sketch", "sampled", "exact-enumeration"]
    whole: float
    covered: float
    n_rows: int
    n_columns: int
    contributions: list[float]
    errors: list[float | None]
    regions: list[RegionFound]
    n_asked: int
    is_done: bool


class ExplainReply(_Reply, tag="explained"):
    """One row's outputs, and what was asked for beside them. `missing` says why there is no more."""

    outputs: list[float]
    of: int
    predict_ms: float
    explain_ms: float
    missing: Reason | None = None
    explanation: ExplanationFound | None = None
    words: dict[str, WordsFound] = {}
    curves: dict[str, CurveFound] | None = None
    familiarity: FamiliarityFound | None = None
    similar: list[SimilarFound] | None = None
    changes: ChangesFound | None = None
    seen: dict[str, bytes] | None = None
    notes: list[tuple[str, str]] = []


class BoxFound(_Part):
    """One thing in a picture: the place of its class among the names, its score, and where it lies in pixels."""

    class_: int
    score: float
    x: float
    y: float
    width: float
    height: float


class BoxesReply(_Reply, tag="boxes"):
    """What was found in a picture, best score first, and the size of the picture as it was given.

    Left out were: `n_without` boxes that are no numbers, `n_outside` that lie outside the picture, and, where `is_cut`,
    those behind the best that an answer may hold.
    """

    boxes: list[BoxFound]
    width: int
    height: int
    predict_ms: float
    read_ms: float
    n_without: int = 0
    n_outside: int = 0
    is_cut: bool = False
    notes: list[tuple[str, str]] = []
    seen: dict[str, bytes] | None = None


class PictureReply(_Reply, tag="picture"):
    """A picture as a file, with what it was made of.

    `part` has left, top, width and height of what it is about, in shares of the picture as it was cut out and turned.
    """

    content: bytes
    type: str
    width: int
    height: int
    part: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)
    is_full: bool = True
    # Of a mask: the share of each class.
    shares: list[float] = []
    predict_ms: float = 0.0
    read_ms: float = 0.0
    notes: list[tuple[str, str]] = []
    seen: dict[str, bytes] | None = None


class PartFound(_Part):
    """A stretch of a field's values, or an option: middle contribution, and a quarter below and above."""

    words: Literal["low", "middle", "high", "option"]
    low: Value
    high: Value
    n_rows: int
    spread: tuple[float, float, float]


class FieldFound(_Part):
    """What one field does overall."""

    field: str
    importance: tuple[float, float, float]
    shuffled: tuple[float, float, float] | None
    parts: list[PartFound]
    x: list[Value]
    y: list[tuple[float, float, float]]


class WrittenReply(_Reply, tag="written"):
    """A text, or a table: the names of its columns, and its rows."""

    text: str | None = None
    columns: list[str] = []
    rows: list[list[Value]] = []
    is_cut: bool = False
    predict_ms: float = 0.0
    notes: list[tuple[str, str]] = []
    seen: dict[str, bytes] | None = None


class OverallReply(_Reply, tag="overall"):
    """What matters overall, as far as it is known."""

    fields: list[FieldFound]
    n_rows: int
    n_known: int
    share_done: float


class AmongReply(_Reply, tag="among"):
    """Reference rows: their values of a field, the model's output, and what happened."""

    x: list[Value]
    y: list[float]
    outcomes: list[Value] | None
