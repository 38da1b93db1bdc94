"""What is found in a model file, and in a model with its table. Needs no machine learning library."""

from typing import Literal

from pydantic import BaseModel

from ..answers import AnyAnswerSetting
from ..compiled.report import CompiledReport
from ..fields import AnyField
from ..fields.columns import Column
from ..fields.kinds import Scalar
from ..trust.evidence import Evidence

__all__ = ["Found", "Inspection"]


class Found(BaseModel):
    """What was found in a model file."""

    format: str
    library: str
    saved_with: str | None
    running: str
    steps: list[str]
    task: Literal["class", "number", "numbers", "labels"]
    features: list[str] | None
    n_features: int | None
    classes: list[str] | None
    gives_probabilities: bool
    warnings: list[str]


class Inspection(BaseModel):
    """What a model and its reference table amount to."""

    found: Found
    compiled: CompiledReport
    target: str | None
    columns: list[Column]
    ignored: list[str]
    fields: list[AnyField]
    answer: AnyAnswerSetting
    # What the author should check, because it was concluded.
    notes: list[str] = []
    n_reference_rows: int
    warm_up_row: dict[str, Scalar | None]
    # How far the answer moves on average when a field takes other reference values, largest first; 0 if it never does.
    strength: dict[str, float] = {}
    # Fields the model makes no use of.
    unused: list[str] = []
    # What known cases say, where there are any.
    evidence: Evidence | None = None
