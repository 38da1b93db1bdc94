"""Starts runners on behalf of the keeper, and keeps what belongs to them while there is no keeper.

The keeper does much, so it may die. Runners must not die with it: they answer visitors, and a new keeper takes a second
or two. So it is not the keeper that starts them but this, a thread of the process above it that does nothing else. It
holds the keeper's ends of each runner's sockets, and hands copies of them to the next keeper.

The thread lives as long as its process, because bubblewrap's `--die-with-parent` follows the thread that started it:
when the process above is gone, however it went, every runner goes.
"""

import contextlib
import logging
import os
import selectors
import signal
import socket
import subprocess
import threading
from dataclasses import dataclass, field
from pathlib import Path

from ..core.contract.spawning import (
    Forget,
    ListStarted,
    NotStarted,
    SpawnerReply,
    SpawnerRequest,
    Start,
    Started,
    StartedList,
    TakeOver,
    Unknown,
)
from .protocol import ProtocolError, connect, listen, receive_with_files, send

__all__ = ["Spawned", "Spawner", "SpawnerClient", "SpawnerGone"]

log = logging.getLogger("spawner")

ASK_SECONDS = 10.0
KILL_SECONDS = 2.0
# Of each process: control socket, output, heartbeat.
N_KEPT = 3


class SpawnerGone(Exception):
    """The process above is gone, or going."""


@dataclass
class Spawned:
    """A process that was started, with the sockets that whoever looks after it needs."""

    key: str
    pid: int
    # The keeper's ends: what the runner says of itself, and what it prints.
    control: socket.socket
    output: int
    heartbeat: int
    pidfd: int = -1
    # None while it runs.
    code: int | None = None

    def close(self) -> None:
        """Let go of the descriptors."""
        self.control.close()
        for descriptor in (self.output, self.heartbeat, self.pidfd):
            if descriptor >= 0:
                os.close(descriptor)


@dataclass
class _Held:
    process: subprocess.Popen[bytes]
    files: list[int]
    code: int | None = None
    watched: int = field(default=-1)


class Spawner:
    """The thread that starts runners.

    Parameters
    ----------
    path : Path
        The socket at which the keeper asks.
    """

    def __init__(self, path: Path) -> None:
        self._path = path
        self._held: dict[str, _Held] = {}
        self._selector = selectors.DefaultSelector()
        self._listening = listen(path)
        self._connections: set[socket.socket] = set()
        self._stopping = threading.Event()
        self._wake, self._woken = socket.socketpair()
        self._selector.register(self._listening, selectors.EVENT_READ, self._accept)
        self._selector.register(self._woken, selectors.EVENT_READ, lambda: None)
        self._thread = threading.Thread(target=self._run, name="spawner", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Kill every runner, and end."""
        self._stopping.set()
        # It may have been woken by something else, seen this, and closed its ends by now.
        with contextlib.suppress(OSError):
            self._wake.send(b".")
        self._thread.join()

    def _run(self) -> None:
        while not self._stopping.is_set():
            for key, _ in self._selector.select():
                key.data()
        for held in self._held.values():
            _kill(held.process)
        for name in list(self._held):
            self._forget(name)
        self._selector.close()
        for end in (self._listening, self._wake, self._woken, *self._connections):
            end.close()
        self._path.unlink(missing_ok=True)

    def _accept(self) -> None:
        connection, _ = self._listening.accept()
        connection.settimeout(ASK_SECONDS)

        def answer() -> None:
            try:
                request, files = receive_with_files(connection, SpawnerRequest)
                reply, back = self._answer(request, files)
                send(connection, reply, files=back)
            except (OSError, ProtocolError):
                self._selector.unregister(connection)
                self._connections.discard(connection)
                connection.close()

        self._connections.add(connection)
        self._selector.register(connection, selectors.EVENT_READ, answer)

    def _answer(self, request: SpawnerRequest, files: list[int]) -> tuple[SpawnerReply, list[int]]:
        match request:
            case Start():
                return self._start(request, files), []
            case ListStarted():
                return StartedList(list(self._held)), []
        held = self._held.get(request.key)
        if held is None:
            return Unknown(), []
        if isinstance(request, TakeOver):
            return self._describe(request.key), held.files
        # Forgotten once it has ended; until then it is asked again.
        ended = self._describe(request.key)
        if held.code is not None:
            self._forget(request.key)
        return ended, []

    def _describe(self, key: str) -> Started:
        held = self._held[key]
        return Started(key, held.process.pid, held.code)

    def _start(self, request: Start, files: list[int]) -> Started | NotStarted:
        """Start a command. Of the files the first are ours to keep, the rest are its own."""
        key, kept, passed = request.key, files[:N_KEPT], files[N_KEPT:]
        if key in self._held:
            _kill(self._held[key].process)
            self._forget(key)
        try:
            process = _popen(request, passed)
        except OSError as error:
            for descriptor in files:
                os.close(descriptor)
            return NotStarted(error.strerror or str(error))
        for descriptor in passed:
            os.close(descriptor)
        held = self._held[key] = _Held(process, kept)
        held.watched = os.pidfd_open(process.pid)
        self._selector.register(held.watched, selectors.EVENT_READ, lambda: self._reap(held))
        return self._describe(key)

    def _reap(self, held: _Held) -> None:
        held.code = held.process.wait()
        self._selector.unregister(held.watched)
        os.close(held.watched)
        held.watched = -1

    def _forget(self, key: str) -> None:
        held = self._held.pop(key)
        if held.code is None:
            with contextlib.suppress(subprocess.TimeoutExpired):
                held.process.wait(KILL_SECONDS)
        if held.watched >= 0:
            self._selector.unregister(held.watched)
            os.close(held.watched)
        for descriptor in held.files:
            os.close(descriptor)


def _popen(request: Start, passed: list[int]) -> subprocess.Popen[bytes]:
    """The command, with `{0}`, `{1}`, … standing for the descriptors that it gets. The last is where it prints."""
    *own, output = passed
    command = [_with_numbers(part, own) for part in request.command]
    return subprocess.Popen(
        command,
        stdin=subprocess.DEVNULL,
        stdout=output,
        stderr=output,
        env=request.environment,
        cwd="/",
        pass_fds=own,
        start_new_session=True,
    )


def _with_numbers(part: str, descriptors: list[int]) -> str:
    return str(descriptors[int(part[1:-1])]) if part.startswith("{") and part[1:-1].isdecimal() else part


def _kill(process: subprocess.Popen[bytes]) -> None:
    # bubblewrap's first process dies with it, and with that everything in its process namespace.
    with contextlib.suppress(ProcessLookupError):
        os.killpg(process.pid, signal.SIGKILL)


class SpawnerClient:
    """The keeper's way to the spawner.

    Parameters
    ----------
    path : Path
    """

    def __init__(self, path: Path) -> None:
        self._path = path

    def start(
        self, key: str, command: list[str], environment: dict[str, str], *, kept: list[int], passed: list[int]
    ) -> Spawned:
        """Start a command under a name.

        Parameters
        ----------
        key : str
        command : list of str
            `{0}` stands for the first of the descriptors it is given, and so on.
        environment : dict of str to str
        kept : list of int
            The keeper's ends: control socket, output, heartbeat. The spawner keeps copies.
        passed : list of int
            What the command gets; the last is where it prints.

        Raises
        ------
        OSError
            If it cannot be started.
        SpawnerGone
        """
        reply, _ = self._ask(Start(key, command, environment), files=[*kept, *passed])
        if isinstance(reply, NotStarted):
            raise OSError(reply.reason)
        return self.take_over(key)

    def running(self) -> list[str]:
        """The names of what was started and not forgotten.

        Raises
        ------
        SpawnerGone
        """
        reply, _ = self._ask(ListStarted())
        return reply.keys if isinstance(reply, StartedList) else []

    def take_over(self, key: str) -> Spawned:
        """What was started under a name, with copies of its descriptors.

        Parameters
        ----------
        key : str
            The name of what a runner holds, by `job_key`.

        Raises
        ------
        OSError
            If there is no such thing any more.
        SpawnerGone
        """
        reply, files = self._ask(TakeOver(key))
        if not isinstance(reply, Started) or not files:
            raise OSError("it has ended")
        control, output, heartbeat = files
        spawned = Spawned(key, reply.pid, socket.socket(fileno=control), output, heartbeat, code=reply.code)
        with contextlib.suppress(ProcessLookupError):
            spawned.pidfd = os.pidfd_open(spawned.pid)
        return spawned

    def forget(self, key: str) -> int | None:
        """How it ended; None if it has not, and is not forgotten.

        Parameters
        ----------
        key : str
            The name of what a runner holds, by `job_key`.

        Raises
        ------
        SpawnerGone
        """
        reply, _ = self._ask(Forget(key))
        return reply.code if isinstance(reply, Started) else 0

    def _ask(self, request: SpawnerRequest, *, files: list[int] | None = None) -> tuple[SpawnerReply, list[int]]:
        try:
            with connect(self._path, timeout=ASK_SECONDS) as connection:
                send(connection, request, files=files or [])
                return receive_with_files(connection, SpawnerReply)
        except (OSError, ProtocolError) as error:
            raise SpawnerGone(str(error)) from error
