"""Who asks: a key, a session with its CSRF token, or a visitor."""

import contextlib
import datetime as dt
import hmac
import os
import secrets
import tempfile

from flask import Flask, Request, Response, after_this_request, current_app, g, request
from flask.sessions import SecureCookieSession, SessionInterface, SessionMixin

from ..settings import Settings
from ..store import sessions as stored
from ..store.authors import note_key_use
from ..store.database import DATABASE_ERRORS, now
from ..store.records import Author
from .lookups import (
    KnownAuthor,
    KnownSession,
)
from .problems import ApiProblem
from .state import state

__all__ = [
    "address_name",
    "begin_session",
    "caller",
    "caller_name",
    "current_session",
    "drop_cookie",
    "has_key",
    "install_sessions",
    "require_author",
    "require_session",
]

CSRF_HEADER = "X-CSRF-Token"
SAFE_METHODS = ("GET", "HEAD", "OPTIONS")


class _NoFlaskSessions(SessionInterface):
    """Sessions are records here, not cookies with content; Flask's own are switched off."""

    def open_session(self, app: Flask, request: Request) -> SecureCookieSession:
        return SecureCookieSession()

    def save_session(self, app: Flask, session: SessionMixin, response: Response) -> None:
        """Nothing is kept in it."""


def install_sessions(app: Flask, settings: Settings) -> None:
    """Session tokens in a cookie, and a secret for signed links, kept in the state directory.

    Parameters
    ----------
    app : Flask
        It is changed in place.
    settings : Settings
    """
    app.secret_key = _secret_key(settings)
    # Cookies do not know ports: two Plain Windows on one machine must not share a name.
    app.config["SESSION_COOKIE_NAME"] = f"plainwindow_{settings.name}"
    app.session_interface = _NoFlaskSessions()


def caller() -> KnownAuthor | None:
    """The author who asks; None for a visitor.

    Raises
    ------
    ApiProblem
        401 for a key that is not, or no longer, one.
    """
    if "caller" not in g:
        session = current_session()
        g.caller = _by_key(request) or (session.author if session else None)
    found: KnownAuthor | None = g.caller
    return found


def current_session() -> KnownSession | None:
    """The session this request comes from, while it lasts."""
    if "session" not in g:
        g.session = _by_cookie(request)
    found: KnownSession | None = g.session
    return found


def caller_name() -> str:
    """A name for whoever asks, by which long calls have their turns."""
    author = caller() if has_key() else None
    return f"author {author.id}" if author else address_name(request.remote_addr)


def address_name(address: str | None) -> str:
    """The name of whoever asks from an address, and is no author that is known.

    Parameters
    ----------
    address : str, optional
    """
    return f"address {address}"


def has_key() -> bool:
    """Whether the request carries a key (a valid one, once `caller` has been asked)."""
    return request.headers.get("Authorization", "").startswith("Bearer ")


def require_author() -> KnownAuthor:
    """The author who asks, with all it takes to change something.

    Raises
    ------
    ApiProblem
        401 for a visitor; 403 for a session without its CSRF token.
    """
    author = caller()
    if author is None:
        raise ApiProblem(401, "Not signed in", "Sign in, or send a key: `Authorization: Bearer KEY`.")
    if request.method not in SAFE_METHODS and not has_key():
        _check_csrf(current_session())
    return author


def require_session() -> KnownSession:
    """The session of the author who asks: for what no key may do, like signing in, passwords, and keys themselves.

    Raises
    ------
    ApiProblem
        401 for a visitor; 403 for a key, or without the CSRF token.
    """
    require_author()
    session = current_session()
    if has_key() or session is None:
        raise ApiProblem(403, "Not with a key", "This is done on the page, by an author who is signed in.")
    return session


def begin_session(author: Author, *, by_link: bool) -> KnownSession:
    """Sign this browser in; its cookie goes out with the response to this request.

    Parameters
    ----------
    author : Author
        Whose it is.
    by_link : bool
        Whether it began with a one-time link.
    """
    token = stored.begin_session(author, by_link=by_link)
    g.pop("caller", None)
    g.session = state().sessions(token)
    secure = request.is_secure

    @after_this_request
    def give(response: Response) -> Response:
        response.set_cookie(
            _cookie_name(),
            token,
            max_age=stored.MOST_DAYS * 24 * 3600,
            httponly=True,
            samesite="Lax",
            secure=secure,
        )
        return response

    begun: KnownSession = g.session
    return begun


def drop_cookie() -> None:
    """Take this browser's cookie away with the response to this request."""
    g.pop("caller", None)
    g.session = None

    @after_this_request
    def take(response: Response) -> Response:
        response.delete_cookie(_cookie_name())
        return response


def _check_csrf(session: KnownSession | None) -> None:
    sent = request.headers.get(CSRF_HEADER, "")
    if session is None or not hmac.compare_digest(sent.encode("utf-8", "replace"), session.csrf.encode()):
        detail = f"The page that sent this is out of date. Load it again. (Programs: send `{CSRF_HEADER}`, or a key.)"
        raise ApiProblem(403, "Load the page again", detail)


def _by_key(request: Request) -> KnownAuthor | None:
    if not has_key():
        return None
    sent = request.headers["Authorization"].removeprefix("Bearer ").strip()
    known = state().keys(sent)
    if known is None:
        raise ApiProblem(401, "Unknown key", "This key is not valid. Make a new one with `./plainwindow key NAME`.")
    # What has a key needs no database while that restarts.
    with contextlib.suppress(*DATABASE_ERRORS):
        if note_key_use(known.id, known.used):
            state().keys.forget(sent)
    return known.author


def _by_cookie(request: Request) -> KnownSession | None:
    token = request.cookies.get(_cookie_name())
    known = state().sessions(token) if token else None
    # What is remembered may have ended since.
    if known is None or known.ends < now() or now() - known.used > dt.timedelta(days=stored.IDLE_DAYS):
        return None
    with contextlib.suppress(*DATABASE_ERRORS):
        if stored.note_session_use(known.id, known.used):
            state().sessions.forget(token or "")
    return known


def _cookie_name() -> str:
    name: str = current_app.config["SESSION_COOKIE_NAME"]
    return name


def _secret_key(settings: Settings) -> bytes:
    path = settings.home / "secret.key"
    if not path.exists():
        with tempfile.NamedTemporaryFile(dir=settings.home) as fresh:
            fresh.write(secrets.token_bytes(32))
            fresh.flush()
            # It appears whole. Of two workers that start together one is first, the other reads that.
            with contextlib.suppress(FileExistsError):
                os.link(fresh.name, path)
    return path.read_bytes()
