"""What a public function takes and gives has a type: `Any` stays where other people's libraries are talked to."""

import ast
from collections.abc import Iterator
from pathlib import Path

import plain_window

ROOT = Path(plain_window.__file__).parent
# Adapters of the libraries that models are of, of numba, of gunicorn; and a script that stands alone and reads JSON.
ADAPTERS = (
    "core/formats/",
    "core/guest/",
    "core/plan/machine_code.py",
    "core/starters/by_hand.py",
    "web/gunicorn_config.py",
    "web/worker.py",
)
Function = ast.FunctionDef | ast.AsyncFunctionDef


def test_any_is_in_no_public_signature_outside_the_adapters() -> None:
    seen, loose = 0, []
    for path in sorted(ROOT.rglob("*.py")):
        where = str(path.relative_to(ROOT))
        for function in _public(ast.parse(path.read_text()).body):
            seen += 1
            names = {node.id for type_ in _types(function) for node in ast.walk(type_) if isinstance(node, ast.Name)}
            if "Any" in names and not where.startswith(ADAPTERS):
                loose.append(f"{where}:{function.lineno} {function.name}")
    assert not loose, "\n".join(loose)
    assert seen > 1000


def _public(body: list[ast.stmt]) -> Iterator[Function]:
    for item in body:
        if isinstance(item, ast.ClassDef) and not item.name.startswith("_"):
            yield from _public(item.body)
        elif isinstance(item, Function) and not item.name.startswith("_"):
            yield item


def _types(function: Function) -> list[ast.expr]:
    own = function.args
    every = [*own.posonlyargs, *own.args, *own.kwonlyargs, own.vararg, own.kwarg]
    return [one for one in (function.returns, *(one.annotation for one in every if one)) if one is not None]
