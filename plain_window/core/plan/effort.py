"""How much one row can ask of a plan, whatever its values are: known before it is asked."""

from .operations import OPERATIONS
from .plan import Plan

__all__ = ["effort_of"]


def effort_of(plan: Plan) -> int | None:
    """The most numbers that the answer for one row can touch.

    Parameters
    ----------
    plan : Plan
        Checked.

    Returns
    -------
    int or None
        None where a step has no such bound: text, for example, is as long as it is.
    """
    total = 0
    for step in plan.steps:
        effort = OPERATIONS[step.op].effort
        if effort is None:
            return None
        total += effort(step.width, {part: plan.arrays[name] for part, name in step.arrays.items()})
    return total
