"""Rows of the reference table."""

from typing import Any

from pydantic import BaseModel

__all__ = ["ReferenceRow", "ReferenceRows"]


class ReferenceRow(BaseModel):
    """One row of the reference table, as a visitor would enter it."""

    row: int
    inputs: dict[str, Any]
    outcome: Any = None


class ReferenceRows(BaseModel):
    """Some rows of the reference table."""

    total: int
    rows: list[ReferenceRow]
