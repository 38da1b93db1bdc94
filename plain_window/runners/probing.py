"""Tries from inside the walls what must fail there, and says on standard output what came of it.

Run by `confinement` at every start, with the paths to try as arguments. Each probe ends in `contained`, or in words for
what should not have been possible.
"""

import contextlib
import json
import os
import socket
import sys
from collections.abc import Callable

from .confinement import MAX_PROCESSES, PACKAGE, limit_this_process

__all__ = ["PROBES", "main"]

PROBE_MEMORY_BYTES = 512 << 20
CONTAINED = "contained"


def _network(target: dict) -> str:
    """The server's own port on loopback, and an address outside."""
    for address in (("127.0.0.1", target["port"]), ("192.0.2.1", 80)):
        with contextlib.suppress(OSError), socket.create_connection(address, timeout=0.5):
            return f"a connection to {address[0]} was possible"
    with contextlib.suppress(OSError), socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as sender:
        sender.sendto(b"?", ("192.0.2.1", 53))
        return "a datagram to the outside was possible"
    return CONTAINED


def _writing(target: dict) -> str:
    """Beside this program, into the system, and into the state directory."""
    for folder in (str(PACKAGE), "/usr", "/etc", "/", target["home"]):
        path = os.path.join(folder, ".plain-window-probe")
        with contextlib.suppress(OSError), open(path, "w"):
            os.unlink(path)
            return f"a file could be written to {folder}"
    return CONTAINED


def _reading_state(target: dict) -> str:
    """The database, the files and the secrets of the state directory."""
    with contextlib.suppress(OSError):
        os.listdir(target["home"])
        return "the state directory could be listed"
    with contextlib.suppress(OSError), open(target["secret"], "rb"):
        return "a file of the state directory could be read"
    return CONTAINED


def _another_socket(target: dict) -> str:
    """A Unix socket of the state directory: the keeper's, or another runner's."""
    connection = socket.socket(socket.AF_UNIX)
    with contextlib.suppress(OSError), connection:
        connection.connect(target["socket"])
        return "another process's socket could be reached"
    return CONTAINED


def _forking(target: dict) -> str:
    """Processes until no more are given."""
    children, is_bounded = [], False
    try:
        for _ in range(4 * MAX_PROCESSES):
            child = os.fork()
            if child == 0:
                os.close(target["release"])
                os.read(target["hold"], 1)
                os._exit(0)
            children.append(child)
    except OSError:
        is_bounded = True
    os.close(target["release"])
    for child in children:
        os.waitpid(child, 0)
    return CONTAINED if is_bounded else f"{len(children)} processes could be started"


def _memory(target: dict) -> str:
    """Twice what is allowed."""
    try:
        taken = bytearray(2 * PROBE_MEMORY_BYTES)
    except MemoryError:
        return CONTAINED
    return f"{len(taken) >> 20} MB could be taken where {PROBE_MEMORY_BYTES >> 20} MB are allowed"


PROBES: dict[str, Callable[[dict], str]] = {
    "network": _network,
    "writing": _writing,
    "state directory": _reading_state,
    "another's socket": _another_socket,
    "endless processes": _forking,
    "all memory": _memory,
}


def main() -> None:
    """Try all, one after another."""
    target = json.loads(sys.argv[1])
    target["hold"], target["release"] = os.pipe()
    limit_this_process(memory_bytes=PROBE_MEMORY_BYTES)
    print(json.dumps({name: probe(target) for name, probe in PROBES.items()}))


if __name__ == "__main__":
    main()
