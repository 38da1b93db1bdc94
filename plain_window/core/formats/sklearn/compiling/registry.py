"""Which estimators can be compiled, by their very type: subclasses may compute something else.

A *transformer* takes the builder, the fitted transformer and what comes in, and returns what goes out. A *head* takes
the builder, the fitted predictor, what comes in and what is wanted of it, and returns the block of its outputs.
"""

import importlib
from collections.abc import Callable, Sequence
from typing import Any, Literal, TypeVar

from ....plan.building import Block, Builder, CannotCompile, Raw

__all__ = [
    "HEADS",
    "SCORES",
    "TRANSFORMERS",
    "Head",
    "Value",
    "Wanted",
    "compile_model",
    "compile_transformer",
    "head",
    "scores",
    "transformer",
]

Value = Raw | Block
# Probabilities in class order; 1 at the predicted class; what `decision_function` gives; what a regressor says.
Wanted = Literal["probabilities", "classes", "scores", "numbers"]
Transform = Callable[[Builder, Any, Value], Value]
Head = Callable[[Builder, Any, Value, Wanted], Block]
# A function stays what it is when it is registered.
Registered = TypeVar("Registered", bound=Callable[..., Value])

# Libraries with models of the same manners. They are loaded only if such a model was.
WRAPPED = ("xgboost", "lightgbm")
TRANSFORMERS: dict[type, Transform] = {}
HEADS: dict[type, Head] = {}
# For classifiers whose `decision_function` others build on.
SCORES: dict[type, Head] = {}


def transformer(*types: type) -> Callable[[Registered], Registered]:
    """Register the function below for these transformers.

    Parameters
    ----------
    types : *type
        The library's classes.
    """
    return _register(TRANSFORMERS, types)


def head(*types: type) -> Callable[[Registered], Registered]:
    """Register the function below for these predictors.

    Parameters
    ----------
    types : *type
        The library's classes.
    """
    return _register(HEADS, types)


def scores(*types: type) -> Callable[[Registered], Registered]:
    """Register the function below for the scores of these classifiers.

    Parameters
    ----------
    types : *type
        The library's classes.
    """
    return _register(SCORES, types)


def _register(known: dict[type, Any], types: Sequence[type]) -> Callable[[Registered], Registered]:
    def register(function: Registered) -> Registered:
        known.update(dict.fromkeys(types, function))
        return function

    return register


def compile_transformer(builder: Builder, step: Any, value: Value) -> Value:
    """What a fitted transformer makes of `value`.

    Parameters
    ----------
    builder : Builder
        Steps are added to it.
    step : object
        A fitted transformer, or None and `passthrough` for what changes nothing.
    value : Value
        What came before this step.

    Raises
    ------
    CannotCompile
    """
    if step is None or (isinstance(step, str) and step == "passthrough"):
        return value
    transform = TRANSFORMERS.get(type(step))
    if transform is None:
        raise CannotCompile(f"`{type(step).__name__}` has no compiled form yet.")
    return transform(builder, step, value)


def compile_model(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    """What a fitted predictor says of `value`.

    Parameters
    ----------
    builder : Builder
        Steps are added to it.
    model : object
        A fitted predictor.
    value : Value
        What came before this step.
    wanted : Wanted
        What is to come out.

    Raises
    ------
    CannotCompile
    """
    if type(model).__module__.split(".")[0] in WRAPPED:
        importlib.import_module("...wrappers", __package__)
    known = SCORES if wanted == "scores" else HEADS
    function = known.get(type(model))
    if function is None:
        what = "The scores of " if wanted == "scores" else ""
        raise CannotCompile(f"{what}`{type(model).__name__}` {'have' if what else 'has'} no compiled form yet.")
    return function(builder, model, value, wanted)
