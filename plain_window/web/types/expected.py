"""Outputs of the author's own, brought to be compared with."""

from typing import Annotated

from pydantic import BaseModel
from pydantic import Field as Constrained

__all__ = ["ExpectedPart", "ExpectedState"]


class ExpectedPart(BaseModel):
    """A table of inputs and outputs."""

    expected: Annotated[str, Constrained(json_schema_extra={"contentMediaType": "application/octet-stream"})] = (
        Constrained(description="CSV, Parquet, a spreadsheet or JSON lines.")
    )


class ExpectedState(BaseModel):
    """What was made of the table."""

    total: int = Constrained(description="Rows of the table.")
    compared: int = Constrained(description="Rows that are compared.")
    columns: list[str] = Constrained(description="Columns of outputs that are compared.")
    not_asked: int = Constrained(description="Rows that no case can be made of; the check says why.")
    notes: list[str]
