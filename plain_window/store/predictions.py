"""One entry a prediction, written in small batches off the request's path.

An entry is in the database within a fraction of a second of its prediction. An orderly stop writes what is left; a
process that is killed loses at most what had not yet been written, which is less than a second's worth. While the
database is away entries wait in memory, up to a bound.
"""

import datetime as dt
import logging
import threading
from collections import deque
from typing import NamedTuple

from .database import DATABASE_ERRORS, database, now

__all__ = ["Entry", "PredictionLog"]

log = logging.getLogger("predictions")

FLUSH_SECONDS = 0.25
BATCH_ROWS = 500
# About ten minutes at a hundred predictions a second, and some 20 MB.
MAX_WAITING = 60_000
RETRY_SECONDS = 1.0
# Written out: building this statement from records took more of the processor than answering the requests did.
INSERT = "INSERT INTO prediction (at, demo_id, release_number, duration_ms, outcome, inputs) VALUES "
# Only what visitors entered can hold anything to escape; escaping the rest too took most of the time.
ROW = "('%s', %d, %s, %.3f, '%s', %s)"


class Entry(NamedTuple):
    """One prediction, as it is recorded."""

    at: dt.datetime
    demo_id: int
    release_number: int | None
    duration_ms: float
    outcome: str
    inputs: str | None


class PredictionLog:
    """Takes entries at once and writes them behind. One for each web process, made after the process forked."""

    def __init__(self) -> None:
        self._waiting: deque[Entry] = deque(maxlen=MAX_WAITING)
        self._wake = threading.Event()
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._run, name="prediction-log", daemon=True)
        self._thread.start()

    def add(
        self, *, demo_id: int, release_number: int | None, duration_ms: float, outcome: str, inputs: str | None
    ) -> None:
        """Record one prediction."""
        self._waiting.append(Entry(now(), demo_id, release_number, duration_ms, outcome, inputs))

    def stop(self) -> None:
        """Write what is left and end. Call when no more entries come."""
        self._stopping.set()
        self._wake.set()
        self._thread.join()

    def _run(self) -> None:
        while not self._stopping.is_set():
            self._wake.wait(FLUSH_SECONDS)
            self._write_waiting()
        self._write_waiting()

    def _write_waiting(self) -> None:
        while self._waiting:
            batch = [self._waiting.popleft() for _ in range(min(BATCH_ROWS, len(self._waiting)))]
            try:
                with database.connection_context():
                    given = [entry.inputs for entry in batch if entry.inputs is not None]
                    database.execute_sql(INSERT + ", ".join(map(_row, batch)), given)
            except DATABASE_ERRORS as error:
                # Back in front, in order; a full queue would drop the newest from its far end instead.
                self._waiting.extendleft(reversed(batch[: MAX_WAITING - len(self._waiting)]))
                log.warning("%d entries wait for the database: %s", len(self._waiting), error)
                if self._stopping.wait(RETRY_SECONDS):
                    return


def _row(entry: Entry) -> str:
    release = "NULL" if entry.release_number is None else str(int(entry.release_number))
    inputs = "NULL" if entry.inputs is None else "%s"
    if not entry.outcome.isalpha():
        raise ValueError(f"no outcome is called {entry.outcome!r}")
    return ROW % (entry.at.isoformat(" "), entry.demo_id, release, entry.duration_ms, entry.outcome, inputs)
