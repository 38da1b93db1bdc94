"""Why a call of a runner has no answer: the four ways, with what a caller may say of them."""

from collections.abc import Sequence
from typing import Literal

from ..core.contract import FaultFound
from ..core.errors import Fault

__all__ = ["RunnerBusy", "RunnerFailed", "RunnerRaised", "RunnerUnavailable", "Unavailable"]

# What a caller is told to wait for a runner that is starting: about what one takes.
RETRY_AFTER_SECONDS = 2

Unavailable = Literal[
    "starting", "opening", "restarted", "overran", "memory", "crowded", "no-answer", "keeper-gone", "away"
]


class RunnerUnavailable(Exception):
    """No answer now, but soon: the runner is starting, was replaced, or the keeper is coming back.

    Parameters
    ----------
    why : str
        One of `Unavailable`; the web tier has the sentences.
    retry_after : int
        Seconds.
    seconds : float
        How long a call may take, where it took longer.
    """

    def __init__(self, why: Unavailable, *, retry_after: int = RETRY_AFTER_SECONDS, seconds: float = 0.0) -> None:
        super().__init__(why)
        self.why = why
        self.retry_after = retry_after
        self.seconds = seconds

    @property
    def overran(self) -> bool:
        """Whether the model took longer than it may for this very case."""
        return self.why == "overran"


class RunnerBusy(Exception):
    """Too many calls wait for this model; `is_own` tells whether they are the caller's own."""

    def __init__(self, *, is_own: bool, retry_after: int = RETRY_AFTER_SECONDS) -> None:
        super().__init__("too many calls wait for this model")
        self.is_own = is_own
        self.retry_after = retry_after


class RunnerFailed(Exception):
    """The model cannot be held at all.

    Attributes
    ----------
    faults : list of FaultFound
        What does not fit, column by column, if that is the reason.
    traceback : str
        Of a file of code, the lines that it failed at.
    requirements : list of str
        Libraries with which it might be held.
    """

    def __init__(
        self, reason: str, faults: Sequence[FaultFound], traceback: str = "", requirements: Sequence[str] = ()
    ) -> None:
        super().__init__(reason)
        self.faults = [Fault(one.field, one.message, one.asks, one.choices) for one in faults]
        self.requirements = list(requirements)
        self.traceback = traceback


class RunnerRaised(Exception):
    """The model raised for these rows; `traceback` is for the author."""

    def __init__(self, message: str, traceback: str) -> None:
        super().__init__(message)
        self.traceback = traceback
