"""One runner as its keeper sees it: started, followed, watched, brought back when it dies.

Each has a thread. It starts the process through the spawner, follows what it says over the control socket, publishes
its listening socket once it is ready, looks what it takes, and starts it again when it dies. If the keeper itself dies,
the process lives on, and the next keeper takes it over.

A socket file exists exactly while its runner is ready: callers that find none are told to come back soon.
"""

import contextlib
import logging
import mmap
import selectors
import signal
import socket
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Literal

import msgspec

from ..core.contract import (
    ContractBroken,
    Event,
    Failed,
    FaultFound,
    Finished,
    ModelFacts,
    Opened,
    Ready,
    Used,
    decoded,
    encoded,
)
from ..core.contract.events import EVENT_BYTES, OPENED_BYTES
from ..core.contract.jobs import RunnerJob
from ..core.contract.keeping import Ended, RunnerState, RunnerStatus, State, Until
from ..log_files import clipped_line
from .cgroups import RunnerCgroup
from .output import OutputLog
from .protocol import FrameReader, ProtocolError
from .spawner import Spawned, SpawnerGone
from .starting import AWAY, BridgeAway, Machine, memory_of, start_runner
from .watching import CPU_FACTOR, HEARTBEAT_BYTES, Beat, CpuWatch, calls_begun, read_beat, use_of

__all__ = ["NOTE_SUFFIX", "RunnerNote", "TrackedRunner"]

log = logging.getLogger("keeper")

# Waits before a runner that died is started again; one that lived this long counts as healthy.
BACK_OFF_SECONDS = (0.0, 0.0, 0.5, 1.0, 2.0, 5.0, 15.0, 30.0)
HEALTHY_SECONDS = 60.0
STOP_SECONDS = 5.0
# One that says what it must not is replaced so often, and then given up.
MOST_BREACHES, GIVEN_UP_SECONDS = 5, 600.0
# How often it is looked at while a call is under way, and while there is none.
BUSY_LOOK_SECONDS, IDLE_LOOK_SECONDS = 0.25, 1.0
RECEIVE_BYTES = 1 << 20
# Importing libraries for the first time, and converting a network, takes longer than opening a file.
OWN_LIBRARIES_FACTOR = 3
LIBRARIES_GONE = (
    "The libraries that this model asks for are not on this machine any more. Give its requirements again, and "
    "they are built anew."
)
REASON_CHARACTERS, TRACEBACK_CHARACTERS = 2000, 20_000
LINE_CHARACTERS, MOST_LINES = 200, 20
MOST_FAULTS = 50
# A piece of a table, whatever it is written as: the words of a large spreadsheet are read before its first row.
WORK_SECONDS = 60.0


# Beside the socket of a runner that is ready: what the next keeper needs to take it over.
NOTE_SUFFIX = ".note"


class RunnerNote(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a keeper writes down of a runner that is ready: its job, and which user id it has."""

    job: RunnerJob
    slot: int


class TrackedRunner:
    """Looks after one runner. All of `state`, `reason`, `inspection` change under `changed`.

    Parameters
    ----------
    job : RunnerJob
    slot : int
        Which user id it gets.
    machine : Machine
    on_use : callable
        Called with it whenever it was in use.
    is_running : bool
        Whether a keeper before this one has started it, and it is ready.
    """

    def __init__(
        self,
        job: RunnerJob,
        *,
        slot: int,
        machine: Machine,
        on_use: Callable[["TrackedRunner"], None],
        is_running: bool = False,
    ) -> None:
        self.job = job
        self.slot = slot
        self.state: State = "ready" if is_running else "starting"
        self.reason = ""
        self.faults: list[FaultFound] = []
        self.traceback = ""
        self.requirements: list[str] = []
        self.is_away = False
        self.inspection: bytes | None = job.inspection
        self.opened = is_running
        # What came of opening, for whoever asked: the compiled model, and the rows that are kept beside it.
        self.compiled: bytes | None = None
        self.kept_rows: bytes | None = None
        self.converted: bytes | None = None
        self.restarts = 0
        # Why it was stopped last, for callers whose call that was; and what its author should hear of.
        self.ended = Ended()
        self.trouble = ""
        self.changed = threading.Condition()
        self.last_used, self.resident = time.monotonic(), 0
        self._machine, self._settings = machine, machine.settings
        self._on_use = on_use
        self._breaches = 0
        self.given_up_until = 0.0
        self._retired = threading.Event()
        self._spawned: Spawned | None = None
        self._group: RunnerCgroup | None = None
        self._thread = threading.Thread(target=self._look_after, args=(is_running,), daemon=True)
        self._thread.start()

    @property
    def socket_path(self) -> Path:
        """Where the runner is reached while it is ready."""
        return self._settings.runner_sockets / f"{self.job.key}.sock"

    @property
    def note_path(self) -> Path:
        """What the next keeper needs to take it over."""
        return self._settings.runner_sockets / f"{self.job.key}{NOTE_SUFFIX}"

    def wait(self, until: Until, timeout: float) -> None:
        """Wait until the runner has opened its model (`opened`) or answers calls (`ready`), has failed or sleeps.

        Parameters
        ----------
        until : Until
            How far it must have come.
        timeout : float
            In seconds.
        """

        def reached() -> bool:
            return self.state in ("failed", "finished", "ready", "asleep") or (until == "opened" and self.opened)

        with self.changed:
            self.changed.wait_for(reached, timeout)

    def break_off(self, breach: str) -> None:
        """It said something that it must not: kill the process, and start another.

        Parameters
        ----------
        breach : str
            What was found.
        """
        self._breaches += 1
        if self._breaches >= MOST_BREACHES:
            # Before it is killed: the thread must find that it is not to start another.
            self.given_up_until = time.monotonic() + GIVEN_UP_SECONDS
            self._retired.set()
            self._fail(
                f"The model's process said what no runner says, {MOST_BREACHES} times. It is not started again soon."
            )
        self._stop_for("breach", f"Its process broke the protocol: {breach}")

    def put_to_sleep(self) -> None:
        """Let go of the memory; who asks next wakes another."""
        # Noted first: a call that had just begun is asked again by whoever made it.
        self.ended = Ended("asleep")
        self.retire()
        if self.state == "failed":
            # Given up meanwhile: that it is not to be woken soon stays so.
            return
        # Only now may another be started for the same socket.
        self._set(state="asleep")
        log.info("runner %s is put to sleep: it was used longest ago", self.job.key[:8])

    def retire(self, *, wait: bool = True) -> None:
        """Kill the process for good.

        Parameters
        ----------
        wait : bool, optional
            Whether to wait until it is gone.
        """
        self._retired.set()
        self._withdraw()
        self._kill()
        if wait:
            self.join()

    def join(self) -> None:
        """Wait until the process that is ending has left nothing behind."""
        self._thread.join(STOP_SECONDS)

    def describe(self, *, with_opened: bool = False) -> RunnerState:
        """The runner as it is now, for callers.

        Parameters
        ----------
        with_opened : bool, default=False
            Whether what came of opening its model comes along: it is large.
        """
        inspection = self.inspection if self.opened else None
        state = RunnerState(
            self.job.key,
            self.state,
            self.reason,
            self.faults,
            self.traceback,
            self.is_away,
            self.requirements,
            self.restarts,
            inspection,
        )
        if not with_opened:
            return state
        made = {"compiled": self.compiled, "kept_rows": self.kept_rows, "converted": self.converted}
        return msgspec.structs.replace(state, **made)

    def status(self) -> RunnerStatus:
        """The runner for whoever looks after the server."""
        pid = self._spawned.pid if self._spawned else None
        return RunnerStatus(self.job.key, self.state, self.reason, self.restarts, self.resident, self.trouble, pid)

    # --- the thread ---------------------------------------------------------------------------------------------------

    def _look_after(self, is_running: bool) -> None:
        deaths = 0
        while not self._retired.is_set():
            started = time.monotonic()
            try:
                self._run_once(is_running)
            except BridgeAway:
                self.is_away = True
                self._fail(AWAY)
            except OSError as error:
                self._fail(f"The runner could not be started: {error.strerror or error}.")
            except SpawnerGone:
                return
            is_running = False
            if self.state in ("failed", "finished") or self._retired.is_set():
                return
            deaths = 0 if time.monotonic() - started > HEALTHY_SECONDS else deaths + 1
            self.restarts += 1
            log.warning("runner %s died; starting it again", self.job.key[:8])
            self._retired.wait(BACK_OFF_SECONDS[min(deaths, len(BACK_OFF_SECONDS) - 1)])

    def _run_once(self, is_running: bool) -> None:
        """From start (or take-over) to death of one process."""
        # Its own: one of the same name that is ending must not take away what the next has just made.
        pending = self.socket_path.with_suffix(f".starting{self.slot}")
        if is_running:
            self._spawned = self._machine.spawner.take_over(self.job.key)
            self._group = self._machine.cgroups.existing(self.job.key)
        else:
            if self.job.bridge is not None and not Path(self.job.bridge).exists():
                self.is_away = True
                self._fail(AWAY)
                return
            if self.job.has_own_libraries and not Path(self.job.environment or "").is_dir():
                self._fail(LIBRARIES_GONE)
                return
            self._spawned, self._group = start_runner(self.job, self._now(), self._machine, slot=self.slot, at=pending)
        try:
            if self._retired.is_set():
                self._kill()
            self._follow(self._spawned, pending)
        except (OSError, ProtocolError) as error:
            log.warning("runner %s: %s", self.job.key[:8], error)
        except ContractBroken as error:
            self.break_off(str(error))
        finally:
            self._withdraw()
            pending.unlink(missing_ok=True)
            code = self._ended_with()
            if self.state == "starting" and not self.opened and not self._retired.is_set():
                self._fail(_end_while_opening(code, self.ended.why))

    @property
    def _call_seconds(self) -> float:
        """How long one call may take. Nobody's page waits for a piece of a table."""
        own = self._settings.limits.call_seconds
        return own if self.job.work is None else max(own, WORK_SECONDS)

    def _now(self) -> RunnerJob:
        """The job as it is by now: once opened, the model is not taken in again."""
        if self.inspection is None or self.job.inspection is not None:
            return self.job
        return self.job.found(self.inspection)

    def _follow(self, spawned: Spawned, pending: Path) -> None:
        """What the runner says and takes, until it is gone."""
        frames, printed = FrameReader(limit=EVENT_BYTES), OutputLog(self._log_path)
        cpu, begun = CpuWatch(factor=CPU_FACTOR + self.job.n_workers), 0
        most_seconds = self._settings.limits.open_seconds * (OWN_LIBRARIES_FACTOR if self.job.has_own_libraries else 1)
        deadline = time.monotonic() + most_seconds
        with mmap.mmap(spawned.heartbeat, HEARTBEAT_BYTES, prot=mmap.PROT_READ) as shared, _selecting(spawned) as ready:
            beat_of = memoryview(shared)
            try:
                while True:
                    quiet = printed.wait_seconds()
                    beat = read_beat(beat_of)
                    pause = BUSY_LOOK_SECONDS if beat or self.state != "ready" else IDLE_LOOK_SECONDS
                    for key, _ in ready.select(timeout=min(pause, quiet) if quiet else pause):
                        if key.data == "output":
                            if not quiet and not printed.take(spawned.output):
                                ready.unregister(spawned.output)
                        elif key.data == "control":
                            if not self._heard(spawned.control, frames, pending):
                                return
                        else:
                            return
                    if quiet:
                        time.sleep(min(quiet, BUSY_LOOK_SECONDS))
                    if self.state != "ready" and time.monotonic() > deadline:
                        self._fail(f"The model took more than {most_seconds:g} seconds to open and was stopped.")
                        return
                    before, begun = begun, calls_begun(beat_of)
                    self._look(spawned.pid, read_beat(beat_of), cpu, had_calls=begun != before)
            finally:
                beat_of.release()

    @property
    def _log_path(self) -> Path:
        return self._settings.logs / f"runner-{self.job.key[:8]}.log"

    def _heard(self, control: socket.socket, frames: FrameReader, pending: Path) -> bool:
        """Take what came over the control socket; False once there is no more to come."""
        data = control.recv(RECEIVE_BYTES)
        if not data:
            return False
        frames.feed(data)
        while True:
            frames.limit = OPENED_BYTES if not self.opened and self.inspection is None else EVENT_BYTES
            try:
                body = frames.next()
            except ProtocolError as error:
                raise ContractBroken(str(error)) from error
            if body is None:
                return True
            self._take(decoded(body, Event), pending)
            if self.state in ("failed", "finished"):
                return False

    def _take(self, event: Event, pending: Path) -> None:
        if isinstance(event, Opened):
            self._take_opened(event)
        elif isinstance(event, Ready):
            if self.state != "starting" or not self.opened:
                raise ContractBroken("it was ready before it had opened anything, or twice")
            self.note_path.touch(mode=0o600)
            self.note_path.write_bytes(encoded(RunnerNote(self._now(), self.slot)))
            pending.rename(self.socket_path)
            self._set(state="ready")
            log.info("runner %s is ready", self.job.key[:8])
            self._note_use()
        elif isinstance(event, Used):
            self._note_use()
        elif isinstance(event, Finished):
            self._set(state="finished")
        elif isinstance(event, Failed):
            faults = [
                FaultFound(
                    one.field and one.field[:200],
                    one.message[:REASON_CHARACTERS],
                    one.asks[:LINE_CHARACTERS],
                    tuple(choice[:LINE_CHARACTERS] for choice in one.choices[:MOST_LINES]),
                )
                for one in event.faults[:MOST_FAULTS]
            ]
            shown = event.traceback[-TRACEBACK_CHARACTERS:] if event.is_for_author else ""
            self.requirements = [line[:LINE_CHARACTERS] for line in event.requirements[:MOST_LINES]]
            self._fail(event.reason[:REASON_CHARACTERS], faults, shown)
            log.warning("runner %s failed: %s %s", self.job.key[:8], clipped_line(self.reason), event.traceback[-4000:])

    def _take_opened(self, event: Opened) -> None:
        if self.opened and self.restarts == 0:
            raise ContractBroken("it opened its model twice")
        with self.changed:
            if self.job.work is not None:
                # It holds nothing that could be found.
                pass
            elif self.job.table is not None:
                # What it holds is no model; whoever asked decodes it.
                self.kept_rows = event.kept_rows
            elif self.inspection is None:
                try:
                    ModelFacts.of_inspection(event.inspection or b"")
                except (msgspec.MsgspecError, ValueError, RecursionError):
                    raise ContractBroken("what it found is no inspection of a model") from None
                self.inspection = event.inspection
                self.compiled, self.kept_rows = event.compiled, event.kept_rows
                self.converted = event.converted
            self.opened = True
            self.changed.notify_all()

    # --- watching -----------------------------------------------------------------------------------------------------

    def _look(self, pid: int, beat: Beat | None, cpu: CpuWatch, *, had_calls: bool) -> None:
        """What it takes, and how long it has been at its call; whether it had any since the last look."""
        use = use_of(pid, self._group)
        self.resident = use.memory_bytes
        if use.memory_bytes > memory_of(self.job, self._settings):
            self._stop_for("memory", f"It took {use.memory_bytes >> 20} MB, more than a runner may have.")
        elif self.state == "ready" and beat and time.monotonic() - beat.began > self._call_seconds:
            self._stop_for("overran", "", call=beat.call, is_quick=beat.is_quick)
        elif self.state == "ready" and cpu.is_too_much(use.cpu_seconds, is_busy=beat is not None or had_calls):
            self._stop_for("processor", "It computed while nobody had asked it anything.")

    def _stop_for(
        self,
        why: Literal["breach", "memory", "overran", "processor"],
        trouble: str,
        *,
        call: int = 0,
        is_quick: bool = False,
    ) -> None:
        """Kill the process; the thread starts another."""
        # Noted first: callers see the end of their connection at once, and ask.
        self.ended = Ended(why, call, is_quick)
        if trouble:
            self.trouble = trouble[:REASON_CHARACTERS]
            log.warning("runner %s is stopped. %s", self.job.key[:8], clipped_line(trouble))
        self._withdraw()
        self._kill()

    def _note_use(self) -> None:
        self.last_used = time.monotonic()
        if self._spawned:
            self.resident = use_of(self._spawned.pid, self._group).memory_bytes
        self._on_use(self)

    # --- small steps --------------------------------------------------------------------------------------------------

    def _fail(self, reason: str, faults: list[FaultFound] | None = None, traceback: str = "") -> None:
        with self.changed:
            self.state, self.reason, self.faults, self.traceback = "failed", reason, faults or [], traceback
            self.changed.notify_all()

    def _set(self, *, state: State) -> None:
        with self.changed:
            self.state = state
            self.changed.notify_all()

    def _withdraw(self) -> None:
        """No longer ready, for whoever asks and whoever calls."""
        self.socket_path.unlink(missing_ok=True)
        self.note_path.unlink(missing_ok=True)
        if self.state == "ready":
            self._set(state="starting")

    def _kill(self) -> None:
        spawned = self._spawned
        if spawned and spawned.pidfd >= 0:
            # bubblewrap's first process dies with it, and with that everything in its process namespace.
            with contextlib.suppress(ProcessLookupError, OSError):
                signal.pidfd_send_signal(spawned.pidfd, signal.SIGKILL)

    def _ended_with(self) -> int:
        """How the process ended; it is ended if it has not by itself."""
        spawned, self._spawned = self._spawned, None
        if spawned is None:
            return 0
        code = None
        # What closed its control socket is ending; its exit code says how.
        for patience in (0.5, STOP_SECONDS):
            if spawned.pidfd >= 0:
                with selectors.DefaultSelector() as ending:
                    ending.register(spawned.pidfd, selectors.EVENT_READ)
                    has_ended = bool(ending.select(timeout=patience))
                if not has_ended:
                    with contextlib.suppress(ProcessLookupError):
                        signal.pidfd_send_signal(spawned.pidfd, signal.SIGKILL)
                    continue
            break
        deadline = time.monotonic() + STOP_SECONDS
        while (code := self._machine.spawner.forget(self.job.key)) is None and time.monotonic() < deadline:
            time.sleep(0.005)
        spawned.close()
        if self._group:
            self._group.remove()
        return code or 0


def _end_while_opening(code: int, why: str | None) -> str:
    if why == "breach":
        return "What the model's process said while it was opened is not what a model says. It was stopped."
    if why == "memory" or code in (-signal.SIGKILL, 128 + signal.SIGKILL):
        return "The model was stopped while it was being opened: it took more memory than a runner may have."
    return (
        "Opening the model file ended the process it was opened in. It is damaged, runs code that ends the process, "
        "or needs more memory than a runner may have."
    )


@contextlib.contextmanager
def _selecting(spawned: Spawned) -> Iterator[selectors.BaseSelector]:
    with selectors.DefaultSelector() as ready:
        ready.register(spawned.control, selectors.EVENT_READ, "control")
        ready.register(spawned.output, selectors.EVENT_READ, "output")
        if spawned.pidfd >= 0:
            ready.register(spawned.pidfd, selectors.EVENT_READ, "end")
        yield ready
