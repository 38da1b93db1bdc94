"""What is found in a model file, and in a model with its table. Needs no machine learning library."""

from typing import Any, Literal

from pydantic import BaseModel

from ..answers import AnyAnswerSetting
from ..answers.in_picture import BoxReading
from ..fields import AnyField
from ..fields.calendars import Calendar
from ..fields.columns import Column
from ..pictures.settings import Preparation
from ..trust.evidence import Evidence
from .compilation import CompiledReport

__all__ = [
    "SEEN_APART",
    "BoxFindings",
    "Found",
    "GraphReading",
    "Inspection",
    "LikenessFound",
    "PictureFindings",
    "PreparationTry",
    "Question",
    "ReadingTry",
    "Told",
]

# So far apart, on average, logarithms of probabilities are where those are seen to be others.
SEEN_APART = 0.01


class Found(BaseModel):
    """What was found in a model file."""

    format: str
    library: str
    saved_with: str | None
    running: str
    steps: list[str]
    task: Literal["class", "number", "numbers", "labels", "boxes", "picture", "mask", "text", "table"]
    features: list[str] | None
    n_features: int | None
    classes: list[str] | None
    gives_probabilities: bool
    warnings: list[str]
    # Whether the task was concluded from what comes out, rather than said by the model.
    task_is_guessed: bool = False
    # What several numbers are called, where the model says so.
    output_names: list[str] | None = None


class GraphReading(BaseModel):
    """How an ONNX graph that takes one picture is asked, and how a row of outputs is read from what it gives.

    Attributes
    ----------
    input : str
    element : str
        What the input's numbers are.
    shape : list of int or None
        Of the input; None for a side that is left open.
    at_once : int
        How many pictures it is asked about together at the most.
    outputs : list of str
        The output that is read; several where each gives one number.
    link : str
        What is done to the numbers: nothing, or what makes probabilities of scores.
    completes : bool
        Whether one number is the probability of the second of two classes.
    """

    input: str
    element: Literal["float32", "float64", "uint8", "int8", "int32"]
    shape: list[int | None]
    at_once: int
    outputs: list[str]
    link: Literal["none", "softmax", "sigmoid"]
    completes: bool


class PreparationTry(BaseModel):
    """One way to prepare pictures that was tried, and how many of the known ones the model then got right.

    Attributes
    ----------
    words : str
    preparation : Preparation
    n_right, n_tried : int
    log_loss : float or None
        The mean of the negative logarithm of what the right class was given; None in what was kept before.
    is_as_likely : bool
        Whether known pictures do not tell it from the first of those that were tried, though it says other things: as
        many right, and probabilities that fit as well, but for chance.
    """

    words: str
    preparation: Preparation
    n_right: int
    n_tried: int
    log_loss: float | None = None
    is_as_likely: bool = False


class PictureFindings(BaseModel):
    """What known pictures told: the preparations that were tried, best first, and how many of all are right."""

    tries: list[PreparationTry] = []
    n_known: int = 0
    n_right: int = 0

    @property
    def notes(self) -> list[str]:
        """What the author should check."""
        if not self.tries:
            return []
        best, *others = self.tries
        return [
            f"How pictures are prepared was tried on {best.n_tried} known pictures: {best.words} gets {best.n_right} "
            f"of them right.{_also(best, others)} Check it."
        ]


def _listed(some: list[str]) -> str:
    return " or ".join([", ".join(some[:-1]), some[-1]] if len(some) > 1 else some)


def _also(best: PreparationTry, others: list[PreparationTry]) -> str:
    """Which others come near, and why they were not taken."""
    as_likely = [f"“{one.words}” ({one.n_right})" for one in others if one.is_as_likely]
    if as_likely:
        return f" Going by them it could as well be {_listed(as_likely[:3])}."
    as_many = [one for one in others if one.n_right >= best.n_right]
    alike = [one.words for one in as_many if (one.log_loss or 0.0) - (best.log_loss or 0.0) < SEEN_APART]
    if alike:
        return f" So does: {'; '.join(alike[:2])}."
    worse = [f"“{one.words}” ({one.n_right})" for one in as_many]
    return f" As many with {_listed(worse[:3])}, but its probabilities fit worse then." if worse else ""


class ReadingTry(BaseModel):
    """One way to read a model's outputs as boxes that was tried.

    `agreement` is how much the boxes share with those of the mirrored picture, mirrored back (None for a model that
    does not answer to pictures); `inside` how much of the boxes lies inside the picture; both from 0 to 1.
    """

    words: str
    reading: BoxReading
    agreement: float | None
    inside: float
    n_boxes: int


class BoxFindings(BaseModel):
    """How boxes may be read: the readings that were tried, best first, on how many pictures, and the outputs there are.

    Of each output its axes; None for one that the file leaves open.
    """

    tries: list[ReadingTry] = []
    n_pictures: int = 0
    are_authors: bool = False
    outputs: dict[str, list[int | None]] = {}


class Question(BaseModel):
    """Something that was concluded and that publishing asks about, until known cases or the author have confirmed it.

    `name` is the check it belongs to, `way_on` what its author can do, `note` the note that says the same in short
    where it is not `text`. `rows` are cases with what the model says of them, to compare with a notebook.
    """

    name: Literal["features", "class-order", "preparation", "reading"]
    text: str
    way_on: str = ""
    note: str = ""
    rows: list[dict[str, Any]] = []
    outputs: list[list[float]] = []


class LikenessFound(BaseModel):
    """How cases unlike the known ones are told, and how often that would be a false alarm, counted on known ones."""

    field: str
    by: Literal["description of the picture", "letters of the text"]
    n_known: int
    false_alarms: float


class Told(BaseModel):
    """What the author said when the model was brought, rather than left to be concluded."""

    target: str | None = None
    answer_kind: Literal["class", "number", "numbers", "labels", "picture", "mask", "text", "table"] | None = None
    preparations: dict[str, Preparation] = {}
    numbers: Literal["point", "comma"] | None = None
    dates: Calendar | None = None
    function_name: str | None = None
    # The column of the known cases that says what each is a case of, where several are of one thing.
    known_group: str | None = None


class Inspection(BaseModel):
    """What a model and its reference table amount to."""

    found: Found
    compiled: CompiledReport
    target: str | None
    columns: list[Column]
    ignored: list[str]
    fields: list[AnyField]
    answer: AnyAnswerSetting
    # What the author should check, because it was concluded.
    notes: list[str] = []
    # Of that, what must be confirmed before publishing.
    questions: list[Question] = []
    # The outcome's column for each of several outputs, in their order.
    targets: list[str] = []
    # Columns that could be the outcome, where the author has to say which.
    candidates: list[str] = []
    # The page's class names by the words that the outcome's column has for them.
    outcome_words: dict[str, str] = {}
    n_reference_rows: int
    warm_up_row: dict[str, Any]
    # How far the answer moves on average when a field takes other reference values, largest first; 0 if it never does.
    strength: dict[str, float] = {}
    # Fields the model makes no use of.
    unused: list[str] = []
    # The model's average outputs over the first reference rows, from which contributions are counted, and how many.
    usual: list[float] = []
    usual_rows: int = 0
    # What known cases say, where there are any.
    evidence: Evidence | None = None
    # Columns of the known cases that could say what each is a case of; those that the model is not told come first.
    known_groups: list[str] = []
    # For a model that looks at pictures: the model's input by field, and what known pictures told.
    picture_inputs: dict[str, str] = {}
    pictures: PictureFindings = PictureFindings()
    # How its graph is asked by whoever has the file alone; None where that is not possible, or was not told yet.
    graph: GraphReading | None = None
    # For a model that finds things in a picture: how its outputs may be read.
    boxes: BoxFindings | None = None
    # How pictures and texts unlike the known ones are told, where there are enough of those.
    likeness: list[LikenessFound] = []
    # What a function says of itself.
    title: str = ""
    description: str = ""
    told: Told = Told()
