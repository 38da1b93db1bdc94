"""A page of this server that answers in its visitor's browser: who may fetch what it answers by, and what that is."""

import base64
import gzip
import hashlib
import json
from collections.abc import Iterator
from typing import Any

import httpx
import numpy as np
import pytest

from plain_window.samples import SAMPLES

from ..made_models import FEATURES, classifier_pipeline, csv, dumped, firings
from .helpers import bring, problem


@pytest.fixture
def slug(author: httpx.Client) -> Iterator[str]:
    """A published demo whose page answers in its visitors' browsers."""
    table = firings(300)
    brought = bring(author, model=dumped(classifier_pipeline(table)), reference=csv(table[[*FEATURES, "outcome"]]))
    slug = str(brought.json()["slug"])
    changed(author, slug, answers_in="browser")
    assert author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"}).status_code == 200
    yield slug
    author.delete(f"/api/v1/demos/{slug}")


def changed(author: httpx.Client, slug: str, **settings: Any) -> None:
    """Have it published otherwise."""
    response = author.patch(f"/api/v1/demos/{slug}", json=settings)
    assert response.status_code == 200, response.text
    assert author.post(f"/api/v1/demos/{slug}/releases").status_code == 201


def page_of(client: httpx.Client, slug: str) -> dict[str, Any]:
    page: dict[str, Any] = client.get(f"/api/v1/demos/{slug}/page").json()
    return page


def content_of(client: httpx.Client, slug: str) -> dict[str, Any]:
    response = client.get(f"/api/v1/demos/{slug}/browser/content")
    assert response.status_code == 200, response.text
    content: dict[str, Any] = json.loads(gzip.decompress(response.content))
    return content


def test_visitors_fetch_what_the_page_says_and_what_it_weighs(author, visitor, slug):
    offered = page_of(visitor, slug)["browser"]
    assert offered["parts"]["outcomes"] is False
    assert offered["parts"]["similar"] is True
    content, model = (visitor.get(f"/api/v1/demos/{slug}/browser/{what}") for what in ("content", "model"))
    assert len(content.content) + len(model.content) == pytest.approx(offered["bytes"], rel=0.4)
    again = visitor.get(content.url, headers={"If-None-Match": content.headers["ETag"]})
    assert again.status_code == 304
    proof = json.loads(gzip.decompress(content.content))["proof"]
    assert len(proof) == 200


def test_a_change_is_another_mark_and_another_content(author, visitor, slug):
    before, tag = page_of(visitor, slug)["browser"], content_of(visitor, slug)
    changed(author, slug, fields=[{"name": "pots", "label": "How many pots"}])
    after = page_of(visitor, slug)["browser"]
    assert before["mark"] != after["mark"]
    labels = [field["label"] for field in content_of(visitor, slug)["fields"]]
    assert "How many pots" in labels
    assert "How many pots" not in [field["label"] for field in tag["fields"]]


def test_rows_go_to_browsers_by_their_authors_word_only(author, visitor, slug):
    assert len(content_of(visitor, slug)["rows"]["columns"]["pots"]) == 300
    changed(author, slug, browser_rows=False)
    without = content_of(visitor, slug)
    assert without["rows"] is None
    offered = page_of(visitor, slug)["browser"]
    assert offered["parts"]["similar"] is False
    assert any("no similar cases" in sentence for sentence in offered["left_out"])


def test_whoever_may_not_open_the_page_gets_no_model(author, visitor, slug):
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "private"}).raise_for_status()
    for what in ("content", "model"):
        problem(visitor.get(f"/api/v1/demos/{slug}/browser/{what}"), 404)
    problem(visitor.get(f"/d/{slug}/manifest.webmanifest"), 404)
    problem(visitor.get(f"/d/{slug}/offline.js"), 404)


def test_where_the_server_answers_nobody_gets_the_model(author, visitor):
    assert page_of(visitor, "will-it-crack")["browser"] is None
    for what in ("content", "model"):
        refused = problem(visitor.get(f"/api/v1/demos/will-it-crack/browser/{what}"), 409)
        assert refused["title"] == "The server answers"


def test_a_model_that_no_browser_can_ask_is_asked_here(author, visitor):
    demo = "/api/v1/demos/where-are-the-flaws"
    author.patch(demo, json={"answers_in": "browser"}).raise_for_status()
    try:
        assert author.get(f"{demo}/page?draft=1").json()["browser"] is None
        plan = author.get(f"{demo}/take-away/plan?for=page&draft=1").json()
        assert plan["obstacle"] == "Answers of this kind are made by the server: a browser cannot make them."
    finally:
        author.patch(demo, json={"answers_in": "server"}).raise_for_status()


def test_of_what_looks_at_pictures_the_graph_goes_along_and_no_known_picture(author, visitor):
    demo = "/api/v1/demos/how-is-the-glaze"
    author.patch(demo, json={"answers_in": "browser"}).raise_for_status()
    try:
        draft = {"params": {"draft": "1"}}
        assert problem(visitor.get(f"{demo}/browser/model"), 409)["title"] == "The server answers"
        model = gzip.decompress(author.get(f"{demo}/browser/model", **draft).content)
        assert model == (SAMPLES["how-is-the-glaze"] / "model.onnx").read_bytes()
        content = json.loads(gzip.decompress(author.get(f"{demo}/browser/content", **draft).content))
        assert content["model_sum"] == hashlib.sha256(model).hexdigest()
        looks = content["looks"]
        assert (looks["graph"]["link"], looks["graph"]["element"]) == ("softmax", "float32")
        assert set(looks["samples"]) == {f"{at}.picture" for at in range(6)}
        # Of each known picture some numbers that describe it, from which it cannot be had again.
        known = np.frombuffer(base64.b64decode(looks["likeness"]["known"]), "float32")
        assert known.size == len(looks["likeness"]["usual"]) * len(looks["likeness"]["middle"])
        assert len(looks["likeness"]["middle"]) < 50
        plan = author.get(f"{demo}/take-away/plan?for=page&draft=1").json()
        weights = {part["name"]: part["bytes"] for part in plan["parts"]}
        assert 3e6 < weights["engine"] < 5e6
        assert plan["bytes"] == sum(weights.values())
    finally:
        author.patch(demo, json={"answers_in": "server"}).raise_for_status()


def test_a_folder_takes_along_where_answers_are_worked_out(author, slug):
    changed(author, slug, browser_rows=True)
    folder = author.get(f"/api/v1/demos/{slug}/folder").content
    changed(author, slug, answers_in="server", browser_rows=False)
    author.put(f"/api/v1/demos/{slug}/folder", files={"folder": ("demo.zip", folder)}).raise_for_status()
    brought = author.get(f"/api/v1/demos/{slug}").json()
    assert (brought["answers_in"], brought["browser_rows"]) == ("browser", True)


def test_a_phone_is_told_how_to_put_the_page_on_its_screen(visitor, slug):
    manifest = visitor.get(f"/d/{slug}/manifest.webmanifest")
    assert manifest.headers["content-type"] == "application/manifest+json"
    told = manifest.json()
    assert told["start_url"] == told["scope"] == f"/d/{slug}"
    for icon in told["icons"]:
        assert visitor.get(icon["src"]).headers["content-type"] == "image/png"
    script = visitor.get(f"/d/{slug}/offline.js")
    assert script.headers["service-worker-allowed"] == f"/d/{slug}"
