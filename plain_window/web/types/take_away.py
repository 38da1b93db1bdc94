"""A demo as one file that needs no server: what it would weigh, and what would not be in it."""

from typing import Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

__all__ = ["TakeAwayPart", "TakeAwayPlan"]


class TakeAwayPart(BaseModel):
    """Part of the file."""

    name: Literal["page", "engine", "model", "rows", "rest"]
    bytes: int


class TakeAwayPlan(BaseModel):
    """What the file would be, before it is made."""

    obstacle: str | None = Constrained(None, description="Why this demo cannot be taken away, and what else there is.")
    release: int | None = Constrained(None, description="The release that would be in it; None for the draft.")
    has_rows: bool = Constrained(False, description="Whether rows of the reference table would be in it.")
    shows_rows: bool = Constrained(
        False, description="Whether the page hands out rows already: with similar cases, or the case among others."
    )
    n_rows: int = Constrained(0, description="How many rows there are to go along.")
    n_sample: int = Constrained(0, description="Rows that contributions are counted against; these always go along.")
    bytes: int = Constrained(0, description="About what the file weighs.")
    parts: list[TakeAwayPart] = Constrained([], description="What weighs how much, the heaviest first.")
    is_large: bool = Constrained(False, description="Whether mails and phones may have trouble with it.")
    left_out: list[str] = Constrained([], description="What it cannot do that the server's page can, in sentences.")
