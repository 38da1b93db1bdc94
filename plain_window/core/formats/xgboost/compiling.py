"""XGBoost's boosted trees into steps, read from the JSON that the library writes.

It compares and adds in single precision. Rounding each input first and comparing in double comes to the same leaf;
sums of leaves are rounded at each step. What the objective then makes of a sum differs in the seventh digit.
"""

import itertools
import json
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from ...plan.building import Block, Builder, CannotCompile, Raw
from ...plan.trees import CategorySet, Tree, boosted_arrays

__all__ = ["category_lists", "compile_xgboost", "linked_margins"]

# What turns the sum of leaves into the answer, by the beginning of the objective's name.
LOGISTIC = ("binary:logistic", "reg:logistic")
LOGARITHMIC = ("count:poisson", "reg:gamma", "reg:tweedie", "survival:cox", "survival:aft")


def compile_xgboost(
    builder: Builder, document: Mapping[str, Any], value: Raw | Block, *, n_iterations: int | None = None
) -> Block:
    """The margins: for each output the sum of leaves, before the objective makes an answer of it.

    Parameters
    ----------
    builder : Builder
    document : mapping
        What `Booster.save_raw("json")` writes.
    value : Raw or Block
    n_iterations : int, optional
        How many rounds count, where training went on beyond the best one.

    Raises
    ------
    CannotCompile
    """
    learner = document["learner"]
    booster = learner["gradient_booster"]
    weights = None
    if booster["name"] == "dart":
        weights, booster = booster["weight_drop"], booster["gbtree"]
    elif booster["name"] != "gbtree":
        raise CannotCompile(f"XGBoost's `{booster['name']}` has no compiled form yet.")
    model = booster["model"]
    n_trees = len(model["trees"])
    if n_iterations is not None and model.get("iteration_indptr"):
        n_trees = model["iteration_indptr"][min(n_iterations, len(model["iteration_indptr"]) - 1)]
    trees = []
    for at, tree in enumerate(model["trees"][:n_trees]):
        if int(tree["tree_param"].get("size_leaf_vector", "0")) > 1:
            raise CannotCompile("XGBoost's trees with several outputs each have no compiled form yet.")
        own, values = _tree(tree)
        trees.append((own, values if weights is None else values * weights[at]))
    start = _start(learner)
    arrays = boosted_arrays(trees, tree_output=model["tree_info"][:n_trees], start=start)
    block = builder.each("float32", _inputs(builder, learner, value))
    return builder.step("boosted", start.size, inputs=[block], arrays=arrays, settings={"rate": 1.0, "is_single": True})


def linked_margins(builder: Builder, objective: str, margins: Block, *, as_classes: bool) -> Block:
    """The answer from the margins, by the objective; for two classes both their probabilities if `as_classes`.

    Parameters
    ----------
    builder : Builder
        Steps are added to it.
    objective : str
        As the library names it.
    margins : Block
        What the trees add up to.
    as_classes : bool
        Whether classes come out, not probabilities.
    """
    if objective.startswith("multi:"):
        return builder.each("softmax", margins)
    if objective in LOGISTIC:
        share = builder.each("sigmoid", margins)
        return builder.each("with_complement", share, width=2) if as_classes and share.width == 1 else share
    if objective == "binary:hinge":
        return builder.each("sign_class", margins, width=2) if as_classes else builder.vector("above", margins, 0.0)
    return builder.each("exp", margins) if objective in LOGARITHMIC else margins


def _start(learner: Mapping[str, Any]) -> np.ndarray:
    """What the sums start from, as margins: the file has it as an answer."""
    parameters = learner["learner_model_param"]
    stated = (
        json.loads(parameters["base_score"]) if parameters["base_score"].startswith("[") else parameters["base_score"]
    )
    base = np.atleast_1d(np.asarray(stated, dtype="float64")).astype("float32").astype("float64")
    objective = learner["objective"]["name"]
    if objective in LOGISTIC:
        base = -np.log(1 / base - 1)
    elif objective in LOGARITHMIC:
        base = np.log(base)
    n_outputs = max(int(parameters.get("num_class", "0")), int(parameters.get("num_target", "1")), 1)
    return np.broadcast_to(base, (n_outputs,)).copy()


def _tree(tree: Mapping[str, Any]) -> tuple[Tree, np.ndarray]:
    left, right = np.asarray(tree["left_children"]), np.asarray(tree["right_children"])
    conditions = np.asarray(tree["split_conditions"], dtype="float32")
    is_leaf = left < 0
    default_left = np.asarray(tree["default_left"]).astype(bool)
    # It goes left below the threshold, not at it: as far as the largest number below.
    below = np.nextafter(conditions, np.float32(-np.inf)).astype("float64")
    own = Tree(
        is_leaf=is_leaf,
        feature=np.asarray(tree["split_indices"]),
        threshold=below,
        left=left,
        right=right,
        missing_left=default_left,
        sets=_sets(tree),
    )
    return own, conditions.astype("float64")


def _sets(tree: Mapping[str, Any]) -> dict[int, CategorySet]:
    """The listed codes go right; so does none that is unknown."""
    sets = {}
    parts = zip(tree["categories_nodes"], tree["categories_segments"], tree["categories_sizes"], strict=True)
    for node, start, size in parts:
        codes = tree["categories"][start : start + size]
        goes_left = np.ones(max(codes, default=-1) + 1, dtype="uint8")
        goes_left[codes] = 0
        sets[int(node)] = CategorySet(goes_left, strangers_left=True)
    return sets


def category_lists(document: Mapping[str, Any]) -> list[list[Any] | None]:
    """For each feature the options the model was trained with, where the file has them in words or numbers.

    Parameters
    ----------
    document : mapping
        The model as XGBoost writes it in JSON.
    """
    learner = document["learner"]
    n_features = int(learner["learner_model_param"]["num_feature"])
    found = learner["gradient_booster"].get("model", {}).get("cats") or {}
    listed = found.get("enc") or []
    return [_options(listed[at]) if at < len(listed) else None for at in range(n_features)]


def _options(encoded: Mapping[str, Any]) -> list[Any] | None:
    values = encoded.get("values") or []
    if "offsets" not in encoded:
        return list(values) or None
    ends, content = encoded["offsets"], bytes(byte % 256 for byte in values)
    return [content[start:end].decode() for start, end in itertools.pairwise(ends)] or None


def _inputs(builder: Builder, learner: Mapping[str, Any], value: Raw | Block) -> Block:
    if isinstance(value, Block):
        return value
    options: Sequence[list[Any] | None] = category_lists({"learner": learner})
    parts: list[Raw | Block] = []
    for column, own in zip(value.columns, options, strict=True):
        parts.append(builder.codes_or_missing(column, own, refuse_unknown=True) if own else Raw((column,)))
    return builder.join(parts)
