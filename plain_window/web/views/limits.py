"""How often one address may ask."""

import math

from flask import request

from ..problems import ApiProblem
from ..state import state

__all__ = ["slow_down", "slow_down_guesses"]

# Guesses at passwords, passcodes and links: one a second, after a few that people need for slips.
GUESS_RATE, GUESSES_SAVED = 1.0, 5.0


def slow_down_guesses(at: str) -> None:
    """Count this request as a guess `at` something secret.

    Raises
    ------
    ApiProblem
        429 if there were too many.
    """
    slow_down(at, GUESS_RATE, saved=GUESSES_SAVED)


def slow_down(what: str, rate: float, *, saved: float | None = None) -> None:
    """Count this request against its address.

    Raises
    ------
    ApiProblem
        429 if there were too many.
    """
    wait = state().rate.wait_seconds(f"{what} {request.remote_addr}", rate=rate, saved=saved)
    if wait > 0:
        seconds = max(1, math.ceil(wait))
        detail = f"That was a lot at once. Wait {seconds} second{'s' if seconds > 1 else ''} and go on."
        raise ApiProblem(429, "Too many requests", detail, retry_after=seconds)
