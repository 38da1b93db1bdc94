"""Boxes drawn into a picture, each with its words, so that they can be told apart without colour too."""

from collections.abc import Sequence

from PIL import Image, ImageDraw, ImageFont

from ..contract.requests import BoxToDraw

__all__ = ["MARK_COLOURS", "TONE_COLOURS", "colour_of", "draw_boxes"]

# As the pages mark kinds: in their order, or by what finding one means where the author says so.
MARK_COLOURS = ("#1E6B6B", "#7A4F8A", "#8A5A00", "#46607A")
TONE_COLOURS = {"calm": "#2F6F4F", "caution": "#8A5A00", "alert": "#A23B2A"}
PAPER, INK = "#FAF8F3", "#20302F"
# Of the picture's shorter side.
LINE_SHARE, LETTER_SHARE = 1 / 250, 1 / 36
THINNEST_LINE, SMALLEST_LETTER, LARGEST_LETTER = 2, 11, 60


def colour_of(place: int, tone: str) -> str:
    """The colour that a kind's boxes have on the pages, in their light theme.

    Parameters
    ----------
    place : int
        Of the kind among the demo's.
    tone : str
        "calm", "caution", "alert", or empty.
    """
    return TONE_COLOURS.get(tone) or MARK_COLOURS[place % len(MARK_COLOURS)]


def draw_boxes(image: Image.Image, boxes: Sequence[BoxToDraw]) -> Image.Image:
    """A copy of the picture with the boxes in it, the first of them uppermost.

    Parameters
    ----------
    image : Image
        Of colour, in full size.
    boxes : sequence of BoxToDraw
        In its pixels.
    """
    drawn = image.copy()
    pen = ImageDraw.Draw(drawn)
    shorter = min(image.size)
    line = max(THINNEST_LINE, round(shorter * LINE_SHARE))
    font = ImageFont.load_default(min(LARGEST_LETTER, max(SMALLEST_LETTER, round(shorter * LETTER_SHARE))))
    for box in reversed(boxes):
        corners = (box.x, box.y, box.x + box.width, box.y + box.height)
        # A light line around the dark one: one of them stands out from whatever lies under it.
        pen.rectangle(_widened(corners, line), outline=PAPER, width=2 * line)
        pen.rectangle(corners, outline=box.colour, width=line)
        _write(pen, box, font, image.size)
    return drawn


def _widened(corners: tuple[float, float, float, float], by: int) -> tuple[float, float, float, float]:
    left, top, right, bottom = corners
    half = by / 2
    return left - half, top - half, right + half, bottom + half


def _write(
    pen: ImageDraw.ImageDraw, box: BoxToDraw, font: ImageFont.FreeTypeFont | ImageFont.ImageFont, size: tuple[int, int]
) -> None:
    """The box's words above it, or within where there is no room above."""
    left, top, right, bottom = pen.textbbox((0, 0), box.words, font=font)
    gap = max(2, round((bottom - top) / 4))
    width, height = right - left + 2 * gap, bottom - top + 2 * gap
    # Between pixels the uppermost line of small letters is lost.
    x = round(max(0.0, min(box.x, size[0] - width)))
    y = round(box.y - height if box.y >= height else box.y)
    pen.rectangle((x, y, x + width, y + height), fill=PAPER, outline=box.colour)
    pen.text((x + gap - left, y + gap - top), box.words, font=font, fill=INK)
