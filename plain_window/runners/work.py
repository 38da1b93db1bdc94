"""Asking the processes that do work for jobs: one that reads a table, one that has chunks asked about."""

import contextlib
import os
import socket
from collections.abc import Iterator
from typing import BinaryIO, Literal, TypeVar

from ..core.contract.chunks import AskChunk, ChunkLost, ChunkReply
from ..core.contract.jobs import CarryChunks, ReadCases, RunnerJob, job_key
from ..core.contract.table_cases import (
    Begin,
    Begun,
    ChunkRead,
    ChunkSkipped,
    ChunkWritten,
    Convert,
    Converted,
    Ended,
    LookAt,
    LookedAt,
    NextChunk,
    NotRead,
    SkipChunk,
    Style,
    TableAsk,
    TableBytes,
    TableReply,
    Wanted,
    WriteChunk,
)
from ..core.errors import TableNotRead
from ..settings import Settings
from .client import RunnerClient, RunnerUnavailable
from .protocol import ProtocolError, connect, receive, send

__all__ = ["ChunkLine", "TableLine", "WorkLost", "cluster_job"]

START_SECONDS = 60.0
# A piece of a table is read, or written, within the time that the keeper gives it; this is longer.
PIECE_SECONDS = 90.0
CHUNK_SECONDS = 400.0
MOST_WANTED_BYTES = 16 << 20
# A chunk's rows, and its lines of the result.
REPLY_BYTES = 256 << 20

Reply = TypeVar("Reply")


class WorkLost(Exception):
    """Whoever did the work is gone; it can be begun anew where it stood."""


class TableLine:
    """A line to the process that reads one table, for as long as it is open.

    Parameters
    ----------
    runners : RunnerClient
    settings : Settings
    file : binary file
        The table, or the result that is to be made into something else. It is closed with the line.
    key : str
        What the process is for: a job's token.

    Raises
    ------
    RunnerUnavailable, RunnerFailed
        If no such process can be had.
    """

    def __init__(self, runners: RunnerClient, settings: Settings, file: BinaryIO, key: str) -> None:
        self._runners, self._file = runners, file
        self.size = file.seek(0, os.SEEK_END)
        self._job = RunnerJob(key=job_key("cases", key), model="", work=ReadCases())
        try:
            self._connection = _connected(runners, settings, self._job, PIECE_SECONDS)
        except BaseException:
            file.close()
            raise
        # Whether the process is to stay for another line to the same file.
        self.is_kept = False

    def __enter__(self) -> "TableLine":
        return self

    def __exit__(self, *_: object) -> None:
        self._connection.close()
        self._file.close()
        if self.is_kept:
            return
        with contextlib.suppress(RunnerUnavailable):
            self._runners.retire(self._job.key)

    def look(self, ask: LookAt) -> LookedAt:
        """What the table's columns are.

        Parameters
        ----------
        ask : LookAt

        Raises
        ------
        TableNotRead
            If it is no table.
        WorkLost
            If the process ended over it.
        """
        return self._asked(ask, LookedAt)

    def begin(self, ask: Begin) -> Begun:
        """Get ready to read rows.

        Parameters
        ----------
        ask : Begin

        Raises
        ------
        TableNotRead, WorkLost
            As `look` does.
        """
        return self._asked(ask, Begun)

    def next_chunk(self) -> ChunkRead | Ended:
        """The next rows.

        Raises
        ------
        TableNotRead, WorkLost
            As `look` does.
        """
        reply = self._said(NextChunk())
        if isinstance(reply, ChunkRead | Ended):
            return reply
        raise WorkLost("what was said to a chunk is none")

    def skip(self) -> None:
        """Pass over the next rows: what came of them is written already.

        Raises
        ------
        TableNotRead, WorkLost
            As `look` does; `WorkLost` also if there are none.
        """
        self._asked(SkipChunk(), ChunkSkipped)

    def write(self, ask: WriteChunk) -> ChunkWritten:
        """The result's lines for a chunk.

        Parameters
        ----------
        ask : WriteChunk

        Raises
        ------
        TableNotRead, WorkLost
            As `look` does.
        """
        return self._asked(ask, ChunkWritten)

    def converted(self, to: Literal["parquet", "xlsx"], types: list[str], style: Style) -> Iterator[bytes]:
        """The file as another kind of file, in parts.

        Parameters
        ----------
        to : "parquet" or "xlsx"
        types : list of str
            What each column holds, as Arrow names it.
        style : Style
            How the file is written.

        Raises
        ------
        TableNotRead, WorkLost
            As `look` does.
        """
        part = self._asked(Convert(self.size, to, types, style), Converted)
        while not part.is_last:
            yield part.content
            part = self._asked(NextChunk(), Converted)

    def _asked(self, ask: TableAsk, type_: type[Reply]) -> Reply:
        reply = self._said(ask)
        if not isinstance(reply, type_):
            raise WorkLost("what was said is no answer to what was asked")
        return reply

    def _said(self, ask: TableAsk) -> TableReply:
        try:
            send(self._connection, ask)
            while True:
                reply = receive(self._connection, TableReply, limit=REPLY_BYTES)
                if not isinstance(reply, Wanted):
                    break
                self._file.seek(reply.offset)
                send(self._connection, TableBytes(self._file.read(min(reply.size, MOST_WANTED_BYTES))))
        except (OSError, ProtocolError) as error:
            raise WorkLost(str(error)) from error
        if isinstance(reply, NotRead):
            raise TableNotRead(reply.message)
        return reply


class ChunkLine:
    """A line to the process that has chunks asked about; one chunk at a time.

    Parameters
    ----------
    runners : RunnerClient
    settings : Settings

    Raises
    ------
    RunnerUnavailable, RunnerFailed
        If there is no such process, and none can be started.
    """

    def __init__(self, runners: RunnerClient, settings: Settings) -> None:
        self._connection = _connected(runners, settings, cluster_job(settings), CHUNK_SECONDS)

    def close(self) -> None:
        """Let go of it."""
        self._connection.close()

    def ask(self, ask: AskChunk) -> ChunkReply:
        """What a model says of a chunk.

        Parameters
        ----------
        ask : AskChunk

        Raises
        ------
        WorkLost
            If whoever was asked is gone, or could not ask the model.
        """
        try:
            send(self._connection, ask)
            reply: ChunkReply = receive(self._connection, ChunkReply, limit=REPLY_BYTES)
        except (OSError, ProtocolError) as error:
            raise WorkLost(str(error)) from error
        if isinstance(reply, ChunkLost):
            raise WorkLost(reply.message)
        return reply


def cluster_job(settings: Settings) -> RunnerJob:
    """The one runner that has chunks asked about.

    Parameters
    ----------
    settings : Settings
    """
    scheduler = _by_address(settings.dask_scheduler) if settings.dask_scheduler else None
    work = CarryChunks(settings.job_workers, scheduler)
    return RunnerJob(key=job_key("chunks", str(settings.job_workers), scheduler), model="", work=work)


def _by_address(scheduler: str) -> str:
    """A scheduler by its number: behind walls no name is looked up."""
    host, _, port = scheduler.removeprefix("tcp://").rpartition(":")
    try:
        found = socket.getaddrinfo(host.strip("[]"), int(port), type=socket.SOCK_STREAM)[0][4][0]
    except OSError:
        return scheduler
    return f"tcp://[{found}]:{port}" if ":" in str(found) else f"tcp://{found}:{port}"


def _connected(runners: RunnerClient, settings: Settings, job: RunnerJob, timeout: float) -> socket.socket:
    state = runners.ensure(job, until="ready", timeout=START_SECONDS)
    if state.state != "ready":
        raise RunnerUnavailable("starting")
    try:
        return connect(settings.runner_sockets / f"{job.key}.sock", timeout=timeout)
    except OSError as error:
        raise RunnerUnavailable("restarted") from error
