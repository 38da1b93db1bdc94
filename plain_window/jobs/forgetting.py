"""Jobs that are forgotten with all that came of them, and with what they were made of."""

from ..authoring.services import Services
from ..store.jobs import delete_job, kept_films
from ..store.records import Job
from .folder import JobFolder
from .interest import is_left

__all__ = ["forget_job", "forget_left_films"]


def forget_job(services: Services, job: Job) -> None:
    """Forget a job that is over.

    Parameters
    ----------
    services : Services
    job : Job
    """
    file = job.file_id
    JobFolder(services.settings.jobs, job.token).remove()
    delete_job(job)
    if file:
        services.files.let_go([file])


def forget_left_films(services: Services) -> None:
    """Forget visitors' films that are over and that nobody has asked about for a while.

    Parameters
    ----------
    services : Services
    """
    for job in kept_films():
        if is_left(services.settings, job):
            forget_job(services, job)
