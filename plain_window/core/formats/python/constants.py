"""What stands for a constant in a file that is read and not run: literals, names bound to them, sums of numbers."""

import ast
import operator
from collections.abc import Callable, Mapping
from typing import Any

__all__ = ["NotConstant", "constant", "dotted_name", "module_names"]

# A file whose names lead to one another in a ring must end as well.
MOST_STEPS = 50
# Numbers of more digits than this are no bound of anything.
LARGEST = 1e300

OPERATIONS: dict[type[ast.operator], Callable[[Any, Any], Any]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
}


class NotConstant(Exception):
    """What stands there is only known once the file is run."""


def module_names(tree: ast.Module) -> dict[str, ast.expr]:
    """What each name at the top of a file is bound to, where that is said once and by an expression.

    Parameters
    ----------
    tree : ast.Module
    """
    names: dict[str, ast.expr] = {}
    for part in tree.body:
        if isinstance(part, ast.Assign) and len(part.targets) == 1 and isinstance(part.targets[0], ast.Name):
            names[part.targets[0].id] = part.value
        elif isinstance(part, ast.AnnAssign) and isinstance(part.target, ast.Name) and part.value is not None:
            names[part.target.id] = part.value
    return names


def constant(part: ast.expr, names: Mapping[str, ast.expr], *, steps: int = MOST_STEPS) -> Any:
    """The value of an expression that is known without running it.

    Parameters
    ----------
    part : ast.expr
    names : mapping of str to ast.expr
        As `module_names` has them.
    steps : int, optional
        How many names may lead to one another.

    Raises
    ------
    NotConstant

    Examples
    --------
    >>> tree = ast.parse("LOW = 900")
    >>> constant(ast.parse("(LOW, LOW + 400)", mode="eval").body, module_names(tree))
    (900, 1300)
    """
    if steps <= 0:
        raise NotConstant
    match part:
        case ast.Constant():
            return part.value
        case ast.Name() if part.id in names:
            return constant(names[part.id], names, steps=steps - 1)
        case ast.Tuple():
            return tuple(constant(one, names, steps=steps - 1) for one in part.elts)
        case ast.List():
            return [constant(one, names, steps=steps - 1) for one in part.elts]
        case ast.UnaryOp(op=ast.USub() | ast.UAdd()):
            value = constant(part.operand, names, steps=steps - 1)
            if isinstance(value, int | float) and not isinstance(value, bool):
                return -value if isinstance(part.op, ast.USub) else value
        case ast.BinOp():
            return _computed(part, names, steps)
    raise NotConstant


def _computed(part: ast.BinOp, names: Mapping[str, ast.expr], steps: int) -> int | float:
    """A sum, difference, product or quotient of numbers: a file may say `24 * 60`."""
    left, right = (constant(one, names, steps=steps - 1) for one in (part.left, part.right))
    operation = OPERATIONS.get(type(part.op))
    numbers = [one for one in (left, right) if isinstance(one, int | float) and not isinstance(one, bool)]
    if operation is None or len(numbers) < 2 or any(abs(one) > LARGEST for one in numbers):
        raise NotConstant
    try:
        return operation(*numbers)
    except ArithmeticError as error:
        raise NotConstant from error


def dotted_name(part: ast.expr) -> str:
    """`np.ndarray` as it stands; empty for anything else than names parted by dots.

    Parameters
    ----------
    part : ast.expr
    """
    match part:
        case ast.Name():
            return part.id
        case ast.Attribute():
            before = dotted_name(part.value)
            return f"{before}.{part.attr}" if before else ""
    return ""
