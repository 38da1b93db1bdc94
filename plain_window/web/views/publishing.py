"""Publishing a release, and who may open it."""

import contextlib
from typing import cast

from flask import request

from ...core.errors import Fault
from ...store.demos import Access, DraftMoved, draft_tag, find_demo, set_access
from ...store.records import Release
from ...store.releases import publish
from ...store.secret_links import make_secret_link
from ..access import require_owner
from ..demo_states import access_state, release_state
from ..hashing import hash_secret
from ..operations import parse_body, read_json
from ..problems import ApiProblem
from ..state import state
from ..types.access import AccessChange, AccessState
from ..types.releases import NewRelease, ReleaseState
from .api import api
from .checks import checked
from .demos import own_record

__all__ = []

CHECKED_AGAIN = 3


@api.operation(
    "POST",
    "/demos/<slug>/releases",
    body=NewRelease,
    reads_itself=True,
    needs_body=False,
    guard=require_owner,
    answer=ReleaseState,
    status=201,
    errors=(400, 401, 403, 404, 409, 413, 422, 503),
)
def create_release(slug: str) -> ReleaseState:
    """Freeze the draft as the next release and show it to visitors.

    The checks are made unless they were made on this very draft: 409 names each that fails. Mend it, confirm what was
    concluded (`PATCH` with `confirmed`), or publish `despite` it, with a reason a check, which the release keeps. The
    body may be left out.
    """
    body = parse_body(NewRelease, read_json()) if request.content_length else NewRelease()
    release = _published(slug, body)
    # The runner of the release before it goes when the house is kept next: who is being answered there is not cut off.
    return release_state(release, find_demo(slug) or own_record(slug))


def _published(slug: str, body: NewRelease) -> Release:
    """What is published is what was checked: a draft that changes meanwhile is checked once more."""
    for _ in range(CHECKED_AGAIN):
        demo = own_record(slug)
        failing = [result for result in checked(demo) if result.status == "fail"]
        asked = [result for result in failing if not body.despite.get(result.name, "").strip()]
        if asked:
            faults = [Fault(result.name, result.finding) for result in asked]
            detail = f"{asked[0].finding} Mend it, or say in `despite` why the page is to be published all the same."
            raise ApiProblem(409, "A check fails", detail, faults=faults)
        reasons: dict[str, str] = {result.name: body.despite[result.name] for result in failing}
        with contextlib.suppress(DraftMoved):
            return publish(demo, state().services.stamp, tag=draft_tag(demo), note=body.note, despite=reasons)
    detail = "The draft is being changed while it is published. Wait until it is saved, and publish again."
    raise ApiProblem(409, "The draft changes", detail)


@api.operation(
    "PUT",
    "/demos/<slug>/access",
    body=AccessChange,
    guard=require_owner,
    answer=AccessState,
    errors=(400, 401, 403, 404, 413, 415, 422, 429, 503),
)
def put_access(slug: str, body: AccessChange) -> AccessState:
    """Who may open the demo: only its author, who has a secret link, who knows the passcode, or everyone."""
    demo, stamp = own_record(slug), state().services.stamp
    passcode_hash = None
    access = body.access or cast(Access, demo.access)
    if access == "passcode":
        if body.passcode is None and not demo.passcode_hash:
            raise ApiProblem(422, "No passcode", "Give a `passcode` of at least 6 characters along with the access.")
        passcode_hash = hash_secret(body.passcode) if body.passcode else None
    if access == "link" and (body.access or body.new_link):
        make_secret_link(demo, stamp, days=body.link_days, replace=body.new_link)
    set_access(demo, access, stamp, passcode_hash=passcode_hash, sites=body.sites)
    return access_state(find_demo(demo.slug) or demo)
