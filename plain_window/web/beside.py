"""Work that computes for long, beside the requests of this process."""

from collections.abc import Callable
from typing import TypeVar

import gevent

__all__ = ["beside"]

Result = TypeVar("Result")


def beside(work: Callable[[], Result]) -> Result:
    """Do what computes for long in a thread of the system's: a greenlet would hold up all others.

    Parameters
    ----------
    work : callable
    """
    result: Result = gevent.get_hub().threadpool.apply(work)
    return result
