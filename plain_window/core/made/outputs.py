"""Which of a model's outputs have the shape of the picture that it was shown, and what they can be."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..answers.in_picture import MOST_KINDS, MaskReading, PictureReading
from ..answers.making import SUM_TOLERANCE
from ..errors import ModelFailed

__all__ = ["MapOutput", "map_outputs", "mask_reading", "output_of", "picture_reading", "without_batch"]

SHORTEST_SIDE = 8
MASK_NAMES = re.compile(r"mask|seg|class|label|logit", re.IGNORECASE)
# Of the picture's height, what the largest of several maps has at least.
SMALLEST_OF_SEVERAL = 0.25
# Beyond one by so much, pixels are no shares of white.
ABOVE_ONE, BELOW_NONE = 1.5, -0.2


@dataclass(frozen=True)
class MapOutput:
    """An output with a number or some for each place of the picture.

    Attributes
    ----------
    name : str
    layout : str
        Where its channels stand: `first`, `last`, or `none` without an axis of their own.
    n_channels : int
    is_whole : bool
        Whether it holds whole numbers by its type.
    low, high : float
        Of all its numbers, for the pictures that were shown.
    adds_up : bool
        Whether the channels of each place add up to 1.
    """

    name: str
    layout: Literal["first", "last", "none"]
    n_channels: int
    is_whole: bool
    low: float
    high: float
    adds_up: bool

    def is_mask(self, *, n_classes: int | None, n_input_channels: int) -> bool:
        """Whether it is likelier a class a pixel than a picture.

        Parameters
        ----------
        n_classes : int or None
            How many the file names.
        n_input_channels : int
            Of the pictures it is shown.
        """
        if (self.is_whole and self.layout == "none") or self.n_channels not in (1, 3):
            return True
        if MASK_NAMES.search(self.name) or (self.n_channels == 3 and self.adds_up):
            return True
        if self.n_channels == 1:
            # Of a colour picture one share a place says what is there; of a grey one it may be a grey picture.
            return n_input_channels == 3 and self.low >= 0 and self.high <= 1
        return n_classes == self.n_channels


def without_batch(array: np.ndarray) -> np.ndarray:
    """An output for one picture without the axis for several.

    Parameters
    ----------
    array : ndarray
    """
    return array[0] if array.ndim in (3, 4) and array.shape[0] == 1 else array


def output_of(outputs: Mapping[str, np.ndarray], name: str) -> np.ndarray:
    """The output that an answer is read from, for one picture, without the axis for several.

    Parameters
    ----------
    outputs : mapping of str to ndarray
    name : str

    Raises
    ------
    ModelFailed
        If the model has none of that name.
    """
    if name not in outputs:
        known = ", ".join(f"`{one}`" for one in list(outputs)[:8])
        raise ModelFailed(f"The answer is read from the output `{name}`; the model has {known}.", traceback="")
    return without_batch(np.asarray(outputs[name]))


def map_outputs(answers: Sequence[Mapping[str, np.ndarray]], sizes: Sequence[tuple[int, int]]) -> list[MapOutput]:
    """The outputs that have the shape of the picture, in their order.

    Of maps of several sizes the largest count, if they are not much smaller than the picture; else they are steps on
    the way to something else.

    Parameters
    ----------
    answers : sequence of mapping
        Output by name, a mapping a picture.
    sizes : sequence of (int, int)
        Height and width of each of these pictures.
    """
    found: list[tuple[int, MapOutput]] = []
    n_blocks = 0
    for name in answers[0]:
        arrays = [without_batch(np.asarray(answer[name])) for answer in answers]
        n_blocks += arrays[0].ndim == 3
        ways = [_layout(array, size) for array, size in zip(arrays, sizes, strict=True)]
        if arrays[0].dtype.kind not in "fiub" or None in ways or len(set(ways)) > 1:
            continue
        layout, n_channels = ways[0] or ("none", 0)
        height = arrays[0].shape[0 if layout == "last" else -2]
        found.append((height, _map_output(name, layout, n_channels, arrays)))
    largest = max((height for height, _ in found), default=0)
    if n_blocks > 1 and largest < SMALLEST_OF_SEVERAL * sizes[0][0]:
        return []
    return [one for height, one in found if height == largest]


def _map_output(
    name: str, layout: Literal["first", "last", "none"], n_channels: int, arrays: Sequence[np.ndarray]
) -> MapOutput:
    numbers = [array.astype("float64") for array in arrays]
    axis = 0 if layout == "first" else -1
    adds_up = layout != "none" and all(np.allclose(one.sum(axis=axis), 1, atol=SUM_TOLERANCE) for one in numbers)
    low, high = min(map(np.nanmin, numbers)), max(map(np.nanmax, numbers))
    return MapOutput(name, layout, n_channels, arrays[0].dtype.kind in "iub", float(low), float(high), adds_up)


def _layout(array: np.ndarray, size: tuple[int, int]) -> tuple[Literal["first", "last", "none"], int] | None:
    if array.ndim == 2 and _is_of(array.shape, size):
        return "none", 1
    if array.ndim != 3:
        return None
    if _is_of(array.shape[1:], size) and array.shape[0] <= MOST_KINDS:
        return "first", array.shape[0]
    if _is_of(array.shape[:2], size) and array.shape[2] <= MOST_KINDS:
        return "last", array.shape[2]
    return None


def _is_of(shape: Sequence[int], size: tuple[int, int]) -> bool:
    """Whether a map has the picture's proportions: as large, or some times smaller or larger."""
    if min(shape) < SHORTEST_SIDE:
        return False
    times = (shape[0] / size[0], shape[1] / size[1])
    # Steps that halve a side round.
    return abs(times[0] - times[1]) * max(size) * max(1.0, 1 / max(times)) <= 4


def picture_reading(found: MapOutput, *, order: Literal["rgb", "bgr"]) -> PictureReading:
    """How an output is read as a picture, by the numbers in it.

    Parameters
    ----------
    found : MapOutput
    order : str
        Of the channels of the picture that the model is shown.
    """
    if found.high > ABOVE_ONE:
        scale: Literal["0..255", "0..1", "-1..1"] = "0..255"
    else:
        scale = "-1..1" if found.low < BELOW_NONE else "0..1"
    layouts: dict[str, Literal["channels first", "channels last", "grey"]] = {
        "first": "channels first",
        "last": "channels last",
        "none": "grey",
    }
    return PictureReading(output=found.name, layout=layouts[found.layout], scale=scale, order=order)


def mask_reading(found: MapOutput) -> MaskReading:
    """How an output is read as a class for each pixel.

    Parameters
    ----------
    found : MapOutput
    """
    if found.layout == "none" and found.is_whole:
        return MaskReading(output=found.name, layout="numbers")
    is_share = found.low >= 0 and found.high <= 1
    layout: Literal["scores first", "scores last"] = "scores last" if found.layout == "last" else "scores first"
    return MaskReading(output=found.name, layout=layout, link="none" if is_share or found.n_channels > 1 else "sigmoid")
