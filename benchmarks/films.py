"""Films against decoding and the model alone: `./plainwindow bench --films`."""

import datetime as dt
import io
import itertools
import json
import tempfile
import time
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import onnxruntime
from onnx import TensorProto, helper, numpy_helper

from plain_window.samples import SAMPLES
from plain_window.samples.along_the_belt.belt import SIZE, make_belt, seen_at

from .asking import CASE, asked, followed, p95_ms
from .report import print_measures
from .servers import Running, plain_window

__all__ = ["measure_films"]

DEMO = "along-the-belt"
SEEN, HEAVY_SEEN = (160, 120), (320, 240)
FILM_RATE = 30
# How many times as large as a belt's photographs the frames are, for how many seconds.
FILMS = {"320 × 240": (1, 40), "1280 × 960": (4, 10), "1920 × 1440": (6, 8)}
RATES = (5.0, 30.0)
TURNS = 2
HEAVY_CHANNELS = (3, 24, 32, 32)


def measure_films() -> None:
    """Measure and print: frames a second beside decoding and the model alone, and what visitors notice meanwhile."""
    words: dict[str, str] = {}
    light, heavy = (SAMPLES[DEMO] / "model.onnx").read_bytes(), _heavy_model()
    with tempfile.TemporaryDirectory() as scratch, plain_window(Path(scratch) / "home") as server:
        key = server.new_key()
        slug = _bring(server, key, heavy)
        for name, (times, seconds) in FILMS.items():
            film = _film(times, seconds)
            for what, demo, model, seen in (("light", DEMO, light, SEEN), ("heavy", slug, heavy, HEAVY_SEEN)):
                for rate in RATES if what == "light" else RATES[:1]:
                    words[f"{name}, {rate:g} of {FILM_RATE} frames a second, {what} model"] = _compared(
                        server, key, film, demo=demo, model=model, seen=seen, rate=rate
                    )
        idle = p95_ms(server, "will-it-crack", json.dumps({"inputs": CASE}))
        address = _send(server, key, DEMO, _film(4, 20), 30.0)
        busy = p95_ms(server, "will-it-crack", json.dumps({"inputs": CASE}))
        _forget(server, key, address)
        words["another demo's answers, p95: idle, and while a film is looked at"] = f"{idle:.1f} and {busy:.1f} ms"
    print_measures("Films: frames a second from the first to the last, and from sending", words)


def _compared(
    server: Running, key: str, film: bytes, *, demo: str, model: bytes, seen: tuple[int, int], rate: float
) -> str:
    plain = min(_plain_seconds(film, model, seen, rate) for _ in range(TURNS))
    found = min(_job_seconds(server, key, demo, film, rate) for _ in range(TURNS))
    seconds, whole, n_frames = found
    return (
        f"{n_frames / seconds:.1f} ({n_frames / whole:.1f}); decoding and the model alone {n_frames / plain:.1f}: "
        f"{plain / seconds:.2f} ({plain / whole:.2f}) times as fast"
    )


def _heavy_model() -> bytes:
    """A network with chance weights that takes as long as larger ones do, of three classes."""
    rng, nodes, constants, last = np.random.default_rng(1), [], [], "picture"
    for at, (n_in, n_out) in enumerate(itertools.pairwise(HEAVY_CHANNELS)):
        weights = (rng.normal(size=(n_out, n_in, 3, 3)) / np.sqrt(9 * n_in)).astype("float32")
        constants.append(numpy_helper.from_array(weights, f"w{at}"))
        nodes.append(helper.make_node("Conv", [last, f"w{at}"], [f"c{at}"], pads=[1, 1, 1, 1]))
        nodes.append(helper.make_node("Relu", [f"c{at}"], [last := f"r{at}"]))
    constants.append(numpy_helper.from_array(rng.normal(size=(HEAVY_CHANNELS[-1], 3)).astype("float32"), "head"))
    nodes.append(helper.make_node("GlobalAveragePool", [last], ["pooled"]))
    nodes.append(helper.make_node("Flatten", ["pooled"], ["flat"]))
    nodes.append(helper.make_node("MatMul", ["flat", "head"], ["scores"]))
    nodes.append(helper.make_node("Softmax", ["scores"], ["probabilities"]))
    shape = ["n", 3, HEAVY_SEEN[1], HEAVY_SEEN[0]]
    graph = helper.make_graph(
        nodes,
        "heavy",
        [helper.make_tensor_value_info("picture", TensorProto.FLOAT, shape)],
        [helper.make_tensor_value_info("probabilities", TensorProto.FLOAT, ["n", 3])],
        constants,
    )
    model = helper.make_model(graph, opset_imports=[helper.make_opsetid("", 17)], ir_version=8)
    return bytes(model.SerializeToString())


def _bring(server: Running, key: str, model: bytes) -> str:
    body, kind = _multipart({"title": b"Heavy", "labels": b"one\ntwo\nthree\n", "model": model})
    with asked(server, key, "POST", "/api/v1/demos", body, {"Content-Type": kind}) as response:
        made = json.loads(response.read())
    assert response.status == 201, made
    return str(made["slug"])


def _film(times: int, seconds: int) -> bytes:
    """A belt that passes, as a camera saves it."""
    rng = np.random.default_rng(2)
    belt = make_belt(SIZE[0] + 2 * FILM_RATE * seconds, rng)
    file = io.BytesIO()
    with av.open(file, "w", format="mp4") as made:
        stream = made.add_stream("libx264", rate=FILM_RATE, options={"preset": "veryfast", "crf": "23"})
        stream.width, stream.height, stream.pix_fmt = SIZE[0] * times, SIZE[1] * times, "yuv420p"
        for at in range(FILM_RATE * seconds):
            photograph, _ = seen_at(belt, 2 * at, rng)
            large = np.repeat(np.repeat(photograph, times, axis=0), times, axis=1)
            frame = av.VideoFrame.from_ndarray(large, format="rgb24").reformat(format="yuv420p")
            frame.pts, frame.time_base = at, Fraction(1, FILM_RATE)
            made.mux(stream.encode(frame))
        made.mux(stream.encode(None))
    return file.getvalue()


def _plain_seconds(film: bytes, model: bytes, seen: tuple[int, int], rate: float) -> float:
    """Every frame decoded, and the model run for each that is asked about, on a picture that is ready."""
    session = onnxruntime.InferenceSession(model)
    ready = np.zeros((1, 3, seen[1], seen[0]), "float32")
    name, step = session.get_inputs()[0].name, round(FILM_RATE / rate)
    begun = time.perf_counter()
    with av.open(io.BytesIO(film)) as opened:
        stream = opened.streams.video[0]
        stream.thread_type, stream.codec_context.thread_count = "AUTO", 2
        for at, _ in enumerate(opened.decode(stream)):
            if at % step == 0:
                session.run(None, {name: ready})
    return time.perf_counter() - begun


def _job_seconds(server: Running, key: str, demo: str, film: bytes, rate: float) -> tuple[float, float, int]:
    """From its first moment to its last, from sending to the last, and frames."""
    begun = time.perf_counter()
    address = _send(server, key, demo, film, rate)
    job = followed(server, key, address)
    whole = time.perf_counter() - begun
    assert (job["state"], job["faults"]) == ("done", 0), job
    _forget(server, key, address)
    started, ended = (dt.datetime.fromisoformat(job[name]) for name in ("started", "ended"))
    return (ended - started).total_seconds(), whole, job["done"]


def _send(server: Running, key: str, demo: str, film: bytes, rate: float) -> str:
    body, kind = _multipart({"options": json.dumps({"rate": rate}).encode(), "video": film})
    with asked(server, key, "POST", f"/api/v1/demos/{demo}/jobs", body, {"Content-Type": kind}) as response:
        assert response.status == 202, response.read()
        return response.headers["Location"]


def _multipart(parts: dict[str, bytes]) -> tuple[bytes, str]:
    boundary = "plain-window-bench"
    head = f"--{boundary}\r\nContent-Disposition: form-data; name="
    body = b"".join(
        f'{head}"{name}"{"; filename=a.bin" * (name in ("model", "video"))}\r\n\r\n'.encode() + content + b"\r\n"
        for name, content in parts.items()
    )
    return body + f"--{boundary}--\r\n".encode(), f"multipart/form-data; boundary={boundary}"


def _forget(server: Running, key: str, address: str) -> None:
    with asked(server, key, "DELETE", address) as response:
        response.read()
