"""Logs that stay readable: lines of a sensible length that say one thing each, files of a bounded size."""

import logging
import shutil
import sys
from pathlib import Path

__all__ = ["clipped_line", "log_to_stderr", "rotate"]

LINE_CHARACTERS = 2000
ROTATE_BYTES, KEPT = 10 << 20, 3


def clipped_line(text: str) -> str:
    """One line out of whatever it is: control characters written out, so that it can neither end the line nor pass for
    another one, and cut where it gets too long.

    Parameters
    ----------
    text : str
    """
    plain = "".join(letter if letter.isprintable() else letter.encode("unicode_escape").decode() for letter in text)
    return plain if len(plain) <= LINE_CHARACTERS else f"{plain[:LINE_CHARACTERS]}… ({len(plain)} characters)"


class _OneLine(logging.Formatter):
    """What is logged may come from a model or a visitor: one entry is one line, and a traceback is indented."""

    def format(self, record: logging.LogRecord) -> str:
        first, *rest = super().format(record).split("\n")
        return "\n".join([clipped_line(first), *(f"    {clipped_line(line)}" for line in rest[:60])])


def log_to_stderr() -> None:
    """Log like this from now on."""
    handler = logging.StreamHandler(sys.stderr)
    handler.setFormatter(_OneLine("%(asctime)s %(name)s %(message)s"))
    logging.basicConfig(level=logging.INFO, handlers=[handler], force=True)


def rotate(path: Path, *, most_bytes: int = ROTATE_BYTES, kept: int = KEPT) -> bool:
    """Put a log that has grown too large aside, and go on with an empty one.

    Whoever writes it has it open for appending and goes on writing: what was written is copied, then cut off.

    Parameters
    ----------
    path : Path
    most_bytes : int, optional
        From what size on.
    kept : int, optional
        How many old files stay.

    Returns
    -------
    bool
        Whether it was too large.
    """
    if not path.exists() or path.stat().st_size <= most_bytes:
        return False
    for number in range(kept - 1, 0, -1):
        older = path.with_name(f"{path.name}.{number}")
        if older.exists():
            older.replace(path.with_name(f"{path.name}.{number + 1}"))
    shutil.copyfile(path, path.with_name(f"{path.name}.1"))
    path.with_name(f"{path.name}.1").chmod(0o600)
    with open(path, "r+b") as file:
        file.truncate(0)
    return True
