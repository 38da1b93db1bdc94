"""All releases of a demo: each as it was, back to any of them, and what differs between two."""

from flask import request

from ...authoring.model_intake import runner_job
from ...core.documents import DemoDocument
from ...core.documents.comparing import document_differences
from ...core.documents.model_differences import differences
from ...runners.failures import RunnerFailed
from ...store.demos import draft_of, find_demo, model_inspection
from ...store.records import Demo, Model, Release
from ...store.releases import find_release, make_live, releases_of, stand_in_while_away
from ..access import require_owner
from ..demo_states import demo_state, release_state
from ..problems import ApiProblem, not_found
from ..state import state
from ..types.demos import DemoState
from ..types.releases import LiveRelease, ReleaseDetails, ReleaseDifferences, Releases, ReleaseWhileAway
from .api import api
from .demos import own_record

__all__: list[str] = []

DRAFT = "draft"


@api.operation("GET", "/demos/<slug>/releases", guard=require_owner, answer=Releases, errors=(401, 404, 503))
def get_releases(slug: str) -> Releases:
    """All releases, the newest first."""
    demo = own_record(slug)
    found = [release_state(release, demo) for release in releases_of(demo)]
    return Releases(total=len(found), releases=found)


@api.operation(
    "GET",
    "/demos/<slug>/releases/<int:number>",
    guard=lambda slug, number: require_owner(slug),
    answer=ReleaseDetails,
    errors=(401, 404, 503),
)
def get_release(slug: str, number: int) -> ReleaseDetails:
    """One release as it was published."""
    demo = own_record(slug)
    release = _release(demo, number)
    document = DemoDocument.model_validate_json(release.document)
    inspection = model_inspection(release.model)
    return ReleaseDetails(
        **release_state(release, demo).model_dump(),
        document=document,
        found=inspection.found,
        evidence=inspection.evidence,
    )


@api.operation(
    "PUT",
    "/demos/<slug>/release",
    body=LiveRelease,
    guard=require_owner,
    answer=DemoState,
    errors=(400, 401, 403, 404, 409, 413, 415, 422, 503),
)
def put_release(slug: str, body: LiveRelease) -> DemoState:
    """Show visitors that release again, at once and whole; the draft stays as it is.

    Its model is there before anybody is led to it: no request in between fails.
    """
    demo = own_record(slug)
    release = _release(demo, body.number)
    services = state().services
    job = runner_job(services, release.model, DemoDocument.model_validate_json(release.document))
    try:
        found = services.runners.ensure(job, until="ready", timeout=services.settings.limits.open_seconds)
    except RunnerFailed as error:
        raise ApiProblem(
            409, "Its model does not open any more", f"{error} Visitors still see the release they saw."
        ) from error
    if found.state != "ready":
        detail = "Its model is not open yet. Visitors still see the release they saw; try again in a moment."
        raise ApiProblem(503, "Not ready yet", detail, retry_after=5)
    make_live(demo, release, services.stamp)
    return demo_state(find_demo(demo.slug) or demo)


@api.operation(
    "PUT",
    "/demos/<slug>/release-while-away",
    body=ReleaseWhileAway,
    guard=require_owner,
    answer=DemoState,
    errors=(400, 401, 403, 404, 413, 415, 422, 503),
)
def put_release_while_away(slug: str, body: ReleaseWhileAway) -> DemoState:
    """Which release answers while the process of the one that visitors see is away; its pages say so."""
    demo = own_record(slug)
    release = None if body.number is None else _release(demo, body.number)
    if release is not None and release.model.bridge is not None:
        detail = f"Version {release.number} is answered by a process of yours too. Choose one whose model is a file."
        raise ApiProblem(422, "Away as well", detail)
    stand_in_while_away(demo, release, state().services.stamp)
    return demo_state(find_demo(demo.slug) or demo)


@api.operation(
    "GET",
    "/demos/<slug>/differences",
    guard=require_owner,
    answer=ReleaseDifferences,
    query={"from": "A release's number, or `draft`.", "to": "The same; `draft` if left out."},
    required=("from",),
    errors=(401, 404, 422, 503),
)
def get_differences(slug: str) -> ReleaseDifferences:
    """What differs between two releases, or a release and the draft, setting by setting."""
    demo = own_record(slug)
    old_document, old_model = _side(demo, "from", None)
    new_document, new_model = _side(demo, "to", DRAFT)
    is_same = old_model.id == new_model.id
    return ReleaseDifferences(
        settings=document_differences(old_document, new_document),
        is_same_model=is_same,
        model=None if is_same else differences(model_inspection(old_model), model_inspection(new_model)),
    )


def _side(demo: Demo, name: str, usual: str | None) -> tuple[DemoDocument, Model]:
    text = request.args.get(name, usual) or ""
    if text == DRAFT:
        return draft_of(demo), demo.model
    if not (text.isascii() and text.isdecimal() and len(text) < 9):
        raise ApiProblem(422, "No such release", f"`{name}` must be a release's number or `draft`. Got `{text[:60]}`.")
    release = _release(demo, int(text))
    return DemoDocument.model_validate_json(release.document), release.model


def _release(demo: Demo, number: int) -> Release:
    release = find_release(demo, number)
    if release is None:
        raise not_found()
    return release
