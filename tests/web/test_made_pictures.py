"""Demos that answer with a picture, or with a class for each pixel, through the API."""

import base64
import io
from collections.abc import Iterator

import httpx
import numpy as np
import pytest
from PIL import Image

from ..detectors import as_bytes
from ..made_pictures import darker, land_and_water
from ..studio import Studio
from .helpers import problem

GIVEN = np.random.default_rng(5).integers(0, 256, (90, 131, 3)).astype("uint8")
MAP = np.full((60, 80, 3), 255, dtype="uint8")
MAP[:30, :40], MAP[30:, 40:] = (255, 0, 0), (0, 0, 255)


@pytest.fixture(scope="module")
def author_of_both(studio: Studio, key: str) -> Iterator[httpx.Client]:
    models = {"darker": darker(), "land": land_and_water("scores first")}
    with httpx.Client(
        base_url=f"{studio.url}/api/v1", headers={"Authorization": f"Bearer {key}"}, timeout=90
    ) as author:
        for slug, model in models.items():
            made = author.post("/demos", files={"model": model}, data={"slug": slug, "title": slug.title()})
            assert made.status_code == 201, made.text
            assert "reading" in [question["name"] for question in made.json()["questions"]]
            author.patch(f"/demos/{slug}", json={"confirmed": ["reading", "preparation"]})
            published = author.post(f"/demos/{slug}/releases", json={})
            assert published.status_code == 201, published.text
            author.put(f"/demos/{slug}/access", json={"access": "everyone"})
        yield author
        for slug in models:
            author.delete(f"/demos/{slug}")


def _asked(client: httpx.Client, slug: str, content: bytes, query: str = "", at: str = "predictions") -> httpx.Response:
    return client.post(f"/api/v1/demos/{slug}/{at}{query}", files={"picture": content})


def _image(data: str) -> Image.Image:
    return Image.open(io.BytesIO(base64.b64decode(data)))


def test_the_answer_is_a_picture_in_the_format_of_what_was_given(author_of_both: httpx.Client, visitor: httpx.Client):
    response = _asked(visitor, "darker", as_bytes(GIVEN))
    assert response.status_code == 200, response.text
    answer = response.json()["answer"]
    assert (answer["kind"], answer["type"], answer["width"], answer["height"]) == ("picture", "image/png", 131, 90)
    np.testing.assert_allclose(np.asarray(_image(answer["data"])).astype(int), GIVEN[:, :, ::-1] / 2, atol=1)
    photograph = _asked(visitor, "darker", as_bytes(GIVEN, "JPEG", quality=95)).json()["answer"]
    assert (photograph["type"], _image(photograph["data"]).format) == ("image/jpeg", "JPEG")
    small = _asked(visitor, "darker", as_bytes(GIVEN), "?most_side=50").json()["answer"]
    assert (small["width"], small["height"]) == (50, 34)
    assert "whole number up to" in problem(_asked(visitor, "darker", as_bytes(GIVEN), "?most_side=many"), 422)["detail"]


def test_a_mask_says_how_much_each_class_has(author_of_both: httpx.Client, visitor: httpx.Client):
    answer = _asked(visitor, "land", as_bytes(MAP)).json()["answer"]
    assert answer["kind"] == "mask"
    assert [(kind["name"], kind["share"], kind["of_100"]) for kind in answer["kinds"]] == [
        ("background", 0.5, 50),
        ("land", 0.25, 25),
        ("water", 0.25, 25),
    ]
    places = {kind["name"]: kind["place"] for kind in answer["kinds"]}
    mask = np.asarray(_image(answer["data"]))
    assert (mask[5, 5], mask[-1, -1], mask[0, -1]) == (places["land"], places["water"], places["background"])


def test_files_to_keep_are_in_full_size_and_of_the_kind_that_is_asked_for(
    author_of_both: httpx.Client, visitor: httpx.Client
):
    saved = _asked(visitor, "darker", as_bytes(GIVEN, "TIFF"), at="made")
    assert saved.headers["Content-Type"] == "image/tiff"
    assert 'filename="darker-picture.tiff"' in saved.headers["Content-Disposition"]
    over = _asked(visitor, "land", as_bytes(MAP, "JPEG", quality=95), at="made")
    assert (Image.open(io.BytesIO(over.content)).format, over.headers["Content-Type"]) == ("JPEG", "image/jpeg")
    alone = _asked(visitor, "land", as_bytes(MAP), "?as=mask", at="made")
    assert set(np.unique(np.asarray(Image.open(io.BytesIO(alone.content))))) == {0, 1, 2}
    assert (
        "may be `picture`" in problem(_asked(visitor, "darker", as_bytes(GIVEN), "?as=mask", at="made"), 422)["detail"]
    )
    assert (
        "answer is no picture" in problem(_asked(visitor, "how-is-the-glaze", as_bytes(MAP), at="made"), 422)["detail"]
    )


def test_checks_and_words_of_what_lies_in_a_picture(author_of_both: httpx.Client, visitor: httpx.Client):
    for slug in ("darker", "land"):
        checks = {one["name"]: one["status"] for one in author_of_both.post(f"/demos/{slug}/checks").json()["checks"]}
        assert checks["reading"] == "pass"
        assert "fail" not in checks.values()
        page = visitor.get(f"/api/v1/demos/{slug}/page").json()
        assert (page["parts"]["contributions"], page["parts"]["curves"]) == (False, False)
    refused = author_of_both.patch("/demos/land", json={"answer": {"nothing": "sky"}})
    assert "must name one of the classes" in str(problem(refused, 422)["errors"])
    answered = _asked(visitor, "darker", as_bytes(GIVEN), "?with=explanation").json()
    assert [note["code"] for note in answered["notes"]] == ["not-explained"]


def test_what_the_author_sets_goes_out_and_comes_in_with_the_folder(author_of_both: httpx.Client):
    author_of_both.patch("/demos/darker", json={"answer": {"name": "dusk", "before": "noon"}})
    folder = author_of_both.get("/demos/darker/folder").content
    again = author_of_both.post("/demos", files={"folder": folder}, data={"slug": "dusk"})
    assert again.status_code == 201, again.text
    assert (again.json()["answer"]["name"], again.json()["answer"]["before"]) == ("dusk", "noon")
    author_of_both.delete("/demos/dusk")


def test_the_author_can_say_that_it_is_a_mask_after_all(author_of_both: httpx.Client):
    replaced = author_of_both.put("/demos/darker/model", files={"answer": (None, "mask")})
    assert replaced.status_code == 200, replaced.text
    assert replaced.json()["demo"]["answer"]["kind"] == "mask"
