"""Rows asked of a model: of a compiled one through workers, of any other through its own runner."""

import contextlib
import math
import queue
import threading
from array import array
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path
from typing import Protocol

import msgspec

from ..authoring.services import Services
from ..core.answers.deciding import said_place
from ..core.contract.chunks import (
    AskChunk,
    ChunkColumns,
    ChunkDone,
    ChunkNotDone,
    CodedColumn,
    ModelParts,
    ModelWanted,
    Strongest,
    strongest_of,
)
from ..core.contract.jobs import RunnerJob
from ..core.contract.replies import Numbers
from ..core.contract.requests import ExplainRequest
from ..core.contract.values import Row
from ..core.errors import InputFaults
from ..runners.failures import RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable
from ..runners.work import ChunkLine, WorkLost

__all__ = ["ChunkAsking", "Wants", "asking_of"]

# Rows a model's own runner is asked about at once: visitors' cases wait for no longer than that takes.
OWN_RUNNER_ROWS = 500
# How often whoever is gone is looked for again, and how long it is waited for in between.
MOST_TRIES, MOST_WAITS, AGAIN_SECONDS = 4, 120, 1.0
# Of a chunk the model raises over, the rows it raises over are looked for by halves, so many times at most.
MOST_HALVES = 400
NAN = math.nan


class Wants(msgspec.Struct, frozen=True):
    """What is wanted beside the outputs: so many of the strongest contributions, to the output that is said."""

    n_strongest: int = 0
    threshold: tuple[int, float] | None = None


class ChunkAsking(Protocol):
    """Somewhere chunks can be asked about, several at a time."""

    at_once: int

    def ask(self, columns: ChunkColumns) -> "Future[ChunkDone]":
        """Outputs for rows, when they come.

        Parameters
        ----------
        columns : ChunkColumns
        """

    def close(self) -> None:
        """Let go of everything."""


def asking_of(services: Services, job: RunnerJob, wants: Wants, *, is_small: bool) -> ChunkAsking:
    """Where this model is asked.

    Parameters
    ----------
    services : Services
    job : RunnerJob
        The model's.
    wants : Wants
    is_small : bool
        Whether so few rows are asked about that starting workers for them would take longer.
    """
    if job.compiled and not is_small and not job.needed_facts.picture_inputs:
        return _Workers(services, job, wants)
    return _OwnRunner(services, job, wants)


class _Workers:
    """Workers of a cluster, asked over one line each."""

    def __init__(self, services: Services, job: RunnerJob, wants: Wants) -> None:
        self._services, self._wants = services, wants
        self._model = job.key
        kept_rows = Path(job.kept_rows).read_bytes() if job.kept_rows else None
        assert job.compiled is not None, "others are asked elsewhere"
        self._parts = ModelParts(Path(job.compiled).read_bytes(), job.needed_facts, kept_rows, job.background_rows)
        # Twice as many as there are workers: while one chunk comes back the next is there.
        self.at_once = 2 * services.settings.job_workers
        self._pool = ThreadPoolExecutor(self.at_once, thread_name_prefix="chunks")
        self._closed = threading.Event()
        # Those that nobody asks over at the moment.
        self._lines: queue.SimpleQueue[ChunkLine] = queue.SimpleQueue()

    def ask(self, columns: ChunkColumns) -> "Future[ChunkDone]":
        return self._pool.submit(self._answered, columns)

    def close(self) -> None:
        self._closed.set()
        self._pool.shutdown(wait=False, cancel_futures=True)
        with contextlib.suppress(queue.Empty):
            while True:
                self._lines.get_nowait().close()

    def _answered(self, columns: ChunkColumns) -> ChunkDone:
        if not columns.n_rows:
            return ChunkDone(Numbers(0, self._parts.facts.n_outputs, b""))
        return _by_halves(columns, self._parts.facts.n_outputs, self._asked)

    def _asked(self, columns: ChunkColumns) -> ChunkDone | ChunkNotDone:
        ask = AskChunk(self._model, columns, n_strongest=self._wants.n_strongest, threshold=self._wants.threshold)
        n_lost, why = 0, "the workers do not come back"
        for _ in range(MOST_WAITS):
            try:
                return self._over_a_line(ask)
            except WorkLost as error:
                # Whoever is lost over these rows again and again is not waited for; whoever is coming back is.
                n_lost, why = n_lost + 1, str(error)
            except RunnerUnavailable:
                pass
            if n_lost >= MOST_TRIES or self._closed.wait(AGAIN_SECONDS):
                break
        raise WorkLost(why)

    def _over_a_line(self, ask: AskChunk) -> ChunkDone | ChunkNotDone:
        try:
            line = self._lines.get_nowait()
        except queue.Empty:
            line = ChunkLine(self._services.runners, self._services.settings)
        try:
            reply = line.ask(ask)
            if isinstance(reply, ModelWanted):
                # Whichever worker takes it next has all it needs with it.
                reply = line.ask(msgspec.structs.replace(ask, parts=self._parts))
        except BaseException:
            line.close()
            raise
        if self._closed.is_set():
            line.close()
        else:
            self._lines.put(line)
        if isinstance(reply, ChunkDone | ChunkNotDone):
            return reply
        raise WorkLost("a worker wants a model that it was sent")


class _OwnRunner:
    """A model served by its library: asked where it is, behind its own walls, a few rows at a time."""

    at_once = 2

    def __init__(self, services: Services, job: RunnerJob, wants: Wants) -> None:
        self._services, self._job, self._wants = services, job, wants
        self._closed = threading.Event()
        # One: a library's model answers one call after another anyway.
        self._pool = ThreadPoolExecutor(1, thread_name_prefix="chunks")

    def ask(self, columns: ChunkColumns) -> "Future[ChunkDone]":
        return self._pool.submit(self._answered, columns)

    def close(self) -> None:
        self._closed.set()
        self._pool.shutdown(wait=False, cancel_futures=True)

    def _answered(self, columns: ChunkColumns) -> ChunkDone:
        n_outputs = self._job.needed_facts.n_outputs
        parts = [
            _by_halves(part_of(columns, start, start + OWN_RUNNER_ROWS), n_outputs, self._asked)
            for start in range(0, columns.n_rows, OWN_RUNNER_ROWS)
        ]
        return _joined(parts, n_outputs)

    def _asked(self, columns: ChunkColumns) -> ChunkDone | ChunkNotDone:
        rows = rows_of(columns)
        for _ in range(MOST_WAITS):
            try:
                found = self._services.runners.predict(self._job, rows, caller="job")
            except (RunnerRaised, InputFaults) as error:
                return ChunkNotDone(str(error))
            except RunnerFailed as error:
                raise WorkLost(str(error)) from error
            except (RunnerUnavailable, RunnerBusy) as error:
                if getattr(error, "overran", False) and columns.n_rows > 1:
                    return ChunkNotDone("The model took longer than it may.")
                if self._closed.wait(AGAIN_SECONDS):
                    break
                continue
            data = array("d", [value for row in found.outputs for value in row]).tobytes()
            unlike = bytes(found.unlike) if found.unlike else b""
            strongest = self._strongest(rows, found.outputs) if self._wants.n_strongest else []
            return ChunkDone(Numbers(len(rows), len(found.outputs[0]), data), unlike, strongest)
        raise WorkLost("the model does not come back")

    def _strongest(self, rows: list[Row], outputs: list[list[float]]) -> Strongest:
        found: Strongest = []
        for row, output in zip(rows, outputs, strict=True):
            of = said_place(output, self._wants.threshold) if len(output) > 1 else None
            try:
                reply = self._services.runners.explain(
                    self._job, ExplainRequest(row=row, of=of, explanation=True), caller="job"
                )
            except (RunnerUnavailable, RunnerBusy, RunnerFailed, RunnerRaised, InputFaults):
                # The answer is there; what moved it is not.
                found.append([])
                continue
            found.append(strongest_of(reply, self._wants.n_strongest))
        return found


def _by_halves(columns: ChunkColumns, n_outputs: int, ask: "_Ask") -> ChunkDone:
    """Outputs for rows. Where the model raises, for halves of them, and so on: a row it raises over has none."""
    n_asked = 0

    def asked(part: ChunkColumns) -> ChunkDone:
        nonlocal n_asked
        n_asked += 1
        reply = ask(part)
        if isinstance(reply, ChunkDone):
            return reply
        if part.n_rows == 1 or n_asked > MOST_HALVES:
            none = array("d", [NAN] * (part.n_rows * n_outputs)).tobytes()
            return ChunkDone(Numbers(part.n_rows, n_outputs, none))
        middle = part.n_rows // 2
        return _joined([asked(part_of(part, 0, middle)), asked(part_of(part, middle, part.n_rows))], n_outputs)

    return asked(columns)


class _Ask(Protocol):
    def __call__(self, columns: ChunkColumns, /) -> ChunkDone | ChunkNotDone: ...


def _joined(parts: list[ChunkDone], n_outputs: int) -> ChunkDone:
    n_rows = sum(part.outputs.n_rows for part in parts)
    data = b"".join(part.outputs.data for part in parts)
    has_unlike = any(part.unlike for part in parts)
    unlike = b"".join(part.unlike or bytes(part.outputs.n_rows) for part in parts) if has_unlike else b""
    has_strongest = any(part.strongest for part in parts)
    strongest = [row for part in parts for row in part.strongest or [[]] * part.outputs.n_rows] if has_strongest else []
    return ChunkDone(Numbers(n_rows, n_outputs, data), unlike, strongest)


def part_of(columns: ChunkColumns, start: int, end: int) -> ChunkColumns:
    """Some of a chunk's rows.

    Parameters
    ----------
    columns : ChunkColumns
    start, end : int
    """
    end = min(end, columns.n_rows)
    return ChunkColumns(
        end - start,
        {name: data[8 * start : 8 * end] for name, data in columns.numbers.items()},
        {name: CodedColumn(one.codes[4 * start : 4 * end], one.values) for name, one in columns.coded.items()},
        {name: texts[start:end] for name, texts in columns.texts.items()},
    )


def rows_of(columns: ChunkColumns) -> list[Row]:
    """A chunk's rows as mappings, as a runner is asked.

    Parameters
    ----------
    columns : ChunkColumns
    """
    by_name: dict[str, list[object]] = {
        name: [None if value != value else value for value in array("d", data).tolist()]
        for name, data in columns.numbers.items()
    }
    for name, coded in columns.coded.items():
        by_name[name] = [coded.values[code] for code in array("i", coded.codes).tolist()]
    by_name |= {name: list(texts) for name, texts in columns.texts.items()}
    names = list(by_name)
    rows: list[Row] = [dict(zip(names, values, strict=True)) for values in zip(*by_name.values(), strict=True)]
    return rows
