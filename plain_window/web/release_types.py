"""What the API says of releases."""

from pydantic import BaseModel, ConfigDict

from ..core.contract.inspection import Found
from ..core.documents import DemoDocument
from ..core.documents.comparing import SettingDifference
from ..core.documents.replacing import Differences
from ..core.trust.evidence import Evidence
from .types import ReleaseState

__all__ = ["LiveRelease", "ReleaseDetails", "ReleaseDifferences", "Releases"]


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


class ReleaseDifferences(BaseModel):
    """What differs between two states of a demo."""

    settings: list[SettingDifference]
    is_same_model: bool
    model: Differences | None
