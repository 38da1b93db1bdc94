"""Whether somebody still waits for a visitor's film: a mark beside what came of it, touched when it is asked about."""

import time

from ..settings import Settings
from ..store.records import Job
from .folder import JobFolder

__all__ = ["is_left", "note_interest"]

MARK = "asked-for"


def note_interest(settings: Settings, job: Job) -> None:
    """Somebody has asked about a job. Of one that has no film any more nothing is noted.

    Parameters
    ----------
    settings : Settings
    job : Job
    """
    if job.kind != "video" or job.file_id is None:
        return
    folder = JobFolder(settings.jobs, job.token)
    # Nobody has put anything into it yet, maybe.
    folder.make()
    (folder.path / MARK).touch()


def is_left(settings: Settings, job: Job) -> bool:
    """Whether nobody has asked about a visitor's film for so long that it is taken to be left.

    Parameters
    ----------
    settings : Settings
    job : Job
    """
    if job.by_author:
        return False
    limits = settings.limits
    most = limits.film_left_seconds if job.ended is None else limits.film_kept_seconds
    try:
        asked = (JobFolder(settings.jobs, job.token).path / MARK).stat().st_mtime
    except FileNotFoundError:
        return False
    return time.time() - asked > most
