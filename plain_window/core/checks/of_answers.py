"""Whether the model answers: the same case the same way, the edges of every field, and in time."""

import time

import numpy as np

from ..contract.values import Row
from ..errors import ModelFailed
from ..fields import ChoiceField, NumberField, YesNoField
from ..fields.kinds import Scalar
from .facts import Facts
from .result import Finding, Fix

__all__ = ["bad_input", "repeatable", "speed"]

ROWS_REPEATED, MOST_EDGE_ROWS, ASKED_TOGETHER = 20, 160, 40
N_TIMED = 5
# A page that answers within this feels as if it moved by itself; beyond the other it is waited for.
AT_ONCE_MS, SLOW_MS = 100.0, 1000.0


def repeatable(facts: Facts) -> Finding:
    """Whether the same cases get the same answers, alone and beside others, in any order.

    Parameters
    ----------
    facts : Facts
    """
    rows = list(facts.rows[:ROWS_REPEATED])
    if not rows:
        return Finding(status="skip", finding="There is no case to ask about.")
    together, _ = facts.predict(rows)
    backwards, _ = facts.predict(rows[::-1])
    alone = np.vstack([facts.predict([row])[0] for row in rows[:N_TIMED]])
    apart = np.nanmax(np.abs(together - backwards[::-1]), initial=0.0)
    beside = np.nanmax(np.abs(together[: len(alone)] - alone), initial=0.0)
    evidence = {"cases": len(rows), "in_another_order": float(apart), "alone": float(beside)}
    # No number at all is an answer too, and must come again.
    if not np.array_equal(np.isnan(together), np.isnan(backwards[::-1])):
        apart = np.inf
    scale = max(1.0, float(np.nanmax(np.abs(together), initial=0.0)))
    # What a library rounds differently in a batch of another size is no other answer.
    if max(apart, beside) > 1e-6 * scale:
        finding = (
            f"The same case got answers that differ by {max(apart, beside):.2g}: the model answers otherwise each time."
        )
        fix = Fix(text="Fix its seed, or switch off what is random in it when it predicts.", place="model")
        return Finding(status="fail", finding=finding, evidence=evidence, fix=fix)
    finding = f"Cases that got the same answer again: {len(rows)} in another order, {len(alone)} of them alone."
    return Finding(status="pass", finding=finding, evidence=evidence)


def bad_input(facts: Facts) -> Finding:
    """Whether it answers at the ends of every field, for every option, and where something is not known.

    Parameters
    ----------
    facts : Facts
    """
    every = _edges(facts)
    n_edges = len(every)
    # Of very many the spread of all.
    edges = every[:: max(1, -(-n_edges // MOST_EDGE_ROWS))]
    if not edges:
        return Finding(status="skip", finding="There are no fields with ends or options.")
    failing = _failing(facts, edges)
    evidence = {"cases": len(edges), "failing": [what for what, _ in failing][:20]}
    if failing:
        what, why = failing[0]
        others = f" So do {len(failing) - 1} other cases." if len(failing) > 1 else ""
        finding = f"The model fails with {what}: {why}{others}"
        field = what.split("`")[1] if "`" in what else None
        fix = Fix(text="Narrow the field's range or options to what the model takes.", place="inputs", field=field)
        return Finding(status="fail", finding=finding, evidence=evidence, fix=fix)
    finding = f"It answers at the ends of every field and for every option: {n_edges:,} cases."
    if len(edges) < n_edges:
        tried = f"all that were tried of {n_edges:,}"
        finding = f"It answers in {len(edges):,} cases at fields' ends and for options, {tried}."
    return Finding(status="pass", finding=finding, evidence=evidence)


def _edges(facts: Facts) -> list[tuple[str, Row]]:
    """Cases with one field at its edge, in words and as the model is given them."""
    if not facts.rows or facts.has_pictures:
        return []
    usual, edges = dict(facts.rows[0]), []
    for field in facts.document.fields:
        values: list[Scalar | None] = []
        if isinstance(field, NumberField):
            values = [field.minimum, field.maximum]
        elif isinstance(field, ChoiceField):
            values = [option.value for option in field.options]
        elif isinstance(field, YesNoField):
            values = [field.no, field.yes]
        if field.optional:
            values.append(None)
        for value in values:
            words = "not known" if value is None else f"set to {value}"
            edges.append((f"`{field.name}` {words}", {**usual, field.name: value}))
    return edges


def _failing(facts: Facts, edges: list[tuple[str, Row]]) -> list[tuple[str, str]]:
    failing = []
    for start in range(0, len(edges), ASKED_TOGETHER):
        some = edges[start : start + ASKED_TOGETHER]
        try:
            outputs, _ = facts.predict([row for _, row in some])
            finite = np.isfinite(outputs).all(axis=1)
            failing += [
                (what, "it gives no number.") for (what, _), is_good in zip(some, finite, strict=True) if not is_good
            ]
        except ModelFailed:
            failing += _failing_alone(facts, some)
    return failing


def _failing_alone(facts: Facts, edges: list[tuple[str, Row]]) -> list[tuple[str, str]]:
    """Which of them it is, asked one by one."""
    failing = []
    for what, row in edges:
        try:
            outputs, _ = facts.predict([row])
            if not np.isfinite(outputs).all():
                failing.append((what, "it gives no number."))
        except ModelFailed as error:
            failing.append((what, str(error)))
    return failing


def speed(facts: Facts) -> Finding:
    """How long one answer takes.

    Parameters
    ----------
    facts : Facts
    """
    if not facts.rows:
        return Finding(status="skip", finding="There is no case to ask about.")
    model_ms, whole_ms = [], []
    for at in range(N_TIMED):
        begun = time.perf_counter()
        _, own = facts.predict([facts.rows[at % len(facts.rows)]])
        whole_ms.append((time.perf_counter() - begun) * 1000)
        model_ms.append(own)
    typical, model = float(np.median(whole_ms)), float(np.median(model_ms))
    evidence = {"milliseconds": round(typical, 2), "of_the_model": round(model, 2)}
    finding = f"An answer takes {_time(typical)}, of which the model {_time(model)}."
    if typical > SLOW_MS:
        fix = Fix(text="Say on the page that it takes a while, or bring a smaller model.", place="model")
        return Finding(status="warn", finding=finding, evidence=evidence, fix=fix)
    how = " Visitors see it at once." if typical <= AT_ONCE_MS else ""
    return Finding(status="pass", finding=finding + how, evidence=evidence)


def _time(milliseconds: float) -> str:
    return f"{milliseconds / 1000:.1f} s" if milliseconds >= 1000 else f"{max(0.1, milliseconds):.1f} ms"
