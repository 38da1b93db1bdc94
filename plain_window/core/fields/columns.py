"""One column the model asks for, and what it does with it."""

from typing import Literal

from pydantic import BaseModel

from .kinds import Scalar

__all__ = ["Column", "ColumnUse"]


class Column(BaseModel):
    """Its name, and the type the table gave it."""

    name: str
    dtype: str
    categories: list[Scalar] | None = None


class ColumnUse(BaseModel):
    """What the model is known to do with one of its columns, as far as its steps tell."""

    wants: Literal["number", "category", "text"] | None = None
    categories: list[Scalar] | None = None
    refuses_others: bool = False
