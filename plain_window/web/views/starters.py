"""From a table alone to a demo."""

import io
import zipfile
from pathlib import PurePath

from flask import Response

from ...core.documents.model_differences import Differences
from ...core.errors import Fault, InputFaults
from ...jobs.carrier import wake
from ...jobs.forgetting import forget_job
from ...jobs.starter_found import new_starter
from ...samples.only_a_table import TABLE
from ...store.jobs import add_job, waiting_making
from ..access import require_owner
from ..identity import caller_name, require_author
from ..job_views import guard_job, job_view, look_faults, visible_job
from ..making_jobs import MOST_WAITING
from ..new_jobs import looked_at
from ..new_starters import (
    STARTER_TEXTS,
    change_starter,
    made_of_table,
    starter_options,
    take_back_refused,
)
from ..problems import ApiProblem, not_found
from ..state import state
from ..types.jobs import JobView
from ..types.starters import StarterChanges, StarterOrigin, StarterParts
from ..uploads import receive_upload
from .api import api
from .demos import own_record

__all__: list[str] = []

CSV = "text/csv; charset=utf-8"
# Tables that were looked at and wait for a word, of one author: each may be 500 MB.
MOST_HELD = 20
# Files in an archive have a day; it says nothing.
NO_DAY = (1980, 1, 1, 0, 0, 0)


@api.operation(
    "POST",
    "/starters",
    multipart=StarterParts,
    guard=require_author,
    answer=JobView,
    errors=(400, 401, 403, 408, 409, 413, 422, 429, 503),
    status=202,
)
def create_starter() -> Response:
    """Make a model of a table, and a demo around it.

    The table is looked at: what its columns are, which give the outcome away, name rows or groups of them. Models are
    compared on rows that they had not seen, against guessing; the plainest that is about as good as the best is made of
    all rows but those that are kept back, which become the demo's known cases. With `hold` the job waits after it
    looked, and again after it compared: `PATCH /starters/{id}` changes what is wanted, `POST /jobs/{id}/start` goes on.
    With `again` the model of a demo that was made so is fitted by the same recipe and replaced in its draft.
    """
    services, author = state().services, require_author()
    if waiting_making(author.id) >= MOST_WAITING:
        detail = f"{MOST_WAITING} environments and models of yours wait already. Wait for one."
        raise ApiProblem(429, "Too many jobs", detail, retry_after=60)
    if waiting_making(author.id, is_held=True) >= MOST_HELD:
        detail = f"{MOST_HELD} tables of yours were looked at and wait for a word. Go on with some, or cancel them."
        raise ApiProblem(429, "Too many jobs", detail, retry_after=60)
    limits = {"table": services.settings.limits.reference_bytes}
    upload = receive_upload(services.files, limits, STARTER_TEXTS, "The table")
    try:
        options = starter_options(upload.texts, author.id)
        if "table" not in upload.files or not upload.files["table"].size:
            raise InputFaults([Fault("table", "`table` is missing. Send a CSV, Parquet file or spreadsheet.")])
        size = upload.files["table"].size
        file = services.files.take(upload.files["table"])
    finally:
        upload.discard()
    name = PurePath(upload.texts.get("name") or upload.names.get("table") or "table").name
    caller = caller_name()
    job = add_job(new_starter(options, file=file, file_bytes=size, file_name=name, author_id=author.id, caller=caller))
    wake(services.settings)
    job = looked_at(job)
    if job.state == "failed":
        faults = look_faults(job)
        forget_job(services, job)
        raise InputFaults([Fault(field, sentence) for field, sentence in faults])
    wake(services.settings)
    response = Response(job_view(job).model_dump_json(), status=202, content_type="application/json")
    response.headers["Location"] = f"/api/v1/jobs/{job.token}"
    return response


@api.operation(
    "PATCH",
    "/starters/<job_id>",
    body=StarterChanges,
    guard=guard_job,
    answer=JobView,
    errors=(400, 401, 403, 404, 409, 422, 429, 503),
)
def patch_starter(job_id: str, body: StarterChanges) -> JobView:
    """Want something else of the table of a job that is held."""
    job = visible_job(job_id)
    if job.kind != "starter":
        raise not_found()
    before = job.options
    if change_starter(job, body):
        job = looked_at(job)
        if job.state == "failed" or not take_back_refused(job, before):
            raise InputFaults([Fault(field, sentence) for field, sentence in look_faults(job)])
    return job_view(type(job).get_by_id(job.id))


@api.operation("GET", "/starters/sample", guard=require_author, errors=(401, 403), content_type="text/csv")
def get_sample_table() -> Response:
    """A table to try it with: what a pottery studio wrote down of the pieces it fired, made up."""
    response = Response(TABLE.read_bytes(), content_type=CSV)
    response.headers.set("Content-Disposition", "attachment", filename=TABLE.name)
    return response


@api.operation(
    "GET", "/demos/<slug>/starter", guard=require_owner, answer=StarterOrigin, errors=(401, 403, 404, 409, 503)
)
def get_starter(slug: str) -> StarterOrigin:
    """How the draft's model was made of a table, with the script that makes it again."""
    made = made_of_table(own_record(slug))
    recipe = made.recipe
    return StarterOrigin(
        file_name=made.file_name,
        target=recipe["target"]["column"],
        columns=[one["column"] for one in recipe["fields"]],
        group=recipe["group"],
        time=recipe["time"]["column"] if recipe["time"] else None,
        candidate=recipe["candidate"],
        settings=recipe["settings"],
        compared=made.compared,
        sentences=made.sentences,
        n_rows=made.n_rows,
        n_learned=made.n_learned,
        n_known=made.n_known,
        n_kept_back=made.n_kept_back,
        kept_error=made.kept_error,
        differences=Differences.model_validate(made.differences) if made.differences else None,
        script=made.script,
        requirements=made.requirements,
    )


@api.operation(
    "GET",
    "/demos/<slug>/starter/script",
    guard=require_owner,
    errors=(401, 403, 404, 409, 503),
    content_type="application/zip",
)
def get_script(slug: str) -> Response:
    """The training script of the draft's model with what it needs installed, as an archive."""
    made, packed = made_of_table(own_record(slug)), io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, text in (("train.py", made.script), ("requirements.txt", made.requirements)):
            archive.writestr(zipfile.ZipInfo(name, NO_DAY), text)
    response = Response(packed.getvalue(), content_type="application/zip")
    response.headers.set("Content-Disposition", "attachment", filename=f"{slug}-training.zip")
    return response
