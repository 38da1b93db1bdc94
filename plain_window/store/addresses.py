"""Addresses of demos: spelled, free, taken, and those that a demo had before."""

import re
import unicodedata

import peewee

from .changes import ChangeStamp
from .database import database, now
from .queries import tuples_of
from .records import Demo, OldAddress

__all__ = ["MAX_SLUG", "SlugTaken", "free_slug", "leads_on", "move_demo", "old_addresses", "slug_fault", "spelled_slug"]

MAX_SLUG = 80
SLUG = re.compile(rf"[a-z0-9](?:[a-z0-9-]{{0,{MAX_SLUG - 2}}}[a-z0-9])?")


class SlugTaken(Exception):
    """Another demo has this address."""


def spelled_slug(title: str) -> str:
    """A title as an address is spelled.

    Parameters
    ----------
    title : str
    """
    plain = unicodedata.normalize("NFKD", title).encode("ascii", "ignore").decode().casefold()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:MAX_SLUG].rstrip("-") or "demo"


def free_slug(title: str) -> str:
    """An address made from a title that no demo has yet.

    Parameters
    ----------
    title : str
    """
    wanted = spelled_slug(title)
    taken = {demo.slug for demo in Demo.select(Demo.slug).where(Demo.slug.startswith(wanted))}
    taken |= {old.slug for old in OldAddress.select(OldAddress.slug).where(OldAddress.slug.startswith(wanted))}
    number, slug = 1, wanted
    while slug in taken:
        number += 1
        slug = f"{wanted}-{number}"
    return slug


def leads_on(slug: str) -> bool:
    """Whether this is an address that another demo had and that leads on to it.

    Parameters
    ----------
    slug : str
        The demo's address.
    """
    old = OldAddress.get_or_none(OldAddress.slug == slug)
    return old is not None and old.demo.deleted is None


def move_demo(demo: Demo, slug: str, stamp: ChangeStamp) -> Demo:
    """Give a demo another address; the one it had leads on.

    Parameters
    ----------
    demo : Demo
        Its record.
    slug : str
        The demo's address.
    stamp : ChangeStamp
        Touched, so that all processes read anew.

    Raises
    ------
    SlugTaken
        If another demo has the address, or had it.
    """
    if slug == demo.slug:
        return demo
    try:
        with database.atomic():
            old = OldAddress.get_or_none(OldAddress.slug == slug)
            if old is not None and old.demo_id != demo.id and old.demo.deleted is None:
                raise SlugTaken(slug)
            # Back to an address it had, or to one whose demo is gone.
            OldAddress.delete().where(OldAddress.slug == slug).execute()
            OldAddress.insert(slug=demo.slug, demo=demo.id).on_conflict_replace().execute()
            Demo.update(slug=slug, changed=now()).where(Demo.id == demo.id).execute()
    except peewee.IntegrityError:
        raise SlugTaken(slug) from None
    stamp.bump()
    return Demo.get_by_id(demo.id)


def old_addresses() -> list[tuple[str, str]]:
    """Of demos that are there: an address each had before, and the one it has."""
    columns = (OldAddress.slug, Demo.slug)
    return tuples_of(OldAddress.select(*columns).join(Demo).where(Demo.deleted.is_null()), tuple[str, str])


def slug_fault(slug: str) -> str:
    """What keeps this from being an address, as a sentence; empty if nothing does.

    Parameters
    ----------
    slug : str
        The demo's address.
    """
    if SLUG.fullmatch(slug):
        return ""
    return f'`slug` may have lower-case letters, digits and hyphens inside, up to {MAX_SLUG}. Got "{slug[:60]}".'
