"""Authors, sign-in links, passwords, keys."""

import datetime as dt
import hashlib
import secrets

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from .changes import ChangeStamp
from .database import database, now
from .records import ApiKey, Author, SignInLink

__all__ = [
    "FIRST_AUTHOR",
    "author_of_key",
    "check_password",
    "first_author",
    "make_key",
    "make_sign_in_link",
    "set_password",
    "use_sign_in_link",
]

FIRST_AUTHOR = "studio"
SIGN_IN_HOURS = 24
# Marks our keys, so that secret scanners and people recognise one.
KEY_PREFIX = "pw_"
_hasher = PasswordHasher()


def first_author() -> Author:
    """The author that the command line acts for; made on first use."""
    author = Author.select().order_by(Author.id).first()
    return author or Author.create(name=FIRST_AUTHOR)


def make_sign_in_link(author: Author, *, hours: float = SIGN_IN_HOURS) -> str:
    """A new token that signs `author` in once, within `hours`."""
    token = secrets.token_urlsafe(24)
    SignInLink.create(token_hash=_hash(token), author=author, expires=now() + dt.timedelta(hours=hours))
    return token


def use_sign_in_link(token: str) -> Author | None:
    """The author this token signs in, if it still does; it does not a second time."""
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


def set_password(author: Author, password: str, stamp: ChangeStamp) -> None:
    """Set the password and end the author's other sessions."""
    author.password_hash = _hasher.hash(password)
    author.session_number += 1
    author.save()
    stamp.bump()


def check_password(name: str, password: str) -> Author | None:
    """The author with this name and password."""
    author = Author.get_or_none(Author.name == name)
    # A name that does not exist takes as long as one that does, so that timing tells nobody which names do.
    stored = (author.password_hash if author else None) or _NOBODYS_HASH
    try:
        _hasher.verify(stored, password)
    except (VerificationError, InvalidHashError):
        return None
    return author if author and author.password_hash else None


_NOBODYS_HASH = _hasher.hash(secrets.token_urlsafe(16))


def make_key(author: Author, name: str, stamp: ChangeStamp) -> str:
    """A new key; it is shown this once and stored only as a hash."""
    key = KEY_PREFIX + secrets.token_urlsafe(30)
    ApiKey.create(author=author, name=name, key_hash=_hash(key))
    stamp.bump()
    return key


def author_of_key(key: str) -> Author | None:
    """Whose key this is."""
    found = ApiKey.get_or_none((ApiKey.key_hash == _hash(key)) & ApiKey.revoked.is_null())
    return found.author if found else None


def _hash(token: str) -> str:
    # Tokens are long and random: a plain hash cannot be guessed back, and looking one up takes no time to speak of.
    return hashlib.sha256(token.encode()).hexdigest()
