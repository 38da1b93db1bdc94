"""Models that look at pictures, asked in a browser: what is said there of any picture is what the server says of it."""

import base64
import io
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import numpy as np
import pytest
from lightgbm import LGBMClassifier
from onnx import TensorProto
from PIL import Image
from playwright.sync_api import BrowserContext, Page, expect
from sklearn.ensemble import RandomForestClassifier
from sklearn.feature_selection import VarianceThreshold
from sklearn.linear_model import LogisticRegression
from sklearn.neighbors import KNeighborsClassifier
from sklearn.neural_network import MLPClassifier
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import MinMaxScaler, StandardScaler
from sklearn.svm import SVC

from ..core.test_picture_models import network
from ..made_models import dumped
from ..marks import archive_of, marks
from ..studio import Studio
from .conftest import WAIT_MS, violations
from .test_in_browser import answering_in_browsers
from .test_take_away import WAS_RIGHT, changed_copy

GLAZE, MARK = "how-is-the-glaze", "whose-mark-is-it"
PARTS = "explanation,seen"
# Single precision, added in another order.
WITHIN = 1e-5
SERVE = """async ({data, given, parts}) => {
  const textOf = (id) => document.getElementById(id).textContent
  const {mark} = document.getElementById('root').dataset
  const blocks = {content: textOf('content'), model: textOf('model'), engine: textOf('engine'), mark}
  window.served ??= await plainWindowServing.serve(blocks)
  const file = new Blob([Uint8Array.from(atob(data), (one) => one.charCodeAt(0))])
  const inputs = {picture: {file, ...given}}
  return (await window.served.ask({what: 'predictions', query: {with: parts}, inputs})).body
}"""


@pytest.fixture(scope="module")
def author(studio: Studio, key: str) -> Iterator[httpx.Client]:
    with studio.client(key=key) as author:
        yield author


def taken(author: httpx.Client, slug: str, folder: Path) -> Path:
    response = author.get(f"/api/v1/demos/{slug}/take-away")
    assert response.status_code == 200, response.text
    path = folder / f"{slug}.html"
    path.write_bytes(response.content)
    return path


@pytest.fixture(scope="module")
def files(author: httpx.Client, tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    return {slug: taken(author, slug, tmp_path_factory.mktemp("stick")) for slug in (GLAZE, MARK)}


def photograph(width: int, height: int, seed: int = 0) -> Image.Image:
    """Soft colours with a little grain, as cameras make them."""
    rng = np.random.default_rng(seed)
    soft = Image.fromarray(rng.integers(0, 256, (max(2, height // 16), max(2, width // 16), 3), dtype="uint8"))
    large = np.asarray(soft.resize((width, height), Image.Resampling.BICUBIC), "float64")
    return Image.fromarray(np.clip(large + rng.normal(0, 6, large.shape), 0, 255).astype("uint8"))


def saved(image: Image.Image, kind: str, **options: Any) -> bytes:
    content = io.BytesIO()
    image.save(content, kind, **options)
    return content.getvalue()


def on_its_side(image: Image.Image, how: int) -> bytes:
    exif = Image.Exif()
    exif[0x0112] = how
    return saved(image, "JPEG", exif=exif.tobytes())


def see_through(image: Image.Image) -> Image.Image:
    layer = image.convert("RGBA")
    layer.putalpha(Image.linear_gradient("L").resize(image.size))
    return layer


def asked_of_the_server(author: httpx.Client, slug: str, content: bytes, **given: Any) -> dict[str, Any]:
    inputs = {"picture": {"data": base64.b64encode(content).decode("ascii"), **given}}
    said: dict[str, Any] = author.post(
        f"/api/v1/demos/{slug}/predictions", params={"with": PARTS}, json={"inputs": inputs}
    ).json()
    return said


def asked_here(page: Page, content: bytes, **given: Any) -> dict[str, Any]:
    data = base64.b64encode(content).decode("ascii")
    said: dict[str, Any] = page.evaluate(SERVE, {"data": data, "given": given, "parts": PARTS})
    return said


def pixels_of(said: dict[str, Any]) -> np.ndarray:
    address = said["seen"]["picture"]
    image = Image.open(io.BytesIO(base64.b64decode(address.partition(",")[2])))
    return np.asarray(image.convert("RGB"), "int16")


def opened(context: BrowserContext, path: Path) -> Page:
    page = context.new_page()
    page.goto(path.as_uri())
    expect(page.get_by_role("button", name="Check this page")).to_be_enabled()
    return page


def enlarged(jpeg: bytes, side: int) -> bytes:
    """The file, saying of itself that it is so large."""
    at = jpeg.index(b"\xff\xc0") + 5
    return jpeg[:at] + side.to_bytes(2, "big") * 2 + jpeg[at + 4 :]


PHOTO = photograph(300, 220)
PICTURES = {
    "jpeg": saved(PHOTO, "JPEG", quality=85),
    "jpeg, every colour": saved(PHOTO, "JPEG", quality=92, subsampling=0),
    "jpeg, bit by bit": saved(PHOTO, "JPEG", progressive=True),
    "jpeg, grey": saved(PHOTO.convert("L"), "JPEG"),
    "jpeg, four inks": saved(PHOTO.convert("CMYK"), "JPEG"),
    "jpeg, held upright": on_its_side(PHOTO, 6),
    "jpeg, mirrored": on_its_side(PHOTO, 5),
    "png": saved(PHOTO, "PNG"),
    "png, see-through": saved(see_through(PHOTO), "PNG"),
    "png, few colours": saved(PHOTO.convert("P"), "PNG", transparency=3),
    "gif": saved(PHOTO.convert("P"), "GIF"),
    "gif, moving": saved(PHOTO.convert("P"), "GIF", save_all=True, append_images=[PHOTO.rotate(180).convert("P")]),
    "webp": saved(PHOTO, "WEBP", quality=80),
    "bmp": saved(PHOTO, "BMP"),
    "one pixel": saved(photograph(1, 1), "PNG"),
    "a strip": saved(photograph(3000, 2), "PNG"),
}
# Of 255: how browsers lay what is see-through on a ground, take sixteen bits for eight, and decode what is large.
NEARLY = {
    "webp, see-through": (saved(see_through(PHOTO), "WEBP", lossless=True), 1),
    "png, sixteen bits": (saved(Image.fromarray(np.arange(4096, dtype="uint16").reshape(64, 64) * 16), "PNG"), 1),
    "jpeg of 12 million pixels": (saved(photograph(4000, 3000), "JPEG", quality=90), 2),
}


# Files that are refused, and by what words they are known.
REFUSED = {
    "nothing": (b"", "is empty"),
    "lines": (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "a drawing of lines"),
    "a phone's own kind": (b"\0\0\0\x18ftypheic" + bytes(40), "HEIC"),
    "words": (b"the kiln is cold" * 20, "no picture that can be read here"),
    "cut off": (PICTURES["jpeg"][:3000], "cut off or damaged"),
    "cut off, without its end": (PICTURES["png"][:4000], "cut off or damaged"),
    "a JPEG that says it is huge": (enlarged(PICTURES["jpeg"], 9000), "9000 × 9000 pixels"),
    "81 million pixels": (saved(Image.new("L", (9000, 9000)), "PNG"), "9000 × 9000 pixels"),
}


def unlike(server: Any, here: Any, where: str = "") -> list[str]:
    """Where two answers differ by more than single precision does."""
    if isinstance(server, dict) and isinstance(here, dict):
        names = (server.keys() | here.keys()) - {"timing_ms", "id", "seen"}
        return [one for name in names for one in unlike(server.get(name), here.get(name), f"{where}.{name}")]
    if isinstance(server, list) and isinstance(here, list) and len(server) == len(here):
        pairs = zip(server, here, strict=True)
        return [one for at, (own, other) in enumerate(pairs) for one in unlike(own, other, f"{where}[{at}]")]
    if isinstance(server, float | int) and isinstance(here, float | int) and not isinstance(server, bool):
        return [] if abs(server - here) <= WITHIN * max(1, abs(server)) else [f"{where}: {server} and {here}"]
    return [] if server == here else [f"{where}: {server!r} and {here!r}"]


@pytest.mark.parametrize("name", PICTURES)
def test_a_file_of_any_kind_is_seen_to_the_bit_and_answered_alike(plane, author, files, name):
    page = opened(plane, files[GLAZE])
    server, here = asked_of_the_server(author, GLAZE, PICTURES[name]), asked_here(page, PICTURES[name])
    np.testing.assert_array_equal(pixels_of(here), pixels_of(server))
    assert unlike(server, here) == []


@pytest.mark.parametrize("name", NEARLY)
def test_of_some_files_pixels_differ_by_as_little_as_is_said(plane, author, files, name):
    content, apart = NEARLY[name]
    page = opened(plane, files[GLAZE])
    server, here = asked_of_the_server(author, GLAZE, content), asked_here(page, content)
    assert 0 < np.abs(pixels_of(here) - pixels_of(server)).max() <= apart
    assert here["answer"]["class"] == server["answer"]["class"]


def test_parts_that_are_cut_out_and_turned_are_answered_alike(plane, author, files):
    page = opened(plane, files[GLAZE])
    for turn in (0, 90, 180, 270):
        given = {"left": 0.2, "top": 0.1, "width": 0.5, "height": 0.62, "turn": turn}
        server = asked_of_the_server(author, GLAZE, PICTURES["jpeg"], **given)
        assert unlike(server, asked_here(page, PICTURES["jpeg"], **given)) == []


@pytest.mark.parametrize("name", REFUSED)
def test_what_is_no_picture_is_refused_in_the_same_words(plane, author, files, name):
    content, words = REFUSED[name]
    page = opened(plane, files[GLAZE])
    server, here = asked_of_the_server(author, GLAZE, content), asked_here(page, content)
    assert words in server["detail"]
    assert (here["status"], here["detail"]) == (422, server["detail"])
    assert [(one["field"], one["message"]) for one in here["errors"]] == [("picture", server["detail"])]


MODELS = {
    "scores": network(["n", 3, 12, 16]),
    "one at a time": network([1, 3, 12, 16]),
    "probabilities": network(["n", 3, 12, 16], end="Softmax"),
    "logarithms of probabilities": network(["n", 3, 12, 16], end="LogSoftmax"),
    "labels": network(["n", 3, 12, 16], end="Sigmoid"),
    "one number": network(["n", 12, 16, 3], n_out=1),
    "whole numbers in": network([1, 3, 8, 8], type_=TensorProto.UINT8),
    "grey, without an axis for several": network([1, 12, 16], n_out=1, weights=np.ones((192, 1)) / 192),
}


@pytest.mark.parametrize("name", MODELS)
def test_other_graphs_are_asked_and_read_as_the_server_does(plane, author, tmp_path, name):
    brought = author.post("/api/v1/demos", files={"model": ("m.onnx", MODELS[name])})
    assert brought.status_code == 201, brought.text
    slug = str(brought.json()["slug"])
    page = opened(plane, taken(author, slug, tmp_path))
    for content in (PICTURES["png"], PICTURES["png, see-through"], PICTURES["one pixel"]):
        server, here = asked_of_the_server(author, slug, content), asked_here(page, content)
        np.testing.assert_array_equal(pixels_of(here), pixels_of(server))
        assert unlike(server, here) == []
    author.delete(f"/api/v1/demos/{slug}")


PIXELS, OUTCOMES = marks(300)
OF_PIXELS: dict[str, Any] = {
    "support vectors": SVC(),
    "trees": RandomForestClassifier(30, random_state=0),
    "neighbours": KNeighborsClassifier(weights="distance"),
    "some of the pixels": make_pipeline(VarianceThreshold(2), SVC()),
    "a network": make_pipeline(StandardScaler(), MLPClassifier((16,), max_iter=2000, random_state=0)),
    "boosted trees of another library": LGBMClassifier(n_estimators=10, verbose=-1),
}


@pytest.fixture(scope="module")
def of_pixels(author: httpx.Client) -> Iterator[str]:
    """Potters' marks by flattened pixels, drawn: published, and answered in its visitors' browsers."""
    model = make_pipeline(MinMaxScaler(), LogisticRegression(C=100, max_iter=2000)).fit(PIXELS, OUTCOMES)
    known = ("known.zip", archive_of(*marks(90, seed=8)))
    brought = author.post(
        "/api/v1/demos", files={"model": ("m.joblib", dumped(model)), "known": known}, data={"title": "Which mark?"}
    )
    assert brought.status_code == 201, brought.text
    slug = str(brought.json()["slug"])
    own = f"/api/v1/demos/{slug}"
    (field,) = author.get(own).json()["fields"]
    drawn = {"name": "picture", "kind": "drawing", "line_width": 0.14}
    changed = author.patch(own, json={"fields": [drawn], "answers_in": "browser", "confirmed": ["preparation"]})
    assert changed.status_code == 200, changed.text
    assert field["preparation"]["scale"] == "0..255"
    published = author.post(f"{own}/releases")
    assert published.status_code == 201, published.text
    author.put(f"{own}/access", json={"access": "everyone"})
    yield slug
    author.delete(own)


@pytest.mark.parametrize("name", OF_PIXELS)
def test_models_of_flattened_pixels_are_asked_as_the_server_does(plane, author, tmp_path, name):
    model = OF_PIXELS[name].fit(PIXELS / 16, OUTCOMES)
    brought = author.post("/api/v1/demos", files={"model": ("m.joblib", dumped(model))})
    assert brought.status_code == 201, brought.text
    slug = str(brought.json()["slug"])
    path = taken(author, slug, tmp_path)
    # Nothing that runs graphs is in it.
    assert path.stat().st_size < 1_500_000
    page = opened(plane, path)
    for content in (PICTURES["png"], PICTURES["gif"], PICTURES["png, see-through"], PICTURES["one pixel"]):
        server, here = asked_of_the_server(author, slug, content), asked_here(page, content)
        np.testing.assert_array_equal(pixels_of(here), pixels_of(server))
        assert unlike(server, here) == []
    author.delete(f"/api/v1/demos/{slug}")


def drawn_on(page: Page) -> str:
    """All that is said of two strokes across each other."""
    sheet = page.locator("canvas").first
    box = sheet.bounding_box()
    assert box
    for (x0, y0), (x1, y1) in (((0.25, 0.25), (0.75, 0.75)), ((0.75, 0.25), (0.25, 0.75))):
        page.mouse.move(box["x"] + x0 * box["width"], box["y"] + y0 * box["height"])
        page.mouse.down()
        page.mouse.move(box["x"] + x1 * box["width"], box["y"] + y1 * box["height"], steps=8)
        page.mouse.up()
    answer = page.get_by_role("region", name="Cross")
    expect(answer.get_by_text("Exact: every combination was tried.")).to_be_visible()
    expect(answer.get_by_text("so far")).to_have_count(0)
    return answer.inner_text().replace(WAS_RIGHT, "")


def test_a_drawing_in_pixels_is_answered_from_a_disk_and_in_a_page_as_by_the_server(
    context, studio, plane, author, of_pixels, tmp_path
):
    fetched: list[str] = []
    page = context.new_page()
    page.on("request", lambda request: fetched.append(request.url))
    page.goto(f"{studio.url}/d/{of_pixels}")
    expect(page.get_by_text("nothing you enter leaves this device").first).to_be_visible()
    here = drawn_on(page)
    assert "cross" in here
    assert not any("predictions" in url or "onnxruntime" in url for url in fetched)
    page.get_by_role("button", name="Let the server answer").click()
    page.get_by_role("button", name="Let it answer").click()
    expect(page.get_by_text("Was this right?")).to_be_visible()
    server = page.get_by_role("region", name="Cross")
    expect(server.get_by_text("Exact: every combination was tried.")).to_be_visible()
    assert server.inner_text().replace(WAS_RIGHT, "") == here
    alone = opened(plane, taken(author, of_pixels, tmp_path))
    assert drawn_on(alone) == here
    alone.get_by_role("button", name="Check this page").click()
    expect(alone.get_by_text("200 answers, and for 20 of them what each value adds, were asked again")).to_be_visible()


def test_a_copy_of_a_file_of_pixels_that_was_changed_says_so(plane, author, of_pixels, tmp_path):
    page = plane.new_page()
    page.goto(changed_copy(taken(author, of_pixels, tmp_path), tmp_path, 'id="model">').as_uri())
    expect(page.get_by_role("heading", name="This file is damaged")).to_be_visible()


def said_of(page: Page, sample: str, done: str) -> str:
    """What stands in the answer once all is known of one of the demo's own pictures."""
    page.get_by_role("button", name=sample).click()
    answer = page.get_by_role("region", name="Likely")
    expect(answer.get_by_text(done)).to_be_visible()
    expect(answer.get_by_text("so far")).to_have_count(0)
    return answer.inner_text().replace(WAS_RIGHT, "")


@pytest.mark.parametrize(
    ("slug", "sample", "done"),
    [
        (GLAZE, "A net of cracks", "partly covered pictures"),
        (MARK, "Chiyo’s, as drawn once", "Exact: every combination was tried."),
        (MARK, "Hard: Ivo’s, in a hurry", "Exact: every combination was tried."),
    ],
)
def test_from_a_disk_the_page_says_what_the_servers_page_says(context, studio, plane, files, slug, sample, done):
    server = context.new_page()
    server.goto(f"{studio.url}/d/{slug}")
    alone = opened(plane, files[slug])
    assert said_of(alone, sample, done) == said_of(server, sample, done)


@pytest.mark.parametrize("slug", [GLAZE, MARK])
def test_from_a_disk_it_checks_itself(plane, files, slug):
    page = opened(plane, files[slug])
    assert len(page.workers) == 1
    page.get_by_role("button", name="Check this page").click()
    expect(page.get_by_text("200 answers, and for 20 of them what each value adds, were asked again")).to_be_visible()
    expect(
        page.get_by_text("no more than numbers of single precision, added in another order, come to")
    ).to_be_visible()


@pytest.mark.parametrize("where", ['id="content">', 'id="model">', 'id="engine">'])
def test_a_copy_that_was_changed_says_so(plane, files, tmp_path, where):
    copy = changed_copy(files[GLAZE], tmp_path, where)
    page = plane.new_page()
    page.goto(copy.as_uri())
    expect(page.get_by_role("heading", name="This file is damaged")).to_be_visible()


def test_without_threads_it_looks_at_pictures_within_the_page(plane, files):
    plane.add_init_script("delete globalThis.Worker")
    page = opened(plane, files[GLAZE])
    page.get_by_role("button", name="A net of cracks").click()
    expect(page.get_by_role("heading", name="Likely crazed")).to_be_visible()
    assert page.workers == []


def test_a_browser_without_webassembly_is_told_so_and_not_that_the_file_is_damaged(plane, files):
    plane.add_init_script("delete globalThis.Worker; delete globalThis.WebAssembly")
    page = plane.new_page()
    page.goto(files[GLAZE].as_uri())
    expect(page.get_by_role("heading", name="This page cannot be opened here")).to_be_visible()
    expect(page.get_by_text("A current Firefox, Chrome, Edge or Safari opens it.")).to_be_visible()


@pytest.fixture(scope="module")
def here(author: httpx.Client) -> Iterator[str]:
    """The tiles once more, with their page answering in browsers; at an address that a part of the API has too."""
    yield answering_in_browsers(author, GLAZE, "samples")
    author.delete("/api/v1/demos/samples")


def test_no_picture_leaves_a_page_that_answers_in_its_visitors_browser(context, studio, here, tmp_path):
    sent: list[str] = []
    context.on("request", lambda request: sent.append(request.url) if request.method != "GET" else None)
    page = context.new_page()
    page.goto(f"{studio.url}/d/{here}")
    expect(page.get_by_text("nothing you enter leaves this device").first).to_be_visible()
    expect(page.get_by_role("button", name="From a link")).to_have_count(0)
    own = tmp_path / "own.jpg"
    own.write_bytes(PICTURES["jpeg, held upright"])
    page.locator("input[type=file]").first.set_input_files(own)
    expect(page.get_by_role("region", name="Likely").get_by_text("In percent")).to_be_visible()
    expect(page.get_by_role("heading", name="Where it looked")).to_be_visible()
    page.get_by_role("button", name="Turn", exact=True).click()
    expect(page.get_by_text("partly covered pictures").first).to_be_visible()
    assert sent == []
    # By its visitor's word the server answers, and is told.
    page.get_by_role("button", name="Let the server answer").click()
    page.get_by_role("button", name="Let it answer").click()
    expect(page.get_by_role("button", name="From a link")).to_be_visible()
    expect(page.get_by_text("Was this right?")).to_be_visible()
    assert any(url.endswith(f"/{here}/predictions") or f"/{here}/predictions?" in url for url in sent)


def test_what_answers_talks_to_nobody(studio, here, context):
    """The thread has a policy of its own: it may fetch nothing, and run nothing but what it was made of."""
    page = context.new_page()
    with page.expect_event("worker") as made:
        page.goto(f"{studio.url}/d/{here}")
    policy = httpx.get(made.value.url).headers["Content-Security-Policy"]
    assert policy == "default-src 'none'; script-src 'wasm-unsafe-eval'"


def test_kept_on_a_device_it_looks_at_pictures_without_a_network(chromium, studio, here):
    context = chromium.new_context(viewport={"width": 375, "height": 800})
    context.set_default_timeout(WAIT_MS)
    page = context.new_page()
    page.goto(f"{studio.url}/d/{here}")
    page.get_by_role("button", name="Keep it on this device").click()
    expect(page.get_by_text("It is kept here, and opens without a network.")).to_be_visible()
    page.close()
    context.set_offline(True)
    page = context.new_page()
    page.goto(f"{studio.url}/d/{here}")
    page.get_by_role("button", name="A net of cracks").click()
    expect(page.get_by_role("heading", name="Likely crazed")).to_be_visible()
    assert violations(page) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= 375
    context.close()
