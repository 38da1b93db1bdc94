"""Doing what the database has to be there for until it is: a job must outlive a restart of it."""

import time
from collections.abc import Callable
from typing import TypeVar

from ..store.database import DATABASE_ERRORS, database

__all__ = ["insisted"]

AGAIN_SECONDS, MOST_AGAIN_SECONDS = 0.2, 5.0

Value = TypeVar("Value")


def insisted(do: Callable[[], Value]) -> Value:
    """What `do` returns, once the database answers. It may be done again: it must come to the same.

    Parameters
    ----------
    do : callable
    """
    wait = AGAIN_SECONDS
    while True:
        try:
            with database.connection_context():
                return do()
        except DATABASE_ERRORS:
            time.sleep(wait)
            wait = min(2 * wait, MOST_AGAIN_SECONDS)
