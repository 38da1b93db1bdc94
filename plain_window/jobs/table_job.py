"""A table of cases: looked at, asked about a chunk at a time, and written; carried on where it stood."""

import csv
import io
import logging
import threading
from collections import deque
from concurrent.futures import Future
from dataclasses import dataclass

import msgspec

from ..authoring.model_intake import runner_job
from ..authoring.services import Services
from ..core.answers import ClassSetting
from ..core.answers.deciding import threshold_of
from ..core.contract.chunks import ChunkDone
from ..core.contract.jobs import RunnerJob
from ..core.contract.table_cases import Begin, ChunkRead, ColumnMatch, Ended, LookAt, LookedAt, WriteChunk
from ..core.documents import DemoDocument
from ..core.documents.measured import is_measured_as_set
from ..core.errors import TableNotRead
from ..runners.failures import RunnerFailed, RunnerUnavailable
from ..runners.work import TableLine, WorkLost, cluster_job
from ..store.demos import model_inspection
from ..store.jobs import change_job, model_of_job, record_chunk
from ..store.records import Job
from .carried_job import Cancelled, CarriedJob, TooLong
from .chunk_asking import ChunkAsking, Wants, asking_of
from .insisting import insisted
from .options import TableDoubt, TableFound, TableOptions

__all__ = ["TableJob", "faults_of", "is_small"]

log = logging.getLogger("jobs")

PREVIEW_ROWS, PREVIEW_CHARACTERS = 8, 400
# A cell may be as long as a line of a table.
csv.field_size_limit(1 << 30)
# A table of some thousand rows.
SMALL_BYTES, SMALL_ROWS = 256 << 10, 4000
NUMBERS = {"1,234.5": "point", "1.234,5": "comma"}
OUTCOME_NAMES = ("outcome", "target", "truth")
SAY_WHICH = {
    "numbers": "Say how the table writes numbers: send `numbers` as `1,234.5` or as `1.234,5`.",
    "dates": "Say what comes first in its dates: send `dates` as `day` or as `month`.",
}


@dataclass(frozen=True)
class _Asked:
    """What the table is asked with: the demo as it was when the job came, and its model."""

    document: DemoDocument
    evidence: bytes | None
    runner: RunnerJob
    outcomes: list[str]


class TableJob(CarriedJob):
    """One job of a table, as far as it goes in this life of the process.

    Parameters
    ----------
    services : Services
    job : Job
        Its record, as it is now.
    stopping : threading.Event
        Set when the process is to end: the job is carried on in the next.
    """

    noun, piece = "table", "row"

    def __init__(self, services: Services, job: Job, stopping: threading.Event) -> None:
        super().__init__(services, job, stopping)
        self._options = TableOptions.model_validate_json(job.options)
        self._asked = insisted(lambda: _asked_with(services, job))

    def look(self) -> None:
        """Find out which columns belong to which field, and show first answers; then wait, be ready, or be refused."""
        try:
            found = self._looked()
        except TableNotRead as error:
            self._end("failed", str(error))
            return
        except RunnerFailed as error:
            self._end("failed", f"The table cannot be looked at here: {error}")
            return
        except (WorkLost, RunnerUnavailable) as error:
            log.warning("job %s: %s", self._job.token[:8], error)
            self._end("failed", self._not_looked_at)
            return
        stage = "held" if self._options.hold else "ready"
        if stage == "ready" and not found.is_ready:
            insisted(lambda: change_job(self._job, found=found.model_dump_json()))
            self._end("failed", " ".join(faults_of(found, self._asked.document)))
            return
        values = {"found": found.model_dump_json(), "stage": stage, "total": self._total}
        insisted(lambda: change_job(self._job, **values))

    # --- looking ------------------------------------------------------------------------------------------------------

    def _looked(self) -> TableFound:
        document = self._asked.document
        if self._asked.runner.compiled and not self._is_small:
            # They take some seconds to come up, and are needed next.
            self._services.runners.ensure(cluster_job(self._services.settings))
        with self._table() as table:
            looked = table.look(
                LookAt(
                    size=table.size,
                    name="The table",
                    document=document.model_dump_json().encode(),
                    told=self._options.columns,
                    outcomes=[self._options.outcome] if self._options.outcome else self._asked.outcomes,
                    numbers=NUMBERS.get(self._options.numbers),  # type: ignore[arg-type]
                    dates=self._options.dates or None,
                )
            )
            self._total = looked.total
            if self._options.outcome and looked.truth is None:
                names = ", ".join(f"`{name}`" for name in looked.columns[:8])
                raise TableNotRead(
                    f"The table has no column `{self._options.outcome}` for what happened. It has {names}."
                )
            found = _found(looked)
            if found.is_ready:
                self._add_preview(table, looked, found)
            # What is begun next goes on with it.
            table.is_kept = found.is_ready and not self._options.hold
            return found

    def _add_preview(self, table: TableLine, looked: LookedAt, found: TableFound) -> None:
        """The answers for the first rows: what will come of it, before all of it is begun."""
        begun = table.begin(self._begin(table, looked.matches, looked.truth, most_rows=PREVIEW_ROWS))
        chunk = table.next_chunk()
        if isinstance(chunk, Ended):
            return
        asking = asking_of(self._services, self._asked.runner, self._wants, is_small=True)
        try:
            outputs = asking.ask(chunk.columns).result()
        finally:
            asking.close()
        written = table.write(_written_with(chunk, outputs))
        found.headings, found.types = begun.headings, begun.types
        found.style = msgspec.to_builtins(begun.style)
        text = written.content.decode()
        rows = csv.reader(io.StringIO(text, newline=""), delimiter=begun.style.separator)
        found.preview = [[cell[:PREVIEW_CHARACTERS] for cell in row] for row in rows]

    # --- carrying out -------------------------------------------------------------------------------------------------

    def _carry_on(self) -> None:
        found = TableFound.model_validate_json(self._job.found or "")
        matches = [msgspec.convert(match, ColumnMatch) for match in found.matches]
        asking = asking_of(self._services, self._asked.runner, self._wants, is_small=self._is_small)
        try:
            with self._table() as table:
                begun = table.begin(self._begin(table, matches, found.truth))
                for _ in range(self._job.chunks):
                    table.skip()
                self._folder.make()
                self._folder.keep("header.csv", begun.header)
                self._ask_all(table, asking, found)
        finally:
            asking.close()

    def _ask_all(self, table: TableLine, asking: ChunkAsking, found: TableFound) -> None:
        """Chunk after chunk, several under way at a time, each written in its turn."""
        under_way: deque[tuple[ChunkRead, Future[ChunkDone]]] = deque()
        ended: Ended | None = None
        while ended is None or under_way:
            while ended is None and len(under_way) < asking.at_once:
                chunk = table.next_chunk()
                if isinstance(chunk, Ended):
                    ended = chunk
                else:
                    under_way.append((chunk, asking.ask(chunk.columns)))
            if not under_way:
                break
            chunk, future = under_way.popleft()
            self._finish(table, chunk, future.result(), found)
            if self._stopping.is_set():
                raise WorkLost("the process ends")
            if self._is_too_long:
                raise TooLong
        assert ended is not None, "it ends only with the table"
        self._done(ended, found)

    def _finish(self, table: TableLine, chunk: ChunkRead, outputs: ChunkDone, found: TableFound) -> None:
        written = table.write(_written_with(chunk, outputs))
        known = outputs.outputs.data + written.truths if written.truths else b""
        self._folder.keep_chunk(chunk.chunk, written.content, written.faults, known)
        job, odd = self._job, sorted({*found.odd, *written.odd})
        if odd != found.odd:
            found.odd = odd
            insisted(lambda: change_job(job, found=found.model_dump_json()))
        done = job.done + chunk.n_rows
        share = chunk.bytes_read / max(1, table.size)
        # Where the file does not say how many there are, as many more as there were in what is read of it.
        total = found.total if found.knows_total else max(done, round(done / share)) if share else found.total
        numbers = {
            "chunks": chunk.chunk + 1,
            "done": done,
            "answered": job.answered + written.n_answered,
            "faults": job.faults + chunk.n_faults,
        }
        # The chunk is on disk before it is said to be: whatever dies in between, it is written again.
        if not insisted(lambda: record_chunk(job, total=total, **numbers)):
            raise Cancelled
        for name, value in {**numbers, "total": total}.items():
            setattr(job, name, value)

    def _done(self, ended: Ended, found: TableFound) -> None:
        insisted(lambda: change_job(self._job, total=ended.n_rows))
        self._end("done", self._cut_words if ended.is_cut else "")

    # --- small steps --------------------------------------------------------------------------------------------------

    @property
    def _cut_words(self) -> str:
        rows = f"{self._asked.document.table_rows:,} rows"
        return f"The table has more than {rows}, the most that this page takes. The first are answered."

    @property
    def _wants(self) -> Wants:
        answer = self._asked.document.answer
        threshold = threshold_of(answer) if isinstance(answer, ClassSetting) else None
        return Wants(self._options.contributions, threshold)

    @property
    def _is_small(self) -> bool:
        return is_small(self._job)

    @property
    def _most_rows(self) -> int | None:
        return None if self._job.by_author else self._asked.document.table_rows

    def _begin(
        self,
        table: TableLine,
        matches: list[ColumnMatch],
        truth: int | None,
        *,
        most_rows: int | None = None,
    ) -> Begin:
        return Begin(
            size=table.size,
            name="The table",
            document=self._asked.document.model_dump_json().encode(),
            evidence=self._asked.evidence,
            matches=matches,
            n_strongest=self._options.contributions,
            truth=truth,
            most_rows=most_rows or self._most_rows,
        )

    def _table(self) -> TableLine:
        assert self._job.file_id is not None, "what is being carried out has its table"
        file = open(self._services.files.path(self._job.file_id), "rb")  # noqa: SIM115 -- closed with the line
        return TableLine(self._services.runners, self._services.settings, file, self._job.token)


def is_small(job: Job) -> bool:
    """Whether starting workers would take longer than a table's rows do. A Parquet file packs many into few bytes.

    Parameters
    ----------
    job : Job
    """
    return job.file_bytes < SMALL_BYTES and (job.total or 0) <= SMALL_ROWS


def _asked_with(services: Services, job: Job) -> _Asked:
    document = DemoDocument.model_validate_json(job.document)
    model = model_of_job(job)
    inspection = model_inspection(model)
    evidence = inspection.evidence if is_measured_as_set(document, inspection) else None
    named = [model.target] if model.target else []
    answer = document.answer
    if answer.kind == "number":
        named.append(answer.name)
    outcomes = [*named, *OUTCOME_NAMES] if answer.kind in ("class", "number") else []
    runner = runner_job(services, model, document)
    return _Asked(document, evidence.model_dump_json().encode() if evidence else None, runner, outcomes)


def _found(looked: LookedAt) -> TableFound:
    return TableFound(
        columns=looked.columns,
        matches=[msgspec.to_builtins(match) for match in looked.matches],
        missing=looked.missing,
        alike={name: [looked.columns[at] for at in places] for name, places in looked.alike.items()},
        first=looked.first,
        notes=looked.notes,
        doubtful=[TableDoubt(**msgspec.to_builtins(doubt)) for doubt in looked.doubtful],
        truth=looked.truth,
        total=looked.total,
        knows_total=looked.knows_total,
    )


def faults_of(found: TableFound, document: DemoDocument) -> list[str]:
    """What keeps a table from being begun, a sentence for each field.

    Parameters
    ----------
    found : TableFound
    document : DemoDocument
    """
    labels = {field.name: field.label for field in document.fields}
    sentences = []
    for name in found.missing:
        near = found.alike.get(name, [])
        way_on = f" Is it `{near[0]}`? Say so in `columns`, or rename it." if near else " Add it, or say which it is."
        label = labels.get(name, name)
        called = f"`{name}` ({label})" if label != name else f"`{name}`"
        sentences.append(f"The table has no column {called}.{way_on}")
    for doubt in found.doubtful:
        label = labels.get(doubt.field, doubt.field)
        sentences.append(f'{label}: "{doubt.example}" can be read in two ways. {SAY_WHICH[doubt.about]}')
    return sentences


def _written_with(chunk: ChunkRead, outputs: ChunkDone) -> WriteChunk:
    if outputs.outputs.n_rows != chunk.columns.n_rows:
        raise WorkLost("as many answers as there were rows did not come")
    return WriteChunk(chunk.chunk, outputs.outputs, outputs.unlike, outputs.strongest)
