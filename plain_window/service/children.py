"""Starting, watching and stopping one child process."""

import contextlib
import ctypes
import os
import signal
import subprocess
import sys
import time
from collections.abc import Sequence
from pathlib import Path

from ..settings import ROOT

__all__ = ["Child", "python_module"]

# Where this program is; what its processes stand in, wherever the command was typed.
PR_SET_PDEATHSIG = 1
_libc = ctypes.CDLL(None, use_errno=True)


def python_module(module: str, *arguments: str) -> list[str]:
    """The command that runs one of our modules: nothing in the current folder is taken for a module (`-P`).

    Parameters
    ----------
    module : str
        As it is imported.
    arguments : str
        What stands behind the module's name.
    """
    return [sys.executable, "-P", "-m", module, *arguments]


class Child:
    """A process of ours that must not outlive us.

    Parameters
    ----------
    name : str
        Its log is `<name>.log`.
    command : sequence of str
    logs : Path
    environment : dict of str to str, optional
        On top of our own.
    inherits : sequence of int
        Descriptors that it gets under the same numbers.
    again : sequence of str
        What is added to the command when it is started another time.
    """

    def __init__(
        self,
        name: str,
        command: Sequence[str],
        *,
        logs: Path,
        environment: dict[str, str] | None = None,
        inherits: Sequence[int] = (),
        again: Sequence[str] = (),
    ) -> None:
        self.name = name
        self.log = logs / f"{name}.log"
        self._command, self._again = list(command), list(again)
        self._environment = {**os.environ, **(environment or {})}
        self._inherits = tuple(inherits)
        self._process: subprocess.Popen[bytes] | None = None
        self._pidfd = -1
        self.started = 0.0

    @property
    def pid(self) -> int | None:
        """Its process id while it runs."""
        return self._process.pid if self._process is not None and self.is_running() else None

    @property
    def pidfd(self) -> int:
        """A descriptor that becomes readable when it ends; -1 before it was started."""
        return self._pidfd

    def start(self) -> None:
        """Start it. Call from the main thread: the child dies with the thread that started it."""
        command = self._command + (self._again if self._process else [])
        if self._pidfd >= 0:
            os.close(self._pidfd)
        with open(self.log, "ab") as log:
            self.log.chmod(0o600)
            self._process = subprocess.Popen(
                command,
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                env=self._environment,
                cwd=ROOT,
                pass_fds=self._inherits,
                # A session of its own: Ctrl+C reaches only us, and we stop the rest in order.
                start_new_session=True,
                preexec_fn=_die_with_parent,
            )
        self._pidfd = os.pidfd_open(self._process.pid)
        self.started = time.monotonic()

    def start_anew(self, command: Sequence[str]) -> None:
        """Start it by another command, now and from now on.

        Parameters
        ----------
        command : sequence of str
        """
        self._command = list(command)
        self.start()

    def is_running(self) -> bool:
        """Whether it is alive."""
        return self._process is not None and self._process.poll() is None

    def stop(self, *, seconds: float) -> None:
        """Ask it to end, and end it if it has not within `seconds`.

        Parameters
        ----------
        seconds : float
        """
        if self._process is None:
            return
        with contextlib.suppress(ProcessLookupError):
            self._process.send_signal(signal.SIGTERM)
        try:
            self._process.wait(seconds)
        except subprocess.TimeoutExpired:
            self._process.kill()
            self._process.wait()

    def last_words(self, n_lines: int = 8) -> str:
        """The end of its log.

        Parameters
        ----------
        n_lines : int, optional
        """
        with contextlib.suppress(OSError):
            return "\n".join(self.log.read_text("utf-8", errors="replace").splitlines()[-n_lines:])
        return ""


def _die_with_parent() -> None:
    # Runs between fork and exec: one system call, nothing that could need a lock.
    _libc.prctl(PR_SET_PDEATHSIG, signal.SIGTERM)
