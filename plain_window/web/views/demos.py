"""An author's demos: the shelf, bringing a model, the draft."""

import contextlib
import re
from typing import Any

import peewee

from ...authoring.bringing import Brought, bring_model, runner_job
from ...authoring.housekeeping import retire_unneeded
from ...core.demo import TITLE_CHARACTERS, DemoChanges, DemoDocument
from ...core.errors import DocumentFaults, Fault
from ...core.models.found import PictureFindings
from ...runners.client import RunnerFailed, RunnerUnavailable
from ...store.demos import (
    MAX_SLUG,
    change_draft,
    delete_demo,
    draft_of,
    find_demo,
    model_inspection,
    restore_demo,
    secret_link_of,
    shelf,
)
from ...store.records import Author, Demo, Prediction, Release
from ..access import link_path, require_owner
from ..identity import require_author
from ..problems import ApiProblem, not_found
from ..state import state
from ..types import AccessState, DemoState, NewDemo, ReleaseState, Shelf, ShelfEntry
from ..uploads import Upload, receive_upload
from . import api

__all__ = ["access_state", "demo_state", "own_record"]

SLUG = re.compile(rf"[a-z0-9](?:[a-z0-9-]{{0,{MAX_SLUG - 2}}}[a-z0-9])?")
WORD_BYTES = 1000


@api.operation("GET", "/demos", guard=require_author, answer=Shelf, errors=(401, 503))
def list_demos() -> Shelf:
    """The author's demos, the one changed last first."""
    author = require_author()
    demos = shelf(Author.get_by_id(author.id))
    runners = _runners()
    counts = _prediction_counts([demo.id for demo in demos])
    return Shelf(demos=[_entry(demo, runners, counts) for demo in demos])


@api.operation(
    "POST",
    "/demos",
    multipart=NewDemo,
    guard=require_author,
    answer=DemoState,
    status=201,
    errors=(400, 401, 403, 408, 409, 413, 422, 503),
)
def create_demo() -> DemoState:
    """Bring a model and its reference table; fields and answer are inferred from them.

    Models of pictures and of text need no table. Known cases of a model of pictures are a zip archive of folders named
    after classes: ways to prepare pictures are tried on them.
    """
    author = require_author()
    workshop = state().workshop
    limits = workshop.settings.limits
    upload = receive_upload(
        workshop.files,
        {
            "model": limits.model_bytes,
            "preprocessor": limits.model_bytes,
            "reference": limits.reference_bytes,
            "known": limits.reference_bytes,
        },
        {
            "labels": limits.labels_bytes,
            "target": WORD_BYTES,
            "title": 4 * TITLE_CHARACTERS,
            "slug": WORD_BYTES,
        },
    )
    try:
        brought = _brought(upload)
    finally:
        upload.discard()
    demo = bring_model(workshop, Author.get_by_id(author.id), brought)
    return demo_state(demo)


@api.operation("GET", "/demos/<slug>", guard=require_owner, answer=DemoState, errors=(401, 404, 503))
def get_demo(slug: str) -> DemoState:
    """The draft, with all about the demo that its author sees."""
    return demo_state(own_record(slug))


@api.operation(
    "PATCH",
    "/demos/<slug>",
    body=DemoChanges,
    guard=require_owner,
    answer=DemoState,
    errors=(400, 401, 403, 404, 413, 415, 422, 503),
)
def patch_demo(slug: str, body: DemoChanges) -> DemoState:
    """Change the draft.

    `fields` may name some of the fields, each by its `name`; naming all of them also sets their order.
    """
    demo = change_draft(own_record(slug), body, state().workshop.stamp)
    if body.background_rows is not None:
        # The draft is asked at another runner from now on.
        with contextlib.suppress(RunnerUnavailable):
            retire_unneeded(state().workshop)
    return demo_state(demo)


@api.operation("DELETE", "/demos/<slug>", guard=require_owner, errors=(401, 403, 404, 503), status=204)
def remove_demo(slug: str) -> None:
    """Take the demo off the shelf; its runner goes. `restore` brings it back."""
    delete_demo(own_record(slug), state().workshop.stamp)
    with contextlib.suppress(RunnerUnavailable):
        retire_unneeded(state().workshop)


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
    demo = restore_demo(Author.get_by_id(author.id), slug, state().workshop.stamp)
    if demo is None:
        raise not_found()
    # Its runner went when it was deleted; it is woken as after a start.
    with contextlib.suppress(RunnerUnavailable, RunnerFailed):
        state().workshop.runners.ensure(runner_job(state().workshop.files, demo.model, draft_of(demo)))
    return demo_state(demo)


def own_record(slug: str) -> Demo:
    """The record of a demo, for its author only.

    Raises
    ------
    ApiProblem
        404 for anyone else; 403 without the CSRF token.
    """
    require_owner(slug)
    demo = find_demo(slug)
    if demo is None:
        raise not_found()
    return demo


def demo_state(demo: Demo) -> DemoState:
    """All about a demo that its author sees."""
    document, inspection = draft_of(demo), model_inspection(demo.model)
    release = Release.get_or_none(Release.id == demo.live_release_id) if demo.live_release_id else None
    return DemoState(
        **document.model_dump(),
        slug=demo.slug,
        target=inspection["target"],
        access=access_state(demo),
        release=ReleaseState(number=release.number, created=release.created) if release else None,
        draft_differs=_draft_differs(demo, release),
        found=inspection["found"],
        compiled=inspection["compiled"],
        ignored=inspection["ignored"],
        n_reference_rows=inspection["n_reference_rows"],
        notes=inspection.get("notes", []),
        has_known_cases=demo.known_file_id is not None,
        evidence=inspection.get("evidence"),
        strength=inspection.get("strength") or {},
        unused=inspection.get("unused") or [],
        pictures=inspection.get("pictures") or PictureFindings(),
    )


def access_state(demo: Demo) -> AccessState:
    """Who may open a demo, and how."""
    link = secret_link_of(demo) if demo.access == "link" else None
    return AccessState(
        access=demo.access, link=link_path(link) if link else None, link_expires=link.expires if link else None
    )


def _draft_differs(demo: Demo, release: Release | None) -> bool:
    return release is None or release.document != demo.draft or release.model_id != demo.model_id


def _brought(upload: Upload) -> Brought:
    faults = [
        Fault(name, f"`{name}` is missing. {way_on}")
        for name, way_on in (("model", "Send the file your training script saved."),)
        if name not in upload.files
    ]
    title, slug = upload.texts.get("title", "").strip(), upload.texts.get("slug", "").strip()
    if len(title) > TITLE_CHARACTERS:
        faults.append(
            Fault("title", f"`title` has {len(title)} characters; the limit is {TITLE_CHARACTERS}. Shorten it.")
        )
    if slug and not SLUG.fullmatch(slug):
        detail = f'`slug` may have lower-case letters, digits and hyphens inside, up to {MAX_SLUG}. Got "{slug[:60]}".'
        faults.append(Fault("slug", detail))
    if slug and find_demo(slug):
        raise ApiProblem(409, "Address taken", f"Another demo has the address `{slug}`. Choose another.")
    if faults:
        raise DocumentFaults(faults)
    files = state().workshop.files
    labels = [line.strip() for line in upload.texts.get("labels", "").splitlines() if line.strip()]
    return Brought(
        model_file=files.take(upload.files["model"]),
        reference_file=files.take(upload.files["reference"]) if "reference" in upload.files else None,
        preprocessor_file=files.take(upload.files["preprocessor"]) if "preprocessor" in upload.files else None,
        known_file=files.take(upload.files["known"]) if "known" in upload.files else None,
        target=upload.texts.get("target", "").strip() or None,
        labels=labels or None,
        title=title or None,
        slug=slug or None,
    )


def _entry(demo: Demo, runners: dict[str, dict[str, Any]], counts: dict[int, tuple[int, Any]]) -> ShelfEntry:
    document = draft_of(demo)
    release = Release.get_or_none(Release.id == demo.live_release_id) if demo.live_release_id else None
    served = release.model if release else demo.model
    shown = DemoDocument.model_validate_json(release.document) if release else document
    n_predictions, last = counts.get(demo.id, (0, None))
    runner = runners.get(runner_job(state().workshop.files, served, shown).key)
    return ShelfEntry(
        slug=demo.slug,
        title=document.title,
        purpose=document.purpose,
        access=demo.access,
        release=release.number if release else None,
        draft_differs=_draft_differs(demo, release),
        changed=demo.changed,
        predictions=n_predictions,
        last_prediction=last,
        health=runner["state"] if runner else "asleep",
        trouble=(runner or {}).get("trouble") or None,
    )


def _runners() -> dict[str, dict[str, Any]]:
    with contextlib.suppress(RunnerUnavailable):
        return {runner["key"]: runner for runner in state().workshop.runners.status()["runners"]}
    return {}


def _prediction_counts(demo_ids: list[int]) -> dict[int, tuple[int, Any]]:
    if not demo_ids:
        return {}
    count, last = peewee.fn.COUNT(Prediction.id), peewee.fn.MAX(Prediction.at)
    rows = (
        Prediction.select(Prediction.demo_id, count, last)
        .where(Prediction.demo_id.in_(demo_ids) & (Prediction.outcome == "answered"))
        .group_by(Prediction.demo_id)
        .tuples()
    )
    return {demo_id: (n, at) for demo_id, n, at in rows}
