"""What a check comes to."""

from typing import Any, Literal, get_args

from pydantic import BaseModel, Field

__all__ = ["NAMES", "CheckName", "CheckResult", "Finding", "Fix", "Status"]

CheckName = Literal[
    "features",
    "same-as-original",
    "same-as-expected",
    "class-order",
    "every-field",
    "report",
    "calibration",
    "leakage",
    "ranges",
    "repeatable",
    "bad-input",
    "speed",
    "size",
    "versions",
    "preparation",
    "reading",
    "words",
    "readable",
]
Status = Literal["pass", "warn", "fail", "skip"]
NAMES: tuple[CheckName, ...] = get_args(CheckName)


class Fix(BaseModel):
    """The way on, and where it is."""

    text: str
    place: Literal["model", "inputs", "answer", "checks", "share"]
    field: str | None = None


class Finding(BaseModel):
    """What a check found."""

    status: Status
    finding: str
    evidence: dict[str, Any] = Field({}, description="The figures it rests on.")
    fix: Fix | None = None


class CheckResult(Finding):
    """A check that was made."""

    name: CheckName
    seconds: float = 0.0
