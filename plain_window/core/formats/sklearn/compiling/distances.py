"""Kernel machines, nearest neighbours, naive Bayes."""

from typing import Any

import numpy as np
from sklearn.kernel_ridge import KernelRidge
from sklearn.naive_bayes import BernoulliNB, CategoricalNB, ComplementNB, GaussianNB, MultinomialNB
from sklearn.neighbors import KNeighborsClassifier, KNeighborsRegressor
from sklearn.svm import SVC, SVR, NuSVC, NuSVR

from ....plan.building import Block, Builder, CannotCompile
from .registry import Value, Wanted, head, scores

__all__: list[str] = []

POWERS = {"euclidean": 2.0, "l2": 2.0, "manhattan": 1.0, "l1": 1.0, "cityblock": 1.0, "chebyshev": np.inf}


def _likeness(builder: Builder, value: Value, rows: Any, kernel: Any, gamma: float, model: Any) -> Block:
    """The block of likeness to the learned rows."""
    if kernel not in ("linear", "poly", "polynomial", "rbf", "sigmoid"):
        raise CannotCompile(f"`{type(model).__name__}` with the kernel `{kernel}` has no compiled form.")
    settings = {
        "kernel": "poly" if kernel == "polynomial" else kernel,
        "gamma": float(gamma),
        "coef0": float(model.coef0),
        "degree": float(model.degree),
    }
    learned = rows.toarray() if hasattr(rows, "toarray") else np.asarray(rows)
    arrays = {"rows": np.ascontiguousarray(learned, dtype="float64")}
    return builder.step("kernel", len(learned), inputs=[builder.numbers(value)], arrays=arrays, settings=settings)


# --- support vector machines ------------------------------------------------------------------------------------------


@head(SVR, NuSVR)
def _support_regressor(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    likeness = _likeness(builder, value, model.support_vectors_, model.kernel, model._gamma, model)
    return builder.linear(likeness, _dense(model.dual_coef_).T, model.intercept_)


def _dense(values: Any) -> np.ndarray:
    return values.toarray() if hasattr(values, "toarray") else np.asarray(values)


def _pair_decisions(builder: Builder, model: Any, value: Value) -> Block:
    """One column a pair of classes, above 0 where it decides for the first of the two."""
    likeness = _likeness(builder, value, model.support_vectors_, model.kernel, model._gamma, model)
    dual, counts = _dense(model._dual_coef_), np.asarray(model._n_support)
    ends = np.cumsum(counts)
    own = [slice(end - count, end) for end, count in zip(ends, counts, strict=True)]
    pairs = [(i, j) for i in range(len(counts)) for j in range(i + 1, len(counts))]
    weights = np.zeros((likeness.width, len(pairs)))
    for at, (i, j) in enumerate(pairs):
        # Each class keeps one row of coefficients for every other class, itself left out.
        weights[own[i], at] = dual[j - 1, own[i]]
        weights[own[j], at] = dual[i, own[j]]
    return builder.linear(likeness, weights, np.asarray(model._intercept_))


@head(SVC, NuSVC)
def _support_classifier(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    pairs = _pair_decisions(builder, model, value)
    n_classes = len(model.classes_)
    settings = {"n_classes": n_classes}
    if wanted == "probabilities":
        arrays = {"slope": np.asarray(model._probA), "shift": np.asarray(model._probB)}
        return builder.step("pair_probabilities", n_classes, inputs=[pairs], arrays=arrays, settings=settings)
    if model.break_ties and n_classes > 2:
        return builder.each("largest", builder.step("pair_scores", n_classes, inputs=[pairs], settings=settings))
    return builder.step("pair_votes", n_classes, inputs=[pairs], settings=settings)


@scores(SVC, NuSVC)
def _support_scores(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    pairs = _pair_decisions(builder, model, value)
    if len(model.classes_) == 2:
        return builder.each("negative", pairs)
    if model.decision_function_shape != "ovr":
        return pairs
    n_classes = len(model.classes_)
    return builder.step("pair_scores", n_classes, inputs=[pairs], settings={"n_classes": n_classes})


@head(KernelRidge)
def _kernel_ridge(builder: Builder, model: KernelRidge, value: Value, wanted: Wanted) -> Block:
    rows = np.asarray(model.X_fit_)
    gamma = 1.0 / rows.shape[1] if model.gamma is None else model.gamma
    likeness = _likeness(builder, value, rows, model.kernel, gamma, model)
    return builder.linear(likeness, np.asarray(model.dual_coef_).reshape(len(rows), -1))


# --- nearest neighbours -----------------------------------------------------------------------------------------------


@head(KNeighborsRegressor, KNeighborsClassifier)
def _neighbours(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    metric = model.effective_metric_
    power = float(model.effective_metric_params_.get("p", 2)) if metric == "minkowski" else POWERS.get(metric)
    if power is None or model.weights not in ("uniform", "distance") or model.effective_metric_params_.get("w"):
        raise CannotCompile(f"`{type(model).__name__}` with metric `{metric}` has no compiled form yet.")
    rows = model._fit_X.toarray() if hasattr(model._fit_X, "toarray") else np.asarray(model._fit_X)
    settings = {"n_neighbours": int(model.n_neighbors), "power": power, "weights": model.weights}
    values = _neighbour_values(model)
    arrays = {"rows": np.ascontiguousarray(rows, dtype="float64"), "values": values}
    inputs = [builder.numbers(value)]
    out = builder.step("neighbours", values.shape[1], inputs=inputs, arrays=arrays, settings=settings)
    return builder.each("largest", out) if wanted == "classes" else out


def _neighbour_values(model: Any) -> np.ndarray:
    """What each learned row says: a number, several, its class, or the labels that apply."""
    learned = np.asarray(model._y)
    if isinstance(model, KNeighborsRegressor) or (learned.ndim == 2 and learned.shape[1] > 1):
        return np.ascontiguousarray(learned.reshape(len(learned), -1), dtype="float64")
    return (learned.reshape(-1, 1) == np.arange(len(model.classes_))[None, :]).astype("float64")


# --- naive Bayes ------------------------------------------------------------------------------------------------------


def _likeliest(builder: Builder, logarithms: Block, wanted: Wanted) -> Block:
    return builder.each("largest" if wanted == "classes" else "softmax", logarithms)


@head(GaussianNB)
def _gaussian(builder: Builder, model: GaussianNB, value: Value, wanted: Wanted) -> Block:
    arrays = {"means": model.theta_, "variances": model.var_, "priors": model.class_prior_}
    logarithms = builder.step("bells", len(model.classes_), inputs=[builder.numbers(value)], arrays=arrays)
    return _likeliest(builder, logarithms, wanted)


@head(MultinomialNB, ComplementNB, BernoulliNB)
def _counted(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    block, weights = builder.numbers(value), model.feature_log_prob_
    offset = model.class_log_prior_
    if isinstance(model, ComplementNB) and len(model.classes_) > 1:
        offset = np.zeros(len(model.classes_))
    if isinstance(model, BernoulliNB):
        if model.binarize is not None:
            block = builder.vector("above", block, model.binarize)
        # What is absent speaks too: its share is counted for all, and taken back for what is there.
        absent = np.log(1 - np.exp(weights))
        weights, offset = weights - absent, offset + absent.sum(axis=1)
    return _likeliest(builder, builder.linear(block, weights.T, offset), wanted)


@head(CategoricalNB)
def _categorical(builder: Builder, model: CategoricalNB, value: Value, wanted: Wanted) -> Block:
    block = builder.numbers(value)
    parts = []
    for at, logarithms in enumerate(model.feature_log_prob_):
        # A code the model never met has no place; the library refuses it, here it counts nothing.
        table = np.vstack([logarithms.T, np.zeros(len(model.classes_))])
        column = builder.column(block, at)
        parts.append(builder.step("lookup", len(model.classes_), inputs=[column], arrays={"table": table}))
    return _likeliest(builder, builder.vector("add", builder.sum(parts), model.class_log_prior_), wanted)
