"""What goes over the API, as types. They validate; the description is made from them."""

import datetime as dt
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Constrained

from ..core.answers import AnyAnswer, AnyAnswerSetting
from ..core.compiled.report import CompiledReport
from ..core.demo import DemoDocument
from ..core.fields import AnyField, Note
from ..core.models.found import Found

__all__ = [
    "AccessChange",
    "AccessState",
    "DemoState",
    "FieldProblem",
    "Health",
    "NewDemo",
    "NewPassword",
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


class SessionState(BaseModel):
    """Who is signed in."""

    author: str | None
    has_password: bool
    csrf_token: str | None


class SignIn(_Body):
    """An author's name and password."""

    name: Annotated[str, Constrained(max_length=120)]
    password: Annotated[str, Constrained(max_length=1000)]


class NewPassword(_Body):
    """A new password; the old one too, if there is one."""

    password: Annotated[str, Constrained(min_length=10, max_length=1000)]
    old_password: Annotated[str, Constrained(max_length=1000)] | None = None


class ShelfEntry(BaseModel):
    """One demo on the shelf."""

    slug: str
    title: str
    purpose: str
    access: AccessWord
    release: int | None
    draft_differs: bool
    changed: dt.datetime
    predictions: int
    last_prediction: dt.datetime | None
    health: Literal["ready", "starting", "failed", "asleep"]


class Shelf(BaseModel):
    """An author's demos."""

    demos: list[ShelfEntry]


class ReleaseState(BaseModel):
    """A frozen, numbered state of a demo."""

    number: int
    created: dt.datetime


class AccessChange(_Body):
    """Who may open the demo."""

    access: AccessWord
    passcode: Annotated[str, Constrained(min_length=4, max_length=200)] | None = None
    link_days: Annotated[float, Constrained(gt=0, le=3650)] | None = Constrained(
        None, description="After how many days a new secret link stops working; never if left out."
    )
    new_link: bool = Constrained(False, description="Make a new secret link; the old one stops working.")


class AccessState(BaseModel):
    """Who may open the demo, and how."""

    access: AccessWord
    link: str | None = Constrained(None, description="The secret link's path, if that is the access.")
    link_expires: dt.datetime | None = None


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
    has_known_cases: bool


class NewDemo(BaseModel):
    """The parts of the multipart request that brings a model."""

    model: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})]
    reference: Annotated[
        str,
        Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"}, description="CSV or Parquet."),
    ]
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
    target: str | None = Constrained(None, description="The outcome's column.")
    title: str | None = None
    slug: str | None = None


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


class PredictionRequest(_Body):
    """One case: a value for every field, by the field's name."""

    inputs: dict[str, Any]


class ContributionAnswer(BaseModel):
    """What one field adds to the answer, or takes off it."""

    field: str
    value: Any
    contribution: float
    error: float | None = Constrained(None, description="Standard error, where it was sampled.")


class ExplanationAnswer(BaseModel):
    """What brought the answer from the baseline to where it is; contributions add up to the difference."""

    of: str = Constrained(description="The class, or the number, that is explained.")
    unit: str
    baseline: float = Constrained(description="The average answer over the background rows.")
    method: str
    contributions: list[ContributionAnswer] = Constrained(description="The largest first.")
    error: float = Constrained(description="The largest standard error; 0 where the method is exact.")
    n_background: int


class CurveAnswer(BaseModel):
    """How the answer would move if only this field moved."""

    field: str
    of: str
    shape: Literal["steps", "line", "options"]
    x: list[Any]
    y: list[float]
    thinned: bool = Constrained(False, description="Jumps too close for a small chart were left out.")


class Timing(BaseModel):
    """Where the time went, in milliseconds."""

    predict: float
    explain: float | None = None
    total: float


class PredictionAnswer(BaseModel):
    """What the model says of one case."""

    answer: AnyAnswer
    notes: list[Note]
    explanation: ExplanationAnswer | None = None
    curves: list[CurveAnswer] | None = None
    release: int | None
    timing_ms: Timing
