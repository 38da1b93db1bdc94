"""Dependencies point one way."""

import ast
import subprocess
import sys
from pathlib import Path

import pytest

PACKAGE = Path(__file__).parents[2] / "plain_window"
# What a room may use of the others.
ALLOWED = {
    "core": set(),
    "store": {"core"},
    "runners": {"core", "service"},
    "authoring": {"core", "store", "runners", "service"},
    # Training scripts prepare pictures as the demos do.
    "samples": {"core"},
    "web": {"core", "store", "runners", "authoring", "service", "samples"},
}


def _used_rooms(path: Path) -> set[str]:
    """The rooms of this program that a module imports from."""
    used = set()
    inside = path.relative_to(PACKAGE.parent).with_suffix("").parts
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.ImportFrom) and node.level:
            target = [*inside[: -node.level], *(node.module or "").split(".")]
        elif isinstance(node, ast.ImportFrom) and (node.module or "").startswith("plain_window"):
            target = (node.module or "").split(".")
        else:
            continue
        names = [part for part in [*target, *(alias.name for alias in node.names)] if part]
        if names[0] == "plain_window" and names[1] in ALLOWED | {"service": None}:
            used.add(names[1])
    return used


@pytest.mark.parametrize("room", sorted(ALLOWED))
def test_a_room_uses_only_the_rooms_below_it(room):
    modules = list((PACKAGE / room).rglob("*.py"))
    assert modules
    for path in modules:
        assert _used_rooms(path) - {room} <= ALLOWED[room], path.relative_to(PACKAGE)


@pytest.mark.parametrize(
    ("module", "forbidden"),
    [
        ("plain_window.core.models.inspection", ["flask", "peewee", "pymysql", "gunicorn"]),
        # What unpickles must never be within reach of a web process.
        ("plain_window.web.app", ["sklearn", "joblib", "pandas", "numpy"]),
    ],
)
def test_what_a_process_must_not_load_is_not_loaded(module, forbidden):
    code = f"import sys, {module}; print([name for name in {forbidden!r} if name in sys.modules])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, cwd=PACKAGE.parent)
    assert done.stdout.strip() == "[]"
