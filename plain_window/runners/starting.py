"""Starting a runner: its process, and all that it is ever handed."""

import contextlib
import fcntl
import logging
import os
import socket
from pathlib import Path

from ..core.contract.jobs import CarryChunks, Handover, RunnerJob
from ..settings import Settings
from .cgroups import Cgroups, RunnerCgroup
from .confinement import MAX_PROCESSES, Confinement, runner_command, runner_environment, sealed_copy
from .protocol import listen, send
from .seccomp import program_file
from .spawner import Spawned, SpawnerClient
from .watching import HEARTBEAT_BYTES

__all__ = ["AWAY", "BridgeAway", "Machine", "memory_of", "start_runner"]

log = logging.getLogger("keeper")

AWAY = "The process that holds the model is not connected."


class BridgeAway(OSError):
    """The process that holds the model is not connected."""


class Machine:
    """What all runners of one keeper share.

    Parameters
    ----------
    settings : Settings
    confinement : Confinement
    cgroups : Cgroups
    """

    def __init__(self, settings: Settings, confinement: Confinement, cgroups: Cgroups) -> None:
        self.settings = settings
        self.confinement = confinement
        self.cgroups = cgroups
        self.spawner = SpawnerClient(settings.spawner_socket)


def start_runner(
    job: RunnerJob, now: RunnerJob, machine: Machine, *, slot: int, at: Path
) -> tuple[Spawned, RunnerCgroup | None]:
    """Start a process and hand it all that it ever gets: the job, the listening socket, the files.

    Parameters
    ----------
    job : RunnerJob
        As it was wanted.
    now : RunnerJob
        As it is by now: once opened, the model is not taken in again.
    machine : Machine
    slot : int
        Which user id it gets.
    at : Path
        Where it will listen.

    Raises
    ------
    BridgeAway
        If the process that holds the model is not connected.
    OSError
        If it cannot be started.
    SpawnerGone
        If there is nobody to start it.
    """
    allowed = _allowed_calls(job, machine.confinement)
    group = machine.cgroups.make(
        job.key, memory_bytes=memory_of(job, machine.settings), processes=MAX_PROCESSES * (1 + job.n_workers)
    )
    command = [*(group.entering if group else []), *_command(job, machine, slot=slot, has_seccomp=bool(allowed))]
    with contextlib.ExitStack() as undone, contextlib.ExitStack() as opened:
        if group is not None:
            undone.callback(group.remove)
        ours, theirs = (opened.enter_context(end) for end in socket.socketpair())
        output, prints = (_closing(opened, end) for end in os.pipe())
        heartbeat = _closing(opened, _heartbeat())
        line = [opened.enter_context(_bridge(job.bridge)).fileno()] if job.bridge is not None else []
        # Before anything is started: a file that is not there is said so.
        files = {name: _closing(opened, sealed_copy(path)) for name, path in now.paths().items()}
        passed = [theirs.fileno(), *([_closing(opened, program_file(allowed))] if allowed else [])]
        spawned = machine.spawner.start(
            job.key,
            command,
            _environment(job, machine),
            kept=[ours.fileno(), output, heartbeat],
            passed=[*passed, prints],
        )
        # Our copy goes at the end: once the runner is dead nobody listens, and callers learn it at once.
        listening = opened.enter_context(listen(at))
        try:
            ours.settimeout(machine.settings.limits.open_seconds)
            handover = _handover(now, list(files), machine.settings)
            send(ours, handover, files=[listening.fileno(), heartbeat, *line, *files.values()])
        except OSError:
            log.warning("runner %s ended before it had its job", job.key[:8])
        undone.pop_all()
        return spawned, group


def memory_of(job: RunnerJob, settings: Settings) -> int:
    """What all processes of a runner may take together.

    Parameters
    ----------
    job : RunnerJob
    settings : Settings
    """
    return settings.limits.runner_memory_bytes * max(1, job.n_workers)


def _command(job: RunnerJob, machine: Machine, *, slot: int, has_seccomp: bool) -> list[str]:
    return runner_command(
        slot=slot,
        confined=machine.confinement.works,
        has_seccomp=has_seccomp,
        kernels=machine.settings.kernels,
        gives_way=job.n_workers > 0,
        more_scratch_bytes=job.beside_bytes,
        environment=Path(job.environment) if job.has_own_libraries and job.environment else None,
        shares_network=isinstance(job.work, CarryChunks) and job.work.scheduler is not None,
    )


def _environment(job: RunnerJob, machine: Machine) -> dict[str, str]:
    if machine.confinement.works:
        return runner_environment()
    return runner_environment(kernels=str(machine.settings.kernels), libraries=job.environment or "")


def _allowed_calls(job: RunnerJob, confinement: Confinement) -> bytes:
    """The list of system calls that its runner may make; empty where there are no walls, or no lists."""
    if not confinement.works:
        return b""
    if job.n_workers:
        return confinement.seccomp_workers
    return confinement.seccomp_child if job.has_own_libraries else confinement.seccomp


def _handover(now: RunnerJob, files: list[str], settings: Settings) -> Handover:
    return Handover(
        files,
        now.task,
        now.background_rows,
        settings.limits.runner_memory_bytes,
        beside_bytes=now.beside_bytes,
        has_environment=now.has_own_libraries,
        has_line=now.bridge is not None,
    )


def _bridge(path: str) -> socket.socket:
    """A line to the process that holds the model."""
    line = socket.socket(socket.AF_UNIX)
    try:
        line.connect(path)
    except OSError:
        line.close()
        raise BridgeAway(AWAY) from None
    return line


def _heartbeat() -> int:
    """Shared memory in which a runner notes the call it has under way. It can be neither cut short nor grown."""
    descriptor = os.memfd_create("heartbeat", os.MFD_CLOEXEC | os.MFD_ALLOW_SEALING)
    os.ftruncate(descriptor, HEARTBEAT_BYTES)
    fcntl.fcntl(descriptor, fcntl.F_ADD_SEALS, fcntl.F_SEAL_SHRINK | fcntl.F_SEAL_GROW | fcntl.F_SEAL_SEAL)
    return descriptor


def _closing(opened: contextlib.ExitStack, descriptor: int) -> int:
    opened.callback(os.close, descriptor)
    return descriptor
