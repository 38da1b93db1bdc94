"""A model and a table become a demo, whole or not at all."""

import contextlib
import io
import json
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any, Literal

from pydantic import ValidationError

from ..core.contract.inspection import Inspection, Told
from ..core.contract.jobs import OpenFile, RunnerJob, job_key
from ..core.contract.keeping import OpenedModel, Until
from ..core.contract.model_facts import AnswerKind
from ..core.documents import BACKGROUND_ROWS, TITLE_CHARACTERS, DemoChanges, DemoDocument, apply_changes
from ..core.errors import Fault, MismatchFaults, ModelNotOpened
from ..core.fields.calendars import Calendar
from ..runners.client import RunnerFailed, RunnerUnavailable
from ..store.database import advisory_lock
from ..store.demos import create_demo, draft_of, drafts, find_demo, free_slug, live_releases, model_inspection
from ..store.files import FileStore
from ..store.records import Author, Demo, Model, Release
from .services import Services

__all__ = [
    "ModelSubmission",
    "all_or_nothing",
    "bring_model",
    "live_jobs",
    "model_of",
    "needed_jobs",
    "runner_job",
    "runner_key",
    "take_back",
]

# What opening may take beyond the model's own time: starting the process, importing its library.
START_SECONDS = 20.0


@dataclass(frozen=True)
class ModelSubmission:
    """What an author brings. Files are named by their hash in the store."""

    model_file: str
    reference_file: str | None = None
    preprocessor_file: str | None = None
    known_file: str | None = None
    # Outputs of the author's own; the model is opened without them.
    expected_file: str | None = None
    target: str | None = None
    labels: list[str] | None = None
    answer_kind: AnswerKind | None = None
    # How the tables write numbers: "point" or "comma".
    numbers: Literal["point", "comma"] | None = None
    # How dates were counted for the model.
    dates: Calendar | None = None
    # By field, where they are not to be guessed.
    preparations: dict[str, dict[str, Any]] = field(default_factory=dict)
    title: str | None = None
    slug: str | None = None
    changes: DemoChanges | None = None
    # What opening it gave before, where that is known and trusted: a sample of ours.
    opened: OpenedModel | None = None

    @property
    def key(self) -> str:
        """The name of what a runner is to make of this: same files, same words, same runner."""
        prepared = json.dumps(self.preparations, sort_keys=True) if self.preparations else ""
        stated = [self.answer_kind or "", prepared, self.numbers or ""]
        counted = [f"dates {self.dates}"] if self.dates else []
        return job_key(
            self.model_file,
            self.reference_file,
            self.target,
            "\n".join(self.labels or []),
            self.preprocessor_file,
            self.known_file,
            *(stated if any(stated) else []),
            *counted,
        )

    @property
    def files(self) -> list[str]:
        """All files of this demo."""
        every = (self.model_file, self.preprocessor_file, self.reference_file, self.known_file)
        return [hash_ for hash_ in every if hash_]


def runner_job(files: FileStore, model: Model, document: DemoDocument) -> RunnerJob:
    """What a runner needs to hold this model, with what the document says of how it is explained.

    Parameters
    ----------
    files : FileStore
        Where files are kept by their hash.
    model : Model
        The model's record.
    document : DemoDocument
        What the demo says of itself.
    """
    job = RunnerJob(
        key=runner_key(model, document),
        background_rows=document.background_rows,
        model=str(files.path(model.model_file_id)),
        preprocessor=_path(files, model.preprocessor_file_id),
        reference=_path(files, model.reference_file_id),
    )
    compiled, kept_rows = _path(files, model.compiled_file_id), _path(files, model.study_file_id)
    return job.found(model.inspection.encode(), compiled=compiled, kept_rows=kept_rows)


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


def live_jobs(files: FileStore) -> list[RunnerJob]:
    """The runners that live releases need; several releases may share one.

    Parameters
    ----------
    files : FileStore
        Where files are kept by their hash.
    """
    jobs = (
        runner_job(files, release.model, DemoDocument.model_validate_json(release.document))
        for release in live_releases()
    )
    return list({job.key: job for job in jobs}.values())


def needed_jobs(files: FileStore) -> list[RunnerJob]:
    """The runners that drafts and live releases may be asked at.

    Parameters
    ----------
    files : FileStore
        Where files are kept by their hash.
    """
    of_drafts = (runner_job(files, demo.model, draft_of(demo)) for demo in drafts())
    return list({job.key: job for job in [*of_drafts, *live_jobs(files)]}.values())


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
    RunnerUnavailable
        If no runner can be had now.
    """
    key = submission.key
    # Two who bring the very same at the same time open it one after the other: the second finds what the first made.
    seconds = services.settings.limits.open_seconds + 2 * START_SECONDS
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
        services.runners.ensure(runner_job(services.files, model, document), until=until, timeout=START_SECONDS)
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
        ),
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
    )
    made = [_stored(services, content) if content else None for content in (opened.compiled, opened.kept_rows)]
    try:
        # Of two who bring the same at the same time, the second takes the record of the first.
        model: Model = Model.get_or_create(  # type: ignore[no-untyped-call]
            runner_key=job.key,
            defaults={
                "model_file": submission.model_file,
                "preprocessor_file": submission.preprocessor_file,
                "reference_file": submission.reference_file,
                "compiled_file": made[0],
                "study_file": made[1],
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
    timeout = services.settings.limits.open_seconds + START_SECONDS
    try:
        state = services.runners.ensure(job, until="opened", timeout=timeout)
    except RunnerFailed as error:
        if error.faults:
            raise MismatchFaults([Fault(fault.field, fault.message) for fault in error.faults]) from error
        raise ModelNotOpened(str(error)) from error
    if state.inspection is None:
        raise RunnerUnavailable("opening")
    return OpenedModel(state.inspection, state.compiled, state.kept_rows)


def _stored(services: Services, content: bytes) -> str:
    return services.files.take_file(io.BytesIO(content), limit=len(content), too_large=ValueError)


def _first_document(submission: ModelSubmission, inspection: Inspection) -> DemoDocument:
    title = submission.title or (submission.changes.title if submission.changes else None) or "Untitled demo"
    document = DemoDocument(title=title[:TITLE_CHARACTERS], fields=inspection.fields, answer=inspection.answer)
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
    if model is not None and (
        Demo.select().where(Demo.model == model).exists() or Release.select().where(Release.model == model).exists()
    ):
        return []
    with contextlib.suppress(RunnerUnavailable):
        services.runners.retire(key)
    if model is None:
        return []
    model.delete_instance()
    return [each for each in (model.compiled_file_id, model.study_file_id) if each]
