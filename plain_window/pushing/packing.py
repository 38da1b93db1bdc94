"""A demo's folder as a zip that can be sent."""

import shutil
import tomllib
import zipfile
from pathlib import Path
from typing import IO

__all__ = ["NotADemo", "pack", "slug_of"]

TOML = "demo.toml"
# What lies about in a folder that is worked in, and is no part of a demo.
NOT_MEANT = ("__pycache__", "__MACOSX")


class NotADemo(Exception):
    """The folder is no demo; the message says what is missing."""


def slug_of(path: Path) -> str | None:
    """The address that a demo's folder, or a zip of one, asks for.

    Parameters
    ----------
    path : Path

    Raises
    ------
    NotADemo
        If it is none.
    """
    try:
        settings = tomllib.loads(_toml(path))
    except (tomllib.TOMLDecodeError, UnicodeDecodeError) as error:
        raise NotADemo(f"`{TOML}` in `{path}` cannot be read: {error}.") from error
    slug = settings.get("slug")
    return slug if isinstance(slug, str) and slug else None


def _toml(path: Path) -> str:
    if path.is_dir() and (path / TOML).is_file():
        return (path / TOML).read_text("utf-8")
    if path.is_file() and zipfile.is_zipfile(path):
        with zipfile.ZipFile(path) as archive:
            names = [name for name in archive.namelist() if Path(name).name == TOML]
            if names:
                return archive.read(min(names, key=len)).decode("utf-8")
    if not path.exists():
        raise NotADemo(f"There is nothing at `{path}`.")
    raise NotADemo(f"`{path}` has no `{TOML}`, so it is not a demo's folder.")


def pack(path: Path, file: IO[bytes]) -> int:
    """Write a folder as a zip, or a zip as it is; how many files it holds.

    Parameters
    ----------
    path : Path
    file : binary file
        Where it is written.
    """
    if path.is_file():
        with open(path, "rb") as opened:
            shutil.copyfileobj(opened, file)
        with zipfile.ZipFile(path) as archive:
            return len(archive.namelist())
    n_files = 0
    # Tools that build the same bytes each time date files 1970; zip archives have no time before 1980.
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, strict_timestamps=False) as archive:
        for one in sorted(path.rglob("*")):
            name = one.relative_to(path)
            if one.is_file() and not any(part.startswith(".") or part in NOT_MEANT for part in name.parts):
                archive.write(one, name.as_posix())
                n_files += 1
    return n_files
