"""Starts runners, watches them, and brings them back: one process that the web tier asks.

If it dies, runners go on; the next one takes them over (see `spawner`).
"""

import contextlib
import json
import logging
import os
import queue
import signal
import socket
import sys
import threading
import time
from typing import Any

from ..service.logs import log_to_stderr
from ..service.settings import Settings, read_settings
from .cgroups import find_cgroups
from .confinement import Confinement, check_confinement, recorded_confinement
from .jobs import RunnerJob
from .kernels import prepare_kernels
from .protocol import ProtocolError, listen, receive, send
from .spawner import SpawnerClient, SpawnerGone
from .tracked import Machine, TrackedRunner

__all__ = ["Keeper", "main"]

log = logging.getLogger("keeper")

# Given to a keeper that comes after one that died: what that one found out of this machine still holds.
AGAIN = "--again"


def probe_confinement(settings: Settings) -> Confinement:
    """Try the walls with things that are really there: a port, a socket, a secret in the state directory."""
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
        kept = {note.stem for note in self._settings.runner_sockets.glob("*.json")}
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
            note = json.loads((self._settings.runner_sockets / f"{key}.json").read_text())
            job, slot = RunnerJob.model_validate(note["job"]), int(note["slot"])
        except (OSError, ValueError, KeyError):
            return False
        self._slots = max(self._slots, slot)
        self._runners[key] = TrackedRunner(
            job, slot=slot, machine=self._machine, on_use=self._keep_to_budget, is_running=True
        )
        return True

    def serve(self, listening: socket.socket) -> None:
        """Answer until the process is stopped."""
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
                send(connection, self._answer(receive(connection)))

    def _answer(self, message: dict[str, Any]) -> dict[str, Any]:
        do = message.get("do")
        if do == "ensure":
            return self._ensure(RunnerJob.model_validate(message["job"]), message["until"], message["timeout"])
        if do == "status":
            return self._status()
        if do == "retire_all_but":
            self._retire_all_but(set(message["keys"]))
            return {}
        runner = self._runners.get(message.get("key", ""))
        if runner is None:
            return {}
        if do == "breach":
            runner.break_off(str(message["breach"])[:200])
        elif do == "why_ended":
            return runner.ended
        elif do == "retire":
            with self._lock:
                self._runners.pop(runner.job.key, None)
            runner.retire()
        return {}

    def _status(self) -> dict[str, Any]:
        with self._lock:
            runners = list(self._runners.values())
        return {
            "confinement": {
                "works": self.confinement.works,
                "reason": self.confinement.reason,
                "probes": dict(self.confinement.probes),
                "missing": self._missing,
            },
            "runners": [
                {**runner.describe(), "inspection": None, "compiled": None, "study": None} for runner in runners
            ],
        }

    def _retire_all_but(self, keys: set[str]) -> None:
        """Let go of what nothing needs any more; what is being opened is wanted by who brings it."""
        with self._lock:
            gone = [
                runner
                for key, runner in self._runners.items()
                if key not in keys and not (runner.state == "starting" and runner.job.inspection is None)
            ]
            for runner in gone:
                del self._runners[runner.job.key]
        for runner in gone:
            runner.retire(wait=False)

    def _ensure(self, job: RunnerJob, until: str, timeout: float) -> dict[str, Any]:
        if not self.confinement.works and "pickle" not in self._settings.unconfined:
            reason = (
                f"Models that can run code are not opened here, because runners cannot be confined on this machine: "
                f"{self.confinement.reason} Whoever runs this server can allow it with PLAINWINDOW_UNCONFINED=pickle."
            )
            return {"key": job.key, "state": "failed", "reason": reason, "faults": [], "inspection": None}
        runner = self._runner_for(job)
        if until != "now":
            runner.wait(until, timeout)
            if runner.state == "finished" and job.compiled is not None and runner.job.compiled is None:
                # It had just opened the model; what is wanted now is to serve what came of that.
                runner = self._runner_for(job)
                runner.wait(until, timeout)
        said = runner.describe()
        # What came of opening is large, and wanted once.
        return said if until == "opened" else {**said, "compiled": None, "study": None}

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
