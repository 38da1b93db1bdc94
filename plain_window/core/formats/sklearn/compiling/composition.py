"""Pipelines, unions, columns apart, searches: what holds other steps."""

from typing import Any

from sklearn.compose import ColumnTransformer
from sklearn.model_selection import FixedThresholdClassifier, GridSearchCV, RandomizedSearchCV
from sklearn.pipeline import FeatureUnion, Pipeline

from ....plan.building import Block, Builder, CannotCompile, Raw
from ..column_use import resolve_columns
from .registry import Value, Wanted, compile_model, compile_transformer, head, scores, transformer

__all__: list[str] = []


@transformer(Pipeline)
def _steps(builder: Builder, pipeline: Pipeline, value: Value) -> Value:
    for _, step in pipeline.steps:
        value = compile_transformer(builder, step, value)
    return value


@scores(Pipeline)
@head(Pipeline)
def _steps_and_model(builder: Builder, pipeline: Pipeline, value: Value, wanted: Wanted) -> Block:
    for _, step in pipeline.steps[:-1]:
        value = compile_transformer(builder, step, value)
    return compile_model(builder, pipeline.steps[-1][1], value, wanted)


@scores(GridSearchCV, RandomizedSearchCV)
@head(GridSearchCV, RandomizedSearchCV)
def _best(builder: Builder, search: Any, value: Value, wanted: Wanted) -> Block:
    return compile_model(builder, search.best_estimator_, value, wanted)


@transformer(GridSearchCV, RandomizedSearchCV)
def _best_transformer(builder: Builder, search: Any, value: Value) -> Value:
    return compile_transformer(builder, search.best_estimator_, value)


@head(FixedThresholdClassifier)
def _threshold(builder: Builder, model: FixedThresholdClassifier, value: Value, wanted: Wanted) -> Block:
    if wanted != "probabilities":
        raise CannotCompile("`FixedThresholdClassifier` without probabilities has no compiled form yet.")
    return compile_model(builder, model.estimator_, value, wanted)


@transformer(FeatureUnion)
def _union(builder: Builder, union: FeatureUnion, value: Value) -> Block:
    weights = union.transformer_weights or {}
    parts = []
    for name, inner in union.transformer_list:
        if isinstance(inner, str) and inner == "drop":
            continue
        parts.append(_weighted(builder, compile_transformer(builder, inner, value), weights.get(name)))
    return builder.join(parts)


@transformer(ColumnTransformer)
def _columns_apart(builder: Builder, step: ColumnTransformer, value: Value) -> Block:
    weights = step.transformer_weights or {}
    names = [str(name) for name in step.feature_names_in_] if hasattr(step, "feature_names_in_") else None
    parts: list[Value] = []
    for name, inner, selected in step.transformers_:
        if isinstance(inner, str) and inner == "drop":
            continue
        chosen = _selected(builder, value, selected, names, step.n_features_in_)
        if isinstance(chosen, Raw) and not chosen.columns:
            continue
        parts.append(_weighted(builder, compile_transformer(builder, inner, chosen), weights.get(name)))
    return builder.join(parts)


def _weighted(builder: Builder, value: Value, weight: float | None) -> Value:
    return value if weight is None else builder.vector("multiply", builder.numbers(value), weight)


def _selected(builder: Builder, value: Value, selected: Any, names: list[str] | None, width: int) -> Value:
    """The chosen columns of what came in: by name from raw columns, by place from a block."""
    if isinstance(value, Raw):
        known = {column.name: column for column in value.columns}
        wanted = resolve_columns(selected, names or [column.name for column in value.columns])
        return Raw(tuple(known[name] for name in wanted))
    order = names or [str(at) for at in range(width)]
    places = [order.index(name) for name in resolve_columns(selected, order)]
    return builder.take(value, places) if places else Raw(())
