"""Signing in and out, and the password."""

from ...store.authors import check_password, set_password
from ...store.records import Author
from ..identity import begin_session, caller, csrf_token, end_session, require_author
from ..problems import ApiProblem
from ..state import state
from ..types import NewPassword, SessionState, SignIn
from . import api
from .limits import slow_down_guesses

__all__ = ["session_state"]


def session_state() -> SessionState:
    """Who is signed in."""
    author = caller()
    return SessionState(
        author=author.name if author else None,
        has_password=bool(author and author.has_password),
        csrf_token=csrf_token() if author else None,
    )


@api.operation("GET", "/session", answer=SessionState)
def get_session() -> SessionState:
    """Who is signed in."""
    return session_state()


@api.operation("POST", "/session", body=SignIn, answer=SessionState, errors=(400, 401, 422, 429))
def sign_in(body: SignIn) -> SessionState:
    """Sign in with name and password."""
    slow_down_guesses("sign-in")
    author = check_password(body.name, body.password)
    if author is None:
        raise ApiProblem(401, "Not signed in", "Name and password do not belong together. Try again.")
    begin_session(author.id, author.session_number)
    return session_state()


@api.operation("DELETE", "/session", errors=(401, 403), status=204)
def sign_out() -> None:
    """Sign out."""
    require_author()
    end_session()


@api.operation("PUT", "/session/password", body=NewPassword, answer=SessionState, errors=(400, 401, 403, 422, 429))
def change_password(body: NewPassword) -> SessionState:
    """Set the password.

    The first one needs only the session that a one-time link began; after that the old one is asked for.
    """
    known = require_author()
    author = Author.get_by_id(known.id)
    if author.password_hash is not None:
        slow_down_guesses("sign-in")
        if check_password(author.name, body.old_password or "") is None:
            raise ApiProblem(
                401, "Not changed", "The old password is not right. Try again, or sign in with a new link."
            )
    set_password(author, body.password, state().workshop.stamp)
    begin_session(author.id, author.session_number)
    return session_state()
