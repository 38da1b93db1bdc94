"""What is told of a function: its signature and docstring as Python text, with the names its hints need. No body."""

from __future__ import annotations

import ast
import builtins
import enum
import inspect
import textwrap
from types import ModuleType
from typing import Any, Callable

__all__ = ["described"]

SIMPLE = (int, float, str, bool, type(None))
MOST_NAMES = 200


def described(function: Callable[..., Any], batch: Callable[..., Any] | None = None) -> tuple[str, str]:
    """A Python file that says what the functions take and answer, and the name of the one that answers."""
    needed = _Needed(getattr(inspect.unwrap(function), "__globals__", {}))
    parts = [_text_of(one, needed) for one in (function, batch) if one is not None]
    return "\n".join([*needed.lines(), *parts]), _name_of(function)


def _name_of(function: Callable[..., Any]) -> str:
    name = getattr(function, "__name__", "predict")
    return name if name.isidentifier() else "predict"


def _text_of(function: Callable[..., Any], needed: _Needed) -> str:
    node = _definition(inspect.unwrap(function))
    if node is None:
        return f"def {_name_of(function)}{inspect.signature(function)}:\n    return ...\n"
    read = {one.id for part in node.body for one in ast.walk(part) if isinstance(one, ast.Name)}
    arguments = node.args
    every = [*arguments.posonlyargs, *arguments.args, *arguments.kwonlyargs]
    # What is given away of the body: which parameters it reads at all.
    names = [ast.Name(one.arg, ast.Load()) for one in every if one.arg in read]
    doc = ast.get_docstring(node)
    body: list[ast.stmt] = [ast.Expr(ast.Constant(doc))] if doc else []
    node.body = [*body, ast.Return(ast.Tuple(names, ast.Load()))]
    node.decorator_list = []
    for part in [arguments, *([node.returns] if node.returns is not None else [])]:
        needed.look_at(part)
    return ast.unparse(ast.fix_missing_locations(ast.Module([node], [])))


def _definition(function: Any) -> ast.FunctionDef | ast.AsyncFunctionDef | None:
    try:
        tree = ast.parse(textwrap.dedent(inspect.getsource(function)))
    except (OSError, TypeError, SyntaxError):
        return None
    return next((one for one in tree.body if isinstance(one, (ast.FunctionDef, ast.AsyncFunctionDef))), None)


class _Needed:
    """What the names in hints mean: modules, classes, constants."""

    def __init__(self, names: dict[str, Any]) -> None:
        self._names, self._lines = names, {}  # type: ignore[var-annotated]

    def lines(self) -> list[str]:
        return list(self._lines.values())

    def look_at(self, part: ast.AST) -> None:
        for one in ast.walk(part):
            if isinstance(one, ast.Name):
                self._add(one.id)
            elif isinstance(one, ast.Constant) and isinstance(one.value, str) and one.value.isidentifier():
                # A hint in quotes may be a name.
                self._add(one.value)

    def _add(self, name: str) -> None:
        if name in self._lines or name not in self._names or hasattr(builtins, name) or len(self._lines) > MOST_NAMES:
            return
        self._lines[name] = ""
        text = self._meaning(name, self._names[name])
        # Behind what it needs itself.
        self._lines.pop(name)
        if text:
            self._lines[name] = text

    def _meaning(self, name: str, value: Any) -> str:
        if isinstance(value, ModuleType):
            return f"import {value.__name__} as {name}"
        if isinstance(value, type) and issubclass(value, enum.Enum) and value.__module__ not in ("enum",):
            members = [f"    {member.name} = {member.value!r}" for member in value]
            return "\n".join(["import enum", f"class {name}(enum.Enum):", *members])
        home = getattr(value, "__module__", None)
        is_own = home in ("__main__", self._names.get("__name__"))
        if isinstance(value, type) and is_own:
            return self._class(value)
        if isinstance(value, SIMPLE) or (
            isinstance(value, (list, tuple)) and all(isinstance(one, SIMPLE) for one in value)
        ):
            return f"{name} = {value!r}"
        if isinstance(value, range):
            return f"{name} = {value!r}"
        if home == "typing" and hasattr(value, "__origin__"):
            return f"import typing\n{name} = {_hint(value)}"
        own_name = getattr(value, "__qualname__", None) or getattr(value, "_name", None) or name
        return f"from {home} import {own_name.split('.')[0]} as {name}" if home and not is_own else ""

    def _class(self, value: type) -> str:
        try:
            tree = ast.parse(textwrap.dedent(inspect.getsource(value)))
        except (OSError, TypeError, SyntaxError):
            return ""
        (node,) = tree.body
        if not isinstance(node, ast.ClassDef):
            return ""
        node.body = [one for one in node.body if isinstance(one, ast.AnnAssign)] or [ast.Pass()]
        for part in [*node.bases, *node.decorator_list, *node.body]:
            self.look_at(part)
        return ast.unparse(ast.fix_missing_locations(ast.Module([node], [])))


def _hint(value: Any) -> str:
    return repr(value).replace("__main__.", "")
