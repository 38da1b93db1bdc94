"""Who asks: sessions, passwords, keys."""

from typing import Annotated

from pydantic import BaseModel
from pydantic import Field as Constrained

from .common import Body, UtcTime

__all__ = ["Key", "Keys", "NewKey", "NewPassword", "SessionState", "SignIn", "SignInToken"]


class SessionState(BaseModel):
    """Who is signed in."""

    author: str | None
    has_password: bool
    asks_old_password: bool = Constrained(
        description="Whether a new password needs the old one; a session that a one-time link has just begun does not."
    )
    csrf_token: str | None


class SignIn(Body):
    """An author's name and password."""

    name: Annotated[str, Constrained(max_length=120)]
    password: Annotated[str, Constrained(max_length=1000)]


class NewPassword(Body):
    """A new password; the old one too, if there is one."""

    password: Annotated[str, Constrained(min_length=10, max_length=1000)]
    old_password: Annotated[str, Constrained(max_length=1000)] | None = None


class SignInToken(Body):
    """The token of a one-time link."""

    token: Annotated[str, Constrained(max_length=200)]


class NewKey(Body):
    """A key to be made."""

    name: Annotated[str, Constrained(min_length=1, max_length=120, description="What it is for.")]


class Key(BaseModel):
    """A key for programs."""

    id: int
    name: str
    created: UtcTime
    used: UtcTime | None = Constrained(description="When it was last used, to within ten minutes.")
    key: str | None = Constrained(None, description="The key itself: told once, when it is made.")


class Keys(BaseModel):
    """An author's keys."""

    keys: list[Key]
