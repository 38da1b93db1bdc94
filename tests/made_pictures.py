"""Models that answer a picture with a picture, made by hand: every pixel's answer is known beforehand."""

from typing import Any

import numpy as np
import onnx
from onnx import TensorProto, helper, numpy_helper

__all__ = ["darker", "land_and_water"]


def _model(nodes: list[Any], constants: dict[str, np.ndarray], input_: Any, output: Any, **properties: str) -> bytes:
    graph = helper.make_graph(
        nodes, "made", [input_], [output], [numpy_helper.from_array(value, name) for name, value in constants.items()]
    )
    model = helper.make_model(graph, opset_imports=[helper.make_opsetid("", 17)], ir_version=8)
    helper.set_model_props(model, properties)
    onnx.checker.check_model(model)
    return model.SerializeToString()


def darker(
    *, size: tuple[Any, Any] = ("h", "w"), last: bool = False, scale: float = 1.0, halves: int = 0, name: str = "out"
) -> bytes:
    """Half as light, with red and blue changed for each other. `scale` is what white is, in and out.

    With `halves` it takes only sides that can be halved so often.
    """
    nodes, source = [], "picture"
    if last:
        nodes.append(helper.make_node("Transpose", ["picture"], ["first"], perm=[0, 3, 1, 2]))
        source = "first"
    for at in range(halves):
        # Smaller and larger again, and back at what it was: only that sides must fit is left of it.
        nodes += [
            helper.make_node("MaxPool", [source], [f"small{at}"], kernel_shape=[2, 2], strides=[2, 2]),
            helper.make_node("Resize", [f"small{at}", "", "twice"], [f"large{at}"]),
            helper.make_node("Sub", [f"large{at}", f"large{at}"], [f"none{at}"]),
            helper.make_node("Add", [source, f"none{at}"], [f"same{at}"]),
        ]
        source = f"same{at}"
    nodes += [
        helper.make_node("Conv", [source, "mix"], ["mixed"]),
        helper.make_node("Transpose", ["mixed"], [name], perm=[0, 2, 3, 1])
        if last
        else helper.make_node("Identity", ["mixed"], [name]),
    ]
    mix = 0.5 * np.eye(3, dtype="float32")[::-1].reshape(3, 3, 1, 1)
    constants = {"mix": np.ascontiguousarray(mix), "twice": np.array([1, 1, 2, 2], dtype="float32")}
    shape = [1, *size, 3] if last else [1, 3, *size]
    metadata = {255.0: "NominalRange_0_255", 1.0: "Normalized_0_1"}
    return _model(
        nodes,
        constants,
        helper.make_tensor_value_info("picture", TensorProto.FLOAT, shape),
        helper.make_tensor_value_info(name, TensorProto.FLOAT, shape),
        **{"Image.NominalPixelRange": metadata[scale]},
    )


def land_and_water(form: str, *, size: tuple[Any, Any] = ("h", "w"), names: str = "background,land,water") -> bytes:
    """Three classes: nothing where it is white, land where it is red, water where it is blue.

    `form` is `scores first`, `scores last`, `numbers` or `one` (a share of water, and no more).
    """
    # Scores of nothing, land and water from red, green and blue.
    weights = np.array([[0, 1, 0], [1, -1, -0.5], [-0.5, -1, 1]], dtype="float32").reshape(3, 3, 1, 1)
    nodes = [helper.make_node("Conv", ["picture", "weights"], ["scores"])]
    out, type_, shape = "out", TensorProto.FLOAT, [1, 3, *size]
    if form == "scores first":
        nodes.append(helper.make_node("Softmax", ["scores"], ["out"], axis=1))
    elif form == "scores last":
        nodes.append(helper.make_node("Transpose", ["scores"], ["out"], perm=[0, 2, 3, 1]))
        shape, out = [1, *size, 3], "class_map"
        nodes[-1].output[0] = out
    elif form == "numbers":
        nodes.append(helper.make_node("ArgMax", ["scores"], ["out"], axis=1, keepdims=0))
        type_, shape = TensorProto.INT64, [1, *size]
    else:
        nodes = [
            helper.make_node("Conv", ["picture", "water"], ["raw"]),
            helper.make_node("Clip", ["raw", "low", "high"], ["out"]),
        ]
        shape = [1, 1, *size]
    constants = {"weights": weights} if form != "one" else {
        "water": np.array([-0.5, -0.5, 1], dtype="float32").reshape(1, 3, 1, 1),
        "low": np.array(0, dtype="float32"),
        "high": np.array(1, dtype="float32"),
    }  # fmt: skip
    properties = {"Image.NominalPixelRange": "Normalized_0_1"} | ({"classes": names} if names else {})
    return _model(
        nodes,
        constants,
        helper.make_tensor_value_info("picture", TensorProto.FLOAT, [1, 3, *size]),
        helper.make_tensor_value_info(out, type_, shape),
        **properties,
    )
