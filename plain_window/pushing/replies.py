"""What another Plain Window replies, as far as pushing a folder hangs on it."""

import msgspec

__all__ = ["Answers", "CheckSaid", "Checked", "JobSaid", "Logged", "Made", "Problem", "Released", "Replaced"]


class CheckSaid(msgspec.Struct):
    """One check."""

    name: str
    status: str
    finding: str


class Checked(msgspec.Struct):
    """All checks of a draft."""

    checks: list[CheckSaid]


class Released(msgspec.Struct):
    """A release that was made."""

    number: int


class Made(msgspec.Struct):
    """The demo that came of it."""

    slug: str


class Answers(msgspec.Struct):
    """How many cases were compared, and how many of them get another answer; none where nothing could be."""

    cases: int | None = None
    changed: int | None = None


class Differences(msgspec.Struct):
    """What differs from the model before."""

    answers: Answers


class Replaced(msgspec.Struct):
    """A draft whose folder was replaced."""

    differences: Differences


class JobSaid(msgspec.Struct):
    """Work that takes longer than a call."""

    id: str
    state: str
    detail: str | None = None
    result: Made | None = None


class Logged(msgspec.Struct):
    """A piece of a job's log."""

    log: list[str]


class FaultSaid(msgspec.Struct):
    """One thing that is wrong with what was sent."""

    message: str = ""


class Problem(msgspec.Struct):
    """Why something was not done."""

    detail: str
    errors: list[FaultSaid] | None = None
    traceback: str | None = None
