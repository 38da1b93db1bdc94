"""The web tier's one way to runners: calls go straight to a runner's socket; the keeper is asked when that fails."""

import contextlib
import secrets
import socket
import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from ..core.contract import (
    AmongReply,
    Asked,
    ContractBroken,
    ExplainReply,
    Missing,
    OverallReply,
    PredictReply,
    Raised,
    Refused,
    WhereReply,
    decoded,
)
from ..core.errors import Fault, InputFaults
from ..service.settings import Settings
from .jobs import RunnerJob
from .pipe import Pipe, PipeBroken
from .protocol import ProtocolError, connect, receive, send
from .turns import TooManyWaiting, Turns

__all__ = ["Prediction", "RunnerBusy", "RunnerClient", "RunnerFailed", "RunnerRaised", "RunnerUnavailable"]

# What a caller is told to wait for a runner that is starting: about what one takes.
RETRY_AFTER_SECONDS = 2
# A runner that is there takes a connection at once.
CONNECT_SECONDS = 2.0
# How long a caller waits for a model that was asleep.
WAKE_SECONDS = 5.0
# On top of what the keeper itself waits.
KEEPER_SLACK_SECONDS = 10.0
# A call's own clock runs at the keeper, from when the runner takes it. This is for a runner that never does.
PATIENCE = 3.0
# Plain answers under way for one demo in one web process; a thousand would take longer than anybody waits.
MOST_ANSWERS, MOST_ANSWERS_EACH = 1000, 250
# What a reply may be long: a refusal with its traceback, numbers a row, and what explains one.
WORDS_BYTES, NUMBER_BYTES = 256 << 10, 16
NO_ANSWER = "The model's process answered with something that is no answer and was stopped. Try again in a moment."
EXPLAIN_BYTES, FULL_BYTES, PICTURE_BYTES, WHERE_BYTES, OVERALL_BYTES = 2 << 20, 16 << 20, 2 << 20, 1 << 20, 8 << 20


class RunnerUnavailable(Exception):
    """No answer now, but soon: the runner is starting, was replaced, or the keeper is coming back.

    Attributes
    ----------
    retry_after : int
        Seconds.
    overran : bool
        Whether the model took longer than it may for this very case.
    """

    def __init__(self, message: str, *, retry_after: int = RETRY_AFTER_SECONDS, overran: bool = False) -> None:
        super().__init__(message)
        self.retry_after = retry_after
        self.overran = overran


class RunnerBusy(Exception):
    """Too many calls wait for this model; `is_own` tells whether they are the caller's own."""

    def __init__(self, *, is_own: bool, retry_after: int = RETRY_AFTER_SECONDS) -> None:
        super().__init__("too many calls wait for this model")
        self.is_own = is_own
        self.retry_after = retry_after


class RunnerFailed(Exception):
    """The model cannot be held at all.

    Attributes
    ----------
    faults : list of dict
        What does not fit, column by column, if that is the reason.
    """

    def __init__(self, reason: str, faults: list[dict[str, Any]]) -> None:
        super().__init__(reason)
        self.faults = faults


class RunnerRaised(Exception):
    """The model raised for these rows; `traceback` is for the author."""

    def __init__(self, message: str, traceback: str) -> None:
        super().__init__(message)
        self.traceback = traceback


@dataclass(frozen=True)
class Prediction:
    """Outputs of shape (n_rows, n_outputs), and how long the model took for the batch they came in."""

    outputs: list[list[float]]
    predict_ms: float
    # Of each row whether it is unlike anything seen; empty where nothing hangs on that, or it cannot be told.
    unlike: list[bool] = field(default_factory=list)


class RunnerClient:
    """One for each web process; safe to use from its threads.

    Plain answers go over one connection, everything that takes longer over another, a few at a time: a runner takes
    answers first.
    """

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._pipes: dict[tuple[str, bool], Pipe] = {}
        self._turns: dict[str, Turns] = {}
        self._answers: dict[str, Turns] = {}
        self._lock = threading.Lock()

    def predict(self, job: RunnerJob, rows: list[dict[str, Any]], *, caller: str = "") -> Prediction:
        """Ask the runner that holds `job`.

        `caller` is who asks, here and below: callers have their turns one after another.

        Raises
        ------
        RunnerUnavailable
            If there is no answer now.
        RunnerBusy
            If too many wait for one already.
        RunnerFailed
            If the model cannot be held.
        RunnerRaised
            If the model raised.
        InputFaults
            If the runner finds that a picture cannot be read.
        """
        asked = Asked.of(job.inspection or {})
        limit = WORDS_BYTES + NUMBER_BYTES * len(rows) * asked.n_outputs
        message = {"do": "predict", "rows": rows}
        reply = self._ask(job, message, PredictReply, limit, caller=caller, is_quick=True)
        self._hold_against(job, lambda: asked.check_predicted(reply, n_rows=len(rows)))
        return Prediction(reply.outputs.rows(), reply.predict_ms, reply.unlike)

    def explain(
        self, job: RunnerJob, row: dict[str, Any], *, of: int | None = None, caller: str = "", **wanted: Any
    ) -> ExplainReply:
        """Ask for one row's outputs with what explains them; `wanted` as `RowExplainer.explain` takes it.

        Raises
        ------
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults
            As `predict` does.
        """
        asked = Asked.of(job.inspection or {})
        limit = (FULL_BYTES if wanted.get("full") else EXPLAIN_BYTES) + PICTURE_BYTES * len(job.pictures)
        # A picture's plain answer comes this way too, with how it was read; it is as quick as any.
        is_quick = not any(value for name, value in wanted.items() if name != "seen")
        message = {"do": "explain", "row": row, "of": of, **wanted}
        reply = self._ask(job, message, ExplainReply, limit, caller=caller, is_quick=is_quick)
        self._hold_against(job, lambda: asked.check_explained(reply, of=of))
        return reply

    def overall(self, job: RunnerJob, *, of: int, caller: str = "") -> OverallReply | Missing:
        """Ask what matters overall for one output, as far as the runner knows by now.

        Raises
        ------
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        asked = Asked.of(job.inspection or {})
        message = {"do": "overall", "of": of}
        reply = self._ask(job, message, OverallReply | Missing, OVERALL_BYTES, caller=caller)
        if isinstance(reply, OverallReply):
            self._hold_against(job, lambda: asked.check_overall(reply))
        return reply

    def among(self, job: RunnerJob, *, field: str, of: int, caller: str = "") -> AmongReply | Missing:
        """Ask for reference rows: their values of a field and the model's answers.

        Raises
        ------
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        asked = Asked.of(job.inspection or {})
        message = {"do": "among", "field": field, "of": of}
        reply = self._ask(job, message, AmongReply | Missing, EXPLAIN_BYTES, caller=caller)
        if isinstance(reply, AmongReply):
            self._hold_against(job, lambda: asked.check_among(reply))
        return reply

    def where(
        self,
        job: RunnerJob,
        row: dict[str, Any],
        *,
        field: str,
        of: int | None,
        caller: str = "",
        patience: float | None = None,
    ) -> WhereReply | Missing:
        """Ask where the model looked in the picture of `field`; the longer it is asked, the sharper.

        `patience` is how many seconds to wait for a turn, if it is not to be the usual time.

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        asked = Asked.of(job.inspection or {})
        message = {"do": "where", "row": row, "field": field, "of": of}
        reply = self._ask(job, message, WhereReply | Missing, WHERE_BYTES, caller=caller, patience=patience)
        if isinstance(reply, WhereReply):
            self._hold_against(job, lambda: asked.check_where(reply, of=of))
        return reply

    def is_there(self, job: RunnerJob) -> bool:
        """Whether a runner holds `job` right now, without asking for one."""
        return (self._settings.runner_sockets / f"{job.key}.sock").exists()

    def ensure(self, job: RunnerJob, *, until: str = "now", timeout: float = 0.0) -> dict[str, Any]:
        """Have the keeper hold `job`; wait until it is `opened` or `ready` if asked to.

        Raises
        ------
        RunnerUnavailable
            If the keeper does not answer.
        RunnerFailed
            If the model cannot be held.
        """
        message = {"do": "ensure", "job": job.model_dump(mode="json"), "until": until, "timeout": timeout}
        state = self._ask_keeper(message, timeout=timeout)
        if state["state"] == "failed":
            raise RunnerFailed(state["reason"], state["faults"])
        return state

    def retire(self, key: str) -> None:
        """Let go of a runner that nothing needs any more."""
        self._ask_keeper({"do": "retire", "key": key})

    def retire_all_but(self, keys: list[str]) -> None:
        """Let go of all runners but these, and but those whose models are being opened."""
        self._ask_keeper({"do": "retire_all_but", "keys": keys})

    def close(self) -> None:
        """Close all connections."""
        for pipe in list(self._pipes.values()):
            pipe.close()

    def status(self) -> dict[str, Any]:
        """Confinement and the state of all runners."""
        return self._ask_keeper({"do": "status"})

    # --- one call -----------------------------------------------------------------------------------------------------

    def _ask(
        self,
        job: RunnerJob,
        message: dict[str, Any],
        type_: Any,
        limit: int,
        *,
        caller: str,
        is_quick: bool = False,
        patience: float | None = None,
    ) -> Any:
        call = secrets.randbits(62)
        message = {**message, "call": call, "is_quick": is_quick}
        wait = self._settings.limits.call_seconds if patience is None else patience
        try:
            with self._line_for(job, is_quick=is_quick).turn(caller, timeout=wait):
                body = self._call(job, message, call, limit, is_quick=is_quick)
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

    def _decoded(self, job: RunnerJob, body: bytes, type_: Any) -> Any:
        try:
            return decoded(body, type_ | Refused | Raised)
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
        return RunnerUnavailable(NO_ANSWER)

    def _report(self, key: str, breach: str) -> None:
        with contextlib.suppress(RunnerUnavailable):
            self._ask_keeper({"do": "breach", "key": key, "breach": breach})

    def _call(self, job: RunnerJob, message: dict[str, Any], call: int, limit: int, *, is_quick: bool) -> bytes:
        timeout = PATIENCE * self._settings.limits.call_seconds
        # A pipe may have broken since the last call, because its runner was replaced: then there is another.
        for _ in range(2):
            try:
                return self._pipe(job, is_quick=is_quick).call(message, most_bytes=limit, timeout=timeout)
            except PipeBroken as error:
                if error.breach and error.was_sent:
                    raise RunnerUnavailable(NO_ANSWER) from error
                if error.was_sent:
                    raise self._ended(job, call, is_quick=is_quick) from error
            except TimeoutError as error:
                raise RunnerUnavailable("The model has much to do just now. Try again in a moment.") from error
        raise RunnerUnavailable("The model stopped and is being started again. Try again in a moment.")

    def _ended(self, job: RunnerJob, call: int, *, is_quick: bool) -> RunnerUnavailable:
        """Why a runner ended while it had this call; the keeper knows what it stopped it for."""
        reason: dict[str, Any] = {}
        with contextlib.suppress(RunnerUnavailable):
            reason = self._ask_keeper({"do": "why_ended", "key": job.key})
        seconds = self._settings.limits.call_seconds
        if reason.get("why") == "overran" and (reason["call"] == call or (is_quick and reason["is_quick"])):
            return RunnerUnavailable(
                f"The model took more than {seconds:g} seconds for this and was stopped.", overran=True
            )
        if reason.get("why") == "memory":
            return RunnerUnavailable("The model took more memory than it may and was stopped. Try again in a moment.")
        return RunnerUnavailable("The model stopped and is being started again. Try again in a moment.")

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
        if not state["restarts"]:
            self.ensure(job, until="ready", timeout=WAKE_SECONDS)
            with contextlib.suppress(OSError):
                return connect(path, timeout=CONNECT_SECONDS)
        raise RunnerUnavailable("The model is starting. Try again in a moment.")

    def _forget(self, name: tuple[str, bool], ended: Pipe) -> None:
        with self._lock:
            if self._pipes.get(name) is ended:
                del self._pipes[name]
        # Here, not where somebody waits: a reply too many comes when nobody does.
        if ended.breach:
            self._report(name[0], ended.breach)

    def _ask_keeper(self, message: dict[str, Any], *, timeout: float = 0.0) -> dict[str, Any]:
        try:
            with connect(self._settings.run / "keeper.sock", timeout=timeout + KEEPER_SLACK_SECONDS) as connection:
                send(connection, message)
                return receive(connection)
        except (OSError, ProtocolError) as error:
            raise RunnerUnavailable("The models are starting. Try again in a moment.") from error
