"""Secret links: several of a demo, each with a name, a time it ends and a count, and each revocable by itself."""

import datetime as dt

import peewee

from .changes import ChangeStamp
from .database import database, now
from .records import Demo, SecretLink

__all__ = [
    "MOST_LINKS",
    "count_opening",
    "links_of",
    "make_secret_link",
    "new_link",
    "revoke_link",
    "revoke_links",
    "secret_link_demo",
    "secret_link_of",
]

# Of one demo at a time.
MOST_LINKS = 200


def make_secret_link(demo: Demo, stamp: ChangeStamp, *, days: float | None, replace: bool = False) -> SecretLink:
    """The demo's newest secret link; a new one if there is none, or if the old ones are to stop working.

    Parameters
    ----------
    demo : Demo
        Its record.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    days : float or None
        How long it holds; for ever if None.
    replace : bool, optional
        Whether the others become void.
    """
    with database.atomic():
        current = secret_link_of(demo)
        if current and not replace:
            return current
        revoke_links(demo)
        expires = now() + dt.timedelta(days=days) if days else None
        link = SecretLink.create(demo=demo, expires=expires)
    stamp.bump()
    return link


def new_link(demo: Demo, stamp: ChangeStamp, *, name: str, expires: dt.datetime | None) -> SecretLink | None:
    """One more secret link beside those there are; None if there are too many already.

    A demo that only its author may open is one for whoever has a link from then on.

    Parameters
    ----------
    demo : Demo
        Its record.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    name : str
        For whom it is; only the author reads it.
    expires : datetime or None
        In UTC, without a zone; it holds for ever if None.
    """
    with database.atomic():
        locked = demo.locked()
        if _valid_links().where(SecretLink.demo == demo).count() >= MOST_LINKS:
            return None
        if locked.access == "private":
            Demo.update(access="link", changed=now()).where(Demo.id == demo.id).execute()
        link = SecretLink.create(demo=demo, name=name, expires=expires)
    stamp.bump()
    return link


def links_of(demo: Demo) -> list[SecretLink]:
    """The links of a demo that have not been revoked, the newest first; those that have ended are among them.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    found = SecretLink.select().where((SecretLink.demo == demo) & SecretLink.revoked.is_null())
    return list(found.order_by(SecretLink.id.desc()))


def revoke_link(demo: Demo, link_id: int, stamp: ChangeStamp) -> bool:
    """Let a link stop working, also for those who have opened it; whether there was such a one.

    Parameters
    ----------
    demo : Demo
        Its record.
    link_id : int
        The link's number.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    is_it = (SecretLink.demo == demo) & (SecretLink.id == link_id) & SecretLink.revoked.is_null()
    n_revoked = SecretLink.update(revoked=now()).where(is_it).execute()
    stamp.bump()
    return bool(n_revoked)


def revoke_links(demo: Demo) -> None:
    """Let all links of a demo stop working, within the caller's transaction.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    SecretLink.update(revoked=now()).where((SecretLink.demo == demo) & SecretLink.revoked.is_null()).execute()


def count_opening(link_id: int) -> None:
    """A page was opened by this link.

    Parameters
    ----------
    link_id : int
        The link's number.
    """
    SecretLink.update(opened=SecretLink.opened + 1).where(SecretLink.id == link_id).execute()


def secret_link_of(demo: Demo) -> SecretLink | None:
    """The newest secret link that opens this demo now.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    found: SecretLink | None = _valid_links().where(SecretLink.demo == demo).order_by(SecretLink.id.desc()).first()
    return found


def secret_link_demo(link_id: int) -> tuple[Demo, dt.datetime | None] | None:
    """The demo that a secret link opens, while it does, and until when.

    Parameters
    ----------
    link_id : int
        The link's number.
    """
    link = _valid_links().where(SecretLink.id == link_id).first()
    if link is None or link.demo.deleted is not None or link.demo.access != "link":
        return None
    return link.demo, link.expires


def _valid_links() -> "peewee.ModelSelect[SecretLink]":
    in_time = SecretLink.expires.is_null() | (SecretLink.expires > now())
    return SecretLink.select().where(SecretLink.revoked.is_null() & in_time)
