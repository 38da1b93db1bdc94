"""Giving the passcode of a demo."""

from flask import Response

from ..access import door_of, grant, passcode_proof
from ..hashing import is_right_secret
from ..limits import check_guess, note_guess
from ..problems import ApiProblem, not_found
from ..types.access import Passcode
from .api import api


def _may_try_passcode(slug: str) -> None:
    """Before a passcode is read: how often it may be tried, the same for a demo that has none."""
    check_guess(f"passcode of {door_of(slug).slug or slug}")


@api.operation(
    "POST",
    "/demos/<slug>/passcode",
    body=Passcode,
    guard=_may_try_passcode,
    errors=(400, 401, 404, 413, 415, 422, 429, 503),
    status=204,
)
def give_passcode(slug: str, body: Passcode) -> Response:
    """Give the passcode; this browser's further requests are then let through."""
    door = door_of(slug)
    asks = door.access == "passcode" and door.is_live
    # As much work where there is nothing to guess.
    is_right = is_right_secret(door.passcode_hash if asks else None, body.passcode)
    note_guess(f"passcode of {door.slug or slug}", is_right=is_right)
    if not asks:
        raise not_found()
    if not is_right:
        raise ApiProblem(401, "Not this one", "That is not the passcode. Try again.")
    response = Response(status=204)
    grant(response, door, passcode_proof(door))
    return response
