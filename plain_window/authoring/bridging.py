"""A model that stays in its author's own process becomes a demo, or answers for one that is there."""

from dataclasses import dataclass

from ..core.contract.jobs import job_key
from ..core.documents import DemoDocument
from ..core.errors import ModelNotOpened
from ..core.formats.format import Head
from ..core.formats.python.recognising import FORMAT
from ..store.addresses import free_slug, spelled_slug
from ..store.demos import draft_of, find_demo
from ..store.records import Author, Demo
from ..store.releases import live_releases_of
from .model_intake import bring_model, runner_job, stored_bytes
from .replacing import Replacement, replace_model
from .services import Services
from .submission import ModelSubmission

__all__ = ["Bridged", "NotYours", "bridge_key", "bring_bridged", "wanted_slug"]

READY_SECONDS = 20.0
SOURCE_BYTES, REFERENCE_BYTES = 4 << 20, 60 << 20


class NotYours(Exception):
    """There is a demo of somebody else's at that address; the message is the address."""


@dataclass(frozen=True)
class Bridged:
    """What a process says of what it holds: a Python file without bodies, and what comes along."""

    source: str
    function: str
    demo: str | None = None
    title: str | None = None
    target: str | None = None
    reference: bytes | None = None


def bridge_key(author_id: int, slug: str) -> str:
    """The name of the bridge to an author's demo: the same for every process that answers for it.

    Parameters
    ----------
    author_id : int
    slug : str
    """
    return job_key("bridge", str(author_id), slug)


def wanted_slug(author_id: int, told: Bridged) -> str:
    """The address of the demo that it is for. A process that says none comes back to the one that was made for it, as a
    notebook's cell does that is run again; the first time it gets a free one.

    Parameters
    ----------
    author_id : int
        Whose process it is.
    told : Bridged
    """
    if told.demo:
        return told.demo
    wanted = spelled_slug(told.title or told.function.replace("_", " "))
    demo = find_demo(wanted)
    is_its_own = demo is not None and demo.model.bridge == bridge_key(author_id, wanted)
    return wanted if is_its_own else free_slug(wanted)


def bring_bridged(services: Services, author: Author, told: Bridged, slug: str) -> Demo:
    """The demo that is answered from there: made, or with this in its model's place, or as it is.

    Parameters
    ----------
    services : Services
    author : Author
        Whose process it is.
    told : Bridged
    slug : str
        The demo's address.

    Raises
    ------
    ModelNotOpened, MismatchFaults, DocumentFaults, SlugTaken
        With the reason.
    NotYours
        If there is somebody else's at that address.
    RunnerUnavailable, RunnerFailed
        If no runner can be had now.
    """
    demo = find_demo(slug)
    if demo is not None and demo.author_id != author.id:
        raise NotYours(slug)
    content = told.source.encode()
    if FORMAT.recognise(Head(content)) is None:
        raise ModelNotOpened("What is told of the function is no Python file. Install the client from this server.")
    key = bridge_key(author.id, slug)
    for part, limit, what in (
        (content, SOURCE_BYTES, "What is told of the function"),
        (told.reference or b"", REFERENCE_BYTES, "The reference table"),
    ):
        if len(part) > limit:
            raise ModelNotOpened(f"{what} is larger than {limit >> 20} MB.")
    source = stored_bytes(services, content)
    reference = stored_bytes(services, told.reference) if told.reference else None
    if demo is None:
        submission = ModelSubmission(
            model_file=source,
            reference_file=reference,
            function_name=told.function,
            target=told.target,
            title=told.title,
            slug=slug,
            bridge=key,
        )
        return bring_model(services, author, submission)
    _end_cut_lines(services, demo)
    if (
        demo.model.bridge == key
        and demo.model.model_file_id == source
        and reference in (None, demo.model.reference_file_id)
    ):
        services.files.let_go([hash_ for hash_ in (source, reference) if hash_])
        # Whoever connects is told once visitors are answered again.
        services.runners.ensure(runner_job(services, demo.model, draft_of(demo)), until="ready", timeout=READY_SECONDS)
        return demo
    files = {"model": source, "beside": None, **({"reference": reference} if reference else {})}
    words = {"function_name": told.function, "bridge": key, "requirements": None}
    words |= {"target": told.target} if told.target else {}
    return replace_model(services, demo, Replacement(files, words), try_only=False)[1]


def _end_cut_lines(services: Services, demo: Demo) -> None:
    """Runners that asked the process before hold lines that are cut, and would learn it from somebody's call."""
    live = live_releases_of([demo]).get(demo.id)
    jobs = [runner_job(services, demo.model, draft_of(demo))]
    if live is not None:
        jobs.append(runner_job(services, live.model, DemoDocument.model_validate_json(live.document)))
    for key in {job.key for job in jobs if job.bridge is not None}:
        services.runners.retire(key)
