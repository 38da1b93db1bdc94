"""The walls in which packages are fetched, installed and tried. What they hold is somebody else's code."""

import contextlib
import os
import selectors
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import TypeAlias

from ..runners.confinement import Bound, building_walls, fetching_walls, runner_environment
from ..runners.seccomp import SeccompMissing, program_file, seccomp_program

__all__ = ["Check", "Ended", "Says", "Stopped", "run_confined", "run_with_network"]

# Is given each line of a log; and is asked now and then, a text being the reason to stop.
Says: TypeAlias = Callable[[str], None]
Check: TypeAlias = Callable[[], str | None]

LOOK_SECONDS = 0.25
MOST_OUTPUT = 200_000
# What of the environment says how this machine reaches its index.
OF_PIP = (
    "PIP_", "HTTP_PROXY", "HTTPS_PROXY", "NO_PROXY", "http_proxy", "https_proxy", "no_proxy", "SSL_CERT_FILE",
    "SSL_CERT_DIR", "REQUESTS_CA_BUNDLE",
)  # fmt: skip


class Stopped(Exception):
    """It was stopped from here; the message is why, empty where nobody wants it any more."""


@dataclass(frozen=True)
class Ended:
    """How something in the walls ended, and what it printed."""

    code: int
    output: str


def run_confined(
    module: str,
    arguments: Sequence[str],
    *,
    writable: Path | None,
    readable: Mapping[str, Path],
    check: Check,
    says: Says = lambda line: None,
) -> Ended:
    """Run a module of ours behind the walls of a runner, without a network.

    Parameters
    ----------
    module : str
    arguments : sequence of str
    writable : Path or None
        The one folder that may be written to, at `/made` in there.
    readable : mapping of str to Path
        Further folders and files, by where they are in there.
    check : callable
        Asked now and then; a text stops it, as the reason.
    says : callable, optional
        Is given each line that it prints.

    Raises
    ------
    Stopped
        If `check` had it stopped.
    OSError
        If it cannot be started.
    """
    bound = [Bound(str(path), inside) for inside, path in readable.items()]
    with contextlib.ExitStack() as opened:
        passed = []
        with contextlib.suppress(SeccompMissing):
            passed = [program_file(seccomp_program("child"))]
            opened.callback(os.close, passed[0])
        walls = building_walls(bound, writable=writable, seccomp=str(passed[0]) if passed else None)
        command = [*walls, sys.executable, "-P", "-m", module, *arguments]
        return _followed(command, runner_environment(), passed, check, says)


def run_with_network(
    arguments: Sequence[str],
    *,
    writable: Path,
    home: Path,
    check: Check,
    says: Says = lambda line: None,
    module: str = "pip",
) -> Ended:
    """Run our own pip where it reaches the index and can write to one folder, and sees nothing of the state directory.

    Parameters
    ----------
    arguments : sequence of str
        `/tmp/made` is the folder in there.
    writable : Path
        The folder.
    home : Path
        The state directory.
    check, says : callable
        As of `run_confined`.
    module : str, optional
        Something else of ours in pip's place.

    Raises
    ------
    Stopped
        If `check` had it stopped.
    OSError
        If it cannot be started.
    """
    kept = {name: value for name, value in os.environ.items() if name.startswith(OF_PIP)}
    environment = {**runner_environment(), **kept, "PIP_NO_CACHE_DIR": "1", "PIP_NO_INPUT": "1", "TMPDIR": "/tmp/made"}
    command = [*fetching_walls(writable=writable, home=home), sys.executable, "-P", "-m", module, *arguments]
    return _followed(command, environment, [], check, says)


def _followed(
    command: list[str],
    environment: Mapping[str, str],
    passed: Sequence[int],
    check: Check,
    says: Says,
) -> Ended:
    """Follow what a process prints until it ends, or is stopped."""
    process = subprocess.Popen(
        command,
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        env=dict(environment),
        pass_fds=passed,
        cwd="/",
        start_new_session=True,
    )
    assert process.stdout is not None, "it is a pipe"
    printed, rest = "", ""
    os.set_blocking(process.stdout.fileno(), False)
    try:
        with process.stdout, selectors.DefaultSelector() as ready:
            ready.register(process.stdout, selectors.EVENT_READ)
            looked = 0.0
            while True:
                if time.monotonic() - looked > LOOK_SECONDS:
                    looked = time.monotonic()
                    if (why := check()) is not None:
                        raise Stopped(why)
                if not ready.select(timeout=LOOK_SECONDS):
                    continue
                content = process.stdout.read(1 << 16)
                if not content:
                    break
                text = content.decode("utf-8", "replace")
                printed = (printed + text)[-MOST_OUTPUT:]
                *lines, rest = (rest + text).split("\n")
                for line in lines:
                    says(line.rstrip())
        return Ended(process.wait(), printed)
    finally:
        # bubblewrap's first process dies with it, and with that everything in its process namespace.
        with contextlib.suppress(ProcessLookupError):
            os.killpg(process.pid, signal.SIGKILL)
        process.wait()
