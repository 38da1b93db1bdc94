"""How a demo is used, counted day by day, and what failed asked once more."""

import datetime as dt
import json

import pytest
from sklearn.linear_model import LinearRegression
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import OneHotEncoder

from plain_window.store.database import database, now, use_database
from plain_window.store.demos import find_demo
from plain_window.store.records import Prediction
from plain_window.store.retention import forget_inputs

from ..made_models import csv, dumped, firings
from ..studio import wait_for
from .helpers import bring, problem

TABLE = firings()[["kiln", "kwh"]]
CASE = {"kiln": "gas", "pots": 20, "peak": 1230.0, "reduced": True}


def fails_for_others() -> bytes:
    """A model that knows three kilns and raises for any other."""
    encoder = OneHotEncoder(handle_unknown="error")
    return dumped(make_pipeline(encoder, LinearRegression()).fit(TABLE[["kiln"]], TABLE["kwh"]))


def test_visitors_are_counted_and_a_failure_is_asked_again_after_a_change(author, visitor):
    made = bring(author, model=fails_for_others(), reference=csv(TABLE), title="Counted").json()
    url = f"/api/v1/demos/{made['slug']}"
    empty = author.get(f"{url}/use").json()
    assert (empty["answers"], empty["failures"], empty["times"], empty["days"]) == (0, 0, None, [])
    author.patch(url, json={"record_inputs": True, "fields": [{"name": "kiln", "other": True}]}).raise_for_status()
    author.post(f"{url}/releases").raise_for_status()
    author.put(f"{url}/access", json={"access": "everyone"}).raise_for_status()

    def ask(client, kiln):
        return client.post(f"{url}/predictions", json={"inputs": {"kiln": kiln}})

    answers = [ask(visitor, kiln) for kiln in ("gas", "wood", "gas", "electric")]
    visitor.post(f"{url}/predictions/{answers[0].json()['id']}/outcome", json={"right": True}).raise_for_status()
    visitor.post(f"{url}/predictions/{answers[1].json()['id']}/outcome", json={"right": False}).raise_for_status()
    problem(ask(visitor, "raku"), 502)
    problem(ask(visitor, 3), 422)
    # The author's own tries do not count.
    ask(author, "gas")
    wait_for(lambda: author.get(f"{url}/log").json()["total"] == 7, what="all calls being written")
    use = author.get(f"{url}/use").json()
    assert (use["answers"], use["failures"]) == (4, 1)
    assert use["outcomes"] == {"right": 1, "wrong": 1}
    assert 0 < use["times"]["median_ms"] <= use["times"]["p95_ms"]
    (day,) = use["days"]
    assert day == {"day": dt.datetime.now(dt.UTC).date().isoformat(), "answers": 4, "failures": 1, "refused": 1}

    (failed,) = author.get(f"{url}/log", params={"outcome": "failed"}).json()["entries"]
    again = problem(author.post(f"{url}/log/{failed['id']}/again"), 502)
    assert "does not know the value 'raku'" in again["detail"]
    assert "ValueNotKnown" in again["traceback"]
    # Another model takes what was refused: asked again, the same call is answered.
    model = make_pipeline(OneHotEncoder(handle_unknown="ignore"), LinearRegression()).fit(TABLE[["kiln"]], TABLE["kwh"])
    author.put(f"{url}/model", files={"model": ("model.joblib", dumped(model))}).raise_for_status()
    body = author.post(f"{url}/log/{failed['id']}/again").json()
    expected = model.predict(TABLE[["kiln"]].head(1).assign(kiln="raku"))[0]
    assert abs(body["answer"]["value"] - expected) < 1e-9
    assert body["release"] is None
    problem(author.post(f"{url}/log/{failed['id'] + 1000}/again"), 404)
    problem(visitor.post(f"{url}/log/{failed['id']}/again"), 404)
    problem(author.get(f"{url}/use", params={"days": "many"}), 422)
    author.delete(url)


@pytest.fixture
def firing(author):
    """A published demo of firings that everyone may open."""
    url = f"/api/v1/demos/{bring(author, title='Firing drift').json()['slug']}"
    author.patch(url, json={"record_inputs": True, "record_days": 30, "parts": {"truth": True}}).raise_for_status()
    author.post(f"{url}/releases").raise_for_status()
    author.put(f"{url}/access", json={"access": "everyone"}).raise_for_status()
    yield url
    author.delete(url)


def ask_all(client, url: str, rows: list[dict]) -> list[dict]:
    return [client.post(f"{url}/predictions", json={"inputs": row}).json() for row in rows]


def drift(author, url: str, n_cases: int) -> dict:
    """The report once so many cases have been counted."""

    def counted():
        found = author.get(f"{url}/drift").json()
        return found["fields"][0]["cases"] >= n_cases and found

    return wait_for(counted, what="the cases being counted")


def test_cases_unlike_the_table_are_found_without_keeping_any(author, visitor, firing):
    rows = firings(80, seed=5)[["kiln", "pots", "peak", "reduced"]].to_dict("records")
    empty = author.get(f"{firing}/drift").json()
    assert [one["cases"] for one in empty["fields"]] == [0] * 4
    ask_all(visitor, firing, rows)
    # The author's own tries do not count.
    ask_all(author, firing, [{**row, "peak": 900} for row in rows[:40]])
    usual = drift(author, firing, 80)
    assert [one["drifted"] for one in [*usual["fields"], *usual["answers"]]] == [False] * 5
    ask_all(visitor, firing, [{**row, "peak": 1400.0 + at} for at, row in enumerate(rows)])
    found = drift(author, firing, 160)
    first = found["fields"][0]
    assert (first["field"], first["drifted"], first["statistic"]) == ("peak", True, "total-variation")
    assert 0.4 < first["value"] < 0.6
    assert first["finding"].endswith("more than chance would do.")
    assert (first["bins"][-1]["reference"], first["bins"][-1]["use"]) == (0.0, 50.0)
    assert {one["field"] for one in found["fields"] if one["drifted"]} == {"peak"}


def test_a_control_that_is_dragged_is_one_case(author, visitor, firing):
    # Browsers say where a page they post from is from.
    visitor.headers["Origin"] = str(visitor.base_url)
    ask_all(visitor, firing, [{**CASE, "peak": 1200.0 + step} for step in range(40)])
    ask_all(visitor, firing, [{**CASE, "kiln": "wood", "pots": 3}])
    assert drift(author, firing, 2)["fields"][0]["cases"] == 2
    # Of a program each is a case.
    del visitor.headers["Origin"]
    ask_all(visitor, firing, [{**CASE, "peak": 1200.0 + step} for step in range(10)])
    assert drift(author, firing, 12)["fields"][0]["cases"] == 12


def test_what_visitors_say_is_gathered_for_the_live_release(author, visitor, firing):
    answers = ask_all(visitor, firing, [{**CASE, "pots": pots} for pots in (5, 15, 25)])
    for answer, right, off in zip(answers, (True, False, False), (0.0, 3.0, 6.0), strict=True):
        body = {"right": right, "truth": answer["answer"]["value"] + off, "comment": "=1+1"}
        visitor.post(f"{firing}/predictions/{answer['id']}/outcome", json=body).raise_for_status()
    live = author.get(f"{firing}/use").json()["live"]
    assert (live["release"], live["cases"], live["with_truth"]) == (1, 3, 3)
    assert live["share_right"]["value"] == pytest.approx(1 / 3)
    assert live["share_right"]["low"] < 0.1 < 0.7 < live["share_right"]["high"]
    assert live["mean_absolute_error"] == pytest.approx(3.0)
    table = author.get(f"{firing}/outcomes.csv").text.splitlines()
    assert len(table) == 4
    assert table[1].endswith(",'=1+1")
    # Another release has not been spoken of yet.
    author.patch(firing, json={"title": "Another"}).raise_for_status()
    author.post(f"{firing}/releases").raise_for_status()
    assert author.get(f"{firing}/use").json()["live"] is None


def test_what_is_kept_goes_after_its_time_or_at_once(studio, author, visitor, firing):
    assert visitor.get(f"{firing}/page").json()["record_days"] == 30
    ask_all(visitor, firing, [CASE, CASE])
    wait_for(lambda: author.get(f"{firing}/log").json()["total"] == 2, what="the calls being written")
    use_database(json.loads((studio.home / "run" / "database.json").read_text())["url"])
    with database.connection_context():
        demo = find_demo(firing.rpartition("/")[2])
        entries = list(Prediction.select().where(Prediction.demo_id == demo.id).order_by(Prediction.id))
        old = now() - dt.timedelta(days=30, minutes=1)
        Prediction.update(at=old).where(Prediction.id == entries[0].id).execute()
        # A longer period later does not bring back the one that was promised.
        author.patch(firing, json={"record_days": 300}).raise_for_status()
        assert forget_inputs() == 1
        assert forget_inputs() == 0
    database.close_idle()
    kept = author.get(f"{firing}/log").json()["entries"]
    assert sorted(one["inputs"] is None for one in kept) == [False, True]
    assert author.delete(f"{firing}/log/inputs").status_code == 204
    assert [one["inputs"] for one in author.get(f"{firing}/log").json()["entries"]] == [None, None]
