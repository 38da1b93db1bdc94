"""What the API says of releases."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Constrained

from ...core.contract.inspection import Found
from ...core.documents import DemoDocument
from ...core.documents.comparing import SettingDifference
from ...core.documents.model_differences import Differences
from ...core.trust.evidence import Evidence
from .common import Body, UtcTime

__all__ = [
    "LiveRelease",
    "NewRelease",
    "ReleaseDetails",
    "ReleaseDifferences",
    "ReleaseState",
    "ReleaseWhileAway",
    "Releases",
]


class ReleaseState(BaseModel):
    """A frozen, numbered state of a demo."""

    number: int
    created: UtcTime
    published_at: UtcTime
    note: str = ""
    despite: dict[str, str] = Constrained({}, description="The author's reason for each check that failed.")
    is_live: bool = True
    is_bridged: bool = Constrained(False, description="Whether its model stays in a process of its author's.")


class NewRelease(Body):
    """What is said of a release when it is published."""

    note: Annotated[str, Constrained(max_length=2000)] = ""
    despite: dict[
        Annotated[str, Constrained(max_length=60)], Annotated[str, Constrained(min_length=1, max_length=2000)]
    ] = Constrained({}, max_length=50, description="A reason for each check that asks something.")


class Releases(BaseModel):
    """All releases of a demo, the newest first."""

    total: int
    releases: list[ReleaseState]


class ReleaseDetails(ReleaseState):
    """One release as it was published."""

    document: DemoDocument
    found: Found
    evidence: Evidence | None


class LiveRelease(BaseModel):
    """Which release visitors are to see."""

    model_config = ConfigDict(extra="forbid")

    number: int


class ReleaseWhileAway(BaseModel):
    """Which release answers while the process of the one that visitors see is away."""

    model_config = ConfigDict(extra="forbid")

    number: int | None = Constrained(description="None if none does.")


class ReleaseDifferences(BaseModel):
    """What differs between two states of a demo."""

    settings: list[SettingDifference]
    is_same_model: bool
    model: Differences | None
