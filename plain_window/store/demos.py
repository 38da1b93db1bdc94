"""Demos: their drafts, who may open them, what became of them."""

import hashlib
import json
from collections.abc import Callable, Sequence
from typing import Any, Literal

import peewee

from ..core.contract.inspection import Inspection
from ..core.documents import DemoChanges, DemoDocument, apply_changes
from .addresses import MAX_SLUG, SlugTaken, leads_on
from .changes import ChangeStamp
from .database import database, now
from .queries import tuples_of
from .records import Author, Demo, Model, OldAddress, Release
from .secret_links import revoke_links

__all__ = [
    "Access",
    "DraftMoved",
    "all_doors",
    "bridged_demos",
    "change_draft",
    "create_demo",
    "delete_demo",
    "deleted_demos",
    "draft_of",
    "draft_tag",
    "drafts",
    "find_demo",
    "is_model_used",
    "live_slugs",
    "model_inspection",
    "replace_draft",
    "restore_demo",
    "set_access",
    "set_expected",
    "shelf",
]

Access = Literal["private", "link", "passcode", "everyone"]


class DraftMoved(Exception):
    """The draft has been changed since it was read."""


def create_demo(
    author: Author, *, slug: str, document: DemoDocument, model: Model, known_file: str | None, stamp: ChangeStamp
) -> Demo:
    """A new demo with a draft and no release.

    Parameters
    ----------
    author : Author
        Whose it is.
    slug : str
        The demo's address.
    document : DemoDocument
        What the demo says of itself.
    model : Model
        The model's record.
    known_file : str or None
        The hash of the table of known cases, if there is one.
    stamp : ChangeStamp
        Touched, so that all processes read anew.

    Raises
    ------
    SlugTaken
        If another demo has the address.
    """
    if leads_on(slug):
        raise SlugTaken(slug)
    try:
        demo = Demo.create(
            slug=slug, author=author, model=model, known_file=known_file, draft=document.model_dump_json()
        )
    except peewee.IntegrityError:
        raise SlugTaken(slug) from None
    stamp.bump()
    return demo


def find_demo(slug: str) -> Demo | None:
    """The demo at this address, or that had it before; a deleted one has none.

    Parameters
    ----------
    slug : str
        The demo's address.
    """
    demo = Demo.get_or_none((Demo.slug == slug) & Demo.deleted.is_null())
    if demo is None:
        old = OldAddress.get_or_none(OldAddress.slug == slug)
        demo = old.demo if old is not None and old.demo.deleted is None else None
    return demo


def shelf(author: Author) -> list[Demo]:
    """An author's demos with their models, the one changed last first.

    Parameters
    ----------
    author : Author
    """
    mine = (Demo.author == author) & Demo.deleted.is_null()
    return list(Demo.select(Demo, Model).join(Model).where(mine).order_by(Demo.changed.desc()))


def draft_of(demo: Demo) -> DemoDocument:
    """What the author edits.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    return DemoDocument.model_validate_json(demo.draft)


def model_inspection(model: Model) -> Inspection:
    """What a runner found in this model and its table.

    Parameters
    ----------
    model : Model
        The model's record.
    """
    return Inspection.model_validate_json(model.inspection)


def draft_tag(demo: Demo) -> str:
    """Changes whenever the draft does, or what it is about.

    Parameters
    ----------
    demo : Demo
        Its record.
    """
    about = (demo.slug, demo.model_id, demo.known_file_id, demo.expected_file_id, demo.draft)
    text = "\0".join(map(str, about))
    return hashlib.sha256(text.encode()).hexdigest()[:32]


def change_draft(
    demo: Demo, changes: DemoChanges, stamp: ChangeStamp, *, is_expected: Callable[[str], bool] | None = None
) -> Demo:
    """Apply an author's changes to the draft.

    `is_expected` says of the draft's tag whether it is what the author has seen.

    Parameters
    ----------
    demo : Demo
        Its record.
    changes : DemoChanges
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    is_expected : callable or None, optional
        Tells from the draft's tag whether it is the one the change was made on; any if None.

    Raises
    ------
    DocumentFaults
        If they do not fit; the draft is then as before.
    DraftMoved
        If the draft is not what the author has seen.
    """
    with database.atomic():
        # Locked, so that of two editors at once neither loses what the other set.
        locked = demo.locked()
        if is_expected is not None and not is_expected(draft_tag(locked)):
            raise DraftMoved(locked.slug)
        locked.draft = apply_changes(draft_of(locked), changes).model_dump_json()
        locked.changed = now()
        locked.save()
    stamp.bump()
    return locked


def replace_draft(
    demo: Demo,
    carried_over: Callable[[DemoDocument], DemoDocument],
    model: Model,
    known_file: str | None,
    stamp: ChangeStamp,
) -> None:
    """Let the draft be about another model; visitors keep the live release.

    `carried_over` is given the draft as it stands under lock, so that what the author saved while the other
    model was opened is not lost.

    Parameters
    ----------
    demo : Demo
        Its record.
    carried_over : callable
        Makes the new draft out of the draft as it is by then.
    model : Model
        The model's record.
    known_file : str or None
        The hash of the table of known cases, if there is one.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    with database.atomic():
        locked = demo.locked()
        locked.draft = carried_over(draft_of(locked)).model_dump_json()
        locked.model, locked.known_file_id, locked.changed = model, known_file, now()
        locked.save()
    stamp.bump()


def set_expected(demo: Demo, file: str | None, rows_file: str | None, stamp: ChangeStamp) -> Demo:
    """Keep a table of the author's own outputs beside a demo, as they are of the model it has now; or none.

    Parameters
    ----------
    demo : Demo
        Its record.
    file, rows_file : str or None
        Hashes of the table as it came, and of its rows as they were read.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    of = demo.model.model_file_id if file else None
    changes = {"expected_file": file, "expected_rows_file": rows_file, "expected_of": of, "changed": now()}
    Demo.update(**changes).where(Demo.id == demo.id).execute()
    stamp.bump()
    return Demo.get_by_id(demo.id)


def set_access(
    demo: Demo,
    access: Access,
    stamp: ChangeStamp,
    *,
    passcode_hash: str | None = None,
    sites: Sequence[str] | None = None,
) -> None:
    """Who may open the demo. Secret links end with the access they were made for, and do not come back with it.

    Parameters
    ----------
    demo : Demo
        Its record.
    access : Access
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    passcode_hash : str or None, optional
    sites : sequence of str or None, optional
        Origins whose pages may frame this one; as they were if None.
    """
    changes: dict[str, Any] = {"access": access, "changed": now()}
    if sites is not None:
        changes["sites"] = json.dumps(list(sites)) if sites else None
    if passcode_hash is not None:
        changes["passcode_hash"] = passcode_hash
    with database.atomic():
        Demo.update(**changes).where(Demo.id == demo.id).execute()
        if access != "link":
            revoke_links(demo)
    stamp.bump()


def delete_demo(demo: Demo, stamp: ChangeStamp) -> None:
    """Take a demo off the shelf and free its address; `restore_demo` brings it back.

    Parameters
    ----------
    demo : Demo
        Its record.
    stamp : ChangeStamp
        Touched, so that all processes read anew.
    """
    # A slug never has a tilde, so the parked one is in nobody's way.
    parked = f"{demo.slug[:MAX_SLUG]}~{demo.id}"
    Demo.update(slug=parked, deleted=now(), slug_before_deletion=demo.slug).where(Demo.id == demo.id).execute()
    stamp.bump()


def deleted_demos(author: Author) -> list[Demo]:
    """An author's deleted demos, the last deleted first; of several from one address the last.

    Parameters
    ----------
    author : Author
        Whose it is.
    """
    mine = (Demo.author == author) & Demo.deleted.is_null(False)
    by_address: dict[str, Demo] = {}
    for demo in Demo.select().where(mine).order_by(Demo.deleted.desc()):
        by_address.setdefault(demo.slug_before_deletion or "", demo)
    return list(by_address.values())


def restore_demo(author: Author, slug: str, stamp: ChangeStamp) -> Demo | None:
    """Bring back the demo that was last deleted from this address.

    Parameters
    ----------
    author : Author
        Whose it is.
    slug : str
        The demo's address.
    stamp : ChangeStamp
        Touched, so that all processes read anew.

    Raises
    ------
    SlugTaken
        If another demo has the address by now.
    """
    mine = (Demo.author == author) & (Demo.slug_before_deletion == slug) & Demo.deleted.is_null(False)
    demo = Demo.select().where(mine).order_by(Demo.deleted.desc()).first()
    if demo is not None and leads_on(slug):
        raise SlugTaken(slug)
    if demo is None:
        return None
    try:
        Demo.update(slug=slug, deleted=None, slug_before_deletion=None).where(Demo.id == demo.id).execute()
    except peewee.IntegrityError:
        raise SlugTaken(slug) from None
    stamp.bump()
    return find_demo(slug)


def live_slugs() -> list[str]:
    """The addresses of demos with a live release, the one changed last first."""
    found = Demo.select(Demo.slug).where(Demo.deleted.is_null() & Demo.live_release_id.is_null(False))
    return [demo.slug for demo in found.order_by(Demo.changed.desc())]


def is_model_used(model: Model) -> bool:
    """Whether a demo's draft or a release is about a model.

    Parameters
    ----------
    model : Model
    """
    in_draft = Demo.select().where(Demo.model == model).exists()
    return bool(in_draft or Release.select().where(Release.model == model).exists())


DoorColumns = tuple[str, int, int, str, str | None, int, str | None]


def all_doors() -> list[DoorColumns]:
    """Of every demo that is there: address, id, author, access, passcode's hash, whether it has a live release, and
    which sites may frame its page, as JSON."""
    is_live = Demo.live_release_id.is_null(False)
    columns = (Demo.slug, Demo.id, Demo.author, Demo.access, Demo.passcode_hash, is_live, Demo.sites)
    return tuples_of(
        Demo.select(*columns).where(Demo.deleted.is_null()), tuple[str, int, int, str, str | None, int, str | None]
    )


def bridged_demos(author_id: int) -> list[Demo]:
    """An author's demos whose draft is about a model in a process of their own.

    Parameters
    ----------
    author_id : int
    """
    of_author = Demo.select(Demo, Model).join(Model).where((Demo.author == author_id) & Demo.deleted.is_null())
    return list(of_author.where(Model.bridge.is_null(False)).order_by(Demo.slug))


def drafts() -> list[Demo]:
    """All demos that are there, with the models their drafts are about."""
    return list(Demo.select(Demo, Model).join(Model).where(Demo.deleted.is_null()))
