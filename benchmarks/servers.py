"""The servers that are compared, each under the same gunicorn settings."""

import contextlib
import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import psutil

from plain_window.web.gunicorn_settings import CONNECTIONS, KEEP_ALIVE_SECONDS, WORKER_CLASS

__all__ = ["Running", "flask_server", "plain_window"]

ROOT = Path(__file__).resolve().parents[1]
START_SECONDS = 120
KINDS = {"mariadb": "mariadbd", "keeper": "runners.keeper", "web": "gunicorn", "runner": "runners.runner"}


@dataclass
class Running:
    """A server under measurement."""

    port: int
    process: subprocess.Popen[bytes]
    seconds_to_ready: float
    environment: dict[str, str]

    def peak_memory_mb(self) -> dict[str, float]:
        """The highest resident memory of each process so far, by kind; several of a kind are numbered."""
        peaks: dict[str, float] = {}
        parent = psutil.Process(self.process.pid)
        for process in [parent, *parent.children(recursive=True)]:
            with contextlib.suppress(psutil.Error, OSError):
                name = _kind(process.cmdline())
                if name:
                    number = sum(key.startswith(name) for key in peaks) + 1
                    peaks[f"{name} {number}"] = _high_water_mb(process.pid)
        return peaks

    def new_key(self) -> str:
        """A key of the author's."""
        command = [str(ROOT / "plainwindow"), "key", "bench"]
        environment = {**os.environ, **self.environment}
        done = subprocess.run(command, cwd=ROOT, env=environment, check=True, capture_output=True, text=True)
        return done.stdout.strip().splitlines()[-1]

    def publish(self, folder: Path) -> None:
        """Bring a demo folder and open it to everyone."""
        command = [str(ROOT / "plainwindow"), "add", str(folder), "--publish"]
        subprocess.run(command, cwd=ROOT, env={**os.environ, **self.environment}, check=True, capture_output=True)


@contextlib.contextmanager
def flask_server(module: str, **environment: str) -> Iterator[Running]:
    """One of the modules here, under gunicorn."""
    port = _free_port()
    command = [sys.executable, "-m", "gunicorn", "--bind", f"127.0.0.1:{port}", "--worker-class", WORKER_CLASS]
    command += ["--workers", str(os.cpu_count()), "--keep-alive", str(KEEP_ALIVE_SECONDS)]
    command += ["--worker-connections", str(CONNECTIONS)]
    command += ["--no-control-socket", "--log-level", "warning", f"benchmarks.{module}:app"]
    with _running(command, port, environment, ready=lambda: _accepts(port)) as running:
        # A worker accepts before it has loaded its model.
        time.sleep(4)
        yield running


@contextlib.contextmanager
def plain_window(home: Path, **more: str) -> Iterator[Running]:
    """The `demo` command on a state directory, without the limit for visitors."""
    port = _free_port()
    said = home / "bench.log"
    environment = {"PLAINWINDOW_HOME": str(home), "PLAINWINDOW_PORT": str(port), "PLAINWINDOW_RATE": "0", **more}
    home.mkdir(parents=True, exist_ok=True)
    said.write_text("")
    command = [str(ROOT / "plainwindow"), "demo"]
    with _running(command, port, environment, ready=lambda: "Author:" in said.read_text(), said=said) as running:
        yield running


@contextlib.contextmanager
def _running(
    command: list[str], port: int, environment: dict[str, str], *, ready, said: Path | None = None
) -> Iterator[Running]:
    begun = time.perf_counter()
    with contextlib.ExitStack() as stack:
        output = stack.enter_context(open(said, "wb")) if said else subprocess.DEVNULL
        process = subprocess.Popen(
            command, cwd=ROOT, env={**os.environ, **environment}, stdout=output, stderr=output, start_new_session=True
        )
        try:
            while not ready():
                if process.poll() is not None or time.perf_counter() - begun > START_SECONDS:
                    raise RuntimeError(f"{command[-1]} did not start")
                time.sleep(0.01)
            yield Running(port, process, time.perf_counter() - begun, environment)
        finally:
            process.send_signal(signal.SIGINT)
            process.wait(60)


def _kind(command: list[str]) -> str | None:
    if not command or Path(command[0]).name == "bwrap":
        return None
    for kind, word in KINDS.items():
        if any(word in part for part in command):
            return kind
    return "command" if any("plain_window" in part for part in command) else None


def _high_water_mb(pid: int) -> float:
    for line in Path(f"/proc/{pid}/status").read_text().splitlines():
        if line.startswith("VmHWM:"):
            return int(line.split()[1]) / 1024
    return 0.0


def _accepts(port: int) -> bool:
    with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), timeout=1):
        return True
    return False


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]
