"""All releases of a demo: each as it was, back to any in one step, and what differs between two."""

import threading
import time

import pytest
from sklearn.linear_model import LinearRegression

from ..made_models import csv, dumped, firings
from .helpers import NO_DIFFERENCE, bring, problem

TABLE = firings(200)
COLUMNS = ["pots", "peak"]
INPUTS = {"inputs": {"pots": 20, "peak": 1230}}


def model_that_adds(constant: float) -> LinearRegression:
    model = LinearRegression().fit(TABLE[COLUMNS], TABLE["kwh"])
    model.intercept_ += constant
    return model


@pytest.fixture
def demo(author):
    """Two releases: the second has another model, another label and another title."""
    made = bring(author, model=dumped(model_that_adds(0)), reference=csv(TABLE[COLUMNS]), title="First of all")
    url = f"/api/v1/demos/{made.json()['slug']}"
    author.post(f"{url}/releases", json={"note": "As it came"}).raise_for_status()
    author.put(f"{url}/access", json={"access": "everyone"}).raise_for_status()
    files = {"model": ("model.joblib", dumped(model_that_adds(1000)))}
    author.put(f"{url}/model", files=files).raise_for_status()
    fields = [{"name": "pots", "label": "Pots in the kiln"}]
    author.patch(url, json={"title": "Second thoughts", "fields": fields}).raise_for_status()
    author.post(f"{url}/releases", json={"note": "A new model"}).raise_for_status()
    yield url
    author.delete(url)


def test_each_is_listed_and_can_be_read_as_it_was(author, visitor, demo):
    found = author.get(f"{demo}/releases").json()
    told = [(one["number"], one["note"], one["is_live"]) for one in found["releases"]]
    assert told == [(2, "A new model", True), (1, "As it came", False)]
    assert found["total"] == 2
    assert found["releases"][0]["published_at"] >= found["releases"][1]["published_at"]
    first = author.get(f"{demo}/releases/1").json()
    assert (first["document"]["title"], first["document"]["fields"][0]["label"]) == ("First of all", "Pots")
    problem(author.get(f"{demo}/releases/7"), 404)
    problem(visitor.get(f"{demo}/releases"), 404)
    problem(visitor.put(f"{demo}/release", json={"number": 1}), 404)


def test_back_to_the_first_and_forth_again(author, visitor, demo):
    now = visitor.post(f"{demo}/predictions", json=INPUTS).json()
    assert author.put(f"{demo}/release", json={"number": 1}).json()["release"]["number"] == 1
    then = visitor.post(f"{demo}/predictions", json=INPUTS).json()
    assert (now["release"], then["release"]) == (2, 1)
    assert now["answer"]["value"] - then["answer"]["value"] == pytest.approx(1000)
    assert visitor.get(f"{demo}/page").json()["title"] == "First of all"
    # The draft is what it was.
    assert author.get(demo).json()["title"] == "Second thoughts"
    author.put(f"{demo}/release", json={"number": 2}).raise_for_status()
    assert visitor.get(f"{demo}/page").json()["title"] == "Second thoughts"
    problem(author.put(f"{demo}/release", json={"number": 9}), 404)


def test_no_request_fails_and_none_mixes_two_while_it_goes_back_and_forth(author, studio, demo):
    found, stopping = [], threading.Event()

    def ask(with_: str) -> None:
        with studio.client() as visitor:
            while not stopping.is_set():
                answer = visitor.post(f"{demo}/predictions", json=INPUTS, params={"with": with_} if with_ else {})
                found.append((answer.status_code, answer.json()))

    askers = [threading.Thread(target=ask, args=(with_,)) for with_ in ["", "explanation"] * 8]
    for asker in askers:
        asker.start()
    for number in (1, 2, 1, 2):
        wait_for_more = len(found) + 60
        while len(found) < wait_for_more:
            time.sleep(0.02)
        author.put(f"{demo}/release", json={"number": number}).raise_for_status()
    stopping.set()
    for asker in askers:
        asker.join()
    assert {status for status, _ in found} == {200}
    values = {1: model_that_adds(0), 2: model_that_adds(1000)}
    expected = {
        number: model.predict(TABLE[COLUMNS].assign(pots=20, peak=1230).head(1))[0] for number, model in values.items()
    }
    for _, body in found:
        assert body["answer"]["value"] == pytest.approx(expected[body["release"]])
    assert {body["release"] for _, body in found} == {1, 2}


def test_what_differs_is_said_setting_by_setting(author, demo):
    found = author.get(f"{demo}/differences", params={"from": "1", "to": "2"}).json()
    told = {(one["what"], one["before"], one["after"]) for one in found["settings"]}
    assert ("Title", "First of all", "Second thoughts") in told
    assert ("Pots in the kiln: label", "Pots", "Pots in the kiln") in told
    assert not found["is_same_model"]
    assert found["model"]["features"] == NO_DIFFERENCE
    assert author.get(f"{demo}/differences", params={"from": "2"}).json() == {
        "settings": [],
        "is_same_model": True,
        "model": None,
    }
    author.patch(demo, json={"parts": {"similar": False}, "answer": {"unit": "kWh"}}).raise_for_status()
    told = [
        (one["what"], one["before"], one["after"])
        for one in author.get(f"{demo}/differences?from=2&to=draft").json()["settings"]
    ]
    assert told == [("Answer: unit", "nothing", "kWh"), ("On the page: similar", "yes", "no")]
    assert "must be a release's number" in problem(author.get(f"{demo}/differences?from=two"), 422)["detail"]
    problem(author.get(f"{demo}/differences?from=9"), 404)
