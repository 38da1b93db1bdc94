"""What an author wants of a table; what is left open follows the suggestions of its sheet."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Constrained

__all__ = ["Choices"]

Name = Annotated[str, Constrained(max_length=500)]
Names = Annotated[list[Name], Constrained(max_length=500)]


class Choices(BaseModel):
    """How a model is made of a table."""

    model_config = ConfigDict(extra="forbid")

    target: Name = Constrained("", description="The column that is to be predicted.")
    answer: Literal["", "class", "number"] = Constrained("", description="What is to be said of it.")
    drop: Names = Constrained([], description="Columns that are left out.")
    keep: Names = Constrained([], description="Columns that are used although they were pointed out.")
    kinds: Annotated[dict[Name, Literal["number", "category", "text", "date"]], Constrained(max_length=500)] = (
        Constrained({}, description="By column what it is taken for instead.")
    )
    group: Name | None = Constrained(
        None, description="The column whose rows stay together; empty for none, the suggested one if left out."
    )
    time: Name | None = Constrained(
        None, description="The dates by which rows are parted, the latest kept back; empty for none."
    )
    numbers: Literal["", "1,234.5", "1.234,5"] = Constrained("", description="How the table writes numbers.")
    dates: Literal["", "day", "month"] = Constrained("", description="What comes first in dates whose year is last.")
    duplicates: Literal["", "keep", "drop"] = Constrained("", description="Rows that are the same in every column.")
    weights: Literal["", "none", "balanced"] = Constrained(
        "",
        description="Whether rare classes count as much as frequent ones; tried both ways where it matters.",
    )
    model: Literal["", "linear", "tree", "neighbours", "boosted"] = Constrained(
        "", description="Which model is made; the plainest that is about as good as the best if left out."
    )
    title: Annotated[str, Constrained(max_length=200)] = ""
    slug: Annotated[str, Constrained(max_length=80)] = ""
    hold: bool = Constrained(
        False, description="Wait for a word once the table was looked at, and again once models were compared."
    )
