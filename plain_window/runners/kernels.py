"""The kernels' machine code, made once, so that no runner has to wait for a compiler."""

import hashlib
import importlib.metadata
import os
import subprocess
import sys
from pathlib import Path

from ..core import compiled
from .confinement import PACKAGE

__all__ = ["prepare_kernels"]

SOURCE = Path(compiled.__file__).with_name("kernels.py")
COMPILE_SECONDS = 120


def prepare_kernels(folder: Path) -> None:
    """Have the kernels compiled into `folder`, unless it holds them already.

    If that fails, runners compile for themselves, which takes each a few seconds.
    """
    stamp = folder / "made-for"
    # numba looks at the source's path and time, too; a copy elsewhere is compiled anew.
    parts = [SOURCE.read_bytes(), str(SOURCE).encode(), str(SOURCE.stat().st_mtime_ns).encode()]
    parts.append(importlib.metadata.version("numba").encode())
    wanted = hashlib.sha256(b"\0".join(parts)).hexdigest()
    if stamp.is_file() and stamp.read_text() == wanted:
        return
    folder.mkdir(parents=True, exist_ok=True)
    environment = {**os.environ, "NUMBA_CACHE_DIR": str(folder), "PYTHONPATH": str(PACKAGE.parent)}
    command = [sys.executable, "-c", "import plain_window.core.compiled.kernels"]
    done = subprocess.run(command, env=environment, timeout=COMPILE_SECONDS, check=False)
    if done.returncode == 0:
        # Runners read it under user ids of their own.
        for path in [folder, *folder.rglob("*")]:
            path.chmod(0o755 if path.is_dir() else 0o644)
        stamp.write_text(wanted)
