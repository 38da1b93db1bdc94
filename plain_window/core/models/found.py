"""What an adapter reports of a model. Needs no machine learning library: the web tier shows it."""

from typing import Literal

from pydantic import BaseModel

__all__ = ["Found"]


class Found(BaseModel):
    """What was found in a model file."""

    format: str
    library: str
    saved_with: str | None
    running: str
    steps: list[str]
    task: Literal["class", "number", "numbers", "labels"]
    features: list[str] | None
    n_features: int | None
    classes: list[str] | None
    gives_probabilities: bool
    warnings: list[str]
