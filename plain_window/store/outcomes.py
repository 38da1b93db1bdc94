"""What visitors said became of their cases, one entry a prediction; saying it again replaces what was said."""

import datetime as dt
from dataclasses import dataclass

import peewee

from .database import now
from .records import VisitorOutcome

__all__ = ["SaidOutcome", "count_outcomes", "outcomes_of", "save_outcome"]

MOST_OUTCOMES = 10_000


@dataclass(frozen=True)
class SaidOutcome:
    """One visitor's word on one answer."""

    prediction_id: str
    demo_id: int
    release_number: int
    answer: str
    is_right: bool
    truth: str | None = None
    comment: str | None = None


def save_outcome(outcome: SaidOutcome, at: dt.datetime | None = None) -> None:
    """Write it down, in place of what was said of the same prediction before.

    Parameters
    ----------
    outcome : SaidOutcome
    at : datetime or None, optional
        When; now if None.
    """
    VisitorOutcome.replace(at=at or now(), **vars(outcome)).execute()  # type: ignore[no-untyped-call]


def count_outcomes(demo_id: int) -> tuple[int, int]:
    """How many answers of a demo visitors called right, and how many wrong.

    Parameters
    ----------
    demo_id : int
        The record's number.
    """
    right = peewee.fn.SUM(peewee.Case(None, [(VisitorOutcome.is_right, 1)], 0))
    row = VisitorOutcome.select(peewee.fn.COUNT(1), right).where(VisitorOutcome.demo_id == demo_id).tuples().first()
    total, n_right = int(row[0]), int(row[1] or 0)
    return n_right, total - n_right


def outcomes_of(demo_id: int, *, release: int | None = None) -> list[VisitorOutcome]:
    """What visitors said of a demo's answers, the newest first.

    Parameters
    ----------
    demo_id : int
        The record's number.
    release : int or None, optional
        Only of this release's; of all if None.
    """
    found = VisitorOutcome.select().where(VisitorOutcome.demo_id == demo_id)
    if release is not None:
        found = found.where(VisitorOutcome.release_number == release)
    return list(found.order_by(VisitorOutcome.at.desc()).limit(MOST_OUTCOMES))
