"""Jobs: whole tables of cases, and films."""

import itertools
import json
import time
from collections.abc import Generator, Iterator
from pathlib import PurePath
from typing import cast

from flask import Response, request, stream_with_context

from ...core.errors import Fault, FilmNotRead, InputFaults, TableNotRead
from ...jobs.carrier import wake
from ...jobs.folder import JobFolder
from ...jobs.forgetting import forget_job
from ...jobs.interest import note_interest
from ...jobs.results import ResultFormat, result_parts
from ...runners.file_line import WorkLost
from ...store.jobs import ENDED, OF_REFERENCE, add_job, end_job, events_since, jobs_of_author, kept_films, waiting_of
from ...store.records import Job
from ..access import require_visible, visible_version
from ..film_frames import film_table, film_with_boxes
from ..identity import caller, caller_name, require_author
from ..job_views import guard_job, job_view, look_faults, visible_job
from ..limits import slow_down_visitor
from ..new_jobs import kind_of_jobs, looked_at, most_bytes, new_job, options_of, text_limits
from ..new_reference_jobs import reference_job
from ..numbers_asked import number_asked, share_asked
from ..problems import ApiProblem, not_found
from ..spooling import spooled
from ..state import state
from ..types.jobs import JobList, JobParts, JobView
from ..uploads import receive_upload
from .api import api
from .asking import DRAFT_QUERY, SCORE_DESCRIBED, asks_draft, is_author

__all__: list[str] = []

STREAM = "application/x-ndjson"
EVENT_SECONDS, MOST_EVENT_SECONDS = 0.4, 3600.0
MOST_JOBS, USUAL_JOBS = 200, 50
JOBS_RATE, JOBS_SAVED = 0.5, 5.0
# Tables of one visitor that were looked at and wait for a word to begin.
MOST_HELD = 10
# Films that are over and still here for whoever looks at them: one visitor's, and all of a demo.
MOST_KEPT, MOST_KEPT_OF_DEMO = 10, 50
TYPES = {
    "csv": "text/csv; charset=utf-8",
    "parquet": "application/vnd.apache.parquet",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "film": "video/mp4",
}
ENDINGS = {"film": "mp4"}
DECLINED = {
    "table": "This model looks at pictures, and pictures do not fit into a table. Send it a film, as `video`.",
    "video": "This model looks at no picture, so there is nothing for it in a film. Send it a table, as `table`.",
}


def _may_begin(slug: str) -> None:
    """Let pass who may have a table or a film answered: the demo's author, and visitors where the author lets them."""
    door, _ = require_visible(slug, draft=asks_draft())
    author = caller()
    if author is not None and author.id == door.author_id:
        require_author()
        return
    _, version = visible_version(slug)
    parts = version.document.parts
    if version.document.has_pictures:
        if not parts.films:
            detail = "This page answers one picture at a time. Its author can let it take films."
            raise ApiProblem(403, "No films", detail)
    elif not parts.tables:
        raise ApiProblem(403, "No tables", "This page answers one case at a time. Its author can let it take tables.")
    slow_down_visitor("tables", JOBS_RATE, saved=JOBS_SAVED)
    limits, demo_id = state().services.settings.limits, door.id
    if waiting_of(demo_id=demo_id, caller=caller_name()) >= limits.visitor_jobs:
        detail = f"You have {limits.visitor_jobs} tables or films under way. Wait for one of them, or cancel it."
        raise ApiProblem(429, "Too many jobs", detail, retry_after=10)
    if waiting_of(demo_id=demo_id, caller=caller_name(), is_held=True) >= MOST_HELD:
        detail = f"You have had {MOST_HELD} tables looked at and begun none. Begin or cancel one of them."
        raise ApiProblem(429, "Too many jobs", detail, retry_after=60)
    if waiting_of(demo_id=demo_id) >= limits.demo_jobs:
        raise ApiProblem(429, "Too many jobs", "Many wait here already. Try again later.", retry_after=60)
    if len(kept_films(demo_id=demo_id, caller=caller_name())) >= MOST_KEPT:
        detail = f"You have had {MOST_KEPT} films answered that are still here. Leave one of their pages, or wait."
        raise ApiProblem(429, "Too many films", detail, retry_after=60)
    if len(kept_films(demo_id=demo_id)) >= MOST_KEPT_OF_DEMO:
        raise ApiProblem(429, "Too many films", "Many films are still here. Try again later.", retry_after=60)


@api.operation(
    "POST",
    "/demos/<slug>/jobs",
    multipart=JobParts,
    guard=_may_begin,
    answer=JobView,
    query=DRAFT_QUERY,
    errors=(400, 401, 403, 404, 408, 413, 422, 429, 503),
    status=202,
)
def create_job(slug: str) -> Response:
    """Have a whole table of cases answered, a film frame by frame, or something worked out about the model.

    What does not fit is said at once (422). A table's column is found by its field's name or label; `columns` says
    otherwise. With `hold` a table's job waits after the table was looked at and its first rows answered: `PATCH`
    changes how it is read, `POST …/start` begins. A film's answers come with `GET …/frames`; a visitor's film is
    cancelled once nobody has asked about its job for some time (100 seconds unless set otherwise), and forgotten with
    its answers when nobody has for ten minutes after its end.

    For the demo's author, and without a file: `importance` works out what matters overall by all reference rows that
    are kept, not only by as many as fit into some seconds (`GET …/overall` says that from then on; `of` for one class
    only); `drift` counts how the model's answers to them lie, where it is too slow for `GET …/drift` to ask it.
    """
    services = state().services
    demo, version = visible_version(slug, draft=asks_draft())
    by_author = is_author(demo)
    kind: str = kind_of_jobs(version.document)
    limits, noun = {kind: most_bytes(kind, by_author=by_author)}, "table" if kind == "table" else "film"
    upload = receive_upload(services.files, limits, text_limits(kind), f"The {noun}", declined=DECLINED)
    if (wanted := upload.texts.get("kind", "").strip()) in OF_REFERENCE:
        has_file = bool(upload.files)
        upload.discard()
        if not by_author:
            raise ApiProblem(403, "For authors", f"A job of kind `{wanted}` is for the demo's author.")
        if has_file:
            sentence = f"A job of kind `{wanted}` goes by the rows kept beside the model. Leave `{kind}` out."
            raise InputFaults([Fault(kind, sentence)])
        return _begun(add_job(reference_job(demo, version, wanted, upload.texts.get("of"))))
    try:
        options = options_of(upload, version.document, kind)
        if kind not in upload.files or not upload.files[kind].size:
            what = "a CSV, Parquet file or spreadsheet" if kind == "table" else "a film: MP4, WebM, MOV or AVI"
            raise InputFaults([Fault(kind, f"`{kind}` is missing. Send {what}.")])
        size = upload.files[kind].size
        file = services.files.take(upload.files[kind])
    finally:
        upload.discard()
    job = add_job(new_job(demo, version, options, upload, file, size, kind=kind, by_author=by_author))
    note_interest(services.settings, job)
    wake(services.settings)
    job = looked_at(job)
    if job.state == "failed":
        faults = look_faults(job)
        forget_job(services, job)
        raise InputFaults([Fault(field, sentence) for field, sentence in faults])
    return _begun(job)


def _begun(job: Job) -> Response:
    wake(state().services.settings)
    response = Response(job_view(job).model_dump_json(), status=202, content_type="application/json")
    response.headers["Location"] = f"/api/v1/jobs/{job.token}"
    return response


@api.operation(
    "GET",
    "/jobs",
    answer=JobList,
    guard=require_author,
    query={
        "offset": "How many to leave out.",
        "limit": "How many at most.",
    },
    errors=(401, 403, 422, 503),
)
def list_jobs() -> JobList:
    """All jobs of your demos, the newest first."""
    author = require_author()
    offset, limit = number_asked("offset", 0), number_asked("limit", USUAL_JOBS, most=MOST_JOBS)
    total, found = jobs_of_author(author.id, limit=max(1, limit), offset=offset)
    return JobList(total=total, jobs=[job_view(job) for job in found])


@api.operation("GET", "/jobs/<job_id>", answer=JobView, errors=(401, 404, 503))
def get_job(job_id: str) -> JobView:
    """How far a job is, and what came of it."""
    job = visible_job(job_id)
    note_interest(state().services.settings, job)
    return job_view(job)


@api.operation("DELETE", "/jobs/<job_id>", guard=guard_job, errors=(401, 403, 404, 503), status=204)
def cancel_job(job_id: str) -> None:
    """Cancel a job; one that is over is forgotten, with what came of it."""
    job = visible_job(job_id)
    file = job.file_id
    if end_job(job, "cancelled"):
        JobFolder(state().services.settings.jobs, job.token).remove()
        if file:
            state().services.files.let_go([file])
        wake(state().services.settings)
    else:
        forget_job(state().services, job)


@api.operation("GET", "/jobs/<job_id>/events", errors=(401, 404, 503), content_type=STREAM)
def get_events(job_id: str) -> Response:
    """The job as it goes on: a line of JSON at each change, until it is over. Its log comes along as `log`."""
    visible_job(job_id)
    lines = stream_with_context(_events(job_id))
    return Response(lines, content_type=STREAM, headers={"X-Accel-Buffering": "no"})


def _events(job_id: str) -> Iterator[str]:
    told, last_event, until = "", 0, time.monotonic() + MOST_EVENT_SECONDS
    while time.monotonic() < until:
        try:
            job = visible_job(job_id)
        except ApiProblem:
            return
        log = events_since(job, last_event)
        last_event = log[-1].id if log else last_event
        view = job_view(job).model_dump(mode="json", exclude={"table"})
        line = json.dumps({**view, "log": [event.text for event in log]})
        if line != told or log:
            told = line
            yield line + "\n"
            # Taken by somebody, or it would not have come back here.
            note_interest(state().services.settings, job)
        if job.state in ENDED:
            return
        time.sleep(EVENT_SECONDS)


@api.operation(
    "GET",
    "/jobs/<job_id>/result",
    query={
        "format": "`csv`, `parquet` or `xlsx`; of a film `csv`, or `film`: an MP4 with its boxes, where it has some.",
        "least_score": "Of a film: boxes with a lower score are left out.",
        "only": "Of a film: a kind of box by its name, several times for several; others are left out.",
    },
    described={"format": {"type": "string", "enum": list(TYPES)}, **SCORE_DESCRIBED},
    errors=(401, 404, 409, 422, 503),
    content_type="text/csv",
)
def get_result(job_id: str) -> Response:
    """The table with its answers, or what came of a film, as a file."""
    job = visible_job(job_id)
    note_interest(state().services.settings, job)
    to, view = request.args.get("format") or "csv", job_view(job)
    formats = view.result.formats if view.result else list(TYPES)
    if not formats:
        raise ApiProblem(409, "No file", "What came of this job stands with its demo; there is no file of it.")
    if to not in formats:
        raise ApiProblem(422, "Unknown format", f"`format` may be {', '.join(f'`{one}`' for one in formats)}.")
    if view.result is None:
        detail = "There is nothing to take yet." if job.state not in ENDED else "Nothing came of this job."
        raise ApiProblem(409, "No result", detail)
    parts = _film_parts(job, to) if job.kind == "video" else _table_parts(job, to)
    try:
        # Begun here: what goes wrong at the start is said with a status.
        first = next(parts, b"")
    except FileNotFoundError:
        raise not_found() from None
    except (TableNotRead, FilmNotRead) as error:
        raise ApiProblem(422, "Not to be had", str(error)) from None
    except WorkLost:
        raise ApiProblem(503, "Not ready", "The file could not be made. Try again.", retry_after=2) from None
    if to == "film":
        # Others wait for theirs: whoever takes it slowly does not hold up its making.
        parts = spooled(cast(Generator[bytes], parts), JobFolder(state().services.settings.jobs, job.token).path)
    response = Response(stream_with_context(itertools.chain([first], parts)), content_type=TYPES[to])
    name = f"{PurePath(job.file_name).stem or job.kind} with answers.{ENDINGS.get(to, to)}"
    response.headers.set("Content-Disposition", "attachment", filename=name)
    return response


def _table_parts(job: Job, to: str) -> Iterator[bytes]:
    return result_parts(state().services, job, cast(ResultFormat, to))


def _film_parts(job: Job, to: str) -> Iterator[bytes]:
    least, only = share_asked("least_score", 0.0), request.args.getlist("only") or None
    if to == "csv":
        return film_table(state().services.settings, job, least_score=least, only=only)
    slow_down_visitor("tables", JOBS_RATE, saved=JOBS_SAVED)
    return film_with_boxes(state().services, job, least_score=least, only=only)
