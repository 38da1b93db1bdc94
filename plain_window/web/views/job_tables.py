"""Jobs of tables: read otherwise, begun by hand, their faults and their report."""

import itertools
from collections.abc import Iterator
from pathlib import PurePath

import msgspec
from flask import Response, request, stream_with_context

from ...core.contract.table_cases import RowFault
from ...core.documents import DemoDocument
from ...core.errors import Fault, InputFaults
from ...jobs.carrier import wake
from ...jobs.folder import JobFolder
from ...jobs.options import TableFound, TableOptions
from ...store.jobs import change_job
from ...store.records import Job
from ..beside import beside
from ..csv_lines import csv_line
from ..job_views import guard_job, job_view, look_faults, visible_job
from ..new_jobs import looked_at, refuse_strangers
from ..new_starters import begin_starter
from ..numbers_asked import number_asked
from ..problems import ApiProblem, not_found
from ..state import state
from ..types.jobs import JobFault, JobFaults, JobView, TableChanges
from ..types.report import FullReport
from .api import api

__all__: list[str] = []

MOST_FAULTS, USUAL_FAULTS, FAULTS_AT_ONCE = 1000, 100, 1000
CSV = "text/csv; charset=utf-8"


def _job_of_table(job_id: str) -> Job:
    job = visible_job(job_id)
    if job.kind != "table":
        raise not_found()
    return job


@api.operation(
    "PATCH", "/jobs/<job_id>", body=TableChanges, guard=guard_job, answer=JobView, errors=(401, 403, 404, 409, 422, 503)
)
def change_table(job_id: str, body: TableChanges) -> JobView:
    """Read the table of a job that is held otherwise."""
    job = _job_of_table(job_id)
    options = body.applied(TableOptions.model_validate_json(job.options))
    refuse_strangers(options, DemoDocument.model_validate_json(job.document))
    _refuse_columns(job, body)
    if job.stage != "held" or not change_job(job, options=options.model_dump_json(), stage="look"):
        raise ApiProblem(409, "Begun already", "This job has begun, or is over. Begin another with the table.")
    wake(state().services.settings)
    return job_view(looked_at(job))


@api.operation(
    "POST", "/jobs/<job_id>/start", guard=guard_job, answer=JobView, errors=(401, 403, 404, 409, 422, 503), status=202
)
def start_job(job_id: str) -> JobView:
    """Begin a job that is held."""
    job = visible_job(job_id)
    if job.kind == "starter":
        begin_starter(job)
        return job_view(Job.get_by_id(job.id))
    job = _job_of_table(job_id)
    view = job_view(job)
    if view.held and view.table is not None and not view.table.ready:
        raise InputFaults([Fault(field, sentence) for field, sentence in look_faults(job)])
    if job.stage != "held" or not change_job(job, stage="ready"):
        raise ApiProblem(409, "Begun already", "This job has begun, or is over.")
    wake(state().services.settings)
    return job_view(Job.get_by_id(job.id))


@api.operation("GET", "/jobs/<job_id>/report", answer=FullReport, errors=(401, 404, 409, 422, 503))
def get_table_report(job_id: str) -> FullReport:
    """How the model did on the table's rows, where the table says what happened; of very many on the first 200,000."""
    # What needs NumPy is imported by those who ask for it, not at each start.
    from ..table_report import table_report

    job = _job_of_table(job_id)
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
    job = _job_of_table(job_id)
    lines = JobFolder(state().services.settings.jobs, job.token).faults(job.chunks)
    if request.args.get("format") == "csv":
        table = stream_with_context(_fault_lines(lines))
        response = Response(table, content_type=CSV)
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
