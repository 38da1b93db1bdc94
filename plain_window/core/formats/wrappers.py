"""XGBoost's and LightGBM's models that behave like scikit-learn's. Imported when one of them is met."""

import json
import sys
from typing import Any

from ..plan.building import Block, Builder, CannotCompile
from .lightgbm.compiling import compile_lightgbm, linked_scores, read_lightgbm
from .sklearn.compiling.registry import HEADS, SCORES, Value, Wanted
from .xgboost.compiling import compile_xgboost, linked_margins

__all__: list[str] = []


def _xgboost(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    booster = model.get_booster()
    document = json.loads(booster.save_raw("json"))
    margins = compile_xgboost(builder, document, value, n_iterations=_best_of(model, "best_iteration"))
    if wanted == "scores":
        return margins
    objective = document["learner"]["objective"]["name"]
    is_one_class = wanted != "numbers" and margins.width in (1, len(getattr(model, "classes_", [])))
    out = linked_margins(builder, objective, margins, as_classes=is_one_class)
    return builder.each("largest", out) if wanted == "classes" else out


def _best_of(model: Any, name: str) -> int | None:
    """How many rounds count, where training stopped early."""
    best = getattr(model, name, None) if getattr(model, "early_stopping_rounds", None) else None
    return None if best is None else int(best) + 1


def _lightgbm(builder: Builder, model: Any, value: Value, wanted: Wanted) -> Block:
    text = read_lightgbm(model.booster_.model_to_string(num_iteration=-1))
    best = int(getattr(model, "best_iteration_", 0) or 0)
    scores = compile_lightgbm(builder, text, value, n_iterations=best or None)
    if wanted == "scores":
        return scores
    out = linked_scores(builder, text, scores)
    if wanted == "numbers" and out.width != 1:
        raise CannotCompile("A LightGBM regressor with several outputs has no compiled form.")
    return builder.each("largest", out) if wanted == "classes" else out


def _register(module: str, names: tuple[str, ...], head: Any) -> None:
    library = sys.modules.get(module)
    for name in names:
        type_ = getattr(library, name, None)
        if type_ is not None:
            HEADS[type_] = head
            SCORES[type_] = head


_register("xgboost", ("XGBClassifier", "XGBRegressor", "XGBRFClassifier", "XGBRFRegressor"), _xgboost)
_register("lightgbm", ("LGBMClassifier", "LGBMRegressor"), _lightgbm)
