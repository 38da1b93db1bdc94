"""An author's demos: bringing a model, the draft."""

import contextlib
import re
from collections.abc import Callable

from flask import Response, request

from ...authoring.folders import FolderNotRead, add_path
from ...authoring.housekeeping import retire_unneeded
from ...authoring.model_intake import bring_model, runner_job
from ...authoring.own_libraries import EnvironmentWanted
from ...core.documents import TITLE_CHARACTERS, DemoChanges
from ...core.errors import DocumentFaults, Fault
from ...jobs.wanted import WantedMaking
from ...runners.failures import RunnerFailed, RunnerUnavailable
from ...store.addresses import SlugTaken, free_slug, move_demo, slug_fault
from ...store.demos import change_draft, delete_demo, draft_of, find_demo, restore_demo
from ...store.records import Author, Demo
from ..access import require_owner
from ..brought import WORD_BYTES, model_of_upload, submission_of, upload_parts
from ..demo_states import demo_state
from ..identity import require_author
from ..making_jobs import goes_on_as_job, is_not_waited_for
from ..problems import ApiProblem, not_found
from ..state import state
from ..types.demos import DemoState, DraftChange
from ..types.jobs import JobView
from ..types.models import NewDemo
from ..uploads import Upload, receive_upload
from .api import api

__all__ = ["change_demo", "own_record", "require_address"]

# The address of a demo that was brought without a title.
UNTITLED = re.compile(r"untitled-demo(?:-\d+)?")


@api.operation(
    "POST",
    "/demos",
    multipart=NewDemo,
    guard=require_author,
    answer=DemoState,
    status=201,
    job=JobView,
    errors=(400, 401, 403, 408, 409, 413, 422, 429, 503),
)
def create_demo() -> DemoState | Response:
    """Bring a model and its reference table; fields and answer are inferred from them.

    Models of pictures and of text need no table. A Python file with a function is sent as `function` in place of
    `model`: its type hints say what its fields are, so it needs no table either. Known cases of a model of pictures are
    a zip archive of folders named after classes: ways to prepare pictures are tried on them. `requirements` is the text
    of a `requirements.txt`: the model then runs with those libraries, of its own. Where they must be built first, the
    answer is 202 and a job, whose result names the demo; and so it is with `Prefer: respond-async`, for who does not
    wait while a large model is opened. A `folder` is waited for.
    """
    author = require_author()
    services, record = state().services, Author.get_by_id(author.id)
    files, texts = upload_parts()
    files |= {"folder": folder_bytes()}
    upload = receive_upload(services.files, files, {**texts, "title": 4 * TITLE_CHARACTERS, "slug": WORD_BYTES})
    try:
        if "folder" in upload.files:
            return demo_state(_from_folder(upload, record))
        submission = submission_of(upload)
        if is_not_waited_for():
            wanted = WantedMaking("bring", submission.requirements or "", submission)
            return goes_on_as_job(author.id, wanted, file_name=upload.names.get(model_of_upload(upload) or "", "model"))
        return demo_state(bring_model(services, record, submission))
    except EnvironmentWanted as wanted:
        return goes_on_as_job(author.id, WantedMaking("bring", wanted.requirements, wanted.submission))
    finally:
        upload.discard()


def folder_bytes() -> int:
    """How large a demo's folder may be, packed."""
    limits = state().services.settings.limits
    return limits.model_bytes + 2 * limits.reference_bytes


def _from_folder(upload: Upload, author: Author) -> Demo:
    """A demo out of a zip of its folder; another address may be sent along."""
    beside = sorted({*upload.files, *upload.texts} - {"folder", "slug"})
    if beside:
        detail = f"A `folder` holds all of a demo; `{beside[0]}` came along. Leave one of them out."
        raise ApiProblem(422, "Two of the same", detail, faults=[Fault(beside[0], detail)])
    slug = upload.texts.get("slug", "").strip()
    if slug and (wrong := slug_fault(slug)):
        raise DocumentFaults([Fault("slug", wrong)])
    packed = upload.files["folder"]
    packed.flush()
    try:
        if slug:
            return add_path(state().services, author, packed.path, slug=slug)
        return add_path(state().services, author, packed.path)
    except FolderNotRead as error:
        raise DocumentFaults([Fault("folder", str(error))]) from error


@api.operation("GET", "/demos/<slug>", guard=require_owner, answer=DemoState, errors=(401, 404, 503))
def get_demo(slug: str) -> DemoState:
    """The draft, with all about the demo that its author sees."""
    return demo_state(own_record(slug))


@api.operation(
    "PATCH",
    "/demos/<slug>",
    body=DraftChange,
    guard=require_owner,
    answer=DemoState,
    errors=(400, 401, 403, 404, 409, 412, 413, 415, 422, 503),
)
def patch_demo(slug: str, body: DraftChange) -> DemoState:
    """Change the draft, or the demo's address.

    `fields` may name some of the fields, each by its `name`; naming all of them also sets their order. The address a
    demo had leads on to the one it has. With `If-Match` and the `ETag` of what was read, a draft that has been changed
    since is not touched: 412.
    """
    expected = request.if_match
    demo = change_demo(own_record(slug), body, is_expected=expected.contains if expected else None)
    if body.background_rows is not None:
        # The draft is asked at another runner from now on.
        with contextlib.suppress(RunnerUnavailable):
            retire_unneeded(state().services)
    return demo_state(demo)


@api.operation("DELETE", "/demos/<slug>", guard=require_owner, errors=(401, 403, 404, 503), status=204)
def remove_demo(slug: str) -> None:
    """Take the demo off the shelf; its runner goes. `restore` brings it back."""
    delete_demo(own_record(slug), state().services.stamp)
    with contextlib.suppress(RunnerUnavailable):
        retire_unneeded(state().services)


@api.operation(
    "POST",
    "/demos/<slug>/restore",
    guard=lambda slug: require_author(),
    answer=DemoState,
    errors=(401, 403, 404, 409, 503),
)
def restore(slug: str) -> DemoState:
    """Bring back the demo that was last deleted from this address."""
    author = require_author()
    demo = restore_demo(Author.get_by_id(author.id), slug, state().services.stamp)
    if demo is None:
        raise not_found()
    # Its runner went when it was deleted; it is woken as after a start.
    with contextlib.suppress(RunnerUnavailable, RunnerFailed):
        state().services.runners.ensure(runner_job(state().services, demo.model, draft_of(demo)))
    return demo_state(demo)


def change_demo(demo: Demo, body: DraftChange, *, is_expected: Callable[[str], bool] | None = None) -> Demo:
    """Change a demo's draft, and its address if that is asked for or was never chosen.

    Parameters
    ----------
    demo : Demo
        Its record.
    body : DraftChange
        What is to be changed.
    is_expected : callable or None, optional
        Tells from the draft's tag whether it is the one the change was made on; any if None.

    Raises
    ------
    DocumentFaults, SlugTaken, DraftMoved
        If that cannot be.
    """
    stamp, wanted = state().services.stamp, body.slug
    require_address(demo, wanted)
    if wanted is None and body.title and UNTITLED.fullmatch(demo.slug):
        # Nobody chose that address; it was made because there was no title yet.
        wanted = free_slug(body.title)
    changes = DemoChanges.model_validate(body.model_dump(exclude={"slug"}, exclude_unset=True))
    demo = change_draft(demo, changes, stamp, is_expected=is_expected)
    if wanted is not None:
        demo = move_demo(demo, wanted, stamp)
    return demo


def require_address(demo: Demo, wanted: str | None) -> None:
    """See that the address that is wanted for a demo can be one, and is no other's.

    Parameters
    ----------
    demo : Demo
        Its record.
    wanted : str or None
        As the author wrote it.

    Raises
    ------
    DocumentFaults, SlugTaken
        If it cannot be the demo's.
    """
    if wanted is None:
        return
    if fault := slug_fault(wanted):
        raise DocumentFaults([Fault("slug", fault)])
    other = find_demo(wanted)
    if other is not None and other.id != demo.id:
        raise SlugTaken(wanted)


def own_record(slug: str) -> Demo:
    """The record of a demo, for its author only.

    Parameters
    ----------
    slug : str
        The demo's address.

    Raises
    ------
    ApiProblem
        404 for anyone else; 403 without the CSRF token.
    """
    demo = find_demo(require_owner(slug).slug)
    if demo is None:
        raise not_found()
    return demo
