"""A network of Keras, whichever of its backends is among the requirements."""

import importlib
import io
import os
import shutil
import tempfile
import warnings
from collections.abc import Sequence
from importlib.util import find_spec
from pathlib import Path
from types import FunctionType, ModuleType
from typing import Any

import numpy as np

from ..errors import ModelNotOpened
from .network import NetworkInput

__all__ = ["KerasNetwork"]

BACKENDS = ("torch", "tensorflow", "jax")
BATCH, FREE = 2, 224
MOST_LAYERS = 12


class KerasNetwork:
    """A network of Keras.

    Parameters
    ----------
    kind : str
        `keras` or `keras-h5`.
    path : str
        Of the file.
    code : sequence of module
        With its own classes and functions.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    """

    library = "Keras"

    def __init__(self, kind: str, path: str, code: Sequence[ModuleType]) -> None:
        backend = next((one for one in BACKENDS if find_spec(one) is not None), None)
        if backend is None:
            raise ModelNotOpened(
                "Keras needs one of its backends: add `torch` or `tensorflow` to the requirements.",
                requirements=["torch"],
            )
        os.environ["KERAS_BACKEND"], os.environ["KERAS_HOME"] = backend, tempfile.mkdtemp(prefix="keras-")
        keras = importlib.import_module("keras")
        self._backend, self.version = backend, str(keras.__version__)
        self.notes: list[str] = []
        # It tells by the name what the file is.
        link = Path(tempfile.mkdtemp(prefix="model-")) / ("model.keras" if kind == "keras" else "model.h5")
        if kind == "keras":
            link.symlink_to(path)
        else:
            # HDF5 wants a path that leads somewhere.
            shutil.copyfile(path, link)
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            own = {name: value for module in code for name, value in vars(module).items() if _is_custom(value)}
            load = keras.saving.load_model if hasattr(keras, "saving") else keras.models.load_model
            self._model = load(str(link), custom_objects=own or None, compile=False, safe_mode=False)
        self.inputs = [
            NetworkInput(str(one.name).split(":")[0].replace("/", "_"), list(one.shape), _dtype(one))
            for one in self._model.inputs
        ]
        every = [type(layer).__name__ for layer in self._model.layers if type(layer).__name__ != "InputLayer"]
        self.layers = list(dict.fromkeys(every))[:MOST_LAYERS]
        self.stated = _stated(self._model)

    def run(self, arrays: Sequence[np.ndarray]) -> list[np.ndarray]:
        """As `Network.run`."""
        given = [np.array(array) for array in arrays]
        found = self._model(given[0] if len(given) == 1 else given, training=False)
        parts = (
            list(found.values()) if isinstance(found, dict) else found if isinstance(found, list | tuple) else [found]
        )
        return [_array(part) for part in parts]

    def onnx(self) -> bytes:
        """As `Network.onnx`.

        Raises
        ------
        ModelNotOpened
            If its backend has no way.
        """
        if self._backend == "torch":
            return self._traced()
        path = Path(tempfile.mkdtemp(prefix="onnx-")) / "model.onnx"
        self._model.export(str(path), format="onnx", verbose=False)
        return path.read_bytes()

    def _traced(self) -> bytes:
        import torch

        made = io.BytesIO()
        examples = tuple(torch.from_numpy(one.example(BATCH, FREE)) for one in self.inputs)
        names = [one.name for one in self.inputs]
        axes = {one.name: {at: f"size{at}" for at, size in enumerate(one.shape) if size is None} for one in self.inputs}
        with torch.no_grad(), warnings.catch_warnings():
            warnings.simplefilter("ignore")
            torch.onnx.export(
                self._model.eval(),
                examples if len(examples) == 1 else (list(examples),),
                made,
                dynamo=False,
                input_names=names,
                output_names=[f"output{at + 1}" for at in range(len(self._model.outputs))],
                dynamic_axes={**axes, **{f"output{at + 1}": {0: "batch"} for at in range(len(self._model.outputs))}},
            )
        return made.getvalue()


def _is_custom(value: Any) -> bool:
    return isinstance(value, type | FunctionType)


def _dtype(one: Any) -> str:
    name = getattr(one.dtype, "name", None) or str(one.dtype)
    return name.split(".")[-1]


def _array(part: Any) -> np.ndarray:
    for method in ("detach", "cpu", "numpy"):
        part = getattr(part, method)() if hasattr(part, method) else part
    return np.asarray(part)


def _stated(model: Any) -> dict[str, str]:
    """What its first layer does to the pixels says which it takes."""
    for layer in model.layers[:3]:
        if type(layer).__name__ == "Rescaling":
            # One over 255, one over 127.5, or either parted by the spread of each channel.
            return {"Image.NominalPixelRange": "NominalRange_0_255"} if (np.ravel(layer.scale) < 0.05).all() else {}
    return {}
