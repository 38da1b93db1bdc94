"""A control group for each runner, where this machine gives us one: memory, processes and processor time in all.

What limits a process can be stepped around by having several. A control group counts them together, and its kernel
kills it whole. Not every machine lets us make one; where it does not, `watching` looks after the whole tree instead.
"""

import contextlib
import os
import shutil
import time
from dataclasses import dataclass
from pathlib import Path

__all__ = ["Cgroups", "RunnerCgroup", "find_cgroups"]

NEEDED = ("memory", "pids")
# Processor time is shared out as it comes; no runner has more than this of it.
CPU_PERIOD_US, CPU_CORES = 100_000, 2
REMOVE_SECONDS = 1.0


@dataclass(frozen=True)
class Cgroups:
    """The group that all runners' groups are in; `missing` says why there is none."""

    folder: Path | None
    missing: str = ""

    def make(self, name: str, *, memory_bytes: int, processes: int) -> "RunnerCgroup | None":
        """A new group with its limits; None where there are none on this machine.

        Parameters
        ----------
        name : str
        memory_bytes : int
        processes : int
        """
        if self.folder is None:
            return None
        own = self.folder / name
        _remove(own)
        own.mkdir()
        for file, value in (
            ("memory.max", memory_bytes),
            ("memory.swap.max", 0),
            ("memory.oom.group", 1),
            ("pids.max", processes),
            ("cpu.max", f"{CPU_CORES * CPU_PERIOD_US} {CPU_PERIOD_US}"),
        ):
            # Some kernels count neither swap nor processor time.
            with contextlib.suppress(FileNotFoundError):
                (own / file).write_text(str(value))
        return RunnerCgroup(own)

    def existing(self, name: str) -> "RunnerCgroup | None":
        """The group of a runner that is running.

        Parameters
        ----------
        name : str
        """
        own = self.folder / name if self.folder else None
        return RunnerCgroup(own) if own and own.is_dir() else None


@dataclass(frozen=True)
class RunnerCgroup:
    """One runner's control group."""

    folder: Path

    @property
    def entering(self) -> list[str]:
        """What to put in front of a command so that it runs inside: nothing of it is ever outside."""
        script = 'echo $$ > "$1"/cgroup.procs && shift && exec "$@"'
        return ["/bin/sh", "-c", script, "sh", str(self.folder)]

    def memory_bytes(self) -> int:
        """What is taken by all in the group."""
        return int((self.folder / "memory.current").read_text())

    def cpu_seconds(self) -> float:
        """Processor time that all in the group have used."""
        lines = (self.folder / "cpu.stat").read_text().split()
        return int(lines[lines.index("usage_usec") + 1]) / 1e6

    def remove(self) -> None:
        """Kill what is left in it, and take it away."""
        _remove(self.folder)


def find_cgroups(name: str, *, mount: Path = Path("/sys/fs/cgroup"), own: str | None = None) -> Cgroups:
    """The group for all runners of one Plain Window.

    Used where we may: in the root of a hierarchy (a container's own, or a machine that runs nothing else), or in the
    empty group that an operator names with `PLAINWINDOW_CGROUP` (systemd's `Delegate=yes` gives one).

    Parameters
    ----------
    name : str
        A name for this Plain Window.
    mount : Path
        Where control groups of the second version are.
    own : str, optional
        The group to use, below `mount`.
    """
    wanted = own if own is not None else os.environ.get("PLAINWINDOW_CGROUP", "")
    parent = mount / wanted.strip("/")
    try:
        offered = set((parent / "cgroup.controllers").read_text().split())
    except OSError:
        return Cgroups(None, "this machine has no control groups of the second version where they are looked for")
    if lacking := [each for each in NEEDED if each not in offered]:
        return Cgroups(None, f"control groups here do not count {' and '.join(lacking)}")
    folder = parent / f"plain-window-{name}"
    try:
        for group in (parent, folder):
            group.mkdir(exist_ok=True)
            for each in (*NEEDED, "cpu"):
                if each in offered:
                    (group / "cgroup.subtree_control").write_text(f"+{each}")
    except OSError as error:
        return Cgroups(None, f"control groups may not be made here: {error.strerror}")
    return Cgroups(folder)


def _remove(folder: Path) -> None:
    if not folder.is_dir():
        return
    with contextlib.suppress(OSError):
        (folder / "cgroup.kill").write_text("1")
    deadline = time.monotonic() + REMOVE_SECONDS
    while time.monotonic() < deadline:
        try:
            folder.rmdir()
            return
        except OSError:
            # What was killed takes a moment to be gone.
            time.sleep(0.01)
    # On anything but the kernel's own file system (a test's stand-in) the files are in the way.
    with contextlib.suppress(OSError):
        shutil.rmtree(folder)
