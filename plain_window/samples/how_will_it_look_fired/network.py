"""A network that makes a picture of a picture, pixel by pixel from its surroundings. In NumPy: trained here, saved as
ONNX.

A few layers of 3 × 3 weights, each but the last followed by the larger of zero and what comes out; so it takes pictures
of any size.
"""

from pathlib import Path
from typing import Any

import numpy as np
import onnx
from onnx import TensorProto, helper, numpy_helper

from ..network import IR_VERSION, OPSET, SIZE, first_weights, gathered, surroundings

__all__ = ["PictureNetwork", "save_onnx"]


class PictureNetwork:
    """Weights, and what comes out for pictures.

    Parameters
    ----------
    channels : tuple of int
        Of the pictures, of each layer, and of the pictures that come out.
    seed : int
    """

    def __init__(self, channels: tuple[int, ...], *, seed: int) -> None:
        rng = np.random.default_rng(seed)
        self.weights = first_weights(channels, rng)
        self.weights[-2] *= 0.2
        self.n_layers = len(channels) - 1

    def slopes(self, pictures: np.ndarray, wanted: np.ndarray) -> tuple[float, list[np.ndarray]]:
        """The mean square of what it is off by, and how that changes with each of the weights.

        Parameters
        ----------
        pictures, wanted : ndarray of float32, shape (n, channels, height, width)
            From −0.5 to 0.5.
        """
        block, trail = pictures, []
        n, _, height, width = pictures.shape
        for layer in range(self.n_layers):
            columns = surroundings(block)
            out = columns @ self.weights[2 * layer].T + self.weights[2 * layer + 1]
            if layer < self.n_layers - 1:
                out = np.maximum(out, 0)
            trail.append((columns, out, block.shape))
            block = np.ascontiguousarray(out.reshape(n, height, width, -1).transpose(0, 3, 1, 2))
        off = trail[-1][1] - wanted.transpose(0, 2, 3, 1).reshape(-1, wanted.shape[1])
        slope = (2 / off.size) * off
        slopes: list[np.ndarray] = []
        for layer in reversed(range(self.n_layers)):
            columns, out, shape = trail[layer]
            if layer < self.n_layers - 1:
                slope = slope * (out > 0)
            slopes = [slope.T @ columns, slope.sum(axis=0), *slopes]
            if layer:
                slope = gathered(slope @ self.weights[2 * layer], shape).transpose(0, 2, 3, 1).reshape(-1, shape[1])
        return float((off * off).mean()), [part.astype("float32") for part in slopes]


def save_onnx(network: PictureNetwork, path: Path, *, name: str) -> None:
    """Write the network as ONNX: pictures of any size in and out, pixels from 0 to 1.

    Parameters
    ----------
    network : PictureNetwork
    path : Path
    name : str
        Of what comes out.
    """
    constants: dict[str, Any] = {"half": np.array(0.5), "none": np.array(0.0), "all": np.array(1.0)}
    nodes = [helper.make_node("Sub", ["picture", "half"], ["block0"])]
    for layer in range(network.n_layers):
        weights, offset = network.weights[2 * layer : 2 * layer + 2]
        constants[f"weights{layer}"] = weights.reshape(len(weights), -1, SIZE, SIZE)
        constants[f"offset{layer}"] = offset
        is_last = layer == network.n_layers - 1
        nodes.append(
            helper.make_node(
                "Conv", [f"block{layer}", f"weights{layer}", f"offset{layer}"], [f"conv{layer}"], pads=[1, 1, 1, 1]
            )
        )
        if not is_last:
            nodes.append(helper.make_node("Relu", [f"conv{layer}"], [f"block{layer + 1}"]))
    nodes += [
        helper.make_node("Add", [f"conv{network.n_layers - 1}", "half"], ["raised"]),
        helper.make_node("Clip", ["raised", "none", "all"], [name]),
    ]
    shape: list[str | int | None] = ["n", 3, "height", "width"]
    graph = helper.make_graph(
        nodes,
        "picture",
        [helper.make_tensor_value_info("picture", TensorProto.FLOAT, shape)],
        [helper.make_tensor_value_info(name, TensorProto.FLOAT, shape)],
        [numpy_helper.from_array(value.astype("float32"), label) for label, value in constants.items()],
    )
    model = helper.make_model(graph, opset_imports=[helper.make_opsetid("", OPSET)], ir_version=IR_VERSION)
    helper.set_model_props(model, {"Image.NominalPixelRange": "Normalized_0_1"})
    onnx.checker.check_model(model)
    path.write_bytes(model.SerializeToString())
