"""Every public function says what it is given and what it raises.

Elsewhere described, and so left out here: routes (in the API's description), commands (in their help), and methods that
refer to the one they stand in for ("As `ModelAdapter.predict`.").
"""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import plain_window

ROOT = Path(plain_window.__file__).parent
DESCRIBED_ELSEWHERE = {"api.operation", "blueprint.get", "main.command"}
Function = ast.FunctionDef | ast.AsyncFunctionDef


def test_all_parameters_are_described() -> None:
    lacking, n_described = [], 0
    for where, function in _public_functions():
        described = _names_in(function, "Parameters")
        lacking += [f"{where}: `{name}`" for name in _parameters(function) if name not in described]
        n_described += len(described)
    assert not lacking, "\n".join(lacking)
    assert n_described > 500


def test_what_is_raised_at_once_is_named() -> None:
    lacking, n_raised = [], 0
    for where, function in _public_functions():
        raised, named = set(_raised(function)), _names_in(function, "Raises")
        # What a function makes of its own (`not_found`) has a name there too, but which one only running it would tell.
        lacking += [f"{where}: {name}" for name in raised - named if name[0].isupper() or not named]
        n_raised += len(raised)
    assert not lacking, "\n".join(lacking)
    assert n_raised > 50


def _public_functions() -> Iterator[tuple[str, Function]]:
    for path in sorted(ROOT.rglob("*.py")):
        for function in _functions(ast.parse(path.read_text()).body):
            if not (ast.get_docstring(function) or "").startswith("As `"):
                yield f"{path.relative_to(ROOT)}:{function.lineno} {function.name}", function


def _functions(body: list[ast.stmt]) -> Iterator[Function]:
    for item in body:
        if isinstance(item, ast.ClassDef) and not item.name.startswith("_"):
            yield from _functions(item.body)
        elif isinstance(item, Function) and not item.name.startswith("_"):
            marks = [mark.func if isinstance(mark, ast.Call) else mark for mark in item.decorator_list]
            if not DESCRIBED_ELSEWHERE & {ast.unparse(mark) for mark in marks}:
                yield item


def _parameters(function: Function) -> list[str]:
    own = function.args
    several = [own.vararg, own.kwarg]
    every = [*own.posonlyargs, *own.args, *own.kwonlyargs, *(one for one in several if one)]
    return [one.arg for one in every if one.arg not in ("self", "cls")]


def _names_in(function: Function, section: str) -> set[str]:
    """The names that stand at the beginning of a section's entries: `name : type`, or `one, other : type`."""
    docstring = ast.get_docstring(function) or ""
    found = re.search(rf"^{section}\n-+\n(.*?)(?=^\w+\n-+\n|\Z)", docstring, re.MULTILINE | re.DOTALL)
    entries = re.findall(r"^(\S[^:\n]*)", found[1], re.MULTILINE) if found else []
    return {name.strip(" *") for entry in entries for name in entry.split(",")}


def _raised(function: Function) -> Iterator[str]:
    """What stands behind `raise` in it, but not in functions within; that which is raised again is not new."""
    waiting: list[ast.AST] = list(function.body)
    while waiting:
        part = waiting.pop()
        if isinstance(part, Function | ast.Lambda | ast.ClassDef):
            continue
        if isinstance(part, ast.Raise) and isinstance(part.exc, ast.Call) and isinstance(part.exc.func, ast.Name):
            yield part.exc.func.id
        waiting += ast.iter_child_nodes(part)
