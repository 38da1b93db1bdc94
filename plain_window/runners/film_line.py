"""Asking the process that reads a job's film."""

from collections.abc import Iterator
from typing import BinaryIO

from ..core.contract.films import (
    BeginFilm,
    DrawFilm,
    DrawnMoment,
    FilmBegun,
    FilmLooked,
    FilmReply,
    FramesRead,
    LookAtFilm,
    NextFrames,
    NextPart,
)
from ..core.contract.jobs import ReadFilm, RunnerJob, job_key
from ..core.errors import FilmNotRead
from ..settings import Settings
from .client import RunnerClient
from .file_line import FileLine

__all__ = ["FilmLine"]


class FilmLine(FileLine):
    """A line to the process that reads one film, for as long as it is open.

    Parameters
    ----------
    runners : RunnerClient
    settings : Settings
    file : binary file
        The film. It is closed with the line.
    key : str
        What the process is for: a job's token.
    most_seconds : float
        How long a film may be for whoever sent it.

    Raises
    ------
    RunnerUnavailable, RunnerFailed
        If no such process can be had.
    """

    replies = FilmReply
    not_read = FilmNotRead

    def __init__(
        self, runners: RunnerClient, settings: Settings, file: BinaryIO, key: str, *, most_seconds: float
    ) -> None:
        super().__init__(runners, settings, file, RunnerJob(key=job_key("film", key), model="", work=ReadFilm()))
        self._most_pixels, self._most_seconds = settings.limits.film_pixels, most_seconds

    def look(self) -> FilmLooked:
        """What the film is.

        Raises
        ------
        FilmNotRead
            If it is no film, or beyond what is taken.
        WorkLost
            If the process ended over it.
        """
        return self._asked(LookAtFilm(self.size, self._most_pixels, self._most_seconds), FilmLooked)

    def begin(self, rate: float, *, without: int, preparation: dict[str, object] | None = None) -> None:
        """Get ready for frames.

        Parameters
        ----------
        rate : float
            Moments a second.
        without : int
            How many of the first frames are not needed.
        preparation : dict, optional
            How the model's pictures are prepared, as plain values, if frames are wanted in the size it looks at.

        Raises
        ------
        FilmNotRead, WorkLost
            As `look` does.
        """
        ask = BeginFilm(self.size, self._most_pixels, self._most_seconds, rate, without, preparation)
        self._asked(ask, FilmBegun)

    def next_frames(self) -> FramesRead:
        """The next frames, or none yet.

        Raises
        ------
        FilmNotRead, WorkLost
            As `look` does.
        """
        return self._asked(NextFrames(), FramesRead)

    def with_boxes(self, moments: list[DrawnMoment]) -> Iterator[bytes]:
        """The film with boxes drawn into it, as MP4, in parts.

        Parameters
        ----------
        moments : list of DrawnMoment

        Raises
        ------
        FilmNotRead, WorkLost
            As `look` does.
        """
        return self._made(DrawFilm(self.size, self._most_pixels, self._most_seconds, moments), NextPart())
