"""Signing in and out, the password, and keys: what only an author at a browser does."""

from ...store.authors import author_named, keys_of, make_key, revoke_key, set_password_hash, use_sign_in_link
from ...store.records import Author
from ...store.sessions import end_all_sessions, end_session
from ..hashing import hash_secret, is_right_secret
from ..identity import begin_session, caller, current_session, drop_cookie, require_session
from ..limits import check_guess, check_link_use, note_guess
from ..problems import ApiProblem, not_found
from ..state import state
from ..types.sessions import Key, Keys, NewKey, NewPassword, SessionState, SignIn, SignInToken
from .api import api

__all__ = ["session_state"]


def session_state() -> SessionState:
    """Who is signed in."""
    author, session = caller(), current_session()
    return SessionState(
        author=author.name if author else None,
        has_password=bool(author and author.has_password),
        asks_old_password=bool(author and author.has_password and not (session and session.may_set_password())),
        csrf_token=session.csrf if author and session else None,
    )


def _may_sign_in() -> None:
    check_guess("sign-in")


def _may_change() -> None:
    require_session()


@api.operation("GET", "/session", answer=SessionState)
def get_session() -> SessionState:
    """Who is signed in."""
    return session_state()


@api.operation(
    "POST",
    "/session",
    body=SignIn,
    guard=_may_sign_in,
    answer=SessionState,
    errors=(400, 401, 413, 415, 422, 429, 503),
)
def sign_in(body: SignIn) -> SessionState:
    """Sign in with name and password."""
    author = author_named(body.name)
    is_right = is_right_secret(author.password_hash if author else None, body.password)
    note_guess("sign-in", is_right=is_right)
    if author is None or not is_right:
        raise ApiProblem(401, "Not signed in", "Name and password do not belong together. Try again.")
    begin_session(author, by_link=False)
    return session_state()


@api.operation(
    "POST",
    "/session/link",
    body=SignInToken,
    guard=check_link_use,
    answer=SessionState,
    errors=(400, 401, 413, 415, 422, 429, 503),
)
def sign_in_by_link(body: SignInToken) -> SessionState:
    """Sign in with the token of a one-time link. Opening the link does not spend it; this does."""
    author = use_sign_in_link(body.token)
    if author is None:
        detail = "This link was used before, or is too old. Make another with `./plainwindow sign-in`."
        raise ApiProblem(401, "Not signed in", detail)
    begin_session(author, by_link=True)
    return session_state()


@api.operation("DELETE", "/session", guard=_may_change, errors=(401, 403, 503), status=204)
def sign_out() -> None:
    """Sign out: this session is worth nothing from now on, whoever has its cookie."""
    end_session(require_session().id, state().services.stamp)
    drop_cookie()


@api.operation("DELETE", "/sessions", guard=_may_change, errors=(401, 403, 503), status=204)
def sign_out_everywhere() -> None:
    """End all of the author's sessions, this one too."""
    end_all_sessions(Author.get_by_id(require_session().author.id), state().services.stamp)
    drop_cookie()


@api.operation(
    "PUT",
    "/session/password",
    body=NewPassword,
    guard=_may_change,
    answer=SessionState,
    errors=(400, 401, 403, 413, 415, 422, 429, 503),
)
def change_password(body: NewPassword) -> SessionState:
    """Set the password; all other sessions end.

    A session that a one-time link has just begun needs no old password: that link is the way back for who forgot it.
    """
    session = require_session()
    author = Author.get_by_id(session.author.id)
    if author.password_hash is not None and not session.may_set_password():
        check_guess("sign-in")
        is_right = is_right_secret(author.password_hash, body.old_password or "")
        note_guess("sign-in", is_right=is_right)
        if not is_right:
            detail = "The old password is not right. Try again, or sign in with a new link."
            raise ApiProblem(401, "Not changed", detail)
    set_password_hash(author, hash_secret(body.password), state().services.stamp)
    begin_session(author, by_link=False)
    return session_state()


@api.operation("GET", "/keys", guard=_may_change, answer=Keys, errors=(401, 403, 503))
def list_keys() -> Keys:
    """The author's keys, the newest first. What they are is not kept, only their hashes."""
    author = Author.get_by_id(require_session().author.id)
    return Keys(keys=[Key(id=key.id, name=key.name, created=key.created, used=key.used) for key in keys_of(author)])


@api.operation(
    "POST",
    "/keys",
    body=NewKey,
    guard=_may_change,
    answer=Key,
    status=201,
    errors=(400, 401, 403, 413, 415, 422, 503),
)
def create_key(body: NewKey) -> Key:
    """Make a key for programs. It is told this once."""
    author = Author.get_by_id(require_session().author.id)
    key = make_key(author, body.name, state().services.stamp)
    made = keys_of(author)[0]
    return Key(id=made.id, name=made.name, created=made.created, used=None, key=key)


@api.operation(
    "DELETE",
    "/keys/<int:key_id>",
    guard=lambda key_id: _may_change(),
    errors=(401, 403, 404, 503),
    status=204,
)
def remove_key(key_id: int) -> None:
    """Make a key worth nothing, at once."""
    author = Author.get_by_id(require_session().author.id)
    if not revoke_key(author, key_id, state().services.stamp):
        raise not_found()
