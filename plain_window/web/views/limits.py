"""How often one address may ask."""

import math

from flask import request

from ..problems import ApiProblem
from ..state import state

__all__ = ["slow_down"]


def slow_down(what: str, rate: float) -> None:
    """Count this request against its address.

    Raises
    ------
    ApiProblem
        429 if there were too many.
    """
    wait = state().rate.wait_seconds(f"{what} {request.remote_addr}", rate=rate)
    if wait > 0:
        seconds = max(1, math.ceil(wait))
        detail = f"That was a lot at once. Wait {seconds} second{'s' if seconds > 1 else ''} and go on."
        raise ApiProblem(429, "Too many requests", detail, retry_after=seconds)
