"""The kernels' machine code, made once, so that no runner needs a compiler."""

import hashlib
import importlib.metadata
import os
import platform
import subprocess
import sys
from importlib.util import find_spec
from pathlib import Path

from ..core.machine_code import KERNEL_MODULES
from .confinement import PACKAGE

__all__ = ["prepare_kernels"]

COMPILE_SECONDS = 120
PROGRAM = (
    "import pathlib, sys; from plain_window.core.machine_code import KERNEL_MODULES, build_machine_code; "
    "build_machine_code(pathlib.Path(sys.argv[1]), KERNEL_MODULES)"
)


def prepare_kernels(folder: Path) -> None:
    """Have the kernels compiled into `folder`, unless it holds them already.

    If that fails, runners compile for themselves, which takes each a few seconds.
    """
    stamp, wanted = folder / "made-for", _made_for()
    if stamp.is_file() and stamp.read_text() == wanted:
        return
    folder.mkdir(parents=True, exist_ok=True)
    environment = {**os.environ, "PYTHONPATH": str(PACKAGE.parent)}
    command = [sys.executable, "-P", "-c", PROGRAM, str(folder)]
    done = subprocess.run(command, env=environment, timeout=COMPILE_SECONDS, check=False, cwd=folder)
    if done.returncode == 0:
        # Runners read it under user ids of their own.
        for path in [folder, *folder.rglob("*")]:
            path.chmod(0o755 if path.is_dir() else 0o644)
        stamp.write_text(wanted)


def _made_for() -> str:
    """What the machine code depends on: the sources, the compiler, the processor."""
    parts = [importlib.metadata.version("numba"), platform.machine(), _processor()]
    parts += [Path(find_spec(module).origin).read_text("utf-8") for module in KERNEL_MODULES]
    return hashlib.sha256("\0".join(parts).encode()).hexdigest()


def _processor() -> str:
    """The processor's name and abilities: a state directory may move to another machine."""
    lines = Path("/proc/cpuinfo").read_text().splitlines()
    return "\n".join(sorted({line for line in lines if line.startswith(("model name", "flags", "Features"))}))
