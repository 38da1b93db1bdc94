"""Asking for answers."""

import json

import joblib
import jsonschema
import pandas as pd
import pytest

from ..studio import SAMPLE, USUAL_PIECE
from .helpers import problem

PREDICTIONS = "/api/v1/demos/will-it-crack/predictions"


def ask(client, **changes):
    return client.post(PREDICTIONS, json={"inputs": {**USUAL_PIECE, **changes}})


def test_the_answer_is_the_notebooks(visitor):
    reference = pd.read_csv(SAMPLE / "reference.csv").drop(columns="outcome").head(40)
    model = joblib.load(SAMPLE / "model.joblib")
    expected = model.predict_proba(reference)
    for row, probabilities in zip(json.loads(reference.to_json(orient="records")), expected, strict=True):
        answer = ask(visitor, **row).json()["answer"]
        given = {item["class"]: item["probability"] for item in answer["probabilities"]}
        assert [given[name] for name in model.classes_] == list(probabilities)
        assert answer["class"] == model.classes_[probabilities.argmax()]
        assert [item["probability"] for item in answer["probabilities"]] == sorted(probabilities, reverse=True)


def test_the_body_says_which_release_answered_and_how_long_it_took(visitor):
    body = ask(visitor).json()
    assert body["release"] == 1
    assert body["notes"] == []
    assert 0 < body["timing_ms"]["predict"] < body["timing_ms"]["total"]


def test_every_fault_is_listed(visitor):
    inputs = {**USUAL_PIECE, "wall_mm": "14", "clay_body": "mud", "glase": "clear"}
    del inputs["glaze"]
    body = problem(visitor.post(PREDICTIONS, json={"inputs": inputs}), 422)
    assert {fault["field"]: fault["message"] for fault in body["errors"]} == {
        "clay_body": 'Clay body cannot be "mud". Choose one of "stoneware", "porcelain", "earthenware", "grogged".',
        "wall_mm": 'Wall thickness must be a number. You gave "14". Try 7.6.',
        "glaze": "Glaze is missing.",
        "glase": 'There is no field "glase". Did you mean "glaze"?',
    }


JSON = {"Content-Type": "application/json"}


@pytest.mark.parametrize("number", ["NaN", "Infinity", "-Infinity", "1e999", "9" * 5000])
def test_numbers_json_does_not_have_are_refused_by_field(visitor, number):
    text = json.dumps({"inputs": USUAL_PIECE}).replace("7.6", number)
    assert problem(visitor.post(PREDICTIONS, content=text, headers=JSON), 422)["errors"][0]["field"] == "wall_mm"


@pytest.mark.parametrize(
    ("content", "status"),
    [
        (b"", 400),
        (b"{", 400),
        (b"\xff\xfe", 400),
        (b"[" * 100_000, 400),
        (rb'{"inputs": {"glaze": "\ud800"}}', 400),
        (b'{"inputs": {"glaze": "\xed\xa0\x80"}}', 400),
        (b"[]", 422),
        (b"{}", 422),
        (b'{"inputs": []}', 422),
        (b'{"inputs": {}, "more": 1}', 422),
    ],
)
def test_what_is_no_request_is_refused(visitor, content, status):
    problem(visitor.post(PREDICTIONS, content=content, headers=JSON), status)


def test_a_body_over_the_limit_is_refused_before_it_is_read(visitor):
    assert "limit is 1 MB" in problem(visitor.post(PREDICTIONS, content=b" " * (2 << 20), headers=JSON), 413)["detail"]


def test_a_number_outside_the_reference_range_carries_a_note(visitor):
    (note,) = ask(visitor, wall_mm=25).json()["notes"]
    assert (note["field"], note["level"]) == ("wall_mm", "warn")
    assert "3 to 18 mm" in note["message"]


def test_the_schema_accepts_the_table_and_refuses_the_rest(visitor):
    schema = visitor.get("/api/v1/demos/will-it-crack/schema").json()
    jsonschema.Draft202012Validator.check_schema(schema)
    validator = jsonschema.Draft202012Validator(schema)
    rows = json.loads(pd.read_csv(SAMPLE / "reference.csv").drop(columns="outcome").to_json(orient="records"))
    assert all(validator.is_valid(row) for row in rows)
    assert not validator.is_valid({**USUAL_PIECE, "wall_mm": "14"})
    assert not validator.is_valid({**USUAL_PIECE, "extra": 1})


def test_the_page_has_all_a_visitor_needs_in_the_authors_order(visitor):
    page = visitor.get("/api/v1/demos/will-it-crack/page").json()
    assert (page["title"], page["release"], page["answer"]["noun"]) == ("Will it crack?", 1, "pieces")
    assert [field["name"] for field in page["fields"]][:3] == ["clay_body", "wall_mm", "width_cm"]
    assert page["description_html"].startswith("<p>")


def test_the_visitors_page_is_html_under_a_strict_policy(visitor):
    response = visitor.get("/d/will-it-crack")
    assert 'data-slug="will-it-crack"' in response.text
    policy = response.headers["content-security-policy"]
    assert "script-src 'self'" in policy
    assert "unsafe" not in policy
    assert "<script>" not in response.text
    for name in ("/d/no-such-demo", "/l/no-such-link"):
        assert visitor.get(name).status_code == 404


def test_methods_and_addresses_that_do_not_exist_are_problems_too(visitor):
    problem(visitor.get("/api/v1/nothing"), 404)
    assert "POST" in visitor.get(PREDICTIONS).headers["allow"]
    problem(visitor.get(PREDICTIONS), 405)


def test_contributions_add_up_to_the_answer_and_curves_go_through_it(visitor):
    body = visitor.post(
        f"{PREDICTIONS}?with=explanation,curves", json={"inputs": {**USUAL_PIECE, "wall_mm": 14}}
    ).json()
    explanation, likeliest = body["explanation"], body["answer"]["probabilities"][0]
    assert (explanation["of"], explanation["unit"]) == (likeliest["class"], "probability")
    assert (explanation["method"], explanation["error"], explanation["n_background"]) == ("exact-forest", 0, 100)
    sizes = [abs(item["contribution"]) for item in explanation["contributions"]]
    assert sizes == sorted(sizes, reverse=True)
    assert {item["field"]: item["value"] for item in explanation["contributions"]} == {**USUAL_PIECE, "wall_mm": 14}
    total = explanation["baseline"] + sum(item["contribution"] for item in explanation["contributions"])
    assert total == pytest.approx(likeliest["probability"], abs=1e-9)
    curves = {curve["field"]: curve for curve in body["curves"]}
    assert set(curves) == set(USUAL_PIECE)
    assert (curves["wall_mm"]["shape"], curves["glaze"]["shape"]) == ("steps", "options")
    assert curves["attached"]["x"] == [False, True]
    at = max(index for index, x in enumerate(curves["wall_mm"]["x"]) if x <= 14)
    assert curves["wall_mm"]["y"][at] == pytest.approx(likeliest["probability"], abs=1e-9)
    own = curves["glaze"]["x"].index(USUAL_PIECE["glaze"])
    assert curves["glaze"]["y"][own] == pytest.approx(likeliest["probability"], abs=1e-9)


def test_any_class_can_be_explained_and_a_curve_in_full(visitor):
    body = visitor.post(
        f"{PREDICTIONS}?with=explanation,curves&of=warps&curves=full", json={"inputs": USUAL_PIECE}
    ).json()
    assert body["explanation"]["of"] == "warps"
    assert {curve["of"] for curve in body["curves"]} == {"warps"}
    assert not any(curve["thinned"] for curve in body["curves"])


@pytest.mark.parametrize(
    ("query", "detail"),
    [
        (
            "with=reasons",
            "`with` may be `explanation`, `curves`, `similar`, `changes`, `where` or `seen`, parted by commas. "
            "Got `reasons`.",
        ),
        ("with=explanation&of=melts", "`of` must be one of `cracks`, `sound`, `warps`. Got `melts`."),
        ("with=explanation&scale=log", "`scale` may be `probability` or `score`."),
    ],
)
def test_what_cannot_be_explained_is_said(visitor, query, detail):
    assert problem(visitor.post(f"{PREDICTIONS}?{query}", json={"inputs": USUAL_PIECE}), 422)["detail"] == detail


def test_a_forest_has_no_score_and_says_so_beside_the_answer(visitor):
    body = visitor.post(f"{PREDICTIONS}?with=explanation&scale=score", json={"inputs": USUAL_PIECE}).json()
    assert body["explanation"] is None
    assert "has no score behind its answer" in body["notes"][0]["message"]
    assert body["answer"]["probabilities"]
