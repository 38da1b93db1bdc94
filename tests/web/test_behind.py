"""What stands behind an answer: similar cases, changes, trust, what matters overall; and the author's say in it."""

import io

import httpx
import numpy as np
import pandas as pd
import pytest
from sklearn.compose import TransformedTargetRegressor
from sklearn.ensemble import RandomForestClassifier
from sklearn.linear_model import LinearRegression

from ..made_models import FEATURES, classifier_pipeline, csv, dumped, firings, regressor_pipeline
from ..studio import SAMPLE, USUAL_PIECE, wait_for
from .helpers import bring, problem

SAMPLE_DEMO = "/api/v1/demos/will-it-crack"
WET_PIECE = {**USUAL_PIECE, "wall_mm": 14, "drying_days": 2}


def ask(client: httpx.Client, url: str = SAMPLE_DEMO, *, inputs=None, **query) -> httpx.Response:
    return client.post(f"{url}/predictions", params=query, json={"inputs": inputs or WET_PIECE})


def with_known(author: httpx.Client, model, table: pd.DataFrame, known: pd.DataFrame, **texts) -> httpx.Response:
    files = {
        "model": ("model.joblib", io.BytesIO(dumped(model))),
        "reference": ("reference.csv", io.BytesIO(csv(table))),
        "known": ("known.csv", io.BytesIO(csv(known))),
    }
    return author.post("/api/v1/demos", files=files, data=texts)


# --- one case ---------------------------------------------------------------------------------------------------------


def test_similar_cases_are_reference_rows_with_what_happened_to_them(visitor):
    reference = pd.read_csv(SAMPLE / "reference.csv")
    similar = ask(visitor, **{"with": "similar"}).json()["similar"]
    assert [one["distance"] for one in similar] == sorted(one["distance"] for one in similar)
    for one in similar:
        same = reference
        for name, value in one["inputs"].items():
            same = same[same[name] == value]
        assert one["outcome"] in set(same["outcome"])
        assert one["answer"]["kind"] == "class"


def test_a_case_unlike_anything_is_told_from_a_usual_one(visitor):
    usual = ask(visitor, inputs=USUAL_PIECE, **{"with": "similar"}).json()["familiarity"]
    strange = {**USUAL_PIECE, "wall_mm": 90, "peak_temp": 300, "cooling_hours": 400}
    assert not usual["is_unlike"]
    assert ask(visitor, inputs=strange, **{"with": "similar"}).json()["familiarity"]["is_unlike"]


def test_every_change_that_is_offered_does_what_it_says(visitor):
    body = ask(visitor, **{"with": "changes"}).json()
    assert body["answer"]["class"] == "cracks"
    assert len(body["changes"]["ways"]) > 1
    for way in body["changes"]["ways"]:
        after = {**WET_PIECE, **{one["field"]: one["after"] for one in way["changes"]}}
        assert ask(visitor, inputs=after).json()["answer"] == way["answer"]
        assert way["answer"]["class"] != "cracks"
        moved = {one["field"] for one in way["changes"]}
        # The author marked these as given.
        assert not moved & {"clay_body", "width_cm", "attached"}


def test_a_wanted_class_is_reached_or_nothing_is_offered(visitor):
    for way in ask(visitor, **{"with": "changes", "to": "warps"}).json()["changes"]["ways"]:
        assert way["answer"]["class"] == "warps"
    assert ask(visitor, **{"with": "changes", "to": "cracks"}).json()["changes"]["is_there"]


def test_a_number_is_reached_by_changes(author):
    url = f"/api/v1/demos/{bring(author, title='Reaching').json()['slug']}"
    inputs = {"kiln": "gas", "pots": 20, "peak": 1230.0, "reduced": False}
    body = ask(author, url, inputs=inputs, draft="1", reach="150", **{"with": "changes"}).json()
    assert body["changes"]["reach"] == 150
    assert body["changes"]["ways"]
    for way in body["changes"]["ways"]:
        assert way["answer"]["value"] >= 150


@pytest.mark.parametrize(
    ("query", "detail"),
    [
        ({"with": "changes", "reach": "far"}, "`reach` must be a number"),
        ({"with": "changes", "to": "melts"}, "`to` must be one of"),
        ({"with": "similar,everything"}, "`with` may be"),
    ],
)
def test_what_cannot_be_asked_is_said(visitor, query, detail):
    # `reach` is about numbers; of classes it is refused all the same when it is none.
    assert detail in problem(ask(visitor, **query), 422)["detail"]


# --- trust ------------------------------------------------------------------------------------------------------------


def test_known_cases_give_intervals_and_a_report(author):
    table, known = firings(200), firings(150, seed=9)
    model = regressor_pipeline(table)
    demo = with_known(author, model, table.drop(columns="outcome"), known.drop(columns="outcome"), title="Kept back")
    assert demo.status_code == 201, demo.text
    url = f"/api/v1/demos/{demo.json()['slug']}"
    errors = np.sort(np.abs(model.predict(known[FEATURES]) - known["kwh"]))
    inputs = {"kiln": "gas", "pots": 20, "peak": 1230.0, "reduced": False}
    answer = ask(author, url, inputs=inputs, draft="1").json()["answer"]
    half = (answer["interval"]["high"] - answer["interval"]["low"]) / 2
    assert half == pytest.approx(errors[int(np.ceil(151 * 0.9)) - 1])
    assert author.patch(url, json={"answer": {"coverage": 0.5}}).status_code == 200
    answer = ask(author, url, inputs=inputs, draft="1").json()["answer"]
    half = (answer["interval"]["high"] - answer["interval"]["low"]) / 2
    assert half == pytest.approx(errors[int(np.ceil(151 * 0.5)) - 1])
    report = author.get(f"{url}/page", params={"draft": "1"}).json()["report"]
    assert report["n_known"] == 150
    assert float(report["typical_error"]) == pytest.approx(np.median(errors), abs=0.06)


@pytest.mark.parametrize(
    ("known", "message"),
    [
        (firings(20).drop(columns=["pots"]), "The known cases have no column `pots`"),
        (firings(20).assign(outcome="blue"), "No known case has an outcome the model could give"),
    ],
)
def test_known_cases_that_do_not_belong_are_refused(author, known, message):
    table = firings()
    response = with_known(author, classifier_pipeline(table), table, known, target="outcome")
    assert message in problem(response, 422)["errors"][0]["message"]


# --- the whole table --------------------------------------------------------------------------------------------------


def test_what_matters_overall_is_worked_out_while_nobody_asks(visitor):
    def finished():
        body = visitor.get(f"{SAMPLE_DEMO}/overall", params={"of": "cracks"}).json()
        return body if body["share_done"] == 1 else None

    body = wait_for(finished, what="what matters overall")
    importances = [one["importance"][0] for one in body["fields"]]
    assert importances == sorted(importances, reverse=True)
    assert {one["field"] for one in body["fields"]} == set(USUAL_PIECE)
    assert body["fields"][0]["field"] == "drying_days"
    assert body["fields"][0]["shuffled"][1] > 0


def test_a_case_can_be_drawn_among_the_reference_rows(visitor):
    body = visitor.get(f"{SAMPLE_DEMO}/among", params={"field": "attached", "of": "cracks"}).json()
    assert set(body["x"]) == {True, False}
    assert len(body["x"]) == len(body["y"]) == len(body["outcomes"])
    assert all(0 <= y <= 1 for y in body["y"])
    assert "`field` must be one of" in problem(visitor.get(f"{SAMPLE_DEMO}/among?field=shape"), 422)["detail"]


# --- the author's say -------------------------------------------------------------------------------------------------


def test_a_part_that_is_switched_off_is_not_given_out(author):
    url = f"/api/v1/demos/{bring(author, title='Reticent').json()['slug']}"
    off = {"similar": False, "among": False, "overall": False, "contributions": False}
    assert author.patch(url, json={"parts": off}).json()["parts"]["curves"] is True
    inputs = {"kiln": "gas", "pots": 20, "peak": 1230.0, "reduced": False}
    for part in ("similar", "explanation"):
        problem(ask(author, url, inputs=inputs, draft="1", **{"with": part}), 403)
    for place in ("overall", "among?field=pots&"):
        problem(author.get(f"{url}/{place}{'' if '?' in place else '?'}draft=1"), 403)
    assert ask(author, url, inputs=inputs, draft="1", **{"with": "curves"}).json()["curves"]


def test_the_author_sets_how_many_rows_contributions_are_counted_against(author):
    url = f"/api/v1/demos/{bring(author, title='Counted').json()['slug']}"
    inputs = {"kiln": "gas", "pots": 20, "peak": 1230.0, "reduced": False}

    def explanation():
        return ask(author, url, inputs=inputs, draft="1", **{"with": "explanation"}).json()["explanation"]

    assert explanation()["n_background"] == 100
    assert author.patch(url, json={"background_rows": 7}).status_code == 200
    assert explanation()["n_background"] == 7
    # What visitors and the shelf are told of is the runner that counts against seven.
    author.post(f"{url}/releases")
    author.put(f"{url}/access", json={"access": "everyone"})
    entry = next(one for one in author.get("/api/v1/demos").json()["demos"] if one["slug"] == url.rsplit("/", 1)[1])
    assert entry["health"] == "ready"
    assert author.get("/readyz").status_code == 200
    problem(author.patch(url, json={"background_rows": 0}), 422)


# --- awkward tables ---------------------------------------------------------------------------------------------------


def test_a_field_the_model_ignores_has_no_curve_and_no_push_and_is_named(author):
    table = firings().assign(shelf=3, colour=lambda rows: np.arange(len(rows)) % 5)
    features = ["pots", "peak", "shelf", "colour"]
    model = LinearRegression().fit(table[features], 3.0 * table["pots"] + table["peak"])
    model.coef_[2:] = 0.0
    demo = bring(author, model=dumped(model), reference=csv(table[features]), title="Ignorant").json()
    url = f"/api/v1/demos/{demo['slug']}"
    assert set(author.get(f"{url}/page?draft=1").json()["ignored"]) == {"shelf", "colour"}
    inputs = {"pots": 20, "peak": 1230.0, "shelf": 3, "colour": 1}
    body = ask(author, url, inputs=inputs, draft="1", **{"with": "explanation,curves"}).json()
    contributions = {one["field"]: one["contribution"] for one in body["explanation"]["contributions"]}
    assert contributions["shelf"] == contributions["colour"] == 0
    curve = next(one for one in body["curves"] if one["field"] == "colour")
    assert len(set(curve["y"])) == 1


@pytest.mark.parametrize("table", [firings(1), pd.concat([firings(1)] * 30)], ids=["one row", "the same row"])
def test_a_table_of_one_row_answers_and_explains(author, table):
    model = regressor_pipeline(firings())
    demo = bring(author, model=dumped(model), reference=csv(table[FEATURES]), title="Lonely").json()
    url = f"/api/v1/demos/{demo['slug']}"
    inputs = {**{name: table[name].iloc[0].item() if name != "kiln" else table[name].iloc[0] for name in FEATURES}}
    wanted = {"with": "explanation,curves,similar,changes"}
    body = ask(author, url, inputs={**inputs, "pots": 50}, draft="1", **wanted).json()
    contributions = {one["field"]: one["contribution"] for one in body["explanation"]["contributions"]}
    assert sum(contributions.values()) == pytest.approx(body["answer"]["value"] - body["explanation"]["baseline"])
    assert contributions["peak"] == pytest.approx(0)
    assert len(body["similar"]) == min(5, len(table))


def test_a_model_that_has_no_number_for_some_rows_answers_and_says_why_it_does_not_explain(author):
    table = pd.DataFrame({"cones": np.arange(-20.0, 60.0)})
    model = TransformedTargetRegressor(LinearRegression(), func=np.exp, inverse_func=np.log, check_inverse=False)
    model.fit(table, np.log(np.linspace(1, 9, len(table))))
    # Below some cone there is no logarithm.
    model.regressor_.intercept_ = 0.0
    demo = bring(author, model=dumped(model), reference=csv(table), title="Logarithmic")
    assert demo.status_code == 201, demo.text
    url = f"/api/v1/demos/{demo.json()['slug']}"
    body = ask(author, url, inputs={"cones": 30.0}, draft="1", **{"with": "explanation,curves"}).json()
    assert body["answer"]["value"] == pytest.approx(np.log(30 * model.regressor_.coef_[0]))
    assert body["explanation"] is None
    assert body["notes"][-1]["message"].startswith("The answer is not explained. The model gives no number for some")
    problem(ask(author, url, inputs={"cones": -10.0}, draft="1"), 502)


def test_of_500_fields_the_strongest_are_shown_and_the_rest_folded(author):
    rng = np.random.default_rng(5)
    names = [f"reading_{at}" for at in range(500)]
    table = pd.DataFrame(rng.normal(size=(150, 500)).round(3), columns=names)
    outcome = np.where(table["reading_7"] + table["reading_400"] > 0, "red", "green")
    model = RandomForestClassifier(50, random_state=0).fit(table, outcome)
    demo = bring(author, model=dumped(model), reference=csv(table), title="Many readings").json()
    url = f"/api/v1/demos/{demo['slug']}"
    folded = author.get(f"{url}/page?draft=1").json()["folded"]
    assert len(folded) == 480
    assert not {"reading_7", "reading_400"} & set(folded)
    wanted = {"with": "explanation,curves,similar,changes"}
    body = ask(author, url, inputs=dict.fromkeys(names, 0.5), draft="1", **wanted).json()
    contributions = [one["contribution"] for one in body["explanation"]["contributions"]]
    likeliest = body["answer"]["probabilities"][0]["probability"]
    assert sum(contributions) == pytest.approx(likeliest - body["explanation"]["baseline"])
    assert len(body["curves"]) == 500


# --- texts ------------------------------------------------------------------------------------------------------------

LOG_DEMO = "/api/v1/demos/what-went-wrong"


def test_words_of_a_log_line_add_up_to_its_answer(visitor):
    line = "bang at 180, shards all over the shelf. bisque for the evening class 🔥"
    body = ask(visitor, LOG_DEMO, inputs={"line": line}, **{"with": "explanation"}).json()
    (words,) = body["explanation"]["words"]
    likeliest = body["answer"]["probabilities"][0]
    assert likeliest["class"] == "damp pots"
    assert sum(one["contribution"] for one in words["words"]) == pytest.approx(
        likeliest["probability"] - words["baseline"]
    )
    assert words["words"][0]["word"] == "bang"
    for one in words["words"]:
        for start, end in one["places"]:
            assert line[start:end].casefold() == one["word"]
    again = ask(visitor, LOG_DEMO, inputs={"line": line}, **{"with": "explanation"}).json()
    assert again["explanation"]["words"] == body["explanation"]["words"]


@pytest.mark.parametrize("line", ["…!?", "窯が割れた 🔥", "x" * 19_000, "bang " * 3_000], ids=repr)
def test_any_text_is_answered_and_explained(visitor, line):
    body = ask(visitor, LOG_DEMO, inputs={"line": line}, **{"with": "explanation,curves,similar,changes"}).json()
    assert body["answer"]["kind"] == "class"
    (words,) = body["explanation"]["words"]
    probability = body["answer"]["probabilities"][0]["probability"]
    assert sum(one["contribution"] for one in words["words"]) == pytest.approx(probability - words["baseline"])


def test_a_text_that_is_empty_or_too_long_is_refused_in_words(visitor):
    for line in ("", "   "):
        problem(ask(visitor, LOG_DEMO, inputs={"line": line}), 422)
    detail = problem(ask(visitor, LOG_DEMO, inputs={"line": "x" * 30_000}), 422)["errors"][0]["message"]
    assert "20" in detail
    problem(ask(visitor, LOG_DEMO, inputs={"line": "x" * 2_000_000}), 413)


# --- ready cases ------------------------------------------------------------------------------------------------------


def test_ready_cases_are_on_the_page_and_must_be_cases(author, visitor):
    for sample in visitor.get(f"{LOG_DEMO}/page").json()["samples"]:
        assert ask(visitor, LOG_DEMO, inputs=sample["inputs"]).status_code == 200
    url = f"/api/v1/demos/{bring(author, title='Ready').json()['slug']}"
    good = {"title": "A full kiln", "inputs": {"kiln": "gas", "pots": 50, "peak": 1240, "reduced": True}}
    assert author.patch(url, json={"samples": [good]}).json()["samples"] == [good]
    bad = {"title": "A mystery", "inputs": {"kiln": "solar", "pots": 50, "peak": 1240}}
    faults = problem(author.patch(url, json={"samples": [good, bad]}), 422)["errors"]
    assert {fault["field"] for fault in faults} == {"samples.1.kiln", "samples.1.reduced"}
    assert author.get(url).json()["samples"] == [good]
