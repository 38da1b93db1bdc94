"""A model and a table become a demo, whole or not at all."""

import contextlib
import io
import json
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from pydantic import ValidationError

from ..core.demo import BACKGROUND_ROWS, TITLE_CHARACTERS, DemoChanges, DemoDocument, apply_changes
from ..core.errors import Fault, MismatchFaults, ModelNotOpened
from ..core.models.found import Inspection, Told
from ..runners.client import RunnerFailed, RunnerUnavailable
from ..runners.jobs import RunnerJob, job_key
from ..store.database import advisory_lock
from ..store.demos import create_demo, draft_of, drafts, find_demo, free_slug, live_releases
from ..store.files import FileStore
from ..store.records import Author, Demo, Model, Release
from .workshop import Workshop

__all__ = [
    "Brought",
    "all_or_nothing",
    "bring_model",
    "live_jobs",
    "model_of",
    "needed_jobs",
    "runner_job",
    "take_back",
]

# What opening may take beyond the model's own time: starting the process, importing its library.
START_SECONDS = 20.0


@dataclass(frozen=True)
class Brought:
    """What an author brings. Files are named by their hash in the store."""

    model_file: str
    reference_file: str | None = None
    preprocessor_file: str | None = None
    known_file: str | None = None
    target: str | None = None
    labels: list[str] | None = None
    answer_kind: str | None = None
    # How the tables write numbers: "point" or "comma".
    numbers: str | None = None
    # By field, where they are not to be guessed.
    preparations: dict[str, dict[str, Any]] = field(default_factory=dict)
    title: str | None = None
    slug: str | None = None
    changes: DemoChanges | None = None

    @property
    def key(self) -> str:
        """The name of what a runner is to make of this: same files, same words, same runner."""
        prepared = json.dumps(self.preparations, sort_keys=True) if self.preparations else ""
        said = [self.answer_kind or "", prepared, self.numbers or ""]
        return job_key(
            self.model_file,
            self.reference_file,
            self.target,
            "\n".join(self.labels or []),
            self.preprocessor_file,
            self.known_file,
            *(said if any(said) else []),
        )

    @property
    def files(self) -> list[str]:
        """All files of this demo."""
        every = (self.model_file, self.preprocessor_file, self.reference_file, self.known_file)
        return [hash_ for hash_ in every if hash_]


def runner_job(files: FileStore, model: Model, document: DemoDocument) -> RunnerJob:
    """What a runner needs to hold this model, with what the document says of how it is explained."""
    n_background = document.background_rows
    is_usual = n_background == BACKGROUND_ROWS
    return RunnerJob(
        key=model.runner_key if is_usual else job_key(model.runner_key, str(n_background)),
        study=files.path(model.study_file_id) if model.study_file_id else None,
        background_rows=n_background,
        model=files.path(model.model_file_id),
        preprocessor=files.path(model.preprocessor_file_id) if model.preprocessor_file_id else None,
        reference=files.path(model.reference_file_id) if model.reference_file_id else None,
        compiled=files.path(model.compiled_file_id) if model.compiled_file_id else None,
        target=model.target,
        labels=json.loads(model.labels) if model.labels else None,
        inspection=json.loads(model.inspection),
    )


def live_jobs(files: FileStore) -> list[RunnerJob]:
    """The runners that live releases need; several releases may share one."""
    jobs = (
        runner_job(files, release.model, DemoDocument.model_validate_json(release.document))
        for release in live_releases()
    )
    return list({job.key: job for job in jobs}.values())


def needed_jobs(files: FileStore) -> list[RunnerJob]:
    """The runners that drafts and live releases may be asked at."""
    of_drafts = (runner_job(files, demo.model, draft_of(demo)) for demo in drafts())
    return list({job.key: job for job in [*of_drafts, *live_jobs(files)]}.values())


def bring_model(workshop: Workshop, author: Author, brought: Brought) -> Demo:
    """Open the model in a runner, infer the demo from it and its table, and keep both.

    Raises
    ------
    ModelNotOpened, MismatchFaults, DocumentFaults
        With the reason; nothing of what was brought then stays.
    SlugTaken
        If another demo has the wanted address.
    RunnerUnavailable
        If no runner can be had now.
    """
    key = brought.key
    # Two who bring the very same at the same time open it one after the other: the second finds what the first made.
    seconds = workshop.settings.limits.open_seconds + 2 * START_SECONDS
    with advisory_lock(f"plain_window_{key}", seconds=seconds), all_or_nothing(workshop, brought, key):
        model = model_of(workshop, brought)
        document = _first_document(brought, json.loads(model.inspection))
        demo = create_demo(
            author,
            slug=brought.slug or free_slug(document.title),
            document=document,
            model=model,
            known_file=brought.known_file,
            stamp=workshop.stamp,
        )
    # The first visitor must not meet a cold model; if it takes longer, they are told to come back.
    with contextlib.suppress(RunnerUnavailable):
        workshop.runners.ensure(runner_job(workshop.files, model, document), until="ready", timeout=START_SECONDS)
    return find_demo(demo.slug) or demo


def model_of(workshop: Workshop, brought: Brought) -> Model:
    """The record of what is brought, which a runner opens unless it was opened before.

    Raises
    ------
    ModelNotOpened, MismatchFaults
        With the reason.
    RunnerUnavailable
        If no runner can be had now.
    """
    files = workshop.files
    job = RunnerJob(
        key=brought.key,
        model=files.path(brought.model_file),
        preprocessor=files.path(brought.preprocessor_file) if brought.preprocessor_file else None,
        reference=files.path(brought.reference_file) if brought.reference_file else None,
        known=files.path(brought.known_file) if brought.known_file else None,
        target=brought.target,
        labels=brought.labels,
        answer_kind=brought.answer_kind,
        preparations=brought.preparations,
        numbers=brought.numbers,
    )
    return Model.get_or_none(Model.runner_key == job.key) or _opened(workshop, job, brought)


def _opened(workshop: Workshop, job: RunnerJob, brought: Brought) -> Model:
    """The record of a model that a runner has opened, with the compiled model if one came of it."""
    timeout = workshop.settings.limits.open_seconds + START_SECONDS
    try:
        state = workshop.runners.ensure(job, until="opened", timeout=timeout)
    except RunnerFailed as error:
        if error.faults:
            raise MismatchFaults([Fault(fault["field"], fault["message"]) for fault in error.faults]) from error
        raise ModelNotOpened(str(error)) from error
    if state["inspection"] is None:
        raise RunnerUnavailable("The model is still being opened. Try again in a moment.")
    try:
        # It comes out of a process that a stranger's file was opened in.
        inspection = Inspection.model_validate(state["inspection"])
    except ValidationError as error:
        workshop.runners.retire(job.key)
        raise ModelNotOpened("What the model's process said of it is not what a model says. It was stopped.") from error
    inspection.told = Told(
        target=brought.target,
        answer_kind=brought.answer_kind,
        preparations=brought.preparations,
        numbers=brought.numbers,
    )
    made = [_stored(workshop, state[part]) if state[part] else None for part in ("compiled", "study")]
    try:
        # Of two who bring the same at the same time, the second takes the record of the first.
        return Model.get_or_create(
            runner_key=job.key,
            defaults={
                "model_file": brought.model_file,
                "preprocessor_file": brought.preprocessor_file,
                "reference_file": brought.reference_file,
                "compiled_file": made[0],
                "study_file": made[1],
                "target": inspection.target,
                "labels": json.dumps(brought.labels) if brought.labels else None,
                "inspection": inspection.model_dump_json(),
            },
        )[0]
    finally:
        workshop.files.let_go([each for each in made if each])


def _stored(workshop: Workshop, content: bytes) -> str:
    return workshop.files.take_file(io.BytesIO(content), limit=len(content), too_large=ValueError)


def _first_document(brought: Brought, inspection: dict) -> DemoDocument:
    title = brought.title or (brought.changes.title if brought.changes else None) or "Untitled demo"
    document = DemoDocument(title=title[:TITLE_CHARACTERS], fields=inspection["fields"], answer=inspection["answer"])
    return apply_changes(document, brought.changes) if brought.changes else document


@contextlib.contextmanager
def all_or_nothing(workshop: Workshop, brought: Brought, key: str, *, keep: bool = True) -> Iterator[None]:
    """If the demo does not come to be, neither its runner nor its files stay, unless others have them too.

    With `keep` false nothing stays in any case.
    """
    made: list[str] = []
    try:
        yield
    except BaseException:
        made = take_back(workshop, key)
        raise
    else:
        made = [] if keep else take_back(workshop, key)
    finally:
        workshop.files.let_go([*brought.files, *made])


def take_back(workshop: Workshop, key: str) -> list[str]:
    """The files that were made of a model that nothing came of; its record and runner go."""
    model = Model.get_or_none(Model.runner_key == key)
    if model is not None and (
        Demo.select().where(Demo.model == model).exists() or Release.select().where(Release.model == model).exists()
    ):
        return []
    with contextlib.suppress(RunnerUnavailable):
        workshop.runners.retire(key)
    if model is None:
        return []
    model.delete_instance()
    return [each for each in (model.compiled_file_id, model.study_file_id) if each]
