"""The confined process: opens one model and answers calls for it.

Started by the spawner with one argument, the descriptor of the control socket. Over that it gets its job and the open
files, and tells what became of them (`core.contract.events`). Then it serves a listening socket it was handed. Calls
that have arrived by the time the model is free are predicted together, and answers come before explanations.
"""

import contextlib
import ctypes
import gc
import mmap
import os
import selectors
import signal
import socket
import sys
import time
import traceback
from collections import deque
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import TYPE_CHECKING, Any, BinaryIO

from ..core.contract import ContractBroken, Failed, FaultFound, Finished, Opened, Ready, Used, decoded, encoded
from ..core.contract.jobs import (
    CarryChunks,
    Handover,
    MakeModels,
    OpenFile,
    ReadCases,
    ReadFilm,
    ReadTable,
    ServeCompiled,
    ServeOriginal,
)
from ..core.contract.kept_rows import KeptRows, read_kept_rows, write_kept_rows
from ..core.contract.requests import PredictRequest, Request
from ..core.errors import Faults, ModelNotOpened, PlainWindowError
from ..core.formats.python.early import refuse_unreadable_code
from ..core.model_service.service import ModelService, compiled_service
from .confinement import KERNELS_VARIABLE, LIBRARIES_VARIABLE, limit_this_process
from .elsewhere import Desk, serve_file
from .protocol import FrameReader, ProtocolError, frame, receive_with_files, send
from .watching import HEARTBEAT_BYTES, write_beat

if TYPE_CHECKING:
    from .guest_line import BridgeLine, GuestProcess

__all__ = ["main"]

RECEIVE_BYTES = 1 << 16
# The most rows handed to the model at once; more calls wait for the next round.
MAX_BATCH_ROWS = 4096
# A caller that does not take its reply within this time loses its connection; the others go on.
SEND_SECONDS = 2.0
# How often the keeper hears that this runner is in use.
TELL_SECONDS = 5.0
# How often an explanation under way lets answers through.
PAUSE_SECONDS = 0.01
# All questions of one explanation together; those of an honest one take some seconds on a busy machine.
MOST_ASKING_SECONDS = 30.0
# Of what is told of a file of code.
MOST_TRACEBACK = 20_000
# By how much work that takes longer than a call gives way to what does not.
WORK_NICENESS = 10


def main(control_descriptor: int) -> None:
    """Run one runner until the keeper closes the control socket.

    Parameters
    ----------
    control_descriptor : int
        The open socket over which the job and its files come.
    """
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    control = socket.socket(fileno=control_descriptor)
    handover, descriptors = receive_with_files(control, Handover)
    _take_kernels()
    n_workers = handover.task.n_workers if isinstance(handover.task, CarryChunks) else 0
    limit_this_process(
        memory_bytes=handover.memory_bytes, n_workers=n_workers, more_scratch_bytes=handover.beside_bytes
    )
    listening, heartbeat = socket.socket(fileno=descriptors[0]), mmap.mmap(descriptors[1], HEARTBEAT_BYTES)
    if isinstance(handover.task, CarryChunks | MakeModels | ReadCases | ReadFilm):
        _do_work(handover.task, listening, control, memoryview(heartbeat))
        return
    n_own = 2 + handover.has_line
    line = socket.socket(fileno=descriptors[2]) if handover.has_line else None
    opened = [os.fdopen(descriptor, "rb") for descriptor in descriptors[n_own:]]
    files = dict(zip(handover.files, opened, strict=True))
    try:
        service = _open(handover, files, control, line)
    except BaseException as error:  # whatever a model file does, the keeper hears of it in words
        send(control, _failure(error))
        return
    for file in opened:
        file.close()
    if service is None:
        send(control, Finished())
        return
    send(control, Ready())
    _Server(service, listening, control, memoryview(heartbeat)).serve()


def _do_work(
    task: CarryChunks | MakeModels | ReadCases | ReadFilm,
    listening: socket.socket,
    control: socket.socket,
    heartbeat: memoryview,
) -> None:
    """What is no model: reading a table or a film for a job, or having chunks of a table asked about."""
    # Whoever waits for one answer goes before whoever waits for a million.
    with contextlib.suppress(OSError):
        os.nice(WORK_NICENESS)
    try:
        if isinstance(task, CarryChunks):
            with _without_collecting():
                from .cluster import serve_chunks

            serve_chunks(task, listening, control, heartbeat)
            return
        with _without_collecting():
            desk = _desk_for(task)
        serve_file(desk, listening, control, heartbeat)
    except Exception as error:
        words = str(error) if isinstance(error, PlainWindowError) else f"{type(error).__name__}: {str(error)[:300]}"
        send(control, Failed(words, traceback=traceback.format_exc(limit=-12)))


def _desk_for(task: MakeModels | ReadCases | ReadFilm) -> type[Desk[Any]]:
    if isinstance(task, MakeModels):
        from .table_starter import StarterDesk

        return StarterDesk
    if isinstance(task, ReadFilm):
        from .film_reader import FilmDesk

        return FilmDesk
    from .table_reader import TableDesk

    return TableDesk


def _take_kernels() -> None:
    """Use the machine code of the kernels that the keeper had made; without it numba makes it here."""
    from ..core.plan.machine_code import use_machine_code

    place = os.environ.get(KERNELS_VARIABLE)
    if place:
        use_machine_code(Path(place))


def _open(
    handover: Handover, files: Mapping[str, BinaryIO], control: socket.socket, bridge: socket.socket | None
) -> ModelService | None:
    """What the job asks for, opened and warm; None if a compiled model came of it, which another runner will serve."""
    # What a task takes is imported inside the walls and after the limits: a library that misbehaves is contained too.
    task, n_background = handover.task, handover.background_rows
    if isinstance(task, ServeCompiled):
        send(control, Opened())
        content, kept_rows = files["model"].read(), _kept_rows(files)
        return _warm(compiled_service(content, task.facts, kept_rows, background_rows=n_background))
    if isinstance(task, ReadTable):
        with _without_collecting():
            from ..core.intake.plain_tables import plain_table

        send(control, Opened(kept_rows=encoded(plain_table(files["model"], task))))
        return None
    if isinstance(task, OpenFile):
        refuse_unreadable_code(files["model"], task.function_name)
        with _without_collecting():
            from ..core.intake.opening import take_in

        found = take_in(files, task, _guest_line(handover, files, bridge))
        content = found.inspection.model_dump_json().encode()
        kept = write_kept_rows(found.kept_rows) if found.kept_rows else None
        send(control, Opened(content, found.compiled, kept, found.converted))
        if found.compiled is not None or found.converted is not None:
            return None
        return _warm(found.service(background_rows=n_background))
    assert isinstance(task, ServeOriginal), "work that is no model is done elsewhere"
    with _without_collecting():
        from ..core.intake.reopening import reopen

    send(control, Opened())
    line = _guest_line(handover, files, bridge)
    intake = reopen(files, task.inspection, _kept_rows(files), task.function_name, line)
    return _warm(intake.service(background_rows=n_background))


def _guest_line(
    handover: Handover, files: Mapping[str, BinaryIO], bridge: socket.socket | None
) -> "GuestProcess | BridgeLine | None":
    """The process with the model's own libraries, or the one that holds it, where there is one."""
    if bridge is None and not handover.has_environment:
        return None
    from .guest_line import BridgeLine, GuestProcess

    if bridge is not None:
        return BridgeLine(bridge)

    return GuestProcess(os.environ[LIBRARIES_VARIABLE], files)


@contextlib.contextmanager
def _without_collecting() -> Iterator[None]:
    """Around imports: next to nothing of what they make goes away again, and looking for that takes a tenth of them."""
    gc.disable()
    try:
        yield
    finally:
        gc.enable()


def _kept_rows(files: Mapping[str, BinaryIO]) -> KeptRows | None:
    return read_kept_rows(files["kept_rows"].read()) if "kept_rows" in files else None


def _warm(service: ModelService) -> ModelService:
    service.warm_up()
    # What getting ready took and nothing holds any more goes back to the system, where its library can do that.
    gc.collect()
    with contextlib.suppress(AttributeError, OSError):
        ctypes.CDLL(None).malloc_trim(0)
    return service


def _failure(error: BaseException) -> Failed:
    if isinstance(error, Faults):
        return Failed(str(error), [FaultFound(one.field, one.message, one.asks, one.choices) for one in error.faults])
    if isinstance(error, ModelNotOpened):
        shown, is_for_author = error.traceback[-MOST_TRACEBACK:], bool(error.traceback)
        return Failed(str(error), traceback=shown, is_for_author=is_for_author, requirements=error.requirements)
    if isinstance(error, PlainWindowError):
        return Failed(str(error))
    if isinstance(error, MemoryError):
        return Failed("The model and its table do not fit into the memory a runner may take.")
    reason = f"The model could not be prepared: {type(error).__name__}: {str(error)[:300]}"
    return Failed(reason, traceback=traceback.format_exc(limit=-12))


Call = tuple[socket.socket, Request]


class _Server:
    """Reads every connection without waiting, and asks the model about all that has come together."""

    def __init__(
        self, service: ModelService, listening: socket.socket, control: socket.socket, heartbeat: memoryview
    ) -> None:
        self._service = service
        self._selector = selectors.DefaultSelector()
        # Answers come before everything that takes longer, each in the order in which it came. A connection carries
        # only one of the two, so its replies are in order.
        self._quick: deque[Call] = deque()
        self._slow: deque[Call] = deque()
        self._control, self._heartbeat = control, heartbeat
        self._told = time.monotonic()
        self._paused = 0.0
        service.backend.pause = self._let_answers_through
        listening.setblocking(False)
        self._selector.register(listening, selectors.EVENT_READ, self._accept)
        # The keeper never sends again; the socket becomes readable when it is gone for good.
        self._selector.register(control, selectors.EVENT_READ, lambda _: sys.exit(0))

    def serve(self) -> None:
        while True:
            # Calls left over from a full batch must not wait for the next one to arrive, nor must work for idle times.
            is_busy = self._quick or self._slow or self._service.has_work
            self._listen(timeout=0 if is_busy else None)
            if self._quick:
                self._answer(self._next_batch())
            elif self._slow:
                self._explain(*self._slow.popleft())
            elif is_busy:
                with _Beating(self._heartbeat, 0, is_quick=False):
                    self._service.work()
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
                messages.append(decoded(body, Request))
        except (OSError, ProtocolError, ContractBroken):
            data = b""
        if not data:
            self._drop(caller)
            return
        for message in messages:
            (self._quick if message.is_quick else self._slow).append((caller, message))

    def _drop(self, caller: socket.socket) -> None:
        with contextlib.suppress(KeyError):
            self._selector.unregister(caller)
        caller.close()
        for line in (self._quick, self._slow):
            left = [waiting for waiting in line if waiting[0] is not caller]
            line.clear()
            line.extend(left)

    def _next_batch(self) -> list[Call]:
        """The call that has waited longest, and those behind it that the model can be asked about together with it."""
        batch = [self._quick.popleft()]
        n_rows = _rows_of(batch[0])
        if not n_rows:
            return batch
        while self._quick and (more := _rows_of(self._quick[0])) and n_rows + more <= MAX_BATCH_ROWS:
            batch.append(self._quick.popleft())
            n_rows += more
        return batch

    def _answer(self, batch: list[Call]) -> None:
        caller, first = batch[0]
        if not isinstance(first, PredictRequest):
            self._explain(caller, first)
            return
        with _Beating(self._heartbeat, first.call, is_quick=True):
            answered = self._service.predict([request for _, request in batch if isinstance(request, PredictRequest)])
        # Several calls may have come over one connection; their replies go back in one piece, in their order.
        replies: dict[socket.socket, list[bytes]] = {}
        for (asker, _), reply in zip(batch, answered, strict=True):
            replies.setdefault(asker, []).append(frame(encoded(reply)))
        for asker, parts in replies.items():
            self._reply(asker, b"".join(parts))

    def _explain(self, caller: socket.socket, request: Request) -> None:
        with _Beating(self._heartbeat, request.call, is_quick=request.is_quick):
            if isinstance(request, PredictRequest):
                reply: object = self._service.predict([request])[0]
            else:
                reply = self._service.answer(request)
        self._reply(caller, frame(encoded(reply)))

    def _reply(self, caller: socket.socket, data: bytes) -> None:
        try:
            caller.sendall(data)
        except OSError:
            self._drop(caller)


def _rows_of(call: Call) -> int:
    """Rows that are to be predicted; 0 for what is no such call."""
    return len(call[1].rows) if isinstance(call[1], PredictRequest) else 0


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


if __name__ == "__main__":
    main(int(sys.argv[1]))
