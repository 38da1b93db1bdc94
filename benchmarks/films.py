"""Films against decoding and the model alone: `./plainwindow bench --films`."""

import io
import json
import tempfile
import time
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import onnxruntime

from plain_window.samples import SAMPLES
from plain_window.samples.along_the_belt.belt import SIZE, make_belt, seen_at

from .asking import CASE, asked, followed, p95_ms
from .report import print_measures
from .servers import Running, plain_window

__all__ = ["measure_films"]

DEMO = "along-the-belt"
SEEN = (160, 120)
FILM_RATE, FILM_SECONDS = 30, 20
# How many times as large as a belt's photographs the frames are, and how many of a second are asked about.
SIZES = {"320 × 240": 1, "1280 × 960": 4, "1920 × 1440": 6}
RATES = (5.0, 30.0)
TURNS = 3


def measure_films() -> None:
    """Measure and print: frames a second beside decoding and the model alone, and what visitors notice meanwhile."""
    words: dict[str, str] = {}
    with tempfile.TemporaryDirectory() as scratch, plain_window(Path(scratch) / "home") as server:
        key = server.new_key()
        for name, times in SIZES.items():
            film = _film(times)
            for rate in RATES:
                plain = min(_plain_seconds(film, rate) for _ in range(TURNS))
                seconds, n_frames = min(_job_seconds(server, key, film, rate) for _ in range(TURNS))
                words[f"{name}, {n_frames} frames of {FILM_SECONDS} s asked about"] = (
                    f"{n_frames / seconds:.0f} a second; decoding and the model alone {n_frames / plain:.0f}: "
                    f"{plain / seconds:.2f} times as fast"
                )
        idle = p95_ms(server, "will-it-crack", json.dumps({"inputs": CASE}))
        address = _send(server, key, _film(4), 30.0)
        busy = p95_ms(server, "will-it-crack", json.dumps({"inputs": CASE}))
        _forget(server, key, address)
        words["another demo's answers, p95: idle, and while a film is looked at"] = f"{idle:.1f} and {busy:.1f} ms"
    print_measures("Films, from sending to the last answer", words)


def _film(times: int) -> bytes:
    """A belt that passes, as a camera saves it."""
    rng = np.random.default_rng(2)
    belt = make_belt(SIZE[0] + 2 * FILM_RATE * FILM_SECONDS, rng)
    file = io.BytesIO()
    with av.open(file, "w", format="mp4") as made:
        stream = made.add_stream("libx264", rate=FILM_RATE, options={"preset": "veryfast", "crf": "23"})
        stream.width, stream.height, stream.pix_fmt = SIZE[0] * times, SIZE[1] * times, "yuv420p"
        for at in range(FILM_RATE * FILM_SECONDS):
            photograph, _ = seen_at(belt, 2 * at, rng)
            large = np.repeat(np.repeat(photograph, times, axis=0), times, axis=1)
            frame = av.VideoFrame.from_ndarray(large, format="rgb24").reformat(format="yuv420p")
            frame.pts, frame.time_base = at, Fraction(1, FILM_RATE)
            made.mux(stream.encode(frame))
        made.mux(stream.encode(None))
    return file.getvalue()


def _plain_seconds(film: bytes, rate: float) -> float:
    """Every frame decoded, and the model run for each that is asked about, on a picture that is ready."""
    model = onnxruntime.InferenceSession((SAMPLES[DEMO] / "model.onnx").read_bytes())
    ready = np.zeros((1, 3, SEEN[1], SEEN[0]), "float32")
    name, step = model.get_inputs()[0].name, round(FILM_RATE / rate)
    begun = time.perf_counter()
    with av.open(io.BytesIO(film)) as opened:
        stream = opened.streams.video[0]
        stream.thread_type, stream.codec_context.thread_count = "AUTO", 2
        for at, _ in enumerate(opened.decode(stream)):
            if at % step == 0:
                model.run(None, {name: ready})
    return time.perf_counter() - begun


def _job_seconds(server: Running, key: str, film: bytes, rate: float) -> tuple[float, int]:
    begun = time.perf_counter()
    address = _send(server, key, film, rate)
    job = followed(server, key, address)
    seconds = time.perf_counter() - begun
    assert job["state"] == "done", job
    _forget(server, key, address)
    return seconds, job["done"]


def _send(server: Running, key: str, film: bytes, rate: float) -> str:
    boundary, part = "plain-window-bench", "Content-Disposition: form-data; name="
    options = json.dumps({"rate": rate})
    head = f'--{boundary}\r\n{part}"options"\r\n\r\n{options}\r\n--{boundary}\r\n{part}"video"; filename="belt.mp4"'
    body = head.encode() + b"\r\n\r\n" + film + f"\r\n--{boundary}--\r\n".encode()
    headers = {"Content-Type": f"multipart/form-data; boundary={boundary}"}
    with asked(server, key, "POST", f"/api/v1/demos/{DEMO}/jobs", body, headers) as response:
        assert response.status == 202, response.read()
        return response.headers["Location"]


def _forget(server: Running, key: str, address: str) -> None:
    with asked(server, key, "DELETE", address) as response:
        response.read()
