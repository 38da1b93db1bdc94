"""A film as people have it: what it is, and its frames one after another with their times.

Films come from strangers. Which container it is is told by its content, among the few that are named here: none of
them leads to another file or address, as lists of films do. How large its frames are and how long it lasts is looked at
before the second frame is decoded, and again at each frame, for what a file says of itself may be wrong.
"""

import itertools
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, BinaryIO, TypeAlias

import av
from av.container import InputContainer
from av.packet import Packet
from av.stream import Disposition, Stream
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from ..errors import FilmNotRead

__all__ = ["Film", "FilmFacts", "Shown", "length_words"]

CONTAINERS = "mov,matroska,avi,mpegts,mpeg,ogg,flv,asf,gif"
# As players show them. Decoders for what nobody films with any more are not tried: each is a way in.
CODECS = (
    "h264,hevc,av1,libdav1d,vp8,vp9,libvpx,libvpx-vp9,mpeg4,msmpeg4v2,msmpeg4,mpeg1video,mpeg2video,h263,flv,wmv1,wmv2,"
    "wmv3,vc1,mjpeg,theora,gif,prores,dnxhd,dvvideo,rawvideo,ffv1,huffyuv,ffvhuff,png"
)
OPTIONS = {"format_whitelist": CONTAINERS, "codec_whitelist": CODECS, "protocol_whitelist": ""}
DECODING_THREADS = 2
MICROSECONDS = 1_000_000
# How much of a film is gone through for its length, where it does not say it.
MOST_PACKETS = 5_000_000
# Frames a second beyond which a film is made to keep somebody busy.
MOST_RATE = 480
USUAL_RATE = Fraction(25)
AnyPacket: TypeAlias = "Packet[Any]"
# How JPEG and PNG begin.
PICTURES = (b"\xff\xd8\xff", b"\x89PNG")
SAVE_AS = "Save it as MP4 and try again."


@dataclass(frozen=True)
class FilmFacts:
    """What a film is.

    Attributes
    ----------
    width, height : int
        Of its frames as they are shown, upright, in pixels.
    seconds : float or None
        How long it lasts, as far as it says so or could be found out.
    rate : float
        Frames a second on average.
    has_sound : bool
    """

    width: int
    height: int
    seconds: float | None
    rate: float
    has_sound: bool


@dataclass(frozen=True)
class Shown:
    """A frame, and from when on it is shown, in seconds from the film's start."""

    frame: VideoFrame
    at: float


class Film:
    """An open film.

    Parameters
    ----------
    file : binary file
        Can be read from anywhere.
    most_pixels : int
        Films with larger frames are refused.
    most_seconds : float
        Longer ones too.

    Raises
    ------
    FilmNotRead
        If it is none, or too large, with a sentence for whoever chose it.
    """

    def __init__(self, file: BinaryIO, *, most_pixels: int, most_seconds: float) -> None:
        self._file, self._most_pixels, self._most_seconds = file, most_pixels, most_seconds
        self.container = _opened(file)
        self.stream = _stream(self.container)
        # Where players begin to count.
        self.start = (self.container.start_time or 0) / MICROSECONDS
        self.rate = _rate(self.stream)
        self._refuse_large(self.stream.codec_context.width, self.stream.codec_context.height)
        seconds = self._seconds()
        if seconds is not None and seconds > most_seconds:
            raise self._too_long(seconds)
        first = next(self.frames(), None)
        if first is None:
            raise FilmNotRead(f"The film has no frames that can be read. {SAVE_AS}")
        width, height = first.frame.width, first.frame.height
        if first.frame.rotation % 180:
            width, height = height, width
        has_sound = any(stream.type == "audio" for stream in self.container.streams)
        self.facts = FilmFacts(width, height, seconds, float(self.rate), has_sound)
        self._begin_again()

    def frames(self, take_sound: "Callable[[AnyPacket], None] | None" = None) -> Iterator[Shown]:
        """All frames from here to the end, in the order in which they are shown. What is damaged is left out.

        Parameters
        ----------
        take_sound : callable, optional
            Is given the packets of sound on the way.

        Raises
        ------
        FilmNotRead
            If frames grow too large on the way, or go on for too long.
        """
        last, step = None, float(1 / self.rate)
        n_frames, most_frames = 0, self._most_seconds * MOST_RATE
        streams = [self.stream, *(self.container.streams.audio if take_sound else ())]
        for packet in itertools.chain(_packets(self.container, *streams), [None]):
            if take_sound and packet is not None and packet.stream is not self.stream:
                take_sound(packet)
                continue
            for frame in _decoded(self.stream, packet):
                self._refuse_large(frame.width, frame.height)
                at = self._time_of(frame)
                if at is None or (last is not None and at <= last):
                    # Without a time of its own, or with one that goes back, it follows at the usual distance.
                    at = 0.0 if last is None else last + step
                n_frames += 1
                if at > self._most_seconds or n_frames > most_frames:
                    raise self._too_long(None)
                last = at
                yield Shown(frame, at)

    def _time_of(self, frame: VideoFrame) -> float | None:
        # Frames that waited in the decoder do not say what their time counts.
        if frame.pts is None or not self.stream.time_base:
            return None
        return float(frame.pts * self.stream.time_base) - self.start

    def _begin_again(self) -> None:
        self.container.close()
        self._file.seek(0)
        self.container = _opened(self._file)
        self.stream = _stream(self.container)

    def _seconds(self) -> float | None:
        stream, container = self.stream, self.container
        if stream.duration and stream.time_base:
            return float(stream.duration * stream.time_base)
        if container.duration:
            return container.duration / MICROSECONDS
        # As browsers record them: nothing in front says how long it became.
        seconds = _end_of(container, stream, self._most_seconds + self.start)
        self._begin_again()
        return None if seconds is None else max(0.0, seconds - self.start)

    def _refuse_large(self, width: int, height: int) -> None:
        if width * height > self._most_pixels:
            raise FilmNotRead(
                f"The film's frames have {width} × {height} pixels; the limit is {self._most_pixels / 1e6:.1f} million "
                "in all. Save it smaller and try again."
            )

    def _too_long(self, seconds: float | None) -> FilmNotRead:
        most = length_words(self._most_seconds)
        lasts = "goes on for longer than" if seconds is None else f"lasts {length_words(seconds)}; the limit is"
        return FilmNotRead(f"The film {lasts} {most}. Cut out the part that matters.")


def length_words(seconds: float) -> str:
    """A length as people say it: "45 seconds", "4 minutes", "1:30 minutes", "2:05 hours".

    Parameters
    ----------
    seconds : float
    """
    whole = round(seconds)
    if whole < 60:
        return f"{whole} second{'' if whole == 1 else 's'}"
    minutes, rest = divmod(whole, 60)
    if minutes < 60:
        number = f"{minutes}:{rest:02}" if rest else f"{minutes}"
        return f"{number} minute{'' if number == '1' else 's'}"
    hours, minutes = divmod(minutes, 60)
    number = f"{hours}:{minutes:02}" if minutes else f"{hours}"
    return f"{number} hour{'' if number == '1' else 's'}"


def _opened(file: BinaryIO) -> InputContainer:
    try:
        return av.open(file, "r", options=OPTIONS, metadata_errors="ignore")
    except (av.FFmpegError, ValueError, OSError, MemoryError):
        file.seek(0)
        head = file.read(12)
        if not head:
            raise FilmNotRead("The film is empty. Choose it again.") from None
        if head.startswith(PICTURES):
            raise FilmNotRead("This is a picture and no film. Give it as a picture.") from None
        if head[4:8] == b"ftyp":
            raise FilmNotRead(
                "The film breaks off: the part that says where its frames are is missing. Copy it again and send that."
            ) from None
        raise FilmNotRead(f"This file is no film that can be read here. {SAVE_AS}") from None


def _stream(container: InputContainer) -> VideoStream:
    """The first that moves: a picture of the cover is no film."""
    cover = Disposition.attached_pic
    found = [stream for stream in container.streams.video if not stream.disposition & cover]
    if not found:
        has_sound = any(stream.type == "audio" for stream in container.streams)
        what = "has sound only, and no picture" if has_sound else "has no picture"
        raise FilmNotRead(f"This film {what}. Choose one that shows something.")
    stream = found[0]
    if stream.codec_context is None:
        raise FilmNotRead(f"How this film is coded cannot be read here. {SAVE_AS}")
    stream.codec_context.thread_count = DECODING_THREADS
    stream.thread_type = "AUTO"
    return stream


def _rate(stream: VideoStream) -> Fraction:
    rate = stream.average_rate or stream.guessed_rate
    return rate if rate and 0 < rate <= MOST_RATE else USUAL_RATE


def _packets(container: InputContainer, *streams: Stream) -> Iterator[AnyPacket]:
    """What a film is made of, up to its end or to where it breaks off."""
    packets = container.demux(*streams)
    while True:
        try:
            packet = next(packets)
        except (StopIteration, av.FFmpegError):
            return
        # An empty one means the end, and is not needed for it.
        if packet.size:
            yield packet


def _decoded(stream: VideoStream, packet: "AnyPacket | None") -> Iterator[VideoFrame]:
    """The frames that a packet completes; without one, those that still wait in the decoder."""
    try:
        yield from stream.codec_context.decode(packet)
    except av.FFmpegError:
        # A damaged frame, as players skip it.
        return


def _end_of(container: InputContainer, stream: VideoStream, most_seconds: float) -> float | None:
    end = None
    for count, packet in enumerate(_packets(container, stream)):
        if packet.pts is None or not stream.time_base:
            continue
        end = max(end or 0.0, float((packet.pts + (packet.duration or 0)) * stream.time_base))
        if end > most_seconds or count > MOST_PACKETS:
            break
    return end
