"""Demos that look at pictures, through the API."""

import base64
import io
import json
import struct
import zipfile
import zlib

import numpy as np
import onnxruntime
import pytest
from PIL import Image
from sklearn.feature_extraction.text import TfidfVectorizer
from sklearn.linear_model import LogisticRegression
from sklearn.pipeline import make_pipeline

from plain_window.core.pictures.preparation import as_input, as_seen
from plain_window.core.pictures.settings import Preparation
from plain_window.samples import SAMPLES

from ..core.test_picture_models import network, red_or_blue
from ..made_models import dumped
from ..studio import wait_for
from .helpers import fields_at_fault, problem
from .pictures import bring_red_or_blue, coloured, file_of, noise

GLAZE, MARK = "/api/v1/demos/how-is-the-glaze", "/api/v1/demos/whose-mark-is-it"
SAMPLE_PICTURES = SAMPLES["how-is-the-glaze"] / "samples"
RED, BLUE = file_of(coloured(200, 20, 20)), file_of(coloured(20, 20, 200))


@pytest.fixture(scope="module")
def slug(studio, key):
    import httpx

    with httpx.Client(base_url=studio.url, headers={"Authorization": f"Bearer {key}"}, timeout=90) as author:
        bring_red_or_blue(author, "red-or-blue")
    return "red-or-blue"


def ask(client, slug, content, query="", **more):
    return client.post(f"/api/v1/demos/{slug}/predictions{query}", files={"picture": ("x", content)}, **more)


def said(response):
    assert response.status_code == 200, response.text
    return {one["class"]: one["probability"] for one in response.json()["answer"]["probabilities"]}


def test_the_answer_is_onnxruntimes_own(visitor):
    session = onnxruntime.InferenceSession((SAMPLES["how-is-the-glaze"] / "model.onnx").read_bytes())
    preparation = Preparation(width=64, height=64)
    for path in sorted(SAMPLE_PICTURES.glob("*.jpg")):
        seen = as_seen(np.asarray(Image.open(path).convert("RGB")), preparation)
        scores = session.run(None, {"picture": as_input(seen, preparation)})[0][0].astype("float64")
        expected = np.exp(scores) / np.exp(scores).sum()
        found = said(visitor.post(f"{GLAZE}/predictions", files={"picture": path.read_bytes()}))
        names = ("blisters", "crawling", "crazing", "even", "pinholes")
        np.testing.assert_allclose([found[name] for name in names], expected, rtol=1e-4, atol=1e-6)


def test_a_picture_may_come_as_a_file_within_json_or_as_a_sample(visitor):
    content = (SAMPLE_PICTURES / "crazing.jpg").read_bytes()
    by_file = said(visitor.post(f"{GLAZE}/predictions", files={"picture": content}))
    data = base64.b64encode(content).decode()
    by_data = said(visitor.post(f"{GLAZE}/predictions", json={"inputs": {"picture": {"data": data}}}))
    samples = visitor.get(f"{GLAZE}/page").json()["samples"]
    crazing = next(sample for sample in samples if sample["title"] == "A net of cracks")
    by_sample = said(visitor.post(f"{GLAZE}/predictions", json={"inputs": crazing["inputs"]}))
    assert by_file == by_data == by_sample
    shown = visitor.get(f"{GLAZE}/samples/{crazing['inputs']['picture']['sample']}")
    assert (shown.headers["content-type"], shown.content) == ("image/jpeg", content)


def test_what_is_cut_out_and_turned_is_what_the_model_sees(visitor, slug):
    # Red on the left, blue on the right; the upper half of the red lies green.
    image = coloured(200, 20, 20, (60, 40))
    image.paste((20, 20, 200), (30, 0, 60, 40))
    content = file_of(image)

    def asked(**part):
        response = ask(visitor, slug, content, "?with=seen", data={"inputs": json.dumps({"picture": part})})
        seen = response.json()["seen"]["picture"].partition(",")[2]
        return said(response), np.asarray(Image.open(io.BytesIO(base64.b64decode(seen))))

    right, seen = asked(left=0.5, top=0, width=0.5, height=1)
    assert right["blue"] > right["red"]
    assert (seen == (20, 20, 200)).all()
    _, seen = asked(turn=90)
    # Turned clockwise the left side is on top.
    assert (seen[0] == (200, 20, 20)).all()
    assert (seen[-1] == (20, 20, 200)).all()


def test_the_phones_rotation_flag_is_obeyed(visitor, slug):
    image = coloured(200, 20, 20, (60, 40))
    image.paste((20, 20, 200), (30, 0, 60, 40))
    flag = Image.Exif()
    flag[0x0112] = 6
    content = file_of(image, "JPEG", exif=flag, quality=95, subsampling=0)
    seen = ask(visitor, slug, content, "?with=seen").json()["seen"]["picture"].partition(",")[2]
    upright = np.asarray(Image.open(io.BytesIO(base64.b64decode(seen))))
    assert upright[0, :, 0].min() > 150
    assert upright[-1, :, 2].min() > 150


def bomb() -> bytes:
    """A PNG that says it has 40,000 × 40,000 pixels."""
    head = struct.pack(">IIBBBBB", 40_000, 40_000, 8, 2, 0, 0, 0)

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 1000)) + chunk(b"IEND", b"")
    )


@pytest.mark.parametrize(
    ("content", "sentence"),
    [
        (bomb(), "40000 × 40000 pixels; the limit is 50 million"),
        (RED[: len(RED) // 2], "cut off or damaged"),
        (b"just some text, called picture.png", "no picture that can be read"),
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "SVG"),
        (b"\0\0\0\x18ftypheic" + b"\0" * 40, "HEIC"),
        (b"", "empty"),
    ],
    ids=["bomb", "cut off", "text", "svg", "heic", "empty"],
)
def test_what_is_no_picture_gets_a_sentence(visitor, slug, content, sentence):
    body = problem(ask(visitor, slug, content), 422)
    assert [fault["field"] for fault in body["errors"]] == ["picture"]
    assert sentence in body["errors"][0]["message"]
    assert said(ask(visitor, slug, BLUE))["blue"] > 0.5


@pytest.mark.parametrize("size", [(1, 1), (20_000, 20), (20, 20_000)])
def test_odd_sizes_are_answered(visitor, slug, size):
    assert said(ask(visitor, slug, file_of(coloured(200, 20, 20, size))))["red"] > 0.5


def test_no_picture_several_and_other_values_are_faults(visitor, slug):
    path = f"/api/v1/demos/{slug}/predictions"
    assert "missing" in problem(visitor.post(path, json={"inputs": {}}), 422)["errors"][0]["message"]
    five = [("picture", ("x.png", RED))] * 5
    assert "sent twice" in problem(visitor.post(path, files=five), 422)["detail"]
    for value in (7, "red.png", {}, {"data": "***"}, {"data": "", "link": "https://x"}, {"data": "", "width": 0}):
        assert fields_at_fault(visitor.post(path, json={"inputs": {"picture": value}})) == ["picture"]
    assert fields_at_fault(visitor.post(path, json={"inputs": {"picture": {"sample": "9.picture"}}})) == ["picture"]
    drawn = {"strokes": [[[0.1, 0.1], [0.9, 0.9]]]}
    assert fields_at_fault(visitor.post(path, json={"inputs": {"picture": drawn}})) == ["picture"]


def test_a_picture_that_is_too_large_is_refused_while_it_comes(visitor, slug):
    body = problem(ask(visitor, slug, b"\xff\xd8\xff" + b"\0" * (21 << 20)), 413)
    assert "20 MB" in body["detail"]


def test_a_moving_picture_is_answered_by_its_first_frame_and_says_so(visitor, slug):
    frames = [coloured(200, 20, 20), coloured(20, 20, 200)]
    content = file_of(frames[0], "GIF", save_all=True, append_images=frames[1:])
    response = ask(visitor, slug, content)
    assert said(response)["red"] > 0.5
    (note,) = response.json()["notes"]
    assert (note["field"], note["level"]) == ("picture", "info")
    assert note["message"] == "Of a moving picture the first frame is taken."


def test_where_it_looked_gets_sharper_and_adds_up(visitor):
    lines = []
    with visitor.stream(
        "POST", f"{GLAZE}/where", files={"picture": (SAMPLE_PICTURES / "crawling.jpg").read_bytes()}
    ) as response:
        assert response.headers["content-type"] == "application/x-ndjson"
        lines = [json.loads(line) for line in response.iter_lines()]
    assert lines[0]["method"] == "sketch"
    assert (lines[-1]["method"], lines[-1]["is_done"]) == ("sampled", True)
    assert lines[-1]["of"] == "crawling"
    for line in lines:
        assert sum(line["contributions"]) == pytest.approx(line["whole"] - line["covered"])
        assert len(line["contributions"]) == line["n_rows"] * line["n_columns"] == 49
        assert sum(region["contribution"] for region in line["regions"]) == pytest.approx(sum(line["contributions"]))
    # How unsure it is is said once there are groups enough to tell.
    told = [line["errors"] for line in lines if None not in line["errors"]]
    assert max(told[-1]) <= max(told[0])


def test_where_it_looked_points_at_what_is_there(visitor, slug):
    image = coloured(20, 20, 20, (80, 80))
    image.paste((220, 20, 20), (40, 40, 80, 80))
    answer = ask(visitor, slug, file_of(image), "?with=explanation,where&of=red").json()
    (where,) = answer["where"]
    assert where["regions"][0]["words"] == "lower right"
    (contribution,) = answer["explanation"]["contributions"]
    assert contribution["contribution"] == pytest.approx(where["whole"] - where["covered"])
    assert answer["explanation"]["baseline"] == pytest.approx(where["covered"])


def test_known_pictures_are_shown_to_their_author_alone(author, visitor, slug):
    path = f"/api/v1/demos/{slug}/known"
    cases = author.get(path, params={"draft": "1", "limit": 100}).json()["cases"]
    archive = zipfile.ZipFile(red_or_blue()[1])
    assert len(cases) == len(archive.namelist())
    for case in (cases[0], cases[-1]):
        shown = author.get(f"{path}/{case['row']}/picture")
        assert shown.headers["content-type"] == "image/png", shown.text
        assert shown.content == archive.read(f"tiles/{case['truth']}/{case['name']}")
    problem(author.get(f"{path}/{len(cases)}/picture"), 404)
    assert visitor.get(f"{path}/0/picture").status_code in (401, 404)
    problem(author.get("/api/v1/demos/will-it-crack/known/0/picture"), 404)


def test_another_model_of_pictures_is_compared_by_the_known_ones(author, slug):
    weights = np.zeros((3 * 64, 2))
    weights[:, 0] = 1.0
    always_red = network(["n", 3, 8, 8], weights=weights, n_out=2, props={"classes": "red,blue"})
    path = f"/api/v1/demos/{slug}/model"
    parts = {"model": ("model.onnx", always_red)}
    found = author.put(path, files=parts, params={"try": "1"}).json()["differences"]["answers"]
    assert (found["cases"], found["same"], found["worse"], found["right"]) == (12, 6, 6, [12, 6])
    assert {(one["before"], one["after"], one["truth"]) for one in found["examples"]} == {("blue", "red", "blue")}
    # Each is found again in the archive.
    blue = [
        place for place, name in enumerate(sorted(zipfile.ZipFile(red_or_blue()[1]).namelist())) if "/blue/" in name
    ]
    assert sorted(one["at"] for one in found["examples"]) == blue
    other = {**parts, "known": ("known.zip", red_or_blue(6)[1].getvalue())}
    assert author.put(path, files=other, params={"try": "1"}).json()["differences"]["answers"]["why_not"] == "pictures"


def test_an_author_sets_the_preparation(author, slug):
    path = f"/api/v1/demos/{slug}"
    before = author.get(path).json()
    assert before["pictures"]["tries"][0]["n_right"] == 12
    changed = author.patch(path, json={"fields": [{"name": "picture", "preparation": {"order": "bgr"}}]})
    assert changed.json()["fields"][0]["preparation"]["order"] == "bgr"
    # The draft sees red for blue now; visitors do not.
    assert said(ask(author, slug, RED, "?draft=1"))["blue"] > 0.5
    assert said(ask(author, slug, RED))["red"] > 0.5
    bad = {"fields": [{"name": "picture", "preparation": {"width": 0}}]}
    assert "width" in fields_at_fault(author.patch(path, json=bad))[0]
    drawing = author.patch(path, json={"fields": [{"name": "picture", "kind": "drawing", "line_width": 0.1}]}).json()
    assert (drawing["fields"][0]["kind"], drawing["fields"][0]["line_width"]) == ("drawing", 0.1)


def test_a_sample_that_only_names_a_picture_elsewhere_is_refused(author, slug):
    for elsewhere in ({"link": "https://example.com/red.png"}, {"sample": "0.picture"}):
        samples = [{"title": "Elsewhere", "inputs": {"picture": elsewhere}}]
        response = author.patch(f"/api/v1/demos/{slug}", json={"samples": samples})
        assert fields_at_fault(response) == ["samples.0.picture"]


def test_a_drawing_is_answered_and_its_strokes_are_weighed(visitor):
    page = visitor.get(f"{MARK}/page").json()
    (field,) = page["fields"]
    assert field["kind"] == "drawing"
    for sample in page["samples"]:
        response = visitor.post(f"{MARK}/predictions?with=where", json={"inputs": sample["inputs"]})
        answer = response.json()
        # The hard one is said to be hard because the model gets it wrong.
        assert (answer["answer"]["class"] in sample["title"]) != sample["title"].startswith("Hard")
        (where,) = answer["where"]
        strokes = sample["inputs"][field["name"]]["strokes"]
        assert (where["parts"], len(where["contributions"])) == ("strokes", len(strokes))
        assert sum(where["contributions"]) == pytest.approx(where["whole"] - where["covered"])
    nothing = {"inputs": {field["name"]: {"strokes": []}}}
    assert "Draw something" in problem(visitor.post(f"{MARK}/predictions", json=nothing), 422)["detail"]


def test_a_row_beside_the_picture_is_explained_with_the_picture_as_it_is(author):
    weights = np.random.default_rng(0).normal(size=(3 * 64 + 2, 3)) * 0.05
    weights[-2:] = [[0.4, -0.2, 0], [0.01, 0, -0.01]]
    random = np.random.default_rng(1)
    rows = "\n".join(f"{wall:.1f},{peak:.0f}" for wall, peak in random.normal((7, 1200), (2, 40), (60, 2)))
    files = {
        "model": ("model.onnx", network(["n", 3, 8, 8], beside=2, weights=weights)),
        "reference": ("reference.csv", f"wall,peak\n{rows}".encode()),
    }
    made = author.post("/api/v1/demos", files=files, data={"slug": "beside"}).json()
    assert [field["kind"] for field in made["fields"]] == ["picture", "number", "number"]
    inputs = {"inputs": json.dumps({"wall": 9, "peak": 1250})}
    response = ask(author, "beside", RED, "?draft=1&with=explanation,curves,similar&of=0", data=inputs)
    answer = response.json()
    explanation = answer["explanation"]
    assert {one["field"] for one in explanation["contributions"]} == {"wall", "peak"}
    added = explanation["baseline"] + sum(one["contribution"] for one in explanation["contributions"])
    assert added == pytest.approx(said(response)["0"])
    assert [curve["field"] for curve in answer["curves"]] == ["wall", "peak"]
    assert len(answer["similar"]) == 5


def test_a_model_of_one_text_is_brought_without_a_table(author):
    lines = ["cold kiln", "cracked pot", "cold again", "pot fell"] * 5
    fitted = make_pipeline(TfidfVectorizer(), LogisticRegression()).fit(lines, ["kiln", "pot"] * 10)
    made = author.post("/api/v1/demos", files={"model": ("m", dumped(fitted))}, data={"slug": "one-text"}).json()
    assert (made["compiled"]["adopted"], made["n_reference_rows"]) == (True, 0)
    asked = {"inputs": {"text": "the kiln was cold"}}
    answer = author.post("/api/v1/demos/one-text/predictions?draft=1&with=explanation", json=asked).json()
    expected = fitted.predict_proba(["the kiln was cold"])[0].max()
    assert answer["answer"]["probabilities"][0]["probability"] == pytest.approx(expected)
    assert {word["word"] for word in answer["explanation"]["words"][0]["words"]} >= {"kiln", "cold"}
    page = author.get("/api/v1/demos/one-text/page?draft=1").json()
    assert not any(page["parts"][name] for name in ("similar", "among", "overall", "changes"))


def test_one_score_with_two_names_is_served_as_two_classes(author):
    files = {"model": ("model.onnx", network(["n", 3, 8, 8], n_out=1)), "labels": ("labels.txt", b"cracked\nwhole\n")}
    made = author.post("/api/v1/demos", files=files, data={"slug": "one-score"}).json()
    assert [wording["name"] for wording in made["answer"]["classes"]] == ["cracked", "whole"]
    # Another number of background rows is another runner, which knows the model by what was found in it.
    assert author.patch("/api/v1/demos/one-score", json={"background_rows": 7}).status_code == 200
    found = said(wait_for(lambda: answered(ask(author, "one-score", RED, "?draft=1"))))
    assert sum(found.values()) == pytest.approx(1)


def answered(response):
    """The response, once the runner is there."""
    return response if response.status_code == 200 else None


def test_pictures_leave_no_trace(studio, visitor, slug):
    content = file_of(noise(64))
    before = {path for path in (studio.home / "files").rglob("*") if path.is_file()}
    assert ask(visitor, slug, content).status_code == 200
    assert {path for path in (studio.home / "files").rglob("*") if path.is_file()} == before
