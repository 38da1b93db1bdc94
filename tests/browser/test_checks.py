"""Checks: the report on known cases on the author's page, and the cases one by one."""

from collections.abc import Iterator

import numpy as np
import pytest
from playwright.sync_api import Page, expect
from sklearn.linear_model import LinearRegression

from ..made_models import csv, dumped, firings
from ..web.helpers import bring
from .conftest import violations


@pytest.fixture
def bench(desk_of, studio) -> Iterator[Page]:
    page = desk_of.new_page()
    page.goto(f"{studio.url}/demos/will-it-crack/checks")
    page.get_by_test_id("report").wait_for()
    yield page
    page.close()


def test_the_report_says_what_the_page_says_and_opens_its_cells(bench, author):
    state = author.get("/api/v1/demos/will-it-crack").json()["report"]
    expect(bench.get_by_test_id("report")).to_contain_text(f"Right for {state['right_of_100']} of 100 (")
    report = author.get("/api/v1/demos/will-it-crack/report", params={"draft": "1"}).json()["confusion"]
    truth, answered = report["classes"].index("cracks"), report["classes"].index("sound")
    cell = bench.get_by_role("row").filter(has=bench.get_by_role("rowheader", name="crack", exact=True)).first
    button = cell.get_by_role("button").nth(answered)
    count = report["counts"][truth][answered]
    expect(button).to_contain_text(str(count))
    button.click()
    cases = bench.get_by_test_id("known-cases")
    expect(cases.get_by_role("status")).to_have_text(f"1 of {count}")
    expect(cases).to_contain_text("! wrong")
    # Only the place scrolls, never the window around it.
    assert bench.evaluate("document.documentElement.scrollHeight <= innerHeight && scrollY === 0")
    assert violations(bench) == []


def test_known_cases_are_stepped_through_by_keys_and_fill_in_the_page(bench, author):
    known = {"draft": "1", "order": "worst", "limit": 3}
    cases = author.get("/api/v1/demos/will-it-crack/known", params=known).json()["cases"]
    wall = bench.frame_locator("iframe").get_by_role("textbox", name="Wall thickness")
    wall.wait_for()
    section = bench.get_by_test_id("known-cases")
    # The first press shows it, the next goes on, and back.
    for key, case in (("n", cases[0]), ("n", cases[1]), ("n", cases[2]), ("Shift+N", cases[1])):
        bench.keyboard.press(key)
        expect(section).to_contain_text(f"Row of the table{case['row'] + 1}")
        expect(wall).to_have_value(f"{case['inputs']['wall_mm']:g}")


def test_the_same_by_the_values_of_a_field(bench, author):
    groups = author.get("/api/v1/demos/will-it-crack/report", params={"draft": "1", "by": "clay_body"}).json()["groups"]
    section = bench.get_by_role("region", name="For whom it does well, and for whom less")
    section.get_by_role("combobox").select_option("Clay body")
    for group in groups:
        row = section.get_by_role("row").filter(has=bench.get_by_role("rowheader", name=group["label"]))
        expect(row).to_contain_text(str(group["cases"]))


def test_a_demo_without_known_cases_says_what_to_bring(desk_of, studio, author):
    slug = bring(author, title="Never tried").json()["slug"]
    page = desk_of.new_page()
    page.goto(f"{studio.url}/demos/{slug}/checks")
    expect(page.locator("main")).to_contain_text("They are given on the Model page.")
    page.close()
    author.delete(f"/api/v1/demos/{slug}")


def test_checks_come_in_and_say_what_stands_in_the_way(desk_of, studio, author):
    table = firings(200)
    table["shelf"] = np.arange(200) % 4
    model = LinearRegression().fit(table[["pots", "peak", "shelf"]], table["kwh"])
    model.coef_[2] = 0
    columns = ["pots", "peak", "shelf"]
    slug = bring(author, model=dumped(model), reference=csv(table[columns]), title="Half used").json()["slug"]
    page = desk_of.new_page()
    page.goto(f"{studio.url}/demos/{slug}/checks")
    sheet = page.get_by_test_id("checks")
    expect(sheet.get_by_role("status")).to_contain_text("1 fails, and publishing asks why")
    first = sheet.get_by_role("listitem").first
    expect(first).to_contain_text("Nothing that is entered for `Shelf` changes the answer")
    assert violations(page) == []
    # Publishing asks for a reason, and keeps it.
    page.goto(f"{studio.url}/demos/{slug}/share")
    publish = page.get_by_role("button", name="Publish version 1")
    publish.click()
    reason = page.get_by_label("Why it is published all the same")
    expect(reason).to_be_visible()
    expect(publish).to_be_disabled()
    reason.fill("The next model will use it")
    publish.click()
    expect(page.get_by_text("Visitors see version 1")).to_be_visible()
    versions = page.get_by_test_id("releases")
    expect(versions).to_contain_text("Published though the check “every-field” failed: The next model will use it")
    # A second version, and back to the first; the draft stays what it is.
    page.get_by_label("Title", exact=True).fill("Half used, still")
    page.keyboard.press("Enter")
    page.get_by_label("What is new in it").fill("Only its name")
    page.get_by_role("button", name="Publish version 2").click()
    page.get_by_label("Why it is published all the same").fill("As before")
    page.get_by_role("button", name="Publish version 2").click()
    expect(versions).to_contain_text("Only its name")
    versions.get_by_role("button", name="Show visitors this one again").click()
    expect(page.get_by_text("Visitors see version 1.")).to_be_visible()
    expect(page.get_by_role("button", name="Publish version 3")).to_be_visible()
    versions.get_by_role("button", name="from version 1").click()
    expect(versions.get_by_role("row", name="Title")).to_contain_text("Half used, still")
    assert violations(page) == []
    page.close()
    author.delete(f"/api/v1/demos/{slug}")
