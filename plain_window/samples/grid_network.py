"""A network that looks everywhere at once: for every cell of a grid whether a thing has its middle there, which, and
how large it is. In NumPy: trained here, saved as ONNX.

Layers of 3 × 3 weights and the larger of zero and what comes out, the first of them followed by the largest of every
2 × 2; then the same few weights for every cell.
"""

from pathlib import Path
from typing import Any

import numpy as np
import onnx
from onnx import TensorProto, helper, numpy_helper

from .network import IR_VERSION, OPSET, SIZE, first_weights, gathered, surroundings

__all__ = ["BOX_NUMBERS", "CELL", "USUAL_SIZE", "GridNetwork", "save_onnx"]

# Pixels of a cell: three layers halve the picture.
N_HALVING, CELL = 3, 8
# Two for where the middle lies in its cell, two for how large it is (a logarithm, of a usual size), one for whether
# there is anything; then one a class.
BOX_NUMBERS, THING = 4, 4
USUAL_SIZE = 20.0
# Most cells have nothing: those that do weigh more. Places and sizes weigh so much beside that.
THING_WEIGHT, BOX_WEIGHT = 6.0, 2.0


class GridNetwork:
    """Weights, and what comes out for pictures.

    Parameters
    ----------
    channels : tuple of int
        Of the pictures, then of each layer.
    n_classes : int
    seed : int
    """

    def __init__(self, channels: tuple[int, ...], n_classes: int, *, seed: int) -> None:
        rng = np.random.default_rng(seed)
        self.n_classes, self.n_layers = n_classes, len(channels) - 1
        self.weights = first_weights(channels, rng)
        n_numbers = BOX_NUMBERS + 1 + n_classes
        self.weights.append((rng.normal(size=(channels[-1], n_numbers)) * 0.03).astype("float32"))
        offset = np.zeros(n_numbers, dtype="float32")
        # At first there is nothing anywhere.
        offset[THING] = -3.0
        self.weights.append(offset)

    def numbers(self, pictures: np.ndarray) -> np.ndarray:
        """Of shape (n, height / 8, width / 8, n_numbers).

        Parameters
        ----------
        pictures : ndarray of float32, shape (n, channels, height, width)
        """
        return self._forward(pictures)[0]

    def slopes(self, pictures: np.ndarray, wanted: np.ndarray) -> tuple[float, list[np.ndarray]]:
        """How wrong it is, and how that changes with each of the weights.

        Parameters
        ----------
        pictures : ndarray of float32, shape (n, channels, height, width)
        wanted : ndarray of float32, shape (n, height / 8, width / 8, 6)
            Four numbers of the box, 1 where there is a thing, and its class.
        """
        numbers, trail = self._forward(pictures)
        is_there = wanted[..., THING]
        n_there = max(1.0, float(is_there.sum()))
        slope = np.zeros_like(numbers)
        thing = 1 / (1 + np.exp(-numbers[..., THING]))
        weight = np.where(is_there > 0, THING_WEIGHT, 1.0)
        loss = -(weight * (is_there * np.log(thing + 1e-9) + (1 - is_there) * np.log(1 - thing + 1e-9))).sum()
        slope[..., THING] = weight * (thing - is_there)
        classes = numbers[..., THING + 1 :]
        shares = np.exp(classes - classes.max(axis=-1, keepdims=True))
        shares /= shares.sum(axis=-1, keepdims=True)
        named = np.eye(self.n_classes, dtype="float32")[wanted[..., THING + 1].astype("int64")]
        loss -= (is_there * np.log((shares * named).sum(axis=-1) + 1e-9)).sum()
        slope[..., THING + 1 :] = (shares - named) * is_there[..., None]
        off = (numbers[..., :BOX_NUMBERS] - wanted[..., :BOX_NUMBERS]) * is_there[..., None]
        # Squares of small differences, and what larger ones are.
        loss += BOX_WEIGHT * np.where(np.abs(off) < 1, off * off / 2, np.abs(off) - 0.5).sum()
        slope[..., :BOX_NUMBERS] = BOX_WEIGHT * np.clip(off, -1, 1)
        return float(loss / n_there), self._backward((slope / n_there).astype("float32"), trail)

    def _forward(self, block: np.ndarray) -> tuple[np.ndarray, list[Any]]:
        trail: list[Any] = []
        for layer in range(self.n_layers):
            weights, offset = self.weights[2 * layer : 2 * layer + 2]
            columns = surroundings(block)
            n, _, height, width = block.shape
            out = np.maximum(columns @ weights.T + offset, 0).reshape(n, height, width, -1)
            tiles = pooled = out
            if layer < N_HALVING:
                tiles = out.reshape(n, height // 2, 2, width // 2, 2, -1)
                pooled = tiles.max(axis=(2, 4))
            trail.append((columns, tiles, pooled, block.shape))
            block = np.ascontiguousarray(pooled.transpose(0, 3, 1, 2))
        return pooled @ self.weights[-2] + self.weights[-1], trail

    def _backward(self, slope: np.ndarray, trail: list[Any]) -> list[np.ndarray]:
        last = trail[-1][2].reshape(-1, trail[-1][2].shape[-1])
        flat = slope.reshape(-1, slope.shape[-1])
        slopes = [last.T @ flat, flat.sum(axis=0)]
        of_block = slope @ self.weights[-2].T
        for layer in reversed(range(self.n_layers)):
            columns, tiles, pooled, shape = trail[layer]
            if layer < N_HALVING:
                is_largest = (tiles == pooled[:, :, None, :, None]) & (tiles > 0)
                of_out = (is_largest * of_block[:, :, None, :, None]).reshape(-1, tiles.shape[-1])
            else:
                of_out = ((pooled > 0) * of_block).reshape(-1, pooled.shape[-1])
            slopes = [of_out.T @ columns, of_out.sum(axis=0), *slopes]
            if layer:
                of_block = gathered(of_out @ self.weights[2 * layer], shape).transpose(0, 2, 3, 1)
        return [part.astype("float32") for part in slopes]


def save_onnx(network: GridNetwork, path: Path, *, size: tuple[int, int], classes: list[str], divisor: float) -> None:
    """Write the network as ONNX: pixels from 0 to 1 in; a row a cell out, with its box's middle and size in pixels, how
    likely there is anything, and how likely it is of each class.

    Parameters
    ----------
    network : GridNetwork
    path : Path
    size : (int, int)
        Width and height of the pictures.
    classes : list of str
    divisor : float
        What pixels from −0.5 to 0.5 are divided by.
    """
    width, height = size
    across, down = width // CELL, height // CELL
    rows, columns = np.divmod(np.arange(across * down), across)
    corners = (CELL * np.stack([columns, rows], axis=1))[None].astype("float32")
    n_numbers = BOX_NUMBERS + 1 + network.n_classes
    constants: dict[str, np.ndarray] = {
        "divisor": np.array(divisor),
        "half": np.array(0.5),
        "cell": np.array(float(CELL)),
        "usual": np.array(USUAL_SIZE),
        "corners": corners,
        "head": network.weights[-2].T[:, :, None, None],
        "head_offset": network.weights[-1],
    }
    nodes = [
        helper.make_node("Sub", ["picture", "half"], ["shifted"]),
        helper.make_node("Div", ["shifted", "divisor"], ["block0"]),
    ]
    for layer in range(network.n_layers):
        weights, offset = network.weights[2 * layer : 2 * layer + 2]
        constants[f"weights{layer}"] = weights.reshape(len(weights), -1, SIZE, SIZE)
        constants[f"offset{layer}"] = offset
        nodes += [
            helper.make_node(
                "Conv", [f"block{layer}", f"weights{layer}", f"offset{layer}"], [f"conv{layer}"], pads=[1, 1, 1, 1]
            ),
            helper.make_node("Relu", [f"conv{layer}"], [f"relu{layer}"]),
            helper.make_node("MaxPool", [f"relu{layer}"], [f"block{layer + 1}"], kernel_shape=[2, 2], strides=[2, 2])
            if layer < N_HALVING
            else helper.make_node("Identity", [f"relu{layer}"], [f"block{layer + 1}"]),
        ]
    whole = {"flat": np.array([0, n_numbers, -1]), "parts": np.array([2, 2, 1, network.n_classes])}
    nodes += [
        helper.make_node("Conv", [f"block{network.n_layers}", "head", "head_offset"], ["grid"]),
        helper.make_node("Reshape", ["grid", "flat"], ["upright"]),
        helper.make_node("Transpose", ["upright"], ["cells"], perm=[0, 2, 1]),
        helper.make_node("Split", ["cells", "parts"], ["within", "sizes", "thing", "named"], axis=2),
        helper.make_node("Mul", ["within", "cell"], ["offsets"]),
        helper.make_node("Add", ["offsets", "corners"], ["middles"]),
        helper.make_node("Exp", ["sizes"], ["times"]),
        helper.make_node("Mul", ["times", "usual"], ["spans"]),
        helper.make_node("Sigmoid", ["thing"], ["likely"]),
        helper.make_node("Softmax", ["named"], ["shares"], axis=2),
        helper.make_node("Concat", ["middles", "spans", "likely", "shares"], ["candidates"], axis=2),
    ]
    graph = helper.make_graph(
        nodes,
        "grid",
        [helper.make_tensor_value_info("picture", TensorProto.FLOAT, ["n", 3, height, width])],
        [helper.make_tensor_value_info("candidates", TensorProto.FLOAT, ["n", across * down, n_numbers])],
        [numpy_helper.from_array(value.astype("float32"), name) for name, value in constants.items()]
        + [numpy_helper.from_array(value.astype("int64"), name) for name, value in whole.items()],
    )
    model = helper.make_model(graph, opset_imports=[helper.make_opsetid("", OPSET)], ir_version=IR_VERSION)
    helper.set_model_props(model, {"classes": ",".join(classes), "Image.NominalPixelRange": "Normalized_0_1"})
    onnx.checker.check_model(model)
    path.write_bytes(model.SerializeToString())
