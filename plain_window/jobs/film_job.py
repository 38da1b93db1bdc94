"""A film: looked at, then asked about frame by frame; carried on where it stood."""

import logging
import threading
import time
from collections import deque
from concurrent.futures import Future

import msgspec

from ..authoring.model_intake import runner_job
from ..authoring.services import Services
from ..core.documents import DemoDocument
from ..core.errors import FilmNotRead
from ..core.films.expected import expected_moments
from ..runners.failures import RunnerFailed, RunnerUnavailable
from ..runners.file_line import WorkLost
from ..runners.film_line import FilmLine
from ..store.jobs import change_job, model_of_job, record_chunk
from ..store.records import Job
from .carried_job import Cancelled, CarriedJob, TooLong
from .film_asking import FilmAsking
from .film_options import FilmFound, FilmOptions, FrameAnswer
from .insisting import insisted
from .interest import is_left

__all__ = ["LEFT_WORDS", "FilmJob", "film_line", "frames_name"]

log = logging.getLogger("jobs")

# How often what came of frames is written down: whoever watches sees them come.
KEEP_SECONDS = 0.3
# Frames that are ready for the model while it is asked about others.
MOST_AHEAD = 6
# If it fails for so many frames and has answered none, it will fail for all.
FEWEST_FAULTS = 20
LEFT_WORDS = "Nobody asked about it any more."
# So much may be missing at a film's end before that is said.
MISSING_SECONDS = 1.0


class FilmJob(CarriedJob):
    """One job of a film, as far as it goes in this life of the process.

    Parameters
    ----------
    services : Services
    job : Job
        Its record, as it is now.
    stopping : threading.Event
        Set when the process is to end: the job is carried on in the next.
    """

    noun, piece, keeps_file = "film", "frame", True

    def __init__(self, services: Services, job: Job, stopping: threading.Event) -> None:
        super().__init__(services, job, stopping)
        self._options = FilmOptions.model_validate_json(job.options)
        self._document = DemoDocument.model_validate_json(job.document)
        self._runner = insisted(lambda: runner_job(services, model_of_job(job), self._document))

    def look(self) -> None:
        """Find out what the film is; then it waits for its turn, or is refused."""
        try:
            with film_line(self._services, self._job) as film:
                looked = film.look()
                # What is begun next goes on with it.
                film.is_kept = True
        except FilmNotRead as error:
            self._end("failed", str(error))
            return
        except RunnerFailed as error:
            self._end("failed", f"The film cannot be looked at here: {error}")
            return
        except (WorkLost, RunnerUnavailable) as error:
            log.warning("job %s: %s", self._job.token[:8], error)
            self._end("failed", self._not_looked_at)
            return
        rate = self._options.rate or self._document.film_rate
        found = FilmFound(
            width=looked.width,
            height=looked.height,
            seconds=looked.seconds,
            film_rate=looked.rate,
            has_sound=looked.has_sound,
            rate=rate,
        )
        total = expected_moments(looked.seconds, looked.rate, rate)
        insisted(lambda: change_job(self._job, found=found.model_dump_json(), stage="ready", total=total))

    def leave(self) -> None:
        """End it: whoever wanted it has gone."""
        self._end("cancelled", LEFT_WORDS)
        self._folder.remove()

    def _carry_on(self) -> None:
        found = FilmFound.model_validate_json(self._job.found or "")
        asking = FilmAsking(
            self._services, self._document, self._runner, self._options, by_author=bool(self._job.by_author)
        )
        try:
            with film_line(self._services, self._job) as film:
                film.begin(found.rate, without=self._job.done, preparation=asking.preparation)
                self._folder.make()
                self._ask_all(film, asking, found)
        finally:
            asking.close()

    def _ask_all(self, film: FilmLine, asking: FilmAsking, found: FilmFound) -> None:
        """Frame after frame, several under way at a time; what came of them is kept every now and then."""
        under_way: deque[Future[FrameAnswer]] = deque()
        answers: list[FrameAnswer] = []
        kept, is_last, until = time.monotonic(), False, 0.0
        while not is_last or under_way:
            if not is_last and len(under_way) < MOST_AHEAD:
                read = film.next_frames()
                is_last, until = read.is_last, read.until
                under_way += [asking.ask(frame) for frame in read.frames]
            while under_way and (is_last or len(under_way) >= MOST_AHEAD or under_way[0].done()):
                answers.append(under_way.popleft().result())
                if time.monotonic() - kept > KEEP_SECONDS:
                    break
            if answers and time.monotonic() - kept > KEEP_SECONDS:
                self._keep(answers)
                answers, kept = [], time.monotonic()
            self._check()
        if answers:
            self._keep(answers)
        self._done(found, until)

    def _keep(self, answers: list[FrameAnswer]) -> None:
        job = self._job
        lines = b"".join(msgspec.json.encode(answer) + b"\n" for answer in answers)
        self._folder.keep(frames_name(job.chunks), lines)
        n_faults = sum(bool(answer.fault) for answer in answers)
        numbers = {
            "chunks": job.chunks + 1,
            "done": job.done + len(answers),
            "answered": job.answered + len(answers) - n_faults,
            "faults": job.faults + n_faults,
        }
        total = None if job.total is None else max(job.total, numbers["done"])
        # On disk before it is said to be: whatever dies in between, it is written again.
        if not insisted(lambda: record_chunk(job, total=total, **numbers)):
            raise Cancelled
        for name, value in {**numbers, "total": total}.items():
            setattr(job, name, value)

    def _check(self) -> None:
        if self._stopping.is_set():
            raise WorkLost("the process ends")
        if self._is_too_long:
            raise TooLong
        if is_left(self._services.settings, self._job):
            self._end("cancelled", LEFT_WORDS)
            raise Cancelled
        if self._job.faults >= FEWEST_FAULTS and not self._job.answered:
            raise FilmNotRead(f"The model could answer none of the first {self._job.faults} frames.")

    def _done(self, found: FilmFound, until: float) -> None:
        insisted(lambda: change_job(self._job, total=self._job.done))
        step = 1 / min(found.rate, found.film_rate)
        is_short = found.seconds is not None and until + step < found.seconds - MISSING_SECONDS
        self._end("done", f"The film breaks off after {until:.0f} of {found.seconds:.0f} seconds." if is_short else "")


def film_line(services: Services, job: Job, *, key: str = "") -> FilmLine:
    """A line to whoever reads a job's film.

    Parameters
    ----------
    services : Services
    job : Job
    key : str, optional
        What the process is for, if not for the job itself.

    Raises
    ------
    FileNotFoundError
        If the film is not kept any more.
    RunnerUnavailable, RunnerFailed
        If no such process can be had.
    """
    if job.file_id is None:
        raise FileNotFoundError(job.token)
    limits = services.settings.limits
    most_seconds = limits.film_seconds if job.by_author else limits.visitor_film_seconds
    file = open(services.files.path(job.file_id), "rb")  # noqa: SIM115 -- closed with the line
    return FilmLine(services.runners, services.settings, file, key or job.token, most_seconds=most_seconds)


def frames_name(chunk: int) -> str:
    """What the file of a piece of a film's answers is called.

    Parameters
    ----------
    chunk : int
    """
    return f"{chunk:06}.frames"
