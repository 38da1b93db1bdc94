"""How long a model takes, by a clock that goes on while others work: one slow call is no evidence of a slow model."""

import time
from collections.abc import Callable
from typing import TypeVar

__all__ = ["timed"]

# A model is timed up to so many times, within so many seconds.
MOST_TIMINGS, MOST_SECONDS = 3, 2.0

Result = TypeVar("Result")


def timed(ask: Callable[[], Result], *, quick_seconds: float) -> tuple[Result, float]:
    """What `ask` gives, and the least of what up to three calls of it took.

    The first call may wait for what others do on the machine, or fetch what later ones find there; what follows from
    its time may last for as long as a model is served.

    Parameters
    ----------
    ask : callable
    quick_seconds : float
        What takes no longer is not asked again: nothing follows from how much quicker it is.

    Returns
    -------
    result : object
        Of the last call.
    seconds : float
        Above zero.
    """
    least, spent = float("inf"), 0.0
    for _ in range(MOST_TIMINGS):
        begun = time.perf_counter()
        result = ask()
        took = time.perf_counter() - begun
        least, spent = min(least, took), spent + took
        if took <= quick_seconds or spent > MOST_SECONDS:
            break
    return result, max(least, 1e-6)
