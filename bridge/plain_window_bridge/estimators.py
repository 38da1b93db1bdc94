"""A fitted model as functions: of one case by its features, and of many as one table."""

from __future__ import annotations

import importlib
from typing import Any, Callable

__all__ = ["functions_of"]


def functions_of(model: Any, has_table: bool) -> tuple[str, str, list[Callable[..., Any]]]:
    """A file that says what a fitted model takes and answers, the function's name, and the functions themselves."""
    names = [str(one) for one in getattr(model, "feature_names_in_", [])]
    classes = getattr(model, "classes_", None)
    is_named = bool(names) and all(one.isidentifier() for one in names)
    gives = "float"
    if classes is not None and hasattr(model, "predict_proba"):
        gives = f"dict[Literal[{', '.join(repr(str(one)) for one in classes)}], float]"
    elif classes is not None:
        gives = f"Literal[{', '.join(repr(str(one)) for one in classes)}]"

    def predict(table: Any) -> Any:
        given = table if names else table.to_numpy()
        if classes is not None and hasattr(model, "predict_proba"):
            pandas = importlib.import_module("pandas")
            return pandas.DataFrame(model.predict_proba(given), columns=[str(one) for one in classes])
        found = model.predict(given)
        return [str(one) for one in found] if classes is not None else found

    def predict_one(**row: Any) -> Any:
        pandas = importlib.import_module("pandas")
        found = predict(pandas.DataFrame([row]))
        return found.iloc[0].to_dict() if hasattr(found, "iloc") else found[0]

    head = "from typing import Literal\nimport pandas as pd\n"
    if not is_named:
        # Which columns it takes, the table that comes along says.
        return f"{head}def predict(table: pd.DataFrame) -> list[{gives}]:\n    return table\n", "predict", [predict]
    hint = "" if has_table else ": float"
    one = f"def predict(*, {', '.join(f'{name}{hint}' for name in names)}) -> {gives}:\n    return {', '.join(names)}\n"
    many = f"def predict_many(table: pd.DataFrame) -> list[{gives}]:\n    return table\n"
    return head + one + many, "predict", [predict_one, predict]
