"""The walls around a runner, and whether they stand on this machine.

A runner gets its own user, its own process, network, IPC and mount namespaces, a read-only root with nothing in it but
the system's libraries and this program, no capabilities, a list of allowed system calls, and bounded memory, processes
and scratch space. What it works on is handed in as sealed copies in memory: it has no path to the state directory, and
no descriptor through which a stored file could be opened again for writing.
"""

import fcntl
import json
import os
import resource
import shutil
import subprocess
import sys
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from pathlib import Path
from typing import Any

from .seccomp import BESIDE, Beside, SeccompMissing, program_file, seccomp_program

__all__ = [
    "KERNELS_VARIABLE",
    "LIBRARIES_INSIDE",
    "LIBRARIES_VARIABLE",
    "Bound",
    "Confinement",
    "building_walls",
    "check_confinement",
    "fetching_walls",
    "limit_this_process",
    "recorded_confinement",
    "runner_command",
    "runner_environment",
    "sealed_copy",
]

PACKAGE = Path(__file__).resolve().parents[1]
# Root gives each runner a user id of its own out of this range, which no Debian package uses.
FIRST_USER_ID, USER_IDS = 61200, 700
# The one after them is for building.
BUILDING_SLOT, MADE_INSIDE = USER_IDS, "/made"
SCRATCH_BYTES, SHARED_BYTES = 64 << 20, 8 << 20
# Threads count as processes; the libraries start a handful.
MAX_PROCESSES = 64
MAX_OPEN_FILES = 512
CHECK_SECONDS = 10
# Of the package `util-linux`, which every Debian has.
GIVING_WAY = ("chrt", "--idle", "0")
# Where a runner finds the kernels' machine code, and how it is told.
KERNELS_INSIDE, KERNELS_VARIABLE = "/kernels", "PLAINWINDOW_KERNELS"
# And the libraries that its model asks for, where it has any of its own.
LIBRARIES_INSIDE, LIBRARIES_VARIABLE = "/libraries", "PLAINWINDOW_LIBRARIES"
DEVICES = ("null", "zero", "full", "random", "urandom")
# What only the list of system calls keeps out. Where there is none on a machine, it is said, not taken for a breach.
ONLY_BY_SECCOMP = frozenset({"other namespaces", "io_uring", "userfaultfd", "netlink and vsock", "shared segments"})
# Lists of allowed system calls, for each kind of runner.
PROGRAMS = ("seccomp", "seccomp_workers", "seccomp_child")
SEALS = fcntl.F_SEAL_WRITE | fcntl.F_SEAL_SHRINK | fcntl.F_SEAL_GROW | fcntl.F_SEAL_SEAL


@dataclass(frozen=True)
class Confinement:
    """Whether runners can be confined on this machine, and if not, why.

    Attributes
    ----------
    probes : mapping of str to str
        For each thing that was tried inside the walls whether it was `contained`.
    missing : list of str
        Walls that this machine does not give, though the others stand.
    seccomp : bytes
        The list of allowed system calls, as the kernel takes it; empty where it is missing.
    seccomp_workers : bytes
        The same for a runner with workers of its own.
    seccomp_child : bytes
        The same for a runner with one process beside it, that has the model's own libraries.
    """

    works: bool
    reason: str = ""
    probes: Mapping[str, str] = field(default_factory=dict)
    missing: tuple[str, ...] = ()
    seccomp: bytes = field(default=b"", repr=False)
    seccomp_workers: bytes = field(default=b"", repr=False)
    seccomp_child: bytes = field(default=b"", repr=False)

    def record(self, path: Path) -> None:
        """Keep it for a keeper that comes after this one.

        Parameters
        ----------
        path : Path
        """
        programs = {name: getattr(self, name).hex() for name in PROGRAMS}
        kept = {**asdict(self), "probes": dict(self.probes), **programs}
        path.write_text(json.dumps(kept))


def recorded_confinement(path: Path) -> Confinement | None:
    """What the keeper before this one found out; None if it did not get that far.

    Parameters
    ----------
    path : Path
    """
    try:
        kept = json.loads(path.read_text())
        programs = (bytes.fromhex(kept[name]) for name in PROGRAMS)
        return Confinement(kept["works"], kept["reason"], kept["probes"], tuple(kept["missing"]), *programs)
    except (OSError, ValueError, KeyError):
        return None


def check_confinement(target: Mapping[str, object], *, beside: Beside = "nothing") -> Confinement:
    """Build the walls once, and try from inside what must fail there.

    Parameters
    ----------
    target : mapping
        What to try: `home` (a folder), `secret` (a file in it), `socket` (one that listens), `port` (likewise).
    beside : str, optional
        Try the walls of a runner with `workers` of its own, or with one `child`.
    """
    if shutil.which("bwrap") is None:
        return Confinement(False, "The package `bubblewrap` is not installed.")
    missing: list[str] = []
    programs = dict.fromkeys(PROGRAMS, b"")
    try:
        programs = {name: seccomp_program(kind) for name, kind in zip(PROGRAMS, BESIDE, strict=True)}
    except SeccompMissing as error:
        missing.append(f"no list of allowed system calls: {error}")
    try:
        done = _probed(target, programs[PROGRAMS[BESIDE.index(beside)]])
    except subprocess.TimeoutExpired:
        return Confinement(False, "bubblewrap did not come back.")
    if done.returncode:
        return Confinement(False, done.stderr.strip().split("\n")[-1][:300] or "bubblewrap failed without a word.")
    probes = json.loads(done.stdout)
    excused = frozenset() if programs["seccomp"] else ONLY_BY_SECCOMP
    escaped = [f"{name}: {result}" for name, result in probes.items() if result != "contained" and name not in excused]
    reason = f"Inside the walls {'; '.join(escaped)}." if escaped else ""
    return Confinement(not escaped, reason, probes, tuple(missing), **programs)


def _probed(target: Mapping[str, Any], seccomp: bytes) -> subprocess.CompletedProcess[str]:
    """What the probes say from inside. They are given a sealed copy of the secret, as a runner gets its files."""
    copy = sealed_copy(Path(target["secret"]))
    files = [copy]
    try:
        if seccomp:
            files.append(program_file(seccomp))
        command = [
            *_walls(slot=0, readable=_program_folders(), seccomp=str(files[1]) if seccomp else None),
            *_python("plain_window.runners.probing"),
            json.dumps({**target, "file": copy}),
        ]
        return subprocess.run(
            command,
            capture_output=True,
            text=True,
            timeout=CHECK_SECONDS,
            check=False,
            env=runner_environment(),
            pass_fds=files,
            cwd="/",
        )
    finally:
        for descriptor in files:
            os.close(descriptor)


def runner_command(
    *,
    slot: int,
    confined: bool,
    has_seccomp: bool,
    kernels: Path,
    shares_network: bool = False,
    gives_way: bool = False,
    more_scratch_bytes: int = 0,
    environment: Path | None = None,
) -> list[str]:
    """The command line of one runner; `{0}` in it stands for its control socket, `{1}` for the filter's descriptor.

    Parameters
    ----------
    slot : int
        Which of the user ids it gets, where there is a choice.
    confined : bool
        False only where the operator allowed it.
    has_seccomp : bool
        Whether there is a list of allowed system calls.
    kernels : Path
        Folder with the kernels' machine code.
    shares_network : bool
        Whether it must reach others over this machine's network: a cluster that its operator has named.
    gives_way : bool
        Whether it gets only what of the processor's time nobody else wants.
    more_scratch_bytes : int
        What it may write into its own `/tmp`, beyond what every runner may: files beside a function are unpacked there.
    environment : Path or None
        Folder of libraries that its model asks for.
    """
    first = [*GIVING_WAY] if gives_way and shutil.which(GIVING_WAY[0]) else []
    python = [*_python("plain_window.runners.runner"), "{0}"]
    if not confined:
        return [*first, *python]
    seccomp = "{1}" if has_seccomp else None
    walls = _walls(
        slot=slot,
        readable=_program_folders(),
        kernels=kernels,
        seccomp=seccomp,
        shares_network=shares_network,
        scratch_bytes=SCRATCH_BYTES + more_scratch_bytes,
        environment=environment,
    )
    return [*first, *walls, *python]


def sealed_copy(path: Path) -> int:
    """A descriptor of a copy of a file in memory that nobody can change any more, not even through `/proc`.

    The file itself could be opened again for writing by a runner of the same user, through its own descriptor.

    Parameters
    ----------
    path : Path
    """
    descriptor = os.memfd_create("file", os.MFD_CLOEXEC | os.MFD_ALLOW_SEALING)
    try:
        with open(path, "rb") as file:
            left = os.fstat(file.fileno()).st_size
            while left > 0:
                sent = os.sendfile(descriptor, file.fileno(), None, left)
                if not sent:
                    break
                left -= sent
        fcntl.fcntl(descriptor, fcntl.F_ADD_SEALS, SEALS)
        os.lseek(descriptor, 0, os.SEEK_SET)
    except BaseException:
        os.close(descriptor)
        raise
    return descriptor


def _python(module: str) -> list[str]:
    # -P: what lies in the current folder is never taken for a module of Python's or ours.
    return [sys.executable, "-P", "-m", module]


def runner_environment(*, kernels: str = KERNELS_INSIDE, libraries: str = LIBRARIES_INSIDE) -> dict[str, str]:
    """All that a runner sees of the environment.

    Parameters
    ----------
    kernels : str, optional
        Where the kernels' machine code lies.
    libraries : str, optional
        Where libraries lie that its model asks for, if it has any of its own.
    """
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
        LIBRARIES_VARIABLE: libraries,
        "NUMBA_CACHE_DIR": "/tmp/numba",
    }


def limit_this_process(*, memory_bytes: int, n_workers: int = 0, more_scratch_bytes: int = 0) -> None:
    """Bound memory, processes, files and what may be written. Cannot be taken back by the process itself.

    Parameters
    ----------
    memory_bytes : int
    n_workers : int
        How many processes it may start that do as much as itself.
    more_scratch_bytes : int
        How much larger than usual a file may be that it writes.
    """
    for what, most in (
        (resource.RLIMIT_AS, memory_bytes),
        (resource.RLIMIT_NPROC, MAX_PROCESSES * (1 + n_workers)),
        (resource.RLIMIT_NOFILE, MAX_OPEN_FILES),
        (resource.RLIMIT_FSIZE, SCRATCH_BYTES + more_scratch_bytes),
        (resource.RLIMIT_CORE, 0),
    ):
        hard = resource.getrlimit(what)[1]
        bound = most if hard == resource.RLIM_INFINITY else min(most, hard)
        resource.setrlimit(what, (bound, bound))


@dataclass(frozen=True)
class Bound:
    """A folder or file that can be read from inside the walls, and where."""

    outside: str
    inside: str


def building_walls(bound: Sequence[Bound], *, writable: Path | None, seccomp: str | None) -> list[str]:
    """The walls in which packages are installed or tried: a runner's, and one folder that may be written to.

    Parameters
    ----------
    bound : sequence of Bound
        What can be read in there.
    writable : Path or None
        The folder, at `/made` in there. It is given to whoever runs there.
    seccomp : str or None
        Descriptor of the list of allowed system calls.
    """
    opened = [part for one in bound for part in ("--ro-bind", one.outside, one.inside)]
    if writable is not None:
        opened += ["--bind", str(writable), MADE_INSIDE]
        _give(writable)
    return _walls(slot=BUILDING_SLOT, readable=_program_folders(), seccomp=seccomp, opened=opened)


def fetching_walls(*, writable: Path, home: Path) -> list[str]:
    """The walls in which our own pip reaches the index: all of this machine but what is ours, to be read only.

    Parameters
    ----------
    writable : Path
        The one folder that may be written to, at `/tmp/made` in there. It is given to whoever runs there.
    home : Path
        The state directory: there is nothing in it in there.
    """
    _give(writable)
    walls = ["bwrap", "--die-with-parent", "--new-session", "--unshare-ipc", "--unshare-pid", "--unshare-uts"]
    walls += ["--ro-bind", "/", "/", "--dev", "/dev", "--proc", "/proc", "--chdir", "/"]
    if home.exists():
        walls += ["--tmpfs", str(home)]
    walls += ["--perms", "1777", "--tmpfs", "/tmp"]
    closed = {parent for folder in _program_folders() if (parent := _closed_parent(folder)) is not None}
    for parent in sorted(closed):
        walls += ["--perms", "0755", "--tmpfs", str(parent)]
    # They may lie in what was covered.
    for folder in _program_folders():
        if any(folder.is_relative_to(covered) for covered in (Path("/tmp"), *closed)):
            walls += _readable_parents([folder])
            walls += ["--ro-bind", str(folder), str(folder)]
    walls += ["--bind", str(writable), "/tmp/made"]
    if os.geteuid() == 0:
        return walls + _drop_root(_user_id(BUILDING_SLOT))
    return [*walls, "--"]


def _closed_parent(folder: Path) -> Path | None:
    """The uppermost folder above it that others may not pass: what lies beside the program in there is left out."""
    above = (parent for parent in reversed(folder.parents) if not parent.stat().st_mode & 0o001)
    return next(above, None)


def _readable_parents(folders: Sequence[Path]) -> list[str]:
    """bubblewrap makes missing parents readable by root only; a runner that is not root could not pass."""
    parents = dict.fromkeys(parent for folder in folders for parent in reversed(folder.parents[:-1]))
    return [part for parent in parents for part in ("--perms", "0755", "--dir", str(parent))]


def _give(folder: Path) -> None:
    """Let whoever runs behind the walls write to a folder."""
    if os.geteuid() == 0:
        os.chown(folder, _user_id(BUILDING_SLOT), _user_id(BUILDING_SLOT))


def _program_folders() -> list[Path]:
    """What a runner must read besides /usr: this program, its packages, and Python where that lives elsewhere."""
    folders = [PACKAGE, Path(sys.prefix), Path(sys.base_prefix)]
    return [folder for folder in dict.fromkeys(folders) if not folder.is_relative_to("/usr")]


def _walls(
    *,
    slot: int,
    readable: list[Path],
    kernels: Path | None = None,
    seccomp: str | None = None,
    shares_network: bool = False,
    scratch_bytes: int = SCRATCH_BYTES,
    environment: Path | None = None,
    opened: Sequence[str] = (),
) -> list[str]:
    walls = ["bwrap", "--die-with-parent", "--new-session", "--unshare-ipc", "--unshare-pid"]
    walls += [] if shares_network else ["--unshare-net"]
    walls += ["--unshare-uts", "--unshare-cgroup-try", "--hostname", "runner"]
    walls += ["--ro-bind", "/usr", "/usr"]
    for name in ("bin", "lib", "lib64", "sbin"):
        walls += ["--symlink", f"usr/{name}", f"/{name}"] if Path(f"/{name}").is_symlink() else []
    # What looks for a file in there shall hear that there is none, not that it may not look.
    walls += ["--perms", "0755", "--dir", "/etc"]
    walls += ["--ro-bind-try", "/etc/ld.so.cache", "/etc/ld.so.cache", "--proc", "/proc", *_devices()]
    walls += ["--perms", "1777", "--size", str(scratch_bytes), "--tmpfs", "/tmp", "--chdir", "/"]
    walls += _readable_parents(readable)
    for folder in readable:
        walls += ["--ro-bind", str(folder), str(folder)]
    if kernels is not None:
        walls += ["--ro-bind-try", str(kernels), KERNELS_INSIDE]
    if environment is not None:
        walls += ["--ro-bind", str(environment), LIBRARIES_INSIDE]
    walls += opened
    # The root itself is memory of the sandbox: it must not be there to be filled.
    walls += ["--remount-ro", "/"]
    if seccomp is not None:
        walls += ["--seccomp", seccomp]
    if os.geteuid() == 0:
        return walls + _drop_root(_user_id(slot))
    return [*walls, "--unshare-user", "--uid", "65534", "--gid", "65534", "--"]


def _devices() -> list[str]:
    """The few devices that computing needs. bubblewrap's own `--dev` is a folder that may be filled without bound."""
    walls = ["--perms", "0755", "--size", "65536", "--tmpfs", "/dev"]
    for name in DEVICES:
        walls += ["--dev-bind", f"/dev/{name}", f"/dev/{name}"]
    walls += ["--symlink", "/proc/self/fd", "/dev/fd"]
    walls += ["--perms", "1777", "--size", str(SHARED_BYTES), "--tmpfs", "/dev/shm"]
    return [*walls, "--remount-ro", "/dev"]


def _user_id(slot: int) -> int:
    return FIRST_USER_ID + (slot if slot == BUILDING_SLOT else slot % USER_IDS)


def _drop_root(user_id: int) -> list[str]:
    """Give up root inside the walls, for a user id that no other runner has: its process limit is then its own."""
    capabilities = [part for name in ("SETUID", "SETGID", "SETPCAP") for part in ("--cap-add", f"CAP_{name}")]
    drop = ["setpriv", f"--reuid={user_id}", f"--regid={user_id}", "--clear-groups", "--no-new-privs"]
    return [*capabilities, "--", *drop, "--inh-caps=-all", "--bounding-set=-all", "--"]
