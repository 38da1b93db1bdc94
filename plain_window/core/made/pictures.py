"""A model's output read as a picture."""

from collections.abc import Mapping

import numpy as np
from PIL import Image

from ..answers.in_picture import PictureReading
from ..errors import ModelFailed
from .outputs import output_of

__all__ = ["output_picture"]


def output_picture(outputs: Mapping[str, np.ndarray], reading: PictureReading) -> Image.Image:
    """The picture that a model gives, in its own size, of colour.

    Parameters
    ----------
    outputs : mapping of str to ndarray
        For one picture.
    reading : PictureReading

    Raises
    ------
    ModelFailed
        If the reading does not fit the outputs, or not all of it are numbers.
    """
    array = output_of(outputs, reading.output).astype("float64")
    if reading.layout == "channels first" and array.ndim == 3:
        array = array.transpose(1, 2, 0)
    elif reading.layout == "grey" and array.ndim == 2:
        array = array[:, :, None]
    if array.ndim != 3 or array.shape[2] not in (1, 3):
        sizes = " × ".join(map(str, np.asarray(outputs[reading.output]).shape))
        raise ModelFailed(f"`{reading.output}` has {sizes} numbers, which are no picture when read so.", traceback="")
    if not np.isfinite(array).all():
        raise ModelFailed("The picture that the model made has places without a number.", traceback="")
    if reading.scale == "0..1":
        array = 255 * array
    elif reading.scale == "-1..1":
        array = 127.5 * (array + 1)
    pixels = np.clip(np.rint(array), 0, 255).astype("uint8")
    if reading.order == "bgr" and pixels.shape[2] == 3:
        pixels = pixels[:, :, ::-1]
    return Image.fromarray(np.repeat(pixels, 3, axis=2) if pixels.shape[2] == 1 else np.ascontiguousarray(pixels))
