"""What depends on what in a plan: which fields each column of each block is made of, and whether it rises with them.

Explanations speak of fields. All columns made of one field move together; a block whose columns are made of one field
each can be mixed of two rows, column by column, as if the fields themselves had been mixed.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..plan.plan import Plan, Step

__all__ = ["Column", "chain_of_column", "columns_of_blocks", "used_fields"]

# Of each number by itself, and never falling.
RISING = {
    "arctan",
    "at_least",
    "at_most",
    "box_cox",
    "cbrt",
    "ceil",
    "exp",
    "expm1",
    "float32",
    "floor",
    "log",
    "log10",
    "log1p",
    "log2",
    "rint",
    "sigmoid",
    "signed_square",
    "sqrt",
    "subtract",
    "add",
    "tanh",
    "un_box_cox",
    "un_yeo_johnson",
    "yeo_johnson",
    "fill",
}
# Of each number by itself, in any way.
ALONE = {
    "above",
    "is_missing",
    "log_counts",
    "power",
    "zero_as_missing",
    "absolute",
    "square",
    "sign",
    "reciprocal",
} | {
    "negative",
    "sin",
    "cos",
    "tan",
    "normal_share",
}


@dataclass(frozen=True)
class Column:
    """One column of a block: the fields it is made of, and whether it only rises with the one it is made of."""

    fields: frozenset[int]
    rises: bool


def columns_of_blocks(plan: Plan) -> dict[str, list[Column]]:
    """For every block its columns.

    Parameters
    ----------
    plan : Plan
        Its inputs, by their place, are the fields.
    """
    fields = {item.name: at for at, item in enumerate(plan.inputs)}
    blocks: dict[str, list[Column]] = {}
    for step in plan.steps:
        inputs = [blocks[name] for name in step.inputs]
        blocks[step.out] = _columns(step, inputs, plan, fields)
    return blocks


def _columns(step: Step, inputs: Sequence[list[Column]], plan: Plan, fields: Mapping[str, int]) -> list[Column]:
    if step.op == "numbers":
        return [Column(frozenset([fields[name]]), True) for name in step.settings["columns"]]
    if step.op in ("codes", "count_terms"):
        return [Column(frozenset([fields[step.settings["columns"][0]]]), False)] * step.width
    if step.op == "join":
        return [column for block in inputs for column in block]
    if step.op == "take":
        return [inputs[0][at] for at in step.settings["places"]]
    if step.op in ("multiply", "divide"):
        rises = plan.arrays[step.arrays["vector"]] > 0
        return [Column(one.fields, one.rises and bool(up)) for one, up in zip(inputs[0], rises, strict=True)]
    if step.op in RISING:
        return list(inputs[0])
    if step.op in ALONE:
        return [Column(one.fields, False) for one in inputs[0]]
    if step.op == "sum":
        return [_united(columns) for columns in zip(*inputs, strict=True)]
    if step.op in ("bins", "quantiles") and step.width == 1:
        return list(inputs[0])
    if step.op == "linear":
        weights = plan.arrays[step.arrays["weights"]]
        return [_united([inputs[0][at] for at in np.flatnonzero(weights[:, out])]) for out in range(step.width)]
    if step.op == "products":
        powers = plan.arrays[step.arrays["powers"]]
        return [_united([inputs[0][at] for at in np.flatnonzero(own)]) for own in powers]
    if step.op in ("forest", "boosted"):
        asked = np.unique(plan.arrays[step.arrays["feature"]])
        return [_united([inputs[0][at] for at in asked[asked >= 0]])] * step.width
    # Whatever else there is may use all it is given for each of its columns.
    return [_united([column for block in inputs for column in block])] * step.width


def used_fields(plan: Plan) -> set[str]:
    """The names of the inputs that the output can depend on at all.

    Parameters
    ----------
    plan : Plan
    """
    last = columns_of_blocks(plan)[plan.steps[-1].out]
    return {plan.inputs[at].name for column in last for at in column.fields}


def _united(columns: Sequence[Column]) -> Column:
    return Column(frozenset().union(*(column.fields for column in columns)), False)


# One operation on one column, with what it needs for that column.
Link = tuple[str, dict[str, np.ndarray], dict[str, object]]


def chain_of_column(plan: Plan, block: str, column: int) -> list[Link]:
    """The operations that make one column of one raw number, first to last.

    Parameters
    ----------
    plan : Plan
    block : str
    column : int
        It rises with the one field it is made of.
    """
    steps = {step.out: step for step in plan.steps}
    widths = {step.out: step.width for step in plan.steps}
    chain: list[Link] = []
    while steps[block].op != "numbers":
        step = steps[block]
        if step.op == "join":
            for name in step.inputs:
                if column < widths[name]:
                    block = name
                    break
                column -= widths[name]
            continue
        if step.op == "take":
            column = step.settings["places"][column]
        else:
            arrays = {part: plan.arrays[name] for part, name in step.arrays.items()}
            if "vector" in arrays:
                arrays["vector"] = arrays["vector"][[column]]
            chain.append((step.op, arrays, step.settings))
        block = step.inputs[0]
    return chain[::-1]
