"""Starts MariaDB, the keeper and gunicorn, brings back what dies, and stops all in order.

Order matters twice. Starting: the keeper and MariaDB at the same time, since each takes a second or two; gunicorn once
the tables are there. Stopping: gunicorn first, so that it can write its last entries, then the keeper, then MariaDB.

What must outlive its user is held here: the socket visitors connect to (while gunicorn is brought back they wait in its
queue), and the runners, which a thread of this process starts for whichever keeper there is.
"""

import contextlib
import fcntl
import json
import os
import select
import signal
import socket
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from pathlib import Path
from types import FrameType
from typing import Any, TextIO

from ..authoring.housekeeping import Housekeeping
from ..authoring.model_intake import live_jobs
from ..authoring.services import (
    Services,
    make_services,
)
from ..log_files import rotate
from ..runners.failures import RunnerFailed, RunnerUnavailable
from ..runners.keeper import AGAIN
from ..runners.spawner import Spawner
from ..settings import ROOT, Settings
from ..store.database import run_migrations, use_database
from .children import Child, python_module
from .database import BundledDatabase
from .earlier import end_earlier, note_children
from .warmth import Warmth

__all__ = ["AlreadyRunning", "NotStarted", "Service", "background_services", "running_database"]

# How often logs are looked at. What dies is seen at once.
WATCH_SECONDS = 5.0
READY_SECONDS = 120
# Runners that take longer than this get ready while the first visitors come.
LIVE_SECONDS = 20.0
# Web processes that answer, but slowly yet: a few seconds are all that is waited for that.
WARM_SECONDS = 4.0
# All of it is over within ten seconds.
WEB_STOP_SECONDS, JOBS_STOP_SECONDS, KEEPER_STOP_SECONDS, DATABASE_STOP_SECONDS = 6.0, 1.0, 1.5, 30.0
# A child that dies again and again is started at most this often.
RESTART_SECONDS = 1.0
BACKLOG = 2048


class NotStarted(Exception):
    """Something did not come up; the message says what, and where to look."""


class AlreadyRunning(Exception):
    """Another Plain Window uses this state directory."""


class Service:
    """All processes of one Plain Window.

    Parameters
    ----------
    settings : Settings
    """

    def __init__(self, settings: Settings) -> None:
        self.settings = settings
        self.services: Services = make_services(settings)
        self._stop = threading.Event()
        self._children: list[Child] = []
        self._database: BundledDatabase | None = None
        self._lock = _lock(settings)
        self._spawner = Spawner(settings.spawner_socket)
        self._listening: socket.socket | None = None
        self._warmth = Warmth()
        self._housekeeping: Housekeeping | None = None
        self.database_url = settings.database_url or ""

    def start_background(self) -> None:
        """Start what the web tier needs: the database with its tables, and the keeper with the live models.

        Raises
        ------
        DatabaseNotStarted, NotStarted
        """
        keeper = self._child("keeper", python_module("plain_window.runners.keeper"), again=[AGAIN])
        keeper.start()
        if not self.settings.database_url:
            self._database = BundledDatabase(self.settings)
            self._database.start()
            self._children.append(self._database.child)
        self._note_children()
        if self._database:
            self._database.wait()
            self.database_url = self._database.url
        self._note_database()
        use_database(self.database_url)
        run_migrations()
        self._wait(self._keeper_answers, keeper, "The keeper")
        self._warm_live_models()
        self._housekeeping = Housekeeping(self.services)

    def start_web(self) -> None:
        """Start gunicorn, and what carries jobs out.

        Raises
        ------
        NotStarted
            If the port is taken.
        """
        self._listening = _listen(self.settings)
        carrier = python_module("plain_window.jobs.carrier")
        self._child("jobs", carrier, {"PLAINWINDOW_DATABASE_URL": self.database_url}).start()
        command = python_module("gunicorn", "-c", "python:plain_window.web.gunicorn_config")
        listening, warmth = self._listening.fileno(), self._warmth.descriptor
        environment = {
            "PLAINWINDOW_DATABASE_URL": self.database_url,
            "PLAINWINDOW_LISTENING": str(listening),
            "PLAINWINDOW_WARM": str(warmth),
        }
        self._child("web", command, environment, inherits=[listening, warmth]).start()
        self._note_children()

    def wait_ready(self) -> None:
        """Wait until `/readyz` is good, and answers come as fast as they will; for that not for long.

        Raises
        ------
        NotStarted
        """
        web = self._children[-1]
        self._wait(self._is_ready, web, "The server")
        self._warmth.wait(self.settings.workers, seconds=WARM_SECONDS)

    def wait_live(self) -> None:
        """Wait until every live model answers, or cannot, or takes longer than one should."""
        deadline = time.monotonic() + LIVE_SECONDS
        for job in live_jobs(self.services):
            with contextlib.suppress(RunnerFailed, RunnerUnavailable):
                self.services.runners.ensure(job, until="ready", timeout=max(0.0, deadline - time.monotonic()))

    def watch(self) -> None:
        """Bring back what dies, until told to stop."""
        while not self._stop.is_set():
            due = [self._bring_back(child) for child in self._children if not child.is_running()]
            alive = [child.pidfd for child in self._children if child.is_running()]
            select.select(alive, [], [], min([WATCH_SECONDS, *due]))
            for child in self._children:
                rotate(child.log)

    def _bring_back(self, child: Child) -> float:
        """Start it again if that is due; otherwise say in how many seconds it is."""
        left = child.started + RESTART_SECONDS - time.monotonic()
        if left > 0:
            return left
        print(f"{child.name} stopped and is started again.", file=sys.stderr)
        child.start()
        self._note_children()
        if child.name == "keeper":
            # What it has not taken over it is told as soon as it answers.
            threading.Thread(target=self._rewarm, daemon=True).start()
        return RESTART_SECONDS

    def stop(self) -> None:
        """Stop everything, in order. Safe to call twice."""
        self._stop.set()
        if self._housekeeping:
            self._housekeeping.stop()
        if self._listening:
            self._listening.close()
        self._warmth.close()
        order = {"web": WEB_STOP_SECONDS, "jobs": JOBS_STOP_SECONDS, "keeper": KEEPER_STOP_SECONDS}
        for name, seconds in order.items():
            for child in self._children:
                if child.name == name:
                    child.stop(seconds=seconds)
        if not self._lock.closed:
            self._spawner.stop()
        if self._database:
            self._database.stop(seconds=DATABASE_STOP_SECONDS)
        self._children.clear()
        for name in ("database.json", "children.json"):
            (self.settings.run / name).unlink(missing_ok=True)
        self._lock.close()

    def stop_on_signals(self) -> None:
        """End `watch` on Ctrl+C and on SIGTERM."""

        def stop(_signal: int, _frame: FrameType | None) -> None:
            # Once is enough; a handler takes no lock, which the code it came in between may hold.
            _answer_signals(signal.SIG_IGN)
            raise _Stopped

        _answer_signals(stop)

    @contextlib.contextmanager
    def until_stopped(self) -> Iterator[None]:
        """Run a block; whatever ends it, everything is stopped."""
        self.stop_on_signals()
        try:
            yield
        except _Stopped:
            pass
        finally:
            _answer_signals(signal.SIG_IGN)
            self.stop()

    @property
    def address(self) -> str:
        """Where pages are."""
        return f"http://{self.settings.host}:{self.settings.port}"

    def _child(self, name: str, command: list[str], environment: dict[str, str] | None = None, **options: Any) -> Child:
        base = {
            "PLAINWINDOW_HOME": str(self.settings.home),
            "PLAINWINDOW_PORT": str(self.settings.port),
            "PYTHONPATH": str(ROOT),
        }
        child = Child(name, command, logs=self.settings.logs, environment={**base, **(environment or {})}, **options)
        self._children.append(child)
        return child

    def _note_children(self) -> None:
        running = {child.name: child.pid for child in self._children if child.pid}
        note_children(self.settings.run / "children.json", running)

    def _wait(self, reached: Callable[[], bool], child: Child, what: str) -> None:
        deadline = time.monotonic() + READY_SECONDS
        while not reached():
            if not child.is_running() or time.monotonic() > deadline:
                raise NotStarted(f"{what} did not start. Its log ends:\n{child.last_words()}")
            time.sleep(0.02)

    def _keeper_answers(self) -> bool:
        try:
            self.services.runners.status()
        except RunnerUnavailable:
            return False
        return True

    def _is_ready(self) -> bool:
        try:
            with urllib.request.urlopen(f"{self.address}/readyz", timeout=5) as response:
                return bool(response.status == 200)
        except (urllib.error.URLError, OSError):
            return False

    def _warm_live_models(self) -> None:
        for job in live_jobs(self.services):
            # One model that cannot be held must not keep the others, or the server, from starting.
            with contextlib.suppress(RunnerFailed, RunnerUnavailable):
                self.services.runners.ensure(job)

    def _rewarm(self) -> None:
        deadline = time.monotonic() + READY_SECONDS
        while not self._keeper_answers() and time.monotonic() < deadline:
            time.sleep(0.1)
        with contextlib.suppress(Exception):
            self._warm_live_models()

    def _note_database(self) -> None:
        """Tell `key` and `add`, run beside us, where the database is."""
        path = self.settings.run / "database.json"
        path.touch(mode=0o600)
        path.write_text(json.dumps({"url": self.database_url, "pid": os.getpid()}))


class _Stopped(BaseException):
    """Raised by the signal handler: whatever is being waited for is given up."""


@contextlib.contextmanager
def background_services(settings: Settings) -> Iterator[Services]:
    """Services with database and keeper: those of a running server, or started for the moment.

    Parameters
    ----------
    settings : Settings
    """
    url = settings.database_url or running_database(settings)
    if running_database(settings) and url:
        use_database(url)
        yield make_services(settings)
        return
    service = Service(settings)
    with service.until_stopped():
        service.start_background()
        yield service.services


def running_database(settings: Settings) -> str | None:
    """The database of the server that runs on this state directory, if one does.

    Parameters
    ----------
    settings : Settings
    """
    if not settings.run.is_dir():
        return None
    try:
        _flock(settings.run).close()
    except AlreadyRunning:
        with contextlib.suppress(OSError, ValueError, KeyError):
            url: str = json.loads((settings.run / "database.json").read_text())["url"]
            return url
    return None


def _lock(settings: Settings) -> TextIO:
    """Hold the state directory, once all that an earlier life has left in it is gone.

    Raises
    ------
    AlreadyRunning
    """
    file = _flock(settings.run)
    end_earlier(settings.run / "children.json")
    return file


def _flock(run: Path) -> TextIO:
    """The kernel lets go of it whatever becomes of us."""
    run.mkdir(parents=True, exist_ok=True)
    file = open(run / "lock", "a")  # noqa: SIM115 - held open as long as the service runs
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        file.close()
        raise AlreadyRunning from None
    return file


def _listen(settings: Settings) -> socket.socket:
    """The socket visitors connect to.

    Raises
    ------
    NotStarted
        If the port is taken.
    """
    family = socket.AF_INET6 if ":" in settings.host else socket.AF_INET
    listening = socket.socket(family, socket.SOCK_STREAM)
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listening.bind((settings.host, settings.port))
    except OSError as error:
        listening.close()
        raise NotStarted(
            f"Port {settings.port} is taken by another program ({error.strerror}). "
            "Choose another with --port or PLAINWINDOW_PORT."
        ) from None
    listening.listen(BACKLOG)
    return listening


def _answer_signals(how: Callable[[int, FrameType | None], None] | signal.Handlers) -> None:
    """What this process does when it is told to stop."""
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, how)
