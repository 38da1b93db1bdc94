"""May this caller see this demo. Who may not is told the same as for a demo that does not exist."""

from flask import Request, Response, current_app, request
from itsdangerous import BadSignature, URLSafeSerializer

from ..store.records import SecretLink
from ..store.secret_links import count_opening, secret_link_demo
from .identity import caller, require_author
from .lookups import (
    NO_DOOR,
    Door,
    ServedDemo,
    Version,
)
from .problems import ApiProblem, not_found
from .state import state

__all__ = [
    "count_link",
    "door_of",
    "grant",
    "link_path",
    "open_link",
    "passcode_proof",
    "require_owner",
    "require_visible",
    "visible_version",
]

LINK_SALT = "secret-link"
GRANT_SALT = "grant"
GRANT_DAYS = 30


def door_of(slug: str) -> Door:
    """Who may open the demo at this address; where there is none, nobody.

    Parameters
    ----------
    slug : str
        The demo's address.
    """
    return state().doors(None).get(slug, NO_DOOR)


def require_owner(slug: str) -> Door:
    """The door of a demo, for its author only, with all it takes to change something.

    Parameters
    ----------
    slug : str
        The demo's address.

    Raises
    ------
    ApiProblem
        404 for anyone else; 403 without the CSRF token.
    """
    door, author = door_of(slug), caller()
    if author is None or author.id != door.author_id:
        raise not_found()
    require_author()
    return door


def require_visible(slug: str, *, draft: bool = False) -> tuple[Door, bool]:
    """The door of a demo this caller may see, and whether it is the draft that they see.

    Decided from the door alone, which costs the same for a demo that is private as for one that is not there.

    Parameters
    ----------
    slug : str
        The demo's address.
    draft : bool, optional
        Whether the author's draft is wanted rather than the live release.

    Raises
    ------
    ApiProblem
        404 if there is nothing they may see, 401 if they are asked for the passcode.
    """
    door = door_of(slug)
    # Open to everyone: no need to know who asks.
    if door.access == "everyone" and door.is_live and not draft:
        return door, False
    author = caller()
    if author is not None and author.id == door.author_id:
        # Before the first release there is only the draft to show its author.
        return door, draft or not door.is_live
    is_granted = _granted(door)
    if draft or not door.is_live:
        raise not_found()
    if not is_granted:
        raise passcode_needed() if door.access == "passcode" else not_found()
    return door, False


def visible_version(slug: str, *, draft: bool = False) -> tuple[ServedDemo, Version]:
    """What this caller sees at this address: the live release, or for the author the draft.

    Parameters
    ----------
    slug : str
        The demo's address.
    draft : bool, optional
        Whether the author's draft is wanted rather than the live release.

    Raises
    ------
    ApiProblem
        As `require_visible` does.
    """
    door, sees_draft = require_visible(slug, draft=draft)
    demo = state().served(door.slug)
    version = None if demo is None else demo.draft if sees_draft else demo.shown
    if demo is None or version is None:
        # It was taken away in this very moment.
        raise not_found()
    return demo, version


def passcode_needed() -> ApiProblem:
    """What a visitor is told before giving the passcode."""
    return ApiProblem(401, "Passcode needed", "This page asks for a passcode. Whoever sent you here has it.")


def link_path(link: SecretLink) -> str:
    """The path of a secret link. The token is signed, not stored: reading the database does not give it away.

    Parameters
    ----------
    link : SecretLink
    """
    return f"/l/{_serializer(LINK_SALT).dumps(link.id)}"


def open_link(token: str) -> Door:
    """The door of the demo that this secret link opens.

    Parameters
    ----------
    token : str
        As it stands in the link or cookie.

    Raises
    ------
    ApiProblem
        404 if it opens none, or no longer.
    """
    door = _door_of_token(token)
    if door is None or not door.is_live:
        raise not_found()
    return door


def count_link(token: str) -> None:
    """A page was opened by this secret link.

    Parameters
    ----------
    token : str
        As `open_link` found it good.
    """
    count_opening(_serializer(LINK_SALT).loads(token))


def grant(response: Response, door: Door, proof: str) -> None:
    """Let this browser's further requests for the demo through.

    Parameters
    ----------
    proof : str
        The secret link's token, or what `passcode_proof` made: checked anew at each request.
    response : Response
        It is changed in place.
    door : Door
        What is asked before the demo opens.
    """
    # In another site's frame a browser keeps a cookie only if it may go along there, apart for each such site.
    is_framed = request.is_secure and bool(door.sites)
    response.set_cookie(
        _cookie_name(door.id),
        proof,
        max_age=GRANT_DAYS * 24 * 3600,
        httponly=True,
        samesite="None" if is_framed else "Lax",
        secure=request.is_secure,
        partitioned=is_framed,
    )


def passcode_proof(door: Door) -> str:
    """What a visitor who gave the right passcode may show; void once the passcode changes.

    Parameters
    ----------
    door : Door
        What is asked before the demo opens.
    """
    return _serializer(GRANT_SALT).dumps([door.id, (door.passcode_hash or "")[-16:]])


def _granted(door: Door) -> bool:
    if door.access == "everyone":
        return True
    proof = _cookie(request, door.id)
    if not proof:
        return False
    if door.access == "link":
        return _door_of_token(proof) == door
    if door.access == "passcode":
        try:
            return bool(_serializer(GRANT_SALT).loads(proof) == [door.id, (door.passcode_hash or "")[-16:]])
        except BadSignature:
            return False
    return False


def _door_of_token(token: str) -> Door | None:
    try:
        link_id = _serializer(LINK_SALT).loads(token)
    except BadSignature:
        return None
    # The last character of a signature carries bits that mean nothing; only the one spelling we gave out counts.
    if _serializer(LINK_SALT).dumps(link_id) != token:
        return None
    # Asked anew each time: a link may have expired or been taken back since.
    found = secret_link_demo(link_id)
    return state().doors(None).get(found[0].slug) if found else None


def _cookie_name(demo_id: int) -> str:
    return f"{current_app.config['SESSION_COOKIE_NAME']}_demo_{demo_id}"


def _cookie(request: Request, demo_id: int) -> str | None:
    return request.cookies.get(_cookie_name(demo_id))


def _serializer(salt: str) -> URLSafeSerializer:
    key = current_app.secret_key
    assert key is not None, "sessions are installed with the application"
    return URLSafeSerializer(key, salt=salt)
