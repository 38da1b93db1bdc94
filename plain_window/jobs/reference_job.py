"""What is worked out by all rows that are kept beside a model, and then kept with it: what matters overall, and how its
answers usually lie."""

import json
import math
import threading
import time

import msgspec

from ..authoring.model_intake import runner_job
from ..authoring.reference_answers import (
    USUAL_ANSWERS,
    AnswerCounts,
    count_answers,
    n_to_count,
    reference_columns,
)
from ..authoring.services import Services
from ..core.contract import Missing, OverallReply, Reason
from ..core.documents import DemoDocument
from ..runners.failures import RunnerBusy, RunnerRaised, RunnerUnavailable
from ..runners.file_line import WorkLost
from ..store.demos import model_inspection
from ..store.jobs import change_job, model_of_job, record_chunk
from ..store.records import Job
from ..store.worked_out import find_worked_out, keep_worked_out
from .carried_job import Cancelled, CarriedJob
from .insisting import insisted

__all__ = ["DriftJob", "ImportanceJob", "overall_name"]

# How far it is told in hundredths: it consists of pieces of several kinds.
PARTS = 100
LOOK_SECONDS, RECORD_SECONDS = 0.5, 1.0


def overall_name(of: int, background_rows: int) -> str:
    """Under which what matters overall for an output is kept with its model.

    Parameters
    ----------
    of : int
        Place of the output.
    background_rows : int
        How many reference rows contributions are counted against.
    """
    return f"overall-{of}-{background_rows}"


class _ReferenceJob(CarriedJob):
    """A job about a demo's model as it is; there is no file to look at."""

    noun, piece = "reference table", "row"

    def __init__(self, services: Services, job: Job, stopping: threading.Event) -> None:
        super().__init__(services, job, stopping)
        self._document = DemoDocument.model_validate_json(job.document)
        self._model = insisted(lambda: model_of_job(job))
        self._runner = insisted(lambda: runner_job(services, self._model, self._document))

    def look(self) -> None:
        """There is nothing to be looked at first."""
        insisted(lambda: change_job(self._job, stage="ready"))

    def _record(self, done: int, total: int) -> None:
        self._job.done = done
        if not insisted(lambda: record_chunk(self._job, chunks=0, done=done, answered=done, faults=0, total=total)):
            raise Cancelled
        if self._stopping.is_set():
            raise WorkLost("the process ends")

    def _keep(self, name: str, content: str) -> None:
        insisted(lambda: keep_worked_out(self._model.id, name, content))


class ImportanceJob(_ReferenceJob):
    """What matters overall, by all kept rows. Its runner works it out while nobody asks for answers."""

    def _carry_on(self) -> None:
        places: list[int] = json.loads(self._job.options)["of"]
        for n_before, of in enumerate(places):
            why = self._work_out(of, n_before / len(places), 1 / len(places))
            if why is not None:
                # In words it is said by whoever tells it.
                insisted(lambda: change_job(self._job, found=json.dumps({"reason": why})))  # noqa: B023 -- called here
                self._end("failed")
                return
        self._record(PARTS, PARTS)
        self._end("done")

    def _work_out(self, of: int, before: float, share: float) -> Reason | None:
        """Wait for it and keep it; or say why it cannot be had."""
        name = overall_name(of, self._document.background_rows)
        # A model never changes: what is kept of it is what would come of asking again.
        if insisted(lambda: find_worked_out(self._model.id, name)) is not None:
            return None
        while isinstance(found := self._asked(of), OverallReply) and found.share_done < 1:
            self._record(math.floor(PARTS * (before + share * found.share_done)), PARTS)
            self._stopping.wait(LOOK_SECONDS)
        if isinstance(found, Missing):
            return found.reason
        self._keep(name, msgspec.json.encode(found).decode())
        return None

    def _asked(self, of: int) -> OverallReply | Missing:
        try:
            return self._services.runners.overall(self._runner, of=of, thorough=True, caller="job")
        except RunnerBusy as error:
            raise RunnerUnavailable("crowded") from error
        except RunnerRaised:
            return Missing("reference-not-answered")


class DriftJob(_ReferenceJob):
    """How the model's answers to reference rows lie: what visitors' answers are held against."""

    def _carry_on(self) -> None:
        inspection = insisted(lambda: model_inspection(self._model))
        columns = reference_columns(self._runner, inspection)
        counts = AnswerCounts.from_json(self._job.found) if self._job.found else AnswerCounts()
        n_rows, recorded = n_to_count(columns), 0.0
        try:
            for done in count_answers(self._services, self._runner, inspection, columns, counts, caller="job"):
                if time.monotonic() - recorded < RECORD_SECONDS:
                    continue
                recorded, self._job.found = time.monotonic(), counts.to_json()
                insisted(lambda: change_job(self._job, found=self._job.found))
                self._record(done, n_rows)
        except RunnerBusy as error:
            raise RunnerUnavailable("crowded") from error
        except RunnerUnavailable as error:
            if not error.overran:
                raise
            self._end("failed", f"The model takes more than {error.seconds:g} seconds for a row of its table.")
            return
        self._record(n_rows, n_rows)
        if not counts.n_answered:
            self._end("failed", f"The model answered none of the {n_rows} rows of its table.")
            return
        self._keep(USUAL_ANSWERS, counts.to_json())
        self._end("done")
