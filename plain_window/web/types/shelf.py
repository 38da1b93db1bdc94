"""An author's demos at a glance."""

from typing import Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

from .common import AccessWord, UtcTime

__all__ = ["DeletedEntry", "Shelf", "ShelfEntry"]


class ShelfEntry(BaseModel):
    """One demo on the shelf."""

    slug: str
    title: str
    purpose: str
    access: AccessWord
    release: int | None
    draft_differs: bool
    changed: UtcTime
    predictions: int = Constrained(description="Answers that visitors got.")
    last_prediction: UtcTime | None = Constrained(description="When a visitor last got one.")
    failures: int = Constrained(description="Calls of visitors that the model failed in the last seven days.")
    own_tries: int = Constrained(description="Answers that the author got.")
    health: Literal["ready", "starting", "failed", "failing", "asleep", "finished"] = Constrained(
        description="`failing`: the process is there, but the model failed each of the last calls."
    )
    trouble: str | None = Constrained(
        None, description="What its process was stopped for last, since the server began."
    )


class DeletedEntry(BaseModel):
    """A demo that was deleted and can be brought back."""

    slug: str
    title: str
    deleted: UtcTime


class Shelf(BaseModel):
    """An author's demos."""

    demos: list[ShelfEntry]
    deleted: list[DeletedEntry] = Constrained(description="The last deleted first.")
