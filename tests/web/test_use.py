"""How a demo is used, counted day by day, and what failed asked once more."""

import datetime as dt

from sklearn.linear_model import LinearRegression
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import OneHotEncoder

from ..made_models import csv, dumped, firings
from ..studio import wait_for
from .helpers import bring, problem

TABLE = firings()[["kiln", "kwh"]]


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
