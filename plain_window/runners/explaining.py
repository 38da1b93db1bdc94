"""Explanations in a runner: the explainer beside its model, and what it says as plain messages."""

import time
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from ..core.explain.explainer import Background, Explainer, FieldFacts

__all__ = ["RowExplainer"]


class RowExplainer:
    """Answers `explain` calls for the model that a runner holds.

    Parameters
    ----------
    held : object
        Has `predict_columns`, and `compiled` where there is a compiled model.
    inspection : mapping
        With fields and background.
    """

    def __init__(self, held: Any, inspection: Mapping[str, Any]) -> None:
        self._predict = held.predict_columns
        background = Background(inspection.get("background") or {})
        self._explainer = None
        if background.n_rows:
            facts = [_facts(field) for field in inspection["fields"]]
            self._explainer = Explainer(held.predict_columns, background, facts, held.compiled)

    def answer(self, message: Mapping[str, Any]) -> dict[str, Any]:
        """Outputs for `row`, and the explanation and curves that were asked for.

        `of` is the output that is explained; None for the likeliest class, or the only number.
        """
        started = time.perf_counter()
        row = message["row"]
        outputs = self._predict({name: [value] for name, value in row.items()})[0]
        predicted = time.perf_counter()
        of = int(np.argmax(outputs)) if message.get("of") is None else int(message["of"])
        reply: dict[str, Any] = {"outputs": outputs.tolist(), "of": of, "explanation": None, "curves": None}
        if self._explainer is None:
            reply["missing"] = "There are no reference rows to compare with."
        else:
            if message.get("explanation"):
                reply["explanation"] = self._explanation(row, of, at_score=bool(message.get("at_score")))
            if message.get("curves"):
                curves = self._explainer.curves(row, of=of, full=bool(message.get("full")))
                reply["curves"] = {name: _curve(curve) for name, curve in curves.items()}
        reply["predict_ms"] = (predicted - started) * 1000
        reply["explain_ms"] = (time.perf_counter() - predicted) * 1000
        return reply

    def _explanation(self, row: Mapping[str, Any], of: int, *, at_score: bool) -> dict[str, Any] | None:
        if at_score and not self._explainer.has_score:
            return None
        try:
            found = self._explainer.explain(row, of=of, at_score=at_score)
        except ValueError:
            # A scale this model does not have.
            return None
        return {
            "method": found.method,
            "baseline": found.baseline,
            "contributions": found.contributions,
            "errors": found.errors,
            "n_background": self._explainer.n_background,
        }


def _curve(curve: Any) -> dict[str, Any]:
    return {"shape": curve.shape, "x": curve.x, "y": curve.y, "thinned": curve.thinned}


def _facts(field: Mapping[str, Any]) -> FieldFacts:
    kind, optional = field["kind"], bool(field.get("optional"))
    if kind == "number":
        low = min(field["minimum"], field["seen"]["low"])
        return FieldFacts(field["name"], kind, low, max(field["maximum"], field["seen"]["high"]), optional=optional)
    options: Sequence[Any] = ()
    if kind == "choice":
        options = [option["value"] for option in field["options"]]
    elif kind == "yes_no":
        options = [field["no"], field["yes"]]
    return FieldFacts(field["name"], kind, options=tuple(options), optional=optional)
