"""A whole Plain Window for tests: started by its own command, reached through its own doors."""

import contextlib
import fcntl
import functools
import os
import random
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import httpx
import psutil

ROOT = Path(__file__).resolve().parents[1]
SAMPLE = ROOT / "plain_window" / "samples" / "will_it_crack" / "demo"
START_SECONDS = 90

USUAL_PIECE = {
    "clay_body": "stoneware",
    "wall_mm": 7.6,
    "width_cm": 17,
    "attached": False,
    "drying_days": 5.5,
    "humidity": 57,
    "covered": False,
    "glaze": "clear",
    "heating_rate": 115,
    "peak_temp": 1240,
    "cooling_hours": 17,
}


class Studio:
    """One running `demo` (or `serve`) command on a state directory of its own."""

    def __init__(
        self,
        home: Path,
        *,
        command: str = "demo",
        environment: dict[str, str] | None = None,
        port: int | None = None,
    ) -> None:
        self.home = home
        self.port = port or _free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self.environment = {
            **os.environ,
            "PLAINWINDOW_HOME": str(home),
            "PLAINWINDOW_PORT": str(self.port),
            "PYTHONPATH": str(ROOT),
            **(environment or {}),
        }
        if command == "demo" and not home.exists():
            # Without what was only true while it ran: the copy has a port of its own.
            shutil.copytree(_first_start(), home, symlinks=True, ignore=shutil.ignore_patterns("run"))
        home.mkdir(parents=True, exist_ok=True)
        self._output = home / "command.log"
        with open(self._output, "wb") as output:
            self.process = subprocess.Popen(
                [sys.executable, "-P", "-m", "plain_window", command],
                env=self.environment,
                stdout=output,
                stderr=subprocess.STDOUT,
                start_new_session=True,
            )
        self._wait()

    def said(self) -> str:
        """What the command printed."""
        return self._output.read_text("utf-8", errors="replace")

    @property
    def sign_in_link(self) -> str:
        """The one-time link, from the file where the command put it: nobody reads a terminal here."""
        return (self.home / "run" / "sign-in-link").read_text().strip()

    def run(self, *arguments: str, check: bool = True) -> subprocess.CompletedProcess[str]:
        """Another command on the same state directory."""
        command = [sys.executable, "-P", "-m", "plain_window", *arguments]
        return subprocess.run(command, env=self.environment, capture_output=True, text=True, check=check)

    def new_key(self, name: str = "tests") -> str:
        return self.run("key", name).stdout.strip().splitlines()[-1]

    def client(self, *, key: str | None = None) -> httpx.Client:
        headers = {"Authorization": f"Bearer {key}"} if key else {}
        return httpx.Client(base_url=self.url, headers=headers, timeout=60)

    def processes(self) -> dict[str, list[psutil.Process]]:
        """What runs, by kind."""
        kinds = {"mariadb": "mariadbd", "keeper": "runners.keeper", "web": "gunicorn", "runner": "runners.runner"}
        return self._running({**kinds, "jobs": "jobs.carrier"})

    def workers(self) -> list[psutil.Process]:
        """What asks models about whole tables, while there is work."""
        return self._running({"worker": "multiprocessing.spawn"})["worker"]

    def _running(self, kinds: dict[str, str]) -> dict[str, list[psutil.Process]]:
        found: dict[str, list[psutil.Process]] = {kind: [] for kind in kinds}
        for process in psutil.Process(self.process.pid).children(recursive=True):
            try:
                command = process.cmdline()
            except psutil.Error:
                continue
            for kind, word in kinds.items():
                # bubblewrap names what it runs on its own command line; the runner itself is meant.
                if any(word in part for part in command) and Path(command[0]).name != "bwrap":
                    found[kind].append(process)
        return found

    def stop(self) -> int:
        """Ctrl+C, and wait."""
        if self.process.poll() is None:
            self.process.send_signal(signal.SIGINT)
        return self.process.wait(60)

    def _wait(self) -> None:
        deadline = time.monotonic() + START_SECONDS
        while "Author:" not in self.said():
            if self.process.poll() is not None or time.monotonic() > deadline:
                raise AssertionError(f"the command did not get ready:\n{self.said()}")
            time.sleep(0.05)


def first_start_folder() -> Path:
    """Where a run keeps its first start: one for all its processes, which its first one takes away."""
    run = os.getppid() if "PYTEST_XDIST_WORKER" in os.environ else os.getpid()
    return Path(tempfile.gettempdir()) / f"plain-window-first-start-{run}"


@functools.cache
def _first_start() -> Path:
    """The state directory of a `demo` that was started for the first time and stopped.

    Making the database, the kernels and the samples takes some seconds; once is enough for a whole run, whichever of
    its processes comes first. Every other one begins with a copy, and so as a second start.
    """
    folder = first_start_folder()
    folder.mkdir(mode=0o755, exist_ok=True)
    home = folder / "home"
    with open(folder / "lock", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (folder / "done").exists():
            shutil.rmtree(home, ignore_errors=True)
            home.mkdir()
            assert Studio(home).stop() == 0
            (folder / "done").touch()
    return home


def has_ended(process: psutil.Process) -> bool:
    """Whether a process is gone, or waits only to be asked how it went."""
    try:
        return not process.is_running() or process.status() == psutil.STATUS_ZOMBIE
    except psutil.NoSuchProcess:
        # It went between the two questions.
        return True


def wait_for(reached, *, seconds: float = 90.0, what: str = "it"):
    """Poll until `reached` returns something true, and return that."""
    deadline = time.monotonic() + seconds
    while time.monotonic() < deadline:
        value = reached()
        if value:
            return value
        time.sleep(0.05)
    raise AssertionError(f"{what} did not happen within {seconds:g} seconds")


def _free_port() -> int:
    """A port that nothing listens on, below those that the kernel gives to whoever connects to something."""
    while True:
        port = random.SystemRandom().randrange(20_000, 32_000)
        with socket.socket() as probe, contextlib.suppress(OSError):
            probe.bind(("127.0.0.1", port))
            return port
