"""What the author's notebook says of some cases, brought as a table and compared value for value."""

import io

import numpy as np
import pandas as pd
import pytest

from ..made_models import csv, dumped
from .helpers import bring, fields_at_fault, problem
from .test_checks import FEATURES, KNOWN, TABLE, honest, results
from .test_folders import unpacked

MODEL = honest()
ASKED = KNOWN[FEATURES].head(60)
SHARES = pd.DataFrame(MODEL.predict_proba(ASKED), columns=MODEL.classes_, index=ASKED.index)
NOTEBOOK = pd.concat([ASKED, SHARES], axis=1).assign(prediction=MODEL.predict(ASKED))


@pytest.fixture
def demo(author):
    made = bring(author, model=dumped(MODEL), reference=csv(TABLE), target="fate", title="Compared")
    slug = made.json()["slug"]
    yield f"/api/v1/demos/{slug}"
    author.delete(f"/api/v1/demos/{slug}")


def compared(author, demo: str, table: bytes) -> dict:
    """The check, once a table was brought."""
    brought = author.put(f"{demo}/expected", files={"expected": ("outputs", table)})
    assert brought.status_code == 200, brought.text
    return results(author, demo.rpartition("/")[2])["same-as-expected"]


def as_parquet(table: pd.DataFrame) -> bytes:
    file = io.BytesIO()
    table.to_parquet(file)
    return file.getvalue()


def in_german(table: pd.DataFrame) -> bytes:
    """As a spreadsheet writes it out elsewhere."""
    return table.to_csv(index=False, sep=";", decimal=",").encode("utf-8-sig")


@pytest.mark.parametrize(
    "table",
    [
        csv(NOTEBOOK),
        as_parquet(NOTEBOOK),
        in_german(NOTEBOOK),
        csv(NOTEBOOK.sample(frac=1, random_state=1).head(7)),
        csv(NOTEBOOK.round(3)),
        csv(NOTEBOOK.drop(columns=["cracks", "sound"])),
        csv(NOTEBOOK[["sound", *FEATURES]].assign(note="by hand")),
    ],
    ids=["csv", "parquet", "semicolons", "fewer, in another order", "rounded", "classes only", "one class only"],
)
def test_what_the_notebook_says_is_what_the_demo_says(author, demo, table):
    found = compared(author, demo, table)
    assert (found["status"], found["evidence"]["different"]) == ("pass", 0), found
    assert author.get(demo).json()["has_expected"] is True


def test_of_a_long_table_it_is_said_that_only_the_first_rows_were_compared(author, demo):
    long = NOTEBOOK.sample(12_000, replace=True, random_state=2)
    found = compared(author, demo, as_parquet(long.reset_index(drop=True)))
    assert found["finding"].startswith("The first 10,000 of 12,000 cases, which were compared, get")


def test_how_many_digits_were_compared_is_said(author, demo):
    assert "`sound` to 3 decimals" in compared(author, demo, csv(NOTEBOOK.round(3)))["finding"]


def test_the_first_difference_is_named_and_can_be_opened(author, demo):
    stale = NOTEBOOK.copy()
    stale.loc[41, "sound"] += 0.01
    found = compared(author, demo, csv(stale))
    assert found["status"] == "fail"
    assert found["finding"].startswith("1 of 60 cases gets another answer than in your notebook. The first is row 42")
    first = found["evidence"]["first_difference"]
    asked = author.post(f"{demo}/predictions?draft=1", json={"inputs": first["inputs"]}).json()["answer"]
    shares = {one["class"]: one["probability"] for one in asked["probabilities"]}
    assert first["answered"] == shares["sound"]
    assert first["expected"] == pytest.approx(shares["sound"] + 0.01)
    # It holds up publishing like any other.
    assert "same-as-expected" in [one["field"] for one in problem(author.post(f"{demo}/releases"), 409)["errors"]]


def test_swapped_columns_of_inputs_are_found_out(author, demo):
    wrong = NOTEBOOK.rename(columns={"wall": "days", "days": "wall"})
    assert compared(author, demo, csv(wrong))["status"] == "fail"


def test_rows_that_cannot_be_asked_are_counted_and_named(author, demo):
    odd = NOTEBOOK.astype({"wall": object})
    odd.loc[2, "wall"] = "thick"
    found = compared(author, demo, csv(odd))
    assert found["status"] == "warn"
    assert "Not asked: 1. Row 3: " in found["finding"]
    assert found["evidence"]["same"] == 59


@pytest.mark.parametrize(
    ("table", "fields", "words"),
    [
        (csv(NOTEBOOK[FEATURES]), ["expected"], "It needs a column `prediction` with the class, or one a class"),
        (csv(NOTEBOOK[["prediction"]]), FEATURES, "cases are found by their inputs"),
        (csv(NOTEBOOK.rename(columns={"wall": "walls"})), ["wall"], "Is it `walls`? Rename it."),
        (b"\x89PNG\r\n", ["expected"], "is a picture, not a table"),
        (b"wall,days,clay,prediction\n", ["expected"], "has no rows"),
        (b"", ["expected"], "`expected` is missing"),
    ],
)
def test_what_is_no_table_of_outputs_is_refused_with_the_way_on(author, demo, table, fields, words):
    refused = author.put(f"{demo}/expected", files={"expected": ("outputs.csv", table)})
    assert fields_at_fault(refused) == fields
    assert words in refused.text
    assert author.get(demo).json()["has_expected"] is False


def test_outputs_of_another_model_are_not_held_against_this_one(author, demo):
    assert compared(author, demo, csv(NOTEBOOK))["status"] == "pass"
    other = honest().set_params(C=0.01).fit(TABLE[FEATURES], TABLE["fate"])
    author.put(f"{demo}/model", files={"model": ("model.joblib", dumped(other))}).raise_for_status()
    found = results(author, demo.rpartition("/")[2])["same-as-expected"]
    assert found["status"] == "warn"
    assert "They are of the model before this one." in found["finding"]


def test_they_go_along_with_the_folder_and_go_when_they_are_taken_away(author, demo):
    compared(author, demo, csv(NOTEBOOK))
    folder = author.get(f"{demo}/folder").content
    assert unpacked(folder)["expected.csv"] == csv(NOTEBOOK)
    again = author.post("/api/v1/demos", files={"folder": ("demo.zip", folder)}, data={"slug": "compared-again"})
    assert again.status_code == 201, again.text
    assert results(author, "compared-again")["same-as-expected"]["status"] == "pass"
    author.delete("/api/v1/demos/compared-again")
    assert author.delete(f"{demo}/expected").status_code == 204
    assert results(author, demo.rpartition("/")[2])["same-as-expected"]["status"] == "skip"


def test_numbers_are_compared_to_the_digits_the_table_has(author):
    from sklearn.linear_model import LinearRegression

    rng = np.random.default_rng(5)
    table = pd.DataFrame({"load": rng.normal(40, 9, 200), "cones": rng.integers(1, 9, 200)})
    table["kwh"] = 20 + 3.3 * table["load"] + rng.normal(0, 5, 200)
    model = LinearRegression().fit(table[["load", "cones"]], table["kwh"])
    made = bring(author, model=dumped(model), reference=csv(table), target="kwh", title="Firing use")
    url = f"/api/v1/demos/{made.json()['slug']}"
    said = table[["load", "cones"]].head(30).assign(prediction=model.predict(table[["load", "cones"]].head(30)))
    assert "`prediction`." in compared(author, url, csv(said))["finding"]
    found = compared(author, url, csv(said.assign(prediction=said["prediction"].round())))
    assert found["finding"].endswith("by `prediction` to 0 decimals.")
    assert compared(author, url, csv(said.assign(prediction=said["prediction"] * 1.001)))["status"] == "fail"
    author.delete(url)
