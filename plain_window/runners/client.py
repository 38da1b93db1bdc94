"""The web tier's one way to runners: calls go straight to a runner's socket; the keeper is asked when that fails."""

import contextlib
import socket
import threading
from dataclasses import dataclass
from typing import Any

from ..core.errors import Fault, InputFaults
from ..service.settings import Settings
from .jobs import RunnerJob
from .pipe import Pipe, PipeBroken
from .protocol import ProtocolError, connect, receive, send

__all__ = ["Prediction", "RunnerClient", "RunnerFailed", "RunnerRaised", "RunnerUnavailable"]

# What a caller is told to wait for a runner that is starting: about what one takes.
RETRY_AFTER_SECONDS = 2
# A runner that is there takes a connection at once.
CONNECT_SECONDS = 2.0
# How long a caller waits for a model that was asleep.
WAKE_SECONDS = 5.0
# On top of what the keeper itself waits.
KEEPER_SLACK_SECONDS = 10.0


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


class RunnerClient:
    """One for each web process; safe to use from its threads."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._pipes: dict[str, Pipe] = {}
        self._lock = threading.Lock()

    def predict(self, job: RunnerJob, rows: list[dict[str, Any]]) -> Prediction:
        """Ask the runner that holds `job`.

        Raises
        ------
        RunnerUnavailable
            If there is no answer now.
        RunnerFailed
            If the model cannot be held.
        RunnerRaised
            If the model raised.
        InputFaults
            If the runner finds that a picture cannot be read.
        """
        reply = self._ask(job, {"do": "predict", "rows": rows})
        return Prediction(reply["outputs"].rows(), reply["predict_ms"])

    def explain(self, job: RunnerJob, row: dict[str, Any], **wanted: Any) -> dict[str, Any]:
        """Ask for one row's outputs with what explains them; `wanted` as `RowExplainer.answer` takes it.

        Raises
        ------
        RunnerUnavailable, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        return self._ask(job, {"do": "explain", "row": row, **wanted})

    def overall(self, job: RunnerJob, *, of: int) -> dict[str, Any]:
        """Ask what matters overall for one output, as far as the runner knows by now.

        Raises
        ------
        RunnerUnavailable, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        return self._ask(job, {"do": "overall", "of": of})

    def among(self, job: RunnerJob, *, field: str, of: int) -> dict[str, Any]:
        """Ask for reference rows: their values of a field and the model's answers.

        Raises
        ------
        RunnerUnavailable, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        return self._ask(job, {"do": "among", "field": field, "of": of})

    def where(self, job: RunnerJob, row: dict[str, Any], *, field: str, of: int | None) -> dict[str, Any]:
        """Ask where the model looked in the picture of `field`; the longer it is asked, the sharper.

        Raises
        ------
        InputFaults
            If the picture cannot be read.
        RunnerUnavailable, RunnerFailed, RunnerRaised
            As `predict` does.
        """
        return self._ask(job, {"do": "where", "row": row, "field": field, "of": of})

    def _ask(self, job: RunnerJob, message: dict[str, Any]) -> dict[str, Any]:
        reply = self._call(job, message)
        if "faults" in reply:
            raise InputFaults([Fault(field, message) for field, message in reply["faults"]])
        if "failed" in reply:
            raise RunnerRaised(reply["failed"], reply["traceback"])
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

    def close(self) -> None:
        """Close all connections."""
        for pipe in list(self._pipes.values()):
            pipe.close()

    def status(self) -> dict[str, Any]:
        """Confinement and the state of all runners."""
        return self._ask_keeper({"do": "status"})

    def _call(self, job: RunnerJob, message: dict[str, Any]) -> dict[str, Any]:
        # A pipe may have broken since the last call, because its runner was replaced: then there is another.
        for _ in range(2):
            try:
                return self._pipe(job).call(message, timeout=self._settings.limits.call_seconds)
            except PipeBroken as error:
                if error.was_sent:
                    break
            except TimeoutError as error:
                raise self._overrun(job) from error
        raise RunnerUnavailable("The model stopped and is being started again. Try again in a moment.")

    def _pipe(self, job: RunnerJob) -> Pipe:
        """The open connection to the runner, or a new one; a runner that was asleep is woken and waited for."""
        pipe = self._pipes.get(job.key)
        if pipe is not None and pipe.is_open:
            return pipe
        connection = self._connection(job)
        with self._lock:
            other = self._pipes.get(job.key)
            if other is not None and other.is_open:
                connection.close()
                return other
            self._pipes[job.key] = Pipe(connection, on_end=lambda ended: self._forget(job.key, ended))
            return self._pipes[job.key]

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

    def _forget(self, key: str, ended: Pipe) -> None:
        with self._lock:
            if self._pipes.get(key) is ended:
                del self._pipes[key]

    def _overrun(self, job: RunnerJob) -> RunnerUnavailable:
        with contextlib.suppress(RunnerUnavailable):
            self._ask_keeper({"do": "replace", "key": job.key})
        seconds = self._settings.limits.call_seconds
        return RunnerUnavailable(
            f"The model took more than {seconds:g} seconds for this and was stopped.", overran=True
        )

    def _ask_keeper(self, message: dict[str, Any], *, timeout: float = 0.0) -> dict[str, Any]:
        try:
            with connect(self._settings.run / "keeper.sock", timeout=timeout + KEEPER_SLACK_SECONDS) as connection:
                send(connection, message)
                return receive(connection)
        except (OSError, ProtocolError) as error:
            raise RunnerUnavailable("The models are starting. Try again in a moment.") from error
