"""One column the model asks for."""

from pydantic import BaseModel

from .kinds import Scalar

__all__ = ["Column"]


class Column(BaseModel):
    """Its name, and the type the table gave it."""

    name: str
    dtype: str
    categories: list[Scalar] | None = None
