"""A compiled model: its inputs, its steps, its arrays.

Steps work on *blocks*: float64 arrays of shape (n_rows, width), each under a name. A step reads blocks, arrays and
raw columns by name and writes one block. There is no code in a plan: what a step does is named by `op`, and
`operations` knows what that means.
"""

from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict

__all__ = ["SET_ARRAYS", "TREE_ARRAYS", "Input", "Plan", "PlanDamaged", "Step", "check_plan"]

VERSION = 1
TREE_ARRAYS = {
    "roots": "int32",
    "feature": "int32",
    "threshold": "float64",
    "left": "int32",
    "missing_left": "uint8",
}
# Only where trees split by sets of categories: all four or none.
SET_ARRAYS = {
    "set_of_node": "int32",
    "set_starts": "int32",
    "goes_left_sets": "uint8",
    "strangers_left": "uint8",
}


class PlanDamaged(Exception):
    """A plan that contradicts itself, or is none."""


class Input(BaseModel):
    """One raw column: numbers, values looked up in a list of categories, or text."""

    model_config = ConfigDict(extra="forbid")

    name: str
    kind: Literal["number", "category", "text"]


class Step(BaseModel):
    """One step. `inputs` name blocks, `arrays` name arrays by their part in the step, `settings` is the rest."""

    model_config = ConfigDict(extra="forbid")

    op: str
    out: str
    width: int
    inputs: list[str] = []
    arrays: dict[str, str] = {}
    settings: dict[str, Any] = {}


class Plan(BaseModel):
    """Inputs, steps in order, arrays by name; the last step's block is the output."""

    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)

    version: int = VERSION
    inputs: list[Input]
    steps: list[Step]
    arrays: dict[str, np.ndarray]

    @property
    def n_outputs(self) -> int:
        """Width of the output."""
        return self.steps[-1].width


def check_plan(plan: Plan) -> None:
    """Everything the kernels and operations trust.

    Raises
    ------
    PlanDamaged
        If a step reads what is not there, an array has the wrong type or shape, or a tree leads out of itself.
    """
    from .operations import OPERATIONS

    if plan.version != VERSION:
        raise PlanDamaged(f"this is version {plan.version} of the format; {VERSION} is read here")
    if not plan.steps:
        raise PlanDamaged("there are no steps")
    columns = {item.name for item in plan.inputs}
    if len(columns) < len(plan.inputs):
        raise PlanDamaged("an input is named twice")
    widths: dict[str, int] = {}
    for step in plan.steps:
        operation = OPERATIONS.get(step.op)
        if operation is None:
            raise PlanDamaged(f"there is no operation `{step.op}`")
        if any(name not in widths for name in step.inputs):
            raise PlanDamaged(f"`{step.op}` reads a block that no step before it has written")
        if any(name not in plan.arrays for name in step.arrays.values()):
            raise PlanDamaged(f"`{step.op}` reads an array that is not there")
        if any(name not in columns for name in step.settings.get("columns", [])):
            raise PlanDamaged(f"`{step.op}` reads a column that is no input")
        arrays = {part: plan.arrays[name] for part, name in step.arrays.items()}
        try:
            width = operation.width([widths[name] for name in step.inputs], arrays, step.settings)
        except (KeyError, TypeError, ValueError, IndexError) as error:
            raise PlanDamaged(f"`{step.op}` does not fit together: {error}") from error
        if width != step.width or step.out in widths:
            raise PlanDamaged(f"`{step.op}` writes a block of another width, or twice")
        widths[step.out] = width
