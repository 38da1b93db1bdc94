"""A table of which a model is made: looked at, models compared, the one that is wanted made and brought as a demo."""

import contextlib
import json
import logging
import threading
from typing import Any

from ..authoring.model_intake import bring_model, stored_bytes
from ..authoring.replacing import Replacement, replace_model
from ..authoring.services import Services
from ..authoring.submission import ModelSubmission
from ..core.checks.result import CheckResult
from ..core.contract.starters import CompareModels, FitAgain, MadeModel, MakeModel
from ..core.documents import DemoChanges
from ..core.errors import Fault, Faults, MismatchFaults, PlainWindowError, TableNotRead
from ..core.starters.again import recipe_again
from ..core.starters.compared import Comparison, KeptError
from ..core.starters.doing import what_is_done
from ..core.starters.recipe import faults_in
from ..core.starters.sheet import Sheet
from ..runners.failures import RunnerFailed, RunnerUnavailable
from ..runners.file_line import WorkLost
from ..runners.starter_line import StarterLine
from ..store.addresses import SlugTaken
from ..store.database import database
from ..store.demos import delete_demo, find_demo
from ..store.jobs import change_job, record_chunk
from ..store.records import Author, Demo, Job
from ..store.worked_out import find_worked_out, keep_worked_out
from .carried_job import Cancelled, CarriedJob
from .insisting import insisted
from .making_job import GONE, sentence_of, told_of
from .starter_found import MADE_OF_TABLE, MadeOfTable, StarterFound, StarterOptions

__all__ = ["StarterJob", "faults_of_choices"]

log = logging.getLogger("jobs")

MOST_SENTENCES = 40


class StarterJob(CarriedJob):
    """One job of a table that a model is made of, as far as it goes in this life of the process.

    Parameters
    ----------
    services : Services
    job : Job
        Its record, as it is now.
    stopping : threading.Event
        Set when the process is to end: the job is carried on in the next.
    """

    noun, piece = "table", "fit"

    def __init__(self, services: Services, job: Job, stopping: threading.Event) -> None:
        super().__init__(services, job, stopping)
        self._options = StarterOptions.model_validate_json(job.options)
        self._found = StarterFound.model_validate_json(job.found) if job.found else StarterFound()

    # --- looking ------------------------------------------------------------------------------------------------------

    def look(self) -> None:
        """Find out what the table's columns are and what lies in wait in them; then wait, be ready, or be refused."""
        choices, is_refused = self._options.choices, False
        try:
            self._found = self._looked()
            again = self._options.again
            faults = self._lacks() if again else faults_of_choices(self._found.sheet, self._options)
        except Faults as error:
            faults, is_refused = error.faults, True
        except TableNotRead as error:
            faults, is_refused = [Fault("table", str(error))], True
        except RunnerFailed as error:
            faults = [Fault("table", f"The table cannot be looked at here: {error}")]
        except (WorkLost, RunnerUnavailable) as error:
            log.warning("job %s: %s", self._job.token[:8], error)
            faults = [Fault("table", self._not_looked_at)]
        if self._found.sheet is None or (faults and not choices.hold):
            self._refuse(MismatchFaults(faults))
            return
        self._found.errors = told_of(MismatchFaults(faults))["errors"] if faults else []
        self._found.is_refused = is_refused
        stage = "held" if choices.hold else "ready"
        insisted(lambda: change_job(self._job, found=self._found.model_dump_json(), stage=stage))

    def _looked(self) -> StarterFound:
        choices = self._options.choices
        if self._options.again:
            recipe = self._before().recipe
            target = recipe["target"]
            choices = choices.model_copy(update={"target": target["column"], "answer": target["kind"]})
        with self._table() as table:
            looked = table.look(choices.model_dump_json().encode())
            # What is begun next goes on with it.
            table.is_kept = not self._options.choices.hold
        return StarterFound(sheet=Sheet.model_validate_json(looked.sheet), how=json.loads(looked.how))

    def _lacks(self) -> list[Fault]:
        """What the recipe needs and next month's table has not, told before anything is fitted."""
        assert self._found.sheet is not None, "a table is looked at first"
        try:
            recipe_again(self._found.sheet, self._found.how, self._before().recipe)
        except Faults as error:
            return error.faults
        return []

    def _table(self) -> StarterLine:
        if self._job.file_id is None:
            raise Cancelled
        path = self._services.files.path(self._job.file_id)
        return StarterLine(self._services.runners, self._services.settings, open(path, "rb"), self._job.token)

    # --- carrying out -------------------------------------------------------------------------------------------------

    def _carry_on(self) -> None:
        try:
            slug = self._again() if self._options.again else self._started()
        except (PlainWindowError, SlugTaken) as error:
            self._refuse(error)
            return
        if slug is None:
            return
        self._found.slug, self._found.checks = slug, self._checked(slug)
        total = self._job.total or 1
        insisted(lambda: change_job(self._job, found=self._found.model_dump_json(), done=total, total=total))
        self._end("done")

    def _checked(self, slug: str) -> list[CheckResult]:
        """What the checks of the new draft come to; none where its model cannot be asked now: its bench makes them."""
        # They load what computes, and this file is read by web processes too.
        from ..authoring.draft_checks import checks_of_rows

        self._note("Making its checks")
        with database.connection_context(), contextlib.suppress(RunnerUnavailable, RunnerFailed):
            demo = find_demo(slug)
            return checks_of_rows(self._services, demo, caller="job") if demo is not None else []
        return []

    def _refuse(self, error: Exception) -> None:
        told = told_of(MismatchFaults([Fault("table", str(error))]) if isinstance(error, TableNotRead) else error)
        self._found.errors, self._found.traceback = told["errors"], told["traceback"]
        insisted(lambda: change_job(self._job, found=self._found.model_dump_json()))
        self._end("failed", sentence_of(error))

    def _started(self) -> str | None:
        """Compare models, and make the one that is wanted; None where somebody is to choose it first."""
        choices = self._options.choices
        if self._found.compared is None:
            self._note("Comparing models")
            self._found.compared = self._compared()
            is_held = choices.hold and not choices.model
            waits = {"state": "waiting", "stage": "held"} if is_held else {}
            if not insisted(lambda: change_job(self._job, found=self._found.model_dump_json(), **waits)):
                raise Cancelled
            if is_held:
                return None
        return self._brought(self._found.compared)

    def _compared(self) -> Comparison:
        with self._table() as table:
            asked = CompareModels(table.size, *self._as_looked(), self._options.choices.model_dump_json().encode())
            said = table.compare(asked, self._record)
            table.is_kept = not self._options.choices.hold
        return Comparison.model_validate_json(said.comparison)

    def _as_looked(self) -> tuple[bytes, bytes]:
        assert self._found.sheet is not None, "a table is looked at before anything is made of it"
        return self._found.sheet.model_dump_json().encode(), json.dumps(self._found.how).encode()

    def _record(self, done: int, total: int) -> None:
        self._job.done, self._job.total = done, total + 1
        if not insisted(lambda: record_chunk(self._job, chunks=0, done=done, answered=0, faults=0, total=total + 1)):
            raise Cancelled
        if self._stopping.is_set():
            raise WorkLost("the process ends")

    def _brought(self, compared: Comparison) -> str:
        choices = self._options.choices
        candidate = choices.model or compared.offered
        self._note("Fitting the model on all rows that are not kept back")
        with self._table() as table:
            made = table.make(
                MakeModel(
                    table.size,
                    *self._as_looked(),
                    choices.model_dump_json().encode(),
                    compared.model_dump_json().encode(),
                    candidate,
                    self._job.file_name,
                ),
                lambda _done, _total: self._record(self._job.done, max(0, (self._job.total or 1) - 1)),
            )
            files = {name: table.taken(name) for name in ("model", "reference", "known")}
        self._note("Opening the model")
        return self._as_demo(made, files, compared)

    def _as_demo(self, made: MadeModel, files: dict[str, bytes], compared: Comparison) -> str:
        with database.connection_context():
            stored = {name: stored_bytes(self._services, content) for name, content in files.items()}
            submission = ModelSubmission(
                model_file=stored["model"],
                reference_file=stored["reference"],
                known_file=stored["known"],
                known_group=made.known_group or None,
                target=json.loads(made.recipe)["target"]["column"],
                slug=self._options.choices.slug or None,
                changes=DemoChanges.model_validate_json(made.changes),
            )
            demo = bring_model(self._services, Author.get_by_id(self._job.author_id), submission)
            if self._is_over():
                # Nobody wants it any more, whatever was under way.
                delete_demo(demo, self._services.stamp)
                raise Cancelled
            self._keep(demo, made, compared, {one.candidate: one.settings for one in compared.tried})
            return str(demo.slug)

    def _keep(
        self,
        demo: Demo,
        made: MadeModel,
        compared: Comparison | None,
        settings: dict[str, dict[str, Any]],
        differences: dict[str, Any] | None = None,
    ) -> None:
        """Keep with the model how it was made."""
        sheet = self._found.sheet
        assert sheet is not None, "a table is looked at before anything is made of it"
        done = what_is_done(sheet, self._options.choices)
        self._found.kept_error = KeptError.model_validate_json(made.kept_error) if made.kept_error else None
        sentences = [f"{one.sentence} {what}" for one, what in zip(sheet.findings, done, strict=True)]
        kept = MadeOfTable(
            file_name=self._job.file_name,
            recipe=json.loads(made.recipe),
            script=made.script,
            requirements=made.requirements,
            compared=compared,
            sentences=sentences[:MOST_SENTENCES],
            n_rows=sheet.n_rows,
            n_learned=made.n_learned,
            n_known=made.n_known,
            n_kept_back=made.n_kept_back,
            kept_error=self._found.kept_error,
            settings=settings,
            differences=differences,
        )
        keep_worked_out(demo.model_id, MADE_OF_TABLE, kept.model_dump_json())

    # --- again --------------------------------------------------------------------------------------------------------

    def _before(self) -> MadeOfTable:
        """How the model of the demo was made that is to be fitted again."""

        def find() -> str | None:
            demo = find_demo(self._options.again)
            if demo is None or demo.author_id != self._job.author_id:
                return None
            return find_worked_out(demo.model_id, MADE_OF_TABLE)

        kept = insisted(find)
        if kept is None:
            raise TableNotRead("The demo is not there any more, or its model was not made of a table here.")
        return MadeOfTable.model_validate_json(kept)

    def _again(self) -> str:
        before = self._before()
        recipe, wanted = before.recipe, self._options.choices.model
        if wanted and wanted != recipe["candidate"]:
            if wanted not in before.settings:
                raise TableNotRead(f"The model `{wanted}` was not tried when this demo was made.")
            recipe = {**recipe, "candidate": wanted, "settings": before.settings[wanted]}
        self._note("Fitting by the same recipe")
        with self._table() as table:
            asked = FitAgain(table.size, *self._as_looked(), json.dumps(recipe).encode(), self._job.file_name)
            made = table.make(asked, lambda _done, _total: self._record(0, 0))
            files = {name: table.taken(name) for name in ("model", "reference", "known")}
        self._note("Opening the model, and comparing its answers with the one before")
        with database.connection_context():
            demo = find_demo(self._options.again)
            if demo is None or demo.author_id != self._job.author_id:
                raise TableNotRead(GONE)
            stored: dict[str, Any] = {name: stored_bytes(self._services, content) for name, content in files.items()}
            # It was made with the libraries here, whatever the one before was given.
            words = {"requirements": None, "known_group": made.known_group or None}
            sent = Replacement(files=stored, words=words)
            found, demo = replace_model(self._services, demo, sent, try_only=False)
            self._keep(demo, made, None, before.settings, found.model_dump(mode="json"))
            return str(demo.slug)


def faults_of_choices(sheet: Sheet | None, options: StarterOptions) -> list[Fault]:
    """What keeps a table from being begun as its author wants it.

    Parameters
    ----------
    sheet : Sheet or None
        What is seen in it.
    options : StarterOptions
    """
    if sheet is None:
        return []
    faults = faults_in(sheet, options.choices)
    if not options.choices.target:
        named = ", ".join(f"`{name}`" for name in [sheet.target, *sheet.targets][:6])
        faults.insert(0, Fault("target", f"Say which column is to be predicted, as `target`. It may be {named}."))
    return faults
