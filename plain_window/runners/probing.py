"""Tries from inside the walls what must fail there, and says on standard output what came of it.

Run by `confinement` at every start, with what to try as an argument. Each probe ends in `contained`, or in words for
what should not have been possible.
"""

import contextlib
import ctypes
import errno
import json
import os
import platform
import socket
import sys
from collections.abc import Callable
from typing import Any

from .confinement import MAX_PROCESSES, PACKAGE, SCRATCH_BYTES, SHARED_BYTES, limit_this_process

__all__ = ["PROBES", "main"]

PROBE_MEMORY_BYTES = 512 << 20
CONTAINED = "contained"
# Numbers of system calls that no library of Python's makes, by processor.
CALLS = {
    "x86_64": {"io_uring_setup": 425, "userfaultfd": 323, "unshare": 272}
    | {"shmget": 29, "msgget": 68, "semget": 64, "shmctl": 31, "msgctl": 71, "semctl": 66},
    "aarch64": {"io_uring_setup": 425, "userfaultfd": 282, "unshare": 97}
    | {"shmget": 194, "msgget": 186, "semget": 190, "shmctl": 195, "msgctl": 187, "semctl": 191},
}
CLONE_NEWUSER, CLONE_NEWNS = 0x10000000, 0x00020000
AF_NETLINK, AF_VSOCK = 16, 40
IPC_CREAT, IPC_RMID = 0o1000, 0
WRITE_STEP_BYTES = 1 << 20
# How a kernel says that a call is not for us, or not there.
REFUSALS = (errno.EPERM, errno.EACCES, errno.ENOSYS)


def _network(target: dict[str, Any]) -> str:
    """The server's own port on loopback; there is no other network to try, which is looked at, not sent to."""
    with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", target["port"]), timeout=0.5):
        return "a connection to 127.0.0.1 was possible"
    with open("/proc/self/net/dev") as listed:
        interfaces = [line.partition(":")[0].strip() for line in listed.readlines()[2:]]
    return CONTAINED if interfaces in ([], ["lo"]) else f"there are the networks {', '.join(interfaces)}"


def _writing(target: dict[str, Any]) -> str:
    """Beside this program, into the system, and into the state directory."""
    for folder in (str(PACKAGE), "/usr", "/etc", "/", "/dev", target["home"]):
        path = os.path.join(folder, ".plain-window-probe")
        with contextlib.suppress(OSError), open(path, "w"):
            os.unlink(path)
            return f"a file could be written to {folder}"
    return CONTAINED


def _files(target: dict[str, Any]) -> str:
    """What it was handed, opened once more for writing."""
    path = f"/proc/self/fd/{target['file']}"
    with contextlib.suppress(OSError), open(path, "r+b", buffering=0) as again:
        again.write(b"?")
        return "a file that was handed in could be changed"
    with contextlib.suppress(OSError):
        os.truncate(path, 0)
        return "a file that was handed in could be cut short"
    return CONTAINED


def _reading_state(target: dict[str, Any]) -> str:
    """The database, the files and the secrets of the state directory."""
    with contextlib.suppress(OSError):
        os.listdir(target["home"])
        return "the state directory could be listed"
    with contextlib.suppress(OSError), open(target["secret"], "rb"):
        return "a file of the state directory could be read"
    return CONTAINED


def _another_socket(target: dict[str, Any]) -> str:
    """A Unix socket of the state directory: the keeper's, or another runner's."""
    connection = socket.socket(socket.AF_UNIX)
    with contextlib.suppress(OSError), connection:
        connection.connect(target["socket"])
        return "another process's socket could be reached"
    return CONTAINED


def _scratch(target: dict[str, Any]) -> str:
    """Temporary space until no more is given."""
    for folder, most in (("/tmp", SCRATCH_BYTES), ("/dev/shm", SHARED_BYTES)):
        taken, paths = 0, [os.path.join(folder, f"probe-{number}") for number in range(4)]
        for path in paths:
            # Each file by itself is bounded too.
            with contextlib.suppress(OSError), open(path, "wb", buffering=0) as file:
                while taken <= most:
                    taken += file.write(bytes(WRITE_STEP_BYTES))
        for path in paths:
            with contextlib.suppress(OSError):
                os.unlink(path)
        if taken > most:
            return f"{folder} takes more than {most >> 20} MB"
    return CONTAINED


def _forking(target: dict[str, Any]) -> str:
    """Processes until no more are given."""
    children, is_bounded = [], False
    hold, release = os.pipe()
    try:
        for _ in range(4 * MAX_PROCESSES):
            child = os.fork()
            if child == 0:
                os.close(release)
                os.read(hold, 1)
                os._exit(0)
            children.append(child)
    except OSError:
        is_bounded = True
    os.close(release)
    for child in children:
        os.waitpid(child, 0)
    return CONTAINED if is_bounded else f"{len(children)} processes could be started"


def _memory(target: dict[str, Any]) -> str:
    """Twice what is allowed."""
    try:
        taken = bytearray(2 * PROBE_MEMORY_BYTES)
    except MemoryError:
        return CONTAINED
    return f"{len(taken) >> 20} MB could be taken where {PROBE_MEMORY_BYTES >> 20} MB are allowed"


def _namespaces(target: dict[str, Any]) -> str:
    """Namespaces of its own, in which it would be root."""
    return CONTAINED if _is_refused("unshare", CLONE_NEWUSER | CLONE_NEWNS) else "a namespace of its own could be made"


def _io_uring(target: dict[str, Any]) -> str:
    """The ring through which calls go that nobody looks at."""
    return CONTAINED if _is_refused("io_uring_setup", 1, 0) else "an io_uring could be asked for"


def _userfaultfd(target: dict[str, Any]) -> str:
    """Handling page faults by itself, which many attacks on kernels need."""
    return CONTAINED if _is_refused("userfaultfd", 0) else "a userfaultfd could be asked for"


def _other_sockets(target: dict[str, Any]) -> str:
    """The kernel's own sockets, and those to the machine underneath."""
    for family, name in ((AF_NETLINK, "netlink"), (AF_VSOCK, "vsock")):
        with contextlib.suppress(OSError), socket.socket(family, socket.SOCK_DGRAM):
            return f"a {name} socket could be made"
    return CONTAINED


def _segments(target: dict[str, Any]) -> str:
    """Shared memory, queues and semaphores of System V, which no limit counts."""
    private, mode, made = 0, IPC_CREAT | 0o600, []
    for name, arguments, remove in (
        ("shmget", (private, 4096, mode), ("shmctl", IPC_RMID, 0)),
        ("msgget", (private, mode), ("msgctl", IPC_RMID, 0)),
        ("semget", (private, 1, mode), ("semctl", 0, IPC_RMID)),
    ):
        number, error = _call(name, *arguments)
        if number >= 0:
            _call(remove[0], number, *remove[1:])
        if number >= 0 or error not in REFUSALS:
            made.append(name)
    return f"{' and '.join(made)} could be called" if made else CONTAINED


def _is_refused(name: str, *arguments: int) -> bool:
    number, error = _call(name, *arguments)
    return number < 0 and error in REFUSALS


def _call(name: str, *arguments: int) -> tuple[int, int]:
    """What a system call gives back, and its error; ENOSYS where its number is not known here."""
    number = CALLS.get(platform.machine(), {}).get(name)
    if number is None:
        return -1, errno.ENOSYS
    libc = ctypes.CDLL(None, use_errno=True)
    libc.syscall.restype = ctypes.c_long
    done = libc.syscall(ctypes.c_long(number), *map(ctypes.c_long, arguments))
    return done, ctypes.get_errno()


PROBES: dict[str, Callable[[dict[str, Any]], str]] = {
    "network": _network,
    "writing": _writing,
    "its own files": _files,
    "state directory": _reading_state,
    "another's socket": _another_socket,
    "scratch space": _scratch,
    "endless processes": _forking,
    "all memory": _memory,
    "io_uring": _io_uring,
    "userfaultfd": _userfaultfd,
    "netlink and vsock": _other_sockets,
    "shared segments": _segments,
    # Last: where it is possible, what comes after would be tried from elsewhere.
    "other namespaces": _namespaces,
}


def main() -> None:
    """Try all, one after another."""
    target = json.loads(sys.argv[1])
    limit_this_process(memory_bytes=PROBE_MEMORY_BYTES)
    print(json.dumps({name: probe(target) for name, probe in PROBES.items()}))


if __name__ == "__main__":
    main()
