"""A file's content as upright colour pixels, or a sentence about why not.

Pictures come from strangers: what kind one is is told by its content, its size is looked at before anything is decoded,
and only decoders for the kinds named here are ever tried.
"""

import io
import struct
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageOps, UnidentifiedImageError

from ..errors import PictureNotRead

__all__ = ["KINDS", "MOST_PIXELS", "Picture", "read_picture"]

MOST_PIXELS = 50_000_000
KINDS = ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF")
# What files say of themselves that are pictures, but of no kind that is taken.
HEIC_BRANDS = (b"heic", b"heix", b"hevc", b"heim", b"heis", b"mif1", b"msf1")
WHITE = (255, 255, 255)
# The beginning of a bitmap file: of the file, then of the picture up to how it is packed.
BITMAP = struct.Struct("<2sIHHIIiiHHI")
# From sixteen bits to eight.
TO_EIGHT_BITS = 257


@dataclass(frozen=True)
class Picture:
    """A file's picture.

    Attributes
    ----------
    image : Image
        Upright, of colour.
    notes : list of str
        What a visitor should know was done to it.
    full : (int, int)
        Its width and height, had it been decoded in full.
    kind : str
        Of the file, as Pillow calls it: one of `KINDS`.
    """

    image: Image.Image
    notes: list[str]
    full: tuple[int, int]
    kind: str

    @property
    def pixels(self) -> np.ndarray:
        """Shape (height, width, 3), uint8."""
        return np.asarray(self.image)


def read_picture(
    content: bytes,
    *,
    behind: tuple[int, int, int] = WHITE,
    most_pixels: int = MOST_PIXELS,
    enough: tuple[int, int] | None = None,
) -> Picture:
    """The picture in a file's content.

    Parameters
    ----------
    content : bytes
    behind : (int, int, int)
        The colour that see-through places are laid on.
    most_pixels : int
        Larger pictures are refused before they are decoded.
    enough : (int, int), optional
        A width and height that are all that is wanted of it: a larger JPEG may be decoded at a half, a quarter or an
        eighth of its size, never below this.

    Raises
    ------
    PictureNotRead
        With a sentence for the visitor.
    """
    if not content:
        raise PictureNotRead("The picture is empty. Choose another.")
    _refuse_known_strangers(content)
    # Our own limit is stricter, and is checked before anything is decoded.
    Image.MAX_IMAGE_PIXELS = None
    try:
        image = _plain_bitmap(content, most_pixels) or Image.open(io.BytesIO(content), formats=KINDS)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, TypeError, OverflowError) as error:
        raise PictureNotRead("This file is no picture that can be read here. Try a JPEG or PNG.") from error
    kind = image.format or "BMP"
    width, height = image.size
    if width * height > most_pixels:
        raise PictureNotRead(
            f"This picture has {width} × {height} pixels; the limit is {most_pixels // 1_000_000} million in all. "
            "Try a smaller one."
        )
    notes = []
    if getattr(image, "n_frames", 1) > 1:
        notes.append("Of a moving picture the first frame is taken.")
    try:
        if enough is not None:
            image.draft(None, enough)
        image.load()
        lying = image.size
        # In place: a copy of what stands upright already would take a tenth of the time of decoding it.
        ImageOps.exif_transpose(image, in_place=True)
        upright = _colour(image, behind)
    except (OSError, ValueError, SyntaxError, TypeError, MemoryError, EOFError, IndexError) as error:
        raise PictureNotRead("This picture is cut off or damaged. Try it once more, or another one.") from error
    # A phone that was held upright saves the picture on its side.
    full = (width, height) if upright.size == lying else (height, width)
    return Picture(upright, notes, full, kind)


def _plain_bitmap(content: bytes, most_pixels: int) -> Image.Image | None:
    """The picture of a bitmap that begins with its uppermost line, as frames of films come: in less than half the time
    that reading it as a file takes. None for any other file.
    """
    if content[:2] != b"BM" or len(content) < BITMAP.size:
        return None
    _, _, _, _, start, size, width, height, planes, bits, packed = BITMAP.unpack_from(content)
    row_bytes = -(-3 * width // 4) * 4
    is_plain = (size, planes, bits, packed) == (40, 1, 24, 0) and width > 0 > height and start >= BITMAP.size
    if not is_plain or width * -height > most_pixels or len(content) < start + row_bytes * -height:
        return None
    pixels = np.frombuffer(content, "uint8", offset=start)
    return Image.frombuffer("RGB", (width, -height), pixels, "raw", "BGR", row_bytes, 1)


def _refuse_known_strangers(content: bytes) -> None:
    head = content[:512].lstrip(b"\xef\xbb\xbf \t\r\n")
    if content[4:8] == b"ftyp" and content[8:12] in HEIC_BRANDS:
        raise PictureNotRead(
            "This is a HEIC picture, as some phones take them. Save it as JPEG, or set the phone to “most compatible”."
        )
    if head[:5].lower() == b"<?xml" or b"<svg" in head.lower():
        raise PictureNotRead("This is a drawing of lines (SVG), not a photograph. Save it as PNG first.")


def _colour(image: Image.Image, behind: tuple[int, int, int]) -> Image.Image:
    """Eight bits a channel, red, green and blue, nothing see-through."""
    if image.mode.startswith("I;16") or image.mode == "I":
        grey = np.asarray(image).astype("float64")
        # Thirty-two bits are only how sixteen are handed on.
        eight = np.clip(np.rint(grey / TO_EIGHT_BITS), 0, 255).astype("uint8")
        return Image.fromarray(eight).convert("RGB")
    if image.mode == "F":
        raise ValueError("pictures of real numbers have no fixed white")
    if image.mode in ("RGBA", "LA", "PA", "RGBa", "La") or "transparency" in image.info:
        layer = image.convert("RGBA")
        under = Image.new("RGBA", layer.size, (*behind, 255))
        return Image.alpha_composite(under, layer).convert("RGB")
    return image if image.mode == "RGB" else image.convert("RGB")
