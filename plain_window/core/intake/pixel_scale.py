"""What scale the pixels of a model's training had, as far as numbers in the model itself tell."""

from typing import Any, NamedTuple

import numpy as np

from ..plan.plan import Plan, Step

__all__ = ["SIXTEEN", "PixelScale", "pixel_scale"]

# Pixels in sixteen steps, for values from 0 to 1 before that.
SIXTEEN: dict[str, Any] = {"scale": "spread", "mean": [0.0], "spread": [1 / 16]}
# Steps that hand pixels on as they are, and parts of others that hold what a pixel may be: rows of the training, where
# trees part, means, largest values.
PASSING = frozenset({"numbers", "float32", "join", "take"})
COMPARED = {
    "kernel": "rows",
    "neighbours": "rows",
    "forest": "threshold",
    "boosted": "threshold",
    "subtract": "vector",
    "divide": "vector",
}
# (1 + √2) / 2, of numbers that are either nothing or the limit.
MOST_TOGETHER = 1.2072
# What is multiplied makes 1 of the largest.
SHARES = "multiply"


class PixelScale(NamedTuple):
    """Settings of a preparation, in words, and the largest number that told them."""

    settings: dict[str, Any]
    words: str
    largest: float


def pixel_scale(plan: Plan) -> PixelScale | None:
    """The scale of the pixels that a compiled model was trained on; None where it does not tell.

    Parameters
    ----------
    plan : Plan
        Of a model whose columns are pixels.
    """
    first = next((step for step in plan.steps if step.op not in PASSING), None)
    met = None if first is None else _met(first, plan)
    if first is None or met is None or not met.size:
        return None
    smallest, largest = float(met.min()), float(met.max())
    reached = max(largest, _reached(first, plan))
    if smallest < 0:
        return PixelScale({"scale": "-1..1"}, "from −1 to 1", largest) if smallest >= -1 and reached <= 1 else None
    if largest <= 0:
        return None
    if reached <= 1:
        return PixelScale({"scale": "0..1"}, "from 0 to 1", largest)
    if reached <= 16:
        return PixelScale(SIXTEEN, "from 0 to 16", largest)
    return PixelScale({"scale": "0..255"}, "from 0 to 255", largest) if reached <= 255 else None


def _reached(step: Step, plan: Plan) -> float:
    """What pixels went up to at least, where their means are taken off and they are divided by how far they spread.

    Where most pictures are dark the means are small. Of numbers up to some limit mean and standard deviation together
    come to 1.21 of it at the most.
    """
    spread = next((one for one in plan.steps if one.op == "divide" and one.inputs == [step.out]), None)
    if step.op != "subtract" or spread is None:
        return 0.0
    means, deviations = plan.arrays[step.arrays["vector"]], plan.arrays[spread.arrays["vector"]]
    # What is always the same is divided by 1.
    together = (means + deviations)[deviations != 1]
    return float(together.max(initial=0.0)) / MOST_TOGETHER


def _met(step: Step, plan: Plan) -> np.ndarray | None:
    """The numbers of the first step that does anything with pixels; None where they say nothing of those."""
    if step.op == SHARES:
        vector = plan.arrays[step.arrays["vector"]]
        return 1 / vector[vector > 0]
    part = COMPARED.get(step.op)
    if part is None:
        return None
    numbers = plan.arrays[step.arrays[part]]
    if part == "threshold":
        # Leaves part nothing.
        numbers = numbers[plan.arrays[step.arrays["feature"]] >= 0]
    return numbers[np.isfinite(numbers)]
