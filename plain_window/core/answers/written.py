"""Answers that are written rather than measured: a text, or a table of values. Functions give them."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Constrained

__all__ = [
    "MOST_COLUMNS",
    "MOST_ROWS",
    "MOST_TEXT",
    "WRITTEN",
    "TableAnswer",
    "TableSetting",
    "TextAnswer",
    "TextSetting",
]

# The kinds of answer that are here.
WRITTEN = ("text", "table")
# What one answer may hold; the rest is cut, and that is said.
MOST_TEXT, MOST_ROWS, MOST_COLUMNS = 50_000, 1000, 60

Words = Annotated[str, Constrained(max_length=200)]
CellValue = bool | int | float | str | None


class TextSetting(BaseModel):
    """The answer is a text."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["text"] = "text"
    name: Words = Constrained("Answer", description="What the text is; it stands over it.")


class TableSetting(BaseModel):
    """The answer is a table."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["table"] = "table"
    name: Words = Constrained("Answer", description="What the table lists; it stands over it.")


class TextAnswer(BaseModel):
    """A text, as it was written: it is shown as plain text."""

    kind: Literal["text"] = "text"
    text: Annotated[str, Constrained(max_length=MOST_TEXT)]


class TableAnswer(BaseModel):
    """A table: a value a column in each row, null where there is none."""

    kind: Literal["table"] = "table"
    columns: Annotated[list[str], Constrained(max_length=MOST_COLUMNS)]
    rows: Annotated[list[list[CellValue]], Constrained(max_length=MOST_ROWS)]
