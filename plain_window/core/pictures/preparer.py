"""From what a visitor gave to what the model sees: read, turned, cut out, fitted."""

import hashlib
import json
import math
import threading
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from PIL import Image

from ..errors import PictureNotRead
from .preparation import as_input, as_seen
from .reading import read_picture
from .settings import Preparation
from .strokes import draw_strokes

__all__ = ["MOST_REMEMBERED", "Prepared", "Preparer", "image_of"]

# Pictures are asked about again at once: the answer, then why.
MOST_REMEMBERED = 16
TURNS = {90: Image.Transpose.ROTATE_270, 180: Image.Transpose.ROTATE_180, 270: Image.Transpose.ROTATE_90}
GREY = 128
# From this many times the size on, a JPEG decoded smaller comes out the same to one of 255.
ENOUGH_TIMES = 4


@dataclass(frozen=True)
class Prepared:
    """What the model sees, uint8 of shape (height, width, n_channels); that as its input; what was done on the way."""

    seen: np.ndarray
    input: np.ndarray
    notes: list[str]


class Preparer:
    """Prepares pictures, and remembers the last few. May be asked from several threads."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._remembered: OrderedDict[bytes, Prepared] = OrderedDict()
        # Within one request it is the very same object: hashing millions of bytes again would take its time.
        self._last: tuple[Mapping[str, Any], Prepared] | None = None

    def __call__(self, value: Mapping[str, Any]) -> Prepared:
        """Prepare what `check_inputs` gave for a picture or a drawing.

        Raises
        ------
        PictureNotRead
            With a sentence for the visitor.
        """
        with self._lock:
            if self._last is None or self._last[0] is not value:
                self._last = (value, self._looked_up(value))
            return self._last[1]

    def _looked_up(self, value: Mapping[str, Any]) -> Prepared:
        key = _key(value)
        found = self._remembered.get(key)
        if found is None:
            found = _prepared(value)
            self._remembered[key] = found
            if len(self._remembered) > MOST_REMEMBERED:
                self._remembered.popitem(last=False)
        else:
            self._remembered.move_to_end(key)
        return found


def image_of(value: Mapping[str, Any]) -> tuple[Image.Image, list[str]]:
    """The picture itself, turned and cut out, and notes on it.

    A photograph of many times the size that is wanted is not decoded in full. What the model then sees differs by one
    of 255 at the most, as it does from one decoder of JPEG to another.

    Parameters
    ----------
    value : mapping
        As it was sent.

    Raises
    ------
    PictureNotRead
        With a sentence for the visitor.
    """
    behind = tuple(value.get("behind") or (255, 255, 255))
    if value.get("strokes"):
        return draw_strokes(
            value["strokes"],
            line_width=value["line_width"],
            centred=value["centred"],
            paper=behind,
            keep=value.get("keep"),
        ), []
    if value.get("content") is None:
        # What a runner warms up with, and what nothing at all would look like.
        return Image.new("RGB", (64, 64), (GREY, GREY, GREY)), []
    cut = value.get("cut") or (0, 0, 1, 1)
    picture = read_picture(value["content"], behind=behind, enough=_enough(value["preparation"], cut))
    image = _cut(picture.image, cut)
    turn = value.get("turn") or 0
    return (image.transpose(TURNS[turn]) if turn else image), picture.notes


def _prepared(value: Mapping[str, Any]) -> Prepared:
    preparation = Preparation.model_validate(value["preparation"])
    image, notes = image_of(value)
    try:
        seen = as_seen(image, preparation)
    except MemoryError as error:
        raise PictureNotRead("This picture is too large to be prepared here. Try a smaller one.") from error
    return Prepared(seen, as_input(seen, preparation), notes)


def _enough(preparation: Mapping[str, Any], cut: Any) -> tuple[int, int]:
    """How large a picture is at least decoded, for its cut-out to be many times what the model sees either way up."""
    longer = max(preparation["width"], preparation["height"])
    share = max(min(cut[2], cut[3]), 1e-3)
    side = math.ceil(ENOUGH_TIMES * longer / share)
    return side, side


def _cut(image: Image.Image, cut: Any) -> Image.Image:
    left, top, width, height = cut
    box = (
        round(left * image.width),
        round(top * image.height),
        round(min(1.0, left + width) * image.width),
        round(min(1.0, top + height) * image.height),
    )
    if box == (0, 0, image.width, image.height):
        return image
    # Shares of a small picture may round to nothing.
    left_px, top_px = min(box[0], image.width - 1), min(box[1], image.height - 1)
    return image.crop((left_px, top_px, max(box[2], left_px + 1), max(box[3], top_px + 1)))


def _key(value: Mapping[str, Any]) -> bytes:
    own = hashlib.blake2b(value.get("content") or b"", digest_size=20)
    rest = {key: part for key, part in value.items() if key != "content"}
    own.update(json.dumps(rest, sort_keys=True).encode())
    return own.digest()
