"""A picture as a file, in the format another one came in: a photograph stays a JPEG."""

import io
from typing import Any

import numpy as np
from PIL import Image

__all__ = ["as_file", "as_shown"]

# What a model sees is shown no larger than this.
SHOWN_SIDE = 448

# The media types of the kinds that are read; what is written is the first of these that fits.
TYPES = {
    "JPEG": "image/jpeg",
    "PNG": "image/png",
    "WEBP": "image/webp",
    "GIF": "image/gif",
    "BMP": "image/bmp",
    "TIFF": "image/tiff",
}
# High enough that what was drawn keeps its edges.
OPTIONS: dict[str, dict[str, Any]] = {
    "JPEG": {"quality": 95, "subsampling": 0},
    "WEBP": {"quality": 95},
    "TIFF": {"compression": "tiff_lzw"},
}


def as_file(image: Image.Image, kind: str) -> tuple[bytes, str]:
    """The picture's file and its media type.

    Parameters
    ----------
    image : Image
        Of colour.
    kind : str
        Pillow's name of a format; what is not known here becomes a PNG.
    """
    known = kind if kind in TYPES else "PNG"
    content = io.BytesIO()
    image.save(content, known, **OPTIONS.get(known, {}))
    return content.getvalue(), TYPES[known]


def as_shown(seen: np.ndarray) -> bytes:
    """A picture as a model sees it, as PNG for people to look at.

    Parameters
    ----------
    seen : ndarray of uint8, shape (height, width, n_channels)
    """
    image = Image.fromarray(seen[:, :, 0] if seen.shape[2] == 1 else seen)
    if max(image.size) > SHOWN_SIDE:
        image.thumbnail((SHOWN_SIDE, SHOWN_SIDE))
    return as_file(image, "PNG")[0]
