"""What runs behind the walls: pip without a network, and a try whether what was installed can be imported.

python -m plain_window.environments.inside install BYTES
python -m plain_window.environments.inside wheel BYTES SOURCE
python -m plain_window.environments.inside try MODULE…
"""

import json
import os
import subprocess
import sys

from ..runners.confinement import limit_this_process

__all__ = ["main"]

MADE, WHEELS, LOCK, LIBRARIES = "/made", "/wheels", "/lock.txt", "/libraries"
MEMORY_BYTES = 4 << 30
TRY_SECONDS = 60
REASON_CHARACTERS = 300
# One module, with nothing but the libraries that were installed.
TRIAL = (
    "import os, site, sys; from importlib.util import find_spec; site.addsitedir(sys.argv[2]); "
    # Keras takes the first of these that there is.
    "os.environ['KERAS_BACKEND'] = next((one for one in ('torch', 'tensorflow', 'jax') if find_spec(one)), 'numpy'); "
    "__import__(sys.argv[1])"
)
OFFLINE = ["--no-index", "--find-links", WHEELS, "--disable-pip-version-check", "--no-cache-dir", "--no-input"]


def _install() -> int:
    """Wheels by their hashes into a folder, and all of it compiled. Nothing of theirs is run for that."""
    os.environ["TMPDIR"] = MADE
    pip = [sys.executable, "-P", "-m", "pip", "install", *OFFLINE, "--require-hashes", "--no-deps", "--no-compile"]
    done = subprocess.run([*pip, "--target", f"{MADE}/libraries", "-r", LOCK], check=False)
    if done.returncode:
        return done.returncode
    # Files that are no Python for this version are among them now and then; they are only not compiled.
    compile_all = [sys.executable, "-P", "-m", "compileall", "-q", f"{MADE}/libraries"]
    subprocess.run(compile_all, check=False, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    return 0


def _wheel(source: str) -> int:
    """A wheel of a source package: its own build runs here, with what it needs for that out of a folder of wheels."""
    os.environ["TMPDIR"] = MADE
    os.environ["HOME"] = MADE
    os.environ["PATH"] = "/usr/bin:/bin"
    pip = [sys.executable, "-P", "-m", "pip", "wheel", *OFFLINE, "--no-deps", "-w", f"{MADE}/wheels"]
    return subprocess.run([*pip, source], check=False).returncode


def _try(modules: list[str]) -> int:
    """Which modules cannot be imported, and why, as JSON on the last line."""
    python = [os.path.realpath(sys.executable), "-S", "-P", "-c", TRIAL]
    reasons = {}
    for module in modules:
        try:
            done = subprocess.run(
                [*python, module, LIBRARIES], capture_output=True, text=True, timeout=TRY_SECONDS, check=False
            )
            if done.returncode:
                reasons[module] = done.stderr.strip().split("\n")[-1][:REASON_CHARACTERS] or "it ended the process"
        except subprocess.TimeoutExpired:
            reasons[module] = f"importing it took more than {TRY_SECONDS} seconds"
    print(json.dumps(reasons))
    return 0


def main(arguments: list[str]) -> int:
    """Do what is asked; return the exit code.

    Parameters
    ----------
    arguments : list of str
        Of the command line.
    """
    what, rest = arguments[0], arguments[1:]
    n_bytes = int(rest.pop(0)) if what in ("install", "wheel") else 0
    limit_this_process(memory_bytes=MEMORY_BYTES, more_scratch_bytes=n_bytes)
    if what == "install":
        return _install()
    return _wheel(rest[0]) if what == "wheel" else _try(rest)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
