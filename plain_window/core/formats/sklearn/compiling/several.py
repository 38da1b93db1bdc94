"""Several answers at once: numbers, labels, one model a class."""

from typing import Any

from sklearn.multiclass import OneVsRestClassifier
from sklearn.multioutput import ClassifierChain, MultiOutputClassifier, MultiOutputRegressor, RegressorChain

from ....plan.building import Block, Builder, CannotCompile
from .registry import Value, Wanted, compile_model, head

__all__: list[str] = []


@head(MultiOutputRegressor)
def _several_numbers(builder: Builder, model: MultiOutputRegressor, value: Value, wanted: Wanted) -> Block:
    return builder.join([compile_model(builder, part, value, "numbers") for part in model.estimators_])


def _applies(builder: Builder, part: Any, value: Value, wanted: Wanted) -> Block:
    """The probability that a label applies, or 1 where it does."""
    if not hasattr(part, "classes_") or len(part.classes_) != 2:
        raise CannotCompile(f"`{type(part).__name__}` that knows only one class has no compiled form.")
    return builder.column(compile_model(builder, part, value, wanted), 1)


@head(MultiOutputClassifier)
def _several_labels(builder: Builder, model: MultiOutputClassifier, value: Value, wanted: Wanted) -> Block:
    return builder.join([_applies(builder, part, value, wanted) for part in model.estimators_])


@head(OneVsRestClassifier)
def _one_a_class(builder: Builder, model: OneVsRestClassifier, value: Value, wanted: Wanted) -> Block:
    if model.multilabel_:
        return builder.join([_applies(builder, part, value, wanted) for part in model.estimators_])
    if wanted != "probabilities":
        return _highest_score(builder, model, value)
    parts = builder.join([_applies(builder, part, value, "probabilities") for part in model.estimators_])
    if parts.width == 1:
        return builder.each("with_complement", parts, width=2)
    return builder.each("share", parts)


def _highest_score(builder: Builder, model: OneVsRestClassifier, value: Value) -> Block:
    """1 at the class whose own model is surest."""
    has_scores = hasattr(model.estimators_[0], "decision_function")
    if not has_scores:
        raise CannotCompile("`OneVsRestClassifier` without scores has no compiled form yet.")
    score = builder.join([compile_model(builder, part, value, "scores") for part in model.estimators_])
    return builder.each("sign_class", score, width=2) if score.width == 1 else builder.each("largest", score)


@head(RegressorChain, ClassifierChain)
def _chain(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    """Each model is also given what those before it said."""
    is_regressor = isinstance(model, RegressorChain)
    inputs: list[Value] = [builder.numbers(value)]
    outputs: list[Block] = []
    for part in model.estimators_:
        so_far = builder.join(inputs)
        if is_regressor:
            out = passed_on = compile_model(builder, part, so_far, "numbers")
        else:
            out = _applies(builder, part, so_far, wanted)
            method = getattr(model, "chain_method_", "predict")
            if method not in ("predict", "predict_proba"):
                raise CannotCompile(f"`ClassifierChain` that hands on `{method}` has no compiled form yet.")
            passed_on = _applies(builder, part, so_far, "classes" if method == "predict" else "probabilities")
        outputs.append(out)
        inputs.append(passed_on)
    # The chain has an order of its own; the answers stand in that of the targets.
    place = {int(target): at for at, target in enumerate(model.order_)}
    return builder.take(builder.join(outputs), [place[at] for at in range(len(outputs))])
