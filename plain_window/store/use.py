"""How a demo is used by its visitors: counted day by day, without anything that was entered."""

import datetime as dt
from dataclasses import dataclass

from .database import database, now
from .log import FAILED

__all__ = ["Day", "Times", "days_of", "times_of"]

# Of so many of the last answers the times are told.
ANSWERS_TIMED = 10_000


@dataclass(frozen=True)
class Day:
    """One day's calls by visitors. A day is one of UTC."""

    day: dt.date
    answers: int
    failures: int
    refused: int


@dataclass(frozen=True)
class Times:
    """How long answers took, in milliseconds: half of them less, and 95 of 100 less."""

    median: float
    of_95: float


def days_of(demo_id: int, *, days: int) -> list[Day]:
    """The last days on which visitors asked anything, the newest first.

    Parameters
    ----------
    demo_id : int
        The record's number.
    days : int
        How many days to look back.
    """
    marks = ", ".join(["%s"] * len(FAILED))
    rows = database.execute_sql(
        "SELECT DATE(at), SUM(outcome = 'answered'), "
        f"SUM(outcome IN ({marks})), SUM(outcome = 'refused') FROM prediction "
        "WHERE demo_id = %s AND NOT by_author AND at > %s GROUP BY DATE(at) ORDER BY DATE(at) DESC",
        (*FAILED, demo_id, now() - dt.timedelta(days=days)),
    ).fetchall()
    return [Day(day, int(answers), int(failures), int(refused)) for day, answers, failures, refused in rows]


def times_of(demo_id: int) -> Times | None:
    """How long the last answers to visitors took; None if there were none.

    Parameters
    ----------
    demo_id : int
        The record's number.
    """
    rows = database.execute_sql(
        "SELECT duration_ms FROM prediction WHERE demo_id = %s AND outcome = 'answered' AND NOT by_author "
        "ORDER BY at DESC LIMIT %s",
        (demo_id, ANSWERS_TIMED),
    ).fetchall()
    taken = sorted(float(milliseconds) for (milliseconds,) in rows)
    if not taken:
        return None
    return Times(taken[(len(taken) - 1) // 2], taken[-(-95 * len(taken) // 100) - 1])
