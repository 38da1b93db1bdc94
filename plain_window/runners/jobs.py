"""What a runner is told to hold."""

import hashlib
from pathlib import Path
from typing import Any

from pydantic import BaseModel

__all__ = ["RunnerJob", "job_key"]


class RunnerJob(BaseModel):
    """One model with what belongs to it. `inspection` is what an earlier runner found; it spares reading the table.

    With a `compiled` model, that alone is opened.
    """

    key: str
    model: Path
    preprocessor: Path | None = None
    compiled: Path | None = None
    reference: Path | None = None
    known: Path | None = None
    study: Path | None = None
    background_rows: int = 100
    target: str | None = None
    labels: list[str] | None = None
    # The kind of answer, and by field how pictures are prepared, where the author knows better than what is concluded.
    answer_kind: str | None = None
    preparations: dict[str, dict[str, Any]] = {}
    # How the tables write numbers, where that cannot be told.
    numbers: str | None = None
    inspection: dict[str, Any] | None = None

    @property
    def pictures(self) -> list[str]:
        """The fields that are pictures or drawings."""
        return list((self.inspection or {}).get("picture_inputs") or {})


def job_key(*parts: str | None) -> str:
    """A name for what a runner holds, made from the hashes of what it was made from: same parts, same runner."""
    return hashlib.sha256("\0".join(part or "" for part in parts).encode()).hexdigest()[:32]
