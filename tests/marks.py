"""Potters' marks in few pixels, as a table and as an archive of pictures."""

import io
import math
import zipfile

import numpy as np
from PIL import Image, ImageDraw

__all__ = ["MARK_NAMES", "archive_of", "marks"]

MARK_NAMES = ("bar", "cross", "ring")


def marks(n: int, *, side: int = 8, seed: int = 3) -> tuple[np.ndarray, np.ndarray]:
    """Potters' marks as a table of pixels from 0 to 255 of shape (n, side²), light on dark, and which mark each is."""
    rng = np.random.default_rng(seed)
    outcomes = rng.integers(0, len(MARK_NAMES), n)
    return np.array([_mark(MARK_NAMES[which], rng, side) for which in outcomes]), np.array(MARK_NAMES)[outcomes]


def _mark(name: str, rng: np.random.Generator, side: int) -> np.ndarray:
    image = Image.new("L", (64, 64))
    pen = ImageDraw.Draw(image)
    x, y, size = rng.uniform(26, 38), rng.uniform(26, 38), rng.uniform(14, 24)
    ink = {"fill": int(rng.integers(170, 256)), "width": int(rng.integers(7, 11))}
    if name == "ring":
        pen.ellipse((x - size, y - size, x + size, y + size), outline=ink["fill"], width=ink["width"])
    else:
        pen.line((x - size, y - size, x + size, y + size), **ink)
    if name == "cross":
        pen.line((x + size, y - size, x - size, y + size), **ink)
    return np.asarray(image.resize((side, side), Image.Resampling.BOX), "float64").ravel()


def archive_of(pixels: np.ndarray, outcomes: np.ndarray) -> bytes:
    """A zip archive of pictures, in folders called as what they show."""
    content, side = io.BytesIO(), math.isqrt(pixels.shape[1])
    with zipfile.ZipFile(content, "w") as archive:
        for at, (one, outcome) in enumerate(zip(pixels, outcomes, strict=True)):
            picture = io.BytesIO()
            Image.fromarray(one.reshape(side, side).round().astype("uint8")).save(picture, "PNG")
            archive.writestr(f"{outcome}/{at}.png", picture.getvalue())
    return content.getvalue()
