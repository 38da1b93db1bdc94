"""scikit-learn estimators into steps.

- `registry`     which estimators can be compiled, by their very type
- `composition`  pipelines, unions, columns apart, searches
- `scaling`, `missing`, `categories`, `shapes`, `words`  transformers
- `linear`, `trees`, `distances`  predictors
- `ensembles`, `several`, `targets`  predictors made of others

Transformers repeat the original's arithmetic in the original's order: folding a subtraction and a division into one
step would be faster and differ in the last digit.
"""

from collections.abc import Sequence
from typing import Any

from ....plan.building import Builder
from ....plan.plan import Plan
from . import (  # noqa: F401 -- they register themselves
    categories,
    composition,
    distances,
    ensembles,
    linear,
    missing,
    scaling,
    several,
    shapes,
    targets,
    trees,
    words,
)
from .registry import Wanted, compile_model, compile_transformer

__all__ = ["compile_model", "compile_sklearn", "compile_transformer"]


def compile_sklearn(model: Any, columns: Sequence[str], *, wanted: Wanted) -> Plan:
    """The plan of a fitted estimator.

    Parameters
    ----------
    model : estimator
        A fitted classifier or regressor, alone or at the end of a pipeline.
    columns : sequence of str
        The raw columns it is asked with, in its own order.
    wanted : str
        Probabilities; for a classifier without them 1 at the predicted class; or a regressor's numbers.

    Raises
    ------
    CannotCompile
        Naming the step that stands in the way.
    """
    builder = Builder(columns)
    return builder.finish(compile_model(builder, model, builder.raw, wanted))
