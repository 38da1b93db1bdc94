"""Passwords and passcodes, hashed slowly on purpose, and away from what answers visitors.

A hash takes long and 64 MB. It runs in a real thread, outside gevent's loop, one at a time in each web process; only so
many wait for that, and all addresses together may ask for only so many a second.
"""

import functools
import math
import threading
from collections.abc import Callable
from typing import TypeVar

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from gevent.threadpool import ThreadPool

from .problems import ApiProblem
from .state import state

__all__ = ["hash_secret", "is_right_secret"]

Result = TypeVar("Result")
THREADS, MOST_WAITING = 1, 8
# Of everybody together, in all web processes.
HASHES_A_SECOND, HASHES_SAVED = 8.0, 24.0

_hasher = PasswordHasher()
_waiting = threading.BoundedSemaphore(MOST_WAITING)
_pools: list[ThreadPool] = []


def hash_secret(secret: str) -> str:
    """The hash that is stored of a password or passcode.

    Parameters
    ----------
    secret : str
        As it was typed.

    Raises
    ------
    ApiProblem
        429 if too many are asked for.
    """
    return _beside(lambda: _hasher.hash(secret))


def is_right_secret(stored: str | None, secret: str) -> bool:
    """Whether `secret` is what `stored` is the hash of. Takes as long where nothing is stored.

    Parameters
    ----------
    stored : str or None
        As `hash_secret` made it.
    secret : str
        As it was typed.

    Raises
    ------
    ApiProblem
        429 if too many are asked for.
    """

    def verify() -> bool:
        try:
            _hasher.verify(stored or _nobodys(), secret)
        except (VerificationError, InvalidHashError):
            return False
        return stored is not None

    return _beside(verify)


@functools.cache
def _nobodys() -> str:
    """Something to compare with where there is nothing, so that it takes as long."""
    return _hasher.hash("nobody has this")


def _beside(work: Callable[[], Result]) -> Result:
    wait = state().rate.wait_seconds("hashes of everybody", rate=HASHES_A_SECOND, saved=HASHES_SAVED)
    if wait > 0 or not _waiting.acquire(blocking=False):
        seconds = max(1, math.ceil(wait))
        raise ApiProblem(
            429, "Too many requests", "Many are signing in just now. Wait a moment and go on.", retry_after=seconds
        )
    try:
        if not _pools:
            _pools.append(ThreadPool(THREADS))
        result: Result = _pools[0].apply(work)
        return result
    finally:
        _waiting.release()
