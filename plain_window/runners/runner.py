"""The confined process: opens one model and answers calls for it.

Started by the keeper with one argument, the descriptor of the control socket. Over that it gets its job and the open
files, and tells what became of them (`opened`, `ready` or `failed`). Then it serves a listening socket it was handed.
Calls that have arrived by the time the model is free are predicted together.
"""

import contextlib
import os
import selectors
import signal
import socket
import sys
import time
import traceback
from typing import Any, BinaryIO

from ..core.errors import Faults, ModelFailed, PlainWindowError
from .confinement import limit_this_process
from .protocol import HEADER, Array, Frames, ProtocolError, pack, send

__all__ = ["main"]

RECEIVE_BYTES = 1 << 16
# The most rows handed to the model at once; more calls wait for the next round.
MAX_BATCH_ROWS = 4096
# A caller that does not take its reply within this time loses its connection; the others go on.
SEND_SECONDS = 2.0


def main(control_descriptor: int) -> None:
    """Run one runner until the keeper closes the control socket."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    control = socket.socket(fileno=control_descriptor)
    job, descriptors = _receive_job(control)
    limit_this_process(memory_bytes=job["memory_bytes"])
    listening = socket.socket(fileno=descriptors[0])
    files = [os.fdopen(descriptor, "rb") for descriptor in descriptors[1:]]
    try:
        held = _hold(job, files, control)
    except BaseException as error:  # whatever a model file does, the keeper hears of it in words
        send(control, {"event": "failed", **_failure(error)})
        return
    for file in files:
        file.close()
    send(control, {"event": "ready"})
    _Server(held, listening, control).serve()


def _receive_job(control: socket.socket) -> tuple[dict[str, Any], list[int]]:
    """The job, and the descriptors that came with its header."""
    header, descriptors, _, _ = socket.recv_fds(control, HEADER.size, 8)
    frames = Frames()
    messages = frames.feed(header)
    while not messages:
        part = control.recv(RECEIVE_BYTES)
        if not part:
            raise ProtocolError("the keeper went away before it gave a job")
        messages = frames.feed(part)
    return messages[0], list(descriptors)


class _Held:
    """A model with what is needed to ask it."""

    def __init__(self, model: Any, inspection: Any) -> None:
        self.model = model
        self.inspection = inspection

    def predict(self, rows: list[dict[str, Any]]) -> Any:
        from ..core.fields.tables import model_table

        return self.model.predict(model_table(self.inspection.columns, rows))


def _hold(job: dict[str, Any], files: list[BinaryIO], control: socket.socket) -> _Held:
    # Imported here, inside the walls and after the limits: a library that misbehaves on import is contained too.
    from ..core.models.inspection import Inspection, inspect_model, open_model, warm_up

    model = open_model(files[0])
    if job["inspection"] is None:
        inspection = inspect_model(model, files[1], target=job["target"], labels=job["labels"])
    else:
        inspection = Inspection.model_validate(job["inspection"])
    send(control, {"event": "opened", "inspection": inspection.model_dump(mode="json")})
    warm_up(model, inspection)
    return _Held(model, inspection)


def _failure(error: BaseException) -> dict[str, Any]:
    if isinstance(error, Faults):
        faults = [{"field": fault.field, "message": fault.message} for fault in error.faults]
        return {"reason": str(error), "faults": faults}
    if isinstance(error, PlainWindowError):
        return {"reason": str(error), "faults": []}
    if isinstance(error, MemoryError):
        return {"reason": "The model and its table do not fit into the memory a runner may take.", "faults": []}
    reason = f"The model could not be prepared: {type(error).__name__}: {str(error)[:300]}"
    return {"reason": reason, "faults": [], "traceback": traceback.format_exc(limit=-12)}


class _Server:
    """Reads every connection without waiting, and asks the model about all that has come together."""

    def __init__(self, held: _Held, listening: socket.socket, control: socket.socket) -> None:
        self._held = held
        self._selector = selectors.DefaultSelector()
        self._waiting: list[tuple[socket.socket, dict[str, Any]]] = []
        listening.setblocking(False)
        self._selector.register(listening, selectors.EVENT_READ, self._accept)
        # The keeper never sends again; the socket becomes readable when it is gone.
        self._selector.register(control, selectors.EVENT_READ, lambda _: sys.exit(0))

    def serve(self) -> None:
        while True:
            # Calls left over from a full batch must not wait for the next one to arrive.
            for key, _ in self._selector.select(timeout=0 if self._waiting else None):
                key.data(key.fileobj)
            if self._waiting:
                self._answer(self._next_batch())

    def _accept(self, listening: socket.socket) -> None:
        with contextlib.suppress(BlockingIOError):
            connection, _ = listening.accept()
            connection.settimeout(SEND_SECONDS)
            frames = Frames()
            self._selector.register(connection, selectors.EVENT_READ, lambda caller: self._read(caller, frames))

    def _read(self, caller: socket.socket, frames: Frames) -> None:
        try:
            data = caller.recv(RECEIVE_BYTES)
            messages = frames.feed(data) if data else None
        except (OSError, ProtocolError):
            messages = None
        if messages is None:
            self._drop(caller)
            return
        self._waiting += [(caller, message) for message in messages]

    def _drop(self, caller: socket.socket) -> None:
        with contextlib.suppress(KeyError):
            self._selector.unregister(caller)
        caller.close()
        self._waiting = [waiting for waiting in self._waiting if waiting[0] is not caller]

    def _next_batch(self) -> list[tuple[socket.socket, dict[str, Any]]]:
        batch, n_rows = [], 0
        while self._waiting and (not batch or n_rows + len(self._waiting[0][1]["rows"]) <= MAX_BATCH_ROWS):
            batch.append(self._waiting.pop(0))
            n_rows += len(batch[-1][1]["rows"])
        return batch

    def _answer(self, batch: list[tuple[socket.socket, dict[str, Any]]]) -> None:
        started = time.perf_counter()
        rows = [row for _, message in batch for row in message["rows"]]
        try:
            outputs = self._held.predict(rows)
        except ModelFailed:
            # One row that the model cannot take must not fail the rows it happened to arrive with.
            for caller, message in batch:
                self._reply(caller, self._answer_alone(message["rows"]))
            return
        spent_ms = (time.perf_counter() - started) * 1000
        at = 0
        for caller, message in batch:
            n_rows = len(message["rows"])
            self._reply(caller, {"outputs": _array(outputs[at : at + n_rows]), "predict_ms": spent_ms})
            at += n_rows

    def _answer_alone(self, rows: list[dict[str, Any]]) -> dict[str, Any]:
        started = time.perf_counter()
        try:
            outputs = self._held.predict(rows)
        except ModelFailed as error:
            return {"failed": str(error), "traceback": error.traceback}
        return {"outputs": _array(outputs), "predict_ms": (time.perf_counter() - started) * 1000}

    def _reply(self, caller: socket.socket, message: dict[str, Any]) -> None:
        try:
            caller.sendall(pack(message))
        except OSError:
            self._drop(caller)


def _array(outputs: Any) -> Array:
    return Array(str(outputs.dtype), outputs.shape, outputs.tobytes())


if __name__ == "__main__":
    main(int(sys.argv[1]))
