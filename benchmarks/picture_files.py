"""Files that look at pictures without a server, opened from a disk: part of `./plainwindow bench --take-away`."""

import io
import statistics
import time
from collections.abc import Mapping
from pathlib import Path

import httpx
import numpy as np
import onnx
from onnx import TensorProto, helper, numpy_helper
from PIL import Image
from playwright.sync_api import Browser, Page

from .servers import Running

__all__ = ["bring_photographs", "pictures_opened"]

TIMES, LOOK_MS = 5, 4000
# Of a made-up network for photographs: 25 MB in single precision.
CHANNELS, SIDE, N_CLASSES = (32, 64, 128, 256, 512, 512, 512), 224, 10
SIZES = ((480, 360), (500, 375), (510, 380), (520, 390), (530, 400))


def bring_photographs(server: Running, key: str, slug: str) -> None:
    """Bring a network of the size of those for photographs, and publish it.

    Parameters
    ----------
    server : Running
    key : str
        Of its author.
    slug : str
    """
    api = httpx.Client(
        base_url=f"http://127.0.0.1:{server.port}/api/v1", headers={"Authorization": f"Bearer {key}"}, timeout=300
    )
    api.post("/demos", files={"model": ("photographs.onnx", _network())}, data={"slug": slug}).raise_for_status()


def pictures_opened(browser: Browser, file: Path) -> str:
    """From the navigation until the page is drawn and answers for the first time; later answers; how fast it looks.

    Parameters
    ----------
    browser : Browser
    file : Path
    """
    drawn, first, later, looked = [], [], [], []
    for _ in range(TIMES):
        page = browser.new_context(offline=True).new_page()
        begun = time.perf_counter()
        page.goto(file.as_uri())
        page.get_by_text("Choose a picture").first.wait_for()
        drawn.append(time.perf_counter() - begun)
        first.append(time.perf_counter() - begun + _answered(page, SIZES[0]))
        later += [_answered(page, size) for size in SIZES[1:]]
        page.wait_for_timeout(LOOK_MS)
        words = page.locator("#answer").inner_text().split(" partly covered pictures")[0].rsplit(" ", 1)[-1]
        n_looked = words.replace(",", "")
        looked.append(int(n_looked) / (LOOK_MS / 1000) if n_looked.isdecimal() else 0.0)
        page.context.close()
    middle = statistics.median
    return (
        f"drawn after {middle(drawn):.2f} s, first answer after {middle(first):.2f} s, a later one after "
        f"{1000 * middle(later):.0f} ms; {middle(looked):.0f} covered pictures a second"
    )


def _answered(page: Page, size: tuple[int, int]) -> float:
    """How many seconds a picture that nobody has shown yet takes until its answer stands there."""
    content = io.BytesIO()
    Image.fromarray(np.random.default_rng(size).integers(0, 256, (size[1], size[0], 3), dtype="uint8")).save(
        content, "JPEG"
    )
    picture: Mapping[str, object] = {"name": "p.jpg", "mimeType": "image/jpeg", "buffer": content.getvalue()}
    before = page.locator("#answer img").count()
    begun = time.perf_counter()
    page.locator("input[type=file]").first.set_input_files([picture])  # type: ignore[list-item]
    page.locator("#answer[aria-busy=true]").or_(page.locator("#answer h2")).first.wait_for()
    page.locator("#answer[aria-busy=false] h2").first.wait_for()
    page.wait_for_function("before => document.querySelectorAll('#answer img').length >= before", arg=before)
    taken = time.perf_counter() - begun
    if page.get_by_text("No answer for this").count():
        raise RuntimeError(f"The file gave no answer: {page.locator('#answer').inner_text()}")
    return taken


def _network() -> bytes:
    rng = np.random.default_rng(0)
    nodes, weights, source, n_in = [], [], "picture", 3
    for at, n_out in enumerate(CHANNELS):
        own = (rng.normal(size=(n_out, n_in, 3, 3)) * np.sqrt(2 / (9 * n_in))).astype("float32")
        weights.append(numpy_helper.from_array(own, f"weights{at}"))
        stride = 2 if at % 2 == 0 else 1
        nodes += [
            helper.make_node(
                "Conv", [source, f"weights{at}"], [f"sum{at}"], pads=[1, 1, 1, 1], strides=[stride, stride]
            ),
            helper.make_node("Relu", [f"sum{at}"], [f"layer{at}"]),
        ]
        source, n_in = f"layer{at}", n_out
    weights.append(numpy_helper.from_array(rng.normal(size=(n_in, N_CLASSES)).astype("float32"), "last"))
    nodes += [
        helper.make_node("GlobalAveragePool", [source], ["mean"]),
        helper.make_node("Flatten", ["mean"], ["flat"]),
        helper.make_node("MatMul", ["flat", "last"], ["scores"]),
    ]
    graph = helper.make_graph(
        nodes,
        "photographs",
        [helper.make_tensor_value_info("picture", TensorProto.FLOAT, ["n", 3, SIDE, SIDE])],
        [helper.make_tensor_value_info("scores", TensorProto.FLOAT, ["n", N_CLASSES])],
        weights,
    )
    model: onnx.ModelProto = helper.make_model(graph, opset_imports=[helper.make_opsetid("", 17)], ir_version=8)
    content: bytes = model.SerializeToString()
    return content
