"""What the keeper asks of the process that starts runners for it, and what that says. Descriptors ride along."""

from .messages import Ask, Said

__all__ = [
    "Forget",
    "ListStarted",
    "NotStarted",
    "SpawnerReply",
    "SpawnerRequest",
    "Start",
    "Started",
    "StartedList",
    "TakeOver",
    "Unknown",
]


class Start(Ask, tag="start", frozen=True):
    """Start a command under a name. `{0}` stands for the first of the descriptors it is given, and so on."""

    key: str
    command: list[str]
    environment: dict[str, str]


class ListStarted(Ask, tag="list", frozen=True):
    """What was started and not forgotten."""


class TakeOver(Ask, tag="take_over", frozen=True):
    """What was started under a name, with copies of its descriptors."""

    key: str


class Forget(Ask, tag="forget", frozen=True):
    """How it ended; what has ended is forgotten with that."""

    key: str


SpawnerRequest = Start | ListStarted | TakeOver | Forget


class Started(Said, tag="started", frozen=True):
    """A process; `code` is how it ended, None while it runs."""

    key: str
    pid: int
    code: int | None = None


class StartedList(Said, tag="list", frozen=True):
    """Names of what was started."""

    keys: list[str]


class NotStarted(Said, tag="not_started", frozen=True):
    """It could not be started, and why."""

    reason: str


class Unknown(Said, tag="unknown", frozen=True):
    """There is nothing under that name."""


SpawnerReply = Started | StartedList | NotStarted | Unknown
