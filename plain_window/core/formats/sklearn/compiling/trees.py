"""Trees, averaged trees, boosted trees."""

from collections.abc import Sequence
from typing import Any

import numpy as np
from sklearn.dummy import DummyClassifier, DummyRegressor
from sklearn.ensemble import (
    ExtraTreesClassifier,
    ExtraTreesRegressor,
    GradientBoostingClassifier,
    GradientBoostingRegressor,
    HistGradientBoostingClassifier,
    HistGradientBoostingRegressor,
    RandomForestClassifier,
    RandomForestRegressor,
)
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor, ExtraTreeClassifier, ExtraTreeRegressor

from ....plan.building import Block, Builder, CannotCompile, Raw
from ....plan.trees import CategorySet, Tree, tree_arrays
from .registry import Value, Wanted, compile_transformer, head, scores

__all__ = ["PLAIN_TREES", "forest_step", "linked"]

PLAIN_TREES = (DecisionTreeClassifier, DecisionTreeRegressor, ExtraTreeClassifier, ExtraTreeRegressor)


def _tree_of(estimator: Any) -> Tree:
    """scikit-learn numbers nodes depth first: parents before their children."""
    tree = estimator.tree_
    return Tree(
        is_leaf=tree.children_left < 0,
        feature=tree.feature,
        threshold=tree.threshold,
        left=tree.children_left,
        right=tree.children_right,
        missing_left=tree.missing_go_to_left,
    )


def forest_step(
    builder: Builder, estimators: Sequence[Any], value: Value, *, values: list[np.ndarray] | None = None
) -> Block:
    """The mean of what the leaves of fitted trees say.

    Parameters
    ----------
    builder : Builder
    estimators : sequence of fitted trees
    value : Raw or Block
    values : list of ndarray of shape (n_nodes, n_outputs), optional
        What each tree's nodes say, in place of what they were fitted to.
    """
    arrays, leaves = tree_arrays([_tree_of(estimator) for estimator in estimators])
    by_node = values if values is not None else [_node_values(estimator) for estimator in estimators]
    picked = [part[own] for part, own in zip(by_node, leaves, strict=True)]
    arrays["values"] = np.ascontiguousarray(np.concatenate(picked), dtype="float64")
    # The library compares in single precision; rounding first and comparing in double comes to the same.
    rounded = builder.each("float32", builder.numbers(value))
    return builder.step("forest", arrays["values"].shape[1], inputs=[rounded], arrays=arrays)


def _node_values(estimator: Any) -> np.ndarray:
    """What each node says, from the library's (n_nodes, n_outputs, n_classes)."""
    values = estimator.tree_.value
    if values.shape[1] == 1 or values.shape[2] == 1:
        return values.reshape(len(values), -1)
    if values.shape[2] > 2:
        raise CannotCompile("A forest of several outputs with several classes each has no compiled form yet.")
    # Several labels: the second of each two shares is that of "it applies".
    return values[:, :, 1]


def _classes(builder: Builder, block: Block, wanted: Wanted) -> Block:
    return builder.each("largest", block) if wanted == "classes" else block


@head(RandomForestClassifier, ExtraTreesClassifier, RandomForestRegressor, ExtraTreesRegressor)
def _forest(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    return _classes(builder, forest_step(builder, list(model.estimators_), value), wanted)


@head(*PLAIN_TREES)
def _tree(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    return _classes(builder, forest_step(builder, [model], value), wanted)


@head(GradientBoostingClassifier, GradientBoostingRegressor)
def _gradient_boosting(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    raw = _gradient_boosting_scores(builder, model, value, wanted)
    if type(model) is GradientBoostingRegressor:
        return raw
    if model.loss != "log_loss":
        raise CannotCompile(f"`GradientBoostingClassifier` with loss `{model.loss}` has no compiled form yet.")
    return _classes(builder, linked(builder, raw), wanted)


@scores(GradientBoostingClassifier)
def _gradient_boosting_scores(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    estimators = [estimator for stage in model.estimators_ for estimator in stage]
    trees = [estimator.tree_ for estimator in estimators]
    n_outputs = model.estimators_.shape[1]
    arrays, leaves = tree_arrays([_tree_of(estimator) for estimator in estimators])
    arrays["values"] = np.concatenate([tree.value[own, 0, 0] for tree, own in zip(trees, leaves, strict=True)])
    arrays["tree_output"] = np.tile(np.arange(n_outputs, dtype="int32"), len(model.estimators_))
    arrays["start"] = _boosting_start(model, n_outputs)
    rounded = builder.each("float32", builder.numbers(value))
    settings = {"rate": float(model.learning_rate)}
    return builder.step("boosted", n_outputs, inputs=[rounded], arrays=arrays, settings=settings)


def linked(builder: Builder, raw: Block) -> Block:
    """Probabilities from the scores of a boosted classifier.

    Parameters
    ----------
    builder : Builder
        Steps are added to it.
    raw : Block
        What the trees add up to.
    """
    if raw.width == 1:
        return builder.each("with_complement", builder.each("sigmoid", raw), width=2)
    return builder.each("softmax", raw)


def _boosting_start(model: Any, n_outputs: int) -> np.ndarray:
    if isinstance(model.init_, str):
        return np.zeros(n_outputs)
    if type(model.init_) not in (DummyClassifier, DummyRegressor):
        raise CannotCompile("Gradient boosting that starts from another model has no compiled form yet.")
    # A dummy answers the same for every row: one row of zeros tells it.
    return model._raw_predict_init(np.zeros((1, model.n_features_in_), dtype="float32"))[0].astype("float64")


@head(HistGradientBoostingClassifier, HistGradientBoostingRegressor)
def _histogram_boosting(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    raw = _histogram_boosting_scores(builder, model, value, wanted)
    if type(model) is HistGradientBoostingClassifier:
        return _classes(builder, linked(builder, raw), wanted)
    if model.loss in ("poisson", "gamma"):
        return builder.each("exp", raw)
    return raw


@scores(HistGradientBoostingClassifier)
def _histogram_boosting_scores(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    block, n_bits = _histogram_inputs(builder, model, value)
    predictors = [predictor for stage in model._predictors for predictor in stage]
    known = _known_categories(model, n_bits)
    arrays, leaves = tree_arrays([_histogram_tree(predictor, known) for predictor in predictors])
    values = [part.nodes["value"][own] for part, own in zip(predictors, leaves, strict=True)]
    n_outputs = len(model._predictors[0])
    arrays["values"] = np.concatenate(values).astype("float64")
    arrays["tree_output"] = np.tile(np.arange(n_outputs, dtype="int32"), len(model._predictors))
    start = np.asarray(model._baseline_prediction, dtype="float64").ravel()
    arrays["start"] = np.broadcast_to(start, (n_outputs,)).copy()
    return builder.step("boosted", n_outputs, inputs=[block], arrays=arrays, settings={"rate": 1.0})


# The library keeps sets of codes in 256 bits.
N_BITS = 256


def _histogram_inputs(builder: Builder, model: Any, value: Value) -> tuple[Block, int]:
    """What the trees are given: options as codes in front, then the numbers."""
    if model._preprocessor is None:
        return builder.numbers(value), 0
    apart = model._preprocessor
    encoder = apart.named_transformers_["encoder"]
    parts: list[Value] = []
    for name, _, selected in apart.transformers_:
        places = np.flatnonzero(selected).tolist() if np.asarray(selected).dtype == bool else selected
        if len(places):
            own = _columns_at(builder, value, places)
            parts.append(compile_transformer(builder, encoder, own) if name == "encoder" else own)
    return builder.join(parts), N_BITS


def _columns_at(builder: Builder, value: Value, places: Sequence[int]) -> Value:
    if isinstance(value, Raw):
        return Raw(tuple(value.columns[at] for at in places))
    return builder.take(value, places)


def _known_categories(model: Any, n_bits: int) -> dict[int, np.ndarray]:
    """For each feature of options, which codes the model met."""
    if not n_bits:
        return {}
    bits, place_of = model._bin_mapper.make_known_categories_bitsets()
    return {
        int(feature): _unpacked(bits[place_of[feature]]) for feature in np.flatnonzero(model._is_categorical_remapped)
    }


def _unpacked(words: np.ndarray) -> np.ndarray:
    """Eight words of 32 bits as 256 zeros and ones."""
    return np.unpackbits(np.ascontiguousarray(words).astype("<u4").view("uint8"), bitorder="little")


def _histogram_tree(predictor: Any, known: dict[int, np.ndarray]) -> Tree:
    nodes = predictor.nodes
    sets = {}
    for at in np.flatnonzero(nodes["is_categorical"] & ~nodes["is_leaf"].astype(bool)) if known else ():
        goes_left = _unpacked(predictor.raw_left_cat_bitsets[nodes["bitset_idx"][at]])
        missing_left = bool(nodes["missing_go_to_left"][at])
        met = known[int(nodes["feature_idx"][at])]
        # A code the model never met goes where missing values go.
        sets[int(at)] = CategorySet(np.where(met, goes_left, missing_left).astype("uint8"), missing_left)
    return Tree(
        is_leaf=nodes["is_leaf"].astype(bool),
        feature=nodes["feature_idx"],
        threshold=nodes["num_threshold"],
        left=nodes["left"].astype("int64"),
        right=nodes["right"].astype("int64"),
        missing_left=nodes["missing_go_to_left"],
        sets=sets,
    )
