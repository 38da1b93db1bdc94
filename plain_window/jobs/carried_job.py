"""What all jobs have in common: carried on where they stood, whatever is lost, and ended once."""

import contextlib
import errno
import logging
import threading
from abc import ABC, abstractmethod
from typing import ClassVar

from ..authoring.services import Services
from ..core.errors import FilmNotRead, TableNotRead
from ..runners.failures import RunnerFailed, RunnerUnavailable
from ..runners.file_line import WorkLost
from ..store.database import DATABASE_ERRORS, database, now
from ..store.jobs import ENDED, JobState, change_job, end_job, note_event, start_running
from ..store.records import Job
from .folder import JobFolder
from .insisting import insisted

__all__ = ["Cancelled", "CarriedJob", "TooLong"]

log = logging.getLogger("jobs")

# How often in a row the same piece may be lost before the job is given up.
MOST_LOSSES = 4
# How many seconds in all whoever does the work may be away.
MOST_WAITS = 300


class Cancelled(Exception):
    """Nobody wants it any more."""


class TooLong(Exception):
    """It takes longer than it may."""


class CarriedJob(ABC):
    """One job, as far as it goes in this life of the process.

    Parameters
    ----------
    services : Services
    job : Job
        Its record, as it is now.
    stopping : threading.Event
        Set when the process is to end: the job is carried on in the next.
    """

    # What its file is called in sentences, and what that consists of.
    noun: ClassVar[str]
    piece: ClassVar[str]
    # Whether the file is needed when the job is done, until it is forgotten.
    keeps_file: ClassVar[bool] = False

    def __init__(self, services: Services, job: Job, stopping: threading.Event) -> None:
        self._services, self._job, self._stopping = services, job, stopping
        self._folder = JobFolder(services.settings.jobs, job.token)

    @abstractmethod
    def look(self) -> None:
        """Look at the file; then wait, be ready, or be refused."""

    @abstractmethod
    def _carry_on(self) -> None:
        """Do what is not done yet."""

    def carry_out(self) -> None:
        """Do all that is not done yet, and end the job."""
        try:
            self._job.started = self._job.started or now()
            if not insisted(lambda: start_running(self._job)):
                return
            self._with_losses()
        except Cancelled:
            self._folder.remove()
            log.info("job %s is cancelled", self._job.token[:8])
        except TooLong:
            self._end(
                "failed",
                f"It took longer than a visitor's {self.noun} may take. "
                f"Answers for the {self.piece}s up to there are kept.",
            )
        except (TableNotRead, FilmNotRead) as error:
            self._end("failed", str(error))
        except FileNotFoundError:
            if insisted(lambda: change_job(self._job, stage="ready")):
                raise
            # Whoever cancelled it has taken its folder away, while something was put into it.
            self._folder.remove()
            log.info("job %s is cancelled", self._job.token[:8])
        except OSError as error:
            if error.errno not in (errno.ENOSPC, errno.EDQUOT):
                raise
            self._folder.remove()
            nothing = {"chunks": 0, "done": 0, "answered": 0, "faults": 0}
            insisted(lambda: change_job(self._job, **nothing))
            self._end("failed", f"There is no room left on this server's disk for what comes of the {self.noun}.")

    def _with_losses(self) -> None:
        """Carry on after each loss; the same piece that is lost again and again is given up."""
        n_losses, lost_at, n_waits = 0, -1, 0
        while True:
            try:
                self._carry_on()
                return
            except RunnerUnavailable:
                # The keeper is coming back, or what it starts; nothing was lost over this piece.
                n_waits += 1
                if self._stopping.wait(1.0):
                    return
                if n_waits >= MOST_WAITS:
                    self._end("failed", self._given_up)
                    return
            except WorkLost as error:
                if self._stopping.is_set():
                    return
                chunks = self._job.chunks
                n_losses, lost_at = (n_losses + 1 if chunks == lost_at else 1), chunks
                self._note(f"Lost at {self.piece} {self._job.done + 1} ({error}); carried on from there.")
                if n_losses >= MOST_LOSSES:
                    self._end("failed", f"{self._given_up} ({error})" if self._job.by_author else self._given_up)
                    return
                self._stopping.wait(1.0)
            except RunnerFailed as error:
                self._end("failed", f"The model cannot be asked: {error}")
                return

    @property
    def _given_up(self) -> str:
        return (
            f"The process that reads the {self.noun}, or asks the model, ended again and again. "
            "Nothing more can be had of it."
        )

    @property
    def _not_looked_at(self) -> str:
        noun = self.noun
        return f"What was to look at the {noun} ended over it. Try again; should it happen again, save the {noun} anew."

    @property
    def _is_too_long(self) -> bool:
        begun, seconds = self._job.started, self._services.settings.limits.visitor_job_seconds
        return not self._job.by_author and begun is not None and (now() - begun).total_seconds() > seconds

    def _is_over(self) -> bool:
        def state() -> str | None:
            found = Job.get_or_none(Job.id == self._job.id)
            return None if found is None else found.state

        return insisted(state) in (None, *ENDED)

    def _note(self, text: str) -> None:
        insisted(lambda: note_event(self._job, text))

    def _end(self, state: JobState, detail: str = "") -> None:
        keeps_file = self.keeps_file and state == "done"
        if not insisted(lambda: end_job(self._job, state, detail, keeps_file=keeps_file)):
            return
        if detail:
            self._note(detail)
        if self._job.file_id and not keeps_file:
            # Once and not again: another may hold the same file. What is left so is swept away later.
            with contextlib.suppress(OSError, *DATABASE_ERRORS), database.connection_context():
                self._services.files.let_go([self._job.file_id])
