"""A model and a table become a demo, whole or not at all."""

import contextlib
import io
import json
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import msgspec
from pydantic import ValidationError

from ..core.contract.inspection import Inspection, Told
from ..core.contract.jobs import OpenFile, RunnerJob, job_key
from ..core.contract.keeping import OpenedModel, Until
from ..core.documents import BACKGROUND_ROWS, TITLE_CHARACTERS, DemoDocument, apply_changes
from ..core.errors import MismatchFaults, ModelNotOpened
from ..core.formats.network_files import network_kind
from ..core.formats.python.archive import unpacked_bytes
from ..runners.failures import RunnerFailed, RunnerUnavailable
from ..store.addresses import free_slug
from ..store.database import advisory_lock
from ..store.demos import create_demo, draft_of, drafts, find_demo, is_model_used, model_inspection
from ..store.files import FileStore
from ..store.records import Author, Demo, Model
from ..store.releases import live_releases
from .own_libraries import EnvironmentWanted, with_environment
from .services import Services
from .submission import ModelSubmission

__all__ = [
    "all_or_nothing",
    "bring_model",
    "live_jobs",
    "model_of",
    "needed_jobs",
    "runner_job",
    "runner_key",
    "stored_bytes",
    "take_back",
]

# What opening may take beyond the model's own time: starting the process, importing its library.
START_SECONDS = 20.0
# With libraries of its own it may take so much longer; the keeper ends it when its time is over.
MOST_OPENINGS = 3


def runner_job(services: Services, model: Model, document: DemoDocument) -> RunnerJob:
    """What a runner needs to hold this model, with what the document says of how it is explained.

    Parameters
    ----------
    services : Services
    model : Model
        The model's record.
    document : DemoDocument
        What the demo says of itself.
    """
    inspection, files = model.inspection.encode(), services.files
    job = RunnerJob(
        key=runner_key(model, document),
        told=OpenFile(function_name=_function_name(inspection)),
        **_beside(files, model.model_file_id, model.beside_file_id),
        environment=_environment(services, model.environment_id),
        bridge=_bridge(services, model.bridge),
        background_rows=document.background_rows,
        model=str(files.path(model.model_file_id)),
        preprocessor=_path(files, model.preprocessor_file_id),
        reference=_path(files, model.reference_file_id),
    )
    made = {"compiled": model.compiled_file_id, "converted": model.converted_file_id, "kept_rows": model.study_file_id}
    return job.found(inspection, **{name: _path(files, file) for name, file in made.items()})


def _function_name(inspection: bytes) -> str | None:
    """Which function of a file answers, where its author had to say so."""
    told = msgspec.json.decode(inspection).get("told") or {}
    name: str | None = told.get("function_name")
    return name


def _beside(files: FileStore, model: str, beside: str | None, limit: int | None = None) -> dict[str, Any]:
    """What a job has beside its file, and how much of both is written where it is opened.

    Raises
    ------
    MismatchFaults
        If it is no archive, or larger than it may be.
    """
    n_bytes = _copied_bytes(files.path(model))
    if beside is None:
        return {"beside_bytes": n_bytes} if n_bytes else {}
    path = files.path(beside)
    n_unpacked = unpacked_bytes(path, limit if limit is not None else sys.maxsize)
    return {"beside": str(path), "beside_bytes": n_bytes + n_unpacked}


def _copied_bytes(model: Path) -> int:
    """HDF5 is read by its path: in there a copy is made."""
    with open(model, "rb") as file:
        return model.stat().st_size if network_kind(file) == "keras-h5" else 0


def _environment(services: Services, hash_: str | None) -> str | None:
    """The folder of a model's own libraries."""
    return None if hash_ is None else str(services.environments.libraries(hash_))


def _bridge(services: Services, key: str | None) -> str | None:
    """The socket at which a process is reached that holds the model."""
    return None if key is None else str((services.settings.bridges / key).with_suffix(".sock"))


def runner_key(model: Model, document: DemoDocument) -> str:
    """The name of the runner that holds this model as the document has it explained.

    Parameters
    ----------
    model : Model
    document : DemoDocument
    """
    n_background = document.background_rows
    return model.runner_key if n_background == BACKGROUND_ROWS else job_key(model.runner_key, str(n_background))


def _path(files: FileStore, file: str | None) -> str | None:
    return str(files.path(file)) if file else None


def live_jobs(services: Services) -> list[RunnerJob]:
    """The runners that live releases need; several releases may share one.

    Parameters
    ----------
    services : Services
    """
    jobs = (
        runner_job(services, release.model, DemoDocument.model_validate_json(release.document))
        for release in live_releases()
    )
    return list({job.key: job for job in jobs}.values())


def needed_jobs(services: Services) -> list[RunnerJob]:
    """The runners that drafts and live releases may be asked at.

    Parameters
    ----------
    services : Services
    """
    of_drafts = (runner_job(services, demo.model, draft_of(demo)) for demo in drafts())
    return list({job.key: job for job in [*of_drafts, *live_jobs(services)]}.values())


def bring_model(services: Services, author: Author, submission: ModelSubmission) -> Demo:
    """Open the model in a runner, infer the demo from it and its table, and keep both.

    Parameters
    ----------
    services : Services
    author : Author
        Whose it is.
    submission : ModelSubmission
        The files and words that were sent.

    Raises
    ------
    ModelNotOpened, MismatchFaults, DocumentFaults
        With the reason; nothing of what was submitted then stays.
    SlugTaken
        If another demo has the wanted address.
    EnvironmentWanted
        If libraries that the model asks for must be built first; its files are still held then.
    RunnerUnavailable
        If no runner can be had now.
    """
    try:
        submission = with_environment(services, submission)
    except EnvironmentWanted:
        # Its files wait with it.
        raise
    except BaseException:
        services.files.let_go(submission.files)
        raise
    key = submission.key
    # Two who bring the very same at the same time open it one after the other: the second finds what the first made.
    seconds = MOST_OPENINGS * services.settings.limits.open_seconds + 2 * START_SECONDS
    with advisory_lock(f"plain_window_{key}", seconds=seconds), all_or_nothing(services, submission, key):
        model = model_of(services, submission)
        document = _first_document(submission, model_inspection(model))
        demo = create_demo(
            author,
            slug=submission.slug or free_slug(document.title),
            document=document,
            model=model,
            known_file=submission.known_file,
            stamp=services.stamp,
        )
    # The first visitor must not meet a cold model; if it takes longer, they are told to come back. Samples are brought
    # one after another, and get ready meanwhile.
    until: Until = "now" if submission.opened else "ready"
    with contextlib.suppress(RunnerUnavailable):
        services.runners.ensure(runner_job(services, model, document), until=until, timeout=START_SECONDS)
    return find_demo(demo.slug) or demo


def model_of(services: Services, submission: ModelSubmission) -> Model:
    """The record of what is submitted, which a runner opens unless it was opened before.

    Parameters
    ----------
    services : Services
    submission : ModelSubmission
        The files and words that were sent.

    Raises
    ------
    ModelNotOpened, MismatchFaults
        With the reason.
    RunnerUnavailable
        If no runner can be had now.
    """
    files = services.files
    job = RunnerJob(
        key=submission.key,
        model=str(files.path(submission.model_file)),
        told=OpenFile(
            target=submission.target,
            labels=submission.labels,
            answer_kind=submission.answer_kind,
            preparations=submission.preparations,
            numbers=submission.numbers,
            dates=submission.dates,
            function_name=submission.function_name,
            known_group=submission.known_group,
        ),
        **_beside(files, submission.model_file, submission.beside_file, services.settings.limits.model_bytes),
        environment=_environment(services, submission.environment),
        bridge=_bridge(services, submission.bridge),
        preprocessor=_path(files, submission.preprocessor_file),
        reference=_path(files, submission.reference_file),
        known=_path(files, submission.known_file),
    )
    return Model.get_or_none(Model.runner_key == job.key) or _opened(services, job, submission)


def _opened(services: Services, job: RunnerJob, submission: ModelSubmission) -> Model:
    """The record of a model that a runner has opened, with the compiled model if one came of it."""
    opened = submission.opened or _opened_by_runner(services, job)
    try:
        # It comes out of a process that a stranger's file was opened in.
        inspection = Inspection.model_validate_json(opened.inspection)
    except ValidationError as error:
        services.runners.retire(job.key)
        raise ModelNotOpened("What the model's process said of it is not what a model says. It was stopped.") from error
    inspection.told = Told(
        target=submission.target,
        answer_kind=submission.answer_kind,
        preparations=submission.preparations,
        numbers=submission.numbers,
        dates=submission.dates,
        function_name=submission.function_name,
        known_group=submission.known_group,
    )
    made = [stored_bytes(services, content) if content else None for content in opened[1:]]
    try:
        # Of two who bring the same at the same time, the second takes the record of the first.
        model: Model = Model.get_or_create(  # type: ignore[no-untyped-call]
            runner_key=job.key,
            defaults={
                "model_file": submission.model_file,
                "preprocessor_file": submission.preprocessor_file,
                "beside_file": submission.beside_file,
                "requirements": submission.requirements,
                "environment": submission.environment,
                "bridge": submission.bridge,
                "reference_file": submission.reference_file,
                "compiled_file": made[0],
                "study_file": made[1],
                "converted_file": made[2],
                "target": inspection.target,
                "labels": json.dumps(submission.labels) if submission.labels else None,
                "inspection": inspection.model_dump_json(),
            },
        )[0]
        return model
    finally:
        services.files.let_go([each for each in made if each])


def _opened_by_runner(services: Services, job: RunnerJob) -> OpenedModel:
    """What a runner finds in a file that nobody has opened before."""
    timeout = MOST_OPENINGS * services.settings.limits.open_seconds + START_SECONDS
    try:
        state = services.runners.ensure(job, until="opened", timeout=timeout)
    except RunnerFailed as error:
        if error.faults:
            raise MismatchFaults(error.faults) from error
        raise ModelNotOpened(str(error), traceback=error.traceback, requirements=error.requirements) from error
    if state.inspection is None:
        raise RunnerUnavailable("opening")
    return OpenedModel(state.inspection, state.compiled, state.kept_rows, state.converted)


def stored_bytes(services: Services, content: bytes) -> str:
    """The hash under which these bytes are kept from now on; let go by whoever wants them no more.

    Parameters
    ----------
    services : Services
    content : bytes
    """
    return services.files.take_file(io.BytesIO(content), limit=len(content), too_large=ValueError)


def _first_document(submission: ModelSubmission, inspection: Inspection) -> DemoDocument:
    title = submission.title or (submission.changes.title if submission.changes else None) or inspection.title
    document = DemoDocument(
        title=(title or "Untitled demo")[:TITLE_CHARACTERS],
        description=inspection.description,
        fields=inspection.fields,
        answer=inspection.answer,
    )
    return apply_changes(document, submission.changes) if submission.changes else document


@contextlib.contextmanager
def all_or_nothing(services: Services, submission: ModelSubmission, key: str, *, keep: bool = True) -> Iterator[None]:
    """If the demo does not come to be, neither its runner nor its files stay, unless others have them too.

    With `keep` false nothing stays in any case.

    Parameters
    ----------
    services : Services
    submission : ModelSubmission
        The files and words that were sent.
    key : str
        The name of what a runner holds, by `job_key`.
    keep : bool, optional
        Whether what came to be stays.
    """
    made: list[str] = []
    try:
        yield
    except BaseException:
        made = take_back(services, key)
        raise
    else:
        made = [] if keep else take_back(services, key)
    finally:
        services.files.let_go([*submission.files, *made])


def take_back(services: Services, key: str) -> list[str]:
    """The files that were made of a model that nothing came of; its record and runner go.

    Parameters
    ----------
    services : Services
    key : str
        The name of what a runner holds, by `job_key`.
    """
    model = Model.get_or_none(Model.runner_key == key)
    if model is not None and is_model_used(model):
        return []
    with contextlib.suppress(RunnerUnavailable):
        services.runners.retire(key)
    if model is None:
        return []
    model.delete_instance()
    return [each for each in (model.compiled_file_id, model.study_file_id, model.converted_file_id) if each]
