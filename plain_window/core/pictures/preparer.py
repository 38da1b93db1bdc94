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
from .frames import Frame, placed
from .preparation import as_input, as_seen
from .reading import read_picture
from .settings import Preparation
from .strokes import draw_strokes

__all__ = ["MOST_REMEMBERED", "Prepared", "Preparer", "image_of"]

# Pictures are asked about again at once: the answer, then why.
MOST_REMEMBERED = 16
TURNS = {90: Image.Transpose.ROTATE_270, 180: Image.Transpose.ROTATE_180, 270: Image.Transpose.ROTATE_90}
GREY, NOTHING_SIDE = 128, 64
# From this many times the size on, a JPEG decoded smaller comes out the same to one of 255.
ENOUGH_TIMES = 4


@dataclass(frozen=True)
class Prepared:
    """What the model sees, uint8 of shape (height, width, n_channels); that as its input; what was done on the way; and
    where it lies in the picture as it was given."""

    seen: np.ndarray
    input: np.ndarray
    notes: list[str]
    frame: Frame
    # Of the file it came in, as Pillow calls it.
    kind: str


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
        if value.get("once"):
            # A film's frame: it does not come again, and to remember it would take longer than to prepare it.
            return _prepared(value)
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


@dataclass(frozen=True)
class _Given:
    """What a visitor gave, turned and cut out, and where that lies in the picture."""

    image: Image.Image
    notes: list[str]
    full: tuple[int, int]
    decoded: tuple[int, int]
    cut: tuple[int, int, int, int]
    turn: int = 0
    kind: str = "PNG"


def image_of(value: Mapping[str, object]) -> Image.Image:
    """The picture itself, turned and cut out.

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
    return _given(value).image


def _given(value: Mapping[str, Any]) -> _Given:
    behind = tuple(value.get("behind") or (255, 255, 255))
    if value.get("strokes"):
        drawn = draw_strokes(
            value["strokes"],
            line_width=value["line_width"],
            centred=value["centred"],
            paper=behind,
            keep=value.get("keep"),
        )
        return _Given(drawn, [], drawn.size, drawn.size, (0, 0, *drawn.size))
    if value.get("content") is None:
        # What a runner warms up with, and what nothing at all would look like.
        size = (NOTHING_SIDE, NOTHING_SIDE)
        return _Given(Image.new("RGB", size, (GREY, GREY, GREY)), [], size, size, (0, 0, *size))
    cut = value.get("cut") or (0, 0, 1, 1)
    # Whoever draws into it wants all of it.
    enough = None if value.get("full") else _enough(value["preparation"], cut)
    picture = read_picture(value["content"], behind=behind, enough=enough)
    box = _cut_box(picture.image, cut)
    turn = value.get("turn") or 0
    image = picture.image if box == (0, 0, *picture.image.size) else picture.image.crop(box)
    turned = image.transpose(TURNS[turn]) if turn else image
    return _Given(turned, picture.notes, picture.full, picture.image.size, box, turn, picture.kind)


def _prepared(value: Mapping[str, Any]) -> Prepared:
    preparation = Preparation.model_validate(value["preparation"])
    given = _given(value)
    try:
        seen = as_seen(given.image, preparation)
    except MemoryError as error:
        raise PictureNotRead("This picture is too large to be prepared here. Try a smaller one.") from error
    frame = Frame(given.full, given.decoded, given.cut, given.turn, placed(given.image.size, preparation))
    if full := value.get("fitted_from"):
        # Put into the model's size elsewhere: what it was is told.
        size = (int(full[0]), int(full[1]))
        frame = Frame(size, size, (0, 0, *size), 0, placed(size, preparation))
    return Prepared(seen, as_input(seen, preparation), given.notes, frame, given.kind)


def _enough(preparation: Mapping[str, Any], cut: Any) -> tuple[int, int]:
    """How large a picture is at least decoded, for its cut-out to be many times what the model sees either way up."""
    longer = max(preparation["width"], preparation["height"])
    share = max(min(cut[2], cut[3]), 1e-3)
    side = math.ceil(ENOUGH_TIMES * longer / share)
    return side, side


def _cut_box(image: Image.Image, cut: Any) -> tuple[int, int, int, int]:
    """Left, top, right and bottom of what is cut out."""
    left, top, width, height = cut
    box = (
        round(left * image.width),
        round(top * image.height),
        round(min(1.0, left + width) * image.width),
        round(min(1.0, top + height) * image.height),
    )
    # Shares of a small picture may round to nothing.
    left_px, top_px = min(box[0], image.width - 1), min(box[1], image.height - 1)
    return left_px, top_px, max(box[2], left_px + 1), max(box[3], top_px + 1)


def _key(value: Mapping[str, Any]) -> bytes:
    own = hashlib.blake2b(value.get("content") or b"", digest_size=20)
    rest = {key: part for key, part in value.items() if key != "content"}
    own.update(json.dumps(rest, sort_keys=True).encode())
    return own.digest()
