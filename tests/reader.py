"""The other reader of compiled models, the one for browsers, asked from Python's tests: one Node process for all."""

import base64
import functools
import json
import subprocess
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

import numpy as np

from plain_window.core.plan.container import write_plan
from plain_window.core.plan.engine import CompiledModel
from plain_window.core.plan.plan import Plan

__all__ = ["assert_readers_agree", "explained_by_reader"]

# Of the row's largest output, or of their usual size: what functions may differ by from one mathematical library to
# another. Plans without such functions must come out the same to the last bit.
RELATIVE = 1e-12
EXACT = {
    "numbers", "codes", "codes_of_numbers", "count_terms", "join", "take", "one_hot", "lookup", "add",
    "subtract", "multiply", "divide", "at_least", "at_most", "above", "fill", "zero_as_missing", "sum",
    "float32", "is_missing", "sqrt", "square", "signed_square", "absolute", "negative", "reciprocal", "floor",
    "ceil", "rint", "sign", "share", "share_or_even", "share_l1", "share_max", "with_complement", "sign_class",
    "largest", "products", "bins", "forest", "boosted", "pair_votes", "pair_scores", "weighted_median",
}  # fmt: skip


@functools.cache
def _process() -> subprocess.Popen[str]:
    command = ["node", str(Path(__file__).with_name("reader.mjs"))]
    return subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, encoding="utf-8")


def _asked(plan: Plan, **what: Any) -> dict[str, Any]:
    process = _process()
    assert process.stdin is not None
    assert process.stdout is not None
    line = json.dumps({"model": base64.b64encode(write_plan(plan)).decode("ascii"), **what}, allow_nan=False)
    process.stdin.write(line + "\n")
    process.stdin.flush()
    said: dict[str, Any] = json.loads(process.stdout.readline())
    assert "error" not in said, said
    return said


def explained_by_reader(
    plan: Plan,
    sample: Mapping[str, Sequence[Any]],
    rows: Sequence[Mapping[str, Any]],
    *,
    of: int,
    ranges: Mapping[str, tuple[float, float]],
) -> list[dict[str, Any]]:
    """What the reader for browsers says of why.

    Parameters
    ----------
    plan : Plan
    sample : mapping of str to sequence
        The rows that contributions are counted against.
    rows : sequence of mapping
        Cases, as raw values.
    of : int
        The output.
    ranges : mapping of str to (float, float)
        The numbers whose curves are wanted, and from where to where.
    """
    found: list[dict[str, Any]] = _asked(plan, sample=sample, rows=rows, of=of, ranges=ranges)["explanations"]
    return found


def assert_readers_agree(plan: Plan, columns: Mapping[str, Sequence[Any]]) -> None:
    """That both readers say the same of some rows.

    Parameters
    ----------
    plan : Plan
    columns : mapping of str to sequence
        Raw values; None where one is missing.
    """
    expected = CompiledModel(plan).predict(columns)
    said = _asked(plan, columns=columns)
    found = np.array([float(value) for value in said["outputs"]]).reshape(len(expected), said["width"])
    if {step.op for step in plan.steps} <= EXACT:
        np.testing.assert_array_equal(found, expected)
        return
    sizes = np.abs(np.where(np.isfinite(expected), expected, 0.0))
    bound = RELATIVE * np.maximum(sizes.max(axis=1, keepdims=True), np.median(sizes))
    is_number = np.isfinite(expected)
    np.testing.assert_array_equal(found[~is_number], expected[~is_number])
    apart = np.where(is_number, found, 0.0) - np.where(is_number, expected, 0.0)
    over = np.abs(apart) - bound
    if over.max(initial=0.0) <= 0:
        return
    # Of numbers far from zero and close to each other little but last digits is left once their powers are centred.
    over -= _of_last_digits_of_powers(plan, columns)
    assert over.max(initial=0.0) <= 0, float(np.max(np.abs(apart) / bound)) * RELATIVE


def _of_last_digits_of_powers(plan: Plan, columns: Mapping[str, Sequence[Any]]) -> np.ndarray:
    """How far outputs move when each logarithm and exponential in a `yeo_johnson` step has another last digit."""
    model, every_step = CompiledModel(plan), range(len(plan.steps))
    names, last = [step.out for step in plan.steps], plan.steps[-1].out
    blocks = model.run_steps(every_step, {}, columns, keep=names)
    moved = np.zeros_like(blocks[last])
    for at, step in enumerate(plan.steps):
        if step.op != "yeo_johnson":
            continue
        block, powers = blocks[step.inputs[0]], plan.arrays[step.arrays["vector"]]
        grown = np.log1p(np.abs(block))
        slope = np.exp(np.where(block >= 0, powers, 2 - powers) * grown)
        for digit in (-np.finfo("float64").eps, np.finfo("float64").eps):
            others = {**blocks, step.out: blocks[step.out] + digit * (grown * slope + np.abs(blocks[step.out]))}
            outputs = model.run_steps(every_step[at + 1 :], others, columns, keep=[last])[last]
            # Either library may be off by so much.
            moved += np.nan_to_num(np.abs(outputs - blocks[last]))
    return moved
