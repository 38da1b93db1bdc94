"""The simple steps in front of a model, for one row at once.

A visitor asks about one case. Looked up, scaled and laid side by side a step at a time, its dozen numbers take as long
as three hundred trees; here they are cells in one row, and all those steps are one call of a kernel.
"""

import math
from collections.abc import Mapping
from typing import cast

import numpy as np
from numpy.typing import ArrayLike

from ..contract.values import Cell
from . import row_kernels as kernels
from .machine_code import fixed
from .operations import OPERATIONS
from .plan import Plan, Step

__all__ = ["SingleRow"]

# What reads the row itself; its values are the first cells.
READING = ("numbers", "codes")
WITH_VECTOR = {
    "add": kernels.ADD,
    "subtract": kernels.SUBTRACT,
    "multiply": kernels.MULTIPLY,
    "divide": kernels.DIVIDE,
    "fill": kernels.FILL,
}
BY_ITSELF = {"is_missing": kernels.IS_MISSING, "float32": kernels.SINGLE}
SIMPLE = {*READING, *WITH_VECTOR, *BY_ITSELF, "join", "take", "one_hot", "lookup"}
# A row so wide is mostly zeros, and worth an array for each step.
MOST_CELLS = 4096


class SingleRow:
    """The first steps of a plan, as many as are simple, ready for one row.

    Parameters
    ----------
    plan : Plan
        Checked.

    Attributes
    ----------
    n_steps : int
        How many they are; the others are run as ever.
    """

    def __init__(self, plan: Plan) -> None:
        steps = _simple_steps(plan)
        self.n_steps = len(steps)
        readers = [step for op in READING for step in steps if step.op == op]
        others = [step for step in steps if step.op not in READING]
        self._numbers = [name for step in readers if step.op == "numbers" for name in step.settings["columns"]]
        self._codes = [
            (step.settings["columns"][0], OPERATIONS["codes"].ready({}, step.settings)["codes"])
            for step in readers
            if step.op == "codes"
        ]
        # Each code that is not known is for the step itself to refuse, where one step does.
        self._refuses = any(step.settings.get("refuse_unknown") for step in readers)
        places: dict[str, slice] = {}
        self._n_cells = 0
        for step in [*readers, *others]:
            places[step.out] = slice(self._n_cells, self._n_cells + step.width)
            self._n_cells += step.width
        program = _Program(places)
        for step in others:
            program.add(step, {part: plan.arrays[name] for part, name in step.arrays.items()})
        self._program, self._constants = fixed(program.steps()), fixed(program.constants())
        read_later = {name for step in plan.steps[self.n_steps :] for name in step.inputs} | {plan.steps[-1].out}
        self._blocks = [(name, place) for name, place in places.items() if name in read_later]

    def run(self, row: Mapping[str, Cell]) -> dict[str, np.ndarray] | None:
        """The blocks that later steps read, each of shape (1, width); None for a row that the steps are to refuse.

        Parameters
        ----------
        row : mapping of str to value
            The raw value of every input; None (or NaN) where one is missing.
        """
        given = [row[name] for name in self._numbers]
        if None in given:
            given = [math.nan if value is None else value for value in given]
        for name, codes in self._codes:
            value = row[name]
            code = codes.get(None if value is None or value != value else value, math.nan)
            if self._refuses and code != code:
                return None
            given.append(code)
        cells = np.empty(self._n_cells)
        cells[: len(given)] = cast("list[float]", given)
        kernels.run_simple_steps(self._program, self._constants, cells)
        return {name: cells[None, place] for name, place in self._blocks}


def _simple_steps(plan: Plan) -> list[Step]:
    """The first steps, up to one that is more than moving and scaling numbers."""
    simple: list[Step] = []
    n_cells = 0
    for step in plan.steps:
        n_cells += step.width
        if step.op not in SIMPLE or n_cells > MOST_CELLS:
            break
        simple.append(step)
    return simple


class _Program:
    """Steps as the kernel takes them. `places` says which cells are whose."""

    def __init__(self, places: Mapping[str, slice]) -> None:
        self._places = places
        self._steps: list[tuple[int, int, int, int, int, int]] = []
        self._constants: list[np.ndarray] = []
        self._n_constants = 0

    def steps(self) -> np.ndarray:
        return np.array(self._steps, dtype="int64").reshape(-1, 6)

    def constants(self) -> np.ndarray:
        return np.concatenate([*self._constants, np.empty(0)])

    def add(self, step: Step, arrays: Mapping[str, np.ndarray]) -> None:
        source, target, settings = self._places[step.inputs[0]].start, self._places[step.out].start, step.settings
        if step.op == "join":
            for name in step.inputs:
                place = self._places[name]
                self._add(kernels.COPY, place.start, target, place.stop - place.start)
                target += place.stop - place.start
        elif step.op == "one_hot":
            # Behind the places of the codes stands that of a code which is none of them: nowhere.
            constants, n_known = [*settings["places"], -1], len(settings["places"])
            self._add(kernels.ONE_HOT, source, target, step.width, constants, n_known=n_known)
        elif step.op == "lookup":
            table = arrays["table"]
            self._add(kernels.LOOKUP, source, target, step.width, table.ravel(), n_known=len(table) - 1)
        elif step.op == "take":
            self._add(kernels.TAKE, source, target, step.width, settings["places"])
        elif step.op in WITH_VECTOR:
            self._add(WITH_VECTOR[step.op], source, target, step.width, arrays["vector"])
        else:
            self._add(BY_ITSELF[step.op], source, target, step.width)

    def _add(
        self, what: int, source: int, target: int, width: int, constants: ArrayLike = (), *, n_known: int = 0
    ) -> None:
        self._steps.append((what, source, target, width, self._n_constants, n_known))
        self._constants.append(np.asarray(constants, dtype="float64"))
        self._n_constants += self._constants[-1].size
