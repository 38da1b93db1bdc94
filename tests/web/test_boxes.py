"""Demos that find things in a picture, through the API."""

import csv
import io
import zipfile

import httpx
import numpy as np
import pytest
from PIL import Image

from ..detectors import SIDE, as_bytes, detector, picture_with, plainly_found
from ..studio import Studio
from .helpers import problem

SHOWN = picture_with(("red", 3, 2, 1.0), ("blue", 10, 7, 0.9))
DEMO = "/api/v1/demos/patches"


@pytest.fixture(scope="module")
def author_of_patches(studio: Studio, key: str):
    with httpx.Client(base_url=studio.url, headers={"Authorization": f"Bearer {key}"}, timeout=90) as author:
        archive = io.BytesIO()
        with zipfile.ZipFile(archive, "w") as pictures:
            for at in range(3):
                patches = [("red", 3 + 4 * at, 3, 1.0), ("blue", 12 - 3 * at, 8, 1.0)]
                pictures.writestr(f"{at}.png", as_bytes(picture_with(*patches)))
        files = {"model": detector("columns, centre"), "known": archive.getvalue()}
        made = author.post("/api/v1/demos", files=files, data={"slug": "patches", "title": "Patches"})
        assert made.status_code == 201, made.text
        yield author
        author.delete(DEMO)


@pytest.fixture(scope="module")
def released(author_of_patches: httpx.Client) -> httpx.Client:
    author_of_patches.patch(DEMO, json={"confirmed": ["reading", "preparation"], "answer": {"noun": "patches"}})
    published = author_of_patches.post(f"{DEMO}/releases", json={"despite": {"words": "a test"}})
    assert published.status_code == 201, published.text
    author_of_patches.put(f"{DEMO}/access", json={"access": "everyone"})
    return author_of_patches


def _asked(client: httpx.Client, content: bytes = b"", query: str = "", at: str = "predictions") -> httpx.Response:
    return client.post(f"{DEMO}/{at}{query}", files={"picture": content or as_bytes(SHOWN)})


def test_what_was_concluded_is_asked_about_until_it_is_confirmed(author_of_patches: httpx.Client):
    demo = author_of_patches.get(DEMO).json()
    assert demo["answer"]["kind"] == "boxes"
    assert [label["name"] for label in demo["answer"]["labels"]] == ["red", "blue"]
    best = demo["boxes"]["tries"][0]
    assert (best["reading"]["form"], best["reading"]["candidates"]) == ("centre and size", "columns")
    assert best["agreement"] > 0.9
    assert "reading" in [question["name"] for question in demo["questions"]]
    checks = {one["name"]: one for one in author_of_patches.post(f"{DEMO}/checks").json()["checks"]}
    assert checks["reading"]["status"] == "fail"
    refused = problem(author_of_patches.post(f"{DEMO}/releases"), 409)
    assert "reading" in str(refused)


def test_the_answer_is_the_boxes_in_the_pictures_own_pixels(released: httpx.Client, visitor: httpx.Client):
    assert _asked(visitor).json()["answer"]["least_score"] == 0.3
    response = _asked(visitor, query="?least_score=0.53")
    assert response.status_code == 200, response.text
    answer = response.json()["answer"]
    assert (answer["kind"], answer["width"], answer["height"]) == ("boxes", *SIDE)
    # Below that, boxes that are as good as each other decide by rounding which of them stays.
    expected = plainly_found(SHOWN, least=0.53)
    found = sorted([box[key] for key in ("label", "score", "x", "y", "width", "height")] for box in answer["boxes"])
    assert [one[0] for one in found] == sorted(one[0] for one in expected)
    np.testing.assert_allclose([one[1:] for one in found], [one[1:] for one in sorted(expected)], atol=0.01)
    above = _asked(visitor, query="?least_score=0.8").json()["answer"]
    assert [box["score"] for box in above["boxes"]] == [box["score"] for box in answer["boxes"] if box["score"] >= 0.8]
    assert "must be from 0 to 1" in problem(_asked(visitor, query="?least_score=2"), 422)["detail"]


def test_another_reading_is_the_drafts_alone_until_it_is_released(released: httpx.Client, visitor: httpx.Client):
    before = _asked(visitor).json()["answer"]["boxes"]
    try:
        released.patch(DEMO, json={"answer": {"reading": {"form": "corner and size", "overlap": 0.4}}})
        draft = _asked(released, query="?draft=1").json()["answer"]["boxes"]
        assert draft[0]["x"] == pytest.approx(before[0]["x"] + before[0]["width"] / 2)
        assert _asked(visitor).json()["answer"]["boxes"] == before
        differences = released.get(f"{DEMO}/differences", params={"from": 1, "to": "draft"}).json()
        assert "how boxes are read" in str(differences)
        answer = {"answer": {"reading": {"form": "a circle"}}}
        assert "answer.reading.form" in str(problem(released.patch(DEMO, json=answer), 422)["errors"])
        released.patch(DEMO, json={"answer": {"reading": {"boxes": "elsewhere"}}})
        failed = problem(_asked(released, query="?draft=1"), 502)
        assert "names the output `elsewhere`; the model has `out`" in failed["detail"]
    finally:
        reading = {"form": "centre and size", "overlap": 0.5, "boxes": "out"}
        released.patch(DEMO, json={"answer": {"reading": reading}})


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "BMP"])
def test_the_picture_with_its_boxes_comes_back_in_its_format_and_size(
    released: httpx.Client, visitor: httpx.Client, kind: str
):
    content = as_bytes(SHOWN, kind)
    saved = _asked(visitor, content, "?as=picture&least_score=0.8", at="boxes")
    assert saved.status_code == 200, saved.text
    assert saved.headers["Content-Type"] == f"image/{kind.lower()}"
    drawn = Image.open(io.BytesIO(saved.content))
    assert (drawn.format, drawn.size) == (kind, SIDE)
    assert np.abs(np.asarray(drawn.convert("RGB"), dtype=int) - SHOWN).max() > 80


def test_boxes_come_as_a_table_of_those_that_are_wanted(released: httpx.Client, visitor: httpx.Client):
    saved = _asked(visitor, query="?as=csv&least_score=0.8&only=blue", at="boxes")
    assert saved.headers["Content-Type"].startswith("text/csv")
    rows = list(csv.DictReader(io.StringIO(saved.text)))
    assert [row["label"] for row in rows] == ["blue"]
    assert [float(rows[0][key]) for key in ("x", "y", "width", "height")] == [68, 50, 32, 20]
    assert "may be `picture` or `csv`" in problem(_asked(visitor, query="?as=tiff", at="boxes"), 422)["detail"]
    other = visitor.post("/api/v1/demos/how-is-the-glaze/boxes", files={"picture": as_bytes(SHOWN)})
    assert "is no boxes" in problem(other, 422)["detail"]


def test_all_that_asks_for_more_of_an_answer_says_what_boxes_do_not_have(released: httpx.Client, visitor: httpx.Client):
    answered = _asked(visitor, query="?with=explanation,curves,seen").json()
    assert answered["seen"]["picture"].startswith("data:image/png")
    assert [note["code"] for note in answered["notes"]] == ["not-explained"]
    page = visitor.get(f"{DEMO}/page").json()
    assert (page["parts"]["contributions"], page["parts"]["curves"], page["answer"]["noun_one"]) == (
        False,
        False,
        "patch",
    )
    broken = problem(_asked(visitor, b"no picture at all"), 422)
    assert broken["errors"][0]["field"] == "picture"
    checks = {one["name"]: one["status"] for one in released.post(f"{DEMO}/checks").json()["checks"]}
    assert checks["reading"] == "pass"
    assert "fail" not in checks.values()


def test_a_demo_of_boxes_goes_out_as_a_folder_and_comes_back_the_same(released: httpx.Client):
    folder = released.get(f"{DEMO}/folder")
    with zipfile.ZipFile(io.BytesIO(folder.content)) as archive:
        assert "[answer.reading]" in archive.read("demo.toml").decode()
    again = released.post("/api/v1/demos", files={"folder": folder.content}, data={"slug": "patches-again"})
    assert again.status_code == 201, again.text
    try:
        before, after = released.get(DEMO).json(), again.json()
        assert after["answer"] == before["answer"]
        assert after["confirmed"] == before["confirmed"]
    finally:
        released.delete("/api/v1/demos/patches-again")


def test_a_new_model_of_other_outputs_is_read_as_they_are(released: httpx.Client, visitor: httpx.Client):
    replaced = released.put(f"{DEMO}/model", files={"model": detector("left, score then class")})
    assert replaced.status_code == 200, replaced.text
    answer = replaced.json()["demo"]["answer"]
    assert (answer["noun"], answer["reading"]["form"]) == ("patches", "two corners")
    places = [
        [(box["label"], round(box["x"]), round(box["y"])) for box in response.json()["answer"]["boxes"]]
        for response in (_asked(visitor, query="?least_score=0.5"), _asked(released, query="?draft=1&least_score=0.5"))
    ]
    assert sorted(places[0]) == sorted(places[1])
