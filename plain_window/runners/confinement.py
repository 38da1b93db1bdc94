"""The walls around a runner, and whether they stand on this machine.

A runner gets its own user, its own process, network and mount namespaces, a read-only root with nothing in it but the
system's libraries and this program, no capabilities, and bounded memory and processes. What it works on is handed in
as open files: it has no path to the state directory at all.
"""

import json
import os
import resource
import shutil
import subprocess
import sys
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

__all__ = [
    "KERNELS_VARIABLE",
    "Confinement",
    "check_confinement",
    "limit_this_process",
    "runner_command",
    "runner_environment",
]

PACKAGE = Path(__file__).resolve().parents[1]
# Root gives each runner a user id of its own out of this range, which no Debian package uses.
FIRST_USER_ID, USER_IDS = 61200, 700
SCRATCH_BYTES = 64 << 20
LOG_BYTES = 1 << 20
# Threads count as processes; the libraries start a handful.
MAX_PROCESSES = 64
MAX_OPEN_FILES = 512
CHECK_SECONDS = 10
# Where a runner finds the kernels' machine code, and how it is told.
KERNELS_INSIDE, KERNELS_VARIABLE = "/kernels", "PLAINWINDOW_KERNELS"


@dataclass(frozen=True)
class Confinement:
    """Whether runners can be confined on this machine, and if not, why.

    `probes` says of each thing that was tried inside the walls whether it was `contained`.
    """

    works: bool
    reason: str = ""
    probes: Mapping[str, str] = field(default_factory=dict)


def check_confinement(target: Mapping[str, Any]) -> Confinement:
    """Build the walls once, and try from inside what must fail there.

    Parameters
    ----------
    target : mapping
        What to try: `home` (a folder), `secret` (a file in it), `socket` (one that listens), `port` (likewise).
    """
    if shutil.which("bwrap") is None:
        return Confinement(False, "The package `bubblewrap` is not installed.")
    command = [
        *_walls(slot=0, readable=_program_folders()),
        sys.executable,
        "-m",
        "plain_window.runners.probing",
        json.dumps(dict(target)),
    ]
    try:
        done = subprocess.run(
            command, capture_output=True, text=True, timeout=CHECK_SECONDS, check=False, env=runner_environment()
        )
    except subprocess.TimeoutExpired:
        return Confinement(False, "bubblewrap did not come back.")
    if done.returncode:
        return Confinement(False, done.stderr.strip().split("\n")[-1][:300] or "bubblewrap failed without a word.")
    probes = json.loads(done.stdout)
    escaped = [f"{name}: {said}" for name, said in probes.items() if said != "contained"]
    return Confinement(not escaped, f"Inside the walls {'; '.join(escaped)}." if escaped else "", probes)


def runner_command(*, slot: int, control: int, confined: bool, kernels: Path) -> list[str]:
    """The command line of one runner.

    Parameters
    ----------
    slot : int
        Which of the user ids it gets, where there is a choice.
    control : int
        File descriptor of its end of the control socket.
    confined : bool
        False only where the operator allowed it.
    kernels : Path
        Folder with the kernels' machine code.
    """
    python = [sys.executable, "-m", "plain_window.runners.runner", str(control)]
    return [*_walls(slot=slot, readable=_program_folders(), kernels=kernels), *python] if confined else python


def runner_environment(*, kernels: str = KERNELS_INSIDE) -> dict[str, str]:
    """All that a runner sees of the environment."""
    kept = {name: os.environ[name] for name in ("OPENBLAS_CORETYPE", "OPENBLAS_L2_SIZE") if name in os.environ}
    one_thread = dict.fromkeys(("OMP_NUM_THREADS", "OPENBLAS_NUM_THREADS", "NUMBA_NUM_THREADS"), "1")
    return {
        **kept,
        **one_thread,
        "PATH": "/usr/bin:/bin",
        "LANG": "C.UTF-8",
        "HOME": "/tmp",
        "PYTHONPATH": str(PACKAGE.parent),
        "PYTHONDONTWRITEBYTECODE": "1",
        "JOBLIB_MULTIPROCESSING": "0",
        KERNELS_VARIABLE: kernels,
        "NUMBA_CACHE_DIR": "/tmp/numba",
    }


def limit_this_process(*, memory_bytes: int) -> None:
    """Bound memory, processes, files and what may be written. Cannot be taken back by the process itself."""
    for what, most in (
        (resource.RLIMIT_AS, memory_bytes),
        (resource.RLIMIT_NPROC, MAX_PROCESSES),
        (resource.RLIMIT_NOFILE, MAX_OPEN_FILES),
        (resource.RLIMIT_FSIZE, LOG_BYTES),
        (resource.RLIMIT_CORE, 0),
    ):
        hard = resource.getrlimit(what)[1]
        bound = most if hard == resource.RLIM_INFINITY else min(most, hard)
        resource.setrlimit(what, (bound, bound))


def _program_folders() -> list[Path]:
    """What a runner must read besides /usr: this program, its packages, and Python where that lives elsewhere."""
    folders = [PACKAGE, Path(sys.prefix), Path(sys.base_prefix)]
    return [folder for folder in dict.fromkeys(folders) if not folder.is_relative_to("/usr")]


def _walls(*, slot: int, readable: list[Path], kernels: Path | None = None) -> list[str]:
    walls = ["bwrap", "--die-with-parent", "--new-session", "--unshare-ipc", "--unshare-pid", "--unshare-net"]
    walls += ["--unshare-uts", "--unshare-cgroup-try", "--hostname", "runner"]
    walls += ["--ro-bind", "/usr", "/usr"]
    for name in ("bin", "lib", "lib64", "sbin"):
        walls += ["--symlink", f"usr/{name}", f"/{name}"] if Path(f"/{name}").is_symlink() else []
    walls += ["--ro-bind-try", "/etc/ld.so.cache", "/etc/ld.so.cache", "--proc", "/proc", "--dev", "/dev"]
    walls += ["--perms", "1777", "--size", str(SCRATCH_BYTES), "--tmpfs", "/tmp", "--chdir", "/"]
    # bubblewrap makes missing parents readable by root only; a runner that is not root could not pass.
    for parent in dict.fromkeys(parent for folder in readable for parent in reversed(folder.parents[:-1])):
        walls += ["--perms", "0755", "--dir", str(parent)]
    for folder in readable:
        walls += ["--ro-bind", str(folder), str(folder)]
    if kernels is not None:
        walls += ["--ro-bind-try", str(kernels), KERNELS_INSIDE]
    # The root itself is memory of the sandbox: it must not be there to be filled.
    walls += ["--remount-ro", "/"]
    if os.geteuid() == 0:
        return walls + _drop_root(FIRST_USER_ID + slot % USER_IDS)
    return [*walls, "--unshare-user", "--uid", "65534", "--gid", "65534", "--"]


def _drop_root(user_id: int) -> list[str]:
    """Give up root inside the walls, for a user id that no other runner has: its process limit is then its own."""
    capabilities = [part for name in ("SETUID", "SETGID", "SETPCAP") for part in ("--cap-add", f"CAP_{name}")]
    drop = ["setpriv", f"--reuid={user_id}", f"--regid={user_id}", "--clear-groups", "--no-new-privs"]
    return [*capabilities, "--", *drop, "--inh-caps=-all", "--bounding-set=-all", "--"]
