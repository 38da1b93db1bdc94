"""From a model file, and perhaps a preprocessor in a second one, to an adapter."""

from typing import BinaryIO

from ..errors import ModelNotOpened
from .adapter import ModelAdapter
from .sniffing import sniff_model

__all__ = ["open_model"]

# What a scikit-learn object may come in.
OBJECT_FORMATS = ("pickle", "skops")


def open_model(file: BinaryIO, preprocessor: BinaryIO | None = None) -> ModelAdapter:
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
    kind = sniff_model(file)
    if kind in OBJECT_FORMATS:
        from .sklearn import SklearnModel

        opened = _open_object(file, kind)
        if preprocessor is None:
            return SklearnModel(opened, format=kind)
        from .preprocessed import in_front

        return SklearnModel(in_front(_open_transformer(preprocessor), opened), format=kind)
    model = _open_native(file, kind)
    if preprocessor is None:
        return model
    from .preprocessed import PreprocessedModel

    return PreprocessedModel(_open_transformer(preprocessor), model)


def _open_object(file: BinaryIO, kind: str):
    if kind == "skops":
        from .skops_file import open_skops

        return open_skops(file)
    from .pickled import open_pickled

    return open_pickled(file)


def _open_transformer(file: BinaryIO):
    try:
        kind = sniff_model(file)
        if kind not in OBJECT_FORMATS:
            raise ModelNotOpened("It must be a fitted scikit-learn transformer, saved with joblib, pickle or skops.")
        return _open_object(file, kind)
    except ModelNotOpened as error:
        raise ModelNotOpened(f"The preprocessor could not be opened. {error}") from error


def _open_native(file: BinaryIO, kind: str) -> ModelAdapter:
    # Each library is loaded only for a model that needs it.
    if kind in ("xgboost-json", "xgboost-ubj"):
        from .xgboost import XgboostModel

        return XgboostModel(file.read(), kind)
    if kind == "lightgbm":
        from .lightgbm import LightgbmModel

        return LightgbmModel(file.read())
    if kind == "onnx":
        from .onnx import OnnxModel

        return OnnxModel(file.read())
    from .pmml import PmmlModel

    return PmmlModel(file.read())
