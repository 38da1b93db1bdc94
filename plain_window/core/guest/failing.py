"""What an author's code raises, as a sentence, and the lines of the file that it happened at."""

import errno
import traceback
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from ..environments.suggested import package_of
from ..errors import ModelFailed

__all__ = ["excerpt", "failure", "missing_packages", "own_libraries", "reason_of", "where_it_happened"]

WRITES = {errno.EROFS, errno.EACCES, errno.EPERM, errno.ENOSPC, errno.EFBIG}
NETWORK = {errno.ENETUNREACH, errno.ECONNREFUSED, errno.EADDRNOTAVAIL, errno.EAFNOSUPPORT, errno.EHOSTUNREACH}
REASON_CHARACTERS = 300
INSTALLED = "NumPy, pandas, SciPy, scikit-learn, XGBoost, LightGBM, onnxruntime, PyArrow and Pillow"
NO_NETWORK = "it wants to reach the network, and nothing in here does; bring what it would fetch in a file beside it"
TOO_MANY = "it starts more threads or processes than a model may have here"
MOST_GIVEN, VALUE_CHARACTERS = 60, 120
LINES_AROUND, LONGEST_LINE = 2, 160


class _OwnLibraries:
    """Whether this process has a demo's own libraries, rather than those of this program."""

    are_here = False


own_libraries = _OwnLibraries()


def missing_packages(error: BaseException) -> list[str]:
    """Packages that were looked for and are not here.

    Parameters
    ----------
    error : BaseException
    """
    missing = (one.name for one in _chain(error) if isinstance(one, ModuleNotFoundError) and one.name)
    return list(dict.fromkeys(package_of(name) for name in missing))


def failure(error: BaseException, folder: Path, what: str, given: Mapping[str, Any] | None = None) -> ModelFailed:
    """What is said of something that the author's code raised.

    Parameters
    ----------
    error : BaseException
    folder : Path
        Where the file lies; other people's lines are of less interest.
    what : str
        What was tried, as the beginning of a sentence.
    given : mapping, optional
        What it was called with.
    """
    line = _line_of(error, folder)
    at = f" (line {line})" if line is not None else ""
    where = "\n\n".join(part for part in (_calling(given or {}), where_it_happened(error, folder)) if part)
    return ModelFailed(f"{what}: {reason_of(error)}{at}.", traceback=where)


def _calling(given: Mapping[str, Any]) -> str:
    """What a function was called with, a line each; of arrays and pictures only their shape."""
    lines = []
    for name, value in list(given.items())[:MOST_GIVEN]:
        shape = getattr(value, "shape", None) or getattr(value, "size", None)
        words = f"{type(value).__name__} {shape}" if shape is not None else repr(value)
        lines.append(f"  {name} = {words[:VALUE_CHARACTERS]}")
    return "\n".join(["It was called with", *lines]) if lines else ""


def reason_of(error: BaseException) -> str:
    """Why, without the point at the end.

    Parameters
    ----------
    error : BaseException
    """
    for one in _chain(error):
        if (known := _known_reason(one)) is not None:
            return known
    words = str(error).strip().split("\n")[0][:REASON_CHARACTERS].rstrip(".")
    return f"{type(error).__name__}: {words}" if words else type(error).__name__


def _chain(error: BaseException) -> list[BaseException]:
    """The error and what it was raised from: libraries wrap what the machine said."""
    found: list[BaseException] = []
    one: BaseException | None = error
    while one is not None and one not in found:
        found.append(one)
        inner = getattr(one, "reason", None)
        one = one.__cause__ or (inner if isinstance(inner, BaseException) else None) or one.__context__
    return found


def _known_reason(error: BaseException) -> str | None:
    """Of what the walls do, and of what is not installed, in words; None for the author's own mistakes."""
    if isinstance(error, ModuleNotFoundError) and error.name:
        package = package_of(error.name)
        if own_libraries.are_here:
            return f"it imports `{error.name}`, which is not among its requirements; add `{package}`"
        return (
            f"it imports `{error.name}`, which is not installed here (what is: {INSTALLED}); a `requirements.txt` that "
            f"names `{package}` brings it"
        )
    if isinstance(error, SystemExit):
        return "it ended the program (`exit`) rather than to return an answer or raise an error"
    if isinstance(error, MemoryError):
        return "it wants more memory than a model may have here"
    if type(error).__name__ == "gaierror":
        return NO_NETWORK
    if isinstance(error, RuntimeError) and "start new thread" in str(error):
        return TOO_MANY
    if not isinstance(error, OSError):
        return None
    if error.errno == errno.ENOSYS:
        frames = traceback.extract_tb(error.__traceback__)
        is_socket = bool(frames) and "socket" in f"{frames[-1].filename} {frames[-1].line}"
        return (
            NO_NETWORK if is_socket else "it starts another process, or asks the system for what a model may not have"
        )
    if error.errno in NETWORK:
        return NO_NETWORK
    if isinstance(error, BlockingIOError):
        return TOO_MANY
    if error.errno in WRITES and error.filename is not None:
        return (
            f"it cannot write `{str(error.filename)[:80]}`; a function may write into `/tmp` only, 64 MB, and finds "
            "nothing of that again after a start"
        )
    if error.errno == errno.ENOENT and error.filename is not None:
        return f"there is no file `{str(error.filename)[:80]}` in here; bring it in a zip beside the function"
    return None


def _line_of(error: BaseException, folder: Path) -> int | None:
    """The last line of the author's own that was reached."""
    frames = [one for one in traceback.extract_tb(error.__traceback__) if Path(one.filename).is_relative_to(folder)]
    return frames[-1].lineno if frames else None


def where_it_happened(error: BaseException, folder: Path) -> str:
    """The author's line with those around it, then the author's lines on the way there and where it ended.

    Parameters
    ----------
    error : BaseException
    folder : Path
        Where the file lies.
    """
    frames = traceback.extract_tb(error.__traceback__)
    own = [one for one in frames if Path(one.filename).is_relative_to(folder)]
    if not own:
        return "".join(traceback.format_exception_only(error)).rstrip()
    last = own[-1]
    try:
        text = Path(last.filename).read_text("utf-8", errors="replace")
        shown = f"{Path(last.filename).relative_to(folder)}, line {last.lineno}:\n{excerpt(text, last.lineno or 1)}\n\n"
    except OSError:
        shown = ""
    # Of a library's lines the last one tells most.
    if frames[-1] is not last:
        end = frames[-1]
        shorter = "/".join(Path(end.filename).parts[-2:])
        own.append(traceback.FrameSummary(shorter, end.lineno, end.name, line=end.line))
    way = "".join(traceback.format_list(own)).replace(f"{folder}/", "")
    return f"{shown}{way}{''.join(traceback.format_exception_only(error))}".rstrip()


def excerpt(text: str, line: int) -> str:
    """A line of a file with those around it, numbered; an arrow stands before it.

    Parameters
    ----------
    text : str
        The whole file.
    line : int
        Counted from 1.

    Examples
    --------
    >>> print(excerpt("a = 1\\nb = a +\\nc = 2", 2))
      1  a = 1
    > 2  b = a +
      3  c = 2
    """
    lines = text.split("\n")
    first, last = max(1, line - LINES_AROUND), min(len(lines), line + LINES_AROUND)
    width = len(str(last))
    return "\n".join(
        f"{'>' if at == line else ' '} {at:>{width}}  {lines[at - 1].rstrip()[:LONGEST_LINE]}".rstrip()
        for at in range(first, last + 1)
    )
