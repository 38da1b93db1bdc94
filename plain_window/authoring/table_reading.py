"""Tables that come beside a model, read where a file that is made to do harm does none: in a runner."""

import contextlib
from typing import Literal

from ..core.contract import ContractBroken, decoded
from ..core.contract.jobs import ReadTable, RunnerJob, job_key
from ..core.contract.tables import PlainTable
from ..core.errors import Fault, MismatchFaults
from ..runners.failures import RunnerFailed, RunnerUnavailable
from .model_intake import START_SECONDS
from .services import Services

__all__ = ["read_table_inside"]


def read_table_inside(
    services: Services,
    file: str,
    *,
    part: str,
    name: str,
    most_rows: int,
    numbers: Literal["point", "comma"] | None = None,
) -> PlainTable:
    """The first rows of a table of any kind that is taken.

    Parameters
    ----------
    services : Services
    file : str
        Its hash.
    part : str
        What it was sent as, for faults.
    name : str
        What to call it in sentences.
    most_rows : int
        How many rows to read out.
    numbers : "point" or "comma", optional
        How it writes numbers, if its author has said so.

    Raises
    ------
    MismatchFaults
        If it is no table, or can be read in two ways.
    RunnerUnavailable
        If no runner can be had now.
    """
    task = ReadTable(name=name, most_rows=most_rows, numbers=numbers)
    key = job_key("table", file, name, str(most_rows), numbers)
    job = RunnerJob(key=key, model=str(services.files.path(file)), table=task)
    timeout = services.settings.limits.open_seconds + START_SECONDS
    try:
        state = services.runners.ensure(job, until="opened", timeout=timeout)
    except RunnerFailed as error:
        raise MismatchFaults(error.faults or [Fault(part, str(error))]) from error
    finally:
        with contextlib.suppress(RunnerUnavailable):
            services.runners.retire(key)
    if state.kept_rows is None:
        raise RunnerUnavailable("opening")
    table = _believed(state.kept_rows, most_rows)
    if table is None:
        raise MismatchFaults([Fault(part, "What the table's process said of it is no table. It was stopped.")])
    return table


def _believed(content: bytes, most_rows: int) -> PlainTable | None:
    """What came out of a process that a stranger's file was read in; None if it is no such table."""
    try:
        table = decoded(content, PlainTable)
    except ContractBroken:
        return None
    is_even = all(len(values) == table.n_rows for values in table.columns.values())
    return table if is_even and 0 < table.n_rows <= min(most_rows, table.total) else None
