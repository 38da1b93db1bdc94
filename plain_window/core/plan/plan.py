"""A compiled model: its inputs, its steps, its arrays.

Steps work on *blocks*: float64 arrays of shape (n_rows, width), each under a name. A step reads blocks, arrays and
raw columns by name and writes one block. There is no code in a plan: what a step does is named by `op`, and
`operations` knows what that means.
"""

from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict

__all__ = ["SET_ARRAYS", "TREE_ARRAYS", "Input", "Plan", "PlanDamaged", "Step"]

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
