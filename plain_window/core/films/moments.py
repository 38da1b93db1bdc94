"""The frames that a model is asked about: those that are shown at so many moments a second, each of them once."""

import math
from collections.abc import Iterator

from .reading import Film, Shown

__all__ = ["moments"]

# Times in files are rounded, to a millisecond in some.
ROUNDING_SECONDS = 0.002


def moments(film: Film, rate: float) -> Iterator[Shown | None]:
    """The frame that is shown at each moment; None for a frame between two of them, so that whoever asks may pause.

    A frame that is shown over several moments comes once.

    Parameters
    ----------
    film : Film
        Just opened.
    rate : float
        Moments a second.

    Raises
    ------
    FilmNotRead
        As `Film.frames` does.
    """
    before: Shown | None = None
    for shown in film.frames():
        if before is not None:
            yield _if_shown_at_one(before, shown.at, rate)
        before = shown
    if before is not None:
        yield _if_shown_at_one(before, before.at + float(1 / film.rate), rate)


def _if_shown_at_one(shown: Shown, until: float, rate: float) -> Shown | None:
    """The frame, if one of the moments falls into the time for which it is shown."""
    first = math.ceil((shown.at - ROUNDING_SECONDS) * rate) / rate
    return shown if first < until - ROUNDING_SECONDS else None
