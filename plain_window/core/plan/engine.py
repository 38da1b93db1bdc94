"""Runs a plan."""

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from ..contract.values import Cell
from .columns import Columns, ColumnValues
from .operations import OPERATIONS
from .operations.registry import Arrays, Run, Settings
from .operations.sparse import Sparse
from .plan import Plan, Step
from .single_row import SingleRow

__all__ = ["CompiledModel"]

# Rows computed at once, fewer where rows are wide: memory stays flat however many rows come.
CHUNK_ROWS = 8192
CHUNK_NUMBERS = 8_000_000


class CompiledModel:
    """A plan ready to be asked.

    Parameters
    ----------
    plan : Plan
        Checked.
    """

    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self._steps = [_ready(step, plan) for step in plan.steps]
        self.chunk_rows = max(1, min(CHUNK_ROWS, CHUNK_NUMBERS // sum(_row_size(step, plan) for step in plan.steps)))
        self._numbers = {item.name for item in plan.inputs if item.kind == "number"}
        self._single_row = SingleRow(plan)
        self._left_for_row = range(self._single_row.n_steps, len(self._steps))
        self._read_by_those = {name for at in self._left_for_row for name in plan.steps[at].settings.get("columns", ())}

    def predict(self, columns: Columns) -> np.ndarray:
        """Outputs of shape (n_rows, n_outputs).

        Parameters
        ----------
        columns : mapping of str to sequence, each of length n_rows
            The raw values of every input; None (or NaN) where one is missing.
        """
        n_rows = len(next(iter(columns.values())))
        if n_rows == 1:
            return self.predict_row({name: values[0] for name, values in columns.items()})
        if n_rows <= self.chunk_rows:
            return self._predict_chunk(columns)
        out = np.empty((n_rows, self.plan.n_outputs))
        for start in range(0, n_rows, self.chunk_rows):
            chunk = slice(start, start + self.chunk_rows)
            out[chunk] = self._predict_chunk({name: values[chunk] for name, values in columns.items()})
        return out

    def predict_row(self, row: Mapping[str, Cell]) -> np.ndarray:
        """Outputs of shape (1, n_outputs) for one row, as `predict` gives them.

        Parameters
        ----------
        row : mapping of str to value
            The raw value of every input; None (or NaN) where one is missing.
        """
        blocks = self._single_row.run(row) if self._single_row.n_steps else None
        if blocks is None:
            return self._predict_chunk({item.name: [row[item.name]] for item in self.plan.inputs})
        columns = {name: [row[name]] for name in self._read_by_those}
        last = self.plan.steps[-1].out
        return self.run_steps(self._left_for_row, blocks, columns, keep=[last])[last]

    def run_steps(
        self,
        places: Sequence[int],
        blocks: Mapping[str, np.ndarray | Sparse],
        columns: Columns,
        *,
        keep: Sequence[str],
    ) -> dict[str, np.ndarray]:
        """Some of the steps, on blocks that are there already; the blocks named in `keep`, dense.

        Parameters
        ----------
        places : sequence of int
            Which steps, in order.
        blocks : mapping of str to ndarray
        columns : mapping of str to sequence
            The raw values, where one of these steps reads them.
        keep : sequence of str
        """
        ready = {name: self._values(name, values) for name, values in columns.items()}
        made: dict[str, Any] = dict(blocks)
        for at in places:
            run, takes_sparse, inputs, arrays, settings, out = self._steps[at]
            values = [made[name] for name in inputs]
            if not takes_sparse:
                for place, block in enumerate(values):
                    if isinstance(block, Sparse):
                        values[place] = block.dense()
            made[out] = run(values, arrays, settings, ready)
        return {name: made[name].dense() if isinstance(made[name], Sparse) else made[name] for name in keep}

    def _predict_chunk(self, columns: Columns) -> np.ndarray:
        last = self.plan.steps[-1].out
        return self.run_steps(range(len(self._steps)), {}, columns, keep=[last])[last]

    def _values(self, name: str, values: ColumnValues) -> ColumnValues:
        # Nearly always nothing is missing, and one look by the interpreter itself costs less than one at each value.
        if name in self._numbers and not isinstance(values, np.ndarray) and None in values:
            return [np.nan if value is None else value for value in values]
        return values


def _ready(step: Step, plan: Plan) -> tuple[Run, bool, list[str], Arrays, Settings, str]:
    """A step with all it needs at hand."""
    operation = OPERATIONS[step.op]
    arrays = operation.prepare({part: plan.arrays[name] for part, name in step.arrays.items()})
    settings = {**step.settings, **operation.ready(arrays, step.settings)}
    return operation.run, operation.takes_sparse, step.inputs, arrays, settings, step.out


def _row_size(step: Step, plan: Plan) -> int:
    """How many numbers one row takes in this step."""
    arrays = {part: plan.arrays[name] for part, name in step.arrays.items()}
    return step.width + OPERATIONS[step.op].scratch(arrays, step.settings)
