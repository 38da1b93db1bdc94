"""Publishing a release, and who may open it."""

import contextlib

from ...authoring.housekeeping import retire_unneeded
from ...runners.client import RunnerUnavailable
from ...store.demos import find_demo, make_secret_link, publish, set_access
from ..access import require_owner
from ..hashing import hash_secret
from ..problems import ApiProblem
from ..state import state
from ..types import AccessChange, AccessState, ReleaseState
from . import api
from .demos import access_state, own_record

__all__ = []


@api.operation(
    "POST",
    "/demos/<slug>/releases",
    guard=require_owner,
    answer=ReleaseState,
    status=201,
    errors=(401, 403, 404, 503),
)
def create_release(slug: str) -> ReleaseState:
    """Freeze the draft as the next release and show it to visitors."""
    release = publish(own_record(slug), state().workshop.stamp)
    # The release before it may have been asked at another runner.
    with contextlib.suppress(RunnerUnavailable):
        retire_unneeded(state().workshop)
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
    demo, stamp = own_record(slug), state().workshop.stamp
    passcode_hash = None
    if body.access == "passcode":
        if body.passcode is None and not demo.passcode_hash:
            raise ApiProblem(422, "No passcode", "Give a `passcode` of at least 6 characters along with the access.")
        passcode_hash = hash_secret(body.passcode) if body.passcode else None
    if body.access == "link":
        make_secret_link(demo, stamp, days=body.link_days, replace=body.new_link)
    set_access(demo, body.access, stamp, passcode_hash=passcode_hash)
    return access_state(find_demo(slug) or demo)
