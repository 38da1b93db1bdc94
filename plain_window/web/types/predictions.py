"""A question and its answer."""

from typing import Annotated, Any

from pydantic import BaseModel
from pydantic import Field as Constrained

from ...core.answers import AnyAnswer
from ...core.fields import Note
from .common import Body
from .explanations import ChangesAnswer, CurveAnswer, ExplanationAnswer, Familiarity, SimilarCase, WhereAnswer

__all__ = ["Link", "PicturePredictionRequest", "PredictionAnswer", "PredictionRequest", "Timing"]


class Link(Body):
    """A picture's web address."""

    link: Annotated[str, Constrained(max_length=2000)]


class PredictionRequest(Body):
    """One case: a value for every field, by the field's name."""

    inputs: dict[str, Any]


class PicturePredictionRequest(BaseModel):
    """One case with its pictures as files: a part named after each field of a picture."""

    inputs: str = Constrained("{}", description="JSON: a value for every other field, by the field's name.")
    picture: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})]


class Timing(BaseModel):
    """Where the time went, in milliseconds."""

    predict: float
    explain: float | None = None
    total: float


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
