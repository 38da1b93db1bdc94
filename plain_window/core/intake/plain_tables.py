"""A table in plain values, to be handed on by a process that is not trusted."""

from typing import BinaryIO

from ..contract.jobs import ReadTable
from ..contract.tables import PlainTable
from ..tables.reading import read_table
from .row_sampling import plain_value

__all__ = ["plain_table"]


def plain_table(file: BinaryIO, task: ReadTable) -> PlainTable:
    """Read a table, its first rows in plain values.

    Parameters
    ----------
    file : binary file
        Seekable.
    task : ReadTable
        What to call it, and how many rows and values to keep.

    Raises
    ------
    TableNotRead, MismatchFaults
        As `read_table` does, and for a table whose numbers can be read in two ways.
    """
    read = read_table(file, name=task.name, numbers=task.numbers)
    read.refuse_doubtful(list(read.table.columns))
    n_rows = min(task.most_rows, max(1, task.most_values // max(1, len(read.table.columns))))
    rows = read.table.head(n_rows)
    columns = {name: [plain_value(value) for value in rows[name]] for name in rows.columns}
    return PlainTable(columns, total=len(read.table), notes=read.notes)
