"""Jobs: whole tables of cases."""

import itertools
import json
import time
from collections.abc import Iterator
from pathlib import PurePath
from typing import Any, cast

import msgspec
from flask import Response, request, stream_with_context
from pydantic import ValidationError

from ...core.contract.table_cases import RowFault
from ...core.documents import DemoDocument, faults_of
from ...core.errors import Fault, InputFaults, TableNotRead
from ...jobs.carrier import wake
from ...jobs.folder import JobFolder
from ...jobs.options import TableFound, TableOptions
from ...jobs.results import ResultFormat, result_parts
from ...runners.work import WorkLost
from ...store.jobs import (
    ENDED,
    NewJob,
    add_job,
    change_job,
    delete_job,
    end_job,
    events_since,
    jobs_of_author,
    waiting_of,
)
from ...store.records import Job
from ..access import require_visible, visible_version
from ..beside import beside
from ..csv_lines import csv_line
from ..identity import caller, caller_name, require_author
from ..job_views import job_view, look_faults, visible_job
from ..limits import slow_down_visitor
from ..lookups import ServedDemo, Version
from ..numbers_asked import number_asked
from ..plain_answers import has_pictures
from ..problems import ApiProblem, not_found
from ..state import state
from ..types.jobs import JobFault, JobFaults, JobList, JobParts, JobView, TableChanges
from ..types.report import FullReport
from ..uploads import Upload, receive_upload
from .api import api
from .asking import DRAFT_QUERY, asks_draft, is_author

__all__: list[str] = []

# How long a call waits for the table to be looked at, so that whoever sent it hears at once what does not fit.
LOOK_SECONDS, LOOK_AGAIN_SECONDS = 25.0, 0.05
STREAM = "application/x-ndjson"
EVENT_SECONDS, MOST_EVENT_SECONDS = 0.4, 3600.0
OPTION_BYTES = 1 << 18
MOST_FAULTS, USUAL_FAULTS, FAULTS_AT_ONCE = 1000, 100, 1000
MOST_JOBS, USUAL_JOBS = 200, 50
JOBS_RATE, JOBS_SAVED = 0.5, 5.0
# Tables of one visitor that were looked at and wait for a word to begin.
MOST_HELD = 10
TYPES = {
    "csv": "text/csv; charset=utf-8",
    "parquet": "application/vnd.apache.parquet",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}
AS_WORDS = ("columns", "numbers", "dates", "outcome", "contributions", "hold")


def _may_begin(slug: str) -> None:
    """Who may have a table answered: the demo's author, and visitors where the author lets them."""
    door, _ = require_visible(slug, draft=asks_draft())
    author = caller()
    if author is not None and author.id == door.author_id:
        require_author()
        return
    _, version = visible_version(slug)
    if not version.document.parts.tables:
        raise ApiProblem(403, "No tables", "This page answers one case at a time. Its author can let it take tables.")
    slow_down_visitor("tables", JOBS_RATE, saved=JOBS_SAVED)
    limits, demo_id = state().services.settings.limits, door.id
    if waiting_of(demo_id=demo_id, caller=caller_name()) >= limits.visitor_jobs:
        detail = f"You have {limits.visitor_jobs} tables under way. Wait for one of them, or cancel it."
        raise ApiProblem(429, "Too many jobs", detail, retry_after=10)
    if waiting_of(demo_id=demo_id, caller=caller_name(), is_held=True) >= MOST_HELD:
        detail = f"You have had {MOST_HELD} tables looked at and begun none. Begin or cancel one of them."
        raise ApiProblem(429, "Too many jobs", detail, retry_after=60)
    if waiting_of(demo_id=demo_id) >= limits.demo_jobs:
        raise ApiProblem(429, "Too many jobs", "Many tables wait here already. Try again later.", retry_after=60)


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
    """Have a whole table of cases answered.

    A column is found by its field's name or label; `columns` says otherwise. What does not fit is said at once (422).
    With `hold` the job waits after the table was looked at and its first rows answered: `PATCH` changes how it is
    read, `POST …/start` begins.
    """
    services = state().services
    demo, version = visible_version(slug, draft=asks_draft())
    if has_pictures(version.document):
        raise ApiProblem(422, "Not for tables", "This model looks at pictures, and pictures do not fit into a table.")
    limits, by_author = services.settings.limits, is_author(demo)
    most = limits.table_bytes if by_author else limits.visitor_table_bytes
    texts = dict.fromkeys(("kind", "options", "name", *AS_WORDS), OPTION_BYTES)
    upload = receive_upload(services.files, {"table": most}, texts, "The table")
    try:
        options = _options(upload)
        _refuse_strangers(options, version.document)
        if "table" not in upload.files or not upload.files["table"].size:
            raise InputFaults([Fault("table", "`table` is missing. Send a CSV, Parquet file or spreadsheet.")])
        size = upload.files["table"].size
        file = services.files.take(upload.files["table"])
    finally:
        upload.discard()
    job = add_job(_new(demo, version, options, file, upload, size, by_author=by_author))
    wake(services.settings)
    job = _looked_at(job)
    if job.state == "failed":
        faults = look_faults(job)
        _forget(job)
        raise InputFaults([Fault(field, sentence) for field, sentence in faults])
    response = Response(job_view(job).model_dump_json(), status=202, content_type="application/json")
    response.headers["Location"] = f"/api/v1/jobs/{job.token}"
    return response


def _new(
    demo: ServedDemo, version: Version, options: TableOptions, file: str, upload: Upload, size: int, *, by_author: bool
) -> NewJob:
    name = PurePath(upload.texts.get("name") or upload.names.get("table") or "table").name[:200]
    return NewJob(
        kind="table",
        demo_id=demo.id,
        model_id=version.model_id,
        release_number=version.number,
        document=version.document.model_dump_json(),
        by_author=by_author,
        caller=caller_name()[:120],
        options=options.model_dump(),
        file=file,
        file_name=name,
        file_bytes=size,
    )


def _options(upload: Upload) -> TableOptions:
    """Options, together as JSON or one by one.

    Raises
    ------
    InputFaults
        Naming each that is none.
    """
    kind = upload.texts.get("kind", "table").strip()
    if kind != "table":
        raise InputFaults([Fault("kind", f'`kind` may be `table`. Got "{kind[:40]}".')])
    wanted: dict[str, Any] = {}
    try:
        together = json.loads(upload.texts.get("options") or "{}")
        wanted = {**together} if isinstance(together, dict) else {"options": together}
        if "columns" in upload.texts:
            wanted["columns"] = json.loads(upload.texts["columns"] or "{}")
    except (ValueError, RecursionError):
        raise InputFaults([Fault("options", "`options` and `columns` are JSON objects.")]) from None
    wanted |= {name: upload.texts[name].strip() for name in AS_WORDS if name in upload.texts and name != "columns"}
    try:
        return TableOptions.model_validate(wanted)
    except ValidationError as error:
        raise InputFaults(faults_of(error)) from None


def _refuse_strangers(options: TableOptions, document: DemoDocument) -> None:
    """Refuse columns for fields that there are not.

    Raises
    ------
    InputFaults
    """
    names = [field.name for field in document.fields]
    strangers = [name for name in options.columns if name not in names]
    if strangers:
        known = ", ".join(f"`{name}`" for name in names[:8])
        faults = [Fault("columns", f"There is no field `{name[:60]}`. There are {known}.") for name in strangers[:8]]
        raise InputFaults(faults)


def _refuse_columns(job: Job, changes: TableChanges) -> None:
    """Refuse columns that the table does not have, before it is looked at anew.

    Raises
    ------
    InputFaults
    """
    columns = TableFound.model_validate_json(job.found).columns if job.found else []
    named = {**(changes.columns or {}), **({"outcome": changes.outcome} if changes.outcome else {})}
    faults = [
        Fault(name, f"The table has no column `{column[:60]}`.")
        for name, column in named.items()
        if column and column not in columns
    ]
    if faults:
        raise InputFaults(faults)


def _looked_at(job: Job) -> Job:
    """The job once its table has been looked at, or as it is after a while."""
    until = time.monotonic() + LOOK_SECONDS
    while True:
        now: Job = Job.get_by_id(job.id)
        if now.stage != "look" or now.state in ENDED or time.monotonic() > until:
            return now
        time.sleep(LOOK_AGAIN_SECONDS)


def _guarded(job_id: str) -> None:
    """Whoever changes a job must be who may see it; an author's session carries its token."""
    job = visible_job(job_id)
    if job.by_author:
        require_author()


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
    return job_view(visible_job(job_id))


@api.operation(
    "PATCH", "/jobs/<job_id>", body=TableChanges, guard=_guarded, answer=JobView, errors=(401, 403, 404, 409, 422, 503)
)
def change_table(job_id: str, body: TableChanges) -> JobView:
    """Read the table of a job that is held otherwise."""
    job = visible_job(job_id)
    options = body.applied(TableOptions.model_validate_json(job.options))
    _refuse_strangers(options, DemoDocument.model_validate_json(job.document))
    _refuse_columns(job, body)
    if job.stage != "held" or not change_job(job, options=options.model_dump_json(), stage="look"):
        raise ApiProblem(409, "Begun already", "This job has begun, or is over. Begin another with the table.")
    wake(state().services.settings)
    return job_view(_looked_at(job))


@api.operation(
    "POST", "/jobs/<job_id>/start", guard=_guarded, answer=JobView, errors=(401, 403, 404, 409, 422, 503), status=202
)
def start_job(job_id: str) -> JobView:
    """Begin a job that is held."""
    job = visible_job(job_id)
    view = job_view(job)
    if view.held and view.table is not None and not view.table.ready:
        raise InputFaults([Fault(field, sentence) for field, sentence in look_faults(job)])
    if job.stage != "held" or not change_job(job, stage="ready"):
        raise ApiProblem(409, "Begun already", "This job has begun, or is over.")
    wake(state().services.settings)
    return job_view(Job.get_by_id(job.id))


@api.operation("DELETE", "/jobs/<job_id>", guard=_guarded, errors=(401, 403, 404, 503), status=204)
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
        _forget(job)


def _forget(job: Job) -> None:
    JobFolder(state().services.settings.jobs, job.token).remove()
    delete_job(job)


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
        if job.state in ENDED:
            return
        time.sleep(EVENT_SECONDS)


@api.operation(
    "GET",
    "/jobs/<job_id>/result",
    query={"format": "`csv`, `parquet` or `xlsx`."},
    described={"format": {"type": "string", "enum": list(TYPES)}},
    errors=(401, 404, 409, 422, 503),
    content_type="text/csv",
)
def get_result(job_id: str) -> Response:
    """The table with its answers, as a file."""
    job = visible_job(job_id)
    to = request.args.get("format") or "csv"
    if to not in TYPES:
        raise ApiProblem(422, "Unknown format", f"`format` may be {', '.join(f'`{one}`' for one in TYPES)}.")
    view = job_view(job)
    if view.result is None:
        detail = "There is nothing to take yet." if job.state not in ENDED else "Nothing came of this job."
        raise ApiProblem(409, "No result", detail)
    parts = result_parts(state().services, job, cast(ResultFormat, to))
    try:
        # Begun here: what goes wrong at the start is said with a status.
        first = next(parts, b"")
    except FileNotFoundError:
        raise not_found() from None
    except TableNotRead as error:
        raise ApiProblem(422, "Too large", str(error)) from None
    except WorkLost:
        raise ApiProblem(503, "Not ready", "The file could not be made. Try again.", retry_after=2) from None
    response = Response(stream_with_context(itertools.chain([first], parts)), content_type=TYPES[to])
    name = f"{PurePath(job.file_name).stem or 'table'} with answers.{to}"
    response.headers.set("Content-Disposition", "attachment", filename=name)
    return response


@api.operation("GET", "/jobs/<job_id>/report", answer=FullReport, errors=(401, 404, 409, 422, 503))
def get_table_report(job_id: str) -> FullReport:
    """How the model did on the table's rows, where the table says what happened; of very many on the first 200,000."""
    # What needs NumPy is imported by those who ask for it, not at each start.
    from ..table_report import table_report

    job = visible_job(job_id)
    if job.state != "done":
        raise ApiProblem(409, "No report", "There is a report once all rows are answered.")
    folder = JobFolder(state().services.settings.jobs, job.token)
    return beside(lambda: table_report(job, folder))


@api.operation(
    "GET",
    "/jobs/<job_id>/faults",
    answer=JobFaults,
    query={"offset": "How many to leave out.", "limit": "How many at most.", "format": "`csv` for all as a table."},
    errors=(401, 404, 422, 503),
)
def get_faults(job_id: str) -> JobFaults | Response:
    """Which rows have a fault, and what is wrong with them."""
    job = visible_job(job_id)
    lines = JobFolder(state().services.settings.jobs, job.token).faults(job.chunks)
    if request.args.get("format") == "csv":
        table = stream_with_context(_fault_lines(lines))
        response = Response(table, content_type=TYPES["csv"])
        name = f"{PurePath(job.file_name).stem or 'table'} faults.csv"
        response.headers.set("Content-Disposition", "attachment", filename=name)
        return response
    offset, limit = number_asked("offset", 0), number_asked("limit", USUAL_FAULTS, most=MOST_FAULTS)
    some = itertools.islice(lines, offset, offset + limit)
    return JobFaults(total=job.faults, faults=[JobFault.model_validate_json(line) for line in some])


def _fault_lines(lines: Iterator[bytes]) -> Iterator[str]:
    yield csv_line(["row", "column", "fault"])
    # Many at a time: each piece that goes out has its price.
    while some := list(itertools.islice(lines, FAULTS_AT_ONCE)):
        faults = (msgspec.json.decode(line, type=RowFault) for line in some)
        yield "".join(csv_line([fault.row, fault.column, fault.message]) for fault in faults)
