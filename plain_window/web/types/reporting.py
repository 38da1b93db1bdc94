"""How a model did on known cases, in short."""

from pydantic import BaseModel
from pydantic import Field as Constrained

__all__ = ["OutputReport", "Report"]


class OutputReport(BaseModel):
    """How one of several numbers or labels did."""

    name: str
    n_known: int
    right_of_100: int | None = Constrained(None, description="For a label at its threshold: how many of 100 are right.")
    typical_error: str | None = None


class Report(BaseModel):
    """How the model did on known cases it had not seen."""

    n_known: int
    right_of_100: int | None = Constrained(None, description="For classes: how many of 100 it had right.")
    typical_error: str | None = Constrained(None, description="For a number: half of its answers were off by less.")
    outputs: list[OutputReport] = Constrained([], description="For several numbers or labels: each by itself.")
