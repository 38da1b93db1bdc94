"""An author's demos: bringing a model, the draft."""

import contextlib
import json
import re
from collections.abc import Callable, Mapping
from typing import Literal, TypedDict, cast

from flask import Response, after_this_request, request

from ...authoring.folders import FolderNotRead, add_path
from ...authoring.housekeeping import retire_unneeded
from ...authoring.model_intake import bring_model, runner_job
from ...authoring.own_libraries import EnvironmentWanted
from ...authoring.submission import ModelSubmission
from ...core.contract.inspection import Inspection, Question
from ...core.contract.model_facts import AnswerKind
from ...core.documents import TITLE_CHARACTERS, DemoChanges, DemoDocument
from ...core.documents.measured import is_measured_as_set
from ...core.environments.requirements import MOST_BYTES as REQUIREMENTS_BYTES
from ...core.errors import DocumentFaults, Fault
from ...core.fields.calendars import CALENDARS, Calendar
from ...jobs.wanted import WantedMaking
from ...runners.failures import RunnerFailed, RunnerUnavailable
from ...store.addresses import SlugTaken, free_slug, move_demo, slug_fault
from ...store.demos import change_draft, delete_demo, draft_of, draft_tag, find_demo, model_inspection, restore_demo
from ...store.environments import environment_of
from ...store.records import Author, Demo, Release
from ...store.releases import draft_differs
from ...store.secret_links import secret_link_of
from ..access import link_path, require_owner
from ..bridge_lines import bridge_state, bridge_view
from ..identity import require_author
from ..making_jobs import goes_on_as_job, is_not_waited_for
from ..new_reference_jobs import is_overall_by_all
from ..problems import ApiProblem, not_found
from ..reporting import report_of
from ..state import state
from ..types.access import AccessState
from ..types.bridges import BridgeView
from ..types.demos import DemoState, DraftChange
from ..types.environments import EnvironmentPackage, EnvironmentState
from ..types.jobs import JobView
from ..types.models import NewDemo
from ..types.releases import ReleaseState
from ..uploads import Upload, receive_upload
from .api import api

__all__ = [
    "WORD_BYTES",
    "access_state",
    "brought_words",
    "change_demo",
    "demo_state",
    "model_of_upload",
    "open_questions",
    "own_record",
    "require_address",
    "upload_parts",
]

# The address of a demo that was brought without a title.
UNTITLED = re.compile(r"untitled-demo(?:-\d+)?")
WORD_BYTES = 1000
# How a table may write numbers.
NUMBERS_WRITTEN: dict[str, Literal["point", "comma"] | None] = {
    "": None,
    "1,234.5": "point",
    "1.234,5": "comma",
    "point": "point",
    "comma": "comma",
}
ANSWER_KINDS = ("class", "labels", "number", "numbers", "picture", "mask", "text", "table")


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
        submission = _submission(upload)
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


def upload_parts() -> tuple[dict[str, int], dict[str, int]]:
    """The files and texts that a model comes with, and how many bytes each may be."""
    limits = state().services.settings.limits
    files = {
        "model": limits.model_bytes,
        "function": limits.source_bytes,
        "beside": limits.model_bytes,
        "preprocessor": limits.model_bytes,
        "reference": limits.reference_bytes,
        "known": limits.reference_bytes,
    }
    words = ("target", "answer", "numbers", "dates", "function_name", "known_group")
    texts = {"labels": limits.labels_bytes, "requirements": REQUIREMENTS_BYTES}
    return files, {**texts, **dict.fromkeys(words, WORD_BYTES)}


def model_of_upload(upload: Upload) -> str | None:
    """The part that the model came as: `model`, or `function` for a Python file; None if neither came.

    Parameters
    ----------
    upload : Upload

    Raises
    ------
    DocumentFaults
        If both came.
    """
    there = [name for name in ("model", "function") if name in upload.files]
    if len(there) > 1:
        message = "A demo has a `model` or a `function`; both came. Leave one of them out."
        raise DocumentFaults([Fault("function", message)])
    return there[0] if there else None


class BroughtWords(TypedDict, total=False):
    """What is said of a model that is brought; None for what was sent empty."""

    target: str | None
    function_name: str | None
    known_group: str | None
    requirements: str | None
    labels: list[str] | None
    answer_kind: AnswerKind | None
    numbers: Literal["point", "comma"] | None
    dates: Calendar | None


def brought_words(texts: Mapping[str, str]) -> BroughtWords:
    """Outcome, names and kind of answer as they were sent; None for what was sent empty.

    Parameters
    ----------
    texts : mapping
        By name.

    Raises
    ------
    DocumentFaults
        If there is no such kind of answer.
    """
    words: BroughtWords = {}
    if "target" in texts:
        words["target"] = texts["target"].strip() or None
    if "function_name" in texts:
        words["function_name"] = texts["function_name"].strip() or None
    if "known_group" in texts:
        words["known_group"] = texts["known_group"].strip() or None
    if "requirements" in texts:
        words["requirements"] = texts["requirements"] if texts["requirements"].strip() else None
    if "labels" in texts:
        words["labels"] = [line.strip() for line in texts["labels"].splitlines() if line.strip()] or None
    if "answer" in texts:
        wanted = texts["answer"].strip()
        if wanted and wanted not in ANSWER_KINDS:
            kinds = ", ".join(f"`{kind}`" for kind in ANSWER_KINDS)
            raise DocumentFaults([Fault("answer", f'`answer` may be {kinds}. Got "{wanted[:60]}".')])
        words["answer_kind"] = cast("AnswerKind", wanted) if wanted else None
    if "numbers" in texts:
        written = texts["numbers"].strip()
        if written not in NUMBERS_WRITTEN:
            ways = " or ".join(f"`{way}`" for way in NUMBERS_WRITTEN if way)
            raise DocumentFaults([Fault("numbers", f'`numbers` may be {ways}. Got "{written[:60]}".')])
        words["numbers"] = NUMBERS_WRITTEN[written]
    if "dates" in texts:
        counted = texts["dates"].strip()
        if counted and counted not in CALENDARS:
            ways = ", ".join(f"`{way}`" for way in CALENDARS)
            raise DocumentFaults([Fault("dates", f'`dates` may be {ways}. Got "{counted[:60]}".')])
        words["dates"] = counted or None
    return words


def demo_state(demo: Demo) -> DemoState:
    """All about a demo that its author sees; the answer carries the draft's tag.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    tag = draft_tag(demo)

    @after_this_request
    def with_tag(response: Response) -> Response:
        response.set_etag(tag)
        return response

    document, inspection = draft_of(demo), model_inspection(demo.model)
    release = Release.get_or_none(Release.id == demo.live_release_id) if demo.live_release_id else None
    is_measured = is_measured_as_set(document, inspection)
    evidence = inspection.evidence if is_measured else None
    return DemoState(
        **document.model_dump(),
        slug=demo.slug,
        target=inspection.target,
        access=access_state(demo),
        release=release_state(release, demo) if release else None,
        draft_differs=draft_differs(demo, release),
        found=inspection.found,
        compiled=inspection.compiled,
        ignored=inspection.ignored,
        n_reference_rows=inspection.n_reference_rows,
        overall_by_all=is_overall_by_all(demo.model_id, document),
        notes=inspection.notes,
        targets=inspection.targets,
        candidates=inspection.candidates,
        questions=open_questions(document, inspection),
        has_labels=demo.model.labels is not None,
        has_reference=demo.model.reference_file_id is not None,
        has_preprocessor=demo.model.preprocessor_file_id is not None,
        has_beside=demo.model.beside_file_id is not None,
        requirements=demo.model.requirements,
        environment=_environment_state(demo),
        bridge=_bridge_state(demo),
        release_while_away=_number_of(demo.away_release_id),
        has_known_cases=demo.known_file_id is not None,
        known_group=inspection.told.known_group,
        known_groups=inspection.known_groups,
        has_expected=demo.expected_file_id is not None,
        evidence=evidence,
        report=report_of(evidence, document.answer),
        likeness=inspection.likeness,
        evidence_is_stale=inspection.evidence is not None and not is_measured,
        strength=inspection.strength,
        unused=inspection.unused,
        pictures=inspection.pictures,
        boxes=inspection.boxes,
    )


def _environment_state(demo: Demo) -> EnvironmentState | None:
    """The libraries that its model has of its own."""
    hash_ = demo.model.environment_id
    if hash_ is None:
        return None
    packages = [EnvironmentPackage(name=one.name, version=one.version) for one in environment_of(hash_)]
    return EnvironmentState(id=hash_, packages=packages, is_here=state().services.environments.is_there(hash_))


def _bridge_state(demo: Demo) -> BridgeView | None:
    """Who answers for it, where its model stays in a process of its author's."""
    key = demo.model.bridge
    return None if key is None else bridge_view(demo.slug, bridge_state(state().services.settings, key))


def _number_of(release_id: int | None) -> int | None:
    return None if release_id is None else Release.get_by_id(release_id).number


def release_state(release: Release, demo: Demo) -> ReleaseState:
    """A release as its author sees it listed.

    Parameters
    ----------
    release : Release
    demo : Demo
        Whose it is.
    """
    return ReleaseState(
        number=release.number,
        created=release.created,
        published_at=release.created,
        note=release.note,
        despite=json.loads(release.despite) if release.despite else {},
        is_live=release.id == demo.live_release_id,
        is_bridged=release.model.bridge is not None,
    )


def open_questions(document: DemoDocument, inspection: Inspection) -> list[Question]:
    """What was concluded and neither known cases nor the author have confirmed.

    Parameters
    ----------
    document : DemoDocument
        What the demo says of itself.
    inspection : Inspection
        What was found in the model.
    """
    every = inspection.questions
    return [one for one in every if one.name not in document.confirmed]


def access_state(demo: Demo) -> AccessState:
    """Who may open a demo, and how.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    link = secret_link_of(demo) if demo.access == "link" else None
    return AccessState(
        access=demo.access,
        link=link_path(link) if link else None,
        link_expires=link.expires if link else None,
        sites=json.loads(demo.sites) if demo.sites else [],
    )


def _submission(upload: Upload) -> ModelSubmission:
    faults = []
    model_part = model_of_upload(upload)
    if model_part is None:
        came = ", ".join(f"`{name}`" for name in upload.files) or "no file"
        faults.append(
            Fault(
                "model",
                f"`model` is missing; {came} came. Send the file your training script saved as it, or a Python file as "
                "`function`.",
            )
        )
    title, slug = upload.texts.get("title", "").strip(), upload.texts.get("slug", "").strip()
    if len(title) > TITLE_CHARACTERS:
        faults.append(
            Fault("title", f"`title` has {len(title)} characters; the limit is {TITLE_CHARACTERS}. Shorten it.")
        )
    if slug and (wrong := slug_fault(slug)):
        faults.append(Fault("slug", wrong))
    if slug and find_demo(slug):
        taken = f"Another demo has the address `{slug}`. Choose another."
        raise ApiProblem(409, "Address taken", taken, faults=[Fault("slug", taken)])
    if faults:
        raise DocumentFaults(faults)
    files = state().services.files
    words = brought_words(upload.texts)
    return ModelSubmission(
        model_file=files.take(upload.files[model_part or "model"]),
        beside_file=files.take(upload.files["beside"]) if "beside" in upload.files else None,
        reference_file=files.take(upload.files["reference"]) if "reference" in upload.files else None,
        preprocessor_file=files.take(upload.files["preprocessor"]) if "preprocessor" in upload.files else None,
        known_file=files.take(upload.files["known"]) if "known" in upload.files else None,
        **words,
        title=title or None,
        slug=slug or None,
    )
