"""Replacing a demo's model, tables, outcome and names; addresses that change; drafts that two edit."""

import io
import time
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest
from sklearn.compose import make_column_transformer
from sklearn.linear_model import LinearRegression
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import OneHotEncoder, OrdinalEncoder

from ..made_models import classifier_pipeline, csv, dumped, firings, nameless_classifier, regressor_pipeline
from .helpers import NO_DIFFERENCE, bring, problem

TABLE = firings(300)
ROW = {"kiln": "gas", "pots": 20, "peak": 1230.5, "reduced": True}


@pytest.fixture
def shelf(author):
    """Demos made by a test, taken off the shelf afterwards."""
    slugs: list[str] = []

    def keep(response):
        assert response.status_code == 201, response.text
        slugs.append(response.json()["slug"])
        return response.json()

    yield keep
    for slug in slugs:
        author.delete(f"/api/v1/demos/{slug}")


def put(author, slug, /, *, tried=False, **parts):
    """Parts as files where they are bytes, as text otherwise; an empty one is taken away."""
    files = {name: (name, io.BytesIO(part)) for name, part in parts.items() if isinstance(part, bytes)}
    data = {name: part for name, part in parts.items() if not isinstance(part, bytes)}
    # Something must make it a multipart request where all parts are text.
    files = files or {name: (None, part) for name, part in data.items()}
    data = {} if list(files) == list(data) else data
    address = f"/api/v1/demos/{slug}/model" + ("?try=1" if tried else "")
    return author.put(address, files=files, data=data)


def test_known_cases_can_be_given_changed_and_taken_away_later(author, shelf):
    demo = shelf(bring(author, title="Firing"))
    assert demo["evidence"] is None
    author.patch(f"/api/v1/demos/{demo['slug']}", json={"fields": [{"name": "pots", "label": "Pots in the kiln"}]})
    for n_rows in (150, 60):
        replaced = put(author, demo["slug"], known=csv(TABLE.tail(n_rows))).json()
        assert replaced["demo"]["evidence"]["n_known"] == n_rows
        assert replaced["differences"]["features"] == NO_DIFFERENCE
        assert replaced["differences"]["answers"]["same"] == replaced["differences"]["answers"]["cases"] > 0
        # What the author set stays.
        assert [field["label"] for field in replaced["demo"]["fields"]][1] == "Pots in the kiln"
    gone = put(author, demo["slug"], known=b"").json()["demo"]
    assert (gone["evidence"], gone["has_known_cases"]) == (None, False)
    answer = author.post(f"/api/v1/demos/{demo['slug']}/predictions?draft=1", json={"inputs": ROW}).json()
    assert answer["answer"]["interval"] is None


def test_outcome_and_names_can_be_said_and_left_to_be_found_again(author, shelf):
    reference = csv(TABLE.assign(size=np.where(TABLE["pots"] > 30, 1, 0)))
    model = dumped(classifier_pipeline(TABLE))
    demo = shelf(bring(author, model=model, reference=reference, title="Colour"))
    assert (demo["target"], demo["candidates"]) == (None, ["kwh", "outcome", "size"][1:])
    demo = put(author, demo["slug"], target="outcome", labels="Celadon\nOxblood").json()["demo"]
    assert (demo["target"], demo["has_labels"]) == ("outcome", True)
    assert [one["name"] for one in demo["answer"]["classes"]] == ["Celadon", "Oxblood"]
    demo = put(author, demo["slug"], labels="").json()["demo"]
    assert [one["name"] for one in demo["answer"]["classes"]] == ["green", "red"]
    refused = put(author, demo["slug"], target="glaze")
    assert "have a column `glaze`" in problem(refused, 422)["detail"]
    assert author.get(f"/api/v1/demos/{demo['slug']}").json()["target"] == "outcome"


def test_another_model_is_compared_before_it_is_taken_and_visitors_keep_the_release(author, visitor, shelf):
    demo = shelf(bring(author, title="Firing to be replaced"))
    slug = demo["slug"]
    author.post(f"/api/v1/demos/{slug}/releases")
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
    put(author, slug, known=csv(TABLE.drop(columns="outcome").tail(100)))
    features = ["pots", "peak", "shelves"]
    other = TABLE.assign(shelves=TABLE["pots"] // 10)
    model = dumped(LinearRegression().fit(other[features], other["kwh"]))
    reference, known = csv(other[[*features, "kwh"]]), csv(other[[*features, "kwh"]].tail(100))
    parts = {"model": model, "reference": reference, "known": known}
    tried = put(author, slug, tried=True, **parts).json()
    assert tried["differences"]["features"]["gone"] == ["kiln", "reduced"]
    assert tried["differences"]["features"]["added"] == ["shelves"]
    assert [field["name"] for field in tried["demo"]["fields"]] == ["kiln", "pots", "peak", "reduced"]
    taken = put(author, slug, **parts).json()["demo"]
    assert [field["name"] for field in taken["fields"]] == features
    assert taken["draft_differs"]
    answer = visitor.post(f"/api/v1/demos/{slug}/predictions", json={"inputs": ROW}).json()
    assert answer["release"] == 1
    expected = regressor_pipeline(firings()).predict(firings().head(1).assign(**ROW)[list(ROW)])
    assert answer["answer"]["value"] == pytest.approx(expected[0])


def test_title_and_address_come_with_another_model_or_nothing_does(author, shelf):
    taken, demo = (shelf(bring(author, title=title)) for title in ("Firing taken", "Firing to be named"))
    parts = {"reference": csv(TABLE.tail(200)), "title": "Firing renamed"}
    assert put(author, demo["slug"], slug=taken["slug"], **parts).status_code == 409
    refused = problem(put(author, demo["slug"], slug="No address", **parts), 422)
    assert [fault["field"] for fault in refused["errors"]] == ["slug"]
    assert author.get(f"/api/v1/demos/{demo['slug']}").json() == demo
    renamed = put(author, demo["slug"], slug="firing-renamed", **parts).json()["demo"]
    assert (renamed["title"], renamed["slug"]) == ("Firing renamed", "firing-renamed")
    assert author.get(f"/api/v1/demos/{demo['slug']}").json()["slug"] == "firing-renamed"


def test_what_is_set_while_another_model_is_opened_is_kept(author, shelf):
    demo = shelf(bring(author, title="Firing set meanwhile"))
    address = f"/api/v1/demos/{demo['slug']}"
    with ThreadPoolExecutor() as pool:
        replaced = pool.submit(put, author, demo["slug"], reference=csv(TABLE.tail(250)))
        labels = []
        while not replaced.done():
            labels.append(f"Pots, {len(labels)}")
            change = {"fields": [{"name": "pots", "label": labels[-1]}]}
            assert author.patch(address, json=change).status_code == 200
    assert replaced.result().status_code == 200
    assert len(labels) > 1
    assert author.get(address).json()["fields"][1]["label"] == labels[-1]


def test_a_worse_model_is_said_to_be_worse(author, shelf):
    good = dumped(LinearRegression().fit(TABLE[["pots", "peak"]], TABLE["kwh"]))
    bad = dumped(LinearRegression().fit(TABLE[["pots", "peak"]], TABLE["kwh"].sample(frac=1, random_state=1)))
    table = csv(TABLE[["pots", "peak", "kwh"]])
    demo = shelf(bring(author, model=good, reference=table, title="Good"))
    put(author, demo["slug"], known=table)
    answers = put(author, demo["slug"], tried=True, model=bad).json()["differences"]["answers"]
    assert (answers["cases"], answers["same"]) == (200, 0)
    assert answers["worse"] > 150 > answers["better"]


def test_publishing_asks_about_what_was_concluded_until_it_is_confirmed(author, shelf):
    reference = csv(TABLE[["pots", "peak"]])
    model = dumped(nameless_classifier(TABLE))
    releases = []
    for at in range(2):
        demo = shelf(bring(author, model=model, reference=reference, title=f"Nameless {at}"))
        assert [one["name"] for one in demo["questions"]] == ["features"]
        assert len(demo["questions"][0]["rows"]) == 3
        releases.append(f"/api/v1/demos/{demo['slug']}/releases")
    refused = problem(author.post(releases[0]), 409)
    assert [fault["field"] for fault in refused["errors"]] == ["features"]
    confirmed = author.patch(releases[0].removesuffix("/releases"), json={"confirmed": ["features"]}).json()
    assert confirmed["questions"] == []
    assert author.post(releases[0]).status_code == 201
    despite = {"note": "A trial.", "despite": {"features": "The training script takes them in this order."}}
    assert author.post(releases[1], json=despite).status_code == 201


def test_an_address_can_be_changed_and_the_old_one_leads_on(author, visitor, shelf):
    demo = shelf(bring(author))
    assert demo["slug"].startswith("untitled-demo")
    named = author.patch(f"/api/v1/demos/{demo['slug']}", json={"title": "Gas for a firing"}).json()
    assert named["slug"].startswith("gas-for-a-firing")
    moved = author.patch(f"/api/v1/demos/{named['slug']}", json={"slug": "gas"}).json()
    assert moved["slug"] == "gas"
    # A demo with a title keeps its address when the title changes.
    assert author.patch("/api/v1/demos/gas", json={"title": "Gas"}).json()["slug"] == "gas"
    author.post("/api/v1/demos/gas/releases")
    author.put("/api/v1/demos/gas/access", json={"access": "everyone"})
    for old in (demo["slug"], named["slug"]):
        page = visitor.get(f"/d/{old}?case=1", follow_redirects=False)
        assert (page.status_code, page.headers["Location"]) == (302, "/d/gas?case=1")
        assert visitor.post(f"/api/v1/demos/{old}/predictions", json={"inputs": ROW}).status_code == 200
    assert visitor.get("/d/gas/", follow_redirects=True).text == visitor.get("/d/gas").text
    taken = problem(bring(author, slug=named["slug"]), 409)
    assert taken["errors"][0]["field"] == "slug"
    refused = author.patch("/api/v1/demos/gas", json={"slug": "No such address"})
    assert problem(refused, 422)["errors"][0]["field"] == "slug"
    author.patch("/api/v1/demos/gas", json={"slug": named["slug"]})
    assert visitor.get("/d/gas", follow_redirects=False).status_code == 302


def test_a_draft_that_was_changed_elsewhere_is_not_overwritten(author, shelf):
    demo = shelf(bring(author, title="Two tabs"))
    address = f"/api/v1/demos/{demo['slug']}"
    seen = author.get(address).headers["ETag"]
    other = author.patch(address, json={"purpose": "Theirs."}, headers={"If-Match": seen})
    assert other.status_code == 200
    mine = author.patch(address, json={"purpose": "Mine."}, headers={"If-Match": seen})
    assert "changed elsewhere" in problem(mine, 412)["detail"]
    assert author.get(address).json()["purpose"] == "Theirs."
    again = author.patch(address, json={"purpose": "Mine."}, headers={"If-Match": other.headers["ETag"]})
    assert again.json()["purpose"] == "Mine."


def test_the_shelf_tells_visitors_answers_from_the_authors_own_and_a_model_that_always_fails(author, visitor, shelf):
    # Other kilns may be entered, which the model raises for.
    encoder = make_pipeline(OrdinalEncoder(categories=[["gas", "wood", "electric"]]), LinearRegression())
    model = dumped(encoder.fit(TABLE[["kiln"]], TABLE["kwh"]))
    demo = shelf(bring(author, model=model, reference=csv(TABLE[["kiln", "kwh"]]), title="Kilns"))
    slug, ask = demo["slug"], f"/api/v1/demos/{demo['slug']}/predictions"
    author.patch(f"/api/v1/demos/{slug}", json={"fields": [{"name": "kiln", "other": True}], "record_inputs": True})
    author.post(f"/api/v1/demos/{slug}/releases")
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
    assert author.post(ask, json={"inputs": {"kiln": "gas"}}).status_code == 200
    for kiln in ("gas", "wood"):
        assert visitor.post(ask, json={"inputs": {"kiln": kiln}}).status_code == 200

    def entry():
        return next(one for one in author.get("/api/v1/demos").json()["demos"] if one["slug"] == slug)

    def counted(**expected):
        deadline = time.monotonic() + 60
        while {name: entry()[name] for name in expected} != expected and time.monotonic() < deadline:
            time.sleep(0.1)
        return {name: entry()[name] for name in expected} == expected

    assert counted(predictions=2, own_tries=1, failures=0, health="ready")
    for _ in range(3):
        assert visitor.post(ask, json={"inputs": {"kiln": "raku"}}).status_code == 502
    assert counted(predictions=2, failures=3, health="failing")
    kept = author.get(f"/api/v1/demos/{slug}/log?outcome=failed").json()
    assert (kept["total"], kept["entries"][0]["inputs"]) == (3, {"kiln": "raku"})
    lines = author.get(f"/api/v1/demos/{slug}/log.csv").text.splitlines()
    assert lines[0] == "at,release,outcome,milliseconds,by_author,kiln"
    assert len(lines) == 7
    assert visitor.get(f"/api/v1/demos/{slug}/log").status_code in (401, 404)


def test_deleted_demos_are_listed_and_brought_back(author, shelf):
    demo = shelf(bring(author, title="Gone for a while"))
    author.delete(f"/api/v1/demos/{demo['slug']}")
    deleted = author.get("/api/v1/demos").json()["deleted"]
    assert (deleted[0]["slug"], deleted[0]["title"]) == (demo["slug"], "Gone for a while")
    assert author.post(f"/api/v1/demos/{demo['slug']}/restore").status_code == 200
    shown = author.get("/api/v1/demos").json()
    assert demo["slug"] in [one["slug"] for one in shown["demos"]]
    assert demo["slug"] not in [one["slug"] for one in shown["deleted"]]


def test_a_feature_that_only_has_another_name_keeps_its_settings_where_that_is_said(author, shelf):
    slug = shelf(bring(author, title="Renamed"))["slug"]
    case = {"kiln": "gas", "pots": 20, "peak": 1230.5, "reduced": True}
    set_before = {
        "fields": [{"name": "peak", "label": "Top temperature", "unit": "°C"}],
        "samples": [{"title": "Usual", "inputs": case}],
    }
    author.patch(f"/api/v1/demos/{slug}", json=set_before).raise_for_status()
    table = TABLE.rename(columns={"peak": "peak_celsius"}).assign(pots=TABLE["pots"] + 5)
    prepare = make_column_transformer((OneHotEncoder(), ["kiln"]), remainder="passthrough")
    names = ["kiln", "pots", "peak_celsius", "reduced"]
    model = make_pipeline(prepare, LinearRegression()).fit(table[names], table["kwh"])
    parts = {"model": ("m.joblib", dumped(model)), "reference": ("r.csv", csv(table.drop(columns="outcome")))}
    url = f"/api/v1/demos/{slug}/model"
    tried = author.put(url, files=parts, params={"try": "1"}).json()["differences"]["features"]
    assert (tried["renamed"], tried["gone"]) == ([["peak", "peak_celsius"]], ["peak"])
    moved = {one["field"]: (one["before"], one["after"]) for one in tried["ranges"]}
    assert moved["pots"][1] == [end + 5 for end in moved["pots"][0]]
    wrong = author.put(url, files=parts, data={"renames": '{"peak_celsius": "summit"}'})
    assert "`summit` is no feature of this demo" in problem(wrong, 422)["detail"]
    taken = author.put(url, files=parts, data={"renames": '{"peak_celsius": "peak"}'}).json()["demo"]
    field = next(field for field in taken["fields"] if field["name"] == "peak_celsius")
    assert (field["label"], field["unit"]) == ("Top temperature", "°C")
    assert taken["samples"][0]["inputs"] == {**{k: v for k, v in case.items() if k != "peak"}, "peak_celsius": 1230.5}
