"""One entry a prediction, written in small batches off the request's path.

An entry is in the database within a fraction of a second of its prediction. An orderly stop writes what is left; a
process that is killed loses at most what had not yet been written, which is less than a second's worth. While the
database is away entries wait in memory, up to a bound in number and in bytes. A batch that the database refuses is
parted until the entry it refuses stands alone; that one is dropped, and it is said in the log.
"""

import datetime as dt
import logging
import threading
import time
from collections import deque
from typing import NamedTuple

import peewee
from playhouse.pool import MaxConnectionsExceeded

from .database import DATABASE_ERRORS, database, packet_bytes

__all__ = ["Entry", "PredictionLog"]

log = logging.getLogger("predictions")

FLUSH_SECONDS = 0.25
BATCH_ROWS = 500
# About ten minutes at a hundred predictions a second.
MAX_WAITING, MAX_WAITING_BYTES = 60_000, 32 << 20
# What is kept of one visitor's inputs; a row of a thousand numbers is 10 KB.
MOST_INPUT_BYTES = 64 << 10
# Of what the database takes in one piece, how much a batch may fill: text grows when it is escaped.
PACKET_SHARE, ROW_BYTES = 0.3, 200
RETRY_SECONDS = 1.0
# MariaDB's and its client's codes for: too many connections, shutting down, the line broke, no connection, a lock that
# took too long, a deadlock, killed.
AWAY = frozenset({1040, 1053, 1158, 1159, 1160, 1161, 1205, 1213, 1317, 1927, 2002, 2003, 2006, 2013, 2055})
# Written out: building this statement from records took more of the processor than answering the requests did.
INSERT = "INSERT INTO prediction (at, demo_id, release_number, duration_ms, outcome, by_author, inputs) VALUES "
# Only what visitors entered can hold anything to escape; escaping the rest too took most of the time.
ROW = "('%s', %d, %s, %.3f, '%s', %d, %s)"


class Entry(NamedTuple):
    """One prediction, as it is recorded; `at` in seconds since 1970."""

    at: float
    demo_id: int
    release_number: int | None
    duration_ms: float
    outcome: str
    inputs: str | None
    by_author: bool = False


class PredictionLog:
    """Takes entries at once and writes them behind. One for each web process, made after the process forked."""

    def __init__(self) -> None:
        self._waiting: deque[Entry] = deque(maxlen=MAX_WAITING)
        self._waiting_bytes = 0
        self._wake = threading.Event()
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._run, name="prediction-log", daemon=True)
        self._thread.start()

    def add(
        self,
        *,
        demo_id: int,
        release_number: int | None,
        duration_ms: float,
        outcome: str,
        inputs: str | None,
        by_author: bool = False,
    ) -> None:
        """Record one prediction. Inputs that are too long are left out, the entry is kept.

        Parameters
        ----------
        demo_id : int
            The record's number.
        release_number : int or None
            None for the draft.
        duration_ms : float
        outcome : str
        inputs : str or None
            As JSON; None where they are not kept.
        by_author : bool, optional
        """
        size = 0 if inputs is None else len(inputs.encode("utf-8", errors="replace"))
        if size > MOST_INPUT_BYTES or self._waiting_bytes + size > MAX_WAITING_BYTES:
            inputs, size = None, 0
        self._waiting_bytes += size
        self._waiting.append(Entry(time.time(), demo_id, release_number, duration_ms, outcome, inputs, by_author))

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
            batch: list[Entry] = []
            try:
                with database.connection_context():
                    batch = self._next_batch(int(packet_bytes() * PACKET_SHARE))
                    _write(batch)
                    self._waiting_bytes = max(0, self._waiting_bytes - sum(map(_size, batch)))
            except DATABASE_ERRORS as error:
                # Back in front, in order; a full queue would drop the newest from its far end instead.
                self._waiting.extendleft(reversed(batch[: MAX_WAITING - len(self._waiting)]))
                log.warning("%d entries wait for the database: %s", len(self._waiting), error)
                if self._stopping.wait(RETRY_SECONDS):
                    return

    def _next_batch(self, most_bytes: int) -> list[Entry]:
        batch: list[Entry] = []
        size = 0
        while self._waiting and len(batch) < BATCH_ROWS:
            size += _size(self._waiting[0]) + ROW_BYTES
            if batch and size > most_bytes:
                break
            batch.append(self._waiting.popleft())
        return batch


def _size(entry: Entry) -> int:
    return 0 if entry.inputs is None else len(entry.inputs.encode("utf-8", errors="replace"))


def _write(batch: list[Entry]) -> None:
    """Write entries; what the database refuses is parted until the bad one is alone, and that is left out.

    Raises
    ------
    DATABASE_ERRORS
        If the database is away, which is nothing that an entry could be blamed for.
    """
    try:
        parameters = [entry.inputs for entry in batch if entry.inputs is not None]
        database.execute_sql(INSERT + ", ".join(map(_row, batch)), parameters)
    except (peewee.DatabaseError, ValueError) as error:
        if _is_away(error):
            raise
        if len(batch) > 1:
            _write(batch[: len(batch) // 2])
            _write(batch[len(batch) // 2 :])
        else:
            log.warning("an entry is left out: the database does not take it: %s", error)


def _is_away(error: Exception) -> bool:
    """Whether the database was not there, was going, or had no time; anything else is about what it was given."""
    code = error.args[0] if error.args else None
    return isinstance(error, peewee.InterfaceError | MaxConnectionsExceeded) or code in AWAY


def _row(entry: Entry) -> str:
    release = "NULL" if entry.release_number is None else str(int(entry.release_number))
    inputs = "NULL" if entry.inputs is None else "%s"
    if not entry.outcome.isalpha():
        raise ValueError(f"no outcome is called {entry.outcome!r}")
    return ROW % (
        dt.datetime.fromtimestamp(entry.at, dt.UTC).replace(tzinfo=None).isoformat(" "),
        entry.demo_id,
        release,
        entry.duration_ms,
        entry.outcome,
        entry.by_author,
        inputs,
    )
