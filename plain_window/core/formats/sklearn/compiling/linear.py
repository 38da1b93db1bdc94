"""Sums of weighted inputs: linear models, discriminants, small networks."""

from typing import Any

import numpy as np
from sklearn.cross_decomposition import PLSRegression
from sklearn.discriminant_analysis import LinearDiscriminantAnalysis
from sklearn.dummy import DummyClassifier, DummyRegressor
from sklearn.linear_model import (
    ARDRegression,
    BayesianRidge,
    ElasticNet,
    ElasticNetCV,
    GammaRegressor,
    HuberRegressor,
    Lars,
    LarsCV,
    Lasso,
    LassoCV,
    LassoLars,
    LassoLarsCV,
    LassoLarsIC,
    LinearRegression,
    LogisticRegression,
    LogisticRegressionCV,
    MultiTaskElasticNet,
    MultiTaskElasticNetCV,
    MultiTaskLasso,
    MultiTaskLassoCV,
    OrthogonalMatchingPursuit,
    OrthogonalMatchingPursuitCV,
    PassiveAggressiveClassifier,
    PassiveAggressiveRegressor,
    Perceptron,
    PoissonRegressor,
    QuantileRegressor,
    RANSACRegressor,
    Ridge,
    RidgeClassifier,
    RidgeClassifierCV,
    RidgeCV,
    SGDClassifier,
    SGDRegressor,
    TheilSenRegressor,
    TweedieRegressor,
)
from sklearn.neural_network import MLPClassifier, MLPRegressor
from sklearn.svm import LinearSVC, LinearSVR

from ....plan.building import Block, Builder, CannotCompile
from .registry import Value, Wanted, compile_model, head, scores

__all__: list[str] = []

LINEAR_REGRESSORS = (
    ARDRegression,
    BayesianRidge,
    ElasticNet,
    ElasticNetCV,
    HuberRegressor,
    Lars,
    LarsCV,
    Lasso,
    LassoCV,
    LassoLars,
    LassoLarsCV,
    LassoLarsIC,
    LinearRegression,
    LinearSVR,
    MultiTaskElasticNet,
    MultiTaskElasticNetCV,
    MultiTaskLasso,
    MultiTaskLassoCV,
    OrthogonalMatchingPursuit,
    OrthogonalMatchingPursuitCV,
    PassiveAggressiveRegressor,
    QuantileRegressor,
    Ridge,
    RidgeCV,
    SGDRegressor,
    TheilSenRegressor,
)
# Their classes are told by the sign of one score, or by the largest of several.
LINEAR_CLASSIFIERS = (
    LinearDiscriminantAnalysis,
    LinearSVC,
    LogisticRegression,
    LogisticRegressionCV,
    PassiveAggressiveClassifier,
    Perceptron,
    RidgeClassifier,
    RidgeClassifierCV,
    SGDClassifier,
)


@head(*LINEAR_REGRESSORS)
@scores(*LINEAR_CLASSIFIERS)
def _weighted_inputs(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    """Inputs times coefficients, plus intercept."""
    weights = np.atleast_2d(np.asarray(model.coef_, dtype="float64")).T
    return builder.linear(builder.numbers(value), weights, np.asarray(model.intercept_, dtype="float64").ravel())


@head(*LINEAR_CLASSIFIERS)
def _classifier(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    block = _weighted_inputs(builder, model, value, wanted)
    if wanted == "classes":
        return builder.each("sign_class", block, width=2) if block.width == 1 else builder.each("largest", block)
    if isinstance(model, SGDClassifier) and model.loss == "modified_huber":
        return _modified_huber(builder, block)
    if block.width == 1:
        return builder.each("with_complement", builder.each("sigmoid", block), width=2)
    one_against_rest = getattr(model, "multi_class", None) == "ovr" or getattr(model, "solver", "") == "liblinear"
    if one_against_rest or isinstance(model, SGDClassifier):
        return builder.each("share", builder.each("sigmoid", block))
    return builder.each("softmax", block)


def _modified_huber(builder: Builder, block: Block) -> Block:
    """Scores cut off at −1 and 1 are the probabilities, from 0 to 1."""
    cut = builder.vector("at_most", builder.vector("at_least", block, -1.0), 1.0)
    share = builder.vector("divide", builder.vector("add", cut, 1.0), 2.0)
    if block.width == 1:
        return builder.each("with_complement", share, width=2)
    return builder.each("share_or_even", share)


@head(PoissonRegressor, GammaRegressor, TweedieRegressor)
def _generalised(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    block = _weighted_inputs(builder, model, value, wanted)
    return block if type(model._base_loss.link).__name__ == "IdentityLink" else builder.each("exp", block)


@head(PLSRegression)
def _partial_least_squares(builder: Builder, model: PLSRegression, value: Value, wanted: Wanted) -> Block:
    block = builder.vector("subtract", builder.numbers(value), model._x_mean)
    return builder.linear(block, np.atleast_2d(model.coef_).T, model.intercept_)


@head(RANSACRegressor)
def _consensus(builder: Builder, model: RANSACRegressor, value: Value, wanted: Wanted) -> Block:
    return compile_model(builder, model.estimator_, value, wanted)


@head(DummyClassifier, DummyRegressor)
def _dummy(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    raise CannotCompile(f"`{type(model).__name__}` ignores what it is given; there is nothing to compile.")


@head(MLPClassifier, MLPRegressor)
def _network(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    block = builder.numbers(value)
    for weights, offset in zip(model.coefs_[:-1], model.intercepts_[:-1], strict=True):
        block = _activated(builder, model.activation, builder.linear(block, weights, offset))
    last = builder.linear(block, model.coefs_[-1], model.intercepts_[-1])
    out = _activated(builder, model.out_activation_, last)
    # One output with two classes is the second's probability; with several labels each has its own.
    if model.out_activation_ == "logistic" and out.width == 1 and isinstance(model, MLPClassifier):
        out = builder.each("with_complement", out, width=2)
    return out if wanted != "classes" else builder.each("largest", out)


def _activated(builder: Builder, name: str, block: Block) -> Block:
    if name == "identity":
        return block
    if name == "relu":
        return builder.vector("at_least", block, 0.0)
    return builder.each({"logistic": "sigmoid", "tanh": "tanh", "softmax": "softmax", "exp": "exp"}[name], block)
