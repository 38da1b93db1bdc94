"""Training a network that looks everywhere at once, on photographs with a box around each thing; and asking it."""

import io
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

import numpy as np
from PIL import Image

from plain_window.core.pictures.preparation import as_seen
from plain_window.core.pictures.settings import Preparation

from .grid_network import CELL, USUAL_SIZE, GridNetwork
from .network import Descent

if TYPE_CHECKING:
    from plain_window.core.boxes.finding import BoxesFound

__all__ = ["DIVISOR", "Thing", "as_jpeg", "as_pixels", "found_in", "train_grid", "wanted_of"]

# What pixels from −0.5 to 0.5 are divided by.
DIVISOR = 0.25
JPEG_QUALITY = 85
LEAST_SCORE = 0.5
# A class by its place, and left, top, right and bottom of its box, in pixels of the photograph.
Thing = tuple[int, tuple[float, float, float, float]]


def as_pixels(photographs: Sequence[np.ndarray], preparation: Preparation) -> np.ndarray:
    """As the demo prepares them, ready for the network.

    Parameters
    ----------
    photographs : sequence of ndarray of uint8, shape (height, width, 3)
    preparation : Preparation
    """
    seen = np.array([as_seen(photograph, preparation) for photograph in photographs])
    return (((seen / 255).astype("float32") - 0.5) / DIVISOR).transpose(0, 3, 1, 2)


def wanted_of(things: Sequence[Sequence[Thing]], *, seen: tuple[int, int], scale: float) -> np.ndarray:
    """What should come out, of shape (n, rows, columns, 6): where, how large, whether anything, and which class.

    Parameters
    ----------
    things : sequence of sequence of (class, box)
        Of each photograph.
    seen : (int, int)
        Width and height of what the network sees.
    scale : float
        How large that is beside the photograph.
    """
    wanted = np.zeros((len(things), seen[1] // CELL, seen[0] // CELL, 6), dtype="float32")
    for at, of_one in enumerate(things):
        for place, (left, top, right, bottom) in of_one:
            middle = np.array([left + right, top + bottom]) / 2 * scale / CELL
            column, row = np.minimum(middle.astype(int), [seen[0] // CELL - 1, seen[1] // CELL - 1])
            sizes = np.log(np.array([right - left, bottom - top]) * scale / USUAL_SIZE)
            wanted[at, row, column] = [*(middle - [column, row]), *sizes, 1, place]
    return wanted


def train_grid(
    pictures: np.ndarray,
    wanted: np.ndarray,
    *,
    channels: tuple[int, ...],
    n_classes: int,
    epochs: int,
    rate: float,
    at_once: int,
    seed: int,
) -> GridNetwork:
    """A network trained on these, epoch by epoch, mirrored and in changing light.

    Parameters
    ----------
    pictures : ndarray of float32, shape (n, channels, height, width)
    wanted : ndarray of float32, shape (n, rows, columns, 6)
    channels : tuple of int
        Of the pictures, then of each layer.
    n_classes, epochs : int
    rate : float
        Of the first steps.
    at_once : int
        Pictures a step.
    seed : int
    """
    network = GridNetwork(channels, n_classes, seed=seed)
    rng = np.random.default_rng(seed)
    n = len(pictures)
    descent = Descent(network.weights, rate=rate, n_steps=epochs * (n // at_once))
    for epoch in range(epochs):
        losses, order = [], rng.permutation(n)
        for start in range(0, n - at_once + 1, at_once):
            some = order[start : start + at_once]
            loss, slopes = network.slopes(*_changed(pictures[some], wanted[some], rng))
            losses.append(loss)
            descent.step(slopes)
        print(f"epoch {epoch + 1}: {np.mean(losses):.3f}", flush=True)
    return network


def _changed(pictures: np.ndarray, wanted: np.ndarray, rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray]:
    """Mirrored, lighter or darker."""
    wanted = wanted.copy()
    for axis, part in ((3, 0), (2, 1)):
        if rng.random() < 0.5:
            pictures, wanted = np.flip(pictures, axis), np.flip(wanted, axis - 1).copy()
            wanted[..., part] = np.where(wanted[..., 4] > 0, 1 - wanted[..., part], 0)
    light = rng.uniform(0.85, 1.15, (len(pictures), 1, 1, 1)).astype("float32")
    shift = rng.normal(0, 0.12, (len(pictures), 3, 1, 1)).astype("float32")
    return np.ascontiguousarray(pictures * light + shift), wanted


def found_in(model: bytes, photographs: Sequence[np.ndarray], preparation: Preparation) -> Iterator["BoxesFound"]:
    """What is found in each photograph, asked as the demo is.

    Parameters
    ----------
    model : bytes
        The network as ONNX.
    photographs : sequence of ndarray of uint8, shape (height, width, 3)
    preparation : Preparation
    """
    from plain_window.core.answers.in_picture import BoxReading
    from plain_window.core.boxes.finding import find_boxes
    from plain_window.core.formats.onnx.pictures import OnnxPictureModel
    from plain_window.core.formats.onnx.session import open_graph
    from plain_window.core.pictures.preparation import as_input
    from plain_window.core.pictures.preparer import Preparer

    network, prepare = OnnxPictureModel(open_graph(model)), Preparer()
    reading = BoxReading(boxes="candidates", score_at=4, classes_from=5, form="centre and size", overlap=0.3)
    seen = (preparation.width, preparation.height)
    for photograph in photographs:
        prepared = prepare({"content": as_jpeg(photograph), "preparation": preparation.model_dump()})
        outputs = network.outputs({"picture": [as_input(prepared.seen, preparation)]}, None)
        yield find_boxes(outputs, reading, seen=seen, frame=prepared.frame, least_score=LEAST_SCORE)


def as_jpeg(photograph: np.ndarray) -> bytes:
    """A photograph's file.

    Parameters
    ----------
    photograph : ndarray of uint8, shape (height, width, 3)
    """
    content = io.BytesIO()
    Image.fromarray(photograph).save(content, "JPEG", quality=JPEG_QUALITY)
    return content.getvalue()
