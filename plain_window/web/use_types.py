"""What the API says of how a demo is used."""

import datetime as dt

from pydantic import BaseModel, Field

__all__ = ["Use", "UseDay", "UseOutcomes", "UseTimes"]


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


class Use(BaseModel):
    """How visitors use a demo. Counted; what they entered is no part of it."""

    answers: int
    failures: int
    times: UseTimes | None
    outcomes: UseOutcomes
    days: list[UseDay]
