"""From a model file, and perhaps a preprocessor in a second one, to an adapter."""

from typing import TYPE_CHECKING, BinaryIO

from ..errors import ModelNotOpened
from .adapter import ModelAdapter, NativeModel
from .format import Format, Head
from .other_files import refuse_other_files
from .picture_input import PictureModel
from .registry import FORMATS

if TYPE_CHECKING:
    from .sklearn.pickled import Unpickled

__all__ = ["open_model"]

HEAD_BYTES = 4096


def open_model(file: BinaryIO, preprocessor: BinaryIO | None = None) -> ModelAdapter | PictureModel:
    """Open a model file with the adapter for its kind.

    Parameters
    ----------
    file : binary file
        Seekable.
    preprocessor : binary file, optional
        A fitted transformer that the model's inputs go through first.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    """
    found, kind = _recognised(file)
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


def _recognised(file: BinaryIO) -> tuple[Format, str]:
    """Whose file it is, and of what kind; the file is left at its start."""
    content = file.read(HEAD_BYTES)
    file.seek(0)
    if not content:
        raise ModelNotOpened("The model file is empty. Save the model once more and upload that file.")
    refuse_other_files(file)
    head = Head(content)
    for each in FORMATS:
        if (kind := each.recognise(head)) is not None:
            return each, kind
    raise AssertionError("the last format takes whatever is left")


def _open_transformer(file: BinaryIO) -> "Unpickled":
    try:
        found, kind = _recognised(file)
        if found.open_object is None:
            raise ModelNotOpened("It must be a fitted scikit-learn transformer, saved with joblib, pickle or skops.")
        return found.open_object(file, kind)
    except ModelNotOpened as error:
        raise ModelNotOpened(f"The preprocessor could not be opened. {error}") from error
