"""From a model file, and perhaps a preprocessor in a second one, to an adapter."""

from typing import BinaryIO

from ..errors import ModelNotOpened
from .adapter import ModelAdapter
from .picture_input import PictureModel
from .sniffing import sniff_model

__all__ = ["open_model"]

# What a scikit-learn object may come in.
OBJECT_FORMATS = ("pickle", "skops")


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
    if hasattr(model, "pictures"):
        raise ModelNotOpened("A model that looks at pictures takes no preprocessor file. Put it into the ONNX file.")
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


def _open_native(file: BinaryIO, kind: str) -> ModelAdapter | PictureModel:
    # Each library is loaded only for a model that needs it.
    if kind in ("xgboost-json", "xgboost-ubj"):
        from .xgboost import XgboostModel

        return XgboostModel(file.read(), kind)
    if kind == "lightgbm":
        from .lightgbm import LightgbmModel

        return LightgbmModel(file.read())
    if kind == "onnx":
        from .onnx import OnnxModel, wants_pictures

        content = file.read()
        if wants_pictures(content):
            from .onnx_pictures import OnnxPictureModel

            return OnnxPictureModel(content)
        return OnnxModel(content)
    from .pmml import PmmlModel

    return PmmlModel(file.read())
