"""What the API says of how the server is."""

from typing import Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

__all__ = ["Health", "Readiness"]


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
