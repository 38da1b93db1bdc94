"""A small convolutional network in NumPy: trained here, saved as ONNX. Used by the samples that look at pictures.

Layers of 3 × 3 weights, each followed by the larger of zero and it, and by the largest of every 2 × 2; then the mean
and the largest of every channel, weighed into scores. Trained by Adam [1]_ on the cross entropy.

References
----------
.. [1] D. P. Kingma, J. Ba, "Adam: A Method for Stochastic Optimization", ICLR 2015.
"""

import itertools
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import onnx
from numpy.lib.stride_tricks import sliding_window_view
from onnx import TensorProto, helper, numpy_helper

__all__ = [
    "IR_VERSION",
    "OPSET",
    "SIZE",
    "Descent",
    "Network",
    "first_weights",
    "gathered",
    "save_onnx",
    "surroundings",
    "train",
]

SIZE = 3
ADAM_MEAN, ADAM_SPREAD, ADAM_SMALL = 0.9, 0.999, 1e-8
OPSET, IR_VERSION = 17, 8


class Network:
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
        self.weights = first_weights(channels, rng)
        self.weights.append((rng.normal(size=(2 * channels[-1], n_classes)) * 0.05).astype("float32"))
        self.weights.append(np.zeros(n_classes, dtype="float32"))
        self.n_layers = len(channels) - 1

    def scores(self, pictures: np.ndarray, *, at_once: int = 64) -> np.ndarray:
        """Scores of shape (n_pictures, n_classes), for float32 pictures of shape (n_pictures, channels, side, side).

        Parameters
        ----------
        pictures : ndarray
            Shape (n, channels, side, side).
        at_once : int, optional
            How many pictures at a time.
        """
        parts = [self._forward(pictures[at : at + at_once])[0] for at in range(0, len(pictures), at_once)]
        return np.concatenate(parts)

    def slopes(self, pictures: np.ndarray, places: np.ndarray) -> tuple[float, list[np.ndarray]]:
        """The cross entropy, and how it changes with each of the weights.

        Parameters
        ----------
        pictures : ndarray
            Shape (n, channels, side, side).
        places : ndarray
            Index of each picture's class, shape (n,).
        """
        scores, trail = self._forward(pictures)
        exponents = np.exp(scores - scores.max(axis=1, keepdims=True))
        shares = exponents / exponents.sum(axis=1, keepdims=True)
        n = len(pictures)
        loss = float(-np.log(shares[np.arange(n), places] + 1e-12).mean())
        shares[np.arange(n), places] -= 1
        return loss, self._backward(shares / n, trail)

    def _forward(self, block: np.ndarray) -> tuple[np.ndarray, list[Any]]:
        trail: list[Any] = []
        for layer in range(self.n_layers):
            weights, offset = self.weights[2 * layer : 2 * layer + 2]
            columns = surroundings(block)
            out = columns @ weights.T + offset
            side = block.shape[2]
            out = np.maximum(out, 0).reshape(len(block), side, side, -1)
            tiles = out.reshape(len(block), side // 2, 2, side // 2, 2, -1)
            pooled = tiles.max(axis=(2, 4))
            trail.append((columns, tiles, pooled, block.shape))
            block = np.ascontiguousarray(pooled.transpose(0, 3, 1, 2))
        flat = block.reshape(*block.shape[:2], -1)
        largest = flat.argmax(axis=2)
        summary = np.concatenate([flat.mean(axis=2), flat.max(axis=2)], axis=1)
        trail.append((flat, largest, summary))
        return summary @ self.weights[-2] + self.weights[-1], trail

    def _backward(self, slope: np.ndarray, trail: list[Any]) -> list[np.ndarray]:
        flat, largest, summary = trail[-1]
        slopes = [summary.T @ slope, slope.sum(axis=0)]
        of_summary = slope @ self.weights[-2].T
        n_channels = flat.shape[1]
        of_flat = np.repeat(of_summary[:, :n_channels, None] / flat.shape[2], flat.shape[2], axis=2)
        rows, channels = np.indices(largest.shape)
        of_flat[rows, channels, largest] += of_summary[:, n_channels:]
        side = int(np.sqrt(flat.shape[2]))
        of_block = of_flat.reshape(len(flat), n_channels, side, side).transpose(0, 2, 3, 1)
        for layer in reversed(range(self.n_layers)):
            columns, tiles, pooled, shape = trail[layer]
            is_largest = (tiles == pooled[:, :, None, :, None]) & (tiles > 0)
            of_out = (is_largest * of_block[:, :, None, :, None]).reshape(-1, tiles.shape[-1])
            slopes = [of_out.T @ columns, of_out.sum(axis=0), *slopes]
            if layer:
                of_block = gathered(of_out @ self.weights[2 * layer], shape).transpose(0, 2, 3, 1)
        return [part.astype("float32") for part in slopes]


def first_weights(channels: tuple[int, ...], rng: np.random.Generator) -> list[np.ndarray]:
    """Weights and offsets of layers before any training.

    Parameters
    ----------
    channels : tuple of int
        Of the pictures, then of each layer.
    rng : Generator
        Decides everything that is drawn by chance.
    """
    weights: list[np.ndarray] = []
    for before, after in itertools.pairwise(channels):
        # As in He et al. 2015: what goes through keeps its size.
        spread = np.sqrt(2 / (before * SIZE * SIZE))
        weights.append((rng.normal(size=(after, before * SIZE * SIZE)) * spread).astype("float32"))
        weights.append(np.zeros(after, dtype="float32"))
    return weights


def surroundings(block: np.ndarray) -> np.ndarray:
    """For every pixel its surroundings.

    Parameters
    ----------
    block : ndarray of shape (n, channels, height, width)

    Returns
    -------
    ndarray of shape (n · height · width, channels · 3 · 3)
    """
    padded = np.pad(block, ((0, 0), (0, 0), (1, 1), (1, 1)))
    windows = sliding_window_view(padded, (SIZE, SIZE), axis=(2, 3))
    return windows.transpose(0, 2, 3, 1, 4, 5).reshape(-1, block.shape[1] * SIZE * SIZE)


def gathered(of_columns: np.ndarray, shape: tuple[int, ...]) -> np.ndarray:
    """The other way: what falls on every pixel from all surroundings it is part of.

    Parameters
    ----------
    of_columns : ndarray of shape (n · height · width, channels · 3 · 3)
    shape : tuple of int
        Of the block, (n, channels, height, width).
    """
    n, channels, height, width = shape
    parts = of_columns.reshape(n, height, width, channels, SIZE, SIZE)
    out = np.zeros((n, channels, height + 2, width + 2), dtype="float32")
    for down in range(SIZE):
        for across in range(SIZE):
            out[:, :, down : down + height, across : across + width] += parts[..., down, across].transpose(0, 3, 1, 2)
    return out[:, :, 1:-1, 1:-1]


def train(
    network: Network,
    pictures: np.ndarray,
    places: np.ndarray,
    *,
    epochs: int,
    rate: float,
    seed: int,
    changed: Callable[[np.ndarray, np.random.Generator], np.ndarray],
    at_once: int = 32,
) -> None:
    """Train it in place; `changed` varies each batch, so that no picture is seen twice alike.

    Parameters
    ----------
    network : Network
    pictures : ndarray
        Shape (n, channels, side, side).
    places : ndarray
        Index of each picture's class, shape (n,).
    epochs : int
    rate : float
        Of the steps.
    seed : int
        For what is drawn by chance.
    changed : callable
        Draws a changed copy of some pictures, anew each epoch.
    at_once : int, optional
        How many pictures at a time.
    """
    rng = np.random.default_rng(seed)
    descent = Descent(network.weights, rate=rate, n_steps=epochs * (len(pictures) // at_once))
    for epoch in range(epochs):
        losses = []
        order = rng.permutation(len(pictures))
        for start in range(0, len(order) - at_once + 1, at_once):
            some = order[start : start + at_once]
            loss, slopes = network.slopes(changed(pictures[some], rng), places[some])
            losses.append(loss)
            descent.step(slopes)
        print(f"epoch {epoch + 1}: cross entropy {np.mean(losses):.3f}", flush=True)


class Descent:
    """Adam's steps, each smaller than the one before, along half a cosine.

    Parameters
    ----------
    weights : list of ndarray
        Changed in place.
    rate : float
        Of the first step.
    n_steps : int
        How many there will be.
    """

    def __init__(self, weights: list[np.ndarray], *, rate: float, n_steps: int) -> None:
        self._weights, self._rate, self._n_steps, self._taken = weights, rate, n_steps, 0
        self._means = [np.zeros_like(part) for part in weights]
        self._spreads = [np.zeros_like(part) for part in weights]

    def step(self, slopes: list[np.ndarray]) -> None:
        """One step against the slopes.

        Parameters
        ----------
        slopes : list of ndarray
            Shaped as the weights.
        """
        self._taken += 1
        now = self._rate * 0.5 * (1 + np.cos(np.pi * self._taken / self._n_steps))
        for weights, slope, mean, spread in zip(self._weights, slopes, self._means, self._spreads, strict=True):
            mean += (1 - ADAM_MEAN) * (slope - mean)
            spread += (1 - ADAM_SPREAD) * (slope * slope - spread)
            scaled = (mean / (1 - ADAM_MEAN**self._taken)) / (
                np.sqrt(spread / (1 - ADAM_SPREAD**self._taken)) + ADAM_SMALL
            )
            weights -= (now * scaled).astype("float32")


def save_onnx(network: Network, path: Path, *, channels: int, side: int, classes: list[str], divisor: float) -> None:
    """Write the network as ONNX: pixels from 0 to 1 in, scores out; `divisor` is what they were divided by after.

    Parameters
    ----------
    network : Network
    path : Path
    channels : int
    side : int
    classes : list of str
    divisor : float
        What pixels are divided by.
    """
    constants = {"divisor": np.array(divisor, dtype="float32")}
    nodes = [
        helper.make_node("Sub", ["picture", "middle"], ["shifted"]),
        helper.make_node("Div", ["shifted", "divisor"], ["block0"]),
    ]
    constants["middle"] = np.array(0.5, dtype="float32")
    for layer in range(network.n_layers):
        weights, offset = network.weights[2 * layer : 2 * layer + 2]
        constants[f"weights{layer}"] = weights.reshape(len(weights), -1, SIZE, SIZE)
        constants[f"offset{layer}"] = offset
        source, out = f"block{layer}", f"block{layer + 1}"
        nodes += [
            helper.make_node(
                "Conv", [source, f"weights{layer}", f"offset{layer}"], [f"conv{layer}"], pads=[1, 1, 1, 1]
            ),
            helper.make_node("Relu", [f"conv{layer}"], [f"relu{layer}"]),
            helper.make_node("MaxPool", [f"relu{layer}"], [out], kernel_shape=[2, 2], strides=[2, 2]),
        ]
    constants["head"], constants["head_offset"] = network.weights[-2], network.weights[-1]
    last = f"block{network.n_layers}"
    nodes += [
        helper.make_node("GlobalAveragePool", [last], ["means"]),
        helper.make_node("GlobalMaxPool", [last], ["largest"]),
        helper.make_node("Concat", ["means", "largest"], ["both"], axis=1),
        helper.make_node("Flatten", ["both"], ["summary"]),
        helper.make_node("Gemm", ["summary", "head", "head_offset"], ["scores"]),
    ]
    graph = helper.make_graph(
        nodes,
        "plain",
        [helper.make_tensor_value_info("picture", TensorProto.FLOAT, ["n", channels, side, side])],
        [helper.make_tensor_value_info("scores", TensorProto.FLOAT, ["n", len(classes)])],
        [numpy_helper.from_array(value.astype("float32"), name) for name, value in constants.items()],
    )
    model = helper.make_model(graph, opset_imports=[helper.make_opsetid("", OPSET)], ir_version=IR_VERSION)
    helper.set_model_props(model, {"classes": ",".join(classes), "Image.NominalPixelRange": "Normalized_0_1"})
    onnx.checker.check_model(model)
    path.write_bytes(model.SerializeToString())
