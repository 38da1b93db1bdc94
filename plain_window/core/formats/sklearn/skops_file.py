"""Models saved with skops, which names every type it needs before it makes one."""

from typing import BinaryIO

import skops.io

from ...errors import ModelNotOpened
from .pickled import Unpickled, open_with

__all__ = ["open_skops"]

# Packages whose types a fitted model is made of. Anything else could be code of anybody's.
TRUSTED = ("builtins", "collections", "functools", "lightgbm", "numpy", "pandas", "scipy", "sklearn", "xgboost")
# A package is not trusted with what runs other code.
NEVER = (
    "builtins.eval",
    "builtins.exec",
    "builtins.compile",
    "builtins.open",
    "builtins.getattr",
    "builtins.__import__",
)


def open_skops(file: BinaryIO) -> Unpickled:
    """Open a model saved with `skops.io.dump`.

    Parameters
    ----------
    file : binary file
        Seekable.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence; for a type from elsewhere, with its name.
    """
    content = file.read()

    def load() -> object:
        needed = skops.io.get_untrusted_types(data=content)
        strange = [name for name in needed if name in NEVER or name.split(".")[0] not in TRUSTED]
        if strange:
            names = ", ".join(f"`{name}`" for name in strange[:5])
            raise ModelNotOpened(
                f"The model needs {names}, which no package that is trusted here provides. Save a model made of "
                "scikit-learn's own steps."
            )
        return skops.io.loads(content, trusted=needed)

    return open_with(load)
