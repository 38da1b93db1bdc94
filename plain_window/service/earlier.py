"""What an earlier life of this state directory has left running: waited for, and ended where it does not go.

When a supervisor is killed outright its children are told to go by the kernel, but that takes them a moment: the web
server finishes what it has begun, MariaDB writes out what it holds. A start that comes at once must not fail over that.
"""

import contextlib
import json
import os
import select
import signal
import time
from collections.abc import Iterable, Mapping
from pathlib import Path

__all__ = ["end_earlier", "note_children"]

# How long each may take to go by itself. MariaDB is not hurried: what it has not written it must read back.
PATIENCE_SECONDS = {"web": 2.0, "keeper": 2.0, "mariadb": 20.0}
KILLED_SECONDS = 5.0


def note_children(path: Path, children: Mapping[str, int]) -> None:
    """Write down which processes run, so that a later start knows them again.

    Parameters
    ----------
    path : Path
    children : mapping
        Processes by name.
    """
    path.touch(mode=0o600)
    known = {name: {"pid": pid, "born": _born(pid)} for name, pid in children.items()}
    fresh = path.with_suffix(".new")
    fresh.write_text(json.dumps(known))
    fresh.replace(path)


def end_earlier(path: Path) -> list[str]:
    """Wait until what was written down is gone; kill what stays too long.

    Parameters
    ----------
    path : Path

    Returns
    -------
    list of str
        The names of what was still there.
    """
    found = [(name, pid) for name, pid, born in _noted(path) if _born(pid) == born]
    begun = time.monotonic()
    for _, pid in found:
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, signal.SIGTERM)
    for name, pid in found:
        if not _is_gone(pid, begun + PATIENCE_SECONDS.get(name, 2.0)):
            for each in [pid, *_children(pid)]:
                with contextlib.suppress(ProcessLookupError):
                    os.kill(each, signal.SIGKILL)
            _is_gone(pid, time.monotonic() + KILLED_SECONDS)
    return [name for name, _ in found]


def _noted(path: Path) -> Iterable[tuple[str, int, str]]:
    try:
        noted = json.loads(path.read_text())
        return [(name, int(one["pid"]), str(one["born"])) for name, one in noted.items()]
    except (OSError, ValueError, KeyError, TypeError):
        return []


def _born(pid: int) -> str:
    """When a process began, in the kernel's ticks: numbers of processes come again, this with it does not."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[19]
    except (OSError, IndexError):
        return ""


def _is_gone(pid: int, deadline: float) -> bool:
    try:
        descriptor = os.pidfd_open(pid)
    except ProcessLookupError:
        return True
    try:
        ready, _, _ = select.select([descriptor], [], [], max(0.0, deadline - time.monotonic()))
        return bool(ready)
    finally:
        os.close(descriptor)


def _children(pid: int) -> list[int]:
    with contextlib.suppress(OSError):
        return [
            int(child)
            for task in Path(f"/proc/{pid}/task").iterdir()
            for child in (task / "children").read_text().split()
        ]
    return []
