"""How models of a table are compared, what is said of them, and what is kept back."""

import io
from typing import Any

import joblib
import numpy as np
import pandas as pd
import pytest

from plain_window.core.starters.by_hand import cases, columns, kept_back, read, units
from plain_window.core.starters.choices import Choices
from plain_window.core.starters.compared import Comparison, Tried
from plain_window.core.starters.comparing import compare
from plain_window.core.starters.doing import what_is_done
from plain_window.core.starters.intervals import stretches
from plain_window.core.starters.looking import look_at_table
from plain_window.core.starters.making import Made, make
from plain_window.core.starters.recipe import recipe_of
from plain_window.core.starters.telling import verdict
from plain_window.core.trust.together import measured
from plain_window.samples.only_a_table import TABLE

from .starting import csv_of, looked_at, pieces, recipe_for


def test_the_error_of_independent_rows_is_the_textbooks():
    errors = np.random.default_rng(0).random(50)
    found = measured(errors, np.arange(50))
    assert found.error == pytest.approx(errors.std(ddof=1) / np.sqrt(50))


def test_rows_of_one_thing_count_once():
    """Each row five times over is no more evidence than once."""
    errors = np.random.default_rng(0).random(40)
    once = measured(errors, np.arange(40))
    assert measured(np.repeat(errors, 5), np.repeat(np.arange(40), 5)).error == pytest.approx(once.error)


def test_none_wrong_of_a_few_is_not_taken_for_never():
    """Wilson's interval; for n rows, none of which went wrong, its end is z² / (n + z²)."""
    found = measured(np.zeros(400), np.arange(400), is_share=True)
    assert (found.low, found.high) == (0.0, pytest.approx(1.96**2 / (400 + 1.96**2), rel=0.02))
    assert found.error > 0
    # Four rows of each of a hundred things are not four hundred.
    assert measured(np.zeros(400), np.arange(400) // 4, is_share=True).high > 3 * found.high


def test_what_is_near_in_time_counts_once():
    """Ten days with fifty firings each, which go wrong together: no more evidence than the ten days."""
    of_day = np.random.default_rng(0).random(10)
    days = np.repeat(np.arange(10) * 7.0, 50)
    once = measured(of_day, np.arange(10))
    assert measured(np.repeat(of_day, 50), stretches(days)).error == pytest.approx(once.error)
    assert len(np.unique(stretches(np.arange(1000)))) == 10


def test_intervals_that_hold_at_once_are_wider():
    errors = np.random.default_rng(0).normal(size=400)
    one, of_four = measured(errors, np.arange(400)), measured(errors, np.arange(400), n_intervals=4)
    # Two-sided, of a normal: 1.96 and, for a twentieth shared by four, 2.50.
    assert (one.high - one.mean) / one.error == pytest.approx(1.96, abs=0.01)
    assert (of_four.high - of_four.mean) / of_four.error == pytest.approx(2.50, abs=0.02)


def test_where_classes_count_the_same_it_is_the_mean_of_their_means():
    errors, of_class = np.array([1.0, 0, 0, 0, 0, 1, 1, 0]), np.array(["a", "a", "a", "a", "a", "b", "b", "b"])
    assert measured(errors, np.arange(8), of_class).mean == pytest.approx((1 / 5 + 2 / 3) / 2)


def _compared(table: pd.DataFrame, **choices: Any) -> Any:
    recipe = recipe_for(table, **choices)
    return compare(csv_of(table), recipe, progress=lambda _done, _total: None, candidates=("linear", "tree"))


def test_of_noise_it_is_said_that_nothing_is_better_than_guessing():
    table = pieces()
    table["outcome"] = np.random.default_rng(5).permutation(table["outcome"])
    found = _compared(table)
    assert not found.is_better
    assert found.verdict.startswith("No model is better than guessing")


def test_the_plainest_that_is_about_as_good_as_the_best_is_offered():
    recipe = recipe_for(pieces(600))
    found = compare(csv_of(pieces(600)), recipe, progress=lambda _done, _total: None)
    assert found.is_better
    assert found.offered == "linear"
    guess, linear = found.tried[0], found.tried[1]
    usual = pieces(600)["outcome"].value_counts(normalize=True).max()
    assert guess.error == pytest.approx(1 - usual, abs=0.05)
    assert linear.high < guess.low


def test_groups_keep_a_model_from_seeming_to_know():
    """What happens hangs on the batch alone, and rows tell which it is: parted by rows a model knows it all."""
    rng = np.random.default_rng(7)
    batch = np.repeat(np.arange(60), 4)
    fate, humidity = rng.random(60) < 0.5, rng.normal(0, 1, 60)
    table = pd.DataFrame({"batch": [f"B{one}" for one in batch], "humidity": humidity[batch].round(3)})
    table["outcome"] = np.where(fate[batch], "cracks", "sound")
    assert looked_at(table).group == "batch"
    seeming, honest = _compared(table, group="", drop=["batch"]), _compared(table)
    assert seeming.is_better
    assert seeming.parted_by == "chance"
    assert not honest.is_better
    assert honest.parted_by == "group"


def test_rows_that_are_kept_back_change_nothing_of_the_comparison():
    table = pieces(400)
    recipe = recipe_for(table)
    held = kept_back(read(csv_of(table), recipe["table"], columns(recipe)), recipe)
    assert 40 < held.sum() < 130
    other = table.copy()
    other.loc[held, "wall_mm"] = 99.0
    # The same rows are held back, whatever stands in them: by hand, since which they are hangs on what they are.
    rest = table[~held].reset_index(drop=True)
    features, outcome, _ = cases(read(csv_of(rest), recipe["table"], columns(recipe)), recipe)
    assert len(features) == len(outcome) == (~held).sum()
    assert (features["wall_mm"] < 99).all()


def test_a_group_is_kept_back_whole_and_stays_so_when_rows_are_added():
    recipe = recipe_for(pd.read_csv(TABLE), time="")
    table = read(io.BytesIO(TABLE.read_bytes()), recipe["table"], columns(recipe))
    held, of_row = kept_back(table, recipe), units(table, recipe)
    assert not set(of_row[held]) & set(of_row[~held])
    earlier = table.iloc[: len(table) // 2].reset_index(drop=True)
    assert (kept_back(earlier, recipe) == held[: len(earlier)]).mean() > 0.95


def test_a_class_that_comes_only_late_is_no_class_of_the_model():
    table = pieces(400).assign(fired=pd.date_range("2024-01-01", periods=400).strftime("%Y-%m-%d"))
    table.loc[390:, "outcome"] = "melts"
    sheet, how = look_at_table(csv_of(table), target="outcome")
    recipe = {**recipe_of(sheet, how, Choices(time="fired")), "candidate": "tree", "settings": {"max_leaf_nodes": 8}}
    made = make(csv_of(table), recipe, None, file_name="table.csv")
    assert set(pd.read_parquet(io.BytesIO(made.known))["outcome"]) == {"cracks", "sound"}
    late = table.assign(outcome=np.where(np.arange(400) < 320, "sound", table["outcome"]))
    with pytest.raises(ValueError, match="All rows that are not kept back have the same `outcome`, sound"):
        _compared(late, time="fired")


def test_by_time_the_latest_are_kept_back():
    recipe = recipe_for(pd.read_csv(TABLE))
    table = read(io.BytesIO(TABLE.read_bytes()), recipe["table"], columns(recipe))
    held = kept_back(table, recipe)
    assert table["fired_on"][held].min() >= table["fired_on"][~held].max()


def fired(n_rows: int = 600, days: int = 3) -> pd.DataFrame:
    """Pieces one after another, `days` apart, of which more crack every year."""
    rng = np.random.default_rng(3)
    table = pieces(n_rows).assign(
        fired=pd.date_range("2019-01-01", periods=n_rows, freq=f"{days}D").strftime("%Y-%m-%d")
    )
    share = np.linspace(-2.5, 2.5, n_rows) + 0.8 * (table["wall_mm"] - 6)
    return table.assign(outcome=np.where(rng.logistic(0, 1, n_rows) < share, "cracks", "sound"))


def test_a_year_is_told_where_order_in_time_counts_over_two_years_or_more():
    def parts_of_date(table: pd.DataFrame, **choices: Any) -> list[str]:
        return next(one["parts"] for one in recipe_for(table, **choices)["fields"] if one["kind"] == "date")

    assert parts_of_date(fired()) == ["month", "weekday", "year"]
    assert parts_of_date(fired(), time="") == ["month", "weekday"]
    assert parts_of_date(fired(days=1)) == ["month", "weekday"]
    # Dates that stand for years are of no weekday.
    yearly = fired().assign(fired=lambda table: table["fired"].str[:4] + "-01-01")
    assert parts_of_date(yearly) == ["year"]
    sheet = looked_at(fired())
    told = dict(zip([one.kind for one in sheet.findings], what_is_done(sheet, Choices()), strict=True))
    assert told["time"].endswith("The model is told its year.")


def made_of(table: pd.DataFrame, **choices: Any) -> tuple[Comparison, Made]:
    recipe = recipe_for(table, **choices)
    compared = compare(csv_of(table), recipe, progress=lambda _done, _total: None, candidates=("linear",))
    recipe |= {"candidate": "linear", "settings": compared.tried[1].settings}
    return compared, make(csv_of(table), recipe, compared, file_name="table.csv")


def test_the_error_on_rows_that_were_kept_back_is_that_of_the_model_there():
    compared, made = made_of(pieces(500, seed=2))
    known = pd.read_parquet(io.BytesIO(made.known))
    said = joblib.load(io.BytesIO(made.model)).predict(known.drop(columns="outcome"))
    found = made.kept_error
    assert found is not None
    assert found.error == pytest.approx((said != known["outcome"]).mean())
    assert (found.n_rows, found.beside, found.is_better) == (len(known), "alike", True)
    assert found.sentence.startswith(f"On the {len(known)} rows that were kept back it is wrong in ")
    assert "not_for" not in made.changes
    assert compared.is_better


def test_that_things_changed_after_all_that_was_tried_is_said_to_authors_and_visitors():
    table = fired(days=1)
    # Of the latest fifth, which is kept back, thick walls are those that stay sound.
    late, other = np.arange(600) >= 480, {"cracks": "sound", "sound": "cracks"}
    table["outcome"] = np.where(table["wall_mm"] > 6, "cracks", "sound")
    table.loc[late, "outcome"] = table["outcome"][late].map(other)
    _, made = made_of(table, time="fired")
    found = made.kept_error
    assert found is not None
    assert found.beside == "worse"
    assert not found.is_better
    # Ten stretches of what was kept back are as sure of it as some hundred rows are.
    assert found.high - found.low < 0.3
    assert found.sentence.startswith("On the 120 rows that were kept back, the latest by `fired`, it is wrong in ")
    assert "That is more than trying it out showed" in found.sentence
    assert found.sentence.endswith("what happens has changed since. On them it is not surely better than guessing.")
    visitors_read = made.changes["not_for"]
    assert visitors_read.startswith("Relying on it closely: on the latest cases, which it had not seen, it was more")


def test_the_best_is_not_called_no_better_where_the_difference_is_beyond_chance():
    """Rows vary a lot, and alike for both; row by row one of them is better all the same."""
    apart = Tried(candidate="linear", name="Linear", error=0.30, low=0.2, high=0.4, standard_error=0.05, is_better=True)
    best = apart.model_copy(update={"candidate": "boosted", "name": "Boosted trees", "error": 0.27})
    guess = apart.model_copy(update={"candidate": "guess", "name": "Guessing", "error": 0.5})
    offered = apart.model_copy(update={"behind_low": 0.01, "behind_high": 0.05})
    told = [_verdict_of([guess, one, best]) for one in (apart, offered)]
    assert told[0].endswith("The best, Boosted trees, comes to 27: no more apart than chance explains.")
    assert "better by 1 to 5: more than chance explains" in told[1]


def _verdict_of(tried: list[Tried]) -> str:
    return verdict(
        Comparison(
            measure="wrong",
            tried=tried,
            offered="linear",
            best="boosted",
            n_rows=100,
            n_tried=100,
            n_of=100,
            n_kept_back=20,
            n_splits=5,
            n_repeats=1,
            parted_by="chance",
            n_units=100,
            is_better=True,
            weights="none",
        )
    )
