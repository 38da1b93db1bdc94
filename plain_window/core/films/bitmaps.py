"""A frame as the file of a picture, as cheap as that can be had: nothing is compressed, and nothing lost."""

import struct

import numpy as np
from av.video.frame import VideoFrame
from av.video.reformatter import Colorspace

__all__ = ["as_bitmap", "upright"]

# As in FFmpeg: what a file says of its colours where it says nothing.
UNSAID = 2
# From so many lines on, players take a film that does not say so for one of high definition, with its colours.
HIGH_LINES = 720
QUARTER_TURN = 90
FILE_HEADER, PICTURE_HEADER = struct.Struct("<2sIHHI"), struct.Struct("<IiiHHIIiiII")
BITS, DOTS_A_METRE, ROW_MULTIPLE = 24, 2835, 4


def upright(frame: VideoFrame) -> np.ndarray:
    """A frame's colours as players show them, turned as the camera was held.

    Parameters
    ----------
    frame : VideoFrame

    Returns
    -------
    ndarray of uint8, shape (height, width, 3)
        Blue, green and red.
    """
    unsaid = int(frame.colorspace) == UNSAID
    source = Colorspace.ITU709 if unsaid and frame.height >= HIGH_LINES else None
    colours = frame.reformat(format="bgr24", src_colorspace=source).to_ndarray()
    # The file says by how much it is to be turned against the clock.
    turns = round(frame.rotation / QUARTER_TURN) % 4
    return np.rot90(colours, turns) if turns else colours


def as_bitmap(colours: np.ndarray) -> bytes:
    """Colours as a BMP file.

    Parameters
    ----------
    colours : ndarray of uint8, shape (height, width, 3)
        Blue, green and red.
    """
    height, width = colours.shape[:2]
    row_bytes = -(-3 * width // ROW_MULTIPLE) * ROW_MULTIPLE
    lines = np.ascontiguousarray(colours).reshape(height, -1)
    if row_bytes != lines.shape[1]:
        lines = np.pad(lines, ((0, 0), (0, row_bytes - lines.shape[1])))
    start = FILE_HEADER.size + PICTURE_HEADER.size
    n_bytes = row_bytes * height
    return b"".join(
        (
            FILE_HEADER.pack(b"BM", start + n_bytes, 0, 0, start),
            # A height below nought: the first line is the uppermost.
            PICTURE_HEADER.pack(
                PICTURE_HEADER.size, width, -height, 1, BITS, 0, n_bytes, DOTS_A_METRE, DOTS_A_METRE, 0, 0
            ),
            lines.data,
        )
    )
