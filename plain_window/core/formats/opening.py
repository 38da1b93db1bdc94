"""From a model file, and perhaps a preprocessor in a second one, to an adapter."""

from typing import TYPE_CHECKING, BinaryIO

from ..errors import ModelNotOpened
from .adapter import ModelAdapter, NativeModel
from .format import Beside
from .picture_input import PictureModel
from .recognition import recognised

if TYPE_CHECKING:
    from .sklearn.pickled import Unpickled

__all__ = ["open_model"]


def open_model(
    file: BinaryIO, preprocessor: BinaryIO | None = None, beside: Beside | None = None
) -> ModelAdapter | PictureModel:
    """Open a model file with the adapter for its kind.

    Parameters
    ----------
    file : binary file
        Seekable.
    preprocessor : binary file, optional
        A fitted transformer that the model's inputs go through first.
    beside : Beside, optional
        What a file of code comes with.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    MismatchFaults
        If it is not clear which of a file's functions answers, or what lies beside it cannot be unpacked.
    """
    found, kind = recognised(file)
    if found.open_code is not None:
        if preprocessor is not None:
            raise ModelNotOpened(
                "A function takes no preprocessor file. Put it into the zip beside the function, and call it there."
            )
        return found.open_code(file, beside or Beside())
    if beside is not None and beside.line is not None and found.open_object is not None:
        from .own_libraries import EstimatorElsewhere

        return EstimatorElsewhere(beside.line, format=kind)
    if beside is not None and (beside.archive is not None or beside.function is not None):
        raise ModelNotOpened(f"Only a Python file has functions and files beside it; this is one of {found.library}.")
    if preprocessor is None:
        return found.open_model(file, kind)
    if found.open_object is not None:
        from .preprocessed import in_front
        from .sklearn.adapter import SklearnModel

        opened = found.open_object(file, kind)
        return SklearnModel(in_front(_open_transformer(preprocessor), opened), format=kind)
    model = found.open_model(file, kind)
    if not isinstance(model, NativeModel):
        raise ModelNotOpened("A model that looks at pictures takes no preprocessor file. Put it into the ONNX file.")
    from .preprocessed import PreprocessedModel

    return PreprocessedModel(_open_transformer(preprocessor), model)


def _open_transformer(file: BinaryIO) -> "Unpickled":
    try:
        found, kind = recognised(file)
        if found.open_object is None:
            raise ModelNotOpened("It must be a fitted scikit-learn transformer, saved with joblib, pickle or skops.")
        return found.open_object(file, kind)
    except ModelNotOpened as error:
        raise ModelNotOpened(f"The preprocessor could not be opened. {error}") from error
