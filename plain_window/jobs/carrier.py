"""The process that carries jobs out: looks at tables as they come, and carries out a few jobs at a time.

It holds nothing that would be lost with it. What is finished stands in the database and on disk, chunk by chunk; when
it comes back, or the database does, every job goes on where it stood.
"""

import contextlib
import logging
import os
import signal
import socket
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from types import FrameType

from ..authoring.services import Services, make_services
from ..log_files import log_to_stderr
from ..runners.failures import RunnerUnavailable
from ..runners.protocol import with_address
from ..runners.work import cluster_job
from ..settings import Settings, read_settings
from ..store.database import DATABASE_ERRORS, database, use_database
from ..store.jobs import OF_REFERENCE, end_job, unfinished_jobs
from ..store.records import Job
from .carried_job import CarriedJob
from .film_job import FilmJob
from .forgetting import forget_left_films
from .insisting import insisted
from .interest import is_left
from .making_job import EnvironmentJob, ModelJob
from .reference_job import DriftJob, ImportanceJob
from .starter_job import StarterJob
from .table_job import TableJob, is_small

__all__ = ["Carrier", "main", "wake"]

log = logging.getLogger("jobs")

LOOKS_AT_ONCE, SMALL_AT_ONCE, LARGE_AT_ONCE, REFERENCE_AT_ONCE = 3, 2, 2, 2
# Films take a core for decoding and one for the model; two of them at once would be slower than one after another.
FILMS_AT_ONCE = max(1, (os.cpu_count() or 1) // 2)
# Fitting takes a core, and as much memory as a runner may have.
STARTERS_AT_ONCE = max(1, (os.cpu_count() or 1) // 2)
# How often it looks by itself, should nobody have told it.
LOOK_SECONDS, PICK_UP_SECONDS = 2.0, 0.02
# Workers that nobody has needed for so long are let go of.
IDLE_SECONDS = 60.0
# It gives way to whoever waits for one answer.
NICENESS = 5
KINDS: dict[str, type[CarriedJob]] = {
    "table": TableJob,
    "video": FilmJob,
    "environment": EnvironmentJob,
    "model": ModelJob,
    "starter": StarterJob,
    "importance": ImportanceJob,
    "drift": DriftJob,
}
UNEXPECTED = "Something went wrong here, not with the file. Try again."


def wake(settings: Settings) -> None:
    """Tell it that there is something to do. Nothing is lost if it is not there: it looks when it comes.

    Parameters
    ----------
    settings : Settings
    """
    with socket.socket(socket.AF_UNIX, socket.SOCK_DGRAM) as line, contextlib.suppress(OSError):
        line.setblocking(False)
        with_address(settings.carrier_socket, line.connect)
        line.send(b".")


class Carrier:
    """Carries out all jobs of one Plain Window.

    Parameters
    ----------
    services : Services
    """

    def __init__(self, services: Services) -> None:
        self._services = services
        self._stopping = threading.Event()
        self._looks = ThreadPoolExecutor(LOOKS_AT_ONCE, thread_name_prefix="look")
        self._small = ThreadPoolExecutor(SMALL_AT_ONCE, thread_name_prefix="small")
        self._large = ThreadPoolExecutor(LARGE_AT_ONCE, thread_name_prefix="large")
        self._environments = ThreadPoolExecutor(1, thread_name_prefix="environment")
        self._models = ThreadPoolExecutor(1, thread_name_prefix="model")
        self._starters = ThreadPoolExecutor(STARTERS_AT_ONCE, thread_name_prefix="starter")
        self._of_reference = ThreadPoolExecutor(REFERENCE_AT_ONCE, thread_name_prefix="reference")
        self._films = ThreadPoolExecutor(FILMS_AT_ONCE, thread_name_prefix="film")
        self._under_way: set[tuple[int, str]] = set()
        self._lock = threading.Lock()
        self._last_busy = 0.0
        self._has_workers = False

    def stop(self) -> None:
        """Begin nothing new, and leave what is under way where it stands."""
        self._stopping.set()

    def run(self, woken: socket.socket) -> None:
        """Carry out jobs until told to stop.

        Parameters
        ----------
        woken : socket.socket
            Where `wake` writes to.
        """
        woken.settimeout(LOOK_SECONDS)
        while not self._stopping.is_set():
            with contextlib.suppress(*DATABASE_ERRORS), database.connection_context():
                self._pick_up()
            self._let_workers_go()
            with contextlib.suppress(TimeoutError):
                woken.recv(64)
            # However often it is told: what comes together is picked up together.
            self._stopping.wait(PICK_UP_SECONDS)

    def _pick_up(self) -> None:
        forget_left_films(self._services)
        for job in unfinished_jobs():
            if job.kind == "video" and job.state == "waiting" and is_left(self._services.settings, job):
                FilmJob(self._services, job, self._stopping).leave()
                continue
            with self._lock:
                key = (job.id, job.stage)
                if key in self._under_way:
                    continue
                self._under_way.add(key)
            # What takes a second never waits for what takes an hour.
            self._pool_for(job).submit(self._do, job, key)

    def _pool_for(self, job: Job) -> ThreadPoolExecutor:
        if job.stage == "look":
            return self._looks
        if job.kind == "video":
            return self._films
        if job.kind == "environment":
            return self._environments
        if job.kind == "model":
            return self._models
        if job.kind == "starter":
            return self._starters
        if job.kind in OF_REFERENCE:
            return self._of_reference
        return self._small if is_small(job) else self._large

    def _do(self, job: Job, key: tuple[int, str]) -> None:
        try:
            # It may have been ended, or begun by hand, while it waited for its turn.
            now = insisted(lambda: Job.get_or_none(Job.id == job.id))
            if now is None or now.ended is not None or self._stopping.is_set():
                return
            self._last_busy, self._has_workers = time.monotonic(), True
            carried: CarriedJob = KINDS[now.kind](self._services, now, self._stopping)
            carried.look() if now.stage == "look" else carried.carry_out()
        except Exception:
            # Nobody knows that this happens; tried again it would happen again.
            log.exception("job %s", job.token[:8])
            insisted(lambda: end_job(job, "failed", UNEXPECTED))
        finally:
            self._last_busy = time.monotonic()
            with self._lock:
                self._under_way.discard(key)
            wake(self._services.settings)

    def _let_workers_go(self) -> None:
        is_idle = not self._under_way and time.monotonic() - self._last_busy > IDLE_SECONDS
        if self._has_workers and is_idle:
            with contextlib.suppress(RunnerUnavailable):
                self._services.runners.retire(cluster_job(self._services.settings).key)
                self._has_workers = False


def main() -> None:
    """Run the carrier until it is told to stop."""
    log_to_stderr()
    settings = read_settings()
    use_database(os.environ["PLAINWINDOW_DATABASE_URL"])
    os.nice(NICENESS)
    carrier = Carrier(make_services(settings))

    def stop(_number: int, _frame: FrameType | None) -> None:
        carrier.stop()
        settings.carrier_socket.unlink(missing_ok=True)
        # Threads wait for workers and for a database; what they do stands where it stood when they end with this.
        os._exit(0)

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    settings.carrier_socket.unlink(missing_ok=True)
    with socket.socket(socket.AF_UNIX, socket.SOCK_DGRAM) as woken:
        with_address(settings.carrier_socket, woken.bind)
        settings.carrier_socket.chmod(0o600)
        carrier.run(woken)


if __name__ == "__main__":
    main()
