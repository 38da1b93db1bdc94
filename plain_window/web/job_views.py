"""A job as it is told, and whether somebody may see it."""

import datetime as dt
import json
from typing import Literal

from pydantic import ValidationError

from ..core.documents import DemoDocument
from ..core.starters.doing import what_is_done
from ..core.starters.recipe import used_columns
from ..jobs.film_options import FilmFound
from ..jobs.options import TableFound
from ..jobs.starter_found import StarterFound, StarterOptions
from ..jobs.table_job import faults_of
from ..store.database import now
from ..store.jobs import AUTHOR_DAYS, MAKING, OF_REFERENCE, VISITOR_DAYS, find_job, jobs_before, place_in_line
from ..store.records import Job
from .access import require_visible
from .identity import caller, require_author
from .problems import ApiProblem, not_found
from .sentences import missing_sentence
from .types.jobs import ColumnOfField, JobResult, JobView, MakingEnd, StarterLook, TableLook

__all__ = ["guard_job", "job_view", "look_faults", "visible_job"]

# From so much of it on, what is left is told by what it took.
FEWEST_SECONDS = 0.5


def visible_job(token: str) -> Job:
    """A job that this caller may see: of a demo of theirs, or one whose address they have, of a demo they may open.

    Parameters
    ----------
    token : str
        From its address.

    Raises
    ------
    ApiProblem
        404 where there is none, or not for them.
    """
    job = find_job(token)
    if job is None:
        raise not_found()
    author, demo = caller(), job.demo
    if demo is None:
        # It makes one.
        if author is None or author.id != job.author_id:
            raise not_found()
        return job
    if demo.deleted is not None:
        raise not_found()
    if author is not None and author.id == demo.author_id:
        return job
    if job.by_author:
        raise not_found()
    try:
        require_visible(demo.slug)
    except ApiProblem as error:
        raise not_found() if error.problem.status != 401 else error from None
    return job


def guard_job(job_id: str) -> None:
    """Let pass who may change a job: whoever may see it; an author's session carries its token.

    Parameters
    ----------
    job_id : str

    Raises
    ------
    ApiProblem
        401, 403 or 404.
    """
    job = visible_job(job_id)
    if job.by_author:
        require_author()


def job_view(job: Job) -> JobView:
    """A job as it is told.

    Parameters
    ----------
    job : Job
    """
    found = TableFound.model_validate_json(job.found) if job.found and job.kind == "table" else None
    film = FilmFound.model_validate_json(job.found) if job.found and job.kind == "video" else None
    made = MakingEnd.model_validate_json(job.found) if job.found and job.kind in MAKING else None
    return JobView(
        id=job.token,
        kind=job.kind,
        demo=job.demo.slug if job.demo else made.slug if made else "",
        title=_title(job, made),
        file=job.file_name,
        state=job.state,
        held=job.stage == "held" and job.state == "waiting",
        done=job.done,
        total=job.total,
        total_is_estimate=job.total is not None and not (job.ended or (found is not None and found.knows_total)),
        seconds_left=_seconds_left(job),
        place=place_in_line(job),
        detail=_detail(job),
        answered=job.answered,
        faults=job.faults,
        created=job.created,
        started=job.started,
        ended=job.ended,
        by_author=bool(job.by_author),
        release=job.release_number,
        starter=_starter(job),
        table=_look(found) if found else None,
        film=film,
        result=_result(job, made or _of_reference(job)) if job.state in ("done", "failed") and job.done else None,
        errors=made.errors if made else [],
        traceback=made.traceback or None if made else None,
        requirements=made.requirements if made else [],
    )


def _of_reference(job: Job) -> MakingEnd | None:
    """What came of it stands with its demo."""
    return MakingEnd(slug=job.demo.slug) if job.kind in OF_REFERENCE and job.demo else None


def _detail(job: Job) -> str:
    if job.kind == "importance" and job.state == "failed" and job.found:
        return missing_sentence(json.loads(job.found)["reason"])
    return str(job.detail)


def look_faults(job: Job) -> list[tuple[str, str]]:
    """Why a table cannot be begun as it is: field and sentence.

    Parameters
    ----------
    job : Job
    """
    if job.kind == "starter" and job.found:
        errors = StarterFound.model_validate_json(job.found).errors
        return [(one["field"] or "table", one["message"]) for one in errors] or [("table", job.detail)]
    if not job.found or job.kind == "video":
        return [(job.kind, job.detail)]
    found = TableFound.model_validate_json(job.found)
    names = [*found.missing, *(doubt.field for doubt in found.doubtful)]
    sentences = faults_of(found, DemoDocument.model_validate_json(job.document))
    return list(zip(names, sentences, strict=True)) or [("table", job.detail)]


def _starter(job: Job) -> StarterLook | None:
    found = StarterFound.model_validate_json(job.found) if job.kind == "starter" and job.found else None
    if found is None or found.sheet is None:
        return None
    options = StarterOptions.model_validate_json(job.options)
    return StarterLook(
        choices=options.choices,
        again=options.again,
        sheet=found.sheet,
        used=used_columns(found.sheet, options.choices),
        done=what_is_done(found.sheet, options.choices),
        compared=found.compared,
        kept_error=found.kept_error,
        checks=found.checks,
    )


def _title(job: Job, made: MakingEnd | None) -> str:
    if job.kind == "starter":
        options = StarterOptions.model_validate_json(job.options)
        return options.choices.title or (made.slug if made else "") or options.again or "A new demo"
    if job.kind in MAKING:
        return json.loads(job.options).get("title") or (made.slug if made else "") or "A new demo"
    try:
        return DemoDocument.model_validate_json(job.document).title
    except ValidationError:
        return job.demo.slug if job.demo else ""


def _seconds_left(job: Job) -> float | None:
    """How long until it is done; of a film that waits, those before it included."""
    if job.kind != "video" or job.state != "waiting" or job.stage != "ready":
        return _own_seconds_left(job)
    line = [*jobs_before(job), job]
    running = line[0]
    own = _own_seconds_left(running)
    if own is None or not running.started or not job.total:
        return None
    # What waits is taken to go as fast as what is under way.
    each = (now() - running.started).total_seconds() / running.done
    return round(own + each * sum(one.total or 0 for one in line[1:]), 1)


def _own_seconds_left(job: Job) -> float | None:
    if job.state != "running" or not job.started or not job.done or not job.total:
        return None
    spent = (now() - job.started).total_seconds()
    if spent < FEWEST_SECONDS:
        return None
    return round(max(0.0, spent / job.done * (job.total - job.done)), 1)


def _look(found: TableFound) -> TableLook:
    columns = found.columns
    return TableLook(
        columns=columns,
        first=found.first,
        matched=[
            ColumnOfField(
                field=match["field"],
                column=columns[match["column"]],
                how=match["how"],
                unit=match.get("unit", ""),
                factor=match.get("factor", 1.0),
            )
            for match in found.matches
        ],
        missing=found.missing,
        alike=found.alike,
        doubtful=found.doubtful,
        notes=found.notes,
        outcome=None if found.truth is None else columns[found.truth],
        headings=found.headings,
        preview=found.preview,
        ready=found.is_ready,
    )


def _result(job: Job, made: MakingEnd | None) -> JobResult:
    if made is not None:
        return JobResult(slug=made.slug)
    days = AUTHOR_DAYS if job.by_author else VISITOR_DAYS
    # A visitor's film stays as long as somebody asks about it.
    stays = job.kind == "video" and not job.by_author
    until = job.ended + dt.timedelta(days=days) if job.ended and not stays else None
    formats: list[Literal["csv", "parquet", "xlsx", "film"]] = ["csv", "parquet", "xlsx"]
    if job.kind == "video":
        formats = ["csv", "film"] if job.state == "done" and job.file_id is not None else ["csv"]
    return JobResult(formats=formats, rows=job.done, answered=job.answered, faults=job.faults, kept_until=until)
