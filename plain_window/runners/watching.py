"""What a runner with everything it started takes, seen from outside: memory and processor time of the whole tree.

Nothing that a runner says about itself is used.
"""

import contextlib
import os
import struct
import time
from dataclasses import dataclass
from pathlib import Path

from .cgroups import RunnerCgroup

__all__ = [
    "CPU_FACTOR",
    "HEARTBEAT_BYTES",
    "Beat",
    "CpuWatch",
    "Use",
    "calls_begun",
    "read_beat",
    "tree_of",
    "use_of",
    "write_beat",
]

TICK = 1 / os.sysconf("SC_CLK_TCK")
PAGE = os.sysconf("SC_PAGE_SIZE")
PROC = Path("/proc")

# When the call under way began (monotonic, ns; 0 for none), its number, whether it is a plain answer, and how many
# calls have begun so far: between two looks short ones begin and end.
HEARTBEAT = struct.Struct("=QQQQ")
HEARTBEAT_BYTES = HEARTBEAT.size
# Within so many seconds a tree may use twice the time that calls took, for libraries that compute beside the main
# thread, and a little more. What goes beyond that computes something that nobody asked for.
CPU_WINDOW_SECONDS, CPU_FACTOR, CPU_SPARE_SECONDS = 10.0, 2.0, 3.0


@dataclass(frozen=True)
class Beat:
    """The call a runner has under way: when it began (monotonic seconds), its number, whether it is a plain answer."""

    began: float
    call: int
    is_quick: bool


def write_beat(shared: memoryview, began_ns: int, call: int, *, is_quick: bool) -> None:
    """Note in shared memory what is under way; `began_ns` is 0 for nothing.

    Parameters
    ----------
    shared : memoryview
        The page that a runner and its keeper share.
    began_ns : int
        When the call under way began.
    call : int
        Its number.
    is_quick : bool
    """
    HEARTBEAT.pack_into(shared, 0, began_ns, call, is_quick, calls_begun(shared) + (began_ns > 0))


def read_beat(shared: memoryview) -> Beat | None:
    """What is under way, as the runner says; None for nothing.

    Parameters
    ----------
    shared : memoryview
        The page that a runner and its keeper share.
    """
    began, call, is_quick, _ = HEARTBEAT.unpack_from(shared, 0)
    return Beat(began / 1e9, call, bool(is_quick)) if began else None


def calls_begun(shared: memoryview) -> int:
    """How many calls the runner has begun so far, as it says.

    Parameters
    ----------
    shared : memoryview
        The page that a runner and its keeper share.
    """
    begun: int = HEARTBEAT.unpack_from(shared, 0)[3]
    return begun


@dataclass(frozen=True)
class Use:
    """What a tree of processes takes now, and the processor time it has used so far."""

    memory_bytes: int
    cpu_seconds: float


def use_of(pid: int, group: RunnerCgroup | None) -> Use:
    """What the process `pid` and all its descendants take.

    Parameters
    ----------
    pid : int
    group : RunnerCgroup or None
    """
    if group is not None:
        with contextlib.suppress(OSError, ValueError):
            return Use(group.memory_bytes(), group.cpu_seconds())
    memory, cpu = 0, 0.0
    for each in tree_of(pid):
        with contextlib.suppress(OSError, ValueError, IndexError):
            memory += int((PROC / str(each) / "statm").read_text().split()[1]) * PAGE
            # The name in brackets may hold anything; what follows its last bracket is numbers. Of a process that
            # waited for children their time is counted too.
            fields = (PROC / str(each) / "stat").read_text().rpartition(")")[2].split()
            cpu += sum(int(ticks) for ticks in fields[11:15]) * TICK
    return Use(memory, cpu)


def tree_of(pid: int) -> list[int]:
    """The process and all its descendants.

    Parameters
    ----------
    pid : int
    """
    found, unseen = [], [pid]
    while unseen:
        each = unseen.pop()
        found.append(each)
        with contextlib.suppress(OSError):
            for task in (PROC / str(each) / "task").iterdir():
                with contextlib.suppress(OSError):
                    unseen += map(int, (task / "children").read_text().split())
    return found


class CpuWatch:
    """Whether a tree computes more than calls explain.

    Parameters
    ----------
    window : float
        Seconds over which that is judged.
    factor : float
        How many times the time that calls took it may use.
    """

    def __init__(self, *, window: float = CPU_WINDOW_SECONDS, factor: float = CPU_FACTOR) -> None:
        self._window, self._factor = window, factor
        self._start: tuple[float, float] | None = None
        self._busy = 0.0
        self._last = 0.0

    def is_too_much(self, cpu_seconds: float, *, is_busy: bool, now: float | None = None) -> bool:
        """Take another look at the tree.

        Parameters
        ----------
        cpu_seconds : float
            Used since the tree began.
        is_busy : bool
            Whether a call has been under way since the last look.
        now : float, optional
            The monotonic clock, if not its own.
        """
        now = time.monotonic() if now is None else now
        if self._start is None:
            self._start, self._last = (now, cpu_seconds), now
            return False
        self._busy += (now - self._last) * is_busy
        self._last = now
        used = cpu_seconds - self._start[1]
        allowed = self._factor * self._busy + CPU_SPARE_SECONDS
        if used > allowed:
            return True
        if now - self._start[0] > self._window:
            self._start, self._busy = (now, cpu_seconds), 0.0
        return False
