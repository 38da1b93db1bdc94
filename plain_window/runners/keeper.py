"""Starts runners, watches them, and brings them back: one process that the web tier asks.

If it dies, runners go on; the next one takes them over (see `spawner`).
"""

import contextlib
import logging
import os
import queue
import signal
import socket
import sys
import threading
import time

from ..core.contract import ContractBroken, decoded
from ..core.contract.jobs import RunnerJob
from ..core.contract.keeping import (
    ConfinementStatus,
    Done,
    Ensure,
    KeeperReply,
    KeeperRequest,
    KeeperStatus,
    ReportBreach,
    Retire,
    RetireAllBut,
    RunnerState,
    StatusRequest,
    Until,
    WhyEnded,
)
from ..log_files import log_to_stderr
from ..settings import Settings, read_settings
from .cgroups import find_cgroups
from .confinement import Confinement, check_confinement, recorded_confinement
from .kernel_cache import prepare_kernels
from .protocol import ProtocolError, listen, receive, send
from .spawner import SpawnerClient, SpawnerGone
from .starting import Machine
from .tracked import NOTE_SUFFIX, RunnerNote, TrackedRunner

__all__ = ["Keeper", "main"]

log = logging.getLogger("keeper")

BREACH_CHARACTERS = 200

# RequestInputs to a keeper that comes after one that died: what that one found out of this machine still holds.
AGAIN = "--again"


def probe_confinement(settings: Settings) -> Confinement:
    """Try the walls with things that are really there: a port, a socket, a secret in the state directory.

    Parameters
    ----------
    settings : Settings
    """
    secret, path = settings.run / "probe-secret", settings.run / "probe.sock"
    secret.write_text("not for runners")
    with socket.create_server(("127.0.0.1", 0)) as port, listen(path):
        target = {"home": str(settings.home), "secret": str(secret), "socket": str(path), "port": port.getsockname()[1]}
        confinement = check_confinement(target)
    for made in (secret, path):
        made.unlink(missing_ok=True)
    return confinement


class Keeper:
    """All runners by key, and the socket the web tier asks at.

    Parameters
    ----------
    settings : Settings
    confinement : Confinement, optional
        What is known of it; it is tried if left out.
    """

    def __init__(self, settings: Settings, confinement: Confinement | None = None) -> None:
        self._settings = settings
        self.confinement = confinement or probe_confinement(settings)
        cgroups = find_cgroups(settings.name)
        self._machine = Machine(settings, self.confinement, cgroups)
        self._missing = [*self.confinement.missing, *([cgroups.missing] if cgroups.missing else [])]
        self._runners: dict[str, TrackedRunner] = {}
        self._lock = threading.Lock()
        self._slots = 0

    def take_over(self) -> int:
        """Go on with the runners that a keeper before this one left ready; end those it was still starting.

        Returns
        -------
        int
            How many it goes on with.
        """
        spawner = SpawnerClient(self._settings.spawner_socket)
        kept = {note.stem for note in self._settings.runner_sockets.glob(f"*{NOTE_SUFFIX}")}
        for key in spawner.running():
            if key in kept and self._taken_over(key):
                continue
            with contextlib.suppress(OSError):
                left = spawner.take_over(key)
                with contextlib.suppress(ProcessLookupError):
                    os.killpg(left.pid, signal.SIGKILL)
                left.close()
            spawner.forget(key)
        for stale in self._settings.runner_sockets.iterdir():
            if stale.stem not in self._runners:
                stale.unlink(missing_ok=True)
        return len(self._runners)

    def _taken_over(self, key: str) -> bool:
        try:
            note = decoded((self._settings.runner_sockets / f"{key}{NOTE_SUFFIX}").read_bytes(), RunnerNote)
        except (OSError, ContractBroken):
            return False
        self._slots = max(self._slots, note.slot)
        self._runners[key] = TrackedRunner(
            note.job, slot=note.slot, machine=self._machine, on_use=self._keep_to_budget, is_running=True
        )
        return True

    def serve(self, listening: socket.socket) -> None:
        """Answer until the process is stopped.

        Parameters
        ----------
        listening : socket.socket
        """
        while True:
            try:
                connection, _ = listening.accept()
            except OSError:
                return
            threading.Thread(target=self._serve_one, args=(connection,), daemon=True).start()

    def stop(self) -> None:
        """Stop every runner."""
        with self._lock:
            runners, self._runners = list(self._runners.values()), {}
        for runner in runners:
            runner.retire(wait=False)
        for runner in runners:
            runner.join()

    def _keep_to_budget(self, in_use: TrackedRunner) -> None:
        """Put the runners used longest ago to sleep until the rest fit into memory."""
        with self._lock:
            ready = [runner for runner in self._runners.values() if runner.state == "ready" and runner is not in_use]
            ready.sort(key=lambda runner: runner.last_used)
            taken = in_use.resident + sum(runner.resident for runner in ready)
            asleep = []
            while ready and taken > self._settings.limits.all_runners_bytes:
                asleep.append(ready.pop(0))
                taken -= asleep[-1].resident
        for runner in asleep:
            runner.put_to_sleep()

    def _serve_one(self, connection: socket.socket) -> None:
        with connection, contextlib.suppress(ProtocolError, OSError):
            while True:
                send(connection, self._answer(receive(connection, KeeperRequest)))

    def _answer(self, request: KeeperRequest) -> KeeperReply:
        match request:
            case Ensure():
                return self._ensure(request)
            case StatusRequest():
                return self._status()
            case RetireAllBut():
                self._retire_all_but(set(request.keys))
                return Done()
        runner = self._runners.get(request.key)
        if runner is None:
            return Done()
        match request:
            case ReportBreach():
                runner.break_off(request.breach[:BREACH_CHARACTERS])
            case WhyEnded():
                return runner.ended
            case Retire():
                with self._lock:
                    self._runners.pop(runner.job.key, None)
                runner.retire()
        return Done()

    def _status(self) -> KeeperStatus:
        with self._lock:
            runners = list(self._runners.values())
        confinement = ConfinementStatus(
            self.confinement.works, self.confinement.reason, dict(self.confinement.probes), self._missing
        )
        return KeeperStatus(confinement, [runner.status() for runner in runners])

    def _retire_all_but(self, keys: set[str]) -> None:
        """Let go of what nothing needs any more; what is being opened is wanted by who brings it."""
        with self._lock:
            gone = [
                runner
                for key, runner in self._runners.items()
                if key not in keys
                # Work is let go of by whoever has it done, or ends when nobody asks for it any more.
                and (runner.job.work is None or runner.state in ("finished", "failed"))
                and not (runner.state == "starting" and runner.job.inspection is None)
            ]
            for runner in gone:
                del self._runners[runner.job.key]
        for runner in gone:
            runner.retire(wait=False)

    def _ensure(self, request: Ensure) -> RunnerState:
        job, until, timeout = request.job, request.until, request.timeout
        if not self.confinement.works and "pickle" not in self._settings.unconfined:
            reason = (
                f"Models that can run code are not opened here, because runners cannot be confined on this machine: "
                f"{self.confinement.reason} Whoever runs this server can allow it with PLAINWINDOW_UNCONFINED=pickle."
            )
            return RunnerState(job.key, "failed", reason)
        runner = self._runner_for(job) if until == "now" else self._waited_for(job, until, timeout)
        # What came of opening is large, and wanted once.
        return runner.describe(with_opened=until == "opened")

    def _waited_for(self, job: RunnerJob, until: Until, timeout: float) -> TrackedRunner:
        """The runner of this job once it is as far as is wanted, or once the time is over."""
        deadline = time.monotonic() + timeout
        while True:
            runner = self._runner_for(job)
            runner.wait(until, deadline - time.monotonic())
            # It had just opened the model, and what is wanted now is to serve what came of that; or it was being put to
            # sleep when somebody asked. Either way another takes its place.
            has_just_opened = runner.state == "finished" and job.is_opened and not runner.job.is_opened
            if not (has_just_opened or runner.state == "asleep") or time.monotonic() >= deadline:
                return runner

    def _runner_for(self, job: RunnerJob) -> TrackedRunner:
        """The runner of this job: the one that is there, or another in place of one that has ended."""
        with self._lock:
            runner = self._runners.get(job.key)
            if runner is not None and runner.state not in ("failed", "finished", "asleep"):
                return runner
            if runner is not None and time.monotonic() < runner.given_up_until:
                return runner
            if runner is not None:
                # Both would use the same socket.
                runner.join()
            self._slots += 1
            self._runners[job.key] = TrackedRunner(
                job, slot=self._slots, machine=self._machine, on_use=self._keep_to_budget
            )
            return self._runners[job.key]


def main() -> None:
    """Run the keeper until it is told to stop."""
    log_to_stderr()
    settings = read_settings()
    settings.make_folders()
    record = settings.run / "confinement.json"
    known = recorded_confinement(record) if AGAIN in sys.argv else None
    prepare_kernels(settings.kernels)
    keeper = Keeper(settings, known)
    keeper.confinement.record(record)
    try:
        n_taken_over = keeper.take_over()
    except SpawnerGone:
        log.error("what starts runners does not answer; was this not started by `./plainwindow`?")
        return
    if n_taken_over:
        log.info("%d runners go on", n_taken_over)
    listening = listen(settings.run / "keeper.sock")
    # Not an event: setting one takes a lock, for which a second signal that comes meanwhile would wait for ever.
    stops: queue.SimpleQueue[int] = queue.SimpleQueue()

    def stop(number: int, _frame: object) -> None:
        stops.put(number)

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    threading.Thread(target=keeper.serve, args=(listening,), daemon=True).start()
    stops.get()
    (settings.run / "keeper.sock").unlink(missing_ok=True)
    keeper.stop()


if __name__ == "__main__":
    main()
