"""Pictures as rows of a table: one column a pixel."""

from collections.abc import Sequence

import numpy as np

__all__ = ["PIXELS", "flattened", "pixel_names"]

# The one input of a model of flattened pixels.
PIXELS = "picture"


def pixel_names(n_pixels: int) -> list[str]:
    """What the columns of flattened pixels are called.

    Parameters
    ----------
    n_pixels : int
    """
    return [f"pixel {at}" for at in range(n_pixels)]


def flattened(pictures: Sequence[np.ndarray]) -> np.ndarray:
    """Prepared pictures as float64 of shape (n_pictures, n_pixels).

    Parameters
    ----------
    pictures : sequence of ndarray
        All of one size.
    """
    return np.array([np.ravel(picture) for picture in pictures], dtype="float64")
