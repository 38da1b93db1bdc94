"""What a job says to the process that reads its film, and what that says."""

from typing import Any

import msgspec

from .elsewhere import FileBytes, FilePart, NotRead, Wanted
from .messages import Ask, Said
from .requests import BoxToDraw

__all__ = [
    "BeginFilm",
    "DrawFilm",
    "DrawnMoment",
    "FilmAsk",
    "FilmBegun",
    "FilmLooked",
    "FilmReply",
    "FrameRead",
    "FramesRead",
    "LookAtFilm",
    "NextFrames",
    "NextPart",
]


class _Part(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Part of a message."""


class DrawnMoment(_Part, frozen=True):
    """What is drawn into the frames from `at` seconds on, up to the next moment."""

    at: float
    boxes: list[BoxToDraw]


class LookAtFilm(Ask, tag="look_at_film", frozen=True):
    """Look at a film of `size` bytes: what it is, and whether it is within these bounds."""

    size: int
    most_pixels: int
    most_seconds: float


class BeginFilm(Ask, tag="begin_film", frozen=True):
    """Get ready for its frames at `rate` moments a second, without the first ones.

    With a `preparation`, as plain values, they are wanted in the size that the model looks at.
    """

    size: int
    most_pixels: int
    most_seconds: float
    rate: float
    without: int = 0
    preparation: dict[str, Any] | None = None


class NextFrames(Ask, tag="next_frames", frozen=True):
    """The next frames."""


class DrawFilm(Ask, tag="draw_film", frozen=True):
    """Make the film again with boxes drawn into its frames."""

    size: int
    most_pixels: int
    most_seconds: float
    moments: list[DrawnMoment]


class NextPart(Ask, tag="next_part", frozen=True):
    """The next part of the film that is made."""


FilmAsk = LookAtFilm | BeginFilm | NextFrames | DrawFilm | NextPart | FileBytes


class FilmLooked(Said, tag="film_looked", frozen=True):
    """What the film is; `seconds` where that is known."""

    width: int
    height: int
    seconds: float | None
    rate: float
    has_sound: bool


class FilmBegun(Said, tag="film_begun", frozen=True):
    """It is ready for frames."""


class FrameRead(_Part, frozen=True):
    """A frame as the file of a picture, and from when on it is shown.

    `full` is how large it was, where that file has it in another size.
    """

    at: float
    content: bytes
    full: tuple[int, int] | None = None


class FramesRead(Said, tag="frames", frozen=True):
    """Some frames, or none yet; `until` says up to where the film has been read, in seconds."""

    frames: list[FrameRead]
    until: float
    is_last: bool


FilmReply = Wanted | FilmLooked | FilmBegun | FramesRead | FilePart | NotRead
