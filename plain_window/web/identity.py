"""Who asks: a key, a session with its CSRF token, or a visitor."""

import hmac
import secrets

from flask import Flask, Request, g, request, session
from flask.sessions import SecureCookieSession, SecureCookieSessionInterface

from ..service.settings import Settings
from .problems import ApiProblem
from .served import KnownAuthor
from .state import state

__all__ = ["begin_session", "caller", "csrf_token", "end_session", "has_key", "install_sessions", "require_author"]

CSRF_HEADER = "X-CSRF-Token"
SAFE_METHODS = ("GET", "HEAD", "OPTIONS")
SESSION_DAYS = 30


class _SessionInterface(SecureCookieSessionInterface):
    """Flask's signed cookie, marked secure whenever the request came that way."""

    def get_cookie_secure(self, app: Flask) -> bool:
        return request.is_secure

    def open_session(self, app: Flask, request: Request) -> SecureCookieSession | None:
        # Most requests are visitors' and carry none; preparing to check a signature costs more than the check.
        if self.get_cookie_name(app) not in request.cookies:
            return self.session_class()
        return super().open_session(app, request)


def install_sessions(app: Flask, settings: Settings) -> None:
    """Signed session cookies with a secret kept in the state directory."""
    app.secret_key = _secret_key(settings)
    app.config.update(
        # Cookies do not know ports: two Plain Windows on one machine must not share a name.
        SESSION_COOKIE_NAME=f"plainwindow_{settings.name}",
        SESSION_COOKIE_SAMESITE="Lax",
        SESSION_COOKIE_HTTPONLY=True,
        PERMANENT_SESSION_LIFETIME=SESSION_DAYS * 24 * 3600,
    )
    app.session_interface = _SessionInterface()


def caller() -> KnownAuthor | None:
    """The author who asks; None for a visitor.

    Raises
    ------
    ApiProblem
        401 for a key that is not, or no longer, one.
    """
    if "caller" not in g:
        g.caller = _by_key(request) or _by_session()
    return g.caller


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
        given = request.headers.get(CSRF_HEADER, "")
        if not hmac.compare_digest(given.encode(), session.get("csrf", "").encode()):
            detail = (
                f"The page that sent this is out of date. Load it again. (Programs: send `{CSRF_HEADER}`, or a key.)"
            )
            raise ApiProblem(403, "Load the page again", detail)
    return author


def begin_session(author_id: int, session_number: int) -> None:
    """Sign this browser in."""
    session.clear()
    session.permanent = True
    session.update(author=author_id, number=session_number, csrf=secrets.token_urlsafe(24))
    g.pop("caller", None)


def end_session() -> None:
    """Sign this browser out."""
    session.clear()
    g.pop("caller", None)


def csrf_token() -> str | None:
    """What the pages send along with every change."""
    return session.get("csrf")


def _by_key(request: Request) -> KnownAuthor | None:
    if not has_key():
        return None
    author = state().keys(request.headers["Authorization"].removeprefix("Bearer ").strip())
    if author is None:
        raise ApiProblem(401, "Unknown key", "This key is not valid. Make a new one with `./plainwindow key NAME`.")
    return author


def _by_session() -> KnownAuthor | None:
    author_id = session.get("author")
    author = state().authors(author_id) if author_id is not None else None
    # A changed password ends the sessions that began before it.
    return author if author and author.session_number == session.get("number") else None


def _secret_key(settings: Settings) -> bytes:
    path = settings.home / "secret.key"
    try:
        # Exclusive: of two workers that start together one makes it, the other reads it.
        with open(path, "xb") as file:
            path.chmod(0o600)
            file.write(secrets.token_bytes(32))
    except FileExistsError:
        pass
    return path.read_bytes()
