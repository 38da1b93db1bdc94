"""What was asked, and what became of it."""

from typing import Annotated, Any

from pydantic import BaseModel
from pydantic import Field as Constrained

from .common import Body, UtcTime

__all__ = ["GivenOutcome", "LogEntry", "LogPage"]


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


class GivenOutcome(Body):
    """What became of a case."""

    right: bool = Constrained(description="Whether the answer was right.")
    truth: Annotated[str, Constrained(max_length=200)] | float | None = Constrained(
        None, description="What it really was: a class by its name, or a number. Where the author asks for it."
    )
    comment: Annotated[str, Constrained(max_length=1000)] | None = None
