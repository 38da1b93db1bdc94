"""A model and a table become a demo, whole or not at all."""

import contextlib
import json
from collections.abc import Iterator
from dataclasses import dataclass

from ..core.demo import TITLE_CHARACTERS, DemoChanges, DemoDocument, apply_changes
from ..core.errors import Fault, MismatchFaults, ModelNotOpened
from ..runners.client import RunnerFailed, RunnerUnavailable
from ..runners.jobs import RunnerJob, job_key
from ..store.demos import create_demo, find_demo, free_slug
from ..store.files import FileStore
from ..store.records import Author, Demo, Model
from .workshop import Workshop

__all__ = ["Brought", "bring_model", "runner_job"]

# What opening may take beyond the model's own time: starting the process, importing its library.
START_SECONDS = 20.0


@dataclass(frozen=True)
class Brought:
    """What an author brings. Files are named by their hash in the store."""

    model_file: str
    reference_file: str
    known_file: str | None = None
    target: str | None = None
    labels: list[str] | None = None
    title: str | None = None
    slug: str | None = None
    changes: DemoChanges | None = None

    @property
    def files(self) -> list[str]:
        """All files of this demo."""
        return [hash_ for hash_ in (self.model_file, self.reference_file, self.known_file) if hash_]


def runner_job(files: FileStore, model: Model) -> RunnerJob:
    """What a runner needs to hold this model."""
    return RunnerJob(
        key=model.runner_key,
        model=files.path(model.model_file_id),
        reference=files.path(model.reference_file_id),
        target=model.target,
        labels=json.loads(model.labels) if model.labels else None,
        inspection=json.loads(model.inspection),
    )


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
    key = job_key(brought.model_file, brought.reference_file, brought.target, "\n".join(brought.labels or []))
    with _nothing_half_done(workshop, brought, key):
        job = RunnerJob(
            key=key,
            model=workshop.files.path(brought.model_file),
            reference=workshop.files.path(brought.reference_file),
            target=brought.target,
            labels=brought.labels,
        )
        inspection = _opened(workshop, job)
        document = _first_document(brought, inspection)
        model, _ = Model.get_or_create(
            runner_key=key,
            defaults={
                "model_file": brought.model_file,
                "reference_file": brought.reference_file,
                "target": inspection["target"],
                "labels": json.dumps(brought.labels) if brought.labels else None,
                "inspection": json.dumps(inspection),
            },
        )
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
        workshop.runners.ensure(job, until="ready", timeout=START_SECONDS)
    return find_demo(demo.slug) or demo


def _opened(workshop: Workshop, job: RunnerJob) -> dict:
    known = Model.get_or_none(Model.runner_key == job.key)
    if known is not None:
        return json.loads(known.inspection)
    timeout = workshop.settings.limits.open_seconds + START_SECONDS
    try:
        state = workshop.runners.ensure(job, until="opened", timeout=timeout)
    except RunnerFailed as error:
        if error.faults:
            raise MismatchFaults([Fault(fault["field"], fault["message"]) for fault in error.faults]) from error
        raise ModelNotOpened(str(error)) from error
    if state["inspection"] is None:
        raise RunnerUnavailable("The model is still being opened. Try again in a moment.")
    return state["inspection"]


def _first_document(brought: Brought, inspection: dict) -> DemoDocument:
    title = brought.title or (brought.changes.title if brought.changes else None) or "Untitled demo"
    document = DemoDocument(title=title[:TITLE_CHARACTERS], fields=inspection["fields"], answer=inspection["answer"])
    return apply_changes(document, brought.changes) if brought.changes else document


@contextlib.contextmanager
def _nothing_half_done(workshop: Workshop, brought: Brought, key: str) -> Iterator[None]:
    """If the demo does not come to be, neither its runner nor its files stay."""
    try:
        yield
    except BaseException:
        unused = Model.select(Model.id).where(Model.runner_key == key)
        if not Demo.select().where(Demo.model.in_(unused)).exists():
            Model.delete().where(Model.runner_key == key).execute()
            with contextlib.suppress(RunnerUnavailable):
                workshop.runners.retire(key)
        workshop.files.release(brought.files)
        raise
