"""Whether what visitors ask about is like the reference table."""

from typing import Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

__all__ = ["DriftBin", "DriftEntry", "DriftReport"]


class DriftBin(BaseModel):
    """One bin: how many of 100 reference rows, and of 100 of visitors' cases, fall into it."""

    name: str
    reference: float
    use: float


class DriftEntry(BaseModel):
    """One field, or the answer, or one of several."""

    field: str | None = Constrained(description="None for the answer.")
    label: str
    statistic: Literal["total-variation"] = "total-variation"
    value: float = Constrained(
        description="The share of cases that would have to lie elsewhere for use to look like the table, from 0 to 1."
    )
    p: float | None = Constrained(
        description="How often chance alone is this far apart (chi-square test); none with too few cases."
    )
    cases: int = Constrained(description="Visitors' cases that were counted.")
    drifted: bool = Constrained(description="Whether it is more than chance, and more than a tenth.")
    finding: str
    bins: list[DriftBin]


class DriftReport(BaseModel):
    """Drift of each field, the furthest first, and of the answer. No input is kept for it: only counts are."""

    weeks: int
    level: float = Constrained(description="Below this chance, over all tests together, it is said to have drifted.")
    fields: list[DriftEntry]
    answers: list[DriftEntry] = Constrained(description="The answer, or each of several. None without a scale.")
    answers_counted: bool = Constrained(
        description="False where the model is too slow to be asked meanwhile how its answers usually lie, or cannot be "
        "asked now: then nothing is said of them. A job of kind `drift` counts that."
    )
    can_be_counted: bool = Constrained(description="Whether such a job could.")
    not_counted: list[str] = Constrained(description="Fields whose values have no bins: texts, pictures, drawings.")
