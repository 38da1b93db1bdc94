"""Ways to runners: a call goes straight to a runner's socket; the keeper is asked when that fails.

Plain answers go over one connection, everything that takes longer over another, a few at a time: a runner takes answers
first. All connections of a process are shared by all who ask in it.
"""

import contextlib
import secrets
import socket
import threading
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar, cast

from ..core.contract import ContractBroken, Raised, Refused, decoded
from ..core.contract.jobs import RunnerJob
from ..core.contract.keeping import (
    Done,
    Ended,
    Ensure,
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
from ..core.contract.requests import Request
from ..core.errors import Fault, InputFaults
from ..settings import Settings
from .failures import RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable
from .pipe import Pipe, PipeBroken
from .protocol import ProtocolError, connect, receive, send
from .turns import TooManyWaiting, Turns

if TYPE_CHECKING:
    from typing_extensions import TypeForm

__all__ = ["RunnerLines", "is_away"]

# For one whose model is in a process that is away: nobody knows when it comes back.
AWAY_AFTER_SECONDS = 15
# A runner that is there takes a connection at once.
CONNECT_SECONDS = 2.0
# How long a caller waits for a model that was asleep: waking takes a second, several on a machine that is full.
WAKE_SECONDS = 15.0
# On top of what the keeper itself waits.
KEEPER_SLACK_SECONDS = 10.0
# A call's own clock runs at the keeper, from when the runner takes it. This is for a runner that never does.
PATIENCE = 3.0
# Plain answers under way for one demo in one web process; a thousand would take longer than anybody waits.
MOST_ANSWERS, MOST_ANSWERS_EACH = 1000, 250

Reply = TypeVar("Reply")


class RunnerLines:
    """One for each process that asks; safe to use from its threads.

    Parameters
    ----------
    settings : Settings
    """

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._pipes: dict[tuple[str, bool], Pipe] = {}
        self._turns: dict[str, Turns] = {}
        self._answers: dict[str, Turns] = {}
        self._lock = threading.Lock()

    def is_there(self, job: RunnerJob) -> bool:
        """Whether a runner holds `job` right now, without asking for one.

        Parameters
        ----------
        job : RunnerJob
        """
        return (self._settings.runner_sockets / f"{job.key}.sock").exists()

    def ensure(self, job: RunnerJob, *, until: Until = "now", timeout: float = 0.0) -> RunnerState:
        """Have the keeper hold `job`; wait until it is `opened` or `ready` if asked to.

        Parameters
        ----------
        job : RunnerJob
        until : str, default="now"
        timeout : float
            Seconds to wait at the longest.

        Raises
        ------
        RunnerUnavailable
            If the keeper does not answer.
        RunnerFailed
            If the model cannot be held.
        """
        state = self._ask_keeper(Ensure(job, until, timeout), RunnerState, timeout=timeout)
        if state.state == "failed" and state.is_away:
            raise RunnerUnavailable("away", retry_after=AWAY_AFTER_SECONDS)
        if state.state == "failed":
            raise RunnerFailed(state.reason, state.faults, state.traceback, state.requirements)
        return state

    def retire(self, key: str) -> None:
        """Let go of a runner that nothing needs any more.

        Parameters
        ----------
        key : str
        """
        self._ask_keeper(Retire(key), Done)

    def retire_all_but(self, keys: list[str]) -> None:
        """Let go of all runners but these, and but those whose models are being opened.

        Parameters
        ----------
        keys : list of str
        """
        self._ask_keeper(RetireAllBut(keys), Done)

    def close(self) -> None:
        """Close all connections."""
        for pipe in list(self._pipes.values()):
            pipe.close()

    def status(self) -> KeeperStatus:
        """Confinement and the state of all runners."""
        return self._ask_keeper(StatusRequest(), KeeperStatus)

    # --- one call -----------------------------------------------------------------------------------------------------

    def _ask(
        self,
        job: RunnerJob,
        request: Request,
        type_: "TypeForm[Reply]",
        limit: int,
        *,
        caller: str,
        patience: float | None = None,
    ) -> Reply:
        request.call = secrets.randbits(62)
        wait = self._settings.limits.call_seconds if patience is None else patience
        try:
            with self._line_for(job, is_quick=request.is_quick).turn(caller, timeout=wait):
                body = self._call(job, request, limit)
        except TooManyWaiting as error:
            raise RunnerBusy(is_own=error.is_own) from error
        except TimeoutError:
            raise RunnerBusy(is_own=False) from None
        reply = self._decoded(job, body, type_)
        if isinstance(reply, Refused):
            raise InputFaults([Fault(field, sentence) for field, sentence in reply.faults])
        if isinstance(reply, Raised):
            raise RunnerRaised(reply.message, reply.traceback)
        return reply

    def _line_for(self, job: RunnerJob, *, is_quick: bool) -> Turns:
        lines = self._answers if is_quick else self._turns
        found = lines.get(job.key)
        if found is None:
            with self._lock:
                made = Turns(at_once=MOST_ANSWERS, most_each=MOST_ANSWERS_EACH) if is_quick else Turns()
                found = lines.setdefault(job.key, made)
        return found

    def _decoded(self, job: RunnerJob, body: bytes, type_: "TypeForm[Reply]") -> Reply | Refused | Raised:
        try:
            # Whether or not `type_` is a union itself, the three make one.
            return decoded(body, cast("TypeForm[Reply | Refused | Raised]", type_ | Refused | Raised))
        except ContractBroken as error:
            raise self._broken(job, str(error)) from error

    def _hold_against(self, job: RunnerJob, check: Callable[[], None]) -> None:
        """Whether a reply is one to what was asked."""
        try:
            check()
        except ContractBroken as error:
            raise self._broken(job, str(error)) from error

    def _broken(self, job: RunnerJob, breach: str) -> RunnerUnavailable:
        """Have a runner replaced that says what it must not."""
        self._report(job.key, breach)
        return RunnerUnavailable("no-answer")

    def _report(self, key: str, breach: str) -> None:
        with contextlib.suppress(RunnerUnavailable):
            self._ask_keeper(ReportBreach(key, breach), Done)

    def _call(self, job: RunnerJob, request: Request, limit: int) -> bytes:
        timeout = PATIENCE * self._settings.limits.call_seconds
        # A pipe may have broken since the last call, because its runner was replaced: then there is another.
        for _ in range(2):
            try:
                return self._pipe(job, is_quick=request.is_quick).call(request, most_bytes=limit, timeout=timeout)
            except PipeBroken as error:
                if error.breach and error.was_sent:
                    raise RunnerUnavailable("no-answer") from error
                if error.was_sent and not self._was_put_to_sleep(job):
                    raise self._ended(job, request) from error
            except TimeoutError as error:
                raise RunnerUnavailable("crowded") from error
        raise RunnerUnavailable("restarted")

    def _was_put_to_sleep(self, job: RunnerJob) -> bool:
        """Whether it is gone for want of memory only, and may be woken for the same call."""
        with contextlib.suppress(RunnerUnavailable):
            ended = self._ask_keeper(WhyEnded(job.key), Ended | Done)
            return isinstance(ended, Ended) and ended.why == "asleep"
        return False

    def _ended(self, job: RunnerJob, request: Request) -> RunnerUnavailable:
        """Why a runner ended while it had this call; the keeper knows what it stopped it for."""
        if is_away(job):
            return RunnerUnavailable("away", retry_after=AWAY_AFTER_SECONDS)
        ended: Ended | Done = Ended()
        with contextlib.suppress(RunnerUnavailable):
            ended = self._ask_keeper(WhyEnded(job.key), Ended | Done)
        if not isinstance(ended, Ended):
            return RunnerUnavailable("restarted")
        if ended.why == "overran" and (ended.call == request.call or (request.is_quick and ended.is_quick)):
            return RunnerUnavailable("overran", seconds=self._settings.limits.call_seconds)
        return RunnerUnavailable("memory" if ended.why == "memory" else "restarted")

    def _pipe(self, job: RunnerJob, *, is_quick: bool) -> Pipe:
        """The open connection to the runner, or a new one; a runner that was asleep is woken and waited for."""
        name = (job.key, is_quick)
        pipe = self._pipes.get(name)
        if pipe is not None and pipe.is_open:
            return pipe
        connection = self._connection(job)
        with self._lock:
            other = self._pipes.get(name)
            if other is not None and other.is_open:
                connection.close()
                return other
            self._pipes[name] = Pipe(connection, on_end=lambda ended: self._forget(name, ended))
            return self._pipes[name]

    def _connection(self, job: RunnerJob) -> socket.socket:
        path = self._settings.runner_sockets / f"{job.key}.sock"
        with contextlib.suppress(OSError):
            return connect(path, timeout=CONNECT_SECONDS)
        state = self.ensure(job)
        # One that died before may die again; nobody is kept waiting for that.
        if not state.restarts:
            self.ensure(job, until="ready", timeout=WAKE_SECONDS)
            with contextlib.suppress(OSError):
                return connect(path, timeout=CONNECT_SECONDS)
        if is_away(job):
            raise RunnerUnavailable("away", retry_after=AWAY_AFTER_SECONDS)
        raise RunnerUnavailable("starting")

    def _forget(self, name: tuple[str, bool], ended: Pipe) -> None:
        with self._lock:
            if self._pipes.get(name) is ended:
                del self._pipes[name]
        # Here, not where somebody waits: a reply too many comes when nobody does.
        if ended.breach:
            self._report(name[0], ended.breach)

    def _ask_keeper(self, request: KeeperRequest, type_: "TypeForm[Reply]", *, timeout: float = 0.0) -> Reply:
        try:
            with connect(self._settings.run / "keeper.sock", timeout=timeout + KEEPER_SLACK_SECONDS) as connection:
                send(connection, request)
                return receive(connection, type_)
        except (OSError, ProtocolError) as error:
            raise RunnerUnavailable("keeper-gone") from error


def is_away(job: RunnerJob) -> bool:
    """Whether it is a model in a process of its author's that is not connected.

    Parameters
    ----------
    job : RunnerJob
    """
    return job.bridge is not None and not Path(job.bridge).exists()
