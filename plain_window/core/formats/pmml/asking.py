"""Asks a PMML model about one row, by the words of the standard.

Slow and plain: the compiled form is held against it.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np

from ...errors import ModelFailed
from ...fields.kinds import Scalar
from .document import Derived, Document, Ensemble, Model, Node, Predicate, Regression, Table, Target, Tree

__all__ = ["ask_document"]

Row = dict[str, Any]
# Probabilities by class, or a number; None where the model has no answer.
Answer = dict[str, float] | float | None
LINKS: dict[str, Callable[[float], float]] = {
    "logit": lambda y: 1 / (1 + math.exp(-y)) if y > -700 else 0.0,
    "probit": lambda y: 0.5 * math.erfc(-y / math.sqrt(2)),
    "cloglog": lambda y: 1 - math.exp(-math.exp(y)),
    "loglog": lambda y: math.exp(-math.exp(-y)),
    "cauchit": lambda y: 0.5 + math.atan(y) / math.pi,
    "exp": math.exp,
    "log": math.exp,
    "identity": lambda y: y,
    "none": lambda y: y,
}
FUNCTIONS: dict[str, Callable[..., Any]] = {
    "+": lambda a, b: a + b,
    "-": lambda a, b=None: -a if b is None else a - b,
    "*": lambda a, b: a * b,
    "/": lambda a, b: a / b,
    "pow": lambda a, b: a**b,
    "ln": math.log,
    "log10": math.log10,
    "exp": math.exp,
    "sqrt": math.sqrt,
    "abs": abs,
    "min": min,
    "max": max,
    "floor": math.floor,
    "ceil": math.ceil,
    "round": round,
    "same": lambda a: a,
}
ROUNDINGS: dict[str, Callable[[float], int]] = {"round": round, "ceiling": math.ceil, "floor": math.floor}
JOINS: dict[str, Callable[[np.ndarray], Any]] = {"sum": np.sum, "median": np.median, "max": np.max}


def ask_document(document: Document, row: Mapping[str, Scalar | None]) -> list[float]:
    """Probabilities in class order, or one number; NaN where the model has no answer.

    Parameters
    ----------
    document : Document
        A PMML document.
    row : mapping
        Value by column.

    Raises
    ------
    ModelFailed
        If a value does not suit its field.
    """
    values: Row = {name: _checked(document, name, value) for name, value in row.items()}
    for derived in document.derived:
        values[derived.name] = _derive(derived, values)
    answer = _ask(document.model, values)
    if answer is None:
        return [math.nan] * max(1, len(document.classes))
    if isinstance(answer, dict):
        return [float(answer.get(name, 0.0)) for name in document.classes]
    return [float(answer)]


def _checked(document: Document, name: str, value: Scalar | None) -> Scalar | None:
    field = document.fields.get(name)
    if value is None or (isinstance(value, float) and math.isnan(value)) or field is None:
        return None
    if field.is_number and not field.is_category:
        if isinstance(value, str):
            raise ModelFailed(f"The model wants a number in `{name}`. Got {value!r}.", traceback="")
        return float(value)
    if field.options and value not in field.options:
        known = ", ".join(str(option) for option in field.options[:8])
        raise ModelFailed(f"The model does not know the value {value!r} of `{name}`. It knows {known}.", traceback="")
    return value


def _derive(derived: Derived, row: Row) -> Any:
    values = [
        _derive(item, row) if isinstance(item, Derived) else row.get(item) if isinstance(item, str) else item
        for item in derived.arguments
    ]
    if derived.function == "is":
        return None if values[0] is None else float(values[0] == derived.option)
    if any(value is None for value in values):
        return None
    if derived.function.startswith("line:"):
        return _on_line(derived, float(values[0]))  # type: ignore[arg-type]  # none is missing
    function = FUNCTIONS.get(derived.function)
    if function is None:
        raise ModelFailed(f"The model uses the function `{derived.function}`, which is not known here.", traceback="")
    return function(*values)


def _on_line(derived: Derived, x: float) -> float | None:
    points, outliers = derived.points, derived.function.partition(":")[2]
    if not points[0][0] <= x <= points[-1][0]:
        if outliers == "asMissingValues":
            return None
        if outliers == "asExtremeValues":
            return points[0][1] if x < points[0][0] else points[-1][1]
    at = next((at for at in range(1, len(points) - 1) if x <= points[at][0]), len(points) - 1)
    (x0, y0), (x1, y1) = points[at - 1], points[at]
    return y0 + (x - x0) / (x1 - x0) * (y1 - y0)


def _ask(model: Model, row: Row) -> Answer:
    row = {**row, **{name: value for name, value in model.replacements.items() if row.get(name) is None}}
    for derived in model.derived:
        row[derived.name] = _derive(derived, row)
    body = model.body
    if isinstance(body, Regression):
        answer = _ask_regression(body, row)
    elif isinstance(body, Tree):
        answer = _ask_tree(body, row)
    else:
        answer = _ask_ensemble(body, row)
    return _finished(answer, model.target) if isinstance(answer, float) else answer


def _finished(value: float, target: Target) -> float:
    value = value if target.low is None else max(value, target.low)
    value = value if target.high is None else min(value, target.high)
    value = value * target.factor + target.constant
    if target.whole:
        value = float(ROUNDINGS[target.whole](value))
    return value


# --- regression -------------------------------------------------------------------------------------------------------


def _sum(table: Table, row: Row) -> float | None:
    total = table.intercept
    for term in table.terms:
        part = term.coefficient
        for name, power in term.powers:
            if row.get(name) is None:
                return None
            part *= row[name] ** power
        for name, option in term.options:
            # A missing option is none of them, by the standard.
            part *= float(row.get(name) == option)
        total += part
    return total


def _ask_regression(model: Regression, row: Row) -> Answer:
    sums: list[float] = []
    for table in model.tables:
        value = _sum(table, row)
        if value is None:
            return None
        sums.append(value)
    if model.task == "number":
        return _number(model, sums[0])
    names = [table.category or "" for table in model.tables]
    if model.reference is not None:
        names, sums = [*names, model.reference], [*sums, 0.0]
    if model.link == "softmax":
        exponents = [math.exp(value - max(sums)) for value in sums]
        return {name: part / sum(exponents) for name, part in zip(names, exponents, strict=True)}
    if model.link == "simplemax":
        return {name: part / sum(sums) for name, part in zip(names, sums, strict=True)}
    parts = [LINKS[model.link](value) for value in sums[: len(sums) - 1]]
    # The last class gets what the others leave.
    return dict(zip(names, [*parts, 1 - sum(parts)], strict=True))


def _number(model: Regression, value: float) -> float:
    link = model.link.removeprefix("inverse:")
    if model.link.startswith("inverse:") and link == "power":
        return value ** (1 / model.exponent) if model.exponent else math.exp(value)
    if link in ("softmax", "logit"):
        return LINKS["logit"](value)
    return LINKS[link](value)


# --- trees ------------------------------------------------------------------------------------------------------------


def _holds(predicate: Predicate, row: Row) -> bool | None:
    """Whether it is true; None if a missing value leaves it open."""
    operator = predicate.operator
    if operator in ("true", "false"):
        return operator == "true"
    if predicate.parts:
        return _compound(operator, [_holds(part, row) for part in predicate.parts])
    value = row.get(predicate.name)
    if operator in ("isMissing", "isNotMissing"):
        return (value is None) == (operator == "isMissing")
    if value is None:
        return None
    if operator in ("isIn", "isNotIn"):
        return (value in predicate.values) == (operator == "isIn")
    other = predicate.values[0]
    if operator in ("equal", "notEqual"):
        return (value == other) == (operator == "equal")
    if isinstance(value, str) or isinstance(other, str):
        raise ModelFailed(f"The model wants a number in `{predicate.name}`. Got {value!r}.", traceback="")
    return {
        "lessThan": value < other,
        "lessOrEqual": value <= other,
        "greaterThan": value > other,
        "greaterOrEqual": value >= other,
    }[operator]


def _compound(operator: str, parts: Sequence[bool | None]) -> bool | None:
    if operator == "surrogate":
        return next((part for part in parts if part is not None), None)
    if operator == "and":
        return False if False in parts else None if None in parts else True
    if operator == "or":
        return True if True in parts else None if None in parts else False
    return None if None in parts else sum(map(bool, parts)) % 2 == 1


def _ask_tree(tree: Tree, row: Row) -> Answer:
    node = tree.root
    if _holds(node.predicate, row) is not True:
        return None
    while node.children:
        following = _next_node(tree, node, row)
        if following is None:
            is_kept = tree.no_child == "returnLastPrediction" or tree.missing == "lastPrediction"
            return _node_says(tree, node) if is_kept else None
        node = following
    return _node_says(tree, node)


def _next_node(tree: Tree, node: Node, row: Row) -> Node | None:
    for child in node.children:
        holds = _holds(child.predicate, row)
        if holds:
            return child
        if holds is None and tree.missing == "defaultChild":
            return next((other for other in node.children if other.id == node.default_child), None)
        if holds is None and tree.missing in ("nullPrediction", "lastPrediction"):
            return None
    return None


def _node_says(tree: Tree, node: Node) -> Answer:
    if tree.task == "number":
        return None if node.score is None else float(node.score)
    if node.shares:
        total = sum(node.shares.values())
        return {name: share / total for name, share in node.shares.items()} if total else None
    return None if node.score is None else {node.score: 1.0}


# --- ensembles --------------------------------------------------------------------------------------------------------


def _ask_ensemble(ensemble: Ensemble, row: Row) -> Answer:
    answers: list[tuple[Answer, float]] = []
    row = dict(row)
    for segment in ensemble.segments:
        if _holds(segment.predicate, row) is not True:
            continue
        answer = _ask(segment.model, row)
        if ensemble.method == "selectFirst":
            return answer
        answers.append((answer, segment.weight))
        for name, feature, value in segment.hands_on:
            row[name] = _handed_on(answer, feature, value)
    if not answers or (ensemble.method != "modelChain" and any(answer is None for answer, _ in answers)):
        return None
    if ensemble.method == "modelChain":
        return answers[-1][0]
    return _voted(ensemble, answers) if ensemble.task == "class" else _combined(ensemble.method, answers)


def _handed_on(answer: Answer, feature: str, value: str | None) -> Any:
    if isinstance(answer, dict):
        if feature == "probability":
            return answer.get(value or "", 0.0)
        return max(answer, key=answer.__getitem__)
    return answer


def _voted(ensemble: Ensemble, answers: list[tuple[Any, float]]) -> dict[str, float]:
    method = ensemble.method
    if method not in ("majorityVote", "weightedMajorityVote", "average", "weightedAverage"):
        raise ModelFailed(f"The model joins classes by `{method}`, which is not known here.", traceback="")
    total: dict[str, float] = {}
    for answer, weight in answers:
        own = answer
        if "ajorityVote" in method:
            own = {max(answer, key=answer.__getitem__): 1.0}
        for name, share in own.items():
            total[name] = total.get(name, 0.0) + share * (weight if method.startswith("weighted") else 1.0)
    whole = sum(total.values())
    return {name: share / whole for name, share in total.items()}


def _combined(method: str, answers: list[tuple[Any, float]]) -> float:
    values, weights = np.array([answer for answer, _ in answers]), np.array([weight for _, weight in answers])
    if method == "average":
        return float(values.mean())
    if method == "weightedAverage":
        return float((values * weights).sum() / weights.sum())
    if method == "weightedSum":
        return float((values * weights).sum())
    if method in JOINS:
        return float(JOINS[method](values))
    raise ModelFailed(f"The model joins numbers by `{method}`, which is not known here.", traceback="")
