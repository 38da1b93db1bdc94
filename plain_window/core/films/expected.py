"""How many frames a model will be asked about: needs no decoder."""

import math

__all__ = ["expected_moments"]


def expected_moments(seconds: float | None, film_rate: float, rate: float) -> int | None:
    """How many frames a model will be asked about, as far as that can be told before.

    Parameters
    ----------
    seconds : float, optional
        How long the film lasts.
    film_rate : float
        Its frames a second.
    rate : float
        Moments a second.
    """
    return None if seconds is None else max(1, math.ceil(seconds * min(film_rate, rate)))
