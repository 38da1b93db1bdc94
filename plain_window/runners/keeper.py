"""Starts runners, watches them, and brings them back.

Each runner has a *tender*: a thread that starts it, follows what it says over the control socket, publishes its
listening socket once it is ready, and starts it again when it dies. The thread lives as long as its runner may,
because bubblewrap's `--die-with-parent` follows the thread that started it, not the process.

A socket file exists exactly while its runner is ready: callers that find none are told to come back soon.
"""

import contextlib
import logging
import os
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from ..service.settings import Settings, read_settings
from .confinement import Confinement, check_confinement, runner_command, runner_environment
from .jobs import RunnerJob
from .kernels import prepare_kernels
from .protocol import Frames, ProtocolError, listen, pack, receive, send

__all__ = ["Keeper", "main"]

log = logging.getLogger("keeper")

# Waits before a runner that died is started again; one that lived this long counts as healthy.
BACK_OFF_SECONDS = (0.0, 0.5, 1.0, 2.0, 5.0, 15.0, 30.0)
HEALTHY_SECONDS = 60.0
STOP_SECONDS = 5.0
# What closed its control socket is ending; its exit code says how.
LAST_WORDS_SECONDS = 0.5
# A runner says little; what is longer than this is not from our runner.
RECEIVE_BYTES = 1 << 16


class Tender:
    """Looks after one runner. All of `state`, `reason`, `inspection` change under `changed`."""

    def __init__(
        self,
        job: RunnerJob,
        *,
        slot: int,
        settings: Settings,
        confinement: Confinement,
        on_use: Callable[["Tender"], None],
    ) -> None:
        self.job = job
        self.state = "starting"
        self.reason = ""
        self.faults: list[dict[str, Any]] = []
        self.inspection: dict[str, Any] | None = job.inspection
        self.opened = False
        # What came of opening, for whoever asked: the compiled model, and the rows that are kept beside it.
        self.compiled: bytes | None = None
        self.study: bytes | None = None
        self.restarts = 0
        self.changed = threading.Condition()
        self._slot = slot
        self._settings = settings
        self._confined = confinement.works
        self._on_use = on_use
        self.last_used, self.resident = time.monotonic(), 0
        self._retired = threading.Event()
        self._process: subprocess.Popen[bytes] | None = None
        self._thread = threading.Thread(target=self._tend, name=f"tender-{job.key[:8]}", daemon=True)
        self._thread.start()

    @property
    def socket_path(self) -> Path:
        """Where the runner is reached while it is ready."""
        return self._settings.runner_sockets / f"{self.job.key}.sock"

    def wait(self, until: str, timeout: float) -> None:
        """Wait until the runner has opened its model (`opened`) or answers calls (`ready`), or has failed."""

        def reached() -> bool:
            return self.state in ("failed", "finished", "ready") or (until == "opened" and self.opened)

        with self.changed:
            self.changed.wait_for(reached, timeout)

    def replace(self) -> None:
        """Kill the process; the tender starts another."""
        self._withdraw()
        self._kill()

    def put_to_sleep(self) -> None:
        """Let go of the memory; who asks next wakes another."""
        self.retire()
        # Only now may another be started for the same socket.
        self._set(state="asleep")
        log.info("runner %s is put to sleep: it was used longest ago", self.job.key[:8])

    def retire(self) -> None:
        """Kill the process for good."""
        self._retired.set()
        self.replace()
        self.join()

    def join(self) -> None:
        """Wait until the process that is ending has left nothing behind."""
        self._thread.join(STOP_SECONDS)

    def describe(self) -> dict[str, Any]:
        """The state of the runner, for callers."""
        pid = self._process.pid if self._process and self._process.poll() is None else None
        return {
            "key": self.job.key,
            "state": self.state,
            "reason": self.reason,
            "faults": self.faults,
            "inspection": self.inspection if self.opened else None,
            "compiled": self.compiled,
            "study": self.study,
            "restarts": self.restarts,
            "resident": self.resident,
            "pid": pid,
        }

    def _tend(self) -> None:
        deaths = 0
        while not self._retired.is_set():
            started = time.monotonic()
            try:
                self._run_once()
            except OSError as error:
                self._fail(f"The runner could not be started: {error.strerror or error}.")
            if self.state in ("failed", "finished") or self._retired.is_set():
                return
            deaths = 0 if time.monotonic() - started > HEALTHY_SECONDS else deaths + 1
            self.restarts += 1
            log.warning("runner %s died; starting it again", self.job.key[:8])
            self._retired.wait(BACK_OFF_SECONDS[min(deaths, len(BACK_OFF_SECONDS) - 1)])

    def _run_once(self) -> None:
        """From start to death of one process."""
        ours, theirs = socket.socketpair()
        pending = self.socket_path.with_suffix(".starting")
        with ours, contextlib.ExitStack() as opened:
            listening = opened.enter_context(listen(pending))
            with theirs:
                self._process = self._start(theirs)
            try:
                self._hand_over(ours, listening)
                # Our copy must go: once the runner is dead nobody listens, and callers learn it at once.
                listening.close()
                self._follow(ours, pending)
            except (OSError, ProtocolError) as error:
                log.warning("runner %s: %s", self.job.key[:8], error)
            finally:
                self._withdraw()
                pending.unlink(missing_ok=True)
                code = self._exit_code()
                if self.state == "starting" and not self.opened and not self._retired.is_set():
                    self._fail(_death_sentence(code))

    def _start(self, control: socket.socket) -> subprocess.Popen[bytes]:
        kernels = self._settings.kernels
        command = runner_command(slot=self._slot, control=control.fileno(), confined=self._confined, kernels=kernels)
        environment = runner_environment() if self._confined else runner_environment(kernels=str(kernels))
        with open(self._settings.logs / f"runner-{self.job.key[:8]}.log", "wb") as said:
            return subprocess.Popen(
                command,
                stdin=subprocess.DEVNULL,
                stdout=said,
                stderr=said,
                env=environment,
                pass_fds=[control.fileno()],
                start_new_session=True,
            )

    def _hand_over(self, control: socket.socket, listening: socket.socket) -> None:
        """The job, the listening socket and the open files: all that the runner ever gets."""
        paths = {"model": self.job.compiled or self.job.model}
        if self.job.preprocessor and not self.job.compiled:
            paths["preprocessor"] = self.job.preprocessor
        if self.inspection is None:
            tables = {"reference": self.job.reference, "known": self.job.known}
            paths.update({name: path for name, path in tables.items() if path})
        elif self.job.study:
            paths["study"] = self.job.study
        message = {
            "files": list(paths),
            "is_compiled": self.job.compiled is not None,
            "target": self.job.target,
            "labels": self.job.labels,
            "inspection": self.inspection,
            "background_rows": self.job.background_rows,
            "memory_bytes": self._settings.limits.runner_memory_bytes,
        }
        with contextlib.ExitStack() as opened:
            files = [opened.enter_context(open(path, "rb")) for path in paths.values()]
            data = pack(message)
            descriptors = [listening.fileno(), *(file.fileno() for file in files)]
            # The descriptors ride on the first four bytes, which the other side reads alone.
            socket.send_fds(control, [data[:4]], descriptors)
            control.sendall(data[4:])

    def _follow(self, control: socket.socket, pending: Path) -> None:
        """What the runner says, until it is gone."""
        frames = Frames()
        deadline = time.monotonic() + self._settings.limits.open_seconds
        while True:
            left = deadline - time.monotonic()
            control.settimeout(None if self.state == "ready" else max(left, 0.01))
            try:
                data = control.recv(RECEIVE_BYTES)
            except TimeoutError:
                seconds = self._settings.limits.open_seconds
                self._fail(f"The model took more than {seconds:g} seconds to open and was stopped.")
                return
            if not data:
                return
            for event in frames.feed(data):
                self._take(event, pending)
                if self.state in ("failed", "finished"):
                    return

    def _take(self, event: dict[str, Any], pending: Path) -> None:
        if event.get("event") == "opened":
            with self.changed:
                self.inspection, self.opened = event["inspection"], True
                self.compiled, self.study = event["compiled"], event["study"]
                self.changed.notify_all()
        elif event.get("event") == "ready":
            pending.rename(self.socket_path)
            self._set(state="ready")
            log.info("runner %s is ready", self.job.key[:8])
            self._note_use(event)
        elif event.get("event") == "used":
            self._note_use(event)
        elif event.get("event") == "finished":
            self._set(state="finished")
        elif event.get("event") == "failed":
            self._fail(str(event.get("reason", "")), event.get("faults") or [])
            log.warning("runner %s failed: %s %s", self.job.key[:8], self.reason, event.get("traceback", ""))

    def _note_use(self, event: dict[str, Any]) -> None:
        self.last_used, self.resident = time.monotonic(), int(event.get("resident", 0))
        self._on_use(self)

    def _fail(self, reason: str, faults: list[dict[str, Any]] | None = None) -> None:
        with self.changed:
            self.state, self.reason, self.faults = "failed", reason, faults or []
            self.changed.notify_all()

    def _set(self, *, state: str) -> None:
        with self.changed:
            self.state = state
            self.changed.notify_all()

    def _withdraw(self) -> None:
        """No longer ready, for whoever asks and whoever calls."""
        self.socket_path.unlink(missing_ok=True)
        if self.state == "ready":
            self._set(state="starting")

    def _kill(self) -> None:
        process = self._process
        if process and process.poll() is None:
            # bubblewrap's first process dies with it, and with that everything in its process namespace.
            with contextlib.suppress(ProcessLookupError):
                os.killpg(process.pid, signal.SIGKILL)

    def _exit_code(self) -> int:
        """How the process ended; it is ended if it has not by itself."""
        with contextlib.suppress(subprocess.TimeoutExpired):
            return self._process.wait(timeout=LAST_WORDS_SECONDS)
        self._kill()
        return self._process.wait()


def _death_sentence(code: int) -> str:
    if code in (-signal.SIGKILL, 128 + signal.SIGKILL):
        return "The model was stopped while it was being opened: it took more memory than a runner may have."
    return (
        "Opening the model file ended the process it was opened in. It is damaged, runs code that ends the process, "
        "or needs more memory than a runner may have."
    )


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
    """All tenders by key, and the socket the web tier asks at."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._confinement = probe_confinement(settings)
        self._tenders: dict[str, Tender] = {}
        self._lock = threading.Lock()
        self._slots = 0

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
            tenders, self._tenders = list(self._tenders.values()), {}
        for tender in tenders:
            tender.retire()

    def _keep_to_budget(self, in_use: Tender) -> None:
        """Put the runners used longest ago to sleep until the rest fit into memory."""
        with self._lock:
            ready = [tender for tender in self._tenders.values() if tender.state == "ready" and tender is not in_use]
            ready.sort(key=lambda tender: tender.last_used)
            taken = in_use.resident + sum(tender.resident for tender in ready)
            asleep = []
            while ready and taken > self._settings.limits.all_runners_bytes:
                asleep.append(ready.pop(0))
                taken -= asleep[-1].resident
        for tender in asleep:
            tender.put_to_sleep()

    def _serve_one(self, connection: socket.socket) -> None:
        with connection, contextlib.suppress(ProtocolError, OSError):
            while True:
                send(connection, self._answer(receive(connection)))

    def _answer(self, message: dict[str, Any]) -> dict[str, Any]:
        do = message.get("do")
        if do == "ensure":
            return self._ensure(RunnerJob.model_validate(message["job"]), message["until"], message["timeout"])
        if do == "status":
            with self._lock:
                tenders = list(self._tenders.values())
            return {
                "confinement": {
                    "works": self._confinement.works,
                    "reason": self._confinement.reason,
                    "probes": dict(self._confinement.probes),
                },
                "runners": [
                    {**tender.describe(), "inspection": None, "compiled": None, "study": None} for tender in tenders
                ],
            }
        tender = self._tenders.get(message.get("key", ""))
        if tender and do == "replace":
            tender.replace()
        elif tender and do == "retire":
            with self._lock:
                self._tenders.pop(tender.job.key, None)
            tender.retire()
        return {}

    def _ensure(self, job: RunnerJob, until: str, timeout: float) -> dict[str, Any]:
        if not self._confinement.works and "pickle" not in self._settings.unconfined:
            reason = (
                f"Models that can run code are not opened here, because runners cannot be confined on this machine: "
                f"{self._confinement.reason} Whoever runs this server can allow it with PLAINWINDOW_UNCONFINED=pickle."
            )
            return {"key": job.key, "state": "failed", "reason": reason, "faults": [], "inspection": None}
        tender = self._tender_for(job)
        if until != "now":
            tender.wait(until, timeout)
            if tender.state == "finished" and job.compiled is not None and tender.job.compiled is None:
                # It had just opened the model; what is wanted now is to serve what came of that.
                tender = self._tender_for(job)
                tender.wait(until, timeout)
        said = tender.describe()
        # What came of opening is large, and wanted once.
        return said if until == "opened" else {**said, "compiled": None, "study": None}

    def _tender_for(self, job: RunnerJob) -> Tender:
        """The tender of this job: the one that is there, or another in place of one that has ended."""
        with self._lock:
            tender = self._tenders.get(job.key)
            if tender is not None and tender.state not in ("failed", "finished", "asleep"):
                return tender
            if tender is not None:
                # Both would use the same socket.
                tender.join()
            self._slots += 1
            self._tenders[job.key] = Tender(
                job,
                slot=self._slots,
                settings=self._settings,
                confinement=self._confinement,
                on_use=self._keep_to_budget,
            )
            return self._tenders[job.key]


def main() -> None:
    """Run the keeper until it is told to stop."""
    logging.basicConfig(level=logging.INFO, format="%(asctime)s %(name)s %(message)s", stream=sys.stderr)
    settings = read_settings()
    settings.make_folders()
    for stale in settings.runner_sockets.iterdir():
        stale.unlink()
    prepare_kernels(settings.kernels)
    keeper = Keeper(settings)
    listening = listen(settings.run / "keeper.sock")
    stopping = threading.Event()

    def stop(_signal: int, _frame: object) -> None:
        stopping.set()

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    threading.Thread(target=keeper.serve, args=(listening,), daemon=True).start()
    stopping.wait()
    (settings.run / "keeper.sock").unlink(missing_ok=True)
    keeper.stop()


if __name__ == "__main__":
    main()
