"""Releases: drafts frozen under a number, and which of them visitors see."""

import json
from collections.abc import Mapping, Sequence

import peewee

from .changes import ChangeStamp
from .database import database, now
from .demos import DraftMoved, draft_tag
from .records import Demo, Model, Release

__all__ = [
    "draft_differs",
    "find_release",
    "live_releases",
    "live_releases_of",
    "make_live",
    "publish",
    "releases_of",
    "stand_in_while_away",
]


def publish(
    demo: Demo, stamp: ChangeStamp, *, tag: str, note: str = "", despite: Mapping[str, str] | None = None
) -> Release:
    """Freeze the draft as the next release and show it to visitors.

    `despite` has the author's reasons to publish with checks that ask something, by their names.

    Parameters
    ----------
    demo : Demo
        Its record.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    tag : str
        Of the draft that was checked.
    note : str, optional
        What the author says of it.
    despite : mapping or None, optional
        Why it is published though a check fails, by check.

    Raises
    ------
    DraftMoved
        If the draft is no longer the one that was checked.
    """
    with database.atomic():
        locked = demo.locked()
        if draft_tag(locked) != tag:
            raise DraftMoved(locked.slug)
        last = Release.select(peewee.fn.MAX(Release.number)).where(Release.demo == locked).scalar() or 0
        release = Release.create(
            demo=locked,
            number=last + 1,
            model=locked.model_id,
            document=locked.draft,
            note=note,
            despite=json.dumps(dict(despite)) if despite else None,
        )
        locked.live_release_id = release.id
        locked.changed = now()
        locked.save()
    stamp.bump()
    return release


def releases_of(demo: Demo) -> list[Release]:
    """All releases of a demo with their models, the newest first.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    found = Release.select(Release, Model).join(Model).where(Release.demo == demo)
    return list(found.order_by(Release.number.desc()))


def find_release(demo: Demo, number: int) -> Release | None:
    """A release by its number, with its model.

    Parameters
    ----------
    demo : Demo
        Its record.
    number : int
    """
    found = Release.select(Release, Model).join(Model).where(Release.demo == demo, Release.number == number)
    release: Release | None = found.first()
    return release


def make_live(demo: Demo, release: Release, stamp: ChangeStamp) -> None:
    """Show visitors this release, at once and whole.

    Parameters
    ----------
    demo : Demo
        Its record.
    release : Release
        One of its own.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    with database.atomic():
        locked = demo.locked()
        locked.live_release_id = release.id
        locked.changed = now()
        locked.save()
    stamp.bump()


def stand_in_while_away(demo: Demo, release: Release | None, stamp: ChangeStamp) -> None:
    """Show visitors this release while the process of the one they see is away; None shows them no other.

    Parameters
    ----------
    demo : Demo
        Its record.
    release : Release or None
        One of its own, whose model is a file.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    with database.atomic():
        locked = demo.locked()
        locked.away_release_id = None if release is None else release.id
        locked.changed = now()
        locked.save()
    stamp.bump()


def draft_differs(demo: Demo, release: Release | None) -> bool:
    """Whether visitors see something else than the author does.

    Parameters
    ----------
    demo : Demo
        Its record.
    release : Release or None
    """
    return release is None or release.document != demo.draft or release.model_id != demo.model_id


def live_releases_of(demos: Sequence[Demo]) -> dict[int, Release]:
    """The live releases of some demos with their models, by the demo's id; a demo without one is left out.

    Parameters
    ----------
    demos : sequence of Demo
    """
    wanted = [demo.live_release_id for demo in demos if demo.live_release_id]
    if not wanted:
        return {}
    found = Release.select(Release, Model).join(Model).where(Release.id.in_(wanted))
    return {release.demo_id: release for release in found}


def live_releases() -> list[Release]:
    """What visitors may ask for, also while a process is away, with its models."""
    return list(
        Release.select(Release, Model)
        .join(Model)
        .switch(Release)
        .join(Demo, on=(Demo.live_release_id == Release.id) | (Demo.away_release_id == Release.id))
        .where(Demo.deleted.is_null())
    )
