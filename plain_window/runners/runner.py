"""The confined process: opens one model and answers calls for it.

Started by the keeper with one argument, the descriptor of the control socket. Over that it gets its job and the open
files, and tells what became of them (`opened`, `ready` or `failed`). Then it serves a listening socket it was handed.
Calls that have arrived by the time the model is free are predicted together.
"""

import contextlib
import ctypes
import gc
import os
import selectors
import signal
import socket
import sys
import time
import traceback
from pathlib import Path
from typing import Any, BinaryIO

from ..core.errors import Fault, Faults, InputFaults, MismatchFaults, ModelFailed, PlainWindowError
from ..core.models.study import Study, read_study, write_study
from .confinement import KERNELS_VARIABLE, limit_this_process
from .held import HeldCompiled, HeldLibrary, HeldPictures
from .protocol import HEADER, Array, Frames, ProtocolError, pack, send

__all__ = ["main"]

RECEIVE_BYTES = 1 << 16
# The most rows handed to the model at once; more calls wait for the next round.
MAX_BATCH_ROWS = 4096
# A caller that does not take its reply within this time loses its connection; the others go on.
SEND_SECONDS = 2.0
WARM_UP_CALLS = 3
# How often the keeper hears that this runner is in use.
TELL_SECONDS = 5.0


def main(control_descriptor: int) -> None:
    """Run one runner until the keeper closes the control socket."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    control = socket.socket(fileno=control_descriptor)
    job, descriptors = _receive_job(control)
    _take_kernels()
    limit_this_process(memory_bytes=job["memory_bytes"])
    listening = socket.socket(fileno=descriptors[0])
    opened = [os.fdopen(descriptor, "rb") for descriptor in descriptors[1:]]
    files = dict(zip(job["files"], opened, strict=True))
    try:
        held = _hold(job, files, control)
    except BaseException as error:  # whatever a model file does, the keeper hears of it in words
        send(control, {"event": "failed", **_failure(error)})
        return
    for file in opened:
        file.close()
    if held is None:
        send(control, {"event": "finished"})
        return
    send(control, {"event": "ready", "resident": _resident_bytes()})
    _Server(held, listening, control).serve()


def _take_kernels() -> None:
    """Use the machine code of the kernels that the keeper had made; without it numba makes it here."""
    from ..core.machine_code import use_machine_code

    place = os.environ.get(KERNELS_VARIABLE)
    if place:
        use_machine_code(Path(place))


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


def _resident_bytes() -> int:
    """What of this process is in memory."""
    with open("/proc/self/statm") as statm:
        return int(statm.read().split()[1]) * os.sysconf("SC_PAGE_SIZE")


def _hold(job: dict[str, Any], files: dict[str, BinaryIO], control: socket.socket) -> HeldLibrary | HeldCompiled | None:
    """What the job asks for, opened and warm; None if a compiled model came of it, which another runner will serve."""
    if job["is_compiled"]:
        held: HeldLibrary | HeldCompiled = HeldCompiled(files["model"].read())
        send(control, {"event": "opened", "inspection": job["inspection"], "compiled": None, "study": None})
        return _warm(held, job["inspection"], _kept_study(files), job["background_rows"])
    # Imported here, inside the walls and after the limits: a library that misbehaves on import is contained too.
    from ..core.models.found import Inspection
    from ..core.models.opening import open_model
    from ..core.models.without_table import as_picture_model

    model = open_model(files["model"], files.get("preprocessor"))
    if job["inspection"] is not None:
        inspection = Inspection.model_validate(job["inspection"])
        send(control, {"event": "opened", "inspection": job["inspection"], "compiled": None, "study": None})
        study = _kept_study(files)
        if inspection.picture_inputs:
            model = as_picture_model(model)
            # What the one number of a model is for was learnt when it was brought.
            if inspection.answer.kind == "class" and model.found.task == "number":
                model.take_as_two_classes()
    else:
        model, inspection, study, compiled = _inspected(model, job, files)
        send(
            control,
            {
                "event": "opened",
                "inspection": inspection.model_dump(mode="json"),
                "compiled": compiled,
                "study": write_study(study),
            },
        )
        if compiled is not None:
            return None
    if inspection.picture_inputs:
        held: Any = HeldPictures(model, inspection.picture_inputs, inspection.columns)
    else:
        held = HeldLibrary(model, inspection)
    return _warm(held, inspection.model_dump(mode="json"), study, job["background_rows"])


def _inspected(model: Any, job: dict[str, Any], files: dict[str, BinaryIO]) -> tuple[Any, Any, Study, bytes | None]:
    """The model as it will be asked, what it and its tables amount to, the rows to keep, and the compiled model's file
    if that is proved."""
    from ..core.fields.tables import read_table
    from ..core.models.inspection import inspect_model
    from ..core.models.picture_inspection import inspect_picture_model
    from ..core.models.studying import study_model
    from ..core.models.without_table import as_picture_model, looks_at_pictures, stand_in_lines, without_lines
    from ..core.pictures.labelled import is_zip

    pictures = next((files[name] for name in ("known", "reference") if name in files and is_zip(files[name])), None)
    table = read_table(files["reference"]) if "reference" in files and files["reference"] is not pictures else None
    told = {"target": job["target"], "labels": job["labels"]}
    lines = stand_in_lines(model) if table is None and not looks_at_pictures(model) else None
    if table is None and lines is None:
        model = as_picture_model(model)
    if looks_at_pictures(model):
        inspection, study = inspect_picture_model(model, table, known=pictures, **told)
        return model, inspection, study, None
    if pictures is not None:
        raise MismatchFaults([Fault("known", "The model takes rows of a table; known cases must be a table too.")])
    known = read_table(files["known"], name="the table of known cases") if "known" in files else None
    inspection, plan = inspect_model(model, lines if table is None else table, **told)
    content = compiled = None
    if plan is not None:
        from ..core.compiled.container import write_plan

        content = write_plan(plan)
        compiled = HeldCompiled(content).compiled
    if table is None:
        inspection, study = without_lines(inspection)
    else:
        inspection, study = study_model(model, table, inspection, known, compiled)
    return model, inspection, study, content


def _kept_study(files: dict[str, BinaryIO]) -> Study | None:
    return read_study(files["study"].read()) if "study" in files else None


def _warm(held: Any, inspection: dict[str, Any], study: Study | None, background_rows: int) -> Any:
    """Ask it a few times, so that a visitor's first call is as fast as the rest."""
    from .explaining import RowExplainer
    from .looking import PictureExplainer

    row = inspection["warm_up_row"]
    # What an older version found says nothing of pictures.
    if inspection.get("picture_inputs"):
        held.explainer = PictureExplainer(held, inspection, study, background_rows=background_rows)
    else:
        held.explainer = RowExplainer(held, inspection, study, background_rows=background_rows)
    for _ in range(WARM_UP_CALLS):
        held.predict([row])
        held.explainer.explain({"row": row, "explanation": held.compiled is not None, "curves": True, "similar": True})
    _give_back_memory()
    return held


def _give_back_memory() -> None:
    """What getting ready took and nothing holds any more goes back to the system, where its library can do that."""
    gc.collect()
    with contextlib.suppress(AttributeError, OSError):
        ctypes.CDLL(None).malloc_trim(0)


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

    def __init__(self, held: Any, listening: socket.socket, control: socket.socket) -> None:
        self._held = held
        self._selector = selectors.DefaultSelector()
        self._waiting: list[tuple[socket.socket, dict[str, Any]]] = []
        self._control = control
        self._told = time.monotonic()
        listening.setblocking(False)
        self._selector.register(listening, selectors.EVENT_READ, self._accept)
        # The keeper never sends again; the socket becomes readable when it is gone.
        self._selector.register(control, selectors.EVENT_READ, lambda _: sys.exit(0))

    def serve(self) -> None:
        while True:
            # Calls left over from a full batch must not wait for the next one to arrive, nor must work for idle times.
            is_busy = self._waiting or self._held.explainer.has_work
            for key, _ in self._selector.select(timeout=0 if is_busy else None):
                key.data(key.fileobj)
            if self._waiting:
                self._answer(self._next_batch())
                self._tell()
            elif is_busy:
                self._held.explainer.work()

    def _tell(self) -> None:
        """That the model is in use, and what it takes: runners used longest ago are put to sleep first."""
        if time.monotonic() - self._told > TELL_SECONDS:
            self._told = time.monotonic()
            send(self._control, {"event": "used", "resident": _resident_bytes()})

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
        if self._waiting[0][1]["do"] != "predict":
            return [self._waiting.pop(0)]
        while (
            self._waiting
            and self._waiting[0][1]["do"] == "predict"
            and (not batch or n_rows + len(self._waiting[0][1]["rows"]) <= MAX_BATCH_ROWS)
        ):
            batch.append(self._waiting.pop(0))
            n_rows += len(batch[-1][1]["rows"])
        return batch

    def _answer(self, batch: list[tuple[socket.socket, dict[str, Any]]]) -> None:
        if batch[0][1]["do"] != "predict":
            caller, message = batch[0]
            self._reply(caller, pack(self._explained(message)))
            return
        started = time.perf_counter()
        rows = [row for _, message in batch for row in message["rows"]]
        # Several calls may have come over one connection; their replies go back in one piece, in their order.
        replies: dict[socket.socket, list[bytes]] = {}
        try:
            outputs = self._held.predict(rows)
        except (ModelFailed, InputFaults):
            # One row that the model cannot take must not fail the rows it happened to arrive with.
            for caller, message in batch:
                replies.setdefault(caller, []).append(pack(self._answer_alone(message["rows"])))
        else:
            spent_ms = (time.perf_counter() - started) * 1000
            at = 0
            for caller, message in batch:
                n_rows = len(message["rows"])
                reply = {"outputs": _array(outputs[at : at + n_rows]), "predict_ms": spent_ms}
                replies.setdefault(caller, []).append(pack(reply))
                at += n_rows
        for caller, parts in replies.items():
            self._reply(caller, b"".join(parts))

    def _explained(self, message: dict[str, Any]) -> dict[str, Any]:
        try:
            return self._held.explainer.answer(message["do"], message)
        except (ModelFailed, InputFaults) as error:
            return _refusal(error)

    def _answer_alone(self, rows: list[dict[str, Any]]) -> dict[str, Any]:
        started = time.perf_counter()
        try:
            outputs = self._held.predict(rows)
        except (ModelFailed, InputFaults) as error:
            return _refusal(error)
        return {"outputs": _array(outputs), "predict_ms": (time.perf_counter() - started) * 1000}

    def _reply(self, caller: socket.socket, data: bytes) -> None:
        try:
            caller.sendall(data)
        except OSError:
            self._drop(caller)


def _refusal(error: ModelFailed | InputFaults) -> dict[str, Any]:
    if isinstance(error, InputFaults):
        return {"faults": [[fault.field, fault.message] for fault in error.faults]}
    return {"failed": str(error), "traceback": error.traceback}


def _array(outputs: Any) -> Array:
    return Array(str(outputs.dtype), outputs.shape, outputs.tobytes())


if __name__ == "__main__":
    main(int(sys.argv[1]))
