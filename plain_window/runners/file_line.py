"""A line to a confined process that reads a file for a job, for as long as it is open."""

import contextlib
import os
import socket
from collections.abc import Iterator
from types import TracebackType
from typing import Any, BinaryIO, ClassVar, Self, TypeVar

from ..core.contract.elsewhere import FileBytes, FilePart, NotRead, Wanted
from ..core.contract.jobs import RunnerJob
from ..core.contract.messages import Ask
from ..settings import Settings
from .client import RunnerClient
from .failures import RunnerUnavailable
from .protocol import ProtocolError, connect, receive, send

__all__ = ["REPLY_BYTES", "FileLine", "WorkLost", "connected"]

START_SECONDS = 60.0
# A piece of a file is read, or written, within the time that the keeper gives it; this is longer.
PIECE_SECONDS = 90.0
MOST_WANTED_BYTES = 16 << 20
# A chunk's rows, and its lines of the result; some frames of a film.
REPLY_BYTES = 256 << 20

Reply = TypeVar("Reply")


class WorkLost(Exception):
    """Whoever did the work is gone; it can be begun anew where it stood."""


class FileLine:
    """A line to the process that reads one file. What may be said, and what is raised if it cannot be read, a subclass
    says.

    Parameters
    ----------
    runners : RunnerClient
    settings : Settings
    file : binary file
        What is read. It is closed with the line.
    job : RunnerJob
        What the process is for.

    Raises
    ------
    RunnerUnavailable, RunnerFailed
        If no such process can be had.
    """

    replies: ClassVar[Any]
    not_read: ClassVar[type[Exception]]

    def __init__(self, runners: RunnerClient, settings: Settings, file: BinaryIO, job: RunnerJob) -> None:
        self._runners, self._file, self._job = runners, file, job
        self.size = file.seek(0, os.SEEK_END)
        try:
            self._connection = connected(runners, settings, job, PIECE_SECONDS)
        except BaseException:
            file.close()
            raise
        # Whether the process is to stay for another line to the same file.
        self.is_kept = False

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, _type: type[BaseException] | None, _error: BaseException | None, _traceback: TracebackType | None
    ) -> None:
        self._connection.close()
        self._file.close()
        if self.is_kept:
            return
        with contextlib.suppress(RunnerUnavailable):
            self._runners.retire(self._job.key)

    def _made(self, ask: Ask, further: Ask) -> Iterator[bytes]:
        """A file that is made, in parts."""
        part = self._asked(ask, FilePart)
        while not part.is_last:
            yield part.content
            part = self._asked(further, FilePart)
        yield part.content

    def _asked(self, ask: Ask, type_: type[Reply]) -> Reply:
        reply = self._said(ask)
        if not isinstance(reply, type_):
            raise WorkLost("what was said is no answer to what was asked")
        return reply

    def _said(self, ask: Ask) -> object:
        try:
            send(self._connection, ask)
            while True:
                reply = receive(self._connection, self.replies, limit=REPLY_BYTES)
                if not isinstance(reply, Wanted):
                    break
                self._file.seek(reply.offset)
                send(self._connection, FileBytes(self._file.read(min(reply.size, MOST_WANTED_BYTES))))
        except (OSError, ProtocolError) as error:
            raise WorkLost(str(error)) from error
        if isinstance(reply, NotRead):
            raise self.not_read(reply.message)
        return reply


def connected(runners: RunnerClient, settings: Settings, job: RunnerJob, timeout: float) -> socket.socket:
    """A connection to what does this job, which is started if it is not there.

    Parameters
    ----------
    runners : RunnerClient
    settings : Settings
    job : RunnerJob
    timeout : float
        Seconds for a reply.

    Raises
    ------
    RunnerUnavailable, RunnerFailed
        If it cannot be had.
    """
    state = runners.ensure(job, until="ready", timeout=START_SECONDS)
    if state.state != "ready":
        raise RunnerUnavailable("starting")
    try:
        return connect(settings.runner_sockets / f"{job.key}.sock", timeout=timeout)
    except OSError as error:
        raise RunnerUnavailable("restarted") from error
