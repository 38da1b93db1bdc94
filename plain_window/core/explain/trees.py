"""Exact contributions and curves of sums of trees, whatever their number and depth.

Contributions are interventional Shapley values [1]_, [2]_ of fields: all columns made of one field are one player.
Where only some coalitions of fields lead to a leaf, that leaf's share for each field has a closed form [3]_; a tree is
walked once for the case and all sample rows together.

References
----------
.. [1] L. S. Shapley, "A Value for n-Person Games", 1953.
.. [2] D. Janzing, L. Minorics, P. Blöbaum, "Feature relevance quantification in explainable AI: A causal problem",
       AISTATS 2020.
.. [3] S. M. Lundberg et al., "From local explanations to global understanding with explainable AI for trees", Nature
       Machine Intelligence 2, 2020, section on interventional values.
"""

from dataclasses import dataclass, field

import numpy as np

from ..plan.columns import Columns
from ..plan.kernels import FEATURE_BITS
from ..plan.operations import OPERATIONS
from ..plan.plan import Plan, Step
from . import curve_kernels, kernels, path_kernels
from .paths import find_paths
from .patterns import LeafContributions, Patterns, coalition_weights, find_patterns
from .splitting import SplitPlan

__all__ = ["LINKS", "TreeSample", "TreeSum", "find_tree_sum"]

TREE_OPS = ("forest", "boosted")
# What may stand between the trees and the output for contributions to the output to be exact.
AFFINE = ("multiply", "divide", "add", "subtract", "take", "linear")
# What turns scores into probabilities; in front of it contributions are exact on the score's own scale.
LINKS = ("sigmoid", "softmax", "with_complement", "exp")


@dataclass(frozen=True)
class _Affine:
    """output = sum · weights + offset."""

    weights: np.ndarray
    offset: np.ndarray


def find_tree_sum(split: SplitPlan, *, at_score: bool = False) -> "TreeSum | None":
    """The plan's trees, if its output (or its score) is an affine function of one sum of them.

    Parameters
    ----------
    split : SplitPlan
    at_score : bool
        Whether what turns the score into a probability is left out.
    """
    plan = split.plan
    steps = [step for step in plan.steps if step.op in TREE_OPS]
    if len(steps) != 1 or len(steps[0].inputs) != 1:
        return None
    trees = steps[0]
    affine = _affine_after(plan, trees, at_score=at_score)
    columns = split.columns[trees.inputs[0]]
    if affine is None or any(len(column.fields) > 1 for column in columns):
        return None
    return TreeSum(split, trees, affine)


def _affine_after(plan: Plan, trees: Step, *, at_score: bool) -> _Affine | None:
    """How the output comes from the trees' sum, if that is affine."""
    weights, offset = np.eye(trees.width), np.zeros(trees.width)
    here = trees.out
    for step in plan.steps[plan.steps.index(trees) + 1 :]:
        if step.inputs != [here]:
            return None
        if step.op in LINKS and at_score:
            break
        if step.op not in AFFINE:
            return None
        weights, offset = _affine_step(plan, step, weights, offset)
        here = step.out
    return _Affine(weights, offset)


def _affine_step(plan: Plan, step: Step, weights: np.ndarray, offset: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    arrays = {part: plan.arrays[name] for part, name in step.arrays.items()}
    if step.op == "take":
        places = step.settings["places"]
        return weights[:, places], offset[places]
    if step.op == "linear":
        return weights @ arrays["weights"], offset @ arrays["weights"] + arrays["offset"]
    vector = arrays["vector"]
    if step.op == "multiply":
        return weights * vector, offset * vector
    if step.op == "divide":
        return weights / vector, offset / vector
    return weights, offset + (vector if step.op == "add" else -vector)


@dataclass(frozen=True)
class TreeSample:
    """Rows as the trees are given them, with their patterns or, for large forests, the sets going left at each node."""

    rows: np.ndarray
    patterns: Patterns | None
    left_rows: np.ndarray | None
    by_output: dict[int, LeafContributions] = field(default_factory=dict)


@dataclass(frozen=True)
class _LeafValues:
    """What leaves add to one output: as it is, and above what most of them add; `unusual` are those that differ.

    In a forest grown until its leaves are pure most leaves add the same for a class: all or nothing.
    """

    values: np.ndarray
    usual: float
    above_usual: np.ndarray
    unusual: np.ndarray

    @classmethod
    def of(cls, values: np.ndarray) -> "_LeafValues":
        different, counts = np.unique(values, return_counts=True)
        usual = float(different[counts.argmax()]) if counts.max() > 1 else 0.0
        above = np.ascontiguousarray(values - usual)
        return cls(np.ascontiguousarray(values), usual, above, np.flatnonzero(above).astype("int32"))


class TreeSum:
    """A sum of trees ready to be explained.

    Parameters
    ----------
    split : SplitPlan
    trees : Step
        Its one step of trees.
    affine : object
        How the output comes from their sum.
    """

    def __init__(self, split: SplitPlan, trees: Step, affine: _Affine) -> None:
        self._split, self._step, self._affine = split, trees, affine
        plan = split.plan
        raw = {part: plan.arrays[name] for part, name in trees.arrays.items()}
        arrays = OPERATIONS[trees.op].prepare(raw)
        self.roots, self.nodes = arrays["roots"], arrays["nodes"]
        empty = np.zeros(0, dtype="uint8")
        self.sets = (
            arrays.get("set_starts", np.zeros(1, dtype="int32")),
            arrays.get("goes_left_sets", empty),
            arrays.get("strangers_left", empty),
        )
        values = arrays["values"]
        if trees.op == "forest":
            self.values = np.ascontiguousarray(values / self.roots.size)
            self.tree_output = np.full(self.roots.size, -1, dtype="int32")
            self.start = np.zeros(values.shape[1])
        else:
            self.values = np.ascontiguousarray((values * float(trees.settings["rate"])).reshape(-1, 1))
            self.tree_output = arrays["tree_output"]
            self.start = arrays["start"].astype("float64")
        self._values_of: dict[int, _LeafValues] = {}
        self._last: tuple[bytes, np.ndarray] = (b"", np.empty(0))
        self._ranges: tuple[np.ndarray, np.ndarray | None] | None = None
        columns = split.columns[trees.inputs[0]]
        self.columns = columns
        self.block = trees.inputs[0]
        self.field_of_column = np.array(
            [next(iter(column.fields), split.n_fields) for column in columns], dtype="int64"
        )
        self.depth = _depth(self.roots, self.nodes)
        self.has_field = self._fields_of_trees()
        self.paths = find_paths(self.roots, self.nodes, self.sets, self.field_of_column)
        self._leaf_tree = np.empty(len(self.values), dtype="int64")
        self._leaf_tree[self.nodes["left"][self.nodes["feature"] < 0]] = self._tree_of_node()[self.nodes["feature"] < 0]
        self._upto = [at for at, step in enumerate(plan.steps) if step.out in _needed_for(plan, trees.inputs[0])]

    def _fields_of_trees(self) -> np.ndarray:
        """Whether each tree asks for each field: (n_trees, n_fields + 1), the last for columns of none."""
        feature = self.nodes["feature"]
        inner = feature >= 0
        out = np.zeros((self.roots.size, self._split.n_fields + 1), dtype="uint8")
        out[self._tree_of_node()[inner], self.field_of_column[feature[inner] & FEATURE_BITS]] = 1
        return out

    def _tree_of_node(self) -> np.ndarray:
        return np.repeat(np.arange(self.roots.size), np.diff([*self.roots, self.nodes.size]))

    def _leaf_values(self, of: int) -> "_LeafValues":
        """What each leaf adds to output `of`, shape (n_leaves,)."""
        if of not in self._values_of:
            weights = self._affine.weights[:, of]
            if self._step.op == "forest":
                leaf_values = self.values @ weights
            else:
                leaf_values = self.values[:, 0] * weights[self.tree_output[self._leaf_tree]]
            self._values_of[of] = _LeafValues.of(leaf_values)
        return self._values_of[of]

    def _missed(self, case: np.ndarray) -> np.ndarray:
        """What a case misses on its way to the leaves; contributions and curves of one case ask one after the other."""
        key = case.tobytes()
        if self._last[0] != key:
            assert self.paths is not None, "asked only where there are paths"
            self._last = (key, self.paths.missed(case))
        return self._last[1]

    def inputs(self, columns: Columns) -> np.ndarray:
        """What the trees are given for raw rows: shape (n_rows, n_columns).

        Parameters
        ----------
        columns : object
            Raw values by column, each of length n_rows.
        """
        name = self._step.inputs[0]
        block = self._split.compiled.run_steps(self._upto, {}, columns, keep=[name])[name]
        return np.ascontiguousarray(block)

    def prepare(self, sample: np.ndarray) -> "TreeSample":
        """Sample rows, as the trees are given them, ready for `contributions`.

        Parameters
        ----------
        sample : ndarray
            Shape (n_sample_rows, n_columns).
        """
        patterns = find_patterns(sample, self.paths) if self.paths is not None else None
        if patterns is not None:
            return TreeSample(sample, patterns, None)
        left_rows = np.zeros((self.nodes.size, (len(sample) + 63) // 64), dtype="uint64")
        kernels.mark_rows_going_left(sample, self.roots, self.nodes, *self.sets, left_rows)
        return TreeSample(sample, None, left_rows)

    def contributions(self, cases: np.ndarray, sample: "TreeSample", *, of: int) -> np.ndarray:
        """Exact contributions to output `of`.

        Parameters
        ----------
        cases : ndarray of shape (n_cases, n_columns)
            What the trees are given for them.
        sample : TreeSample
        of : int

        Returns
        -------
        ndarray of shape (n_cases, n_fields)
        """
        if sample.patterns is not None:
            if of not in sample.by_output:
                leaf = self._leaf_values(of)
                # The usual value, which every tree adds whichever leaf is reached, is nobody's contribution.
                sample.by_output[of] = LeafContributions(
                    sample.patterns, leaf.unusual, leaf.above_usual, self._split.n_fields + 1
                )
            return np.array([sample.by_output[of].of(self._missed(case))[:-1] for case in cases])
        return self._by_walking(np.ascontiguousarray(cases), sample, of)

    def _by_walking(self, cases: np.ndarray, sample: "TreeSample", of: int) -> np.ndarray:
        n_rows, n_fields, left_rows = len(sample.rows), self._split.n_fields, sample.left_rows
        out = np.zeros((len(cases), n_fields + 1, 1))
        assert left_rows is not None, "trees without paths are walked with sets of rows"
        n_words = left_rows.shape[1]
        all_rows = np.full(n_words, ~np.uint64(0))
        if n_rows % 64:
            all_rows[-1] = np.uint64((1 << (n_rows % 64)) - 1)
        kernels.add_contributions(
            cases,
            self.roots,
            self.nodes,
            *self.sets,
            self.field_of_column,
            left_rows,
            all_rows,
            self._leaf_values(of).values[:, None],
            np.zeros_like(self.tree_output),
            coalition_weights(min(self.depth, n_fields + 1)),
            np.zeros((self.depth + 2, kernels.FRAME_NUMBERS), dtype="int64"),
            np.zeros((self.depth + 2, n_words), dtype="uint64"),
            np.zeros((self.depth + 2, n_words), dtype="uint64"),
            np.zeros(self.depth + 2, dtype="int64"),
            np.zeros((2, n_fields + 1), dtype="uint8"),
            np.zeros((n_fields + 1, n_words), dtype="uint64"),
            np.zeros(64, dtype="uint64"),
            np.zeros(n_fields + 1),
            out,
        )
        return out[:, :n_fields, 0] / n_rows

    def outputs(self, inputs: np.ndarray) -> np.ndarray:
        """The sum on its own scale, for what the trees are given: shape (n_rows, n_outputs).

        Parameters
        ----------
        inputs : ndarray
            Shape (n_rows, n_columns).
        """
        arrays = {part: self._split.plan.arrays[name] for part, name in self._step.arrays.items()}
        operation = OPERATIONS[self._step.op]
        sums = operation.run([inputs], operation.prepare(arrays), self._step.settings, {})
        return sums @ self._affine.weights + self._affine.offset

    def steps(self, case: np.ndarray, rank: np.ndarray, first_piece: np.ndarray, *, of: int) -> np.ndarray:
        """Output `of` in each piece of each field, the rest as in the case.

        Parameters
        ----------
        case : ndarray of shape (n_columns,)
        rank : ndarray of int64, shape (n_nodes,)
            The place of each node's threshold among those of its field.
        first_piece : ndarray of int64, shape (n_fields + 1,)
            Where each field's pieces begin; none at all for a field that is not asked about.
        of : int

        Returns
        -------
        ndarray of shape (n_pieces of all fields,)
        """
        out = np.zeros(int(first_piece[-1]))
        ranges = self._ranges_of(rank, np.diff(first_piece))
        if ranges is not None:
            # Columns of no field at all have no pieces.
            ends = np.append(first_piece, first_piece[-1])
            paths, leaf = self.paths, self._leaf_values(of)
            assert paths is not None, "ranges are given only where there are paths"
            path_kernels.add_steps_by_paths(
                leaf.unusual,
                self._missed(case),
                paths.path_starts,
                paths.path_fields,
                ranges,
                ends,
                leaf.above_usual,
                out,
            )
            start = leaf.usual * self.roots.size
        else:
            self._add_steps_by_walking(case, rank, first_piece, of, out)
            start = 0.0
        start += float(self.start @ self._affine.weights[:, of] + self._affine.offset[of])
        curve_kernels.sum_jumps(first_piece, start, out)
        return out

    def _ranges_of(self, rank: np.ndarray, n_pieces: np.ndarray) -> np.ndarray | None:
        """Worked out once for the pieces a model is asked about."""
        if self._ranges is None or self._ranges[0] is not rank:
            self._ranges = (rank, self.paths.ranges(rank, n_pieces) if self.paths is not None else None)
        return self._ranges[1]

    def _add_steps_by_walking(
        self, case: np.ndarray, rank: np.ndarray, first_piece: np.ndarray, of: int, out: np.ndarray
    ) -> None:
        kernels.add_steps(
            np.ascontiguousarray(case),
            self.roots,
            self.nodes,
            *self.sets,
            self.field_of_column,
            self.has_field,
            first_piece,
            rank,
            self._leaf_values(of).values[:, None],
            np.zeros_like(self.tree_output),
            np.zeros((self.depth + 2, 3), dtype="int64"),
            out[:, None],
        )


def _needed_for(plan: Plan, name: str) -> set[str]:
    needed = {name}
    for step in reversed(plan.steps):
        if step.out in needed:
            needed.update(step.inputs)
    return needed


def _depth(roots: np.ndarray, nodes: np.ndarray) -> int:
    """The longest way from a root to a leaf, in nodes."""
    at, deepest = roots, 0
    while at.size:
        inner = at[nodes["feature"][at] >= 0]
        at = np.concatenate([nodes["left"][inner], nodes["left"][inner] + 1])
        deepest += 1
    return deepest
