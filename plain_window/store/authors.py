"""Authors, sign-in links, passwords, keys."""

import datetime as dt
import hashlib
import secrets

from .changes import ChangeStamp
from .database import database, now
from .records import ApiKey, Author, SignInLink
from .sessions import end_all_sessions

__all__ = [
    "FIRST_AUTHOR",
    "author_named",
    "first_author",
    "key_and_author",
    "keys_of",
    "make_key",
    "make_sign_in_link",
    "note_key_use",
    "revoke_key",
    "set_password_hash",
    "use_sign_in_link",
]

FIRST_AUTHOR = "studio"
SIGN_IN_HOURS = 24
# Marks our keys, so that secret scanners and people recognise one.
KEY_PREFIX = "pw_"
KEY_NOTE_MINUTES = 10


def first_author() -> Author:
    """The author that the command line acts for; made on first use."""
    author = Author.select().order_by(Author.id).first()
    return author or Author.create(name=FIRST_AUTHOR)


def make_sign_in_link(author: Author, *, hours: float = SIGN_IN_HOURS) -> str:
    """A new token that signs `author` in once, within `hours`.

    Parameters
    ----------
    author : Author
        Whose it is.
    hours : float, optional
        How long it holds.
    """
    token = secrets.token_urlsafe(24)
    SignInLink.create(token_hash=_hash(token), author=author, expires=now() + dt.timedelta(hours=hours))
    return token


def use_sign_in_link(token: str) -> Author | None:
    """The author this token signs in, if it still does; it does not a second time.

    Parameters
    ----------
    token : str
        As it stands in the link or cookie.
    """
    with database.atomic():
        link = SignInLink.get_or_none(
            (SignInLink.token_hash == _hash(token)) & SignInLink.used.is_null() & (SignInLink.expires > now())
        )
        if link is None:
            return None
        # Two clicks at once: only one of them finds it unused.
        taken = SignInLink.update(used=now()).where(
            (SignInLink.token_hash == link.token_hash) & SignInLink.used.is_null()
        )
        return link.author if taken.execute() == 1 else None


def set_password_hash(author: Author, password_hash: str, stamp: ChangeStamp) -> None:
    """Set the password, as `web.hashing` made it, and end the author's sessions.

    Parameters
    ----------
    author : Author
        Whose it is.
    password_hash : str
        As `hash_secret` makes it.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    Author.update(password_hash=password_hash).where(Author.id == author.id).execute()
    author.password_hash = password_hash
    end_all_sessions(author, stamp)


def author_named(name: str) -> Author | None:
    """The author with this name.

    Parameters
    ----------
    name : str
    """
    return Author.get_or_none(Author.name == name)


def make_key(author: Author, name: str, stamp: ChangeStamp) -> str:
    """A new key; it is shown this once and stored only as a hash.

    Parameters
    ----------
    author : Author
        Whose it is.
    name : str
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    key = KEY_PREFIX + secrets.token_urlsafe(30)
    ApiKey.create(author=author, name=name, key_hash=_hash(key))
    stamp.bump()
    return key


def key_and_author(key: str) -> tuple[ApiKey, Author] | None:
    """A key's record, and whose it is; None if it is not valid, or no longer.

    Parameters
    ----------
    key : str
        As it was sent.
    """
    found = ApiKey.get_or_none((ApiKey.key_hash == _hash(key)) & ApiKey.revoked.is_null())
    return (found, found.author) if found else None


def note_key_use(key_id: int, last_used: dt.datetime | None) -> bool:
    """Note that a key is in use, now and then; say whether it was written down.

    Parameters
    ----------
    key_id : int
        The key's number.
    last_used : datetime or None
        When it was used before this.
    """
    if last_used is not None and now() - last_used < dt.timedelta(minutes=KEY_NOTE_MINUTES):
        return False
    ApiKey.update(used=now()).where(ApiKey.id == key_id).execute()
    return True


def keys_of(author: Author) -> list[ApiKey]:
    """An author's valid keys, the newest first.

    Parameters
    ----------
    author : Author
        Whose it is.
    """
    return list(ApiKey.select().where((ApiKey.author == author) & ApiKey.revoked.is_null()).order_by(ApiKey.id.desc()))


def revoke_key(author: Author, key_id: int, stamp: ChangeStamp) -> bool:
    """Make a key worth nothing; say whether there was such a one.

    Parameters
    ----------
    author : Author
        Whose it is.
    key_id : int
        The key's number.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    mine = (ApiKey.id == key_id) & (ApiKey.author == author) & ApiKey.revoked.is_null()
    n_revoked = ApiKey.update(revoked=now()).where(mine).execute()
    stamp.bump()
    return bool(n_revoked)


def _hash(token: str) -> str:
    # Tokens are long and random: a plain hash cannot be guessed back, and looking one up takes no time to speak of.
    return hashlib.sha256(token.encode("utf-8", errors="replace")).hexdigest()
