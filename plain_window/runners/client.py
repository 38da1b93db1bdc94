"""The web tier's one way to runners: calls go straight to a runner's socket; the keeper is asked when that fails."""

import contextlib
import socket
import threading
from dataclasses import dataclass
from typing import Any

from ..service.settings import Settings
from .jobs import RunnerJob
from .protocol import ProtocolError, connect, receive, send

__all__ = ["Prediction", "RunnerClient", "RunnerFailed", "RunnerRaised", "RunnerUnavailable"]

# What a caller is told to wait for a runner that is starting: about what one takes.
RETRY_AFTER_SECONDS = 2
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
        # Connections that wait for their next call, by runner. Threads come and go; connections are handed on.
        self._idle: dict[str, list[socket.socket]] = {}
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
        """
        reply = self._call(job, {"do": "predict", "rows": rows})
        if "failed" in reply:
            raise RunnerRaised(reply["failed"], reply["traceback"])
        return Prediction(reply["outputs"].rows(), reply["predict_ms"])

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
        """Close the connections that wait for a next call."""
        for key in list(self._idle):
            self._close_idle(key)

    def status(self) -> dict[str, Any]:
        """Confinement and the state of all runners."""
        return self._ask_keeper({"do": "status"})

    def _call(self, job: RunnerJob, message: dict[str, Any]) -> dict[str, Any]:
        kept = self._take_idle(job.key)
        if kept is not None:
            try:
                return self._exchange(job, kept, message)
            except (OSError, ProtocolError) as error:
                kept.close()
                self._close_idle(job.key)
                if isinstance(error, TimeoutError):
                    raise self._overrun(job) from error
                # The runner behind a kept connection may have been replaced since; ask the one that is there now.
        fresh = self._connection(job)
        try:
            return self._exchange(job, fresh, message)
        except (OSError, ProtocolError) as error:
            fresh.close()
            if isinstance(error, TimeoutError):
                raise self._overrun(job) from error
            raise RunnerUnavailable("The model stopped and is being started again. Try again in a moment.") from error

    def _connection(self, job: RunnerJob) -> socket.socket:
        """A new connection to the runner; one that was asleep is woken and waited for."""
        path, timeout = self._settings.runner_sockets / f"{job.key}.sock", self._settings.limits.call_seconds
        with contextlib.suppress(OSError):
            return connect(path, timeout=timeout)
        state = self.ensure(job)
        # One that died before may die again; nobody is kept waiting for that.
        if not state["restarts"]:
            self.ensure(job, until="ready", timeout=WAKE_SECONDS)
            with contextlib.suppress(OSError):
                return connect(path, timeout=timeout)
        raise RunnerUnavailable("The model is starting. Try again in a moment.")

    def _exchange(self, job: RunnerJob, connection: socket.socket, message: dict[str, Any]) -> dict[str, Any]:
        send(connection, message)
        reply = receive(connection)
        with self._lock:
            self._idle.setdefault(job.key, []).append(connection)
        return reply

    def _overrun(self, job: RunnerJob) -> RunnerUnavailable:
        with contextlib.suppress(RunnerUnavailable):
            self._ask_keeper({"do": "replace", "key": job.key})
        seconds = self._settings.limits.call_seconds
        return RunnerUnavailable(
            f"The model took more than {seconds:g} seconds for this and was stopped.", overran=True
        )

    def _close_idle(self, key: str) -> None:
        with self._lock:
            connections = self._idle.pop(key, [])
        for connection in connections:
            connection.close()

    def _take_idle(self, key: str) -> socket.socket | None:
        with self._lock:
            waiting = self._idle.get(key)
            return waiting.pop() if waiting else None

    def _ask_keeper(self, message: dict[str, Any], *, timeout: float = 0.0) -> dict[str, Any]:
        try:
            with connect(self._settings.run / "keeper.sock", timeout=timeout + KEEPER_SLACK_SECONDS) as connection:
                send(connection, message)
                return receive(connection)
        except (OSError, ProtocolError) as error:
            raise RunnerUnavailable("The models are starting. Try again in a moment.") from error
