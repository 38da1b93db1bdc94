"""What a web process holds, reached from a request with `state()`."""

from dataclasses import dataclass
from typing import cast

from flask import current_app

from ..authoring.workshop import Workshop
from ..store.predictions import PredictionLog
from .rate import RateLimit
from .served import KnownAuthor, Remembered, ServedDemo

__all__ = ["WebState", "state"]


@dataclass(frozen=True)
class WebState:
    """Everything that lives as long as the process."""

    workshop: Workshop
    served: Remembered[str, ServedDemo | None]
    authors: Remembered[int, KnownAuthor | None]
    keys: Remembered[str, KnownAuthor | None]
    predictions: PredictionLog
    rate: RateLimit


def state() -> WebState:
    """The state of the process that handles this request."""
    return cast(WebState, current_app.extensions["plain_window"])
