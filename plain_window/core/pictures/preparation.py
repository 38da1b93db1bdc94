"""Pixels as exactly what a model was trained on: size and fit, colour, scale, channel order, layout.

Every step is stated, none is guessed here; what the model will see can be looked at before the numbers are scaled.
"""

from concurrent.futures import ThreadPoolExecutor

import numpy as np
from PIL import Image

from .frames import placed, size_seen
from .settings import Preparation

__all__ = ["as_input", "as_seen", "fitted", "is_light_on_dark", "is_line_art"]

# Smaller pictures are resized before a second thread has begun.
PIXELS_WORTH_A_THREAD = 1_000_000
_pool = ThreadPoolExecutor(1)
# Thousandths of red, green and blue for grey, as ITU-R BT.601 has them; what most training scripts use.
GREY_WEIGHTS, GREY_WHOLE = (299, 587, 114), 1000
# To tell what is drawn from the ground a picture is looked at this small.
LOOKED_AT_SIDE = 32
# Of 255: less is no drawing; so near to the ground is ground; and so much of a drawing is ground.
FLAT, GROUND_WITHIN, GROUND_SHARE = 0.5, 32, 0.5


def as_seen(picture: np.ndarray | Image.Image, preparation: Preparation) -> np.ndarray:
    """The picture as the model will see it: uint8 of shape (height, width, n_channels).

    Parameters
    ----------
    picture : ndarray of uint8, shape (any height, any width, 3), or image of colour
    preparation : Preparation
    """
    image = picture if isinstance(picture, Image.Image) else Image.fromarray(picture)
    seen = np.asarray(fitted(image, preparation))
    if preparation.colour == "grey":
        seen = _weighed_grey(seen)
    return 255 - seen if _is_turned(image, preparation) else seen


def _weighed_grey(seen: np.ndarray) -> np.ndarray:
    """Grey to the nearest whole number, the middle to the even one: in whole numbers, and so the same everywhere."""
    red, green, blue = GREY_WEIGHTS
    sums = seen[:, :, 0] * np.int32(red) + seen[:, :, 1] * np.int32(green) + seen[:, :, 2] * np.int32(blue)
    grey, over = np.divmod(sums, GREY_WHOLE)
    half = GREY_WHOLE // 2
    grey += (over > half) | ((over == half) & (grey % 2 == 1))
    return grey.astype("uint8")[:, :, None]


def is_light_on_dark(image: Image.Image) -> bool:
    """Whether what is drawn is lighter than the ground, which is what lies along the picture's edge.

    Parameters
    ----------
    image : Image.Image
    """
    grey = np.asarray(image.convert("L").resize((LOOKED_AT_SIDE, LOOKED_AT_SIDE), Image.Resampling.BOX), "float64")
    edge = np.concatenate([grey[0], grey[-1], grey[1:-1, 0], grey[1:-1, -1]])
    ground = float(np.median(edge))
    off = float(grey.mean()) - ground
    # A sheet with nothing on it is told by its own colour.
    return off > 0 if abs(off) > FLAT else ground < 128


def is_line_art(image: Image.Image) -> bool:
    """Whether most of the picture is one plain ground: a drawing, or a scan of one.

    Parameters
    ----------
    image : Image.Image
    """
    grey = np.asarray(image.convert("L").resize((LOOKED_AT_SIDE, LOOKED_AT_SIDE), Image.Resampling.BOX), "float64")
    edge = np.concatenate([grey[0], grey[-1], grey[1:-1, 0], grey[1:-1, -1]])
    return bool(np.mean(np.abs(grey - np.median(edge)) < GROUND_WITHIN) > GROUND_SHARE)


def _is_turned(image: Image.Image, preparation: Preparation) -> bool:
    if preparation.trained_on == "any":
        return False
    return is_light_on_dark(image) != (preparation.trained_on == "light on dark")


def as_input(seen: np.ndarray, preparation: Preparation) -> np.ndarray:
    """What `as_seen` gave, as the model's input: float32 in the layout that is stated.

    Parameters
    ----------
    seen : ndarray of uint8, shape (height, width, n_channels)
    preparation : Preparation

    Returns
    -------
    ndarray of float32
        (n_channels, height, width), (height, width, n_channels) or (height · width · n_channels,), behind a batch
        dimension of one if that is stated.
    """
    # In the order the model knows before the numbers that go by channel.
    values = seen[:, :, ::-1] if preparation.order == "bgr" and preparation.n_channels == 3 else seen
    scaled = _scaled(values.astype("float64"), preparation).astype("float32")
    if preparation.layout == "channels first":
        scaled = scaled.transpose(2, 0, 1)
    elif preparation.layout == "flat":
        scaled = scaled.reshape(-1)
    return np.ascontiguousarray(scaled[None] if preparation.batch else scaled)


def _resized(image: Image.Image, size: tuple[int, int]) -> Image.Image:
    """The picture in another size, to the bit as in one go; large ones on two cores.

    Resizing goes across first, row by row, and rows have nothing to do with each other; but Pillow goes down
    first where a picture loses more than twice as much of its height as of its width.
    """
    width, height = size
    is_down_first = image.height - height > max(0, 2 * (image.width - width))
    is_small = image.width * image.height < PIXELS_WORTH_A_THREAD
    if is_small or is_down_first or width == image.width or height == image.height:
        return image.resize(size, Image.Resampling.BILINEAR)
    half = image.height // 2

    def across(top: int, bottom: int) -> Image.Image:
        rows = (width, bottom - top)
        return image.resize(rows, Image.Resampling.BILINEAR, box=(0, top, image.width, bottom))

    lower = _pool.submit(across, half, image.height)
    narrow = Image.new("RGB", (width, image.height))
    narrow.paste(across(0, half), (0, 0))
    narrow.paste(lower.result(), (0, half))
    return narrow.resize(size, Image.Resampling.BILINEAR)


def _scaled(values: np.ndarray, preparation: Preparation) -> np.ndarray:
    if preparation.scale == "0..255":
        return values
    if preparation.scale == "-1..1":
        return values / 127.5 - 1
    if preparation.scale == "spread":
        spread: np.ndarray = (values / 255 - np.array(preparation.mean)) / np.array(preparation.spread)
        return spread
    return values / 255


def fitted(image: Image.Image, preparation: Preparation) -> Image.Image:
    """The picture in the size that is stated; a picture that has it already is not touched.

    Parameters
    ----------
    image : Image
        Of colour.
    preparation : Preparation
    """
    size = size_seen(image.size, preparation)
    if image.size == size:
        return image
    placement = placed(image.size, preparation)
    if preparation.fit == "crop" and not preparation.own_size:
        # Only what will be seen is resized: a strip of 20,000 pixels must not become a picture of millions.
        return image.resize(size, Image.Resampling.BILINEAR, box=placement.part)
    resized = _resized(image, placement.size)
    if preparation.own_size:
        # What is added beyond its edges goes on as they are, and is cut off again afterwards.
        beyond = ((0, size[1] - resized.height), (0, size[0] - resized.width), (0, 0))
        return Image.fromarray(np.pad(np.asarray(resized), beyond, mode="edge"))
    if preparation.fit == "stretch":
        return resized
    out = Image.new("RGB", size, tuple(preparation.border))
    out.paste(resized, placement.at)
    return out
