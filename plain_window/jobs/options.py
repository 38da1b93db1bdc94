"""What is wanted of a table of cases, and what is known of it once it was looked at."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Constrained

__all__ = ["MOST_STRONGEST", "TableDoubt", "TableFound", "TableOptions"]

MOST_STRONGEST = 5
Name = Annotated[str, Constrained(max_length=500)]


class TableOptions(BaseModel):
    """How a table is read, and what is written beside its answers."""

    model_config = ConfigDict(extra="forbid")

    hold: bool = Constrained(False, description="Look at the table, show first answers, and wait for a word to begin.")
    columns: Annotated[dict[Name, Name], Constrained(max_length=2000)] = Constrained(
        {}, description="By field the column that is meant; empty for none."
    )
    numbers: Literal["", "1,234.5", "1.234,5"] = Constrained("", description="How the table writes numbers.")
    dates: Literal["", "day", "month"] = Constrained("", description="What comes first in dates whose year is last.")
    outcome: Name = Constrained("", description="The column with what happened; found by its name if left out.")
    contributions: Annotated[int, Constrained(ge=0, le=MOST_STRONGEST)] = Constrained(
        0, description="How many of each row's strongest contributions are written beside it."
    )


class TableDoubt(BaseModel):
    """A field whose column can be read in two ways, as in `example`."""

    field: str
    about: Literal["numbers", "dates"]
    example: str


class TableFound(BaseModel):
    """What came of looking at a table. `matches` are `ColumnMatch`es as plain values."""

    columns: list[str]
    matches: list[dict[str, Any]]
    missing: list[str]
    alike: dict[str, list[str]]
    first: list[list[str]]
    notes: list[str]
    doubtful: list[TableDoubt]
    truth: int | None = None
    # How many rows it has, and whether that is known rather than concluded from its first rows.
    total: int | None = None
    knows_total: bool = False
    # First answers, row by row, and what they are called.
    headings: list[str] = []
    types: list[str] = []
    preview: list[list[str]] = []
    style: dict[str, Any] = {}
    # Columns of numbers in which something stood that was none: their cells are kept as they are written.
    odd: list[int] = []

    @property
    def is_ready(self) -> bool:
        """Whether it can be begun as it is."""
        return not self.missing and not self.doubtful
