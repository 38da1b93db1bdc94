"""A demo as a folder: taken along, and put in the draft's place."""

import contextlib
import tempfile
from typing import IO

from flask import Response, send_file

from ...authoring.expected import bring_expected
from ...authoring.folder_export import folder_of, pack_folder
from ...authoring.folders import FolderNotRead, as_a_whole, read_folder
from ...authoring.housekeeping import retire_unneeded
from ...authoring.own_libraries import EnvironmentWanted
from ...authoring.replacing import Replacement, replace_model
from ...core.errors import DocumentFaults, Fault
from ...jobs.wanted import WantedMaking
from ...runners.failures import RunnerUnavailable
from ...store.demos import set_expected
from ..access import require_owner
from ..beside import beside
from ..demo_states import demo_state
from ..making_jobs import goes_on_as_job
from ..state import state
from ..types.demos import Replaced
from ..types.jobs import JobView
from ..types.models import FolderPart
from ..uploads import receive_upload
from .api import api
from .demos import folder_bytes, own_record

__all__: list[str] = []


@api.operation(
    "GET",
    "/demos/<slug>/folder",
    guard=require_owner,
    content_type="application/zip",
    errors=(401, 404, 503),
)
def get_folder(slug: str) -> Response:
    """The draft as a zip of its folder: the files as they came, and `demo.toml` with all that was set."""
    demo = own_record(slug)
    folder = folder_of(state().services, demo)
    # It is closed when it has been sent.
    packed: IO[bytes] = tempfile.TemporaryFile()  # noqa: SIM115
    beside(lambda: pack_folder(folder, packed))
    packed.seek(0)
    return send_file(packed, mimetype="application/zip", download_name=f"{demo.slug}.zip", as_attachment=True)


@api.operation(
    "PUT",
    "/demos/<slug>/folder",
    multipart=FolderPart,
    guard=require_owner,
    answer=Replaced,
    job=JobView,
    errors=(400, 401, 403, 404, 408, 413, 422, 429, 503),
)
def put_folder(slug: str) -> Replaced | Response:
    """Let the draft be what a zip of a folder holds; the address stays, and visitors keep the live release.

    Where its `requirements.txt` must be built first, the answer is 202 and a job.
    """
    services = state().services
    demo = own_record(slug)
    upload = receive_upload(services.files, {"folder": folder_bytes()}, {})
    try:
        if "folder" not in upload.files:
            raise DocumentFaults([Fault("folder", "`folder` is missing. Send the zip of a demo's folder as it.")])
        packed = upload.files["folder"]
        packed.flush()
        with read_folder(services, packed.path) as submission:
            files = {
                "model": submission.model_file,
                "reference": submission.reference_file,
                "preprocessor": submission.preprocessor_file,
                "known": submission.known_file,
                "beside": submission.beside_file,
            }
            words = {
                "target": submission.target,
                "labels": submission.labels,
                "answer_kind": submission.answer_kind,
                "numbers": submission.numbers,
                "dates": submission.dates,
                "function_name": submission.function_name,
                "known_group": submission.known_group,
                "requirements": submission.requirements,
            }
            sent = Replacement(files, words, submission.preparations, as_a_whole(submission.changes))
            try:
                found, demo = replace_model(services, demo, sent, try_only=False)
            except EnvironmentWanted as wanted:
                job = WantedMaking(
                    "replace",
                    wanted.requirements,
                    replacement=sent,
                    slug=demo.slug,
                    expected_file=submission.expected_file,
                    is_folder=True,
                )
                return goes_on_as_job(demo.author_id, job, demo_id=demo.id)
            except BaseException:
                services.files.let_go([submission.expected_file] if submission.expected_file else [])
                raise
            if submission.expected_file:
                demo = bring_expected(services, demo, submission.expected_file)[2]
            else:
                demo = set_expected(demo, None, None, services.stamp)
    except FolderNotRead as error:
        raise DocumentFaults([Fault("folder", str(error))]) from error
    finally:
        upload.discard()
    with contextlib.suppress(RunnerUnavailable):
        retire_unneeded(services)
    return Replaced(differences=found, demo=demo_state(demo))
