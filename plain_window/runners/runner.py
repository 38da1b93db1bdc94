"""The confined process: opens one model and answers calls for it.

Started by the spawner with one argument, the descriptor of the control socket. Over that it gets its job and the open
files, and tells what became of them (`core.contract.events`). Then it serves a listening socket it was handed. Calls
that have arrived by the time the model is free are predicted together, and answers come before explanations.
"""

import contextlib
import ctypes
import gc
import json
import mmap
import os
import selectors
import signal
import socket
import sys
import time
import traceback
from collections import deque
from pathlib import Path
from typing import Any, BinaryIO

from ..core.contract import Failed, Finished, Opened, PredictReply, Raised, Ready, Refused, Used, encoded
from ..core.contract.events import FaultFound
from ..core.contract.replies import Numbers
from ..core.errors import (
    Fault,
    Faults,
    InputFaults,
    MismatchFaults,
    ModelFailed,
    PlainWindowError,
    TableNotRead,
)
from ..core.models.study import Study, read_study, write_study
from .confinement import KERNELS_VARIABLE, limit_this_process
from .held import HeldCompiled, HeldLibrary, HeldPictures
from .protocol import FrameReader, ProtocolError, frame, plain_message, receive_with_files, send
from .watching import HEARTBEAT_BYTES, write_beat

__all__ = ["main"]

RECEIVE_BYTES = 1 << 16
# The most rows handed to the model at once; more calls wait for the next round.
MAX_BATCH_ROWS = 4096
# A caller that does not take its reply within this time loses its connection; the others go on.
SEND_SECONDS = 2.0
WARM_UP_CALLS = 3
# How often the keeper hears that this runner is in use.
TELL_SECONDS = 5.0
# How often an explanation under way lets answers through.
PAUSE_SECONDS = 0.01
# All questions of one explanation together; those of an honest one take some seconds on a busy machine.
MOST_ASKING_SECONDS = 30.0


def main(control_descriptor: int) -> None:
    """Run one runner until the keeper closes the control socket."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    control = socket.socket(fileno=control_descriptor)
    job, descriptors = receive_with_files(control)
    _take_kernels()
    limit_this_process(memory_bytes=job["memory_bytes"])
    listening, heartbeat = socket.socket(fileno=descriptors[0]), mmap.mmap(descriptors[1], HEARTBEAT_BYTES)
    opened = [os.fdopen(descriptor, "rb") for descriptor in descriptors[2:]]
    files = dict(zip(job["files"], opened, strict=True))
    try:
        held = _hold(job, files, control)
    except BaseException as error:  # whatever a model file does, the keeper hears of it in words
        send(control, _failure(error))
        return
    for file in opened:
        file.close()
    if held is None:
        send(control, Finished())
        return
    send(control, Ready())
    _Server(held, listening, control, memoryview(heartbeat)).serve()


def _take_kernels() -> None:
    """Use the machine code of the kernels that the keeper had made; without it numba makes it here."""
    from ..core.machine_code import use_machine_code

    place = os.environ.get(KERNELS_VARIABLE)
    if place:
        use_machine_code(Path(place))


def _hold(job: dict[str, Any], files: dict[str, BinaryIO], control: socket.socket) -> HeldLibrary | HeldCompiled | None:
    """What the job asks for, opened and warm; None if a compiled model came of it, which another runner will serve."""
    if job["is_compiled"]:
        held: HeldLibrary | HeldCompiled = HeldCompiled(files["model"].read())
        send(control, Opened())
        return _warm(held, job["inspection"], _kept_study(files), job["background_rows"])
    # Imported here, inside the walls and after the limits: a library that misbehaves on import is contained too.
    from ..core.models.found import Inspection
    from ..core.models.opening import open_model
    from ..core.models.without_table import as_picture_model

    model = open_model(files["model"], files.get("preprocessor"))
    if job["inspection"] is not None:
        inspection = Inspection.model_validate(job["inspection"])
        send(control, Opened())
        study = _kept_study(files)
        if inspection.picture_inputs:
            model = as_picture_model(model)
            # What the one number of a model is for was learnt when it was brought.
            if inspection.answer.kind == "class" and model.found.task == "number":
                model.take_as_two_classes()
    else:
        model, inspection, study, compiled = _inspected(model, job, files)
        content = json.dumps(inspection.model_dump(mode="json")).encode()
        send(control, Opened(content, compiled, write_study(study)))
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
    from ..core.models.inspection import inspect_model
    from ..core.models.picture_inspection import inspect_picture_model
    from ..core.models.studying import study_model
    from ..core.models.without_table import (
        as_picture_model,
        looks_at_pictures,
        may_see_pictures,
        stand_in_lines,
        without_lines,
    )
    from ..core.pictures.labelled import is_zip
    from ..core.tables.reading import read_table

    pictures = next((files[name] for name in ("known", "reference") if name in files and is_zip(files[name])), None)
    numbers = job["numbers"]

    def read_part(part: str, name: str) -> Any:
        try:
            return read_table(files[part], name=name, numbers=numbers)
        except TableNotRead as error:
            raise MismatchFaults([Fault(part, str(error))]) from error

    read = None
    if "reference" in files and (files["reference"] is not pictures or not may_see_pictures(model)):
        read = read_part("reference", "the reference table")
    table = None if read is None else read.table
    told = {"target": job["target"], "labels": job["labels"]}
    lines = stand_in_lines(model) if table is None and not looks_at_pictures(model) else None
    if table is None and lines is None:
        model = as_picture_model(model)
    if looks_at_pictures(model):
        inspection, study = inspect_picture_model(
            model, table, known=pictures, preparations=job["preparations"], **told
        )
        return model, inspection, study, None
    if pictures is not None:
        raise MismatchFaults([Fault("known", "The model takes rows of a table; known cases must be a table too.")])
    known = None
    if "known" in files:
        known = read_part("known", "the table of known cases")
    asked = lines if read is None else read
    inspection, plan = inspect_model(model, asked, known_cases=known, kind=job["answer_kind"], **told)
    content = compiled = None
    if plan is not None:
        from ..core.compiled.container import write_plan

        content = write_plan(plan)
        compiled = HeldCompiled(content).compiled
    if table is None:
        inspection, study = without_lines(inspection)
    else:
        inspection, study = study_model(model, read.table, inspection, known and known.table, compiled)
    return model, inspection, study, content


def _kept_study(files: dict[str, BinaryIO]) -> Study | None:
    return read_study(files["study"].read()) if "study" in files else None


def _warm(held: Any, inspection: dict[str, Any], study: Study | None, background_rows: int) -> Any:
    """Ask it a few times, so that a visitor's first call is as fast as the rest."""
    row = inspection["warm_up_row"]
    # Imported where they are needed: a runner that died is waited for. (What an older version found says nothing of
    # pictures.)
    if inspection.get("picture_inputs"):
        from .looking import PictureExplainer

        held.explainer = PictureExplainer(held, inspection, study, background_rows=background_rows)
    else:
        from .explaining import RowExplainer

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


def _failure(error: BaseException) -> Failed:
    if isinstance(error, Faults):
        return Failed(str(error), [FaultFound(fault.field, fault.message) for fault in error.faults])
    if isinstance(error, PlainWindowError):
        return Failed(str(error))
    if isinstance(error, MemoryError):
        return Failed("The model and its table do not fit into the memory a runner may take.")
    reason = f"The model could not be prepared: {type(error).__name__}: {str(error)[:300]}"
    return Failed(reason, traceback=traceback.format_exc(limit=-12))


class _Server:
    """Reads every connection without waiting, and asks the model about all that has come together."""

    def __init__(self, held: Any, listening: socket.socket, control: socket.socket, heartbeat: memoryview) -> None:
        self._held = held
        self._selector = selectors.DefaultSelector()
        # Answers come before everything that takes longer, each in the order in which it came. A connection carries
        # only one of the two, so its replies are in order.
        self._quick: deque[tuple[socket.socket, dict[str, Any]]] = deque()
        self._slow: deque[tuple[socket.socket, dict[str, Any]]] = deque()
        self._control, self._heartbeat = control, heartbeat
        self._told = time.monotonic()
        self._paused = 0.0
        held.pause = self._let_answers_through
        listening.setblocking(False)
        self._selector.register(listening, selectors.EVENT_READ, self._accept)
        # The keeper never sends again; the socket becomes readable when it is gone for good.
        self._selector.register(control, selectors.EVENT_READ, lambda _: sys.exit(0))

    def serve(self) -> None:
        while True:
            # Calls left over from a full batch must not wait for the next one to arrive, nor must work for idle times.
            is_busy = self._quick or self._slow or self._held.explainer.has_work
            self._listen(timeout=0 if is_busy else None)
            if self._quick:
                self._answer(self._next_batch())
            elif self._slow:
                self._explain(*self._slow.popleft())
            elif is_busy:
                with _Beating(self._heartbeat, 0, is_quick=False):
                    self._held.explainer.work()
                continue
            self._tell()

    def _listen(self, timeout: float | None) -> None:
        for key, _ in self._selector.select(timeout=timeout):
            key.data(key.fileobj)

    def _let_answers_through(self) -> None:
        """Between two questions of an explanation: answer what has come in the meantime."""
        now = time.monotonic()
        if now - self._paused < PAUSE_SECONDS:
            return
        self._paused = now
        _Beating.note_progress()
        self._listen(timeout=0)
        while self._quick:
            self._answer(self._next_batch())

    def _tell(self) -> None:
        """That the model is in use: runners used longest ago are put to sleep first."""
        if time.monotonic() - self._told > TELL_SECONDS:
            self._told = time.monotonic()
            send(self._control, Used())

    def _accept(self, listening: socket.socket) -> None:
        with contextlib.suppress(BlockingIOError):
            connection, _ = listening.accept()
            connection.settimeout(SEND_SECONDS)
            frames = FrameReader()
            self._selector.register(connection, selectors.EVENT_READ, lambda caller: self._read(caller, frames))

    def _read(self, caller: socket.socket, frames: FrameReader) -> None:
        try:
            data = caller.recv(RECEIVE_BYTES)
            frames.feed(data)
            messages = []
            while body := frames.next():
                messages.append(plain_message(body))
        except (OSError, ProtocolError):
            data = b""
        if not data:
            self._drop(caller)
            return
        for message in messages:
            (self._quick if message.get("is_quick") else self._slow).append((caller, message))

    def _drop(self, caller: socket.socket) -> None:
        with contextlib.suppress(KeyError):
            self._selector.unregister(caller)
        caller.close()
        for line in (self._quick, self._slow):
            left = [waiting for waiting in line if waiting[0] is not caller]
            line.clear()
            line.extend(left)

    def _next_batch(self) -> list[tuple[socket.socket, dict[str, Any]]]:
        batch, n_rows = [self._quick.popleft()], 0
        if batch[0][1]["do"] != "predict":
            return batch
        n_rows = len(batch[0][1]["rows"])
        while (
            self._quick
            and self._quick[0][1]["do"] == "predict"
            and n_rows + len(self._quick[0][1]["rows"]) <= MAX_BATCH_ROWS
        ):
            batch.append(self._quick.popleft())
            n_rows += len(batch[-1][1]["rows"])
        return batch

    def _explain(self, caller: socket.socket, message: dict[str, Any]) -> None:
        with _Beating(self._heartbeat, message.get("call", 0), is_quick=bool(message.get("is_quick"))):
            reply = self._explained(message)
        self._reply(caller, frame(encoded(reply)))

    def _answer(self, batch: list[tuple[socket.socket, dict[str, Any]]]) -> None:
        if batch[0][1]["do"] != "predict":
            self._explain(*batch[0])
            return
        with _Beating(self._heartbeat, batch[0][1].get("call", 0), is_quick=True):
            replies = self._predicted(batch)
        for caller, parts in replies.items():
            self._reply(caller, b"".join(parts))

    def _predicted(self, batch: list[tuple[socket.socket, dict[str, Any]]]) -> dict[socket.socket, list[bytes]]:
        started = time.perf_counter()
        rows = [row for _, message in batch for row in message["rows"]]
        # Several calls may have come over one connection; their replies go back in one piece, in their order.
        replies: dict[socket.socket, list[bytes]] = {}
        try:
            outputs = self._held.predict(rows)
            unlike = self._held.explainer.unlike(rows)
        except (ModelFailed, InputFaults):
            # One row that the model cannot take must not fail the rows it happened to arrive with.
            for caller, message in batch:
                replies.setdefault(caller, []).append(frame(encoded(self._answer_alone(message["rows"]))))
        else:
            spent_ms = (time.perf_counter() - started) * 1000
            at = 0
            for caller, message in batch:
                n_rows = len(message["rows"])
                reply = PredictReply(_numbers(outputs[at : at + n_rows]), spent_ms, unlike[at : at + n_rows])
                replies.setdefault(caller, []).append(frame(encoded(reply)))
                at += n_rows
        return replies

    def _explained(self, message: dict[str, Any]) -> Any:
        try:
            return self._held.explainer.answer(message["do"], message)
        except (ModelFailed, InputFaults) as error:
            return _refusal(error)

    def _answer_alone(self, rows: list[dict[str, Any]]) -> PredictReply | Raised | Refused:
        started = time.perf_counter()
        try:
            outputs = self._held.predict(rows)
        except (ModelFailed, InputFaults) as error:
            return _refusal(error)
        spent_ms = (time.perf_counter() - started) * 1000
        return PredictReply(_numbers(outputs), spent_ms, self._held.explainer.unlike(rows))

    def _reply(self, caller: socket.socket, data: bytes) -> None:
        try:
            caller.sendall(data)
        except OSError:
            self._drop(caller)


class _Beating:
    """Notes for the keeper that a call is under way, from when, and which. What it interrupts waits: its own clock
    goes on from where it stood.

    An explanation asks the model many questions. Each may take as long as a call may; how many there are is bounded by
    who explains, and all of them together here.
    """

    _outer: "_Beating | None" = None

    @classmethod
    def note_progress(cls) -> None:
        """The explanation under way has had an answer to one of its questions: its clock begins anew."""
        outer, now = cls._outer, time.monotonic_ns()
        if outer is not None and now - outer._entered < MOST_ASKING_SECONDS * 1e9:
            outer._began = now
            write_beat(outer._heartbeat, now, outer._call, is_quick=outer._is_quick)

    def __init__(self, heartbeat: memoryview, call: int, *, is_quick: bool) -> None:
        self._heartbeat, self._call, self._is_quick = heartbeat, call, is_quick

    def __enter__(self) -> None:
        self._interrupted, _Beating._outer = _Beating._outer, self
        self._began = self._entered = time.monotonic_ns()
        write_beat(self._heartbeat, self._began, self._call, is_quick=self._is_quick)

    def __exit__(self, *_: object) -> None:
        outer = _Beating._outer = self._interrupted
        if outer is None:
            write_beat(self._heartbeat, 0, 0, is_quick=False)
            return
        outer._began += time.monotonic_ns() - self._began
        write_beat(self._heartbeat, outer._began, outer._call, is_quick=outer._is_quick)


def _refusal(error: ModelFailed | InputFaults) -> Raised | Refused:
    if isinstance(error, InputFaults):
        return Refused([(fault.field, fault.message) for fault in error.faults])
    return Raised(str(error)[:4000], error.traceback[-100_000:])


def _numbers(outputs: Any) -> Numbers:
    n_rows, n_columns = outputs.shape
    return Numbers(n_rows, n_columns, outputs.astype("float64", copy=False).tobytes())


if __name__ == "__main__":
    main(int(sys.argv[1]))
