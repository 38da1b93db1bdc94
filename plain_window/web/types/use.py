"""What the API says of how a demo is used."""

import datetime as dt

from pydantic import BaseModel, Field

from ...core.report.figures import Confusion, Estimate
from .common import UtcTime

__all__ = ["LiveReport", "SaidCase", "Use", "UseDay", "UseOutcomes", "UseTimes"]


class UseDay(BaseModel):
    """One day's calls by visitors, in UTC."""

    day: dt.date
    answers: int
    failures: int = Field(description="Calls that the model failed or was too slow for.")
    refused: int = Field(description="Calls whose inputs did not fit.")


class UseTimes(BaseModel):
    """How long the last answers took, in milliseconds."""

    median_ms: float
    p95_ms: float


class UseOutcomes(BaseModel):
    """What visitors said of answers."""

    right: int
    wrong: int


class SaidCase(BaseModel):
    """What a visitor said of one answer."""

    at: UtcTime
    right: bool
    answer: str
    truth: str | None
    comment: str | None


class LiveReport(BaseModel):
    """What visitors said of one release's answers. They chose to say it: it is no fair draw of all cases."""

    release: int
    cases: int
    share_right: Estimate | None = Field(None, description="The share they called right, with its range.")
    confusion: Confusion | None = Field(None, description="Where it is known what it really was.")
    with_truth: int = Field(0, description="Of numbers: cases with what it really was.")
    mean_absolute_error: float | None = None
    said: list[SaidCase] = Field([], description="The newest of them.")


class Use(BaseModel):
    """How visitors use a demo. Counted; what they entered is no part of it."""

    answers: int
    failures: int
    times: UseTimes | None
    outcomes: UseOutcomes
    days: list[UseDay]
    live: LiveReport | None = Field(None, description="Of the live release, once visitors have said something of it.")
