"""From a table alone to a model: what is seen in it, what lies in wait, and how models are compared."""

import io
import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np
import pandas as pd
import pytest

from plain_window.core.errors import Faults, TableNotRead
from plain_window.core.starters.again import recipe_again
from plain_window.core.starters.by_hand import cases, read
from plain_window.core.starters.choices import Choices
from plain_window.core.starters.doing import what_is_done
from plain_window.core.starters.looking import look_at_table
from plain_window.core.starters.making import Made, make
from plain_window.core.starters.recipe import recipe_of
from plain_window.core.starters.sheet import Sheet
from plain_window.core.starters.wording import label_and_unit
from plain_window.samples.only_a_table import TABLE

from .starting import N, csv_of, looked_at, pieces, recipe_for


def _found(sheet: Sheet, kind: str) -> list[list[str]]:
    return [one.columns for one in sheet.findings if one.kind == kind]


# --- what a column is -------------------------------------------------------------------------------------------------

SOME = ["a", "b", "c", "d"] * (N // 4)
KINDS = {
    "number": (["1.5", "2.5", "3", "10"] * (N // 4), "number"),
    "with a currency": (["€ 1,204.50", "EUR 12.00", "3.10 kr", "(4.00)"] * (N // 4), "number"),
    "yes and no": (["Yes", "no", "yes", "No"] * (N // 4), "yes_no"),
    "noughts and ones": ([0, 1, 1, 0] * (N // 4), "yes_no"),
    "category": (SOME, "category"),
    "a unit in each cell": (["2.5 kg", "3 kg", "12Kg", "1,204 kg"] * (N // 4), "number"),
    "names of rooms": (["3A", "4A", "7A", "12A"] * (N // 4), "category"),
    "codes with noughts": (["007", "012", "007", "100"] * (N // 4), "category"),
    "row numbers": (list(range(3001, 3001 + N)), "identifier"),
    "tokens": ([f"PX-{at * 7919 % 99991}" for at in range(N)], "identifier"),
    "measured, each another": ([round(1 + at * 0.37, 2) for at in range(N)], "number"),
    "days": ([f"2026-{1 + at % 12:02}-{1 + at % 28:02}" for at in range(N)], "date"),
    "days as people write": ([f"{1 + at % 28}.{1 + at % 12}.2026" for at in range(N)], "date"),
    "days in words": ([f"{1 + at % 28} March 20{20 + at % 7}" for at in range(N)], "date"),
    "days as numbers": ([f"2026{1 + at % 12:02}{1 + at % 28:02}" for at in range(N)], "date"),
    "days with short years": ([f"{1 + at % 28}/{1 + at % 12}/26" for at in range(N)], "date"),
    "sentences": ([f"the rim of piece {at} ran a little" for at in range(N)], "text"),
    "always the same": (["kiln two"] * N, "constant"),
    "nothing": ([None] * N, "empty"),
}


@pytest.mark.parametrize("case", KINDS)
def test_what_a_column_is(case: str):
    values, kind = KINDS[case]
    sheet = looked_at(pieces().assign(column=values))
    assert sheet.column("column").kind == kind


def test_a_stand_in_for_what_was_not_measured_counts_as_a_gap():
    table = pieces()
    table.loc[:9, "wall_mm"] = -999
    sheet = looked_at(table)
    assert _found(sheet, "stand-in") == [["wall_mm"]]
    assert sheet.column("wall_mm").low == table["wall_mm"][10:].min()
    features, _, _ = cases(read(csv_of(table), {**recipe_for(table)["table"]}), recipe_for(table))
    assert features["wall_mm"].isna().sum() == 10


def test_a_stand_in_in_the_outcome_is_no_outcome():
    rng = np.random.default_rng(3)
    table = pd.DataFrame({"load_kg": rng.normal(40, 9, N).round(1), "kwh": rng.normal(30, 5, N).round(1)})
    table.loc[:9, "kwh"] = -999
    recipe = recipe_for(table, target="kwh")
    _, outcome, rows = cases(read(csv_of(table), recipe["table"]), recipe)
    assert (len(outcome), rows.min(), outcome.min() > 0) == (N - 10, 10, True)


def test_what_is_spelled_in_several_ways_is_one_thing():
    table = pieces()
    table.loc[:4, "glaze"] = " Shino"
    table.loc[5:9, "glaze"] = "SHINO."
    recipe = recipe_for(table)
    features, _, _ = cases(read(csv_of(table), recipe["table"]), recipe)
    assert set(features["glaze"]) == {"clear", "shino", "tenmoku"}


def test_a_value_that_is_no_number_is_named_with_its_row():
    table = pieces().astype({"wall_mm": "object"})
    table.loc[7, "wall_mm"] = "thick"
    (odd,) = looked_at(table).column("wall_mm").odd
    assert (odd.value, odd.row, odd.rows) == ("thick", 8, 1)


TWO_READINGS = {"numbers": ["1,204", "2,310", "3,105", "4,000"], "dates": ["03/04/2026", "05/06/2026", "01/02/2026"]}


@pytest.mark.parametrize("about", TWO_READINGS)
def test_what_can_be_read_in_two_ways_is_asked_not_guessed(about: str):
    values = TWO_READINGS[about] * (N // len(TWO_READINGS[about]))
    # Other numbers of the table would tell how it writes them.
    table = pieces().assign(column=values).astype({"wall_mm": "int64"})
    (question,) = looked_at(table).questions
    assert (question.about, question.column) == (about, "column")
    with pytest.raises(Faults) as refused:
        recipe_for(table)
    assert refused.value.faults[0].asks == about
    said = {"numbers": {"convention": "comma"}, "dates": {"day_first": False}}[about]
    assert looked_at(table, **said).questions == []


# --- what lies in wait ------------------------------------------------------------------------------------------------


def test_the_sample_tables_traps_are_all_found():
    sheet, _ = look_at_table(io.BytesIO(TABLE.read_bytes()), target="outcome")
    assert _found(sheet, "known-afterwards") == [["mending_minutes"]]
    assert _found(sheet, "identifier") == [["piece_no"]]
    assert (_found(sheet, "group"), sheet.group) == ([["batch"]], "batch")
    assert (_found(sheet, "time"), sheet.time) == ([["fired_on"]], "fired_on")
    assert {one.name for one in sheet.columns if one.n_gaps} >= {"wall_mm", "weight_g"}


def test_the_outcome_in_other_words_is_a_leak_and_an_honest_column_none():
    table = pieces()
    sheet = looked_at(table.assign(verdict=table["outcome"].map({"cracks": "bin", "sound": "shop"})))
    assert _found(sheet, "gives-away") == [["verdict"]]
    assert _found(looked_at(table), "gives-away") == _found(looked_at(table), "strong") == []


def test_columns_that_add_up_to_the_outcome_are_found_together():
    rng = np.random.default_rng(3)
    day, night, load = rng.gamma(3, 5, N).round(2), rng.gamma(2, 4, N).round(2), rng.normal(40, 9, N).round(1)
    sheet = looked_at(pd.DataFrame({"day": day, "night": night, "load_kg": load, "kwh": day + night}), target="kwh")
    assert _found(sheet, "adds-up") == [["day", "night"]]


def test_an_ordinary_category_is_no_group():
    table = pieces(600).assign(
        kiln=lambda one: np.random.default_rng(0).choice([f"K{at}" for at in range(30)], len(one))
    )
    assert _found(looked_at(table), "group") == []


def test_what_names_things_is_a_group_though_nothing_else_is_the_same():
    rng = np.random.default_rng(2)
    named = {"customer_id": rng.integers(1000, 1080, 600), "load": [f"L{one}" for one in rng.integers(100, 250, 600)]}
    assert sorted(_found(looked_at(pieces(600).assign(**named)), "group")) == [["customer_id"], ["load"]]


def test_a_town_is_the_same_within_a_postcode_and_no_group():
    rng = np.random.default_rng(2)
    postcode = rng.integers(100, 140, 600)
    table = pieces(600).assign(postcode=[f"{one} W" for one in postcode], town=[f"T{one // 4}" for one in postcode])
    assert _found(looked_at(table), "group") == []


def test_a_measure_by_which_a_table_is_sorted_names_no_rows():
    weights = np.sort(np.random.default_rng(2).choice(np.arange(100, 9000), N, replace=False))
    sheet = looked_at(pieces().assign(weight_g=weights, piece_no=weights))
    assert (sheet.column("weight_g").kind, sheet.column("piece_no").kind) == ("number", "identifier")


def test_what_is_hardly_met_twice_is_no_field_unless_it_is_kept():
    table = pieces().assign(potter=[f"{'AEIOUY'[at % 6]}l{'aeiouy'[at // 6 % 6]}{'nrst'[at % 4]}" for at in range(N)])
    assert _found(looked_at(table), "rare") == [["potter"]]
    told = [one["column"] for one in recipe_for(table)["fields"]]
    kept = [one["column"] for one in recipe_for(table, keep=["potter"])["fields"]]
    assert (told, kept) == (["wall_mm", "glaze"], ["wall_mm", "glaze", "potter"])


def test_time_counts_only_where_what_happens_changes_with_it():
    table = pieces(600).assign(fired=pd.date_range("2024-01-01", periods=600).strftime("%Y-%m-%d"))
    assert looked_at(table).time == ""
    late = table.assign(outcome=np.where(np.arange(600) > 300, "cracks", table["outcome"]))
    assert looked_at(late).time == "fired"


REFUSED = {
    "no such column": (pieces(), "colour", "has no column `colour`. It has `wall_mm`, `glaze`, `outcome`"),
    "a constant": (pieces().assign(kiln="two"), "kiln", "is two in all rows"),
    "names of rows": (pieces().assign(no=[f"P{at}x" for at in range(N)]), "no", "names rows"),
    "too few rows": (pieces(30), "outcome", "at least 40 are needed"),
}


@pytest.mark.parametrize("case", REFUSED)
def test_what_cannot_be_predicted_is_refused_in_words(case: str):
    table, target, words = REFUSED[case]
    with pytest.raises(Faults, match=words):
        looked_at(table, target=target)


@pytest.mark.parametrize("content", [b"", b"\x89PNG\r\n\x1a\n" + bytes(50), b'[{"wall": 3}]', b"wall\n3\n4\n"])
def test_what_is_no_table_of_this_kind_is_refused_in_words(content: bytes):
    with pytest.raises(TableNotRead):
        look_at_table(io.BytesIO(content))


def test_what_is_done_about_it_follows_what_was_chosen():
    sheet, _ = look_at_table(io.BytesIO(TABLE.read_bytes()), target="outcome")
    kinds = [one.kind for one in sheet.findings]

    def done(**choices: Any) -> dict[str, str]:
        return dict(zip(kinds, what_is_done(sheet, Choices(**choices)), strict=True))

    assert done() == {one.kind: one.suggestion for one in sheet.findings}
    assert done(keep=["mending_minutes"])["known-afterwards"] == "Used all the same, as you chose."
    assert done(group="")["group"] == "Told to the model like any other column."
    assert done(group="", drop=["batch"])["group"] == "Left out; rows are parted without regard to it."
    assert done(time="")["time"] == "Rows are parted without regard to it."


# --- what comes out ---------------------------------------------------------------------------------------------------


def _made(content: bytes, candidate: str, settings: dict[str, Any], target: str = "outcome") -> Made:
    sheet, how = look_at_table(io.BytesIO(content), target=target)
    recipe = {**recipe_of(sheet, how, Choices()), "candidate": candidate, "settings": settings}
    return make(io.BytesIO(content), recipe, None, file_name="table.csv")


def _by_hand(made: Made, content: bytes, folder: Path) -> bytes:
    (folder / "train.py").write_text(made.script)
    (folder / "table").write_bytes(content)
    command = [sys.executable, "-P", "train.py", "table", "model.joblib"]
    said = subprocess.run(command, cwd=folder, capture_output=True, text=True, check=True).stdout
    assert "the same model, bit for bit" in said
    return (folder / "model.joblib").read_bytes()


SETTINGS: dict[str, dict[str, Any]] = {
    "linear": {"C": 0.3},
    "tree": {"max_leaf_nodes": 8},
    "boosted": {"max_iter": 30, "learning_rate": 0.1, "max_leaf_nodes": 6},
}


@pytest.mark.parametrize("candidate", SETTINGS)
def test_the_script_makes_the_same_model_by_hand(candidate: str, scratch: Path):
    content = TABLE.read_bytes()
    made = _made(content, candidate, SETTINGS[candidate])
    assert _by_hand(made, content, scratch) == made.model


@pytest.mark.parametrize("kind", ["comma", "parquet", "xlsx"])
def test_tables_of_all_kinds_come_to_the_same_model(kind: str, scratch: Path):
    table = pieces()
    file = io.BytesIO()
    if kind == "comma":
        file.write(table.to_csv(index=False, sep=";", decimal=",").encode("cp1252"))
    elif kind == "parquet":
        table.to_parquet(file)
    else:
        table.to_excel(file, index=False, startrow=2)
    made = _made(file.getvalue(), "tree", SETTINGS["tree"])
    assert _by_hand(made, file.getvalue(), scratch) == made.model
    rows = pd.concat([pd.read_parquet(io.BytesIO(part)) for part in (made.reference, made.known)])
    assert sorted(rows["wall_mm"]) == sorted(table["wall_mm"])


HEADERS = {
    "wall_mm": ("Wall", "mm"),
    "Peak temp (°C)": ("Peak temp", "°C"),
    "loadKg": ("Load", "kg"),
    "drying_days": ("Drying", "days"),
    "price [EUR]": ("Price", "€"),
    "kwh": ("kWh", "kWh"),
    "Weight_in_lbs": ("Weight", "lb"),
    "m": ("M", ""),
    "shelf": ("Shelf", ""),
}


@pytest.mark.parametrize("header", HEADERS)
def test_units_are_recognised_in_headers(header: str):
    assert label_and_unit(header) == HEADERS[header]


def test_units_in_the_cells_are_read_said_and_asked_for(scratch):
    rng = np.random.default_rng(3)
    wall, clay = rng.normal(7, 1, N).round(1), rng.choice(["stoneware", "porcelain"], N)
    written = pd.DataFrame({"wall": [f"{one} MM" for one in wall], "clay": clay})
    weight = wall / 3 + rng.normal(3, 0.4, N)
    written["weight"] = [f"{one:.2f}".replace(".", ",") + " Kg" for one in weight]
    written.loc[0, "weight"] = "500 g"
    content = csv_of(written, sep=";").getvalue()
    sheet, _ = look_at_table(io.BytesIO(content), target="weight")
    assert (sheet.answer, _found(sheet, "unit")) == ("number", [["wall"], ["weight"]])
    # What is counted in something else is no number of these.
    assert (sheet.n_without_outcome, _found(sheet, "odd")) == (1, [["weight"]])
    made = _made(content, "tree", SETTINGS["tree"], target="weight")
    assert made.changes["answer"] == {"name": "Weight", "unit": "kg"}
    assert [one.get("unit") for one in made.changes["fields"]] == ["mm", None]
    rows = pd.concat([pd.read_parquet(io.BytesIO(part)) for part in (made.reference, made.known)])
    assert sorted(rows["wall"]) == sorted(wall[1:])
    assert _by_hand(made, content, scratch) == made.model
    # Next month it may be counted in something else, which is no smaller number of the same.
    recipe = {**recipe_of(*look_at_table(io.BytesIO(content), target="weight"), Choices()), "candidate": "tree"}
    pounds = csv_of(written.assign(weight=[f"{one * 2.2:.2f}".replace(".", ",") + " lb" for one in weight]), sep=";")
    with pytest.raises(Faults, match="was in Kg and is in lb now"):
        recipe_again(*look_at_table(pounds, target="weight"), recipe)
    # In several units none is taken for the one.
    written["weight"] = [f"{one:.2f} {unit}" for one, unit in zip(weight, ["kg", "lb"] * (N // 2), strict=True)]
    with pytest.raises(Faults, match="different units in its cells"):
        looked_at(written, target="weight")


def test_next_month_a_column_that_is_gone_or_holds_something_else_is_named():
    recipe = {**recipe_for(pieces()), "candidate": "linear", "settings": {"C": 1.0}}
    sheet, how = look_at_table(csv_of(pieces(400, seed=2)), target="outcome")
    assert recipe_again(sheet, how, recipe)["fields"] == recipe["fields"]
    other = pieces(400).rename(columns={"glaze": "coat"}).assign(wall_mm=["thick", "thin"] * 200)
    sheet, how = look_at_table(csv_of(other), target="outcome")
    with pytest.raises(Faults) as refused:
        recipe_again(sheet, how, recipe)
    assert [fault.message for fault in refused.value.faults] == [
        '`wall_mm` held numbers and holds others now, as "thick".',
        "The table has no column `glaze`, which the model is told.",
    ]
