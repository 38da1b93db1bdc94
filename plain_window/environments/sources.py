"""Source packages that the operator has allowed by name: fetched without being run, built behind the walls."""

import re
import shutil
import tarfile
import tomllib
import zipfile
from pathlib import Path

from packaging.requirements import Requirement
from packaging.utils import InvalidSdistFilename, canonicalize_name, parse_sdist_filename
from packaging.version import Version

from ..core.environments.requirements import Requirements
from ..settings import Settings
from .fetching import fetch_wheels, refused, sha256_of
from .walls import Check, Says, run_confined, run_with_network

__all__ = ["wheels_of_sources"]

# What pip says of every file of sources that it was not allowed to take; by its version with the hash, or without.
SKIPPED = re.compile(
    r"No sources permitted for [^:]+: (?P<address>[^\s#]+)(?:#sha256=(?P<sha256>[0-9a-f]{64}))?(?:&\S*)?(?: |$)", re.M
)
OF_PIP_ITSELF = ("ERROR: Failed", "error: subprocess-exited", "error: metadata", "note: ", "hint: ")
USUAL_BUILD = ("setuptools", "wheel")
MOST_BYTES = 200 << 20
MOST_STATED_BYTES = 1 << 20


def wheels_of_sources(
    requirements: Requirements, wheels: Path, settings: Settings, *, check: Check, says: Says
) -> list[str]:
    """Make wheels of those packages that may be built here; return the requirements with their versions pinned.

    Parameters
    ----------
    requirements : Requirements
    wheels : Path
        Folder that they are put into.
    settings : Settings
    check, says : callable
        As of `run_confined`.

    Raises
    ------
    MismatchFaults
        If one cannot be had or built.
    Stopped
        If `check` had it stopped.
    """
    lines = list(requirements.lines)
    for at, line in enumerate(lines):
        requirement = Requirement(line.split(" --hash=")[0])
        if canonicalize_name(requirement.name) not in settings.source_packages:
            continue
        version = _built(requirement, wheels, settings, check, says)
        lines[at] = f"{requirement.name}=={version}"
    return lines


def _built(requirement: Requirement, wheels: Path, settings: Settings, check: Check, says: Says) -> str:
    building = wheels.parent / f"sources-{requirement.name}"
    building.mkdir()
    source, version = _fetched(requirement, building, settings, check)
    says(f"Building {requirement.name} {version} from its sources, without a network")
    needed = building / "wheels"
    needed.mkdir()
    most = settings.limits.environment_bytes
    if asked := _build_requirements(source):
        fetch_wheels(asked, needed, home=settings.home, most_bytes=most, check=check, says=says)
    made = building / "made"
    made.mkdir()
    ended = run_confined(
        "plain_window.environments.inside",
        ["wheel", str(most), f"/source/{source.name}"],
        writable=made,
        readable={"/wheels": needed, "/source": source.parent},
        check=check,
    )
    found = list((made / "wheels").glob("*.whl"))
    if ended.code or not found:
        raise refused(f"`{requirement.name} {version}` could not be built from its sources: {_reason(ended.output)}.")
    shutil.copyfile(found[0], wheels / found[0].name)
    return version


def _reason(output: str) -> str:
    """The line that says most: the last error that is the build's own, not pip's word that there was one."""
    lines = [line.strip() for line in output.split("\n") if re.search(r"[Ee]rror: |: not found", line)]
    own = [line for line in lines if not line.startswith(OF_PIP_ITSELF)]
    return (own or lines or ["it ended without a word"])[-1][:300].rstrip(".")


def _fetched(requirement: Requirement, folder: Path, settings: Settings, check: Check) -> tuple[Path, str]:
    """The newest file of sources that fits, and its version. pip names them all; none is handed to it."""
    place = folder / "source"
    place.mkdir()
    arguments = ["download", "-vvv", "--disable-pip-version-check", "--only-binary=:all:", "--no-deps"]
    arguments += ["-d", "/tmp/made", requirement.name]
    ended = run_with_network(arguments, writable=place, home=settings.home, check=check)
    for left in place.iterdir():
        left.unlink()
    fitting: list[tuple[Version, str, str]] = []
    for found in SKIPPED.finditer(ended.output):
        try:
            _, version = parse_sdist_filename(found["address"].rsplit("/", 1)[-1])
        except InvalidSdistFilename:
            continue
        if requirement.specifier.contains(version, prereleases=False):
            fitting.append((version, found["address"], found["sha256"] or ""))
    if not fitting:
        raise refused(f"There are no sources of `{requirement}` in the index. Ask for another version.")
    version, address, sha256 = max(fitting)
    path = place / address.rsplit("/", 1)[-1]
    run_with_network(
        [address, f"/tmp/made/{path.name}"],
        writable=place,
        home=settings.home,
        check=check,
        module="plain_window.environments.one_file",
    )
    if not path.is_file() or path.stat().st_size > MOST_BYTES or (sha256 and sha256_of(path) != sha256):
        raise refused(f"The sources of `{requirement.name}` {version} did not come whole. Try again.")
    return path, str(version)


def _build_requirements(source: Path) -> list[str]:
    """What building it needs, by its own `pyproject.toml`."""
    content = b""
    try:
        if source.name.endswith(".zip"):
            with zipfile.ZipFile(source) as opened:
                names = [one for one in opened.namelist() if one.count("/") == 1 and one.endswith("/pyproject.toml")]
                content = opened.read(names[0]) if names else b""
        else:
            with tarfile.open(source) as archive:
                members = (one for one in archive if one.name.count("/") == 1)
                member = next((one for one in members if one.name.endswith("/pyproject.toml")), None)
                file = archive.extractfile(member) if member is not None else None
                content = file.read(MOST_STATED_BYTES) if file is not None else b""
        asked = tomllib.loads(content.decode("utf-8")).get("build-system", {}).get("requires", USUAL_BUILD)
    except (OSError, tarfile.TarError, zipfile.BadZipFile, ValueError):
        asked = USUAL_BUILD
    return [str(one) for one in asked]
