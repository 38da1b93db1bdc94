"""What a request for a demo needs, remembered until something changes.

A prediction must not wait for the database, and must go on while it restarts: what visitors are shown is read once
and kept until the change stamp moves.
"""

import threading
from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

from ..authoring.bringing import runner_job
from ..core.demo import DemoDocument
from ..core.trust.evidence import Evidence
from ..runners.jobs import RunnerJob
from ..store.authors import author_of_key
from ..store.changes import ChangeStamp
from ..store.demos import draft_of, find_demo
from ..store.files import FileStore
from ..store.records import Author, Demo, Model, Release

__all__ = ["KnownAuthor", "Remembered", "ServedDemo", "Version", "read_author", "read_key", "read_served"]

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
    evidence: Evidence | None
    # How far each field moves answers, strongest first, and the fields the model makes no use of.
    strength: dict[str, float]
    unused: list[str]
    target: str | None


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


@dataclass(frozen=True)
class KnownAuthor:
    """An author as requests see one."""

    id: int
    name: str
    has_password: bool
    session_number: int


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


def read_served(slug: str, files: FileStore) -> ServedDemo | None:
    """The demo at this address, with its live release and its draft."""
    demo = find_demo(slug)
    if demo is None:
        return None
    return ServedDemo(
        id=demo.id,
        slug=demo.slug,
        author_id=demo.author_id,
        access=demo.access,
        passcode_hash=demo.passcode_hash,
        live=_live(demo, files),
        draft=_version(None, draft_of(demo), demo.model, files),
    )


def read_author(author_id: int) -> KnownAuthor | None:
    """The author with this id."""
    author = Author.get_or_none(Author.id == author_id)
    return _known(author) if author else None


def read_key(key: str) -> KnownAuthor | None:
    """Whose key this is."""
    author = author_of_key(key)
    return _known(author) if author else None


def _known(author: Author) -> KnownAuthor:
    return KnownAuthor(author.id, author.name, author.password_hash is not None, author.session_number)


def _live(demo: Demo, files: FileStore) -> Version | None:
    if demo.live_release_id is None:
        return None
    release = Release.get_by_id(demo.live_release_id)
    return _version(release.number, DemoDocument.model_validate_json(release.document), release.model, files)


def _version(number: int | None, document: DemoDocument, model: Model, files: FileStore) -> Version:
    job = runner_job(files, model, document)
    found = job.inspection or {}
    evidence = Evidence.model_validate(found["evidence"]) if found.get("evidence") else None
    return Version(
        number, document, job, evidence, found.get("strength") or {}, found.get("unused") or [], found.get("target")
    )
