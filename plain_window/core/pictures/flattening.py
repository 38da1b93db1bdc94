"""Pictures as rows of a table: one column a pixel."""

import math
import re
from collections.abc import Sequence

import numpy as np

__all__ = ["PIXELS", "flattened", "pixel_names", "places_by_name"]

# The one input of a model of flattened pixels, and what its columns are called, by their place.
PIXELS, COLUMN = "picture", "pixel "
# Columns that are numbered are pixels only where they are called so; those of rows and columns need no such name.
NUMBERED = re.compile(r"(?P<before>.*?)(?P<at>\d+)", re.DOTALL)
GRIDDED = re.compile(r"(?P<before>.*?)(?P<row>\d+)(?P<between>\D+)(?P<column>\d+)", re.DOTALL)
CALLED_PIXELS = re.compile(r"pix|px", re.IGNORECASE)


def pixel_names(n_pixels: int) -> list[str]:
    """What the columns of flattened pixels are called.

    Parameters
    ----------
    n_pixels : int
    """
    return [f"{COLUMN}{at}" for at in range(n_pixels)]


def places_by_name(names: Sequence[str]) -> list[int] | None:
    """Which pixel each column is, going by what they are called: `pixel0` … `pixel783`, `1x1` … `28x28`, `px_0_0` ….

    None where they are not called like the pixels of a picture.

    Parameters
    ----------
    names : sequence of str
    """
    return _by_grid(names) or _by_number(names)


def _by_number(names: Sequence[str]) -> list[int] | None:
    found = [NUMBERED.fullmatch(name) for name in names]
    matches = [one for one in found if one is not None]
    if not matches or len(matches) < len(names) or len({one["before"] for one in matches}) > 1:
        return None
    if not CALLED_PIXELS.search(matches[0]["before"]):
        return None
    numbers = [int(one["at"]) for one in matches]
    places = [number - min(numbers) for number in numbers]
    return places if min(numbers) <= 1 and sorted(places) == list(range(len(names))) else None


def _by_grid(names: Sequence[str]) -> list[int] | None:
    found = [GRIDDED.fullmatch(name) for name in names]
    matches = [one for one in found if one is not None]
    side = math.isqrt(len(names))
    if not matches or len(matches) < len(names) or side * side != len(names):
        return None
    if len({(one["before"], one["between"]) for one in matches}) > 1:
        return None
    rows, columns = ([int(one[part]) for one in matches] for part in ("row", "column"))
    if min(rows) > 1 or min(columns) > 1:
        return None
    places = [(row - min(rows)) * side + column - min(columns) for row, column in zip(rows, columns, strict=True)]
    return places if sorted(places) == list(range(len(names))) else None


def flattened(pictures: Sequence[np.ndarray]) -> np.ndarray:
    """Prepared pictures as float64 of shape (n_pictures, n_pixels).

    Parameters
    ----------
    pictures : sequence of ndarray
        All of one size.
    """
    return np.array([np.ravel(picture) for picture in pictures], dtype="float64")
