"""Films made by PyAV in the kinds that people have, with frames that are known."""

import io
from collections.abc import Sequence
from fractions import Fraction

import av
import numpy as np

__all__ = ["film_of", "plain_frames", "sound_only"]


def film_of(
    frames: Sequence[np.ndarray],
    *,
    kind: str = "matroska",
    codec: str = "ffv1",
    rate: int = 10,
    times: Sequence[float] | None = None,
    sound: str = "",
    options: dict[str, str] | None = None,
) -> bytes:
    """A film of these frames, each of shape (height, width, 3), uint8. `ffv1` loses nothing.

    With `times`, in seconds, the frames follow at those; with `sound`, a codec's name, there is a tone beside them.
    """
    file = io.BytesIO()
    clock = Fraction(1, 1000)
    with av.open(file, "w", format=kind, options=options or {}) as made:
        pictures = made.add_stream(codec, rate=rate)
        pictures.height, pictures.width = frames[0].shape[:2]
        pictures.pix_fmt = {"ffv1": "bgr0", "gif": "rgb8"}.get(codec, "yuv420p")
        pictures.codec_context.time_base = clock if times else Fraction(1, rate)
        tones = made.add_stream(sound, rate=48_000, layout="mono") if sound else None
        for at, colours in enumerate(frames):
            frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(colours), format="rgb24").reformat(
                format=pictures.pix_fmt
            )
            frame.pts = round(times[at] / clock) if times else at
            frame.time_base = pictures.codec_context.time_base
            made.mux(pictures.encode(frame))
        made.mux(pictures.encode(None))
        if tones is not None:
            for at in range(int(len(frames) / rate * 48_000) // 1024):
                tone = av.AudioFrame.from_ndarray(np.zeros((1, 1024), "int16"), format="s16", layout="mono")
                tone.sample_rate, tone.pts = 48_000, 1024 * at
                made.mux(tones.encode(tone))
            made.mux(tones.encode(None))
    return file.getvalue()


def sound_only() -> bytes:
    """Two seconds of silence as MP4, as a recorder saves them."""
    file = io.BytesIO()
    with av.open(file, "w", format="mp4") as made:
        tones = made.add_stream("aac", rate=48_000, layout="mono")
        for at in range(96):
            tone = av.AudioFrame.from_ndarray(np.zeros((1, 1024), "int16"), format="s16", layout="mono")
            tone.sample_rate, tone.pts = 48_000, 1024 * at
            made.mux(tones.encode(tone))
        made.mux(tones.encode(None))
    return file.getvalue()


def plain_frames(content: bytes) -> list[tuple[float, np.ndarray]]:
    """Time and colours of each frame, as plainly as PyAV gives them."""
    with av.open(io.BytesIO(content)) as film:
        return [(frame.time, frame.to_ndarray(format="rgb24")) for frame in film.decode(video=0)]
