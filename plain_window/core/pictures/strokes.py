"""Strokes of a pen as a picture: smoothed, as wide as in the pictures of the training, wider where pressed harder."""

import math
from collections.abc import Sequence

import numpy as np
from PIL import Image, ImageDraw

__all__ = ["draw_strokes"]

# Drawn this much larger and shrunk: edges come out as soft as a scan's.
FINER = 4
DRAWN_SIDE = 192
# Without a pressure, or where a device only says that the pen is down.
USUAL_PRESSURE = 0.5
# How much of its width a line gains or loses between no pressure and all of it.
PRESSURE_SHARE = 0.6
# What a centred drawing fills of the paper.
FILLED_SHARE = 0.8
POINTS_BETWEEN = 4
# How bright red, green and blue are; on paper darker than this the pen is white. The page draws by the same rule.
BRIGHTNESS, DARK_PAPER = (0.299, 0.587, 0.114), 128

Strokes = Sequence[Sequence[Sequence[float]]]


def draw_strokes(
    strokes: Strokes,
    *,
    line_width: float,
    centred: bool = False,
    paper: Sequence[int] = (255, 255, 255),
    side: int = DRAWN_SIDE,
    keep: Sequence[bool] | None = None,
) -> Image.Image:
    """Lines on paper: black ones, or white ones on dark paper.

    Parameters
    ----------
    strokes : sequence of strokes
        Each a sequence of points (x, y) or (x, y, pressure), from 0 to 1, y downwards.
    line_width : float
        As a share of the side.
    centred : bool
        Whether the drawing is moved to the middle and made to fill most of the paper.
    paper : sequence of int
        Its colour.
    side : int
        Of the square picture, in pixels.
    keep : sequence of bool, optional
        Which strokes are drawn; where the drawing is centred, all of them say where its middle is.

    Returns
    -------
    Image
        Of mode RGB, `side` × `side`.
    """
    large = side * FINER
    smooth = [_smoothed(np.array([_point(point) for point in stroke])) for stroke in strokes]
    if centred:
        smooth = _centred(smooth, line_width)
    shown = keep if keep is not None else [True] * len(smooth)
    ink = Image.new("L", (large, large), 0)
    pen = ImageDraw.Draw(ink)
    for stroke, is_shown in zip(smooth, shown, strict=True):
        if is_shown:
            _draw(pen, stroke, large, line_width)
    small = ink.resize((side, side), Image.Resampling.BOX)
    out = Image.new("RGB", (side, side), tuple(paper))
    ink_colour = (255, 255, 255) if np.dot(paper, BRIGHTNESS) < DARK_PAPER else (0, 0, 0)
    out.paste(Image.new("RGB", (side, side), ink_colour), mask=small)
    return out


def _point(point: Sequence[float]) -> tuple[float, float, float]:
    pressure = point[2] if len(point) > 2 else USUAL_PRESSURE
    return point[0], point[1], min(1.0, max(0.0, pressure)) or USUAL_PRESSURE


def _smoothed(points: np.ndarray) -> np.ndarray:
    """More points on the uniform Catmull-Rom spline through these (Catmull and Rom 1974)."""
    if len(points) < 3:
        return points
    ends = np.concatenate([points[:1], points, points[-1:]])
    before, here, there, after = ends[:-3], ends[1:-2], ends[2:-1], ends[3:]
    share = (np.arange(POINTS_BETWEEN) / POINTS_BETWEEN)[None, :, None]
    before, here, there, after = (part[:, None, :] for part in (before, here, there, after))
    between = 0.5 * (
        2 * here
        + (there - before) * share
        + (2 * before - 5 * here + 4 * there - after) * share**2
        + (3 * here - before - 3 * there + after) * share**3
    )
    return np.concatenate([between.reshape(-1, 3), points[-1:]])


def _centred(strokes: list[np.ndarray], line_width: float) -> list[np.ndarray]:
    every = np.concatenate(strokes)[:, :2]
    low, high = every.min(axis=0), every.max(axis=0)
    span = float((high - low).max())
    share = (FILLED_SHARE - line_width) / span if span > line_width else 1.0
    middle = (low + high) / 2
    return [np.column_stack([(stroke[:, :2] - middle) * share + 0.5, stroke[:, 2]]) for stroke in strokes]


def _draw(pen: ImageDraw.ImageDraw, stroke: np.ndarray, side: int, line_width: float) -> None:
    """Round dots close enough together to be a line whose width follows the pressure."""
    x, y = np.clip(stroke[:, 0], -1, 2) * side, np.clip(stroke[:, 1], -1, 2) * side
    width = line_width * side * (1 + PRESSURE_SHARE * (stroke[:, 2] - USUAL_PRESSURE) * 2)
    last = None
    for here_x, here_y, here_width in zip(x.tolist(), y.tolist(), width.tolist(), strict=True):
        radius = max(here_width / 2, 0.5)
        pen.ellipse((here_x - radius, here_y - radius, here_x + radius, here_y + radius), fill=255)
        if last is not None and math.dist(last[:2], (here_x, here_y)) > 0:
            pen.line((last[0], last[1], here_x, here_y), fill=255, width=max(1, round((last[2] + here_width) / 2)))
        last = (here_x, here_y, here_width)
