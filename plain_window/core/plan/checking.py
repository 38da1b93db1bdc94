"""What kernels and operations trust of a plan, checked before any of them runs."""

from .operations import OPERATIONS
from .plan import VERSION, Plan, PlanDamaged

__all__ = ["check_plan"]


def check_plan(plan: Plan) -> None:
    """Everything the kernels and operations trust.

    Parameters
    ----------
    plan : Plan

    Raises
    ------
    PlanDamaged
        If a step reads what is not there, an array has the wrong type or shape, or a tree leads out of itself.
    """
    if plan.version != VERSION:
        raise PlanDamaged(f"this is version {plan.version} of the format; {VERSION} is read here")
    if not plan.steps:
        raise PlanDamaged("there are no steps")
    columns = {item.name for item in plan.inputs}
    if len(columns) < len(plan.inputs):
        raise PlanDamaged("an input is named twice")
    widths: dict[str, int] = {}
    for step in plan.steps:
        operation = OPERATIONS.get(step.op)
        if operation is None:
            raise PlanDamaged(f"there is no operation `{step.op}`")
        if any(name not in widths for name in step.inputs):
            raise PlanDamaged(f"`{step.op}` reads a block that no step before it has written")
        if any(name not in plan.arrays for name in step.arrays.values()):
            raise PlanDamaged(f"`{step.op}` reads an array that is not there")
        if any(name not in columns for name in step.settings.get("columns", [])):
            raise PlanDamaged(f"`{step.op}` reads a column that is no input")
        arrays = {part: plan.arrays[name] for part, name in step.arrays.items()}
        try:
            width = operation.width([widths[name] for name in step.inputs], arrays, step.settings)
        except (KeyError, TypeError, ValueError, IndexError) as error:
            raise PlanDamaged(f"`{step.op}` does not fit together: {error}") from error
        if width != step.width or step.out in widths:
            raise PlanDamaged(f"`{step.op}` writes a block of another width, or twice")
        widths[step.out] = width
