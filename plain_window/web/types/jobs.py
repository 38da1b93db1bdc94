"""Jobs: what is wanted, how far it is, what came of it."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel
from pydantic import Field as Constrained

from ...core.checks.result import CheckResult
from ...core.starters.choices import Choices
from ...core.starters.compared import Comparison, KeptError
from ...core.starters.sheet import Sheet
from ...jobs.film_options import FilmFound
from ...jobs.options import TableDoubt, TableOptions
from .common import Body, UtcTime
from .problems import FieldProblem

__all__ = [
    "FILE",
    "JobFault",
    "JobFaults",
    "JobList",
    "JobParts",
    "JobResult",
    "JobView",
    "MakingEnd",
    "StarterLook",
    "TableChanges",
    "TableLook",
]

FILE = {"contentMediaType": "application/octet-stream"}


class JobParts(BaseModel):
    """What a job is begun with: a table, or a film where the demo looks at a picture. Options may be parts of their
    own, or together in `options` as JSON."""

    kind: Literal["table", "video", "importance", "drift"] = "table"
    of: str | None = Constrained(None, description="Of `importance`: the class, or number; all of them if left out.")
    table: Annotated[str | None, Constrained(json_schema_extra=FILE)] = Constrained(
        None, description="CSV, Parquet or a spreadsheet; a row a case."
    )
    video: Annotated[str | None, Constrained(json_schema_extra=FILE)] = Constrained(
        None, description="MP4, WebM, MOV, AVI, MPEG or Ogg; each of its frames asked about is a case."
    )
    options: str | None = Constrained(None, description="A `TableOptions` or `FilmOptions` as JSON.")


class ColumnOfField(BaseModel):
    """Which column a field is read from, and how."""

    field: str
    column: str
    how: Literal["name", "label", "hand"]
    unit: str = ""
    factor: float = Constrained(1.0, description="Its numbers are multiplied by this.")


class TableLook(BaseModel):
    """What was found in the table."""

    columns: list[str]
    first: list[list[str]] = Constrained(description="The first values of each column.")
    matched: list[ColumnOfField]
    missing: list[str] = Constrained(description="Fields for which there is no column.")
    alike: dict[str, list[str]] = Constrained(description="By field the columns that may be meant.")
    doubtful: list[TableDoubt] = Constrained(description="What can be read in two ways.")
    notes: list[str]
    outcome: str | None = Constrained(description="The column with what happened.")
    headings: list[str] = Constrained(description="The result's columns.")
    preview: list[list[str]] = Constrained(description="The result's first rows.")
    ready: bool = Constrained(description="Whether it can be begun as it is.")


class JobResult(BaseModel):
    """What came of a job."""

    slug: str = Constrained("", description="Of the demo that was made or changed; then there is nothing to fetch.")
    formats: list[Literal["csv", "parquet", "xlsx", "film"]] = []
    rows: int = 0
    answered: int = 0
    faults: int = 0
    kept_until: UtcTime | None = None


class MakingEnd(BaseModel):
    """What came of making something: a demo's address, or what went wrong as the call would have said it."""

    slug: str = ""
    errors: list[FieldProblem] = []
    traceback: str = ""
    requirements: list[str] = []


class StarterLook(BaseModel):
    """What is known of a table that a model is made of."""

    choices: Choices
    again: str = Constrained("", description="The address of the demo whose model is fitted again.")
    sheet: Sheet
    used: list[str] = Constrained(description="The columns that a model is told, by these choices.")
    done: list[str] = Constrained(description="Of each of the sheet's findings, what is done about it by them.")
    compared: Comparison | None = Constrained(description="None until models were compared.")
    kept_error: KeptError | None = Constrained(None, description="Of the model that was made, on rows no fit saw.")
    checks: list[CheckResult] = Constrained([], description="What the demo's checks came to when it was made.")


class JobView(BaseModel):
    """A job as it is now."""

    id: str
    kind: str
    demo: str = Constrained(description="The demo's address; empty where it is only being made.")
    title: str
    file: str
    state: Literal["waiting", "running", "done", "failed", "cancelled"]
    held: bool = Constrained(description="Whether it waits for a word to begin.")
    done: int = Constrained(description="Rows or frames so far; of `importance` hundredths.")
    total: int | None = Constrained(description="Rows or frames in all, as far as that is known.")
    total_is_estimate: bool = Constrained(description="Whether `total` goes by what was read so far.")
    seconds_left: float | None = Constrained(description="Until it is done, those before it included.")
    place: int = Constrained(description="How many jobs are before this one.")
    detail: str = Constrained(description="What there is to say of it.")
    answered: int
    faults: int = Constrained(description="Rows that have a fault so far.")
    created: UtcTime
    started: UtcTime | None
    ended: UtcTime | None
    by_author: bool
    release: int | None
    table: TableLook | None
    film: FilmFound | None = Constrained(None, description="What was found in the film, of a job of one.")
    starter: StarterLook | None = Constrained(None, description="Of a job that makes a model of a table.")
    result: JobResult | None
    errors: list[FieldProblem] = Constrained([], description="What went wrong, of a job that would have made a demo.")
    traceback: str | None = Constrained(None, description="What its model reported, likewise.")
    requirements: list[str] = Constrained([], description="Libraries with which the model might open, likewise.")


class TableChanges(Body):
    """How the table is to be read instead; what is left out stays as it is."""

    columns: Annotated[dict[str, str], Constrained(max_length=2000)] | None = None
    numbers: Literal["", "1,234.5", "1.234,5"] | None = None
    dates: Literal["", "day", "month"] | None = None
    outcome: Annotated[str, Constrained(max_length=500)] | None = None
    contributions: Annotated[int, Constrained(ge=0, le=5)] | None = None

    def applied(self, options: TableOptions) -> TableOptions:
        """Options with these instead.

        Parameters
        ----------
        options : TableOptions
        """
        changes: dict[str, Any] = self.model_dump(exclude_none=True)
        columns = {**options.columns, **changes.pop("columns", {})}
        return options.model_copy(update={**changes, "columns": columns})


class JobFault(BaseModel):
    """What is wrong with a row, counted from 1 below the header."""

    row: int
    column: str
    message: str


class JobFaults(BaseModel):
    """Rows with a fault."""

    total: int = Constrained(description="Rows that have one.")
    faults: list[JobFault]


class JobList(BaseModel):
    """An author's jobs, the newest first."""

    total: int
    jobs: list[JobView]
