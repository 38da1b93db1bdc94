"""Exact contributions where the output is a weighted sum of columns made of one field each."""

import numpy as np

from ..plan.plan import Plan
from .splitting import ColumnParts, SplitPlan
from .trees import LINKS

__all__ = ["LinearSum", "find_linear_sum"]

AFFINE = ("multiply", "divide", "add", "subtract", "take", "linear", "join", "sum")


def find_linear_sum(split: SplitPlan, *, at_score: bool = False) -> "LinearSum | None":
    """The plan's weights, if its output (or its score) is an affine function of the seam.

    Parameters
    ----------
    split : SplitPlan
        The plan, cut where its columns meet.
    at_score : bool, optional
        Look at what the last function is applied to, not at what it makes.
    """
    plan, last = split.plan, None
    for at in split.tail:
        step = plan.steps[at]
        if at_score and step.op in LINKS and last is not None:
            break
        if step.op not in AFFINE:
            return None
        last = step.out
    return LinearSum(split, last) if last is not None and split.mixable else None


class LinearSum:
    """A weighted sum of columns.

    Parameters
    ----------
    split : SplitPlan
    out : str
        The block that is the sum.
    """

    def __init__(self, split: SplitPlan, out: str) -> None:
        self._split, self._out = split, out
        self._steps = [at for at in split.tail if at <= _place(split.plan, out)]

    def contributions(self, case: ColumnParts, sample: ColumnParts, *, of: int) -> np.ndarray:
        """Each field's weights times how far the case is from the sample's mean, in output `of`: (n_fields,).

        For a sum every order of fields gives the same, so this is the Shapley value.

        Parameters
        ----------
        case : ColumnParts
            One row at the seam, width of each block.
        sample : ColumnParts
            The sample rows at the seam.
        of : int
            Index of an output.
        """
        split = self._split
        mean = {name: block.mean(axis=0, keepdims=True) for name, block in sample.items()}
        fields = np.arange(split.n_fields)
        # One row a field that takes it alone from the case; the last takes none.
        takes = np.concatenate([np.eye(split.n_fields, dtype=bool), np.zeros((1, split.n_fields), dtype=bool)])
        rows = split.mixed(case, mean, takes, np.zeros(len(takes), dtype="int64"))
        sums = split.compiled.run_steps(self._steps, rows, {}, keep=[self._out])[self._out]
        return sums[fields, of] - sums[-1, of]

    def outputs(self, parts: ColumnParts) -> np.ndarray:
        """The sum on its own scale: shape (n_rows, n_outputs).

        Parameters
        ----------
        parts : ColumnParts
            The seam's blocks, each of shape (n_rows, width).
        """
        return self._split.compiled.run_steps(self._steps, parts, {}, keep=[self._out])[self._out]


def _place(plan: Plan, out: str) -> int:
    return next(at for at, step in enumerate(plan.steps) if step.out == out)
