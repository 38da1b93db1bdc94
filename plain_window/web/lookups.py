"""What a request for a demo needs, remembered until something changes.

A prediction must not wait for the database, and must go on while it restarts: what visitors are shown is read once
and kept until the change stamp moves.
"""

import datetime as dt
import json
import threading
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property, partial
from typing import Generic, TypeVar

from ..authoring.model_intake import runner_job
from ..authoring.services import Services
from ..core.answers.written import WRITTEN
from ..core.contract.inspection import Inspection
from ..core.contract.jobs import RunnerJob
from ..core.documents import DemoDocument
from ..core.documents.measured import is_measured_as_set
from ..core.drift.bins import CaseBins
from ..core.trust.evidence import Evidence
from ..runners.lines import is_away
from ..store.addresses import old_addresses
from ..store.authors import key_and_author
from ..store.changes import ChangeStamp
from ..store.demos import all_doors, draft_of, find_demo, model_inspection
from ..store.records import Author, Demo, Model, Release
from ..store.sessions import find_session, may_set_password

__all__ = [
    "NO_DOOR",
    "Door",
    "KnownAuthor",
    "KnownKey",
    "KnownSession",
    "Remembered",
    "ServedDemo",
    "Version",
    "read_doors",
    "read_draft",
    "read_key",
    "read_served",
    "read_session",
]

Key = TypeVar("Key")
Value = TypeVar("Value")

# Addresses that do not exist are remembered too; somebody trying many must not fill the memory.
MAX_REMEMBERED = 4096


@dataclass(frozen=True)
class Version:
    """A release, or the draft, with the runner it is asked at."""

    number: int | None
    document: DemoDocument
    job: RunnerJob
    inspection: Inspection
    # What known cases say of the document as it is set.
    evidence: Evidence | None
    model_id: int = 0
    published_at: dt.datetime | None = None

    @cached_property
    def bins(self) -> CaseBins:
        """By which cases are counted: by what was inferred, not by what the author made of it, so that they stay the
        same while labels and order change."""
        return CaseBins(self.inspection.fields, self.inspection.answer)

    @cached_property
    def is_of_values(self) -> bool:
        """Whether a case is values only, and its answer made of a model's outputs."""
        return not self.document.has_pictures and self.document.answer.kind not in WRITTEN


@dataclass(frozen=True)
class ServedDemo:
    """A demo as requests see it."""

    id: int
    slug: str
    author_id: int
    access: str
    passcode_hash: str | None
    live: Version | None
    draft: Version
    # What answers while the live one's process is away.
    while_away: Version | None = None

    @property
    def shown(self) -> Version | None:
        """What visitors see: the live release, or while its process is away what its author has answer meanwhile."""
        is_replaced = self.while_away is not None and self.live is not None and is_away(self.live.job)
        return self.while_away if is_replaced else self.live


@dataclass(frozen=True)
class Door:
    """All that decides whether somebody may see a demo. Known of every demo at once, so that one that is not there is
    looked up as one that is."""

    slug: str
    id: int
    author_id: int
    access: str
    passcode_hash: str | None
    is_live: bool
    # Origins whose pages may show this one in a frame.
    sites: tuple[str, ...] = ()


# Where there is no demo: a door that nobody may pass.
NO_DOOR = Door("", 0, -1, "private", None, is_live=False)


@dataclass(frozen=True)
class KnownAuthor:
    """An author as requests see one."""

    id: int
    name: str
    has_password: bool


@dataclass(frozen=True)
class KnownKey:
    """A key, and whose it is."""

    id: int
    author: KnownAuthor
    used: dt.datetime | None


@dataclass(frozen=True)
class KnownSession:
    """A session, and whose it is."""

    id: int
    author: KnownAuthor
    csrf: str
    used: dt.datetime
    ends: dt.datetime
    may_set_password: Callable[[], bool]


class Remembered(Generic[Key, Value]):
    """What `read` returned for a key, until the stamp moves.

    Parameters
    ----------
    read : callable
        Reads one key from the database.
    stamp : ChangeStamp
    """

    def __init__(self, read: Callable[[Key], Value], stamp: ChangeStamp) -> None:
        self._read = read
        self._stamp = stamp
        self._version: object = None
        self._values: dict[Key, Value] = {}
        self._lock = threading.Lock()

    def __call__(self, key: Key) -> Value:
        # Read before the database: a change in between makes the value be read again, never kept too long.
        version = self._stamp.read()
        with self._lock:
            if version != self._version or len(self._values) > MAX_REMEMBERED:
                self._version, self._values = version, {}
            if key in self._values:
                return self._values[key]
        value = self._read(key)
        with self._lock:
            if version == self._version:
                self._values[key] = value
        return value

    def at_hand(self, key: Key) -> Value | None:
        """What is remembered of this key and still holds; None where it would have to be read.

        Parameters
        ----------
        key : hashable
        """
        return self._values.get(key) if self._stamp.read() == self._version else None

    def forget(self, key: Key) -> None:
        """Read this one anew the next time.

        Parameters
        ----------
        key : Key
            What it is remembered by.
        """
        with self._lock:
            self._values.pop(key, None)


def read_doors(_all: None) -> dict[str, Door]:
    """The doors of all demos, by address.

    Parameters
    ----------
    _all : None
        There is only one such list.
    """
    doors = {
        slug: Door(slug, id_, author, access, passcode, bool(is_live), tuple(json.loads(sites)) if sites else ())
        for slug, id_, author, access, passcode, is_live, sites in all_doors()
    }
    # An address a demo had before is another way to the same door.
    return {**{old: doors[slug] for old, slug in old_addresses() if slug in doors}, **doors}


def read_served(slug: str, services: Services) -> ServedDemo | None:
    """The demo at this address, with its live release and its draft.

    Parameters
    ----------
    slug : str
        The demo's address.
    services : Services
    """
    demo = find_demo(slug)
    if demo is None:
        return None
    return ServedDemo(
        id=demo.id,
        slug=demo.slug,
        author_id=demo.author_id,
        access=demo.access,
        passcode_hash=demo.passcode_hash,
        live=_released(demo.live_release_id, services),
        draft=read_draft(demo, services),
        while_away=_released(demo.away_release_id, services),
    )


def read_key(key: str) -> KnownKey | None:
    """What this key is worth.

    Parameters
    ----------
    key : str
        As it was sent.
    """
    found = key_and_author(key)
    return KnownKey(found[0].id, _known(found[1]), found[0].used) if found else None


def read_session(token: str) -> KnownSession | None:
    """What this session is worth.

    Parameters
    ----------
    token : str
        As it stands in the link or cookie.
    """
    found = find_session(token)
    if found is None:
        return None
    may = partial(may_set_password, found)
    return KnownSession(found.id, _known(found.author), found.csrf, found.used, found.ends, may)


def _known(author: Author) -> KnownAuthor:
    return KnownAuthor(author.id, author.name, author.password_hash is not None)


def read_draft(demo: Demo, services: Services) -> Version:
    """The draft as a record has it, whatever is remembered of it.

    Parameters
    ----------
    demo : Demo
        Its record.
    services : Services
    """
    return _version(None, draft_of(demo), demo.model, services)


def _released(id_: int | None, services: Services) -> Version | None:
    if id_ is None:
        return None
    release = Release.get_by_id(id_)
    document = DemoDocument.model_validate_json(release.document)
    return replace(_version(release.number, document, release.model, services), published_at=release.created)


def _version(number: int | None, document: DemoDocument, model: Model, services: Services) -> Version:
    job = runner_job(services, model, document)
    found = model_inspection(model)
    evidence = found.evidence if is_measured_as_set(document, found) else None
    return Version(number, document, job, found, evidence, model.id)
