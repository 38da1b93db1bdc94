"""Environments by what is in them, and what requirements came to which."""

from collections.abc import Collection
from dataclasses import dataclass

import msgspec

from ..core.environments.lock import Locked
from .database import now, unlocked
from .queries import tuples_of
from .records import Demo, Environment, EnvironmentRequest, Model

__all__ = [
    "KnownEnvironment",
    "environment_of",
    "environments_in_use",
    "find_environment",
    "forget_environments",
    "known_environments",
    "record_environment",
]


@dataclass(frozen=True)
class KnownEnvironment:
    """An environment as its author is told of it."""

    hash: str
    packages: list[Locked]
    size: int
    requirements: str
    demos: list[str]


def find_environment(request_key: str) -> str | None:
    """What the same requirements came to before; None if nobody has asked for them.

    Parameters
    ----------
    request_key : str
        Of the requirements.
    """
    found = EnvironmentRequest.get_or_none(EnvironmentRequest.hash == request_key)
    return None if found is None else found.environment_id


def record_environment(request_key: str, text: str, hash_: str, packages: Collection[Locked], size: int) -> None:
    """Note what requirements came to.

    Parameters
    ----------
    request_key : str
        Of the requirements.
    text : str
        The requirements themselves.
    hash_ : str
        Of the environment's lock.
    packages : collection of Locked
    size : int
        In bytes.
    """

    def record() -> None:
        listed = msgspec.json.encode(list(packages)).decode()
        Environment.insert(hash=hash_, packages=listed, size=size, created=now()).on_conflict_ignore().execute()
        values = {"hash": request_key, "environment": hash_, "requirements": text, "created": now()}
        EnvironmentRequest.insert(**values).on_conflict(
            preserve=[EnvironmentRequest.environment, EnvironmentRequest.requirements]
        ).execute()

    unlocked(record)


def environment_of(hash_: str) -> list[Locked]:
    """What is in an environment.

    Parameters
    ----------
    hash_ : str
    """
    found = Environment.get_or_none(Environment.hash == hash_)
    return [] if found is None else _packages(found)


def known_environments(author_id: int) -> list[KnownEnvironment]:
    """All environments, the newest first, and which of an author's demos use each.

    Parameters
    ----------
    author_id : int
    """
    asked: dict[str, str] = {}
    for one in EnvironmentRequest.select().order_by(EnvironmentRequest.created):
        asked.setdefault(one.environment_id, one.requirements)
    used: dict[str, list[str]] = {}
    of_author = Demo.select(Demo, Model).join(Model).where((Demo.author == author_id) & Demo.deleted.is_null())
    for demo in of_author.where(Model.environment.is_null(False)):
        used.setdefault(str(demo.model.environment_id), []).append(demo.slug)
    every = Environment.select().order_by(Environment.created.desc())
    return [
        KnownEnvironment(one.hash, _packages(one), one.size, asked.get(one.hash, ""), sorted(used.get(one.hash, [])))
        for one in every
    ]


def _packages(environment: Environment) -> list[Locked]:
    return msgspec.json.decode(environment.packages, type=list[Locked])


def environments_in_use() -> set[str]:
    """Those that a model needs, of a draft or of any release."""
    needed = Model.select(Model.environment).where(Model.environment.is_null(False)).distinct()
    return {hash_ for (hash_,) in tuples_of(needed, tuple[str])}


def forget_environments(hashes: Collection[str]) -> None:
    """Forget environments that are no longer there; those that a model needs stay known.

    Parameters
    ----------
    hashes : collection of str
    """
    gone = set(hashes) - environments_in_use()
    if gone:
        Environment.delete().where(Environment.hash.in_(sorted(gone))).execute()
