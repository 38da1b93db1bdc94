"""Pictures and drawings that nobody made: shapes on a ground, drawn once, to check by what a model says of them.

The same draws give the same picture.
"""

import base64
import io
import random
from typing import Any

from PIL import Image, ImageDraw

__all__ = ["made_drawing", "made_picture"]

SMALLEST_SIDE, LARGEST_SIDE = 16, 48
MOST_SHAPES, MOST_STROKES, MOST_POINTS = 5, 4, 7
# So often a part is cut out, or the picture is turned.
CUT_SHARE, TURNED_SHARE = 0.3, 0.3


def made_picture(draw: random.Random) -> dict[str, object]:
    """A picture as a visitor gives one: a small PNG, perhaps cut out and turned.

    Parameters
    ----------
    draw : random.Random
    """
    size = (draw.randint(SMALLEST_SIDE, LARGEST_SIDE), draw.randint(SMALLEST_SIDE, LARGEST_SIDE))
    image = Image.new("RGB", size, _colour(draw))
    pen = ImageDraw.Draw(image)
    for _ in range(draw.randint(1, MOST_SHAPES)):
        corners = sorted(draw.randrange(size[0]) for _ in range(2)), sorted(draw.randrange(size[1]) for _ in range(2))
        box = (corners[0][0], corners[1][0], corners[0][1], corners[1][1])
        shape = draw.choice((pen.ellipse, pen.rectangle))
        shape(box, fill=_colour(draw))
    content = io.BytesIO()
    image.save(content, "PNG", optimize=True)
    made: dict[str, Any] = {"data": base64.b64encode(content.getvalue()).decode("ascii")}
    if draw.random() < CUT_SHARE:
        left, top = draw.uniform(0, 0.4), draw.uniform(0, 0.4)
        made |= {"left": left, "top": top, "width": draw.uniform(0.3, 1 - left), "height": draw.uniform(0.3, 1 - top)}
    if draw.random() < TURNED_SHARE:
        made["turn"] = draw.choice((90, 180, 270))
    return made


def made_drawing(draw: random.Random) -> dict[str, object]:
    """A drawing as a visitor gives one: some strokes.

    Parameters
    ----------
    draw : random.Random
    """
    strokes = []
    for _ in range(draw.randint(1, MOST_STROKES)):
        x, y = draw.random(), draw.random()
        stroke = [[x, y, 0.5]]
        for _ in range(draw.randint(1, MOST_POINTS)):
            x, y = x + draw.uniform(-0.2, 0.2), y + draw.uniform(-0.2, 0.2)
            stroke.append([x, y, draw.uniform(0.2, 0.9)])
        strokes.append(stroke)
    return {"strokes": strokes}


def _colour(draw: random.Random) -> tuple[int, int, int]:
    return draw.randrange(256), draw.randrange(256), draw.randrange(256)
