"""A plan in two parts: what makes columns of single fields, and what is computed from those.

The first part is computed once for the case and once for the sample. A row that takes some fields from one and the
rest from the other is then mixed of ready columns, and only the second part is computed for it.
"""

import numpy as np

from ..plan.columns import Columns
from ..plan.engine import CompiledModel
from ..plan.plan import Plan
from .structure import Column, columns_of_blocks

__all__ = ["ColumnParts", "SplitPlan"]

ColumnParts = dict[str, np.ndarray]


class SplitPlan:
    """A plan whose middle can be mixed.

    Parameters
    ----------
    compiled : CompiledModel
    """

    def __init__(self, compiled: CompiledModel) -> None:
        self.compiled = compiled
        self.plan: Plan = compiled.plan
        self.columns: dict[str, list[Column]] = columns_of_blocks(self.plan)
        self.n_fields = len(self.plan.inputs)
        outs = [step.out for step in self.plan.steps]
        # Counts of words are sparse and many; what is made of several fields cannot be mixed.
        single = {
            step.out: all(len(column.fields) <= 1 for column in self.columns[step.out]) for step in self.plan.steps
        }
        front: set[str] = set()
        for step in self.plan.steps:
            # Where a model has one field only, its output is a column of a single field; it is not for mixing.
            if single[step.out] and set(step.inputs) <= front and step.op not in ("forest", "boosted"):
                front.add(step.out)
        if outs[-1] in front:
            front.discard(outs[-1])
        self.front = [at for at, out in enumerate(outs) if out in front]
        self.tail = [at for at, out in enumerate(outs) if out not in front]
        read = {name for at in self.tail for name in self.plan.steps[at].inputs}
        self.seam = [out for out in outs if out in front and out in read]
        # Steps of the second part that read raw columns by themselves: those of mixed fields, at the very start.
        self.mixable = all(not self.plan.steps[at].settings.get("columns") for at in self.tail)
        self.field_of = {
            name: np.array([next(iter(column.fields), self.n_fields) for column in self.columns[name]])
            for name in self.seam
        }

    def parts(self, columns: Columns) -> ColumnParts:
        """The seam's blocks for these raw rows, each of shape (n_rows, width).

        Parameters
        ----------
        columns : mapping
            Raw values by column, each of length n_rows.
        """
        return self.compiled.run_steps(self.front, {}, columns, keep=self.seam)

    def outputs(self, parts: ColumnParts) -> np.ndarray:
        """Outputs of shape (n_rows, n_outputs) from the seam's blocks.

        Parameters
        ----------
        parts : ColumnParts
            The seam's blocks, each of shape (n_rows, width).
        """
        last = self.plan.steps[-1].out
        n_rows = len(next(iter(parts.values())))
        out = np.empty((n_rows, self.plan.n_outputs))
        for start in range(0, n_rows, self.compiled.chunk_rows):
            chunk = slice(start, start + self.compiled.chunk_rows)
            some = {name: block[chunk] for name, block in parts.items()}
            out[chunk] = self.compiled.run_steps(self.tail, some, {}, keep=[last])[last]
        return out

    def mixed(self, case: ColumnParts, sample: ColumnParts, takes: np.ndarray, rows: np.ndarray) -> ColumnParts:
        """Rows that take some fields from the case and the rest from sample rows.

        Parameters
        ----------
        case : parts of one row
        sample : parts of n_sample_rows rows
        takes : ndarray of bool, shape (n_rows, n_fields)
            Whether each row takes each field from the case.
        rows : ndarray of int, shape (n_rows,)
            Which sample row the rest comes from.
        """
        # Columns of no field at all are the same in both.
        takes = np.concatenate([takes, np.zeros((len(takes), 1), dtype=bool)], axis=1)
        return {name: np.where(takes[:, self.field_of[name]], case[name], sample[name][rows]) for name in self.seam}
