"""Wheels from the index, and nothing else: fetching a wheel executes nothing of it."""

import hashlib
import re
from collections.abc import Sequence
from pathlib import Path

from ..core.environments.lock import Locked, NoWheel, locked
from ..core.errors import Fault, MismatchFaults
from .complaints import complaint, name_not_found
from .walls import Check, Says, Stopped, run_with_network

__all__ = ["fetch_wheels", "refused", "sha256_of"]

FETCHED = "/tmp/made"
DOWNLOADING = re.compile(r"\s*Downloading (\S+?)(?:\.metadata)? \(([\d.]+ [kMG]?B)\)")


def refused(why: str) -> MismatchFaults:
    """What is wrong with the requirements.

    Parameters
    ----------
    why : str
        As a sentence.
    """
    return MismatchFaults([Fault("requirements", why)])


def fetch_wheels(
    lines: Sequence[str],
    folder: Path,
    *,
    home: Path,
    most_bytes: int,
    check: Check,
    says: Says,
) -> list[Locked]:
    """Fetch the wheels that requirements come to.

    Parameters
    ----------
    lines : sequence of str
        Requirements.
    folder : Path
        What is there already may be used; the wheels come to lie in it.
    home : Path
        The state directory.
    most_bytes : int
        How much may be fetched.
    check, says : callable
        As of `run_confined`.

    Raises
    ------
    MismatchFaults
        With pip's reason in a sentence.
    Stopped
        If `check` had it stopped.
    """
    (folder / "requirements.txt").write_text("".join(f"{line}\n" for line in lines))

    def look() -> str | None:
        if sum(one.stat().st_size for one in folder.glob("*.whl")) > most_bytes:
            return f"The packages are larger than the {most_bytes >> 20} MB that an environment may have."
        return check()

    arguments = ["download", "--disable-pip-version-check", "--only-binary=:all:", "--progress-bar", "off"]
    arguments += ["--find-links", FETCHED, "-d", FETCHED, "-r", f"{FETCHED}/requirements.txt"]
    seen: set[str] = set()

    def tell(line: str) -> None:
        found = DOWNLOADING.match(line)
        if found and found[1] not in seen and found[1].endswith(".whl"):
            seen.add(found[1])
            says(f"Fetching {_named(found[1])} ({found[2]})")

    try:
        ended = run_with_network(arguments, writable=folder, home=home, check=look, says=tell)
    except Stopped as stopped:
        if str(stopped):
            raise refused(str(stopped)) from None
        raise
    if ended.code:
        raise refused(complaint(ended.output, exists=_has_sources(ended.output, folder, home, check)))
    try:
        return [locked(one.name, sha256_of(one)) for one in sorted(folder.glob("*.whl"))]
    except NoWheel as error:
        raise refused(f"The index gave `{error}`, which is no wheel.") from None


def _named(file: str) -> str:
    """A wheel as people call it: its package and version."""
    try:
        wheel = locked(file, "")
        return f"{wheel.name} {wheel.version}"
    except NoWheel:
        return file


def _has_sources(output: str, folder: Path, home: Path, check: Check) -> bool | None:
    """Whether there is a package of which no wheel fits at all, as sources."""
    name = name_not_found(output)
    if name is None:
        return None
    ended = run_with_network(
        ["index", "versions", "--disable-pip-version-check", name],
        writable=folder,
        home=home,
        check=check,
    )
    return ended.code == 0


def sha256_of(path: Path) -> str:
    """The hash of a file, as locks state it.

    Parameters
    ----------
    path : Path
    """
    with open(path, "rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
