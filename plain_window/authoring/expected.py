"""Outputs of the author's own notebook, kept beside a demo to be compared with what it answers."""

import io
from typing import TYPE_CHECKING

from ..core.contract import decoded, encoded
from ..core.contract.tables import PlainTable
from ..core.documents import DemoDocument
from ..core.errors import MismatchFaults
from ..store.demos import draft_of, set_expected
from ..store.files import FileStore
from ..store.records import Demo
from .services import Services
from .table_reading import read_table_inside

if TYPE_CHECKING:  # what computes is imported by those who compare, not at each start
    from ..core.checks.expected import ExpectedOutputs, ExpectedUnfit

__all__ = ["MOST_EXPECTED", "bring_expected", "kept_expected"]

# Rows compared; of a longer table the first.
MOST_EXPECTED = 10_000


def bring_expected(services: Services, demo: Demo, file: str) -> "tuple[ExpectedOutputs, PlainTable, Demo]":
    """Keep a table of outputs for a demo's check; what is there before stays if it does not fit.

    Parameters
    ----------
    services : Services
    demo : Demo
        Its record.
    file : str
        The table's hash; it is held by whoever asks, and let go here.

    Raises
    ------
    MismatchFaults
        If it is no table, or does not fit the demo's fields and answer.
    RunnerUnavailable
        If no runner can be had now.
    """
    from ..core.checks.expected import expected_outputs

    made: list[str] = []
    try:
        table = read_table_inside(services, file, part="expected", name="the table of outputs", most_rows=MOST_EXPECTED)
        expected = expected_outputs(table.columns, draft_of(demo), total=table.total)
        content = encoded(table)
        made.append(services.files.take_file(io.BytesIO(content), limit=len(content), too_large=ValueError))
        changed = set_expected(demo, file, made[0], services.stamp)
    finally:
        services.files.let_go([file, *made])
    return expected, table, changed


def kept_expected(files: FileStore, demo: Demo, document: DemoDocument) -> "ExpectedOutputs | ExpectedUnfit | None":
    """What was brought to compare with, as cases of the document; None if nothing was.

    Parameters
    ----------
    files : FileStore
        Where files are kept by their hash.
    demo : Demo
        Its record.
    document : DemoDocument
        What the demo says of itself.
    """
    from ..core.checks.expected import ExpectedUnfit, expected_outputs

    if demo.expected_rows_file_id is None:
        return None
    if demo.expected_of != demo.model.model_file_id:
        return ExpectedUnfit("They are of the model before this one.")
    table = decoded(files.path(demo.expected_rows_file_id).read_bytes(), PlainTable)
    try:
        return expected_outputs(table.columns, document, total=table.total)
    except MismatchFaults as error:
        return ExpectedUnfit(error.faults[0].message)
