"""From requirements to an environment: fetched, locked by hash, installed behind walls, tried."""

import json
import re
import zipfile
from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from ..core.environments.lock import Locked, lock_key, lock_text
from ..core.environments.requirements import Requirements
from ..settings import Settings
from .fetching import fetch_wheels, refused
from .folders import EnvironmentFolders
from .sources import wheels_of_sources
from .walls import Check, Says, run_confined

__all__ = ["Built", "build_environment"]

# What a module of an older time says under NumPy 2.
FOR_NUMPY_1 = re.compile(r"numpy\.dtype size changed|compiled using NumPy 1|numpy\.core\.multiarray failed|_ARRAY_API")
MOST_TRIED = 40
FILES_EACH = 200_000


@dataclass(frozen=True)
class Built:
    """What came of it."""

    key: str
    packages: tuple[Locked, ...]
    n_bytes: int


def build_environment(requirements: Requirements, settings: Settings, *, check: Check, says: Says) -> Built:
    """Make an environment, unless one with the same content is there.

    Parameters
    ----------
    requirements : Requirements
    settings : Settings
    check : callable
        Asked now and then; a text stops it.
    says : callable
        Is given each line of its log.

    Raises
    ------
    MismatchFaults
        If it cannot be made, with the reason in a sentence.
    Stopped
        If `check` had it stopped.
    """
    names_numpy = "numpy" in requirements.names
    if not names_numpy and not any("--hash=" in line for line in requirements.lines):
        # The runner's own part in there needs it.
        requirements = replace(requirements, lines=(*requirements.lines, "numpy"))
    built = _built(requirements, settings, check, says, may_be_too_new=not names_numpy)
    if built is None:
        # Packages of that time did not say which NumPy they were made for.
        says("Some of it was made for NumPy 1, and says so only when it is imported. Again, with `numpy<2`.")
        others = (line for line in requirements.lines if line != "numpy")
        older = replace(requirements, lines=(*others, "numpy<2"))
        built = _built(older, settings, check, says, may_be_too_new=False)
        assert built is not None, "it may not be too new any more"
    return built


def _built(
    requirements: Requirements, settings: Settings, check: Check, says: Says, *, may_be_too_new: bool
) -> Built | None:
    """The environment; None if NumPy turned out to be newer than what was installed with it."""
    folders, most_bytes = EnvironmentFolders(settings), settings.limits.environment_bytes
    with folders.making() as folder:
        wheels, made = folder / "wheels", folder / "made"
        wheels.mkdir()
        made.mkdir()
        says(f"Asked for: {', '.join(requirements.lines)}")
        pinned = wheels_of_sources(requirements, wheels, settings, check=check, says=says)
        fetched = fetch_wheels(pinned, wheels, home=settings.home, most_bytes=most_bytes, check=check, says=says)
        if all(one.name != "numpy" for one in fetched):
            raise refused("NumPy is not among the packages; what asks the model needs it. Add `numpy`, with its hash.")
        key = lock_key(fetched)
        says("Locked: " + ", ".join(f"{one.name} {one.version}" for one in fetched))
        if folders.is_there(key):
            says("Exactly this is here already.")
            folders.note_use(key)
            return Built(key, tuple(fetched), folders.bytes_of(key))
        _refuse_too_large(wheels, most_bytes)
        (folder / "lock.txt").write_text(lock_text(fetched))
        says(f"Installing {len(fetched)} packages, without a network")
        _install(folder, most_bytes, check)
        failing = _failing(requirements.names, made / "libraries", check)
        if may_be_too_new and any(FOR_NUMPY_1.search(why) for why in failing.values()):
            return None
        for module, why in failing.items():
            says(f"`{module}` cannot be imported: {why}")
        n_bytes = folders.keep(key, made / "libraries")
        says(f"Ready: {n_bytes >> 20} MB")
        return Built(key, tuple(fetched), n_bytes)


def _install(folder: Path, most_bytes: int, check: Check) -> None:
    ended = run_confined(
        "plain_window.environments.inside",
        ["install", str(most_bytes)],
        writable=folder / "made",
        readable={"/wheels": folder / "wheels", "/lock.txt": folder / "lock.txt"},
        check=check,
    )
    if ended.code:
        last = [line for line in ended.output.split("\n") if line.strip()][-1:] or ["pip ended without a word"]
        raise refused(f"The packages could not be installed: {last[0].removeprefix('ERROR: ')[:300].rstrip('.')}.")


def _refuse_too_large(wheels: Path, most_bytes: int) -> None:
    """By what is said in the wheels: no more than that comes out of them."""
    n_bytes = n_files = 0
    for wheel in wheels.glob("*.whl"):
        try:
            with zipfile.ZipFile(wheel) as opened:
                entries = opened.infolist()
        except (zipfile.BadZipFile, OSError):
            raise refused(f"`{wheel.name}` is no wheel that can be unpacked.") from None
        n_bytes += sum(one.file_size for one in entries)
        n_files += len(entries)
    if n_bytes > most_bytes or n_files > FILES_EACH:
        raise refused(
            f"Unpacked the packages take {n_bytes >> 20} MB in {n_files} files; an environment may have "
            f"{most_bytes >> 20} MB. Ask for fewer of them."
        )


def _failing(names: Sequence[str], libraries: Path, check: Check) -> dict[str, str]:
    """Which of the packages that were asked for cannot be imported, and why, by module."""
    modules = [module for name in names for module in _modules_of(name, libraries)][:MOST_TRIED]
    if not modules:
        return {}
    ended = run_confined(
        "plain_window.environments.inside",
        ["try", *modules],
        writable=None,
        readable={"/libraries": libraries},
        check=check,
    )
    try:
        found = json.loads(ended.output.strip().split("\n")[-1])
    except ValueError:
        return {}
    return {str(module): str(why) for module, why in found.items()} if isinstance(found, dict) else {}


def _modules_of(name: str, libraries: Path) -> list[str]:
    """The top modules of a package, by what it lists of itself."""
    for info in libraries.glob("*.dist-info"):
        if info.name.split("-")[0].replace("_", "-").lower() != name:
            continue
        top = info / "top_level.txt"
        if top.is_file():
            return [line.strip() for line in top.read_text("utf-8", "replace").split() if line.isidentifier()]
        record = info / "RECORD"
        lines = record.read_text("utf-8", "replace").splitlines() if record.is_file() else []
        firsts = [line.split(",")[0] for line in lines if line.split(",")[0].endswith("/__init__.py")]
        return sorted({one.split("/")[0] for one in firsts if one.count("/") == 1})
    return []
