"""The kernels' machine code, made once, so that no runner needs a compiler."""

import hashlib
import importlib.metadata
import os
import platform
import shutil
import subprocess
import sys
from importlib.util import find_spec
from pathlib import Path

from ..core.plan.machine_code import KERNEL_MODULES
from ..settings import ROOT
from .confinement import PACKAGE

__all__ = ["prepare_kernels"]

COMPILE_SECONDS = 120
STAMP = "made-for"
# `./plainwindow` has them compiled there when it installs the rest.
BESIDE_PROGRAM = ROOT / ".setup" / "kernels"
PROGRAM = (
    "import pathlib, sys; from plain_window.core.plan.machine_code import KERNEL_MODULES, build_machine_code; "
    "build_machine_code(pathlib.Path(sys.argv[1]), KERNEL_MODULES)"
)


def prepare_kernels(folder: Path, *, beside: Path | None = BESIDE_PROGRAM) -> None:
    """Have the kernels compiled in `folder`, unless it holds them already.

    If that fails, runners compile for themselves, which takes each a few seconds.

    Parameters
    ----------
    folder : Path
    beside : Path, optional
        Where they may have been compiled already, for all state directories of this program: then they are copied.
    """
    wanted = _made_for()
    if _holds(folder, wanted):
        return
    if beside is not None and _holds(beside, wanted):
        shutil.rmtree(folder, ignore_errors=True)
        # The stamp comes last: a copy that was interrupted is made anew.
        shutil.copytree(beside, folder, ignore=shutil.ignore_patterns(STAMP))
        _finish(folder, wanted)
        return
    folder.mkdir(parents=True, exist_ok=True)
    environment = {**os.environ, "PYTHONPATH": str(PACKAGE.parent)}
    command = [sys.executable, "-P", "-c", PROGRAM, str(folder)]
    done = subprocess.run(command, env=environment, timeout=COMPILE_SECONDS, check=False, cwd=folder)
    if done.returncode == 0:
        _finish(folder, wanted)


def _holds(folder: Path, wanted: str) -> bool:
    stamp = folder / STAMP
    return stamp.is_file() and stamp.read_text() == wanted


def _finish(folder: Path, wanted: str) -> None:
    # Runners read it under user ids of their own.
    for path in [folder, *folder.rglob("*")]:
        path.chmod(0o755 if path.is_dir() else 0o644)
    (folder / STAMP).write_text(wanted)


def _made_for() -> str:
    """What the machine code depends on: the sources, the compiler, the processor."""
    parts = [importlib.metadata.version("numba"), platform.machine(), _processor()]
    specs = (find_spec(module) for module in KERNEL_MODULES)
    parts += [Path(spec.origin).read_text("utf-8") for spec in specs if spec and spec.origin]
    return hashlib.sha256("\0".join(parts).encode()).hexdigest()


def _processor() -> str:
    """The processor's name and abilities: a state directory may move to another machine."""
    lines = Path("/proc/cpuinfo").read_text().splitlines()
    return "\n".join(sorted({line for line in lines if line.startswith(("model name", "flags", "Features"))}))


if __name__ == "__main__":
    place = Path(sys.argv[1]).resolve()
    prepare_kernels(place, beside=None)
    sys.exit(0 if _holds(place, _made_for()) else 1)
