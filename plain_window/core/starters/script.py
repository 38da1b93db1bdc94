"""The training script that is handed out with a model: `by_hand` with one recipe in it, and what it needs installed."""

import pprint
from importlib.metadata import version
from pathlib import Path

from . import by_hand
from .shapes import Recipe

__all__ = ["requirements_for", "script_of", "with_hash"]

_RECIPE_LINE = "RECIPE: dict[str, Any] = {}\n"
_HASH_LINE = 'MODEL_SHA256 = ""\n'
_PACKAGES = ("joblib", "numpy", "pandas", "pyarrow", "scikit-learn", "scipy", "threadpoolctl")
LINE = 116


def script_of(recipe: Recipe) -> str:
    """The script that follows this recipe.

    Parameters
    ----------
    recipe : dict
        With `candidate` and `settings`.
    """
    source = Path(by_hand.__file__).read_text()
    assert _RECIPE_LINE in source, "the script has its place for a recipe"
    written = pprint.pformat(recipe, width=LINE, sort_dicts=False)
    return source.replace(_RECIPE_LINE, f"RECIPE: dict[str, Any] = {written}\n")


def with_hash(script: str, sha256: str) -> str:
    """The script, with which it can tell whether it made the same model.

    Parameters
    ----------
    script : str
    sha256 : str
        Of the model's file, in hexadecimal.
    """
    return script.replace(_HASH_LINE, f'MODEL_SHA256 = "{sha256}"\n')


def requirements_for(recipe: Recipe) -> str:
    """What the script needs, pinned to the versions that made the model.

    Parameters
    ----------
    recipe : dict
    """
    packages = [*_PACKAGES, *(["openpyxl"] if recipe["table"]["kind"] == "xlsx" else [])]
    return "".join(f"{name}=={version(name)}\n" for name in sorted(packages))
