"""Pictures and drawings: a large photograph over HTTP, where the model looked, and a stroke to its painted answer."""

import io
import json
import shutil
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import httpx
import numpy as np
import onnxruntime
from PIL import Image
from playwright.sync_api import sync_playwright

from plain_window.samples import SAMPLES
from plain_window.samples.how_is_the_glaze.tiles import make_tile
from tests.browser.conftest import ARGUMENTS

from .in_process import median_ms

__all__ = ["Pictures", "measure_pictures"]

GLAZE, MARK, FLAWS = "how-is-the-glaze", "whose-mark-is-it", "where-are-the-flaws"
MEGAPIXELS = (4000, 3000)
TIMES, AT_ONCE, LOOKS = 21, 16, 8
BATCHES = (1, 8, 16, 32, 64, 128)
STROKES, WARM_UP_STROKES = 60, 5
# From a pen that goes down to the first frame painted with another answer.
WATCH = """() => {
  window.spent = []
  let begun = null
  const painted = () => {
    if (begun === null) return
    const from = begun
    begun = null
    requestAnimationFrame(() => {
      const channel = new MessageChannel()
      channel.port1.onmessage = () => window.spent.push(performance.now() - from)
      channel.port2.postMessage(0)
    })
  }
  document.addEventListener('pointermove', (event) => { if (event.buttons) begun = performance.now() }, true)
  const look = () => new MutationObserver(painted).observe(document.querySelector('#answer'), {
    subtree: true, characterData: true, childList: true, attributes: true, attributeFilter: ['style', 'width', 'title'],
  })
  look()
}"""


@dataclass(frozen=True)
class Pictures:
    """Times in milliseconds, medians unless they say otherwise."""

    decoding_ms: float
    model_ms: float
    over_http_ms: float
    boxes_decoding_ms: float
    boxes_model_ms: float
    boxes_over_http_ms: float
    at_once_slowest_ms: float
    runner_peak_mb: float
    web_peak_mb: float
    sketch_ms: float
    looked_ms: float
    looked_n: int
    own_time_ms: float
    best_batch: int
    stroke_p50_ms: float
    stroke_p95_ms: float
    strokes: int

    def words(self) -> dict[str, str]:
        """For a table."""
        more = self.over_http_ms - self.decoding_ms - self.model_ms
        more_of_boxes = self.boxes_over_http_ms - self.boxes_decoding_ms - self.boxes_model_ms
        return {
            "decoding a 12-megapixel JPEG with Pillow; the model": f"{self.decoding_ms:.1f} and {self.model_ms:.2f} ms",
            "the same over HTTP; above both": f"{self.over_http_ms:.1f}; {more:.1f} ms",
            "boxes: decoding the same; the model": f"{self.boxes_decoding_ms:.1f} and {self.boxes_model_ms:.2f} ms",
            "boxes over HTTP; above both": f"{self.boxes_over_http_ms:.1f}; {more_of_boxes:.1f} ms",
            f"{AT_ONCE} at once: slowest; peak of the runner, of the largest web process": (
                f"{self.at_once_slowest_ms:.0f} ms; {self.runner_peak_mb:.0f}, {self.web_peak_mb:.0f} MB"
            ),
            "where it looked: first sketch over HTTP": f"{self.sketch_ms:.0f} ms",
            f"where it looked: all {self.looked_n} covered pictures": f"{self.looked_ms:.0f} ms",
            f"the model's own time for as many, {self.best_batch} at once": (
                f"{self.own_time_ms:.0f} ms: {self.looked_ms / self.own_time_ms:.2f} times"
            ),
            "stroke to painted answer, p50 and p95": f"{self.stroke_p50_ms:.0f} and {self.stroke_p95_ms:.0f} ms",
            "strokes": str(self.strokes),
        }


def measure_pictures(base: str, peak_memory_mb: Callable[[], dict[str, float]]) -> Pictures:
    """Ask the samples of a running Plain Window.

    Parameters
    ----------
    base : str
        Its address.
    peak_memory_mb : callable
        The peaks of its processes, by name.
    """
    photograph = _photograph()
    session = _session(SAMPLES[GLAZE] / "model.onnx")
    one = np.zeros((1, 3, 64, 64), dtype="float32")
    decoding, over_http, slowest = _asked_about(base, photograph, GLAZE)
    finder, tile = _session(SAMPLES[FLAWS] / "model.onnx"), np.zeros((1, 3, 120, 160), dtype="float32")
    boxes_decoding, boxes_over_http, _ = _asked_about(base, photograph, FLAWS)
    peaks = peak_memory_mb()
    best = min(BATCHES, key=lambda size: _batch_ms(session, size) / size)
    looks = [_look(base, seed, lambda: _batch_ms(session, best) / best) for seed in range(LOOKS)]
    stroke = _strokes(f"{base}/d/{MARK}")
    return Pictures(
        decoding_ms=decoding,
        model_ms=median_ms(lambda: session.run(None, {"picture": one}), 200),
        over_http_ms=over_http,
        boxes_decoding_ms=boxes_decoding,
        boxes_model_ms=median_ms(lambda: finder.run(None, {"picture": tile}), 200),
        boxes_over_http_ms=boxes_over_http,
        at_once_slowest_ms=slowest,
        runner_peak_mb=max(value for name, value in peaks.items() if name.startswith("runner")),
        web_peak_mb=max(value for name, value in peaks.items() if name.startswith("web")),
        sketch_ms=float(np.median([look.sketch_ms for look in looks])),
        looked_ms=float(np.mean([look.all_ms for look in looks])),
        looked_n=round(float(np.mean([look.n_asked for look in looks]))),
        own_time_ms=float(np.mean([look.own_ms for look in looks])),
        best_batch=best,
        stroke_p50_ms=float(np.percentile(stroke, 50)),
        stroke_p95_ms=float(np.percentile(stroke, 95)),
        strokes=len(stroke),
    )


def _session(path) -> onnxruntime.InferenceSession:
    """One thread, as runners have it: two cores are shared by all."""
    options = onnxruntime.SessionOptions()
    options.intra_op_num_threads = options.inter_op_num_threads = 1
    return onnxruntime.InferenceSession(path.read_bytes(), options)


def _batch_ms(session: onnxruntime.InferenceSession, size: int) -> float:
    pictures = np.random.default_rng(0).random((size, 3, 64, 64)).astype("float32")
    return median_ms(lambda: session.run(None, {"picture": pictures}), 20)


def _photograph() -> bytes:
    """Twelve megapixels of glaze, as a camera would save them."""
    tile = Image.fromarray(make_tile("crazing", np.random.default_rng(1))).resize(MEGAPIXELS, Image.Resampling.BICUBIC)
    grain = np.random.default_rng(2).normal(0, 4, (MEGAPIXELS[1], MEGAPIXELS[0], 1))
    content = io.BytesIO()
    Image.fromarray(np.clip(np.asarray(tile) + grain, 0, 255).astype("uint8")).save(content, "JPEG", quality=85)
    return content.getvalue()


def _asked_about(base: str, photograph: bytes, slug: str) -> tuple[float, float, float]:
    """Decoding alone and answers over HTTP in turns, since the machine's speed swings; the slowest of many at once."""
    path = f"{base}/api/v1/demos/{slug}/predictions"

    def ask(client: httpx.Client, at: int) -> float:
        # A byte behind the picture makes it another one: nothing remembered helps.
        files = {"picture": photograph + at.to_bytes(4, "big")}
        begun = time.perf_counter()
        client.post(path, files=files).raise_for_status()
        return (time.perf_counter() - begun) * 1000

    with httpx.Client(timeout=60) as client:
        alone, decoded = [], []
        for at in range(TIMES):
            decoded.append(median_ms(lambda: Image.open(io.BytesIO(photograph)).load(), 1))
            alone.append(ask(client, at))
        with ThreadPoolExecutor(AT_ONCE) as pool:
            together = list(pool.map(lambda at: ask(client, at), range(100, 100 + AT_ONCE)))
    return float(np.median(decoded)), float(np.median(alone)), max(together)


@dataclass(frozen=True)
class _Look:
    sketch_ms: float
    all_ms: float
    n_asked: int
    own_ms: float


def _look(base: str, seed: int, picture_ms: Callable[[], float]) -> _Look:
    """Until the first line, and all of it; and the model's own time for as many, measured before and after."""
    content = io.BytesIO()
    Image.fromarray(make_tile("crawling", np.random.default_rng(seed))).save(content, "PNG")
    before = picture_ms()
    with httpx.Client(timeout=60) as client:
        begun = time.perf_counter()
        path = f"{base}/api/v1/demos/{GLAZE}/where"
        with client.stream("POST", path, files={"picture": content.getvalue()}) as response:
            lines = response.iter_lines()
            next(lines)
            sketch = time.perf_counter() - begun
            *_, last = lines
        spent = time.perf_counter() - begun
    n_asked = json.loads(last)["n_asked"]
    return _Look(sketch * 1000, spent * 1000, n_asked, (before + picture_ms()) / 2 * n_asked)


def _strokes(url: str) -> list[float]:
    """Short strokes, each waited for."""
    random = np.random.default_rng(4)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=ARGUMENTS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(url)
        box = page.get_by_role("img", name="The mark").bounding_box()

        def stroke() -> None:
            x, y = (box[side] + random.uniform(0.2, 0.7) * box["width"] for side in ("x", "y"))
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x + 60, y + 20)
            page.mouse.up()
            page.wait_for_timeout(500)

        stroke()
        page.evaluate(WATCH)
        for at in range(WARM_UP_STROKES + STROKES):
            if at % 4 == 3:
                page.get_by_role("button", name="Clear").click()
                page.wait_for_timeout(200)
            stroke()
        spent = page.evaluate("window.spent")
        browser.close()
    return spent[WARM_UP_STROKES:]
