"""Runs a plan."""

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from .operations import OPERATIONS
from .plan import Plan

__all__ = ["CompiledModel"]

# Rows computed at once: memory stays flat however many rows come.
CHUNK_ROWS = 8192


class CompiledModel:
    """A plan ready to be asked.

    Parameters
    ----------
    plan : Plan
        Checked.
    """

    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self._steps = [
            (
                OPERATIONS[step.op].run,
                step.inputs,
                OPERATIONS[step.op].prepare({part: plan.arrays[name] for part, name in step.arrays.items()}),
                step.settings,
                step.out,
            )
            for step in plan.steps
        ]
        self._numbers = {item.name for item in plan.inputs if item.kind == "number"}

    def predict(self, columns: Mapping[str, Sequence[Any]]) -> np.ndarray:
        """Outputs of shape (n_rows, n_outputs).

        Parameters
        ----------
        columns : mapping of str to sequence, each of length n_rows
            The raw values of every input; None (or NaN) where one is missing.
        """
        n_rows = len(next(iter(columns.values())))
        if n_rows <= CHUNK_ROWS:
            return self._predict_chunk(columns)
        out = np.empty((n_rows, self.plan.n_outputs))
        for start in range(0, n_rows, CHUNK_ROWS):
            chunk = slice(start, start + CHUNK_ROWS)
            out[chunk] = self._predict_chunk({name: values[chunk] for name, values in columns.items()})
        return out

    def _predict_chunk(self, columns: Mapping[str, Sequence[Any]]) -> np.ndarray:
        ready = {name: self._ready(name, values) for name, values in columns.items()}
        blocks: dict[str, np.ndarray] = {}
        out = ""
        for run, inputs, arrays, settings, out in self._steps:
            blocks[out] = run([blocks[name] for name in inputs], arrays, settings, ready)
        return blocks[out]

    def _ready(self, name: str, values: Sequence[Any]) -> Sequence[Any]:
        if name in self._numbers and not isinstance(values, np.ndarray):
            return [np.nan if value is None else value for value in values]
        return values
