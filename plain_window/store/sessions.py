"""Sessions of authors who are signed in with a browser. The browser has a token; what it stands for is here."""

import datetime as dt
import hashlib
import secrets

from .changes import ChangeStamp
from .database import now
from .records import Author, AuthorSession, SignInLink

__all__ = [
    "IDLE_DAYS",
    "MOST_DAYS",
    "begin_session",
    "end_all_sessions",
    "end_session",
    "find_session",
    "forget_ended",
    "may_set_password",
    "note_session_use",
]

# A session that is not used ends; so does one that is, some day.
IDLE_DAYS, MOST_DAYS = 14, 90
# A session that began with a one-time link may set a new password without the old one for so long.
LINK_MINUTES = 60
# Use is noted no more often than this: it is for ending what nobody uses.
NOTE_MINUTES = 60


def begin_session(author: Author, *, by_link: bool) -> str:
    """A new session's token. It is kept by the browser only; here is its hash.

    Parameters
    ----------
    author : Author
        Whose it is.
    by_link : bool
        Whether it began with a one-time link.
    """
    token = secrets.token_urlsafe(32)
    begun = now()
    AuthorSession.create(
        token_hash=_hash(token),
        author=author,
        csrf=secrets.token_urlsafe(24),
        by_link=by_link,
        created=begun,
        used=begun,
        ends=begun + dt.timedelta(days=MOST_DAYS),
    )
    return token


def find_session(token: str) -> AuthorSession | None:
    """The session of this token, while it lasts.

    Parameters
    ----------
    token : str
        As it stands in the link or cookie.
    """
    idle_since = now() - dt.timedelta(days=IDLE_DAYS)
    return AuthorSession.get_or_none(
        (AuthorSession.token_hash == _hash(token)) & (AuthorSession.ends > now()) & (AuthorSession.used > idle_since)
    )


def may_set_password(session: AuthorSession) -> bool:
    """Whether it began with a one-time link, and just now.

    Parameters
    ----------
    session : AuthorSession
    """
    return session.by_link and now() - session.created < dt.timedelta(minutes=LINK_MINUTES)


def note_session_use(session_id: int, last_used: dt.datetime) -> bool:
    """Note that a session is in use; say whether it was written down.

    Parameters
    ----------
    session_id : int
        The session's number.
    last_used : datetime
        When it was used before this.
    """
    if now() - last_used < dt.timedelta(minutes=NOTE_MINUTES):
        return False
    AuthorSession.update(used=now()).where(AuthorSession.id == session_id).execute()
    return True


def end_session(session_id: int, stamp: ChangeStamp) -> None:
    """End one session: its token is worth nothing from now on.

    Parameters
    ----------
    session_id : int
        The session's number.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    AuthorSession.delete().where(AuthorSession.id == session_id).execute()
    stamp.bump()


def end_all_sessions(author: Author, stamp: ChangeStamp) -> None:
    """End all of an author's sessions, wherever they are.

    Parameters
    ----------
    author : Author
        Whose it is.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    AuthorSession.delete().where(AuthorSession.author == author).execute()
    stamp.bump()


def forget_ended() -> None:
    """Delete sessions and sign-in links that are over."""
    idle_since = now() - dt.timedelta(days=IDLE_DAYS)
    AuthorSession.delete().where((AuthorSession.ends < now()) | (AuthorSession.used < idle_since)).execute()
    SignInLink.delete().where(SignInLink.expires < now()).execute()


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", errors="replace")).hexdigest()
