"""scikit-learn's predictors as steps.

Each function takes the builder, the fitted predictor, the block it is given and whether probabilities are wanted, and
returns the block of its outputs: probabilities in class order, 1 at the predicted class, or numbers.
"""

from collections.abc import Callable
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
from sklearn.linear_model import (
    BayesianRidge,
    ElasticNet,
    ElasticNetCV,
    HuberRegressor,
    Lasso,
    LassoCV,
    LinearRegression,
    LogisticRegression,
    LogisticRegressionCV,
    Ridge,
    RidgeClassifier,
    RidgeCV,
    SGDRegressor,
)
from sklearn.neural_network import MLPClassifier, MLPRegressor
from sklearn.svm import LinearSVC, LinearSVR
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor, ExtraTreeClassifier, ExtraTreeRegressor

from .building import Block, Builder, CannotCompile
from .trees import Tree, tree_arrays

__all__ = ["HEADS"]

Head = Callable[[Builder, Any, Block, bool], Block]
HEADS: dict[type, Head] = {}


def _head(*types: type) -> Callable[[Head], Head]:
    def register(head: Head) -> Head:
        for type_ in types:
            HEADS[type_] = head
        return head

    return register


# --- linear -----------------------------------------------------------------------------------------------------------


def _scores(builder: Builder, model: Any, block: Block) -> Block:
    """Inputs times coefficients, plus intercept."""
    weights = np.atleast_2d(np.asarray(model.coef_, dtype="float64")).T
    offset = np.broadcast_to(np.asarray(model.intercept_, dtype="float64").ravel(), (weights.shape[1],)).copy()
    return builder.step("linear", weights.shape[1], inputs=[block], arrays={"weights": weights, "offset": offset})


@_head(
    LinearRegression,
    Ridge,
    RidgeCV,
    Lasso,
    LassoCV,
    ElasticNet,
    ElasticNetCV,
    BayesianRidge,
    HuberRegressor,
    SGDRegressor,
    LinearSVR,
)
def _linear_regressor(builder: Builder, model: Any, block: Block, probabilities: bool) -> Block:
    return _scores(builder, model, block)


@_head(LogisticRegression, LogisticRegressionCV)
def _logistic(builder: Builder, model: Any, block: Block, probabilities: bool) -> Block:
    scores = _scores(builder, model, block)
    if scores.width == 1:
        return builder.each("with_complement", builder.each("sigmoid", scores), width=2)
    one_against_rest = getattr(model, "multi_class", None) == "ovr" or model.solver == "liblinear"
    if one_against_rest:
        return builder.each("share", builder.each("sigmoid", scores))
    return builder.each("softmax", scores)


@_head(LinearSVC, RidgeClassifier)
def _linear_classifier(builder: Builder, model: Any, block: Block, probabilities: bool) -> Block:
    scores = _scores(builder, model, block)
    if scores.width == 1:
        return builder.each("sign_class", scores, width=2)
    return builder.each("largest", scores)


@_head(DummyClassifier, DummyRegressor)
def _dummy(builder: Builder, model: Any, block: Block, probabilities: bool) -> Block:
    raise CannotCompile(f"`{type(model).__name__}` ignores what it is given; there is nothing to compile.")


@_head(MLPClassifier, MLPRegressor)
def _network(builder: Builder, model: Any, block: Block, probabilities: bool) -> Block:
    for weights, offset in zip(model.coefs_[:-1], model.intercepts_[:-1], strict=True):
        block = _activated(builder, model.activation, _layer(builder, block, weights, offset))
    return _activated(
        builder, model.out_activation_, _layer(builder, block, model.coefs_[-1], model.intercepts_[-1]), last=True
    )


def _layer(builder: Builder, block: Block, weights: np.ndarray, offset: np.ndarray) -> Block:
    arrays = {"weights": np.ascontiguousarray(weights, dtype="float64"), "offset": np.asarray(offset, dtype="float64")}
    return builder.step("linear", weights.shape[1], inputs=[block], arrays=arrays)


def _activated(builder: Builder, name: str, block: Block, *, last: bool = False) -> Block:
    if name == "identity":
        return block
    if name == "relu":
        return builder.vector("at_least", block, 0.0)
    if name == "logistic" and last and block.width > 1:
        raise CannotCompile("A network with several labels has no compiled form yet.")
    activated = builder.each({"logistic": "sigmoid", "tanh": "tanh", "softmax": "softmax", "exp": "exp"}[name], block)
    return builder.each("with_complement", activated, width=2) if name == "logistic" and last else activated


# --- trees ------------------------------------------------------------------------------------------------------------


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


def _forest_step(builder: Builder, estimators: list[Any], block: Block) -> Block:
    trees = [estimator.tree_ for estimator in estimators]
    arrays, leaves = tree_arrays([_tree_of(estimator) for estimator in estimators])
    if trees[0].value.shape[1] > 1 and trees[0].value.shape[2] > 1:
        raise CannotCompile("A forest of several outputs with several classes each has no compiled form yet.")
    # Shape (n_nodes, n_outputs, n_classes): one of the last two is 1.
    values = [tree.value[own].reshape(own.size, -1) for tree, own in zip(trees, leaves, strict=True)]
    # The library compares in single precision; rounding first and comparing in double comes to the same.
    rounded = builder.each("float32", block)
    arrays["values"] = np.ascontiguousarray(np.concatenate(values), dtype="float64")
    return builder.step("forest", arrays["values"].shape[1], inputs=[rounded], arrays=arrays)


@_head(RandomForestClassifier, ExtraTreesClassifier, RandomForestRegressor, ExtraTreesRegressor)
def _forest(builder: Builder, model: Any, block: Block, probabilities: bool) -> Block:
    return _forest_step(builder, list(model.estimators_), block)


@_head(DecisionTreeClassifier, DecisionTreeRegressor, ExtraTreeClassifier, ExtraTreeRegressor)
def _tree(builder: Builder, model: Any, block: Block, probabilities: bool) -> Block:
    return _forest_step(builder, [model], block)


@_head(GradientBoostingClassifier, GradientBoostingRegressor)
def _gradient_boosting(builder: Builder, model: Any, block: Block, probabilities: bool) -> Block:
    estimators = [estimator for stage in model.estimators_ for estimator in stage]
    trees = [estimator.tree_ for estimator in estimators]
    n_outputs = model.estimators_.shape[1]
    arrays, leaves = tree_arrays([_tree_of(estimator) for estimator in estimators])
    arrays["values"] = np.concatenate([tree.value[own, 0, 0] for tree, own in zip(trees, leaves, strict=True)])
    arrays["tree_output"] = np.tile(np.arange(n_outputs, dtype="int32"), len(model.estimators_))
    arrays["start"] = _boosting_start(model, n_outputs)
    rounded = builder.each("float32", block)
    settings = {"rate": float(model.learning_rate)}
    raw = builder.step("boosted", n_outputs, inputs=[rounded], arrays=arrays, settings=settings)
    if type(model) is GradientBoostingRegressor:
        return raw
    if model.loss != "log_loss":
        raise CannotCompile(f"`GradientBoostingClassifier` with loss `{model.loss}` has no compiled form yet.")
    return _linked(builder, raw)


def _linked(builder: Builder, raw: Block) -> Block:
    """Probabilities from the scores of a boosted classifier."""
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


@_head(HistGradientBoostingClassifier, HistGradientBoostingRegressor)
def _hist_gradient_boosting(builder: Builder, model: Any, block: Block, probabilities: bool) -> Block:
    if model.is_categorical_ is not None and np.any(model.is_categorical_):
        raise CannotCompile(f"`{type(model).__name__}` with categorical features has no compiled form yet.")
    predictors = [predictor for stage in model._predictors for predictor in stage]
    n_outputs = len(model._predictors[0])
    nodes = [predictor.nodes for predictor in predictors]
    arrays, leaves = tree_arrays([_hist_tree(part) for part in nodes])
    values = [part["value"][own] for part, own in zip(nodes, leaves, strict=True)]
    arrays["values"] = np.concatenate(values).astype("float64")
    arrays["tree_output"] = np.tile(np.arange(n_outputs, dtype="int32"), len(model._predictors))
    arrays["start"] = np.broadcast_to(
        np.asarray(model._baseline_prediction, dtype="float64").ravel(), (n_outputs,)
    ).copy()
    raw = builder.step("boosted", n_outputs, inputs=[block], arrays=arrays, settings={"rate": 1.0})
    if type(model) is HistGradientBoostingClassifier:
        return _linked(builder, raw)
    if model.loss in ("poisson", "gamma"):
        return builder.each("exp", raw)
    return raw


def _hist_tree(nodes: np.ndarray) -> Tree:
    return Tree(
        is_leaf=nodes["is_leaf"].astype(bool),
        feature=nodes["feature_idx"],
        threshold=nodes["num_threshold"],
        left=nodes["left"].astype("int64"),
        right=nodes["right"].astype("int64"),
        missing_left=nodes["missing_go_to_left"],
    )
