"""Jobs: taken in, picked up, carried on where they stood, ended.

States go one way: *waiting*, *running*, then *done*, *failed* or *cancelled*. While it waits, a job's stage says for
what: its table is to be looked at (*look*), somebody is to say that it may begin (*held*), or its turn (*ready*).
"""

import datetime as dt
import json
import secrets
from dataclasses import dataclass
from typing import Any, Literal

import peewee

from .database import now, unlocked
from .records import Demo, Job, JobEvent, Model

__all__ = [
    "ENDED",
    "MAKING",
    "OF_REFERENCE",
    "JobState",
    "NewJob",
    "add_job",
    "change_job",
    "delete_job",
    "end_job",
    "events_since",
    "find_job",
    "jobs_before",
    "jobs_of_author",
    "kept_films",
    "model_of_job",
    "note_event",
    "old_jobs",
    "place_in_line",
    "record_chunk",
    "start_running",
    "unfinished_jobs",
    "waiting_making",
    "waiting_of",
]

JobState = Literal["waiting", "running", "done", "failed", "cancelled"]
ENDED = ("done", "failed", "cancelled")
# Kinds of job that something is made by: libraries, and with or without them a demo.
MAKING = ("environment", "model", "starter")
# Kinds that are worked out by the rows kept beside a model; nothing is sent for them.
OF_REFERENCE = ("importance", "drift")
TOKEN_BYTES = 16
MOST_EVENTS = 500
# How long what came of a job is kept: a visitor's, and an author's.
VISITOR_DAYS, AUTHOR_DAYS = 1, 7
# A table that nobody says may begin is not kept for ever; an author's, of which models were compared, over a night.
HELD_HOURS, HELD_STARTER_HOURS = 2, 24


@dataclass(frozen=True)
class NewJob:
    """What is wanted, of which demo, as it is now."""

    kind: str
    demo_id: int | None
    model_id: int | None
    release_number: int | None
    document: str
    by_author: bool
    caller: str
    options: dict[str, Any]
    file: str | None
    file_name: str
    file_bytes: int
    # Whose it is, where it is about no demo yet.
    author_id: int | None = None
    # For what it waits first: `look` or `ready`.
    stage: str = "look"


def add_job(new: NewJob) -> Job:
    """Take a job in.

    Parameters
    ----------
    new : NewJob
    """
    values = {**vars(new), "options": json.dumps(new.options)}
    token = secrets.token_hex(TOKEN_BYTES)
    made: Job = unlocked(lambda: Job.create(token=token, state="waiting", **values))
    return made


def find_job(token: str) -> Job | None:
    """A job by what its address says.

    Parameters
    ----------
    token : str
    """
    found: Job | None = Job.select().where(Job.token == token).first() if len(token) == 2 * TOKEN_BYTES else None
    return found


def jobs_of_author(author_id: int, *, limit: int, offset: int) -> tuple[int, list[Job]]:
    """All jobs of an author's demos, the newest first: how many, and some of them.

    Parameters
    ----------
    author_id : int
    limit, offset : int
    """
    of_demo = (Demo.author == author_id) & Demo.deleted.is_null()
    of_author = Job.select(Job, Demo).join(Demo, peewee.JOIN.LEFT_OUTER).where(of_demo | (Job.author == author_id))
    return of_author.count(), list(of_author.order_by(Job.id.desc()).limit(limit).offset(offset))


def waiting_of(*, demo_id: int, caller: str | None = None, is_held: bool = False) -> int:
    """How many jobs of a demo have not ended: all visitors' of it, or one caller's.

    Parameters
    ----------
    demo_id : int
    caller : str, optional
    is_held : bool, optional
        Count those that nobody has said may begin, rather than those that go on.
    """
    stage = Job.stage == "held" if is_held else Job.stage != "held"
    of_demo = Job.select().where((Job.demo == demo_id) & Job.state.not_in(ENDED) & stage)
    of_demo = of_demo.where(Job.by_author == False if caller is None else Job.caller == caller)  # noqa: E712 -- SQL
    return int(of_demo.count())


def waiting_making(author_id: int, *, is_held: bool = False) -> int:
    """How many environments and models of an author's are under way, or wait.

    Parameters
    ----------
    author_id : int
    is_held : bool, optional
        Count those that nobody has said may go on, rather than the others.
    """
    stage = Job.stage == "held" if is_held else Job.stage != "held"
    of_author = (Job.author == author_id) & Job.kind.in_(MAKING) & stage
    return int(Job.select().where(of_author & Job.state.not_in(ENDED)).count())


def kept_films(*, demo_id: int | None = None, caller: str | None = None) -> list[Job]:
    """Visitors' films that are over and still here: all of them, a demo's, or one caller's of a demo.

    Parameters
    ----------
    demo_id : int, optional
    caller : str, optional
    """
    kept = (Job.kind == "video") & Job.state.in_(ENDED) & Job.file.is_null(False) & (Job.by_author == False)  # noqa: E712
    if demo_id is not None:
        kept &= Job.demo == demo_id
    if caller is not None:
        kept &= Job.caller == caller
    return list(Job.select().where(kept))


def unfinished_jobs() -> list[Job]:
    """Those that have something to be done, the oldest first."""
    return list(Job.select().where(Job.state.not_in(ENDED) & (Job.stage != "held")).order_by(Job.id))


def model_of_job(job: Job) -> Model:
    """The model that a table or a film is asked of.

    Parameters
    ----------
    job : Job
    """
    assert job.model is not None, "only environments and models are made for no model yet"
    return job.model


def place_in_line(job: Job) -> int:
    """How many jobs are before this one; 0 once it is its turn.

    Parameters
    ----------
    job : Job
    """
    if job.state != "waiting":
        return 0
    return len(jobs_before(job))


def jobs_before(job: Job) -> list[Job]:
    """The jobs that are before this one, the first of them first: films wait for films, environments for environments.

    Parameters
    ----------
    job : Job
    """
    is_before = Job.state.not_in(ENDED) & (Job.stage == "ready") & (Job.id < job.id)
    alone = ("video", *MAKING, *OF_REFERENCE)
    if job.kind in OF_REFERENCE:
        same = Job.kind.in_(OF_REFERENCE)
    else:
        same = Job.kind == job.kind if job.kind in alone else Job.kind.not_in(alone)
    return list(Job.select().where(is_before & same).order_by(Job.id))


def change_job(job: Job, **values: object) -> bool:
    """Change a job that has not ended; False if it has by now.

    Parameters
    ----------
    job : Job
    **values
        By column.
    """
    is_open = (Job.id == job.id) & Job.state.not_in(ENDED)

    def change() -> bool:
        # MariaDB counts the rows it changed, not those it found: said twice, a thing changes nothing.
        return bool(Job.update(**values).where(is_open).execute()) or Job.select().where(is_open).exists()

    return unlocked(change)


def start_running(job: Job) -> bool:
    """It is being carried out from now on; False if it has been ended.

    Parameters
    ----------
    job : Job
    """
    return change_job(job, state="running", started=job.started or now())


def record_chunk(job: Job, *, chunks: int, done: int, answered: int, faults: int, total: int | None) -> bool:
    """Note that so many chunks are finished; False if the job has been ended meanwhile.

    Parameters
    ----------
    job : Job
    chunks, done, answered, faults : int
        Chunks, rows, rows with an answer and rows with a fault so far.
    total : int, optional
        Rows in all, as far as that is known.
    """
    return change_job(job, chunks=chunks, done=done, answered=answered, faults=faults, total=total)


def end_job(job: Job, state: JobState, detail: str = "", *, keeps_file: bool = False) -> bool:
    """It is over. What it was made of is not needed any more; False if it was over already.

    Parameters
    ----------
    job : Job
    state : JobState
    detail : str, optional
        What there is to say of it.
    keeps_file : bool, optional
        Whether what it was made of stays until it is forgotten.
    """
    file = {} if keeps_file else {"file": None}
    return change_job(job, state=state, detail=detail, ended=now(), **file)


def delete_job(job: Job) -> None:
    """Forget a job.

    Parameters
    ----------
    job : Job
    """

    def delete() -> None:
        JobEvent.delete().where(JobEvent.job == job.id).execute()
        Job.delete().where(Job.id == job.id).execute()

    unlocked(delete)


def old_jobs() -> list[Job]:
    """Those that are kept no longer, or that nobody has let begin."""
    ago = {days: now() - dt.timedelta(days=days) for days in (VISITOR_DAYS, AUTHOR_DAYS)}
    limit = Job.ended < ago[AUTHOR_DAYS]
    of_visitor = (Job.by_author == False) & (Job.ended < ago[VISITOR_DAYS])  # noqa: E712 -- SQL
    long_ago, longer_ago = (now() - dt.timedelta(hours=hours) for hours in (HELD_HOURS, HELD_STARTER_HOURS))
    is_old = ((Job.kind != "starter") & (Job.created < long_ago)) | (Job.created < longer_ago)
    left = (Job.stage == "held") & Job.state.not_in(ENDED) & is_old
    return list(Job.select().where(limit | of_visitor | left))


def note_event(job: Job, text: str) -> None:
    """Add a line to a job's log.

    Parameters
    ----------
    job : Job
    text : str
    """
    JobEvent.create(job=job.id, text=text)


def events_since(job: Job, event_id: int) -> list[JobEvent]:
    """A job's log behind one of its lines.

    Parameters
    ----------
    job : Job
    event_id : int
        0 for all of it.
    """
    found = JobEvent.select().where((JobEvent.job == job.id) & (JobEvent.id > event_id))
    return list(found.order_by(JobEvent.id).limit(MOST_EVENTS))
