"""Dependencies point one way."""

import ast
import functools
import re
import subprocess
import sys
from pathlib import Path

import pytest

PACKAGE = Path(__file__).parents[2] / "plain_window"
# What a room may use of the others. `settings` and `log_files` at the root are leaves.
LEAVES = {"settings", "log_files"}
ALLOWED = {
    "core": set(),
    "store": {"core"},
    "runners": {"core", *LEAVES},
    "environments": {"core", "runners", *LEAVES},
    "authoring": {"core", "store", "runners", "environments", *LEAVES},
    "jobs": {"core", "store", "runners", "environments", "authoring", *LEAVES},
    "service": {"core", "store", "runners", "authoring", *LEAVES},
    # Training scripts prepare pictures as the demos do.
    "samples": {"core"},
    "web": {"core", "store", "runners", "authoring", "jobs", "samples", *LEAVES},
    # It knows another server by its API alone.
    "pushing": set(),
    "settings": set(),
    "log_files": set(),
}
# The same within `core`, from the bottom up: each of these uses those before it, or some of them, and none after it.
CORE = (
    "errors",
    "environments",
    "guest",
    "tables",
    "trust",
    "report",
    "pictures",
    "fields",
    "answers",
    "drift",
    "contract",
    "boxes",
    "films",
    "made",
    "documents",
    "checks",
    "starters",
    "plan",
    "explain",
    "formats",
    "model_service",
    "takeaway",
    "batches",
    "intake",
)


def _module_of(path: Path) -> str:
    parts = path.relative_to(PACKAGE.parent).with_suffix("").parts
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


FILES = {_module_of(path): path for path in PACKAGE.rglob("*.py")}


@functools.cache
def _imports(module: str) -> frozenset[str]:
    """The modules of this program that a module imports, at its top or inside a function."""
    path, found = FILES[module], set()
    package = module.split(".") if path.name == "__init__.py" else module.split(".")[:-1]
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if not isinstance(node, ast.ImportFrom):
            continue
        above = package[: len(package) - node.level + 1] if node.level else []
        base = ".".join([*above, *([node.module] if node.module else [])])
        for alias in node.names:
            # A name is a module of its own, or something in the one it is imported from.
            found.add(f"{base}.{alias.name}" if f"{base}.{alias.name}" in FILES else base)
    return frozenset(found & FILES.keys())


def _room(module: str) -> str:
    return module.split(".")[1] if "." in module else ""


@pytest.mark.parametrize("room", sorted(ALLOWED))
def test_a_room_uses_only_the_rooms_below_it(room):
    modules = [module for module in FILES if _room(module) == room]
    assert modules
    for module in modules:
        used = {_room(other) for other in _imports(module)} - {room, ""}
        assert used <= ALLOWED[room], module


def _core_room(module: str) -> str:
    return module.split(".")[2]


@pytest.mark.parametrize("room", CORE)
def test_within_core_too_and_no_two_rooms_use_each_other(room):
    inside = [module for module in FILES if module.startswith("plain_window.core.") and _core_room(module) == room]
    assert inside
    for module in inside:
        for other in _imports(module):
            if other == "plain_window.core" or _core_room(other) == room:
                continue
            assert CORE.index(_core_room(other)) < CORE.index(room), (module, other)


def test_every_room_of_core_has_its_place():
    assert {_core_room(module) for module in FILES if module.count(".") > 1 and _room(module) == "core"} <= set(CORE)


def test_no_files_use_each_other_in_a_circle():
    done: set[str] = set()

    def follow(module: str, above: list[str]) -> None:
        assert module not in above, above[above.index(module) :]
        if module not in done:
            for other in sorted(_imports(module)):
                follow(other, [*above, module])
            done.add(module)

    for module in FILES:
        follow(module, [])


@pytest.mark.parametrize("package", sorted(PACKAGE.rglob("__init__.py")), ids=lambda path: path.parent.name)
def test_a_packages_map_names_only_what_is_there(package):
    entries = re.findall(
        r"^- ((?:`\w+`(?:, | and )?)+)", ast.get_docstring(ast.parse(package.read_text("utf-8"))) or "", re.M
    )
    for name in re.findall(r"`(\w+)`", " ".join(entries)):
        assert (package.parent / f"{name}.py").exists() or (package.parent / name).is_dir(), name


@pytest.mark.parametrize(
    ("module", "forbidden"),
    [
        ("plain_window.core.intake.opening", ["flask", "peewee", "pymysql", "gunicorn"]),
        # What crosses a door needs neither, and a runner must be up quickly.
        ("plain_window.core.contract", ["numpy", "flask", "pydantic"]),
        ("plain_window.core.contract.inspection", ["numpy", "flask"]),
        # What unpickles must never be within reach of a web process.
        ("plain_window.web.app", ["sklearn", "joblib", "pandas", "numpy"]),
        # Who opens what is no file of scikit-learn's waits for none of it.
        ("plain_window.core.intake.opening", ["sklearn", "scipy.stats", "scipy.optimize"]),
        ("plain_window.core.formats.python.early", ["numpy", "pandas"]),
    ],
)
def test_what_a_process_must_not_load_is_not_loaded(module, forbidden):
    code = f"import sys, {module}; print([name for name in {forbidden!r} if name in sys.modules])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, cwd=PACKAGE.parent)
    assert done.stdout.strip() == "[]"
