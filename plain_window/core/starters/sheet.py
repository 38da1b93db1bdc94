"""What is seen in a table before anything is fitted."""

from typing import Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

__all__ = ["ColumnKind", "ColumnLook", "Finding", "FindingKind", "OddValue", "Sheet", "SheetQuestion", "ValueCount"]

ColumnKind = Literal["number", "category", "yes_no", "date", "text", "identifier", "constant", "empty"]
FindingKind = Literal[
    "gives-away", "known-afterwards", "adds-up", "strong", "identifier", "rare", "group", "time", "duplicates",
    "stand-in", "spellings", "odd", "constant", "unit",
]  # fmt: skip


class ValueCount(BaseModel):
    """A value and how many rows have it."""

    value: str
    rows: int


class OddValue(BaseModel):
    """A value that does not fit its column; `row` counts from 1 below the header."""

    value: str
    row: int
    rows: int


class ColumnLook(BaseModel):
    """One column of the table."""

    name: str
    kind: ColumnKind
    # What it may be taken for instead.
    may_be: list[ColumnKind] = []
    n_distinct: int
    n_gaps: int
    examples: list[str] = Constrained(description="Some of its first values, as they are written.")
    counts: list[int] = Constrained([], description="Of numbers and dates: how many lie in each of equally wide bins.")
    low: float | None = Constrained(None, description="The smallest number; of dates in seconds since 1970.")
    high: float | None = None
    common: list[ValueCount] = Constrained([], description="Of categories: the most frequent.")
    odd: list[OddValue] = Constrained([], description="Values that are none of its kind; they count as gaps.")
    stand_ins: list[float] = Constrained([], description="Numbers that seem to stand for a missing one.")
    spelled: dict[str, str] = Constrained({}, description="By spelling the usual one, where a value has several.")
    decimal: Literal["point", "comma"] = "point"
    unit: str = Constrained("", description="What stands behind the number in its cells.")
    day_first: bool = True
    parts: list[Literal["month", "weekday", "hour"]] = Constrained([], description="Of dates: what is made of them.")


class Finding(BaseModel):
    """Something that its author should know, with what shows it and what is done unless they choose otherwise."""

    kind: FindingKind
    columns: list[str]
    sentence: str
    suggestion: str
    leaves_out: bool = Constrained(False, description="Whether its columns are left out unless they are kept.")


class SheetQuestion(BaseModel):
    """What can be read in two ways, and has to be said."""

    about: Literal["numbers", "dates"]
    column: str
    example: str


class Sheet(BaseModel):
    """All of it."""

    n_rows: int
    columns: list[ColumnLook]
    target: str = Constrained(description="What is to be predicted: as it was said, or as it is suggested.")
    targets: list[str] = Constrained(description="What else may be, the likeliest first.")
    answer: Literal["class", "number"]
    classes: list[ValueCount] = []
    n_without_outcome: int = 0
    findings: list[Finding]
    questions: list[SheetQuestion] = []
    notes: list[str] = []
    group: str = Constrained("", description="The column whose rows should stay together, as it is suggested.")
    time: str = Constrained("", description="The column of dates by which rows should be parted, as it is suggested.")
    dates: list[str] = Constrained([], description="Columns of dates.")
    drops_duplicates: bool = False

    def column(self, name: str) -> ColumnLook:
        """A column by its name.

        Parameters
        ----------
        name : str
        """
        return next(column for column in self.columns if column.name == name)
