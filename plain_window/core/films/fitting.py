"""Frames in the size that a model looks at, exactly as its runner would make them: large ones need not travel."""

import numpy as np
from PIL import Image

from ..pictures.preparation import fitted
from ..pictures.settings import Preparation

__all__ = ["fitted_frame", "may_be_fitted"]


def may_be_fitted(preparation: Preparation, frame: tuple[int, int]) -> bool:
    """Whether frames can be put into the model's size before anything else is known of them, and become smaller so.

    Parameters
    ----------
    preparation : Preparation
    frame : (int, int)
        Width and height of a film's frames.
    """
    # What is turned light for dark is decided by the picture as it was given.
    is_fixed = not preparation.own_size and preparation.trained_on == "any"
    return is_fixed and preparation.width * preparation.height < frame[0] * frame[1]


def fitted_frame(colours: np.ndarray, preparation: Preparation) -> np.ndarray:
    """A frame in the model's size.

    Parameters
    ----------
    colours : ndarray of uint8, shape (height, width, 3)
        Blue, green and red.
    preparation : Preparation

    Returns
    -------
    ndarray of uint8, shape (preparation.height, preparation.width, 3)
        Blue, green and red.
    """
    # Colours are resized each by itself; only the border's have to be in the same order.
    turned = preparation.model_copy(update={"border": preparation.border[::-1]})
    return np.asarray(fitted(Image.fromarray(np.ascontiguousarray(colours)), turned))
