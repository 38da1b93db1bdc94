"""An ONNX file opened: what it says of itself, and the session that runs it."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np
import onnx
import onnxruntime

from ...errors import ModelNotOpened

__all__ = ["NUMBERS", "OpenedGraph", "Session", "open_graph", "open_session", "read_document", "wants_pictures"]

# Of a picture without an axis for several.
SMALLEST_SIDE = 8
NUMBERS = {
    "tensor(float)": "float32",
    "tensor(double)": "float64",
    "tensor(float16)": "float16",
    "tensor(int64)": "int64",
    "tensor(int32)": "int32",
    "tensor(bool)": "bool",
}


class Session(Protocol):
    """What is asked: onnxruntime's own, or one that stands for a network elsewhere."""

    def get_inputs(self) -> Sequence[Any]:
        """The inputs, each with `name`, `shape` and `type`."""

    def get_outputs(self) -> Sequence[Any]:
        """The outputs likewise."""

    def run(self, names: Sequence[str] | None, inputs: Mapping[str, np.ndarray]) -> list[Any]:
        """The outputs' values.

        Parameters
        ----------
        names : sequence of str or None
            All outputs if None.
        inputs : mapping of str to ndarray
        """


@dataclass(frozen=True)
class OpenedGraph:
    """A graph, and the session that asks it."""

    document: onnx.ModelProto
    session: Session


def open_graph(content: bytes) -> OpenedGraph:
    """Open a file.

    Parameters
    ----------
    content : bytes
        The whole file.

    Raises
    ------
    ModelNotOpened
        If it is damaged, or onnxruntime refuses it.
    """
    return OpenedGraph(read_document(content), open_session(content))


def wants_pictures(document: onnx.ModelProto) -> bool:
    """Whether one of the model's inputs has the axes of a picture.

    Parameters
    ----------
    document : ModelProto
    """
    own = {tensor.name for tensor in document.graph.initializer}
    inputs = [item for item in document.graph.input if item.name not in own]
    return any(_has_a_pictures_axes(item.type.tensor_type) for item in inputs)


def _has_a_pictures_axes(tensor: onnx.TypeProto.Tensor) -> bool:
    """Four axes, or three of which two are long enough for a picture and the third says one or three channels."""
    sizes = [axis.dim_value for axis in tensor.shape.dim]
    if len(sizes) != 3:
        return len(sizes) == 4
    return (sizes[0] in (0, 1, 3) and min(sizes[1:]) >= SMALLEST_SIDE) or (
        sizes[2] in (1, 3) and min(sizes[:2]) >= SMALLEST_SIDE
    )


def read_document(content: bytes) -> onnx.ModelProto:
    """The graph in a file.

    Parameters
    ----------
    content : bytes
        The whole file.

    Raises
    ------
    ModelNotOpened
        If it is damaged, empty, or keeps its weights elsewhere.
    """
    try:
        document = onnx.ModelProto.FromString(content)
    except Exception as error:  # the parser's error depends on its build
        raise ModelNotOpened(
            "The model file is damaged, or is neither ONNX nor another format that is known here. Export it once more."
        ) from error
    if not document.graph.node:
        raise ModelNotOpened("The model file holds no ONNX model: its graph has no steps. Export it once more.")
    if any(tensor.data_location == onnx.TensorProto.EXTERNAL for tensor in document.graph.initializer):
        raise ModelNotOpened("The ONNX model keeps its weights in a file of their own. Save it as one file.")
    return document


def open_session(content: bytes) -> onnxruntime.InferenceSession:
    """A session that asks the graph in a file.

    Parameters
    ----------
    content : bytes
        The whole file.

    Raises
    ------
    ModelNotOpened
        If onnxruntime refuses it.
    """
    options = onnxruntime.SessionOptions()
    options.intra_op_num_threads = options.inter_op_num_threads = 1
    options.log_severity_level = 4
    try:
        return onnxruntime.InferenceSession(content, options, providers=["CPUExecutionProvider"])
    except Exception as error:  # onnxruntime's own errors have no common parent but this one
        text = str(error)
        unknown = re.search(
            r"(?:No Op registered for|No opset import|Unrecognized|unregistered).*?(\w+)(?: with| op|$)", text
        )
        fatal = re.search(r"([A-Za-z][\w.:]*)\(?-?\d*\)? is not a registered function/op", text)
        operator = fatal or unknown
        if operator:
            raise ModelNotOpened(
                f"The ONNX model uses the operator `{operator.group(1)}`, which onnxruntime does not have. "
                "Export it with standard operators."
            ) from error
        reason = text.split("\n")[0][:200]
        raise ModelNotOpened(f"onnxruntime could not load the model: {reason}") from error
