"""Reads a job's film, or makes it again with boxes: a confined process that is asked for some frames at a time."""

import io
import time
from collections.abc import Iterator
from typing import BinaryIO, cast

from ..core.contract.elsewhere import FilePart, NotRead
from ..core.contract.films import (
    BeginFilm,
    DrawFilm,
    FilmAsk,
    FilmBegun,
    FilmLooked,
    FrameRead,
    FramesRead,
    LookAtFilm,
    NextFrames,
    NextPart,
)
from ..core.contract.messages import Said
from ..core.films.bitmaps import as_bitmap, upright
from ..core.films.fitting import fitted_frame, may_be_fitted
from ..core.films.moments import moments
from ..core.films.reading import Film, Shown
from ..core.films.with_boxes import film_with_boxes
from ..core.pictures.settings import Preparation
from .elsewhere import Desk, FileOf

__all__ = ["FilmDesk"]

# What goes out at a time: whoever asks the model has the next frames at hand while it answers.
MOST_FRAMES, MOST_BYTES, PART_BYTES = 4, 24 << 20, 1 << 20
# Frames that are passed over take their time too, and nobody is to think that this hangs.
PIECE_SECONDS = 1.0


class FilmDesk(Desk[FilmAsk]):
    """What is asked about one film.

    Parameters
    ----------
    file_of : callable
        Gives the file of a size.
    """

    noun, asks = "film", FilmAsk

    def __init__(self, file_of: FileOf) -> None:
        super().__init__(file_of)
        self._moments: Iterator[Shown | None] = iter(())
        self._until = 0.0
        self._parts: Iterator[bytes] = iter(())
        self._without = 0
        self._preparation: Preparation | None = None

    def done(self, ask: FilmAsk) -> Said:
        """What is said to this.

        Parameters
        ----------
        ask : FilmAsk
        """
        match ask:
            case LookAtFilm():
                facts = self._film(ask).facts
                return FilmLooked(facts.width, facts.height, facts.seconds, facts.rate, facts.has_sound)
            case BeginFilm():
                self._moments, self._without = moments(self._film(ask), ask.rate), ask.without
                self._preparation = Preparation.model_validate(ask.preparation) if ask.preparation else None
                return FilmBegun()
            case NextFrames():
                return self._next()
            case DrawFilm():
                self._parts = film_with_boxes(self._film(ask), ask.moments)
                return self._part()
            case NextPart():
                return self._part()
        return NotRead("Nothing was begun.")

    def _film(self, ask: LookAtFilm | BeginFilm | DrawFilm) -> Film:
        file = cast(BinaryIO, io.BufferedReader(self._file_of(ask.size)))
        return Film(file, most_pixels=ask.most_pixels, most_seconds=ask.most_seconds)

    def _next(self) -> FramesRead:
        frames: list[FrameRead] = []
        n_bytes, until = 0, time.monotonic() + PIECE_SECONDS
        for shown in self._moments:
            if shown is not None:
                self._until = shown.at
                if self._without:
                    self._without -= 1
                else:
                    frames.append(self._read(shown))
                    n_bytes += len(frames[-1].content)
            if len(frames) >= MOST_FRAMES or n_bytes >= MOST_BYTES or time.monotonic() > until:
                return FramesRead(frames, self._until, is_last=False)
        return FramesRead(frames, self._until, is_last=True)

    def _read(self, shown: Shown) -> FrameRead:
        colours = upright(shown.frame)
        full = (colours.shape[1], colours.shape[0])
        if self._preparation is None or not may_be_fitted(self._preparation, full):
            return FrameRead(shown.at, as_bitmap(colours))
        return FrameRead(shown.at, as_bitmap(fitted_frame(colours, self._preparation)), full)

    def _part(self) -> FilePart:
        """As much of what is being made as has come together by the time somebody wants to hear of it."""
        parts: list[bytes] = []
        n_bytes, until = 0, time.monotonic() + PIECE_SECONDS
        for content in self._parts:
            parts.append(content)
            n_bytes += len(content)
            if n_bytes >= PART_BYTES or time.monotonic() > until:
                return FilePart(b"".join(parts), is_last=False)
        return FilePart(b"".join(parts), is_last=True)
