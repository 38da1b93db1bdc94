"""LightGBM's boosted trees into steps, read from the text that the library writes."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from ...plan.building import Block, Builder, CannotCompile, Raw
from ...plan.trees import CategorySet, Tree, boosted_arrays

__all__ = ["LightgbmText", "compile_lightgbm", "linked_scores", "read_lightgbm"]

# The bits of a node's decision.
BY_SET = 1
DEFAULT_LEFT = 2
MISSING_SHIFT = 2
MISSING_NONE, MISSING_ZERO, MISSING_NAN = 0, 1, 2


@dataclass(frozen=True)
class LightgbmText:
    """What the text of a model says."""

    settings: Mapping[str, str]
    trees: Sequence[Mapping[str, str]]
    pandas_categories: Sequence[list[Any]]

    @property
    def features(self) -> list[str]:
        """Names, in the model's order. The library writes an underscore for each space."""
        return self.settings["feature_names"].split(" ")

    @property
    def objective(self) -> list[str]:
        """Name and settings of the objective."""
        return self.settings.get("objective", "regression").split(" ")

    @property
    def n_outputs(self) -> int:
        """How many trees each round has."""
        return int(self.settings["num_tree_per_iteration"])

    @property
    def by_options(self) -> list[bool]:
        """Which features are split by sets of options, as far as the trees use them."""
        infos = self.settings.get("feature_infos", "").split(" ")
        return [info != "none" and not info.startswith("[") for info in infos]

    def categories_by_feature(self) -> dict[int, list[Any]]:
        """The options of those columns that were categories in the table, by the feature's place."""
        places = [at for at, by_set in enumerate(self.by_options) if by_set]
        if len(places) != len(self.pandas_categories):
            return {}
        return dict(zip(places, self.pandas_categories, strict=True))


def read_lightgbm(text: str) -> LightgbmText:
    """Take the text of a model apart.

    Parameters
    ----------
    text : str

    Raises
    ------
    ValueError
        If it was cut off or is none.
    """
    head, *parts = text.replace("\r\n", "\n").split("\nTree=")
    if not parts or "end of trees" not in parts[-1]:
        raise ValueError("the text ends before its trees do")
    last, _, tail = parts[-1].partition("end of trees")
    parts[-1] = last
    line = next((line for line in tail.splitlines() if line.startswith("pandas_categorical:")), "")
    categories = json.loads(line.partition(":")[2] or "null") or []
    return LightgbmText(_pairs(head), [_pairs("number=" + part) for part in parts], categories)


def _pairs(text: str) -> dict[str, str]:
    lines = [line.strip() for line in text.splitlines()]
    return {name: value for name, _, value in (line.partition("=") for line in lines if line)}


def compile_lightgbm(
    builder: Builder, model: LightgbmText, value: Raw | Block, *, n_iterations: int | None = None
) -> Block:
    """The scores: for each output the sum of leaves (or their mean), before the objective makes an answer of it.

    Parameters
    ----------
    builder : Builder
        Steps are added to it.
    model : LightgbmText
    value : Raw or Block
        What came before the model.
    n_iterations : int or None, optional
        How many iterations count; all if None.

    Raises
    ------
    CannotCompile
    """
    n_trees = len(model.trees) if not n_iterations else min(n_iterations * model.n_outputs, len(model.trees))
    features = _Features(len(model.features))
    trees = [_tree(tree, features) for tree in model.trees[:n_trees]]
    outputs = [at % model.n_outputs for at in range(n_trees)]
    arrays = boosted_arrays(trees, tree_output=outputs, start=np.zeros(model.n_outputs))
    block = _inputs(builder, model, value)
    if any(features.zero_is_missing):
        block = builder.vector("zero_as_missing", block, np.array(features.zero_is_missing, dtype="float64"))
    is_mean = "average_output" in model.settings
    summed = builder.step("boosted", model.n_outputs, inputs=[block], arrays=arrays, settings={"rate": 1.0})
    return builder.vector("divide", summed, n_trees / model.n_outputs) if is_mean else summed


def linked_scores(builder: Builder, model: LightgbmText, scores: Block) -> Block:
    """The answer from the scores, by the objective; both probabilities for two classes.

    Parameters
    ----------
    builder : Builder
        Steps are added to it.
    model : LightgbmText
    scores : Block
        What the trees add up to.
    """
    name, *settings = model.objective
    if name in ("binary", "multiclassova"):
        slope = next((float(item.partition(":")[2]) for item in settings if item.startswith("sigmoid:")), 1.0)
        share = builder.each("sigmoid", builder.vector("multiply", scores, slope))
        return builder.each("with_complement", share, width=2) if name == "binary" else share
    if name == "multiclass":
        return builder.each("softmax", scores)
    if name in ("poisson", "gamma", "tweedie"):
        return builder.each("exp", scores)
    if name == "cross_entropy":
        return builder.each("sigmoid", scores)
    if name == "cross_entropy_lambda":
        return builder.each("log1p", builder.each("exp", scores))
    return builder.each("signed_square", scores) if "sqrt" in settings else scores


class _Features:
    """What the nodes tell of the features they look at: for each, whether zeros stand for missing values."""

    def __init__(self, n_features: int) -> None:
        self.zero_is_missing: list[bool] = [False] * n_features
        self._met: dict[int, int] = {}

    def note(self, feature: int, missing: int) -> None:
        known = self._met.setdefault(feature, missing)
        if MISSING_ZERO in (known, missing) and known != missing:
            raise CannotCompile("LightGBM's trees take zeros for missing in some nodes of a feature and not in others.")
        self.zero_is_missing[feature] = missing == MISSING_ZERO


def _numbers(tree: Mapping[str, str], name: str, dtype: str) -> np.ndarray:
    return np.array(tree.get(name, "").split(), dtype=dtype)


def _tree(tree: Mapping[str, str], features: _Features) -> tuple[Tree, np.ndarray]:
    """Inner nodes first, then leaves; a child below zero is the leaf of that number, counted from −1."""
    if tree.get("is_linear", "0") != "0":
        raise CannotCompile("LightGBM's linear trees have no compiled form yet.")
    leaf_values = _numbers(tree, "leaf_value", "float64")
    n_inner = leaf_values.size - 1
    decision = _numbers(tree, "decision_type", "int64")
    feature, threshold = _numbers(tree, "split_feature", "int64"), _numbers(tree, "threshold", "float64")
    by_set, missing = (decision & BY_SET) > 0, (decision >> MISSING_SHIFT) & 3
    for node in np.flatnonzero(~by_set):
        features.note(int(feature[node]), int(missing[node]))
    # Where nothing was missing in training, a missing value counts as zero.
    missing_left = np.where(missing == MISSING_NONE, threshold >= 0, (decision & DEFAULT_LEFT) > 0) & ~by_set
    left, right = (_numbers(tree, name, "int64") for name in ("left_child", "right_child"))
    at_leaves = np.zeros(leaf_values.size)
    own = Tree(
        is_leaf=np.concatenate([np.zeros(n_inner, dtype=bool), np.ones(leaf_values.size, dtype=bool)]),
        feature=np.concatenate([feature, at_leaves.astype("int64")]),
        threshold=np.concatenate([threshold, at_leaves]),
        left=np.concatenate([np.where(left < 0, n_inner - left - 1, left), at_leaves.astype("int64")]),
        right=np.concatenate([np.where(right < 0, n_inner - right - 1, right), at_leaves.astype("int64")]),
        missing_left=np.concatenate([missing_left, at_leaves.astype(bool)]),
        sets=_sets(tree, by_set, threshold),
    )
    return own, np.concatenate([np.zeros(n_inner), leaf_values])


def _sets(tree: Mapping[str, str], by_set: np.ndarray, threshold: np.ndarray) -> dict[int, CategorySet]:
    """The listed codes go left, all others right."""
    if not by_set.any():
        return {}
    starts, words = _numbers(tree, "cat_boundaries", "int64"), _numbers(tree, "cat_threshold", "uint32")
    sets = {}
    for node in np.flatnonzero(by_set):
        number = int(threshold[node])
        own = words[starts[number] : starts[number + 1]].astype("<u4")
        sets[int(node)] = CategorySet(np.unpackbits(own.view("uint8"), bitorder="little"), strangers_left=False)
    return sets


def _inputs(builder: Builder, model: LightgbmText, value: Raw | Block) -> Block:
    if isinstance(value, Block):
        return value
    options = model.categories_by_feature()
    parts: list[Raw | Block] = []
    for at, column in enumerate(value.columns):
        own = options.get(at)
        # An option that training never met is a missing one to the library.
        parts.append(builder.codes_or_missing(column, own, refuse_unknown=False) if own else Raw((column,)))
    return builder.join(parts)
