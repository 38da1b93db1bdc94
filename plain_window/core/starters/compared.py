"""What came of comparing models, and of the one that was made: as it is kept and sent."""

from typing import Any, Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

__all__ = ["NAMES", "Comparison", "KeptError", "Tried"]

NAMES = {
    "guess": "Guessing",
    "linear": "Linear",
    "tree": "Small tree",
    "neighbours": "Nearest neighbours",
    "boosted": "Boosted trees",
}


class Tried(BaseModel):
    """What came of trying a model."""

    candidate: Literal["guess", "linear", "tree", "neighbours", "boosted"]
    name: str
    error: float = Constrained(description="On rows that it had not seen; what is measured says `measure`.")
    text: str = Constrained("", description="That in words, with its interval.")
    low: float = Constrained(
        description="The lower end of where it lies; 95 of 100 such intervals hold what they are about."
    )
    high: float
    standard_error: float
    settings: dict[str, Any] = Constrained({}, description="With which it is made of all rows that were not kept back.")
    is_better: bool = Constrained(False, description="Whether it is better than guessing, beyond doubt.")
    gain_low: float = Constrained(0.0, description="By how much it is better than guessing, at least.")
    gain_high: float = 0.0
    behind_low: float = Constrained(0.0, description="By how much it is behind the best, at least, row by row.")
    behind_high: float = 0.0


class Comparison(BaseModel):
    """All of them, guessing first."""

    measure: Literal["wrong", "missed", "off"] = Constrained(
        description="`wrong`: the share of rows said wrongly; `missed`: of each class the share missed, on average; "
        "`off`: how far off, on average, in the outcome's unit."
    )
    tried: list[Tried]
    offered: str = Constrained(description="The plainest whose error is within one standard error of the least.")
    best: str
    n_rows: int = Constrained(description="Rows that models learned from and were tried on.")
    n_tried: int = Constrained(description="Rows that models were tried on; by time the first are only learned from.")
    n_of: int = Constrained(description="Of so many that were not kept back.")
    n_kept_back: int
    n_splits: int
    n_repeats: int
    parted_by: Literal["chance", "group", "time"]
    n_units: int
    is_better: bool = Constrained(description="Whether any of them is better than guessing, beyond doubt.")
    weights: Literal["none", "balanced", "both"]
    unit: str = Constrained("", description="Of what is predicted, where it is a number.")
    verdict: str = Constrained("", description="What it comes to, in words.")


class KeptError(BaseModel):
    """The model's error on rows that no fit saw, and how it goes with what was said of it before."""

    measure: Literal["wrong", "missed", "off"] = Constrained(description="As of `Comparison`.")
    error: float
    low: float = Constrained(description="The lower end of where it lies; 95 of 100 such intervals hold it.")
    high: float
    guessing: float = Constrained(description="The error of guessing on the same rows.")
    n_rows: int
    is_better: bool = Constrained(description="Whether it is better than guessing there, beyond doubt.")
    beside: Literal["", "alike", "worse", "better"] = Constrained(
        description="Beside what trying it out showed, beyond chance; empty where nothing was tried out."
    )
    sentence: str
