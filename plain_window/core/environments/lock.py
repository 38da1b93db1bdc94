"""Exactly which files requirements came to: name, version and hash of each."""

import hashlib
from collections.abc import Sequence

import msgspec
from packaging.utils import InvalidWheelFilename, canonicalize_name, parse_wheel_filename

from .requirements import this_python

__all__ = ["Locked", "NoWheel", "lock_key", "lock_text", "locked"]


class NoWheel(Exception):
    """A file that is no wheel; the message is its name."""


class Locked(msgspec.Struct, frozen=True):
    """One package's file."""

    name: str
    version: str
    file: str
    sha256: str


def locked(file: str, sha256: str) -> Locked:
    """A wheel by its file's name.

    Parameters
    ----------
    file : str
    sha256 : str
        Of its content, in hexadecimal digits.

    Raises
    ------
    NoWheel
    """
    try:
        name, version, _, _ = parse_wheel_filename(file)
    except InvalidWheelFilename:
        raise NoWheel(file) from None
    return Locked(canonicalize_name(name), str(version), file, sha256)


def lock_text(packages: Sequence[Locked]) -> str:
    """A lock as pip reads it with `--require-hashes`.

    Parameters
    ----------
    packages : sequence of Locked

    Examples
    --------
    >>> lock_text([Locked("numpy", "1.26.4", "numpy-1.26.4-py3-none-any.whl", "ab12")])
    'numpy==1.26.4 --hash=sha256:ab12\\n'
    """
    ordered = sorted(packages, key=lambda one: one.name)
    return "".join(f"{one.name}=={one.version} --hash=sha256:{one.sha256}\n" for one in ordered)


def lock_key(packages: Sequence[Locked]) -> str:
    """A name for what is installed: the same files under the same Python, the same name.

    Parameters
    ----------
    packages : sequence of Locked
    """
    return hashlib.sha256(f"{this_python()}\n{lock_text(packages)}".encode()).hexdigest()
