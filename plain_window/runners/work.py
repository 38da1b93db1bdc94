"""Asking the processes that do work for jobs: one that reads a table, one that has chunks asked about."""

import socket
from collections.abc import Iterator
from typing import BinaryIO, Literal

from ..core.contract.chunks import AskChunk, ChunkLost, ChunkReply
from ..core.contract.jobs import CarryChunks, ReadCases, RunnerJob, job_key
from ..core.contract.table_cases import (
    Begin,
    Begun,
    ChunkRead,
    ChunkSkipped,
    ChunkWritten,
    Convert,
    Ended,
    LookAt,
    LookedAt,
    NextChunk,
    SkipChunk,
    Style,
    TableReply,
    WriteChunk,
)
from ..core.errors import TableNotRead
from ..settings import Settings
from .client import RunnerClient
from .file_line import REPLY_BYTES, FileLine, WorkLost, connected
from .protocol import ProtocolError, receive, send

__all__ = ["ChunkLine", "TableLine", "WorkLost", "cluster_job"]

CHUNK_SECONDS = 400.0


class TableLine(FileLine):
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

    replies = TableReply
    not_read = TableNotRead

    def __init__(self, runners: RunnerClient, settings: Settings, file: BinaryIO, key: str) -> None:
        super().__init__(runners, settings, file, RunnerJob(key=job_key("cases", key), model="", work=ReadCases()))

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
        return self._made(Convert(self.size, to, types, style), NextChunk())


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
        self._connection = connected(runners, settings, cluster_job(settings), CHUNK_SECONDS)

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
