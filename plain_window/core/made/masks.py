"""A model's output read as a class for each pixel, and laid over the picture."""

from collections.abc import Mapping

import numpy as np
from PIL import Image

from ..answers.in_picture import MaskReading
from ..errors import ModelFailed
from .outputs import output_of

__all__ = ["KIND_COLOURS", "laid_over", "output_classes", "shares_of_classes"]

# By place, over and over; the pages have the same.
KIND_COLOURS = ("#1E6B6B", "#A23B2A", "#8A5A00", "#2F6F4F", "#5A4B8A", "#8A2F63", "#3B5B8C", "#5E5E2A")
# How much of the picture shows through.
THROUGH = 0.45


def output_classes(outputs: Mapping[str, np.ndarray], reading: MaskReading, *, n_classes: int) -> Image.Image:
    """The place of each pixel's class among the names, as a grey picture in the model's own size.

    Parameters
    ----------
    outputs : mapping of str to ndarray
        For one picture.
    reading : MaskReading
    n_classes : int

    Raises
    ------
    ModelFailed
        If the reading does not fit the outputs, or there are other classes than named.
    """
    array = output_of(outputs, reading.output)
    if reading.layout == "numbers":
        places = array[0] if array.ndim == 3 and array.shape[0] == 1 else array
        places = np.rint(np.nan_to_num(places.astype("float64"), nan=-1.0))
    else:
        places = _likeliest(array.astype("float64"), reading)
    if places.ndim != 2:
        sizes = " × ".join(map(str, np.asarray(outputs[reading.output]).shape))
        raise ModelFailed(f"`{reading.output}` has {sizes} numbers, which are no classes when read so.", traceback="")
    if places.size and (places.min() < 0 or places.max() >= n_classes):
        worst = int(places.min() if places.min() < 0 else places.max())
        raise ModelFailed(f"A pixel has the class {worst}; there are {n_classes}, counted from 0.", traceback="")
    return Image.fromarray(places.astype("uint8"))


def _likeliest(scores: np.ndarray, reading: MaskReading) -> np.ndarray:
    if scores.ndim == 2:
        scores = scores[None]
    elif reading.layout == "scores last":
        scores = scores.transpose(2, 0, 1)
    if len(scores) > 1:
        best: np.ndarray = np.where(np.isnan(scores), -np.inf, scores).argmax(axis=0)
        return best
    one = 1 / (1 + np.exp(-np.clip(scores[0], -500, 500))) if reading.link == "sigmoid" else scores[0]
    # What is no number is not enough.
    return (np.nan_to_num(one, nan=-1.0) >= reading.threshold).astype("int64")


def shares_of_classes(classes: Image.Image, n_classes: int) -> list[float]:
    """How much of a mask each class has.

    Parameters
    ----------
    classes : Image
        Grey, with the classes' places.
    n_classes : int
    """
    counts = np.bincount(np.asarray(classes).reshape(-1), minlength=n_classes)
    return (counts / max(1, counts.sum())).tolist()


def laid_over(picture: Image.Image, classes: Image.Image, *, nothing: int | None) -> Image.Image:
    """The picture with each class in its colour, with a line around it.

    Parameters
    ----------
    picture : Image
        Of colour.
    classes : Image
        Grey, of the same size, with the classes' places.
    nothing : int or None
        The class that the picture is left alone for.
    """
    places, pixels = np.asarray(classes), np.asarray(picture, dtype="float32")
    table = np.array([[int(one[at : at + 2], 16) for at in (1, 3, 5)] for one in KIND_COLOURS], dtype="float32")
    shown = table[places % len(KIND_COLOURS)]
    mixed = THROUGH * pixels + (1 - THROUGH) * shown
    edge = np.zeros(places.shape, dtype=bool)
    edge[1:] |= places[1:] != places[:-1]
    edge[:, 1:] |= places[:, 1:] != places[:, :-1]
    mixed[edge] = shown[edge]
    if nothing is not None:
        is_nothing = (places == nothing) & ~edge
        mixed[is_nothing] = pixels[is_nothing]
    return Image.fromarray(np.clip(np.rint(mixed), 0, 255).astype("uint8"))
