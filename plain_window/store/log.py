"""What was asked, counted and read back: an author's own tries apart from what visitors asked."""

import datetime as dt
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal

import peewee

from .database import database, now
from .queries import tuples_of
from .records import Prediction

__all__ = ["FAILED", "Counts", "count_predictions", "failing_demos", "find_call", "log_page", "log_rows"]

# How a call ends that the model failed, by whoever asked it.
FAILED = ("failed", "overran")
FAILURE_DAYS = 7
# So many calls in a row that the model failed are no chance.
FAILING_CALLS = 3
ROWS_AT_ONCE = 2000


@dataclass(frozen=True)
class Counts:
    """What became of a demo's calls; `failed` of the last days, `last` of visitors' answers."""

    answered: int = 0
    last: dt.datetime | None = None
    failed: int = 0
    own: int = 0


def count_predictions(demo_ids: Sequence[int]) -> dict[int, Counts]:
    """The counts of several demos, by their ids; none for one that was never asked.

    Parameters
    ----------
    demo_ids : sequence of int
        The records' numbers.
    """
    if not demo_ids:
        return {}
    since = now() - dt.timedelta(days=FAILURE_DAYS)
    answered = (Prediction.outcome == "answered") & ~Prediction.by_author
    failed = Prediction.outcome.in_(FAILED) & ~Prediction.by_author & (Prediction.at > since)
    own = (Prediction.outcome == "answered") & Prediction.by_author
    rows = tuples_of(
        Prediction.select(
            Prediction.demo_id,
            _how_many(answered),
            peewee.fn.MAX(peewee.Case(None, [(answered, Prediction.at)], None)),
            _how_many(failed),
            _how_many(own),
        )
        .where(Prediction.demo_id.in_(demo_ids))
        .group_by(Prediction.demo_id),
        tuple[int, Decimal, dt.datetime | None, Decimal, Decimal],
    )
    return {demo_id: Counts(int(n), last, int(n_failed), int(n_own)) for demo_id, n, last, n_failed, n_own in rows}


def _how_many(condition: peewee.Expression) -> peewee.Function:
    return peewee.fn.SUM(peewee.Case(None, [(condition, 1)], 0))


def failing_demos(demo_ids: Sequence[int]) -> set[int]:
    """The demos whose model failed each of the last calls that reached it.

    Parameters
    ----------
    demo_ids : sequence of int
        The records' numbers.
    """
    if not demo_ids:
        return set()
    reached = (*FAILED, "answered")
    # One query for all, and of each demo only its last calls are read: the index has them in order.
    marks = ", ".join(["%s"] * len(reached))
    of_one = (
        f"(SELECT demo_id, outcome FROM prediction WHERE demo_id = %s AND outcome IN ({marks}) "
        f"ORDER BY at DESC LIMIT {FAILING_CALLS})"
    )
    parameters = [value for demo_id in demo_ids for value in (demo_id, *reached)]
    last: dict[int, list[str]] = {}
    for demo_id, outcome in database.execute_sql(" UNION ALL ".join([of_one] * len(demo_ids)), parameters).fetchall():
        last.setdefault(demo_id, []).append(outcome)
    return {
        demo_id
        for demo_id, outcomes in last.items()
        if len(outcomes) == FAILING_CALLS and all(outcome in FAILED for outcome in outcomes)
    }


def log_page(demo_id: int, *, outcome: str | None, offset: int, limit: int) -> tuple[int, list[Prediction]]:
    """How many calls there are, and some of them, the newest first.

    Parameters
    ----------
    demo_id : int
        The record's number.
    outcome : str or None
        Only those with this one.
    offset : int
        How many to pass over.
    limit : int
        How many to give.
    """
    found = _of(demo_id, outcome)
    return found.count(), list(found.order_by(Prediction.at.desc(), Prediction.id.desc()).offset(offset).limit(limit))


def find_call(demo_id: int, call_id: int) -> Prediction | None:
    """One call of a demo.

    Parameters
    ----------
    demo_id : int
        The record's number.
    call_id : int
        The call's.
    """
    return Prediction.get_or_none(Prediction.demo_id == demo_id, Prediction.id == call_id)


def log_rows(demo_id: int, *, outcome: str | None) -> Iterator[Prediction]:
    """All calls, the newest first, a few at a time.

    Parameters
    ----------
    demo_id : int
        The record's number.
    outcome : str or None
        Only those with this one.
    """
    before: int | None = None
    while True:
        found = _of(demo_id, outcome)
        if before is not None:
            found = found.where(Prediction.id < before)
        some = list(found.order_by(Prediction.id.desc()).limit(ROWS_AT_ONCE))
        yield from some
        if len(some) < ROWS_AT_ONCE:
            return
        before = some[-1].id


def _of(demo_id: int, outcome: str | None) -> "peewee.ModelSelect[Prediction]":
    found = Prediction.select().where(Prediction.demo_id == demo_id)
    return found if outcome is None else found.where(Prediction.outcome == outcome)
