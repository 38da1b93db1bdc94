"""What the web tier and the supervisor ask of the keeper, and what it says."""

from typing import Literal, NamedTuple

import msgspec

from .events import FaultFound
from .jobs import RunnerJob
from .messages import Ask, Said

__all__ = [
    "ConfinementStatus",
    "Done",
    "Ended",
    "Ensure",
    "KeeperReply",
    "KeeperRequest",
    "KeeperStatus",
    "OpenedModel",
    "ReportBreach",
    "Retire",
    "RetireAllBut",
    "RunnerState",
    "RunnerStatus",
    "State",
    "StatusRequest",
    "Until",
    "WhyEnded",
]

State = Literal["starting", "ready", "failed", "finished", "asleep"]
Until = Literal["now", "opened", "ready"]


class OpenedModel(NamedTuple):
    """What comes of opening a model: the inspection as JSON, the compiled model's file, the rows kept beside it."""

    inspection: bytes
    compiled: bytes | None
    kept_rows: bytes | None
    # A network as ONNX.
    converted: bytes | None = None


class Ensure(Ask, tag="ensure", frozen=True):
    """Hold this; answer at once, or once it is opened or ready, after `timeout` seconds at the latest."""

    job: RunnerJob
    until: Until = "now"
    timeout: float = 0.0


class Retire(Ask, tag="retire", frozen=True):
    """Let go of a runner that nothing needs any more."""

    key: str


class RetireAllBut(Ask, tag="retire_all_but", frozen=True):
    """Let go of all runners but these, and but those whose models are being opened."""

    keys: list[str]


class ReportBreach(Ask, tag="breach", frozen=True):
    """A runner said to the web tier what it must not."""

    key: str
    breach: str


class WhyEnded(Ask, tag="why_ended", frozen=True):
    """Why a runner was stopped last."""

    key: str


class StatusRequest(Ask, tag="status", frozen=True):
    """Confinement and the state of all runners."""


KeeperRequest = Ensure | Retire | RetireAllBut | ReportBreach | WhyEnded | StatusRequest


class Done(Said, tag="done", frozen=True):
    """It is done."""


class RunnerState(Said, tag="state", frozen=True):
    """A runner as it is now; with what came of opening its model, for who waited for that."""

    key: str
    state: State
    reason: str = ""
    faults: list[FaultFound] = msgspec.field(default_factory=list)
    # Of a file of code, the lines that it failed at.
    traceback: str = ""
    # Whether it is its author's own process that is away.
    is_away: bool = False
    # With what it might open.
    requirements: list[str] = msgspec.field(default_factory=list)
    restarts: int = 0
    inspection: bytes | None = None
    compiled: bytes | None = None
    kept_rows: bytes | None = None
    converted: bytes | None = None


class Ended(Said, tag="ended", frozen=True):
    """Why a runner was stopped, and at which call; nothing where it ended by itself."""

    why: Literal["breach", "memory", "overran", "processor", "asleep"] | None = None
    call: int = 0
    is_quick: bool = False


class RunnerStatus(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A runner for whoever looks after the server. Memory in bytes."""

    key: str
    state: State
    reason: str
    restarts: int
    resident: int
    trouble: str
    pid: int | None


class ConfinementStatus(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Whether runners are confined, what was tried, and what is missing."""

    works: bool
    reason: str
    probes: dict[str, str]
    missing: list[str]


class KeeperStatus(Said, tag="status", frozen=True):
    """Confinement and all runners."""

    confinement: ConfinementStatus
    runners: list[RunnerStatus]


KeeperReply = Done | RunnerState | Ended | KeeperStatus
