"""From a Python file to its model: one that takes values, or one that looks at pictures."""

from ..format import Beside
from .adapter import FunctionModel
from .pictures import FunctionPictureModel

__all__ = ["open_function"]


def open_function(content: bytes, beside: Beside) -> FunctionModel | FunctionPictureModel:
    """Open a Python file.

    Parameters
    ----------
    content : bytes
    beside : Beside
        What it comes with.

    Raises
    ------
    ModelNotOpened
        If it cannot be read or run.
    MismatchFaults
        If it is not clear which function answers, or what lies beside it cannot be unpacked.
    """
    model = FunctionModel(content, beside.archive, beside.function, has_table=beside.has_table, line=beside.line)
    return FunctionPictureModel(model) if model.signature.pictures else model
