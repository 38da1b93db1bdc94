"""Several models asked together: AdaBoost, bagging, voting, stacking, calibration."""

from typing import Any

import numpy as np
from sklearn.calibration import CalibratedClassifierCV
from sklearn.ensemble import (
    AdaBoostClassifier,
    AdaBoostRegressor,
    BaggingClassifier,
    BaggingRegressor,
    StackingClassifier,
    StackingRegressor,
    VotingClassifier,
    VotingRegressor,
)

from ....plan.building import Block, Builder, CannotCompile, Raw
from .registry import Value, Wanted, compile_model, head, scores
from .trees import PLAIN_TREES, forest_step

__all__: list[str] = []


def _gives_probabilities(model: Any) -> bool:
    return hasattr(model, "predict_proba")


# --- AdaBoost ---------------------------------------------------------------------------------------------------------


@scores(AdaBoostClassifier)
def _boosted_scores(builder: Builder, model: AdaBoostClassifier, value: Value, wanted: Wanted) -> Block:
    out = _boosted_votes(builder, model, value)
    if out.width == 2:
        return builder.linear(out, np.array([[-1.0], [1.0]]))
    return out


def _boosted_votes(builder: Builder, model: AdaBoostClassifier, value: Value) -> Block:
    """For each class the weighted votes for it, less what votes for others count against it."""
    n_classes, weights = len(model.classes_), np.asarray(model.estimator_weights_)[: len(model.estimators_)]
    if all(type(estimator) in PLAIN_TREES for estimator in model.estimators_):
        # A leaf votes as a whole: the votes of all trees are one averaged forest.
        votes = [_leaf_votes(tree, weight, n_classes) for tree, weight in zip(model.estimators_, weights, strict=True)]
        scale = len(votes) / float(np.sum(model.estimator_weights_))
        return forest_step(builder, model.estimators_, value, values=[vote * scale for vote in votes])
    parts = [
        _spread(builder, compile_model(builder, part, value, "classes"), part, model) for part in model.estimators_
    ]
    mean = builder.vector("divide", builder.sum(parts, weights.tolist()), float(np.sum(model.estimator_weights_)))
    # A vote counts 1 for its class and −1 / (n − 1) for each other: n / (n − 1) times the vote, less 1 / (n − 1).
    rest = float(np.sum(weights) / np.sum(model.estimator_weights_)) / (n_classes - 1)
    return builder.vector("add", builder.vector("multiply", mean, n_classes / (n_classes - 1)), -rest)


def _leaf_votes(tree: Any, weight: float, n_classes: int) -> np.ndarray:
    """What each node of a tree, taken as a leaf, counts for and against each class: (n_nodes, n_classes)."""
    if len(tree.classes_) != n_classes:
        raise CannotCompile("`AdaBoostClassifier` whose trees saw different classes has no compiled form yet.")
    chosen = tree.tree_.value[:, 0, :].argmax(axis=1)
    votes = np.full((len(chosen), n_classes), -weight / (n_classes - 1))
    votes[np.arange(len(chosen)), chosen] = weight
    return votes


@head(AdaBoostClassifier)
def _boosted_classifier(builder: Builder, model: AdaBoostClassifier, value: Value, wanted: Wanted) -> Block:
    n_classes = len(model.classes_)
    if n_classes == 2:
        score = _boosted_scores(builder, model, value, "scores")
        if wanted == "classes":
            return builder.each("sign_class", score, width=2)
        return builder.each("softmax", builder.linear(score, np.array([[-0.5, 0.5]])))
    votes = _boosted_votes(builder, model, value)
    if wanted == "classes":
        return builder.each("largest", votes)
    return builder.each("softmax", builder.vector("divide", votes, n_classes - 1))


@head(AdaBoostRegressor)
def _boosted_regressor(builder: Builder, model: AdaBoostRegressor, value: Value, wanted: Wanted) -> Block:
    parts = [compile_model(builder, part, value, "numbers") for part in model.estimators_]
    weights = np.asarray(model.estimator_weights_, dtype="float64")[: len(parts)]
    return builder.step("weighted_median", 1, inputs=[builder.join(parts)], arrays={"weights": weights})


# --- bagging and voting -----------------------------------------------------------------------------------------------


@head(BaggingClassifier, BaggingRegressor)
def _bagged(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    all_columns = all(
        len(own) == model.n_features_in_ and np.all(np.diff(own) == 1) for own in model.estimators_features_
    )
    is_regressor = isinstance(model, BaggingRegressor)
    sees_all = is_regressor or all(len(part.classes_) == len(model.classes_) for part in model.estimators_)
    if all_columns and sees_all and all(type(part) in PLAIN_TREES for part in model.estimators_):
        mean = forest_step(builder, list(model.estimators_), value)
    else:
        block = value if all_columns else builder.numbers(value)
        mean = builder.mean([_bag(builder, model, at, block, is_regressor) for at in range(len(model.estimators_))])
    return builder.each("largest", mean) if wanted == "classes" else mean


def _bag(builder: Builder, model: Any, at: int, value: Value, is_regressor: bool) -> Block:
    part = model.estimators_[at]
    own = value if isinstance(value, Raw) else builder.take(value, model.estimators_features_[at])
    if is_regressor:
        return compile_model(builder, part, own, "numbers")
    out = compile_model(builder, part, own, "probabilities" if _gives_probabilities(part) else "classes")
    return _spread(builder, out, part, model)


def _spread(builder: Builder, block: Block, part: Any, whole: Any) -> Block:
    """A part's classes at their places among the whole's. A part that never met a class says nothing for it."""
    n_classes = len(whole.classes_)
    if block.width == n_classes:
        return block
    # Parts of a whole are taught the classes' numbers, or the classes themselves.
    known = list(whole.classes_)
    places = [known.index(name) if name in known else int(name) for name in part.classes_]
    weights = np.zeros((block.width, n_classes))
    weights[np.arange(block.width), places] = 1.0
    return builder.linear(block, weights)


@head(VotingRegressor)
def _voting_regressor(builder: Builder, model: VotingRegressor, value: Value, wanted: Wanted) -> Block:
    parts = [compile_model(builder, part, value, "numbers") for part in model.estimators_]
    return builder.mean(parts, model._weights_not_none)


@head(VotingClassifier)
def _voting_classifier(builder: Builder, model: VotingClassifier, value: Value, wanted: Wanted) -> Block:
    of_parts: Wanted = "probabilities" if model.voting == "soft" else "classes"
    parts = [compile_model(builder, part, value, of_parts) for part in model.estimators_]
    mean = builder.mean(parts, model._weights_not_none)
    return mean if wanted == "probabilities" else builder.each("largest", mean)


# --- stacking ---------------------------------------------------------------------------------------------------------


@scores(StackingClassifier)
@head(StackingClassifier, StackingRegressor)
def _stacked(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    parts: list[Value] = []
    for part, method in zip(model.estimators_, model.stack_method_, strict=True):
        parts.append(_stacked_part(builder, part, method, value, model))
    if model.passthrough:
        parts.append(builder.numbers(value))
    return compile_model(builder, model.final_estimator_, builder.join(parts), wanted)


def _stacked_part(builder: Builder, part: Any, method: str, value: Value, model: Any) -> Block:
    if method == "decision_function":
        return compile_model(builder, part, value, "scores")
    if method == "predict_proba":
        out = compile_model(builder, part, value, "probabilities")
        return builder.column(out, 1) if out.width == 2 else out
    if isinstance(model, StackingRegressor):
        return compile_model(builder, part, value, "numbers")
    # Predicted classes go on as their numbers.
    out = compile_model(builder, part, value, "classes")
    return builder.linear(out, np.arange(out.width, dtype="float64")[:, None])


# --- calibration ------------------------------------------------------------------------------------------------------


@head(CalibratedClassifierCV)
def _calibrated(builder: Builder, model: CalibratedClassifierCV, value: Value, wanted: Wanted) -> Block:
    parts = [_calibrated_part(builder, part, value) for part in model.calibrated_classifiers_]
    mean = builder.mean(parts)
    return builder.each("largest", mean) if wanted == "classes" else mean


def _calibrated_part(builder: Builder, part: Any, value: Value) -> Block:
    n_classes = len(part.classes)
    if len(part.estimator.classes_) != n_classes:
        raise CannotCompile("`CalibratedClassifierCV` whose parts saw different classes has no compiled form yet.")
    has_scores = hasattr(part.estimator, "decision_function")
    scores = compile_model(builder, part.estimator, value, "scores" if has_scores else "probabilities")
    if part.method == "temperature":
        return _cooled(builder, part, scores, n_classes, has_scores)
    if not has_scores and n_classes == 2:
        scores = builder.column(scores, 1)
    curves = [_curve(builder, builder.column(scores, at), curve) for at, curve in enumerate(part.calibrators)]
    if n_classes == 2:
        return builder.each("with_complement", curves[0], width=2)
    return builder.each("share_or_even", builder.join(curves))


def _curve(builder: Builder, column: Block, curve: Any) -> Block:
    """One calibrated probability, by a logistic curve or by steps that only rise."""
    if hasattr(curve, "a_"):
        scaled = builder.vector("add", builder.vector("multiply", column, float(curve.a_)), float(curve.b_))
        return builder.each("sigmoid", builder.each("negative", scaled))
    if getattr(curve, "out_of_bounds", "clip") != "clip":
        raise CannotCompile("Isotonic calibration that refuses values beyond its range has no compiled form.")
    arrays = {
        "x": np.asarray(curve.X_thresholds_, dtype="float64"),
        "y": np.asarray(curve.y_thresholds_, dtype="float64"),
    }
    return builder.step("interpolated", 1, inputs=[column], arrays=arrays)


def _cooled(builder: Builder, part: Any, scores: Block, n_classes: int, has_scores: bool) -> Block:
    beta = float(part.calibrators[0].beta_)
    if not has_scores:
        # As the library does: logarithms of probabilities, kept from that of nothing by a little.
        scores = builder.each("log", builder.vector("add", scores, 1e-12))
    elif n_classes == 2:
        scores = builder.linear(scores, np.array([[-1.0, 1.0]]))
    return builder.each("softmax", builder.vector("multiply", scores, beta))
