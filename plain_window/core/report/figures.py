"""The figures of a report."""

from pydantic import BaseModel, Field

__all__ = [
    "CalibrationBin",
    "ClassFigures",
    "Confusion",
    "ErrorBin",
    "ErrorStretch",
    "Estimate",
    "Group",
    "LabelFigures",
    "NumberFigures",
    "ThresholdPoint",
]


class Estimate(BaseModel):
    """A figure with the range that it may well be off by: 19 in 20 such ranges hold the truth."""

    value: float
    low: float
    high: float


class Confusion(BaseModel):
    """What happened, row by row, against what was answered, column by column."""

    classes: list[str]
    counts: list[list[int]]


class ClassRow(BaseModel):
    """One class: of those answered so, how many were; of those that were, how many were answered so."""

    name: str = Field(serialization_alias="class")
    precision: float | None = Field(description="None where nothing was answered so.")
    recall: float | None = Field(description="None where nothing was so.")
    cases: int = Field(description="How many were.")
    answered: int = Field(description="How many were answered so.")


class CalibrationBin(BaseModel):
    """Cases that were given about the same probability: its mean, and how often it came true."""

    predicted: float
    happened: float
    low: float
    high: float
    cases: int


class ErrorBin(BaseModel):
    """Cases whose error, answer less truth, lies in a stretch."""

    low: float
    high: float
    cases: int


class ClassFigures(BaseModel):
    """A classifier's figures."""

    share_right: Estimate
    confusion: Confusion
    by_class: list[ClassRow]
    calibration_of: str | None = Field(description="The class whose probability it is; None for the likeliest one's.")
    calibration: list[CalibrationBin]
    log_loss: float | None
    brier: float | None


class ErrorStretch(BaseModel):
    """Errors of answers within a stretch: the middle one, and what 5 and 95 of 100 lie below."""

    low: float
    high: float
    cases: int
    median: float
    low_error: float
    high_error: float


class NumberFigures(BaseModel):
    """A regressor's figures. An error is the answer less the truth."""

    mean_absolute_error: float
    mean_absolute_error_interval: Estimate | None = Field(description="None for one case, which tells nothing of it.")
    root_mean_square_error: float
    median_absolute_error: float
    r2: float | None = Field(description="None where all truths are the same.")
    coverage: float | None = Field(description="How often the truth lay in intervals made from the other cases.")
    coverage_interval: Estimate | None
    stated_coverage: float | None
    errors: list[ErrorBin]
    by_prediction: list[ErrorStretch] = Field([], description="Errors where answers are low, and where they are high.")


class LabelFigures(BaseModel):
    """One label at its threshold."""

    share_right: Estimate
    precision: float | None
    recall: float | None
    cases: int = Field(description="How many have it.")
    calibration: list[CalibrationBin]


class Group(BaseModel):
    """The cases with one value of a field, or a stretch of its values."""

    label: str
    cases: int
    is_small: bool = Field(description="Whether they are so few that little follows.")
    share_right: Estimate | None = None
    mean_absolute_error: float | None = None
    mean_absolute_error_interval: Estimate | None = None


class ThresholdPoint(BaseModel):
    """Known cases with one threshold."""

    threshold: float
    hits: int = Field(description="It was so, and is said.")
    misses: int = Field(description="It was so, and is not said.")
    false_alarms: int = Field(description="It was not so, and is said.")
    quiet: int = Field(description="It was not so, and is not said.")
