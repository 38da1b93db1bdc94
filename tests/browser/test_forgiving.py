"""Slips, second thoughts and several answers, as authors and visitors meet them on the pages."""

import json
import os
import re
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pandas as pd
import pytest
from playwright.sync_api import BrowserContext, Locator, Page, expect
from sklearn.linear_model import LinearRegression, LogisticRegression
from sklearn.multioutput import MultiOutputClassifier
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import OneHotEncoder, StandardScaler

from plain_window.samples import SAMPLES

from ..made_models import csv, dumped, firings, nameless_classifier
from ..studio import Studio
from ..web.helpers import bring
from .conftest import WAIT_MS, violations

TABLE = firings(300)


@pytest.fixture
def shelf(author) -> Iterator:
    """Demos made through the API, taken off the shelf afterwards."""
    slugs: list[str] = []

    def keep(model, table: pd.DataFrame, *, is_open: bool = False, **texts) -> str:
        made = bring(author, model=dumped(model), reference=csv(table), **texts)
        assert made.status_code == 201, made.text
        slug = made.json()["slug"]
        slugs.append(slug)
        if is_open:
            assert author.post(f"/api/v1/demos/{slug}/releases").status_code == 201
            author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
        return slug

    yield keep
    for slug in slugs:
        author.delete(f"/api/v1/demos/{slug}")


def place(context: BrowserContext, studio: Studio, slug: str, name: str) -> Page:
    page = context.new_page()
    page.goto(f"{studio.url}/demos/{slug}/{name}")
    return page


def firing_model():
    return LinearRegression().fit(TABLE[["pots", "peak"]], TABLE["kwh"])


# --- second thoughts --------------------------------------------------------------------------------------------------


def test_two_windows_on_one_draft_lose_nothing_and_the_second_is_told(desk_of, studio, shelf):
    slug = shelf(firing_model(), TABLE[["pots", "peak", "kwh"]], title="Two windows")
    one, two = place(desk_of, studio, slug, "share"), place(desk_of, studio, slug, "share")
    expect(two.get_by_label("Purpose")).to_be_visible()
    one.get_by_label("Purpose").fill("From the first window.")
    one.get_by_label("Purpose").press("Enter")
    expect(one.get_by_text("Saved")).to_be_visible()
    # Another setting goes together with it.
    two.get_by_label("What it is not for").fill("Gas kilns.")
    two.get_by_label("What it is not for").press("Enter")
    expect(two.get_by_role("alert").filter(has_text="in another window")).to_be_visible()
    expect(two.get_by_label("Purpose")).to_have_value("From the first window.")
    two.get_by_role("button", name="All right").click()
    # The same setting is for the author to decide.
    one.get_by_label("What it is not for").fill("Wood kilns.")
    one.get_by_label("What it is not for").press("Enter")
    told = one.get_by_role("alert").filter(has_text="Another window changed the same setting")
    expect(told).to_be_visible()
    # Both versions stand side by side.
    expect(told.get_by_role("row", name="not for")).to_have_text("not forWood kilns.Gas kilns.")
    told.get_by_role("button", name="Set it as I had it").click()
    expect(told).to_have_count(0)
    two.reload()
    expect(two.get_by_label("What it is not for")).to_have_value("Wood kilns.")
    one.close()
    two.close()


def test_what_is_typed_after_the_session_ended_is_saved_once_its_author_is_back(chromium, studio, shelf, author):
    slug = shelf(firing_model(), TABLE[["pots", "peak", "kwh"]], title="Signed out")
    context = chromium.new_context(viewport={"width": 1280, "height": 800})
    first, second = context.new_page(), context.new_page()

    def sign_in(page: Page) -> None:
        page.goto(studio.run("sign-in").stdout.strip().splitlines()[-1])
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("button", name="Sign out", exact=True)).to_be_visible()

    sign_in(second)
    first.goto(f"{studio.url}/demos/{slug}/share")
    expect(first.get_by_label("Purpose")).to_be_visible()
    second.get_by_role("button", name="Sign out", exact=True).click()
    expect(second.get_by_role("button", name="Sign in")).to_be_visible()
    first.get_by_label("Purpose").fill("A long and careful sentence.")
    expect(first.get_by_role("alert").filter(has_text="You are signed out by now.")).to_be_visible()
    sign_in(second)
    expect(first.get_by_label("Purpose")).to_have_value("A long and careful sentence.")
    first.evaluate("window.dispatchEvent(new Event('focus'))")
    expect(first.get_by_role("alert").filter(has_text="You are signed out by now.")).to_have_count(0)
    assert author.get(f"/api/v1/demos/{slug}").json()["purpose"] == "A long and careful sentence."
    context.close()


def test_undo_survives_a_reload(desk_of, studio, shelf):
    slug = shelf(firing_model(), TABLE[["pots", "peak", "kwh"]], title="Undone")
    page = place(desk_of, studio, slug, "share")
    page.get_by_label("Purpose").fill("A slip of the pen.")
    page.get_by_label("Purpose").press("Enter")
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    page.reload()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_label("Purpose")).to_have_value("")
    page.close()


def test_known_cases_are_given_and_taken_away_on_the_model_page(desk_of, studio, shelf):
    slug = shelf(firing_model(), TABLE[["pots", "peak", "kwh"]], title="Known later")
    page = place(desk_of, studio, slug, "model")
    known = {"name": "known.csv", "mimeType": "text/csv", "buffer": csv(TABLE.tail(90))}
    page.get_by_label("Known cases, a file").set_input_files(known)
    found = page.get_by_test_id("comparison")
    expect(found).to_contain_text("Of 90 cases 90 are answered as before")
    found.get_by_role("button", name="Take it over").click()
    expect(page.get_by_text("90; half of the answers were off by less than")).to_be_visible()
    page.get_by_role("button", name="Take away known cases").click()
    expect(page.get_by_text("none: intervals and calibration need them")).to_be_visible()
    page.close()


def test_the_address_follows_on_the_page(desk_of, studio, shelf):
    slug = shelf(firing_model(), TABLE[["pots", "peak", "kwh"]])
    page = place(desk_of, studio, slug, "share")
    page.get_by_label("Title").fill("Gas for one firing")
    page.get_by_label("Title").press("Enter")
    page.wait_for_url("**/demos/gas-for-one-firing*/share")
    page.get_by_label("Address").fill("No such address")
    page.get_by_label("Address").press("Enter")
    expect(page.get_by_text("lower-case letters, digits and hyphens")).to_be_visible()
    page.close()


def test_what_was_concluded_is_confirmed_before_it_is_published(desk_of, studio, shelf):
    slug = shelf(nameless_classifier(TABLE), TABLE[["pots", "peak"]], title="Nameless")
    page = place(desk_of, studio, slug, "share")
    publish = page.get_by_role("button", name="Publish version 1")
    expect(publish).to_be_disabled()
    page.get_by_role("link", name="Confirm it under Model").click()
    rows = page.get_by_role("region", name="Rows to compare with your notebook")
    expect(rows.locator("tbody tr")).to_have_count(3)
    assert violations(page) == []
    page.get_by_role("button", name="The columns stand in this order").click()
    expect(rows).to_have_count(0)
    page.get_by_role("link", name="Share").click()
    publish.click()
    expect(page.get_by_text("Visitors see version 1")).to_be_visible()
    page.close()


def test_ready_cases_are_taken_from_the_page_and_from_the_table(desk_of, studio, shelf):
    slug = shelf(firing_model(), TABLE[["pots", "peak", "kwh"]], title="Ready cases")
    page = place(desk_of, studio, slug, "inputs")
    frame = page.frame_locator("iframe")
    frame.get_by_label("Pots").first.fill("44")
    cases = page.get_by_test_id("cases")
    cases.get_by_role("button", name="Take the case the page shows now").click()
    cases.get_by_label("Name of case 1").fill("A full kiln")
    cases.get_by_label("Name of case 1").press("Enter")
    cases.get_by_text("From the reference table").click()
    cases.get_by_role("button", name="Take row 2").click()
    expect(cases.get_by_label("Name of case 2")).to_be_visible()
    cases.get_by_role("button", name="To the top for Row 2").click()
    expect(cases.get_by_label("Name of case 2")).to_have_value("A full kiln")
    page.reload()
    frame.get_by_role("button", name="A full kiln").click()
    expect(frame.get_by_label("Pots").first).to_have_value("44")
    page.close()


def test_what_is_done_while_a_change_is_still_being_saved_loses_nothing(desk_of, studio, shelf):
    slug = shelf(firing_model(), TABLE[["pots", "peak", "kwh"]], title="In a hurry")
    page = desk_of.new_page()
    # A line on which every answer to a change takes its time.
    page.add_init_script(
        """const quick = window.fetch
        window.fetch = async (...given) => {
          const response = await quick(...given)
          if ((given[0].method ?? given[1]?.method) === 'PATCH') await new Promise((go) => setTimeout(go, 1200))
          return response
        }"""
    )
    page.goto(f"{studio.url}/demos/{slug}/inputs")
    cases = page.get_by_test_id("cases")
    cases.get_by_text("From the reference table").click()
    for row in (2, 3):
        cases.get_by_role("button", name=f"Take row {row}").click()
    name = cases.get_by_label("Name of case 1")
    expect(cases.get_by_label("Name of case 2")).to_be_visible()
    name.fill("A full kiln")
    name.press("Enter")
    cases.get_by_role("button", name="Take row 4").click()
    cases.get_by_role("button", name="To the top for Row 3").click()
    expect(cases.get_by_label("Name of case 3")).to_be_visible()
    expect(cases.get_by_label("Name of case 1")).to_have_value(re.compile("^Row 3"))
    expect(cases.get_by_label("Name of case 2")).to_have_value("A full kiln")
    expect(cases.get_by_label("Name of case 3")).to_have_value(re.compile("^Row 4"))
    page.close()


def test_a_table_with_two_readings_is_asked_about(desk_of, studio):
    table = TABLE[["pots", "peak", "kwh"]].assign(price=TABLE["pots"] * 1000 + 6)
    model = LinearRegression().fit(table[["price"]], table["kwh"])
    lines = [
        f'"{price // 1000},{price % 1000:03}",{kwh}' for price, kwh in zip(table["price"], table["kwh"], strict=True)
    ]
    page = desk_of.new_page()
    page.goto(f"{studio.url}/new")
    page.get_by_label("Model file").set_input_files(
        {"name": "m.joblib", "mimeType": "application/octet-stream", "buffer": dumped(model)}
    )
    content = "price,kwh\n" + "\n".join(lines)
    page.get_by_label("Reference table").set_input_files(
        {"name": "t.csv", "mimeType": "text/csv", "buffer": content.encode()}
    )
    page.get_by_label("Title").fill("Two readings")
    page.get_by_role("button", name="Open the model").click()
    question = page.get_by_role("group", name="How does the table write numbers?")
    expect(question).to_contain_text("46006 or 46.006")
    question.get_by_role("button", name="Like 1,234.5").click()
    page.wait_for_url("**/demos/two-readings*")
    expect(page.get_by_role("img", name="Reference values from 5006 to 59006")).to_be_visible()
    page.close()


# --- calls that work as they are pasted -------------------------------------------------------------------------------


def run_as_pasted(calls: Locator, environment: dict[str, str], folder: Path | None = None) -> Iterator:
    """Each language's name, its call, and what became of it."""
    calls.get_by_text("Ask it from a program").click()
    commands = {
        "curl": ["bash", "-c"],
        "Python": [sys.executable, "-c"],
        "JavaScript": ["node", "--input-type=module", "-e"],
    }
    for language, command in commands.items():
        text = calls.get_by_label(language, exact=True).inner_text()
        done = subprocess.run(
            [*command, text],
            capture_output=True,
            text=True,
            timeout=60,
            cwd=folder,
            env={"PATH": os.environ["PATH"], **environment},
        )
        yield language, text, done


@pytest.mark.parametrize("is_open", [True, False], ids=["open to everyone", "a draft"])
def test_calls_work_as_they_are_pasted(desk_of, studio, shelf, key, is_open):
    table = TABLE[["kiln", "pots", "kwh"]].replace({"kiln": {"gas": "gas, it's loud"}})
    one_hot = make_pipeline(OneHotEncoder(), LinearRegression()).fit(table[["kiln", "pots"]].astype(str), table["kwh"])
    slug = shelf(one_hot, table.astype({"pots": str}), is_open=is_open, title=f"Called {is_open}")
    page = place(desk_of, studio, slug, "share")
    calls = page.get_by_test_id("calls")
    for language, text, done in run_as_pasted(calls, {} if is_open else {"PLAINWINDOW_KEY": key}):
        assert ("PLAINWINDOW_KEY" in text) != is_open
        assert "number" in done.stdout, (language, text, done.stderr)
    if is_open:
        expect(calls.get_by_label("What it is for")).to_have_count(0)
    else:
        expect(calls.get_by_label("What it is for")).to_be_visible()
    page.close()


def test_calls_with_a_picture_work_as_they_are_pasted(desk_of, studio, tmp_path):
    shutil.copy(SAMPLES["how-is-the-glaze"] / "samples" / "pinholes.jpg", tmp_path / "picture.jpg")
    page = place(desk_of, studio, "how-is-the-glaze", "share")
    for language, text, done in run_as_pasted(page.get_by_test_id("calls"), {}, tmp_path):
        assert "pinholes" in done.stdout, (language, text, done.stderr)
    page.close()


# --- visitors ---------------------------------------------------------------------------------------------------------


def opened(context: BrowserContext, studio: Studio, slug: str) -> Page:
    page = context.new_page()
    page.goto(f"{studio.url}/d/{slug}")
    page.get_by_role("button", name="Show the answer").first.click()
    return page


def test_of_several_numbers_each_is_a_line_and_the_chosen_one_is_explained(context, studio, shelf):
    model = LinearRegression().fit(TABLE[["pots", "peak"]], TABLE[["kwh", "peak"]].assign(shelves=TABLE["pots"] / 6))
    table = TABLE[["pots", "kwh"]].assign(peak=TABLE["peak"], heat=TABLE["peak"], shelves=TABLE["pots"] / 6)
    slug = shelf(model, table[["pots", "peak", "kwh", "heat", "shelves"]], is_open=True, title="Three numbers")
    page = opened(context, studio, slug)
    answer = page.get_by_role("region", name="The answers")
    expect(answer.get_by_role("button", name="Kwh")).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_text("Under each field: Kwh")).to_be_visible()
    answer.get_by_role("button", name="Shelves").click()
    expect(page.get_by_text("Under each field: Shelves")).to_be_visible()
    expect(answer.get_by_role("button", name="Shelves")).to_have_attribute("aria-pressed", "true")
    assert violations(page) == []


def test_of_several_labels_each_says_yes_or_no_at_its_own_threshold(context, studio, shelf, author):
    truths = np.column_stack([TABLE["pots"] > 30, TABLE["peak"] > 1230]).astype(int)
    model = make_pipeline(StandardScaler(), MultiOutputClassifier(LogisticRegression()))
    table = TABLE[["pots", "peak"]].assign(is_full=truths[:, 0], is_hot=truths[:, 1])
    slug = shelf(model.fit(table[["pots", "peak"]], truths), table, title="Two labels", is_open=True)
    page = opened(context, studio, slug)
    page.get_by_label("Pots").first.fill("55")
    page.get_by_label("Peak").first.fill("1180")
    answer = page.locator("#answer")
    expect(answer.get_by_role("heading", level=2)).to_have_text("is full")
    expect(answer.get_by_role("listitem").filter(has_text="is hot")).to_contain_text("no")
    # The likeliest is explained, until another is chosen.
    expect(page.get_by_text("how likely “is full” is")).to_be_visible()
    answer.get_by_role("button", name="is hot").click()
    expect(page.get_by_text("how likely “is hot” is")).to_be_visible()
    author.patch(f"/api/v1/demos/{slug}", json={"answer": {"labels": [{"name": "is_full", "threshold": 0.99}]}})
    answered = author.post(f"/api/v1/demos/{slug}/predictions?draft=1", json={"inputs": {"pots": 40, "peak": 1200}})
    full = next(one for one in answered.json()["answer"]["labels"] if one["name"] == "is_full")
    assert full["applies"] == (full["probability"] >= 0.99)
    assert violations(page) == []


def test_a_long_choice_is_searched(context, studio, shelf):
    towns = [f"{name} {at}" for at in range(66) for name in ("Ulm", "Århus", "Rome")]
    table = pd.DataFrame({"town": (towns * 2)[:390], "kwh": np.arange(390.0)})
    model = make_pipeline(OneHotEncoder(), LinearRegression()).fit(table[["town"]], table["kwh"])
    page = opened(context, studio, shelf(model, table, is_open=True, title="Towns"))
    town = page.get_by_role("combobox", name="Town")
    town.fill("arhus 6")
    options = page.get_by_role("option")
    expect(options.first).to_contain_text("Århus 6")
    town.press("Enter")
    expect(town).to_have_value("Århus 6")
    expect(page.get_by_test_id("echo")).to_contain_text("Århus 6")
    town.fill("nowhere")
    expect(page.get_by_text("None of the 198 is called so.")).to_be_visible()
    town.press("Escape")
    expect(town).to_have_value("Århus 6")


@pytest.mark.parametrize(
    ("language", "typed", "meant"),
    [("de-DE", "1.240", "1240"), ("en-GB", "1,240", "1240"), ("de-DE", "1240,5", "1240.5")],
)
def test_numbers_are_read_by_the_browsers_language(chromium, studio, shelf, language, typed, meant):
    slug = shelf(firing_model(), TABLE[["pots", "peak", "kwh"]], is_open=True, title="Numbers")
    context = chromium.new_context(locale=language)
    context.set_default_timeout(WAIT_MS)
    page = opened(context, studio, slug)
    page.get_by_label("Peak").first.fill(typed)
    expect(page.get_by_test_id("echo")).to_contain_text(f"Peak{meant}")
    # Where its other reading is the usual one, it is asked about.
    page.get_by_label("Peak").first.fill("1,240" if language == "de-DE" else "1.240")
    expect(page.locator("#answer")).to_contain_text("may be 1240 or 1.24")
    context.close()


def test_the_scale_of_a_number_shows_the_outcomes_and_whole_words(context, studio, shelf):
    page = opened(context, studio, shelf(firing_model(), TABLE[["pots", "peak", "kwh"]], is_open=True, title="Scale"))
    scale = page.locator("figure", has_text="The author’s table has outcomes from")
    expect(scale).to_contain_text(re.compile(r"from \d+\.\d to \d+\.\d(?: \w+)?; about \d+ of 100 of them are below"))
    assert scale.locator("rect").count() == 24


def test_a_visitor_never_reads_json(context, studio, visitor):
    page = context.new_page()
    for path in ("/d/nothing-here", "/d/nothing-here/", "/l/nothing", "/nowhere", "/d/a/b/c"):
        page.goto(f"{studio.url}{path}")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        assert not page.inner_text("body").lstrip().startswith("{")
    # Programs still get problems.
    assert json.loads(visitor.get("/nowhere").content)["status"] == 404
    page.goto(f"{studio.url}/d/will-it-crack/")
    assert page.url == f"{studio.url}/d/will-it-crack"
    expect(page.get_by_role("heading", name="Will it crack?")).to_be_visible()
