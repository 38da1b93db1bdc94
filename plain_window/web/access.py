"""May this caller see this demo. Who may not is told the same as for a demo that does not exist."""

from flask import Request, Response, current_app, request
from itsdangerous import BadSignature, URLSafeSerializer

from ..store.demos import secret_link_demo
from ..store.records import SecretLink
from .identity import caller
from .problems import ApiProblem, not_found
from .served import ServedDemo, Version
from .state import state

__all__ = ["grant", "link_path", "open_link", "own_demo", "passcode_proof", "visible_version"]

LINK_SALT = "secret-link"
GRANT_SALT = "grant"
GRANT_DAYS = 30


def own_demo(slug: str) -> ServedDemo:
    """The demo, for its author.

    Raises
    ------
    ApiProblem
        404 for anyone else.
    """
    demo, author = state().served(slug), caller()
    if demo is None or author is None or demo.author_id != author.id:
        raise not_found()
    return demo


def visible_version(slug: str, *, draft: bool = False) -> tuple[ServedDemo, Version]:
    """What this caller sees at this address: the live release, or for the author the draft.

    Raises
    ------
    ApiProblem
        404 if that is nothing.
    """
    demo = state().served(slug)
    if demo is None:
        raise not_found()
    # Open to everyone: no need to know who asks.
    if demo.access == "everyone" and demo.live and not draft:
        return demo, demo.live
    author = caller()
    if author is not None and author.id == demo.author_id:
        # Before the first release there is only the draft to show its author.
        return demo, demo.draft if draft or demo.live is None else demo.live
    if draft or demo.live is None:
        raise not_found()
    if not _granted(demo):
        raise passcode_needed() if demo.access == "passcode" else not_found()
    return demo, demo.live


def passcode_needed() -> ApiProblem:
    """What a visitor is told before giving the passcode."""
    return ApiProblem(401, "Passcode needed", "This page asks for a passcode. Whoever sent you here has it.")


def link_path(link: SecretLink) -> str:
    """The path of a secret link. The token is signed, not stored: reading the database does not give it away."""
    return f"/l/{_serializer(LINK_SALT).dumps(link.id)}"


def open_link(token: str) -> ServedDemo:
    """The demo that this secret link opens.

    Raises
    ------
    ApiProblem
        404 if it opens none, or no longer.
    """
    demo = _demo_of_token(token)
    if demo is None or demo.live is None:
        raise not_found()
    return demo


def grant(response: Response, demo: ServedDemo, proof: str) -> None:
    """Let this browser's further requests for the demo through.

    Parameters
    ----------
    proof : str
        The secret link's token, or what `passcode_proof` made: checked anew at each request.
    """
    response.set_cookie(
        _cookie_name(demo.id),
        proof,
        max_age=GRANT_DAYS * 24 * 3600,
        httponly=True,
        samesite="Lax",
        secure=request.is_secure,
    )


def passcode_proof(demo: ServedDemo) -> str:
    """What a visitor who gave the right passcode may show; void once the passcode changes."""
    return _serializer(GRANT_SALT).dumps([demo.id, (demo.passcode_hash or "")[-16:]])


def _granted(demo: ServedDemo) -> bool:
    if demo.access == "everyone":
        return True
    proof = _cookie(request, demo.id)
    if not proof:
        return False
    if demo.access == "link":
        return _demo_of_token(proof) == demo
    if demo.access == "passcode":
        try:
            return _serializer(GRANT_SALT).loads(proof) == [demo.id, (demo.passcode_hash or "")[-16:]]
        except BadSignature:
            return False
    return False


def _demo_of_token(token: str) -> ServedDemo | None:
    try:
        link_id = _serializer(LINK_SALT).loads(token)
    except BadSignature:
        return None
    # The last character of a signature carries bits that mean nothing; only the one spelling we gave out counts.
    if _serializer(LINK_SALT).dumps(link_id) != token:
        return None
    # Asked anew each time: a link may have expired or been taken back since.
    found = secret_link_demo(link_id)
    return state().served(found[0].slug) if found else None


def _cookie_name(demo_id: int) -> str:
    return f"{current_app.config['SESSION_COOKIE_NAME']}_demo_{demo_id}"


def _cookie(request: Request, demo_id: int) -> str | None:
    return request.cookies.get(_cookie_name(demo_id))


def _serializer(salt: str) -> URLSafeSerializer:
    return URLSafeSerializer(current_app.secret_key, salt=salt)
