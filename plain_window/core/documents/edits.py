"""What an author sets, in the workbench, through the API or in a `demo.toml`: changes in one and the same form."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Constrained

from ..fields import Option, Scalar
from .document import (
    CONTRIBUTIONS,
    AnswersIn,
    Asks,
    BackgroundRows,
    Confirmable,
    FilmRate,
    Logo,
    Paragraphs,
    RecordDays,
    SampleFilms,
    Samples,
    Sentence,
    TableRows,
    Title,
)

__all__ = ["MOST_FIELDS", "AnswerChanges", "DemoChanges", "FieldChanges", "PartsChanges"]

# What a model and a document may have of anything: lists from outside end somewhere.
MOST_FIELDS, MOST_OPTIONS, MOST_OUTPUTS = 5000, 5000, 5000

ShortText = Annotated[str, Constrained(max_length=500)]
FiniteNumber = Annotated[float, Constrained(allow_inf_nan=False)]


class PartsChanges(BaseModel):
    """Parts to show or not; what is left out stays as it is."""

    model_config = ConfigDict(extra="forbid")

    curves: bool | None = None
    contributions: bool | None = Constrained(None, validation_alias=CONTRIBUTIONS)
    changes: bool | None = None
    similar: bool | None = None
    among: bool | None = None
    overall: bool | None = None
    compare: bool | None = None
    report: bool | None = None
    outcomes: bool | None = None
    truth: bool | None = None
    tables: bool | None = None
    films: bool | None = None


class FieldChanges(BaseModel):
    """Settings of one field, found by its name. What is left out stays as it is."""

    model_config = ConfigDict(extra="forbid")

    name: ShortText
    label: Annotated[str, Constrained(min_length=1, max_length=500)] | None = None
    help: str | None = None
    group: str | None = None
    unit: str | None = None
    minimum: FiniteNumber | None = None
    maximum: FiniteNumber | None = None
    step: FiniteNumber | None = None
    default: Scalar | None = None
    options: Annotated[list[Option], Constrained(max_length=MOST_OPTIONS)] | None = None
    other: bool | None = None
    max_length: int | None = None
    changeable: bool | None = None
    hidden: bool | None = None
    direction: Literal["any", "up", "down"] | None = None
    calendar: str | None = None
    preparation: dict[str, Any] | None = None
    behind: Annotated[list[int], Constrained(max_length=4)] | None = None
    line_width: float | None = None
    centred: bool | None = None
    # Facts, which may be sent back unchanged.
    kind: str | None = None
    seen: dict[str, Any] | None = None
    whole: bool | None = None
    optional: bool | None = None
    no: Scalar | None = None
    yes: Scalar | None = None


class AnswerChanges(BaseModel):
    """Settings of the answer. `classes` and `labels` are found by name, `values` by position."""

    model_config = ConfigDict(extra="forbid")

    kind: str | None = None
    noun: str | None = None
    noun_one: str | None = None
    name: str | None = None
    unit: str | None = None
    decimals: int | None = None
    better: str | None = None
    classes: Annotated[list[dict[str, str]], Constrained(max_length=MOST_OUTPUTS)] | None = None
    labels: Annotated[list[dict[str, Any]], Constrained(max_length=MOST_OUTPUTS)] | None = None
    values: Annotated[list[dict[str, Any]], Constrained(max_length=MOST_OUTPUTS)] | None = None
    low: float | None = None
    high: float | None = None
    counts: Annotated[list[int], Constrained(max_length=MOST_OUTPUTS)] | None = None
    gives_probabilities: bool | None = None
    coverage: float | None = None
    threshold: float | None = None
    threshold_of: str | None = None
    cost_of_miss: float | None = None
    cost_of_false_alarm: float | None = None
    bands: Annotated[list[dict[str, Any]], Constrained(max_length=8)] | None = None
    least_score: float | None = None
    reading: dict[str, Any] | None = Constrained(
        None, description="How an answer in a picture is read from the output. What is left out stays as it is."
    )
    before: str | None = None
    nothing: str | None = None


class DemoChanges(BaseModel):
    """What an author sets. What is left out stays as it is.

    `fields` may name some of the fields; naming all of them also sets the order visitors read them in. The model's own
    order is never touched.
    """

    model_config = ConfigDict(extra="forbid")

    title: Title | None = None
    purpose: Sentence | None = None
    description: Paragraphs | None = None
    not_for: Sentence | None = None
    licence: Sentence | None = None
    record_inputs: bool | None = None
    record_days: RecordDays | None = None
    asks: Asks | None = None
    answers_in: AnswersIn | None = None
    browser_rows: bool | None = None
    logo: Logo | None = None
    parts: PartsChanges | None = None
    samples: Samples | None = None
    sample_films: SampleFilms | None = None
    background_rows: BackgroundRows | None = None
    table_rows: TableRows | None = None
    film_rate: FilmRate | None = None
    confirmed: Annotated[list[Confirmable], Constrained(max_length=10)] | None = None
    fields: Annotated[list[FieldChanges], Constrained(max_length=MOST_FIELDS)] | None = None
    answer: AnswerChanges | None = None
