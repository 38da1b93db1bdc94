"""scikit-learn estimators into steps: the way in.

Only what is known exactly is compiled. Subclasses are not taken for their parents: they may compute something else.
"""

from collections.abc import Callable, Sequence
from typing import Any

from sklearn.compose import ColumnTransformer, TransformedTargetRegressor
from sklearn.model_selection import GridSearchCV, RandomizedSearchCV
from sklearn.pipeline import FeatureUnion, Pipeline

from ..models.column_use import resolve_columns
from .building import Block, Builder, CannotCompile, Raw
from .plan import Plan
from .sklearn_heads import HEADS
from .sklearn_steps import TRANSFORMERS

__all__ = ["compile_sklearn"]

Value = Raw | Block


def compile_sklearn(model: Any, columns: Sequence[str], *, gives_probabilities: bool) -> Plan:
    """The plan of a fitted estimator.

    Parameters
    ----------
    model : estimator
        A fitted classifier or regressor, alone or at the end of a pipeline.
    columns : sequence of str
        The raw columns it is asked with, in its own order.
    gives_probabilities : bool
        Whether the output is probabilities; for a classifier without, 1 at the predicted class.

    Raises
    ------
    CannotCompile
        Naming the step that stands in the way.
    """
    builder = Builder(columns)
    out = _compile_model(builder, model, builder.raw, gives_probabilities)
    return builder.finish(out)


def _compile_model(builder: Builder, model: Any, value: Value, gives_probabilities: bool) -> Block:
    if type(model) is Pipeline:
        for _, step in model.steps[:-1]:
            value = _transform(builder, step, value)
        return _compile_model(builder, model.steps[-1][1], value, gives_probabilities)
    if type(model) in (GridSearchCV, RandomizedSearchCV):
        return _compile_model(builder, model.best_estimator_, value, gives_probabilities)
    if type(model) is TransformedTargetRegressor:
        return _untransformed(builder, model, value)
    head = HEADS.get(type(model))
    if head is None:
        raise CannotCompile(f"`{type(model).__name__}` has no compiled form yet.")
    return head(builder, model, builder.numbers(value), gives_probabilities)


def _untransformed(builder: Builder, model: TransformedTargetRegressor, value: Value) -> Block:
    inner = _compile_model(builder, model.regressor_, value, False)
    if inner.width != 1:
        raise CannotCompile("`TransformedTargetRegressor` with several outputs has no compiled form yet.")
    inverse = TRANSFORMERS.inverse(model.transformer_)
    return inverse(builder, inner)


def _transform(builder: Builder, step: Any, value: Value) -> Value:
    """What a transformer makes of `value`."""
    if step is None or (isinstance(step, str) and step == "passthrough"):
        return value
    if type(step) is Pipeline:
        for _, inner in step.steps:
            value = _transform(builder, inner, value)
        return value
    if type(step) is ColumnTransformer:
        return _column_transformer(builder, step, value)
    if type(step) is FeatureUnion:
        if step.transformer_weights:
            raise CannotCompile("`FeatureUnion` with weights has no compiled form yet.")
        parts = [inner for _, inner in step.transformer_list if not (isinstance(inner, str) and inner == "drop")]
        return builder.join([_transform(builder, inner, value) for inner in parts])
    transform: Callable[[Builder, Any, Value], Value] = TRANSFORMERS.find(step)
    return transform(builder, step, value)


def _column_transformer(builder: Builder, step: ColumnTransformer, value: Value) -> Block:
    if step.transformer_weights:
        raise CannotCompile("`ColumnTransformer` with weights has no compiled form yet.")
    names = [str(name) for name in step.feature_names_in_] if hasattr(step, "feature_names_in_") else None
    parts: list[Value] = []
    for _, transformer, selected in step.transformers_:
        if isinstance(transformer, str) and transformer == "drop":
            continue
        chosen = _selected(builder, value, selected, names, step.n_features_in_)
        if isinstance(chosen, Raw) and not chosen.columns:
            continue
        parts.append(_transform(builder, transformer, chosen))
    return builder.join(parts)


def _selected(builder: Builder, value: Value, selected: Any, names: list[str] | None, width: int) -> Value:
    """The chosen columns of what came in: by name from raw columns, by place from a block."""
    if isinstance(value, Raw):
        known = {column.name: column for column in value.columns}
        wanted = resolve_columns(selected, names or [column.name for column in value.columns])
        return Raw(tuple(known[name] for name in wanted))
    order = names or [str(at) for at in range(width)]
    places = [order.index(name) for name in resolve_columns(selected, order)]
    if not places:
        return Raw(())
    return builder.step("take", len(places), inputs=[value], settings={"places": places})
