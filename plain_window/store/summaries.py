"""What visitors enter, summed up: how many cases fell into which bin of a field, week by week. No value is kept.

A page asks many times while a control is dragged, a text written or a drawing drawn: that is one case. It counts once
it has stood for some seconds, or once the same page asks about another that differs in more than one field. What a
program asks is a case each time.
"""

import datetime as dt
import functools
import logging
import threading
import time
from collections import Counter
from collections.abc import Callable, Hashable, Iterable, Mapping
from typing import Any, NamedTuple

from .database import DATABASE_ERRORS, database, now

__all__ = ["EnteredSummaries", "bin_counts", "forget_old_summaries"]

log = logging.getLogger("summaries")

FLUSH_SECONDS = 2.0
STANDS_SECONDS = 3.0
# Cases that may yet change, and counts that wait for the database.
MOST_MOVING, MOST_WAITING = 5000, 200_000
ROWS_AT_ONCE = 500
KEPT_WEEKS = 52

FIRST_DAY = dt.date(1970, 1, 1).toordinal()
DAY_SECONDS = 86_400


class _Group(NamedTuple):
    """What is counted together."""

    demo_id: int
    model_id: int
    week: dt.date


class _Moving(NamedTuple):
    """A case that its visitor may still be changing."""

    at: float
    demo_id: int
    model_id: int
    values: Mapping[str, Any]
    bins: Callable[[], Mapping[str, int]]


class EnteredSummaries:
    """Counts cases and writes the counts behind. One for each web process, made after the process forked."""

    def __init__(self) -> None:
        self._moving: dict[Hashable, _Moving] = {}
        # How many cases, by field and bin.
        self._counts: dict[_Group, Counter[tuple[str, int]]] = {}
        self._n_counts = 0
        self._lock = threading.Lock()
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._run, name="entered-summaries", daemon=True)
        self._thread.start()

    def add(
        self,
        *,
        demo_id: int,
        model_id: int,
        page_of: str | None,
        values: Mapping[str, object],
        bins: Callable[[], Mapping[str, int]],
    ) -> None:
        """Count a case that was answered.

        Parameters
        ----------
        demo_id, model_id : int
            The records' numbers.
        page_of : str or None
            The visitor on whose page the case may still change, which is not kept; None for a program's.
        values : mapping of str to value
            By field that has bins; forgotten once the case stands.
        bins : callable
            The bin of each, and of the answer; asked once the case stands.
        """
        new = _Moving(time.monotonic(), demo_id, model_id, values, bins)
        with self._lock:
            if page_of is None:
                self._count(new)
                return
            before = self._moving.pop((demo_id, page_of), None)
            if before is not None and not _is_same_case(before, new):
                self._count(before)
            self._moving[(demo_id, page_of)] = new
            while len(self._moving) > MOST_MOVING:
                self._count(self._moving.pop(next(iter(self._moving))))

    def stop(self) -> None:
        """Write what is left and end. Call when no more cases come."""
        self._stopping.set()
        self._thread.join()

    def _run(self) -> None:
        while not self._stopping.wait(FLUSH_SECONDS):
            self._settle(time.monotonic() - STANDS_SECONDS)
            self._write()
        self._settle(float("inf"))
        self._write()

    def _settle(self, before: float) -> None:
        with self._lock:
            for who in [who for who, case in self._moving.items() if case.at <= before]:
                self._count(self._moving.pop(who))

    def _count(self, case: _Moving) -> None:
        if self._n_counts < MOST_WAITING:
            group = _Group(case.demo_id, case.model_id, _this_week())
            self._add_counts(group, case.bins().items())

    def _add_counts(self, group: _Group, of_bins: Iterable[tuple[str, int]] | Mapping[tuple[str, int], int]) -> None:
        counts = self._counts.setdefault(group, Counter())
        n_before = len(counts)
        counts.update(of_bins)
        self._n_counts += len(counts) - n_before

    def _write(self) -> None:
        with self._lock:
            counts, self._counts, self._n_counts = self._counts, {}, 0
        rows = [(*group, *bin_, cases) for group in sorted(counts) for bin_, cases in sorted(counts[group].items())]
        try:
            with database.connection_context():
                while rows:
                    _add(rows[:ROWS_AT_ONCE])
                    del rows[:ROWS_AT_ONCE]
        except DATABASE_ERRORS as error:
            log.warning("%d counts wait for the database: %s", len(rows), error)
            with self._lock:
                for demo_id, model_id, week, name, at, cases in rows:
                    self._add_counts(_Group(demo_id, model_id, week), {(name, at): cases})


def _this_week() -> dt.date:
    return _week_of(int(time.time() // DAY_SECONDS))


@functools.lru_cache(maxsize=4)
def _week_of(day: int) -> dt.date:
    """The Monday before or on a day, counted from 1970 as the clock counts (UTC)."""
    date = dt.date.fromordinal(FIRST_DAY + day)
    return date - dt.timedelta(days=date.weekday())


def _is_same_case(before: _Moving, new: _Moving) -> bool:
    """Whether one control of a case has been moved, a moment ago."""
    if new.at - before.at > STANDS_SECONDS or before.model_id != new.model_id:
        return False
    moved = [name for name, value in new.values.items() if before.values.get(name) != value]
    return len(moved) <= 1


def _add(rows: list[tuple[Any, ...]]) -> None:
    marks = ", ".join(["(%s, %s, %s, %s, %s, %s)"] * len(rows))
    # A demo that is deleted for good takes its counts along; what comes after has nowhere to go.
    database.execute_sql(
        f"INSERT IGNORE INTO entered_summary (demo_id, model_id, week, field, bin, cases) VALUES {marks} "
        "ON DUPLICATE KEY UPDATE cases = cases + VALUES(cases)",
        [value for row in rows for value in row],
    )


def bin_counts(demo_id: int, model_id: int, *, weeks: int) -> dict[str, dict[int, int]]:
    """How many visitors' cases fell into each bin, by field.

    Parameters
    ----------
    demo_id, model_id : int
        The records' numbers.
    weeks : int
        How many weeks to look back, this one among them.
    """
    since = _this_week() - dt.timedelta(weeks=weeks - 1)
    rows = database.execute_sql(
        "SELECT field, bin, SUM(cases) FROM entered_summary WHERE demo_id = %s AND model_id = %s AND week >= %s "
        "GROUP BY field, bin",
        (demo_id, model_id, since),
    ).fetchall()
    found: dict[str, dict[int, int]] = {}
    for field, at, cases in rows:
        found.setdefault(field, {})[int(at)] = int(cases)
    return found


def forget_old_summaries() -> None:
    """Drop counts that are older than they are kept."""
    before = now().date() - dt.timedelta(weeks=KEPT_WEEKS)
    database.execute_sql("DELETE FROM entered_summary WHERE week < %s", (before,))
