"""The report on known cases, and the cases themselves, through the API."""

import numpy as np
import pandas as pd
import pytest
from sklearn import metrics
from sklearn.ensemble import RandomForestRegressor

from ..made_models import FEATURES, classifier_pipeline, csv, dumped, firings
from .helpers import bring, problem
from .test_behind import with_known

KNOWN = firings(200, seed=9)
SURE = {"calibration": "Its sureness is not what is shown here"}


@pytest.fixture(scope="module")
def brought(studio, key):
    """A classifier with known cases, published, and the model itself."""
    table = firings(200)
    model = classifier_pipeline(table)
    with studio.client(key=key) as author:
        demo = with_known(author, model, table, KNOWN.drop(columns="kwh"), target="outcome", title="Reported").json()
        url = f"/api/v1/demos/{demo['slug']}"
        # Ten trees are far too sure: the check of probabilities fails, and says so.
        author.post(f"{url}/releases", json={"despite": SURE}).raise_for_status()
        author.put(f"{url}/access", json={"access": "everyone"}).raise_for_status()
    return url, model


def test_its_figures_are_the_librarys(author, brought):
    url, model = brought
    report = author.get(f"{url}/report").json()
    answered, truths = model.predict(KNOWN[FEATURES]), KNOWN["outcome"]
    assert report["kind"] == "class"
    assert report["cases"] == len(KNOWN)
    assert report["share_right"]["value"] == pytest.approx(metrics.accuracy_score(truths, answered))
    assert report["confusion"]["classes"] == [str(name) for name in model.classes_]
    assert report["confusion"]["counts"] == metrics.confusion_matrix(truths, answered).tolist()
    assert report["log_loss"] == pytest.approx(metrics.log_loss(truths, model.predict_proba(KNOWN[FEATURES])))
    # The page says the same number.
    assert report["share_right"]["value"] == pytest.approx(
        author.get(url).json()["report"]["right_of_100"] / 100, abs=0.006
    )


def test_cases_of_one_thing_count_as_one_for_how_sure_it_is(author, brought):
    (_, model), table = brought, firings(200)
    five_times = pd.concat([KNOWN.drop(columns="kwh").head(40).assign(batch=np.arange(40) % 39)] * 5)
    missing = with_known(author, model, table, five_times, target="outcome", known_group="lot")
    assert [one["field"] for one in problem(missing, 422)["errors"]] == ["known_group"]
    apart, told = (
        with_known(author, model, table, five_times, target="outcome", **words).json()["slug"]
        for words in ({}, {"known_group": "batch"})
    )
    plain, sure = (author.get(f"/api/v1/demos/{slug}/report").json() for slug in (apart, told))
    assert (sure["known_group"], sure["things"], sure["cases"]) == ("batch", 39, 200)
    assert (plain["known_group"], plain["things"]) == (None, None)
    assert sure["share_right"]["value"] == plain["share_right"]["value"]
    wide, narrow = (one["share_right"]["high"] - one["share_right"]["low"] for one in (sure, plain))
    assert wide > 1.8 * narrow
    # A folder brings it along; without the cases nothing is left of it.
    with author.stream("GET", f"/api/v1/demos/{told}/folder") as response:
        folder = response.read()
    again = author.post("/api/v1/demos", files={"folder": ("demo.zip", folder)}, data={"slug": "once-more"}).json()
    assert author.get(f"/api/v1/demos/{again['slug']}/report").json()["things"] == 39
    taken = author.put(f"/api/v1/demos/{again['slug']}/model", files={"known": ("known.csv", b"")})
    assert taken.status_code == 200, taken.text
    # That they go wrong together is seen where nobody said so, and can be said then.
    draft = author.get(f"/api/v1/demos/{apart}").json()
    assert "batch" in draft["known_groups"]
    assert draft["known_group"] is None
    (note,) = [one for one in draft["notes"] if "go wrong together" in one]
    assert "`batch`" in note
    assert "their 200 are as sure as" in note
    put = author.put(f"/api/v1/demos/{apart}/model", files={"known_group": (None, "batch")})
    assert put.status_code == 200, put.text
    said = put.json()["demo"]
    assert said["known_group"] == "batch"
    assert not any("go wrong together" in one for one in said["notes"])
    assert author.get(f"/api/v1/demos/{apart}/report").json()["share_right"] == sure["share_right"]
    # Nothing else that is said of it is surer than that.
    assert said["evidence"] == author.get(f"/api/v1/demos/{told}").json()["evidence"] != draft["evidence"]
    for slug in (apart, told, again["slug"]):
        author.delete(f"/api/v1/demos/{slug}").raise_for_status()


def test_a_word_for_what_cases_are_of_needs_cases_of_one(author, brought):
    _, model = brought
    table, known = firings(200), KNOWN.drop(columns="kwh").head(40)
    said = {"target": "outcome", "known_group": "batch"}
    none = bring(author, model=dumped(model), reference=csv(table), **said)
    assert "none came" in problem(none, 422)["errors"][0]["message"]
    outcome = with_known(author, model, table, known, target="outcome", known_group="outcome")
    assert "is the outcome" in problem(outcome, 422)["errors"][0]["message"]
    # Of each batch there is one, or nobody knows which it is.
    for things in (np.arange(40), [None] * 40):
        demo = with_known(author, model, table, known.assign(batch=things), **said).json()
        assert any("No two known cases have the same `batch`" in note for note in demo["notes"])
        report = author.get(f"/api/v1/demos/{demo['slug']}/report").json()
        assert (report["cases"], report["known_group"]) == (40, None)
        author.delete(f"/api/v1/demos/{demo['slug']}").raise_for_status()


def test_the_same_by_the_values_of_a_field(author, brought):
    url, model = brought
    groups = author.get(f"{url}/report", params={"by": "kiln"}).json()["groups"]
    right = model.predict(KNOWN[FEATURES]) == KNOWN["outcome"]
    for group in groups:
        own = KNOWN["kiln"] == group["label"].lower()
        assert group["cases"] == own.sum()
        assert group["share_right"]["value"] == pytest.approx(right[own].mean())
        assert group["share_right"]["low"] < group["share_right"]["value"] < group["share_right"]["high"]
    assert sum(group["cases"] for group in groups) == len(KNOWN)
    quarters = author.get(f"{url}/report", params={"by": "peak"}).json()["groups"]
    assert sum(group["cases"] for group in quarters) == len(KNOWN)
    assert "must be one of" in problem(author.get(f"{url}/report", params={"by": "colour"}), 422)["detail"]


def test_known_cases_come_in_the_tables_order_or_the_worst_first(author, brought):
    url, model = brought
    found = author.get(f"{url}/known", params={"limit": 100}).json()
    assert found["total"] == len(KNOWN)
    assert [case["row"] for case in found["cases"]] == list(range(100))
    for case in found["cases"]:
        row = KNOWN.iloc[case["row"]]
        assert case["truth"] == row["outcome"]
        assert case["inputs"]["pots"] == row["pots"]
        assert case["answer"]["class"] == model.predict(KNOWN[FEATURES].iloc[[case["row"]]])[0]
        assert case["is_right"] == (case["answer"]["class"] == case["truth"])
    worst = author.get(f"{url}/known", params={"order": "worst", "show": "wrong"}).json()
    assert worst["total"] == (model.predict(KNOWN[FEATURES]) != KNOWN["outcome"]).sum()
    of_the_truth = [
        next(one["probability"] for one in case["answer"]["probabilities"] if one["class"] == case["truth"])
        for case in worst["cases"]
    ]
    assert of_the_truth == sorted(of_the_truth)
    assert author.get(f"{url}/report").json()["worst"][0]["row"] == worst["cases"][0]["row"]


def test_a_cell_of_the_confusion_table_is_opened(author, brought):
    url, _ = brought
    confusion = author.get(f"{url}/report").json()["confusion"]
    for truth, row in zip(confusion["classes"], confusion["counts"], strict=True):
        for answered, count in zip(confusion["classes"], row, strict=True):
            asked = author.get(f"{url}/known", params={"truth": truth, "answered": answered}).json()
            assert asked["total"] == count
    assert "must be one of" in problem(author.get(f"{url}/known", params={"truth": "blue"}), 422)["detail"]
    assert problem(author.get(f"{url}/known", params={"order": "best"}), 422)
    assert "Only a number" in problem(author.get(f"{url}/known", params={"show": "high"}), 422)["detail"]
    assert problem(author.get(f"{url}/known", params={"limit": "²"}), 422)


def test_visitors_see_it_where_the_author_shows_it(author, visitor, brought):
    url, _ = brought
    problem(visitor.get(f"{url}/report"), 403)
    problem(visitor.get(f"{url}/known"), 403)
    author.patch(url, json={"parts": {"report": True}}).raise_for_status()
    author.post(f"{url}/releases", json={"despite": SURE}).raise_for_status()
    assert visitor.get(f"{url}/report").json() == author.get(f"{url}/report").json()
    assert visitor.get(f"{url}/known").status_code == 200


def test_a_number_and_several_numbers(author):
    table, known = firings(200), firings(150, seed=9)
    forest = RandomForestRegressor(40, random_state=0).fit(table[["pots", "peak"]], table["kwh"])
    columns = ["pots", "peak", "kwh"]
    demo = with_known(author, forest, table[columns], known[columns], target="kwh", title="How many kWh").json()
    report = author.get(f"/api/v1/demos/{demo['slug']}/report").json()
    values = forest.predict(known[["pots", "peak"]])
    assert report["mean_absolute_error"] == pytest.approx(metrics.mean_absolute_error(known["kwh"], values))
    assert report["r2"] == pytest.approx(metrics.r2_score(known["kwh"], values))
    assert report["stated_coverage"] == 0.9
    assert abs(report["worst"][0]["error"]) == pytest.approx(np.abs(values - known["kwh"]).max())
    off = values - known["kwh"].to_numpy()
    url = f"/api/v1/demos/{demo['slug']}/known"
    for show, wanted in (("all", np.abs(off) > 2), ("high", off > 2), ("low", off < -2)):
        found = author.get(url, params={"show": show, "over": 2, "limit": 100}).json()
        assert [case["row"] for case in found["cases"]] == list(np.flatnonzero(wanted))
        assert found["total"] > 0
    assert "off by more than `over`" in problem(author.get(url, params={"show": "wrong"}), 422)["detail"]
    problem(author.get(url, params={"over": "-1"}), 422)
    problem(author.get(url, params={"over": "nan"}), 422)
    table["cost"], known["cost"] = table["kwh"] * 0.3, known["kwh"] * 0.3
    both = RandomForestRegressor(40, random_state=0).fit(table[["pots", "peak"]], table[["kwh", "cost"]])
    columns = ["pots", "peak", "kwh", "cost"]
    demo = with_known(author, both, table[columns], known[columns], target="kwh,cost", title="Both").json()
    report = author.get(f"/api/v1/demos/{demo['slug']}/report").json()
    assert [part["name"].lower() for part in report["values"]] == ["kwh", "cost"]
    wanted = metrics.mean_absolute_error(known["cost"], both.predict(known[["pots", "peak"]])[:, 1])
    assert report["values"][1]["mean_absolute_error"] == pytest.approx(wanted)
    case = author.get(f"/api/v1/demos/{demo['slug']}/known").json()["cases"][0]
    assert case["truth"][report["values"][1]["name"]] == pytest.approx(known["cost"].iloc[0])


def test_without_known_cases_it_says_what_to_bring(author):
    table = firings()
    demo = bring(author, model=dumped(classifier_pipeline(table)), title="Unproven").json()
    detail = problem(author.get(f"/api/v1/demos/{demo['slug']}/report"), 422)["detail"]
    assert detail.startswith("There are no known cases.")
