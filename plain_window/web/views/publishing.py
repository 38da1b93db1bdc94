"""Publishing a release, and who may open it."""

import contextlib

from flask import request

from ...authoring.housekeeping import retire_unneeded
from ...core.errors import Fault
from ...runners.client import RunnerUnavailable
from ...store.demos import draft_of, find_demo, make_secret_link, model_inspection, publish, set_access
from ..access import require_owner
from ..hashing import hash_secret
from ..operations import parse_body, read_json
from ..problems import ApiProblem
from ..state import state
from ..types import AccessChange, AccessState, NewRelease, ReleaseState
from .api import api
from .demos import access_state, open_questions, own_record

__all__ = []


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

    What was concluded about the model and is still to be confirmed is asked about: 409 names each such check. Confirm
    it (`PATCH` with `confirmed`), or publish `despite` it, with a reason a check. The body may be left out.
    """
    body = parse_body(NewRelease, read_json()) if request.content_length else NewRelease()
    demo = own_record(slug)
    asked = [
        question
        for question in open_questions(draft_of(demo), model_inspection(demo.model))
        if not body.despite.get(question.name, "").strip()
    ]
    if asked:
        faults = [Fault(question.name, question.text) for question in asked]
        detail = f"{asked[0].text} Confirm it, or say in `despite` why the page is to be published all the same."
        raise ApiProblem(409, "Something is to be confirmed", detail, faults=faults)
    release = publish(demo, state().services.stamp, note=body.note, despite=body.despite)
    # The release before it may have been asked at another runner.
    with contextlib.suppress(RunnerUnavailable):
        retire_unneeded(state().services)
    return ReleaseState(number=release.number, created=release.created)


@api.operation(
    "PUT",
    "/demos/<slug>/access",
    body=AccessChange,
    guard=require_owner,
    answer=AccessState,
    errors=(400, 401, 403, 404, 413, 415, 422, 429, 503),
)
def put_access(slug: str, body: AccessChange) -> AccessState:
    """Who may open the demo: only its author, who has the secret link, who knows the passcode, or everyone."""
    demo, stamp = own_record(slug), state().services.stamp
    passcode_hash = None
    if body.access == "passcode":
        if body.passcode is None and not demo.passcode_hash:
            raise ApiProblem(422, "No passcode", "Give a `passcode` of at least 6 characters along with the access.")
        passcode_hash = hash_secret(body.passcode) if body.passcode else None
    if body.access == "link":
        make_secret_link(demo, stamp, days=body.link_days, replace=body.new_link)
    set_access(demo, body.access, stamp, passcode_hash=passcode_hash)
    return access_state(find_demo(demo.slug) or demo)
