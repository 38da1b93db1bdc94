"""A film again with boxes drawn into its frames: every frame at its time, in its size, with the sound it had."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from typing import Any, cast

import av
import numpy as np
from av.audio.stream import AudioStream
from av.container import OutputContainer
from av.packet import Packet
from av.video.frame import VideoFrame
from av.video.reformatter import ColorRange, Colorspace
from av.video.stream import VideoStream
from PIL import Image

from ..boxes.drawing import draw_boxes
from ..contract.films import DrawnMoment
from .bitmaps import upright
from .reading import Film, Shown

__all__ = ["film_with_boxes"]

# H.264 in MP4 is what every player plays; in pieces, so that it can be sent while it is made.
CONTAINER, CODEC, PIXELS = "mp4", "libx264", "yuv420p"
PIECES = {"movflags": "frag_keyframe+empty_moov+default_base_moof"}
# Sharp enough for thin lines, and quick. Without frames made of later ones: in pieces those would shift all times.
QUALITY = {"preset": "veryfast", "crf": "20", "bf": "0"}
ENCODING_THREADS = 2
# A fine clock: films with frames at odd times keep them.
CLOCK = Fraction(1, 90_000)
# What may stand in an MP4 as it is.
SOUNDS = ("aac", "mp3", "ac3", "opus", "alac", "flac")


class _Sink:
    """What is written, until it is taken."""

    def __init__(self) -> None:
        self._parts: list[bytes] = []

    def write(self, content: bytes) -> int:
        self._parts.append(bytes(content))
        return len(content)

    def taken(self) -> bytes:
        parts, self._parts = self._parts, []
        return b"".join(parts)


def film_with_boxes(film: Film, moments: Sequence[DrawnMoment]) -> Iterator[bytes]:
    """The film with boxes as an MP4, in parts; empty ones where nothing is ready yet.

    Parameters
    ----------
    film : Film
        Just opened.
    moments : sequence of DrawnMoment
        In the order of their times. What is drawn at one stays until the next.

    Raises
    ------
    FilmNotRead
        As `Film.frames` does.
    """
    sink = _Sink()
    with av.open(sink, "w", format=CONTAINER, options=PIECES) as made:
        width, height = (side // 2 * 2 or 2 for side in (film.facts.width, film.facts.height))
        pictures = _picture_stream(made, film, width, height)
        sound = _Sound(made, film)
        place = -1
        for shown in film.frames(sound.take):
            while place + 1 < len(moments) and moments[place + 1].at <= shown.at + 1e-6:
                place += 1
            boxes = moments[place].boxes if place >= 0 else []
            colours = upright(shown.frame)
            if boxes:
                picture = Image.fromarray(np.ascontiguousarray(colours[:, :, ::-1]))
                colours = np.asarray(draw_boxes(picture, boxes))[:, :, ::-1]
            for packet in pictures.encode(_encodable(colours[:height, :width], shown)):
                made.mux(packet)
            yield sink.taken()
        for packet in pictures.encode(None):
            made.mux(packet)
    yield sink.taken()


def _picture_stream(made: OutputContainer, film: Film, width: int, height: int) -> VideoStream:
    stream = cast(VideoStream, made.add_stream(CODEC, rate=film.rate, options=dict(QUALITY)))
    stream.width, stream.height, stream.pix_fmt = width, height, PIXELS
    stream.codec_context.time_base = CLOCK
    stream.codec_context.thread_count = ENCODING_THREADS
    # Said in the file, so that every player shows the same colours.
    stream.codec_context.colorspace = Colorspace.ITU709
    stream.codec_context.color_range = ColorRange.MPEG
    return stream


def _encodable(colours: np.ndarray, shown: Shown) -> VideoFrame:
    frame = VideoFrame.from_ndarray(np.ascontiguousarray(colours), format="bgr24").reformat(
        format=PIXELS, dst_colorspace=Colorspace.ITU709, dst_color_range=ColorRange.MPEG
    )
    frame.pts, frame.time_base = round(shown.at / CLOCK), CLOCK
    return frame


class _Sound:
    """The film's sound, handed on as it is where an MP4 can hold it."""

    def __init__(self, made: OutputContainer, film: Film) -> None:
        self._made, self._film = made, film
        found = next((one for one in film.container.streams.audio if one.codec_context is not None), None)
        fits = found is not None and found.codec_context.name in SOUNDS
        self.stream = found if fits else None
        self._to: AudioStream | None = made.add_stream_from_template(found) if fits and found is not None else None

    def take(self, packet: "Packet[Any]") -> None:
        if self._to is None or packet.stream is not self.stream or packet.pts is None or packet.dts is None:
            return
        start = round(self._film.start / packet.time_base)
        packet.pts, packet.dts = packet.pts - start, packet.dts - start
        if packet.dts < 0:
            # What coders put in front of the first tone: with it everything else would move.
            return
        packet.stream = self._to
        self._made.mux(packet)
