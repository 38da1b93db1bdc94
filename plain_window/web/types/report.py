"""What the API says of known cases."""

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel, Field

from ...core.answers import AnyAnswer
from ...core.checks.result import CheckResult
from ...core.report.figures import (
    CalibrationBin,
    ClassRow,
    Confusion,
    ErrorBin,
    ErrorStretch,
    Estimate,
    Group,
    LabelFigures,
    NumberFigures,
    ThresholdPoint,
)

__all__ = [
    "CasesWanted",
    "CheckRun",
    "FullReport",
    "KnownCase",
    "KnownCases",
    "LabelReport",
    "NumberReport",
    "Thresholds",
    "Truth",
]

# A class by its name, a number, or of several each by its name; None where one of several is not known.
Truth = str | float | dict[str, float | bool | None]


class KnownCase(BaseModel):
    """A known case, what the model says of it, and what happened."""

    row: int = Field(description="Its place in the author's table, the first row being 0.")
    name: str | None = Field(None, description="Of a picture: its name in the archive.")
    inputs: dict[str, Any]
    truth: Truth
    answer: AnyAnswer
    is_right: bool | None = Field(None, description="For classes: whether the class that was said was right.")
    error: float | None = Field(None, description="For a number: the answer less the truth.")


class KnownCases(BaseModel):
    """Some of the known cases."""

    total: int
    cases: list[KnownCase]


class NumberReport(NumberFigures):
    """How one of several numbers did."""

    name: str
    unit: str = ""
    cases: int


class LabelReport(LabelFigures):
    """How one label did at its threshold."""

    name: str
    label: str
    threshold: float


class FullReport(BaseModel):
    """How the model did on known cases it had not seen."""

    kind: str
    cases: int
    known_group: str | None = Field(None, description="What several cases are of; they count as one for each interval.")
    things: int | None = Field(None, description="Of how many things the cases are.")
    share_right: Estimate | None = None
    confusion: Confusion | None = None
    by_class: list[ClassRow] = []
    calibration_of: str | None = Field(None, description="The class whose probability it is; null for the likeliest's.")
    calibration: list[CalibrationBin] = []
    log_loss: float | None = None
    brier: float | None = None
    mean_absolute_error: float | None = None
    mean_absolute_error_interval: Estimate | None = None
    root_mean_square_error: float | None = None
    median_absolute_error: float | None = None
    r2: float | None = None
    coverage: float | None = Field(None, description="How often the truth lay in intervals made from the other cases.")
    coverage_interval: Estimate | None = None
    stated_coverage: float | None = None
    errors: list[ErrorBin] = []
    by_prediction: list[ErrorStretch] = []
    values: list[NumberReport] = Field([], description="Of several numbers each.")
    labels: list[LabelReport] = Field([], description="Of several labels each.")
    worst: list[KnownCase]
    by: str | None = None
    groups: list[Group] = Field([], description="With `by`: the same by the values of one field.")


@dataclass(frozen=True)
class CasesWanted:
    """Which known cases are asked for; classes by their places."""

    order: Literal["table", "worst"] = "table"
    show: Literal["all", "right", "wrong", "high", "low"] = "all"
    truth: int | None = None
    answered: int | None = None
    # Of a number: cases that are further off than this.
    over: float = 0.0


class CheckRun(BaseModel):
    """The checks of a draft."""

    fit: bool = Field(description="Whether nothing stands in the way of publishing: no check fails.")
    checks: list[CheckResult]


class Thresholds(BaseModel):
    """What each threshold would do."""

    of: str
    cases: int
    points: list[ThresholdPoint]
