"""What is tidied now and then: runners nothing needs, files nothing refers to, sessions and links that are over."""

import logging
import shutil
import threading
from collections.abc import Iterable

from ..runners.failures import RunnerUnavailable
from ..store.database import DATABASE_ERRORS, database
from ..store.environments import environments_in_use, forget_environments
from ..store.jobs import delete_job, end_job, old_jobs
from ..store.retention import forget_inputs
from ..store.sessions import forget_ended
from ..store.summaries import forget_old_summaries
from .model_intake import needed_jobs
from .services import Services

__all__ = ["Housekeeping", "retire_unneeded"]

log = logging.getLogger("housekeeping")

EVERY_SECONDS = 60.0
# What is kept by the day is looked through by the hour.
TICKS_AN_HOUR = 60


def retire_unneeded(services: Services, *, but: Iterable[str] = ()) -> None:
    """Let go of the runners that neither a draft nor a live release needs.

    Parameters
    ----------
    services : Services
    but : iterable of str, optional
        Names of runners that stay all the same.

    Raises
    ------
    RunnerUnavailable
        If the keeper does not answer.
    """
    services.runners.retire_all_but([*(job.key for job in needed_jobs(services)), *but])


def forget_old_jobs(services: Services) -> None:
    """Forget jobs that are kept no longer, with what came of them.

    Parameters
    ----------
    services : Services
    """
    for job in old_jobs():
        if end_job(job, "cancelled") and job.file_id:
            services.files.let_go([job.file_id])
        shutil.rmtree(services.settings.jobs / job.token, ignore_errors=True)
        delete_job(job)


def clean_environments(services: Services) -> None:
    """Let go of environments that no model needs, longest unused first, until all of them fit.

    Parameters
    ----------
    services : Services
    """
    services.environments.sweep(older_than=2 * services.settings.limits.environment_seconds)
    most = services.settings.limits.all_environments_bytes
    forget_environments(services.environments.clean_up(environments_in_use(), most_bytes=most))


class Housekeeping:
    """A thread that tidies while nobody looks.

    Parameters
    ----------
    services : Services
    """

    def __init__(self, services: Services) -> None:
        self._services = services
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._run, name="housekeeping", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Begin nothing new."""
        self._stopping.set()

    def _run(self) -> None:
        before: list[str] = []
        ticks = 0
        while not self._stopping.wait(EVERY_SECONDS):
            try:
                with database.connection_context():
                    # What was needed until a moment ago may still be answering.
                    retire_unneeded(self._services, but=before)
                    before = [job.key for job in needed_jobs(self._services)]
                    self._services.files.sweep()
                    forget_ended()
                    forget_old_jobs(self._services)
                    if ticks % TICKS_AN_HOUR == 0:
                        clean_environments(self._services)
                        forget_old_summaries()
                        forget_inputs()
                    ticks += 1
            except (RunnerUnavailable, *DATABASE_ERRORS) as error:
                log.info("not tidied this time: %s", error)
