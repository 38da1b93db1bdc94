"""What a model made of a picture, back in the shape of the picture it was made of."""

import numpy as np
from PIL import Image

from .frames import Frame

__all__ = ["in_shape_of_given", "part_of_view"]


def in_shape_of_given(
    result: Image.Image, frame: Frame, seen: tuple[int, int], *, resample: Image.Resampling, most_side: int | None
) -> tuple[Image.Image, bool]:
    """The result in the proportions of what was given, without the border that was added to that.

    It has as many pixels as what was given where the model has; where the model sees less, no more than it gives.

    Parameters
    ----------
    result : Image
        As the model gives it: of the picture it sees, in that size or another.
    frame : Frame
        Where what it sees lies in what was given.
    seen : (int, int)
        Width and height of what it sees.
    resample : Resampling
        How pixels are made of others.
    most_side : int or None
        No side of it is longer.

    Returns
    -------
    image, is_full
        `is_full` says whether it has as many pixels as the part of the picture that it is about.
    """
    times = (result.width / seen[0], result.height / seen[1])
    left, top = frame.placement.at
    width, height = frame.placement.size
    inside = (left * times[0], top * times[1], (left + width) * times[0], (top + height) * times[1])
    across, down = _full_size(frame)
    # What the model gives of it, against what there was.
    scale = max((inside[2] - inside[0]) / across, (inside[3] - inside[1]) / down)
    is_full = scale >= 1 - 1 / max(across, down)
    if is_full and max(times) <= 1:
        scale = 1.0
    size = _within((across * scale, down * scale), most_side)
    if size == result.size == (width, height) and not (left or top):
        return result, is_full
    return result.resize(size, resample, box=inside), is_full


def part_of_view(frame: Frame) -> tuple[float, float, float, float]:
    """Left, top, width and height of what the model sees, in shares of the picture as it was cut out and turned.

    Parameters
    ----------
    frame : Frame
    """
    across, down = frame.turned_size
    left, top, right, bottom = frame.placement.part
    return left / across, top / down, (right - left) / across, (bottom - top) / down


def _full_size(frame: Frame) -> tuple[float, float]:
    """Width and height of the part that the model sees, in pixels of the picture as it was given."""
    left, top, right, bottom = frame.placement.part
    times = np.divide(frame.full, frame.decoded)
    if frame.turn in (90, 270):
        times = times[::-1]
    return float((right - left) * times[0]), float((bottom - top) * times[1])


def _within(size: tuple[float, float], most_side: int | None) -> tuple[int, int]:
    share = 1.0 if most_side is None else min(1.0, most_side / max(size))
    return max(1, round(size[0] * share)), max(1, round(size[1] * share))
