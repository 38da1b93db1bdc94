"""A demo whose model counts dates: brought with dates in its tables, asked with dates, taken along."""

import pandas as pd
import pytest
from sklearn.linear_model import LinearRegression

from ..core.test_dates import DAYS, TABLE
from ..made_models import csv, dumped
from .helpers import bring, problem

MODEL = LinearRegression().fit(DAYS[["fired_on", "pots"]], DAYS["kwh"])
WRITTEN = csv(TABLE.assign(fired_on=TABLE["fired_on"].dt.strftime("%d.%m.%Y")))
CASE = {"fired_on": "2026-02-15", "pots": 12}


@pytest.fixture
def url(author):
    made = bring(author, model=dumped(MODEL), reference=WRITTEN, title="Dated firing", dates="days")
    assert made.status_code == 201, made.text
    address = f"/api/v1/demos/{made.json()['slug']}"
    yield address
    author.delete(address)


def test_how_dates_are_counted_is_asked_and_kept(author, url):
    refused = problem(bring(author, model=dumped(MODEL), reference=WRITTEN, title="Undated"), 422)
    assert "send `dates` as one of `days`, `ordinal`" in refused["detail"]
    assert (
        "`dates` may be" in problem(bring(author, model=dumped(MODEL), reference=WRITTEN, dates="weeks"), 422)["detail"]
    )
    # Another table of dates is read in the same way.
    parts = {"reference": ("r.csv", csv(TABLE.tail(60)))}
    taken = author.put(f"{url}/model", files=parts).json()["demo"]
    assert taken["fields"][0]["calendar"] == "days"


def test_dates_are_asked_and_answered_as_dates_and_as_numbers(author, url):
    asked = [
        author.post(f"{url}/predictions?draft=1", json={"inputs": {**CASE, "fired_on": on}})
        for on in ("2026-02-15", 20499)
    ]
    values = [one.json()["answer"]["value"] for one in asked]
    expected = MODEL.predict(pd.DataFrame({"fired_on": [20499], "pots": [12]}))[0]
    assert values == pytest.approx([expected] * 2)
    wrong = problem(author.post(f"{url}/predictions?draft=1", json={"inputs": {**CASE, "fired_on": "15.02.2026"}}), 422)
    assert 'must be a date. You gave "15.02.2026". Try 2026-' in wrong["errors"][0]["message"]


def test_a_number_is_made_a_date_and_back_by_its_author(author):
    slug = bring(author, model=dumped(MODEL), reference=csv(DAYS), title="Counted firing").json()["slug"]
    address = f"/api/v1/demos/{slug}"
    set_to = {"fields": [{"name": "fired_on", "calendar": "days"}]}
    field = author.patch(address, json=set_to).json()["fields"][0]
    assert (field["calendar"], field["step"]) == ("days", 1.0)
    assert author.post(f"{address}/predictions?draft=1", json={"inputs": CASE}).status_code == 200
    back = {"fields": [{"name": "fired_on", "calendar": ""}]}
    assert author.patch(address, json=back).json()["fields"][0]["calendar"] == ""
    problem(author.post(f"{address}/predictions?draft=1", json={"inputs": CASE}), 422)
    never = {"fields": [{"name": "fired_on", "calendar": "fortnights"}]}
    problem(author.patch(address, json=never), 422)
    author.delete(address)


def test_a_folder_takes_along_how_dates_are_counted(author, url):
    content = author.get(f"{url}/folder").content
    again = author.post("/api/v1/demos", files={"folder": ("demo.zip", content)}, data={"slug": "dated-again"})
    assert again.status_code == 201, again.text
    assert again.json()["fields"][0]["calendar"] == "days"
    author.delete("/api/v1/demos/dated-again")
