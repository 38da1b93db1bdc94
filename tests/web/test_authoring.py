"""Bringing a model, editing the draft, publishing."""

import io
import re

import lightgbm
import pandas as pd
import pytest
import skl2onnx
import skops.io
import xgboost
from sklearn.linear_model import LinearRegression
from sklearn.preprocessing import StandardScaler

from plain_window.core.formats.opening import open_model

from ..made_models import (
    FEATURES,
    classifier_pipeline,
    csv,
    dumped,
    firings,
    nameless_classifier,
    regressor_pipeline,
    running_on_opening,
)
from .helpers import bring, fields_at_fault, problem

TABLE = firings()
ROW = {"kiln": "gas", "pots": 20, "peak": 1230.5, "reduced": True}


@pytest.fixture
def demo(author):
    """A fresh demo, taken off the shelf afterwards."""
    made = bring(author, title="What will this firing use?")
    assert made.status_code == 201, made.text
    yield made.json()
    author.delete(f"/api/v1/demos/{made.json()['slug']}")


def url(demo, *parts):
    return "/".join(["/api/v1/demos", demo["slug"], *parts])


def test_a_brought_model_is_a_draft_that_answers_its_author(author, visitor, demo):
    assert demo["slug"].startswith("what-will-this-firing-use")
    assert demo["target"] == "kwh"
    assert demo["access"]["access"] == "private"
    assert demo["release"] is None
    assert [(field["name"], field["kind"]) for field in demo["fields"]] == [
        ("kiln", "choice"),
        ("pots", "number"),
        ("peak", "number"),
        ("reduced", "yes_no"),
    ]
    answer = author.post(url(demo, "predictions?draft=1"), json={"inputs": ROW}).json()["answer"]
    expected = regressor_pipeline(TABLE).predict(_one_row())
    assert answer["value"] == expected[0]
    for path in ("page", "schema"):
        problem(visitor.get(url(demo, path)), 404)
    assert visitor.get(f"/d/{demo['slug']}").status_code == 404


def _one_row():
    return pd.DataFrame([ROW])[FEATURES]


def test_the_same_demo_twice_gets_another_address(author, demo):
    second = bring(author, title="What will this firing use?").json()
    assert second["slug"] != demo["slug"]
    author.delete(url(second))


def test_settings_change_the_page_and_never_the_models_order(author, demo):
    before = author.post(url(demo, "predictions?draft=1"), json={"inputs": ROW}).json()["answer"]["value"]
    order = ["reduced", "peak", "kiln", "pots"]
    changes = {
        "purpose": "Before you light the kiln.",
        "fields": [{"name": name} for name in order],
        "answer": {"unit": "kWh"},
    }
    changed = author.patch(url(demo), json=changes).json()
    assert [field["name"] for field in changed["fields"]] == order
    changed = author.patch(
        url(demo), json={"fields": [{"name": "pots", "label": "Pots in the kiln", "maximum": 80}]}
    ).json()
    assert changed["fields"][3] | {"label": "Pots in the kiln", "maximum": 80} == changed["fields"][3]
    answer = author.post(url(demo, "predictions?draft=1"), json={"inputs": ROW}).json()["answer"]
    assert (answer["value"], answer["unit"]) == (before, "kWh")


@pytest.mark.parametrize(
    ("changes", "faults"),
    [
        ({"titel": "x"}, ["titel"]),
        ({"title": ""}, ["title"]),
        ({"title": "x" * 201}, ["title"]),
        ({"slug": "No address"}, ["slug"]),
        ({"fields": [{"name": "pots", "minimum": 99, "maximum": 3}]}, ["fields.pots.minimum"]),
        ({"fields": [{"name": "shards"}]}, ["fields.shards"]),
        ({"fields": "pots"}, ["fields"]),
    ],
)
def test_settings_that_do_not_fit_are_named_and_change_nothing(author, demo, changes, faults):
    assert fields_at_fault(author.patch(url(demo), json=changes)) == faults
    assert author.get(url(demo)).json() == demo


def test_publishing_freezes_the_draft_until_it_is_published_again(author, visitor, demo):
    assert author.post(url(demo, "releases")).json()["number"] == 1
    author.put(url(demo, "access"), json={"access": "everyone"})
    author.patch(url(demo), json={"title": "Kilowatt hours"})
    assert visitor.get(url(demo, "page")).json()["title"] == "What will this firing use?"
    assert author.get(url(demo, "page?draft=1")).json()["title"] == "Kilowatt hours"
    problem(visitor.get(url(demo, "page?draft=1")), 404)
    assert author.get(url(demo)).json()["draft_differs"] is True
    assert author.post(url(demo, "releases")).json()["number"] == 2
    page = visitor.get(url(demo, "page")).json()
    assert (page["title"], page["release"]) == ("Kilowatt hours", 2)
    assert visitor.post(url(demo, "predictions"), json={"inputs": ROW}).json()["release"] == 2


def test_a_deleted_demo_is_gone_until_it_is_restored(author, visitor, demo):
    author.post(url(demo, "releases"))
    author.put(url(demo, "access"), json={"access": "everyone"})
    assert visitor.get(url(demo, "page")).status_code == 200
    assert author.delete(url(demo)).status_code == 204
    problem(visitor.get(url(demo, "page")), 404)
    problem(author.get(url(demo)), 404)
    assert author.post(url(demo, "restore")).status_code == 200
    assert visitor.get(url(demo, "page")).status_code == 200


def test_labels_and_target_are_taken_along(author):
    table = firings()[["pots", "peak", "outcome"]]
    files = {
        "model": dumped(nameless_classifier(table)),
        "reference": csv(table),
        "known": csv(table.head(20)),
        "labels": b"Celadon\nOxblood\n",
    }
    made = author.post("/api/v1/demos", files=files, data={"target": "outcome"}).json()
    assert [item["name"] for item in made["answer"]["classes"]] == ["Celadon", "Oxblood"]
    assert made["has_known_cases"] is True
    assert made["found"]["features"] is None
    answer = author.post(url(made, "predictions?draft=1"), json={"inputs": {"pots": 20, "peak": 1230}}).json()["answer"]
    assert answer["class"] in ("Celadon", "Oxblood")
    author.delete(url(made))


@pytest.mark.parametrize(
    ("model", "reference", "message"),
    [
        (b"PK\x03\x04", csv(TABLE), "is a zip archive"),
        (dumped(regressor_pipeline(TABLE))[:-100], csv(TABLE), "damaged|too early"),
        (b"cno_such_package\nModel\n.", csv(TABLE), "needs the package `no_such_package`"),
        (running_on_opening("import os; os._exit(1)"), csv(TABLE), "ended the process"),
        (dumped(regressor_pipeline(TABLE)), b"no table at all \0", "is not a table that is known here"),
        (dumped(regressor_pipeline(TABLE)), csv(TABLE.rename(columns={"peak": "Peak"})), "differs only in case"),
        (dumped(classifier_pipeline(TABLE)), csv(TABLE.assign(peak="hot")), "should hold numbers"),
    ],
)
def test_what_cannot_be_used_says_why_and_leaves_nothing_behind(studio, author, model, reference, message):
    def stored():
        return sorted(path.name for path in (studio.home / "files").rglob("*") if path.is_file())

    files_before, shelf_before = stored(), author.get("/api/v1/demos").json()
    body = problem(bring(author, model=model, reference=reference), 422)
    assert re.search(message, " ".join(fault["message"] for fault in body["errors"]))
    assert stored() == files_before
    assert author.get("/api/v1/demos").json()["demos"] == shelf_before["demos"]


def test_missing_parts_and_bad_words_are_listed_together(author):
    response = author.post("/api/v1/demos", files={"known": b"a\n1\n"}, data={"slug": "Not A Slug!"})
    assert fields_at_fault(response) == ["model", "slug"]
    assert fields_at_fault(bring(author, title="x" * 201)) == ["title"]


def test_parts_nobody_knows_and_bodies_that_are_none_are_refused(author):
    problem(author.post("/api/v1/demos", files={"modell": b"x"}), 422)
    problem(author.post("/api/v1/demos", json={}), 400)
    problem(
        author.post("/api/v1/demos", content=b"--x\r\n", headers={"Content-Type": "multipart/form-data; boundary=x"}),
        400,
    )
    assert (
        "1 MB" in problem(author.post("/api/v1/demos", files={"labels": io.BytesIO(b"x" * (2 << 20))}), 413)["detail"]
    )


def test_a_taken_address_is_refused(author, demo):
    assert "address" in problem(bring(author, slug=demo["slug"]), 409)["detail"]


def test_a_model_that_raises_shows_the_traceback_to_its_author_only(author, visitor):
    table = firings()[["kiln", "kwh"]]
    from sklearn.linear_model import LinearRegression
    from sklearn.pipeline import make_pipeline
    from sklearn.preprocessing import OneHotEncoder

    model = make_pipeline(OneHotEncoder(handle_unknown="error"), LinearRegression()).fit(table[["kiln"]], table["kwh"])
    made = bring(author, model=dumped(model), reference=csv(table)).json()
    author.patch(url(made), json={"fields": [{"name": "kiln", "other": True}]})
    author.post(url(made, "releases"))
    author.put(url(made, "access"), json={"access": "everyone"})
    seen = problem(visitor.post(url(made, "predictions"), json={"inputs": {"kiln": "raku"}}), 502)
    assert "traceback" not in seen
    assert "raku" not in seen["detail"]
    seen = problem(author.post(url(made, "predictions"), json={"inputs": {"kiln": "raku"}}), 502)
    assert "does not know the value 'raku' of `kiln`" in seen["detail"]
    assert "ValueNotKnown" in seen["traceback"]
    author.delete(url(made))


def _formats() -> dict[str, tuple[bytes, dict]]:
    """Model files of other kinds, each with the parts that go along."""
    numbers = TABLE[["pots", "peak"]]
    boosted = xgboost.train({"nthread": 1}, xgboost.DMatrix(numbers, label=TABLE["kwh"]), 5)
    leaves = lightgbm.train({"verbose": -1, "num_threads": 1}, lightgbm.Dataset(numbers, label=TABLE["kwh"]), 5)
    line = LinearRegression().fit(numbers.to_numpy("float32"), TABLE["kwh"])
    onnx = skl2onnx.to_onnx(line, numbers.to_numpy("float32")[:1]).SerializeToString()
    preparation = StandardScaler().fit(numbers)
    behind = LinearRegression().fit(preparation.transform(numbers), TABLE["kwh"])
    return {
        "xgboost-ubj": (bytes(boosted.save_raw("ubj")), {}),
        "lightgbm": (leaves.model_to_string().encode(), {}),
        "onnx": (onnx, {}),
        "skops": (skops.io.dumps(line), {}),
        "pickle": (dumped(behind), {"preprocessor": dumped(preparation)}),
    }


FORMATS = _formats()


@pytest.mark.parametrize("format_", FORMATS)
def test_models_of_other_kinds_answer_like_their_library(author, format_):
    model, files = FORMATS[format_]
    parts = {"model": ("model", model), "reference": ("table.csv", csv(TABLE[["pots", "peak", "kwh"]]))}
    parts |= {name: (name, content) for name, content in files.items()}
    made = author.post("/api/v1/demos", files=parts, data={"title": format_, "target": "kwh"})
    assert made.status_code == 201, made.text
    demo = made.json()
    assert demo["found"]["format"] == format_
    assert demo["compiled"]["adopted"] == (format_ != "onnx")
    inputs = {"pots": 20, "peak": 1230.5}
    answer = author.post(url(demo, "predictions?draft=1"), json={"inputs": inputs}).json()["answer"]
    opened = open_model(io.BytesIO(model), io.BytesIO(files["preprocessor"]) if files else None)
    expected = opened.predict(pd.DataFrame([inputs]))[0, 0]
    assert answer["value"] == pytest.approx(expected, rel=1e-6)
    author.delete(f"/api/v1/demos/{demo['slug']}")
