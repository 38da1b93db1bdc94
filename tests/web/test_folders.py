"""A demo as a folder: out and in again without loss, byte for byte."""

import io
import tomllib
import zipfile

import pytest

from ..made_models import FEATURES, classifier_pipeline, csv, dumped, firings
from .helpers import bring, fields_at_fault, problem
from .test_behind import with_known


def unpacked(content: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def packed(files: dict[str, bytes]) -> bytes:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return made.getvalue()


def sent(author, method: str, url: str, content: bytes, **texts):
    return author.request(method, url, files={"folder": ("demo.zip", content)}, data=texts)


@pytest.fixture
def demo(author):
    """A demo with something set everywhere."""
    table = firings(200)
    known = firings(150, seed=9).drop(columns="kwh")
    made = with_known(author, classifier_pipeline(table), table, known, target="outcome", title="Set all over")
    url = f"/api/v1/demos/{made.json()['slug']}"
    inputs = {"kiln": "gas", "pots": 20, "peak": 1230.0, "reduced": True}
    changes = {
        "purpose": "See how it turns out.",
        "description": 'Made of "quotes", a backslash \\ and\ntwo lines.',
        "not_for": "Tiles.",
        "licence": "CC BY 4.0",
        "parts": {"similar": False, "report": True},
        "background_rows": 50,
        "samples": [{"title": "A usual firing", "inputs": inputs}],
        "fields": [
            {"name": "peak", "label": "Peak temperature", "unit": "°C", "minimum": 1100, "maximum": 1300},
            {"name": "kiln", "help": "Where it stood.", "group": "Kiln"},
            {"name": "reduced", "changeable": False},
            {"name": "pots", "direction": "up"},
        ],
        "answer": {
            "noun": "firings",
            "coverage": 0.8,
            "classes": [{"name": "red", "label": "turn out red", "tone": "alert"}],
        },
    }
    author.patch(url, json=changes).raise_for_status()
    yield url
    author.delete(url)


def test_out_and_in_again_it_is_the_same_byte_for_byte(author, demo):
    before, state = author.get(f"{demo}/folder").content, author.get(demo).json()
    assert before == author.get(f"{demo}/folder").content
    files = unpacked(before)
    assert set(files) == {"demo.toml", "model.joblib", "reference.csv", "known.csv"}
    assert tomllib.loads(files["demo.toml"].decode())["description"] == state["description"]
    author.delete(demo).raise_for_status()
    again = sent(author, "POST", "/api/v1/demos", before)
    assert again.status_code == 201, again.text
    assert author.get(f"{demo}/folder").content == before
    now = again.json()
    same = ("title", "fields", "answer", "parts", "samples", "background_rows", "report", "licence", "target")
    assert {name: now[name] for name in same} == {name: state[name] for name in same}


def test_beside_itself_it_needs_another_address(author, demo):
    content = author.get(f"{demo}/folder").content
    assert sent(author, "POST", "/api/v1/demos", content).status_code == 409
    copy = sent(author, "POST", "/api/v1/demos", content, slug="a-copy-of-it")
    assert copy.json()["slug"] == "a-copy-of-it"
    assert fields_at_fault(sent(author, "POST", "/api/v1/demos", content, title="Another")) == ["title"]
    author.delete("/api/v1/demos/a-copy-of-it")


def test_a_folder_is_put_in_the_drafts_place_and_visitors_keep_the_release(author, visitor, demo):
    content = author.get(f"{demo}/folder").content
    other = bring(author, title="To be overwritten").json()["slug"]
    url = f"/api/v1/demos/{other}"
    author.post(f"{url}/releases").raise_for_status()
    author.put(f"{url}/access", json={"access": "everyone"}).raise_for_status()
    replaced = sent(author, "PUT", f"{url}/folder", content)
    assert replaced.status_code == 200, replaced.text
    state, origin = author.get(url).json(), author.get(demo).json()
    assert (state["slug"], state["title"]) == (other, origin["title"])
    assert (state["fields"], state["answer"], state["report"]) == (origin["fields"], origin["answer"], origin["report"])
    assert visitor.get(f"{url}/page").json()["title"] == "To be overwritten"
    problem(visitor.get(f"{url}/folder"), 404)
    author.delete(url)


def test_what_a_folder_leaves_out_is_gone_from_the_draft_it_replaces(author, demo):
    plain = author.get(f"{demo}/folder").content
    picture = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
    changed = author.patch(demo, json={"logo": {"data": picture}, "fields": [{"name": "kiln", "hidden": True}]})
    assert changed.status_code == 200, changed.text
    assert "logo.png" in unpacked(author.get(f"{demo}/folder").content)
    sent(author, "PUT", f"{demo}/folder", plain).raise_for_status()
    assert unpacked(author.get(f"{demo}/folder").content) == unpacked(plain)


@pytest.mark.parametrize("slug", ["how-is-the-glaze", "whose-mark-is-it", "what-will-this-firing-use", "kiln-by-hand"])
def test_the_samples_come_back_with_their_pictures(author, slug):
    content = author.get(f"/api/v1/demos/{slug}/folder").content
    copy = sent(author, "POST", "/api/v1/demos", content, slug="a-twin")
    assert copy.status_code == 201, copy.text
    one, other = unpacked(content), unpacked(author.get("/api/v1/demos/a-twin/folder").content)
    assert other["demo.toml"].replace(b'"a-twin"', f'"{slug}"'.encode()) == one["demo.toml"]
    del one["demo.toml"], other["demo.toml"]
    assert other == one
    author.delete("/api/v1/demos/a-twin")


@pytest.mark.parametrize(
    ("files", "message"),
    [
        (None, "is neither a demo folder nor a zip of one"),
        ({"model.joblib": b"x"}, "has no `demo.toml`"),
        ({"demo.toml": b"title = "}, "cannot be read"),
        ({"demo.toml": b'title = "No model"'}, "has no `model.joblib`"),
        ({"demo.toml": b'title = "Two"', "model.joblib": b"x", "model.onnx": b"y"}, "has both"),
        ({"demo.toml": b'title = "Unknown"\nshelf = 3', "model.joblib": b"x"}, "shelf"),
    ],
)
def test_a_folder_that_is_none_is_a_sentence_and_changes_nothing(author, demo, files, message):
    content = b"not a zip" if files is None else packed(files)
    before, shelf = author.get(demo).json(), len(author.get("/api/v1/demos").json()["demos"])
    for method, url in (("POST", "/api/v1/demos"), ("PUT", f"{demo}/folder")):
        assert message in problem(sent(author, method, url, content), 422)["detail"]
    table = firings()
    model = {
        "demo.toml": b'title = "Odd"\n[[fields]]\nname = "shelf"',
        "model.joblib": dumped(classifier_pipeline(table)),
        "reference.csv": csv(table[FEATURES]),
    }
    assert problem(sent(author, "PUT", f"{demo}/folder", packed(model)), 422)
    assert author.get(demo).json() == before
    assert len(author.get("/api/v1/demos").json()["demos"]) == shelf
