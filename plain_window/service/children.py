"""Starting, watching and stopping one child process."""

import contextlib
import ctypes
import os
import signal
import subprocess
import time
from collections.abc import Sequence
from pathlib import Path

__all__ = ["Child"]

PR_SET_PDEATHSIG = 1
_libc = ctypes.CDLL(None, use_errno=True)


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
    """

    def __init__(
        self, name: str, command: Sequence[str], *, logs: Path, environment: dict[str, str] | None = None
    ) -> None:
        self.name = name
        self._command = list(command)
        self._log = logs / f"{name}.log"
        self._environment = {**os.environ, **(environment or {})}
        self._process: subprocess.Popen[bytes] | None = None
        self.started = 0.0

    @property
    def pid(self) -> int | None:
        """Its process id while it runs."""
        return self._process.pid if self.is_running() else None

    def start(self) -> None:
        """Start it. Call from the main thread: the child dies with the thread that started it."""
        with open(self._log, "ab") as log:
            self._process = subprocess.Popen(
                self._command,
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                env=self._environment,
                # A session of its own: Ctrl+C reaches only us, and we stop the rest in order.
                start_new_session=True,
                preexec_fn=_die_with_parent,
            )
        self.started = time.monotonic()

    def is_running(self) -> bool:
        """Whether it is alive."""
        return self._process is not None and self._process.poll() is None

    def stop(self, *, seconds: float) -> None:
        """Ask it to end, and end it if it has not within `seconds`."""
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
        """The end of its log."""
        with contextlib.suppress(OSError):
            return "\n".join(self._log.read_text("utf-8", errors="replace").splitlines()[-n_lines:])
        return ""


def _die_with_parent() -> None:
    # Runs between fork and exec: one system call, nothing that could need a lock.
    _libc.prctl(PR_SET_PDEATHSIG, signal.SIGTERM)
