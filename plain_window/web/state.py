"""What a web process holds, reached from a request with `state()`."""

from dataclasses import dataclass
from typing import cast

from flask import current_app

from ..authoring.services import Services
from ..store.predictions import PredictionLog
from ..store.summaries import EnteredSummaries
from .answer_ids import AnswerIds
from .browser_answers import PackedFiles
from .check_results import CheckResults
from .lookups import (
    Door,
    KnownKey,
    KnownSession,
    Remembered,
    ServedDemo,
)
from .quick_models import QuickModels
from .rate import GrowingWait, RateLimit
from .speeds import Speeds

__all__ = ["WebState", "state"]


@dataclass(frozen=True)
class WebState:
    """Everything that lives as long as the process."""

    services: Services
    doors: Remembered[None, dict[str, Door]]
    served: Remembered[str, ServedDemo | None]
    sessions: Remembered[str, KnownSession | None]
    keys: Remembered[str, KnownKey | None]
    predictions: PredictionLog
    summaries: EnteredSummaries
    rate: RateLimit
    guesses: GrowingWait
    answer_ids: AnswerIds
    quick_models: QuickModels
    checks: CheckResults
    packed_files: PackedFiles
    speeds: Speeds


def state() -> WebState:
    """The state of the process that handles this request."""
    return cast(WebState, current_app.extensions["plain_window"])
