"""What goes over the API, as types. They validate; the description is made from them."""

import datetime as dt
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict
from pydantic import Field as Constrained

from ..core.answers import AnyAnswer, AnyAnswerSetting
from ..core.contract.compilation import CompiledReport
from ..core.contract.inspection import Found, LikenessFound, PictureFindings, Question
from ..core.documents import DemoChanges, DemoDocument, PageParts, Sample
from ..core.documents.replacing import Differences
from ..core.fields import AnyField, Note
from ..core.trust.evidence import Evidence

__all__ = [
    "AccessChange",
    "AccessState",
    "AmongAnswer",
    "ChangesAnswer",
    "DemoState",
    "FieldProblem",
    "Health",
    "Key",
    "Keys",
    "NewDemo",
    "NewKey",
    "NewPassword",
    "OverallAnswer",
    "Page",
    "Passcode",
    "PredictionAnswer",
    "PredictionRequest",
    "Problem",
    "Readiness",
    "ReleaseState",
    "SessionState",
    "Shelf",
    "ShelfEntry",
    "SignIn",
    "SignInToken",
]

# Times are stored in UTC without a zone; what goes out carries it.
UtcTime = Annotated[
    dt.datetime, AfterValidator(lambda time: time.replace(tzinfo=dt.UTC) if time.tzinfo is None else time)
]
AccessWord = Literal["private", "link", "passcode", "everyone"]


class _Body(BaseModel):
    model_config = ConfigDict(extra="forbid")


class FieldProblem(BaseModel):
    """One fault in what was sent."""

    field: str | None
    message: str


class Problem(BaseModel):
    """RFC 9457 problem details."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] | None = None
    traceback: str | None = Constrained(None, description="What the library reported; for the demo's author only.")


class Health(BaseModel):
    """The process is alive."""

    status: Literal["alive"] = "alive"


class Readiness(BaseModel):
    """Whether the server can answer visitors."""

    status: Literal["ready", "starting"]
    database: bool
    keeper: bool
    runners: dict[str, int] = Constrained(description="How many runners are in each state.")
    confinement: str = Constrained(description='"works", or why runners cannot be confined.')
    probes: dict[str, str] = Constrained(
        description='What was tried inside the walls when the server started: "contained", or what was possible.'
    )
    missing: list[str] = Constrained(description="Walls that this machine does not give, though the others stand.")


class SessionState(BaseModel):
    """Who is signed in."""

    author: str | None
    has_password: bool
    asks_old_password: bool = Constrained(
        description="Whether a new password needs the old one; a session that a one-time link has just begun does not."
    )
    csrf_token: str | None


class SignIn(_Body):
    """An author's name and password."""

    name: Annotated[str, Constrained(max_length=120)]
    password: Annotated[str, Constrained(max_length=1000)]


class NewPassword(_Body):
    """A new password; the old one too, if there is one."""

    password: Annotated[str, Constrained(min_length=10, max_length=1000)]
    old_password: Annotated[str, Constrained(max_length=1000)] | None = None


class SignInToken(_Body):
    """The token of a one-time link."""

    token: Annotated[str, Constrained(max_length=200)]


class NewKey(_Body):
    """A key to be made."""

    name: Annotated[str, Constrained(min_length=1, max_length=120, description="What it is for.")]


class Key(BaseModel):
    """A key for programs."""

    id: int
    name: str
    created: UtcTime
    used: UtcTime | None = Constrained(description="When it was last used, to within ten minutes.")
    key: str | None = Constrained(None, description="The key itself: told once, when it is made.")


class Keys(BaseModel):
    """An author's keys."""

    keys: list[Key]


class ShelfEntry(BaseModel):
    """One demo on the shelf."""

    slug: str
    title: str
    purpose: str
    access: AccessWord
    release: int | None
    draft_differs: bool
    changed: UtcTime
    predictions: int = Constrained(description="Answers that visitors got.")
    last_prediction: UtcTime | None = Constrained(description="When a visitor last got one.")
    failures: int = Constrained(description="Calls of visitors that the model failed in the last seven days.")
    own_tries: int = Constrained(description="Answers that the author got.")
    health: Literal["ready", "starting", "failed", "failing", "asleep", "finished"] = Constrained(
        description="`failing`: the process is there, but the model failed each of the last calls."
    )
    trouble: str | None = Constrained(
        None, description="What its process was stopped for last, since the server began."
    )


class DeletedEntry(BaseModel):
    """A demo that was deleted and can be brought back."""

    slug: str
    title: str
    deleted: UtcTime


class Shelf(BaseModel):
    """An author's demos."""

    demos: list[ShelfEntry]
    deleted: list[DeletedEntry] = Constrained(description="The last deleted first.")


class ReleaseState(BaseModel):
    """A frozen, numbered state of a demo."""

    number: int
    created: UtcTime
    published_at: UtcTime
    note: str = ""
    despite: dict[str, str] = Constrained({}, description="The author's reason for each check that failed.")
    is_live: bool = True


class LogEntry(BaseModel):
    """One call of a demo."""

    id: int
    at: UtcTime
    release: int | None = Constrained(description="None for the draft.")
    outcome: str
    milliseconds: float
    by_author: bool
    inputs: dict[str, Any] | None = Constrained(description="None where they are not kept.")


class LogPage(BaseModel):
    """Some calls, the newest first."""

    total: int
    entries: list[LogEntry]
    called_right: int = Constrained(0, description="Answers that visitors said were right.")
    called_wrong: int = 0


class ReferenceRow(BaseModel):
    """One row of the reference table, as a visitor would enter it."""

    row: int
    inputs: dict[str, Any]
    outcome: Any = None


class ReferenceRows(BaseModel):
    """Some rows of the reference table."""

    total: int
    rows: list[ReferenceRow]


class NewRelease(_Body):
    """What is said of a release when it is published."""

    note: Annotated[str, Constrained(max_length=2000)] = ""
    despite: dict[
        Annotated[str, Constrained(max_length=60)], Annotated[str, Constrained(min_length=1, max_length=2000)]
    ] = Constrained({}, max_length=50, description="A reason for each check that asks something.")


class AccessChange(_Body):
    """Who may open the demo."""

    access: AccessWord
    passcode: Annotated[str, Constrained(min_length=6, max_length=200)] | None = Constrained(
        None, description="At least 6 characters; may be left out if there is one already."
    )
    link_days: Annotated[float, Constrained(gt=0, le=3650)] | None = Constrained(
        None, description="After how many days a new secret link stops working; never if left out."
    )
    new_link: bool = Constrained(False, description="Make a new secret link; the old one stops working.")


class AccessState(BaseModel):
    """Who may open the demo, and how."""

    access: AccessWord
    link: str | None = Constrained(None, description="The secret link's path, if that is the access.")
    link_expires: UtcTime | None = None


class Link(_Body):
    """A picture's web address."""

    link: Annotated[str, Constrained(max_length=2000)]


class Passcode(_Body):
    """A visitor's passcode."""

    passcode: Annotated[str, Constrained(max_length=200)]


class DemoState(DemoDocument):
    """A demo's draft with all about it that its author sees. The settings are the keys of `demo.toml`."""

    slug: str
    target: str | None
    access: AccessState
    release: ReleaseState | None
    draft_differs: bool
    found: Found
    compiled: CompiledReport
    ignored: list[str] = Constrained(description="Columns of the reference table that the model never asks for.")
    n_reference_rows: int
    notes: list[str] = Constrained(description="What the author should check, because it was concluded.")
    targets: list[str] = Constrained(description="The outcome's column for each of several answers.")
    candidates: list[str] = Constrained(
        description="Columns that could be the outcome, if the author has to say which."
    )
    questions: list[Question] = Constrained(description="What publishing asks about, until it is confirmed.")
    has_labels: bool
    has_reference: bool
    has_known_cases: bool
    evidence_is_stale: bool = Constrained(
        description="Whether known cases were measured with pictures prepared otherwise than they are now."
    )
    evidence: Evidence | None = Constrained(description="What known cases say of the model.")
    strength: dict[str, float] = Constrained(
        description="How far each field moves answers on average, strongest first; 0 for one that never did."
    )
    unused: list[str] = Constrained(description="Fields that the model makes no use of.")
    pictures: PictureFindings = Constrained(PictureFindings(), description="What known pictures told.")
    report: "Report | None" = Constrained(description="What known cases say of the model, as every page says it.")
    likeness: list[LikenessFound] = Constrained([], description="How cases unlike the known ones are told.")


_FilePart = Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})]
NumbersWritten = Literal["1,234.5", "1.234,5"]
AnswerKind = Literal["class", "labels", "number", "numbers"]


class DraftChange(DemoChanges):
    """What an author changes of a draft, and of the demo's address."""

    slug: Annotated[str, Constrained(min_length=1, max_length=200)] | None = None


class FolderPart(BaseModel):
    """The part that puts a folder in a draft's place."""

    folder: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/zip"})]


class NewDemo(BaseModel):
    """The parts of the multipart request that brings a model, or all of a demo as a `folder`."""

    model: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})] | None = None
    folder: (
        Annotated[
            str,
            Constrained(
                json_schema_extra={"contentMediaType": "application/zip"},
                description="A zip of a demo's folder, as `GET …/folder` gives it; then only `slug` may come along.",
            ),
        ]
        | None
    ) = None
    reference: (
        Annotated[
            str,
            Constrained(
                json_schema_extra={"contentMediaType": "application/octet-stream"},
                description="CSV or Parquet. Models of pictures and of text need none.",
            ),
        ]
        | None
    ) = None
    preprocessor: (
        Annotated[
            str,
            Constrained(
                json_schema_extra={"contentMediaType": "application/octet-stream"},
                description="A fitted transformer that the model's inputs go through first.",
            ),
        ]
        | None
    ) = None
    known: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})] | None = None
    labels: str | None = Constrained(
        None,
        description="Class names: one a line, in class order, or a CSV with the model's classes in one column.",
    )
    target: str | None = Constrained(
        None,
        description="The outcome's column, in the reference table or the known cases; several parted by commas.",
    )
    answer: AnswerKind | None = Constrained(None, description="The kind of answer, where it is not to be concluded.")
    numbers: NumbersWritten | None = Constrained(
        None, description="How the tables write numbers, if it cannot be told."
    )
    title: str | None = None
    slug: str | None = None


class NewParts(BaseModel):
    """What may replace what a demo was made of; a part that is sent empty is taken away."""

    model: _FilePart | None = None
    reference: _FilePart | None = None
    preprocessor: _FilePart | None = None
    known: _FilePart | None = None
    labels: str | None = None
    target: str | None = None
    answer: AnswerKind | None = None
    numbers: NumbersWritten | None = None
    title: str | None = None
    slug: str | None = None


class Replaced(BaseModel):
    """What differs, and the demo as it is then."""

    differences: Differences
    demo: DemoState


class OutputReport(BaseModel):
    """How one of several numbers or labels did."""

    name: str
    n_known: int
    right_of_100: int | None = Constrained(None, description="For a label at its threshold: how many of 100 are right.")
    typical_error: str | None = None


class Report(BaseModel):
    """How the model did on known cases it had not seen."""

    n_known: int
    right_of_100: int | None = Constrained(None, description="For classes: how many of 100 it had right.")
    typical_error: str | None = Constrained(None, description="For a number: half of its answers were off by less.")
    outputs: list[OutputReport] = Constrained([], description="For several numbers or labels: each by itself.")


class UsualPart(BaseModel):
    """One output of the usual answer."""

    name: str = Constrained(description="The class, the label or the number.")
    label: str
    value: float
    text: str = Constrained(description="As it is said: marks of 100, or a rounded number.")
    unit: str = ""


class Usual(BaseModel):
    """The average answer over the background rows, from which contributions are counted."""

    n_rows: int
    parts: list[UsualPart] = Constrained(description="Classes and labels the likeliest first.")


class Page(BaseModel):
    """All that a visitor's page needs."""

    slug: str
    title: str
    purpose: str
    description_html: str = Constrained(description="Sanitised.")
    not_for: str
    licence: str
    fields: list[AnyField]
    answer: AnyAnswerSetting
    release: int | None = Constrained(description="None for a draft.")
    records_inputs: bool
    parts: PageParts
    ignored: list[str] = Constrained(description="Fields that the model makes no use of.")
    folded: list[str] = Constrained(description="Where there are many fields, those that move answers the least.")
    report: Report | None = Constrained(description="None without known cases.")
    outcome: str | None = Constrained(description="The reference table's column of outcomes, if it has one.")
    samples: list[Sample] = Constrained(description="Ready cases to press.")
    usual: Usual | None = Constrained(None, description="None where answers are not explained.")
    unconfirmed: list[str] = Constrained([], description="Of a draft: what was concluded and is not confirmed yet.")


class PredictionRequest(_Body):
    """One case: a value for every field, by the field's name."""

    inputs: dict[str, Any]


class PicturePredictionRequest(BaseModel):
    """One case with its pictures as files: a part named after each field of a picture."""

    inputs: str = Constrained("{}", description="JSON: a value for every other field, by the field's name.")
    picture: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})]


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
    baseline: float = Constrained(description="The average answer over the background rows.")
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
    is_complete: bool = Constrained(description="False if the time was up before everything was tried.")
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


class Timing(BaseModel):
    """Where the time went, in milliseconds."""

    predict: float
    explain: float | None = None
    total: float


class GivenOutcome(_Body):
    """What became of a case."""

    right: bool = Constrained(description="Whether the answer was right.")
    truth: Annotated[str, Constrained(max_length=200)] | float | None = Constrained(
        None, description="What it really was: a class by its name, or a number. Where the author asks for it."
    )
    comment: Annotated[str, Constrained(max_length=1000)] | None = None


class PredictionAnswer(BaseModel):
    """What the model says of one case."""

    id: str | None = Constrained(
        None, description="To say what became of it with `…/predictions/{id}/outcome`; none for a draft."
    )
    answer: AnyAnswer
    notes: list[Note]
    explanation: ExplanationAnswer | None = None
    curves: list[CurveAnswer] | None = None
    familiarity: Familiarity | None = Constrained(None, description="With anything that comes along.")
    similar: list[SimilarCase] | None = None
    changes: ChangesAnswer | None = None
    where: list[WhereAnswer] | None = Constrained(None, description="With `explanation`, for pictures and drawings.")
    seen: dict[str, str] | None = Constrained(
        None, description="With `seen`: each picture as the model sees it, as the address of a PNG within itself."
    )
    release: int | None
    timing_ms: Timing
