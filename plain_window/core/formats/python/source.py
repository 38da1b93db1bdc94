"""A Python file, read and not run: its text, its tree, and which of its functions answers."""

import ast
import io
import re
import sys
import tokenize
import warnings
from collections.abc import Sequence
from dataclasses import dataclass

from ...errors import ModelNotOpened
from ...guest.failing import excerpt

__all__ = ["MOST_SOURCE_BYTES", "PythonFunction", "SourceFile", "listed", "no_function", "read_source"]

# A larger file is no function that somebody wrote.
MOST_SOURCE_BYTES = 4 << 20
NAMED_FUNCTIONS = 6

# What a notebook's cell may have and Python has not.
NOTEBOOKS_OWN = re.compile(r"\s*(?:%{1,2}[A-Za-z]|!\s*\S|\?\w).*")

PythonFunction = ast.FunctionDef | ast.AsyncFunctionDef


@dataclass(frozen=True)
class SourceFile:
    """A file's text and tree."""

    text: str
    tree: ast.Module

    @property
    def functions(self) -> dict[str, PythonFunction]:
        """The functions at its top, by name; of two of a name the last, as when it is run."""
        found = (part for part in self.tree.body if isinstance(part, PythonFunction))
        return {part.name: part for part in found}

    @property
    def public_functions(self) -> list[PythonFunction]:
        """Those that are meant to be called from elsewhere: what `__all__` lists, else all without an underscore."""
        listed = _listed_names(self.tree)
        return [
            part
            for name, part in self.functions.items()
            if (name in listed if listed is not None else not name.startswith("_"))
        ]


def read_source(content: bytes) -> SourceFile:
    """Read a Python file in the encoding that it states.

    Parameters
    ----------
    content : bytes

    Raises
    ------
    ModelNotOpened
        If it is too large or no Python, with the line.
    """
    if len(content) > MOST_SOURCE_BYTES:
        raise ModelNotOpened(
            f"The Python file is larger than {MOST_SOURCE_BYTES >> 20} MB. Put data into files beside it."
        )
    try:
        encoding = tokenize.detect_encoding(io.BytesIO(content).readline)[0]
        text = io.TextIOWrapper(io.BytesIO(content), encoding=encoding, newline=None).read()
    except (SyntaxError, UnicodeDecodeError, LookupError) as error:
        raise ModelNotOpened(
            f"The Python file is no text in the encoding it states: {error}. Save it as UTF-8."
        ) from None
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            return SourceFile(text, ast.parse(text))
    except SyntaxError as error:
        line = error.lineno or 1
        if found := NOTEBOOKS_OWN.match("".join(text.splitlines()[line - 1 : line])):
            what = f"Line {line} of the Python file, `{found[0].strip()[:60]}`, is a notebook's command."
            raise ModelNotOpened(f"{what} Leave such out.", traceback=excerpt(text, line)) from None
        version = f"{sys.version_info.major}.{sys.version_info.minor}"
        reason = f"line {line}: {str(error.msg).rstrip('.')}. Python {version} reads it here."
        raise ModelNotOpened(f"The Python file cannot be read: {reason}", traceback=excerpt(text, line)) from None
    except (ValueError, RecursionError, MemoryError) as error:
        raise ModelNotOpened(f"The Python file cannot be read: {type(error).__name__}: {str(error)[:200]}.") from None


def _listed_names(tree: ast.Module) -> list[str] | None:
    for part in tree.body:
        if isinstance(part, ast.Assign) and any(
            isinstance(one, ast.Name) and one.id == "__all__" for one in part.targets
        ):
            try:
                return [str(name) for name in ast.literal_eval(part.value)]
            except (ValueError, TypeError):
                return None
    return None


def no_function(source: SourceFile) -> str:
    """That a file has no public function, and what it has that comes near one.

    Parameters
    ----------
    source : SourceFile
    """
    nothing = "The Python file has no public function"
    for part in source.tree.body:
        if isinstance(part, ast.Assign) and isinstance(part.value, ast.Lambda):
            return f"{nothing}: `{ast.unparse(part.targets[0])[:60]}` is a lambda, which has no hints."
        if isinstance(part, ast.ClassDef):
            methods = [one.name for one in part.body if isinstance(one, PythonFunction)]
            named = next((name for name in ("predict", "__call__", *methods) if name in methods), None)
            if named is not None:
                return f"{nothing}, only a class, `{part.name}`, with `{named}`."
    private = next((name for name in source.functions if name.startswith("_")), None)
    return f"{nothing}: the name of `{private}` begins with an underscore." if private else f"{nothing}."


def listed(functions: Sequence[PythonFunction]) -> str:
    """Functions by name, for a sentence.

    Parameters
    ----------
    functions : sequence of function definitions
    """
    names = [f"`{one.name}`" for one in functions]
    if len(names) > NAMED_FUNCTIONS:
        return f"{', '.join(names[:NAMED_FUNCTIONS])} and {len(names) - NAMED_FUNCTIONS} more"
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
