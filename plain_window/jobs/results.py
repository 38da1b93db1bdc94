"""What came of a job, as a file of the kind somebody wants."""

import secrets
from collections.abc import Iterator
from typing import BinaryIO, Literal, cast

import msgspec

from ..authoring.services import Services
from ..core.contract.table_cases import MOST_SHEET_ROWS, Style
from ..core.errors import TableNotRead
from ..runners.work import TableLine
from ..store.records import Job
from .folder import JobFolder
from .options import TableFound

__all__ = ["ResultFormat", "result_parts"]

ResultFormat = Literal["csv", "parquet", "xlsx"]


def result_parts(services: Services, job: Job, to: ResultFormat) -> Iterator[bytes]:
    """The result in parts.

    Parameters
    ----------
    services : Services
    job : Job
    to : "csv", "parquet" or "xlsx"

    Raises
    ------
    FileNotFoundError
        If it is not kept any more.
    TableNotRead
        If there is no such file of it: a sheet that would have more rows than one can.
    WorkLost, RunnerUnavailable, RunnerFailed
        If whoever makes it ends.
    """
    joined = JobFolder(services.settings.jobs, job.token).result(job.chunks)
    if to == "csv":
        yield from joined.parts()
        return
    if to == "xlsx" and job.done >= MOST_SHEET_ROWS:
        raise TableNotRead(
            f"A sheet holds {MOST_SHEET_ROWS:,} rows, and the result has more. Take it as CSV or Parquet."
        )
    found = TableFound.model_validate_json(job.found or "")
    types = ["string" if at in found.odd else type_ for at, type_ in enumerate(found.types)]
    # Each in a process of its own: several may be wanted at a time.
    key = f"{job.token} {secrets.token_hex(4)}"
    with TableLine(services.runners, services.settings, cast(BinaryIO, joined), key) as line:
        yield from line.converted(to, types, msgspec.convert(found.style, Style))
