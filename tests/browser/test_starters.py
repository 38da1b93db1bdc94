"""From a table to a page, as an author does it: the tour, choices, models compared, the page that comes of it."""

import re

import pytest
from playwright.sync_api import BrowserContext, Page, expect

from ..studio import Studio
from .conftest import violations

FITTED = 90_000


@pytest.fixture
def desk(desk_of: BrowserContext) -> Page:
    return desk_of.new_page()


def test_the_sample_table_becomes_a_page(desk: Page, studio: Studio):
    desk.goto(f"{studio.url}/")
    desk.get_by_role("link", name="Only a table yet").click()
    desk.get_by_role("button", name="try it with a made-up firing log").click()
    tour = desk.get_by_test_id("tour")
    expect(tour).to_contain_text("A leak")
    expect(tour).to_contain_text("“mending_minutes” is filled in for 471 rows")
    titles = []
    while True:
        titles.append(tour.get_by_role("heading").inner_text())
        following = tour.get_by_role("button", name="Next")
        if not following.count():
            break
        following.click()
    assert titles == ["A leak", "A name", "Groups", "A date, and time that goes on", "What becomes of a date", "Gaps"]
    # The tour points at what it speaks of.
    expect(desk.locator('[data-column="wall_mm"]')).to_have_class(re.compile("border-l-glass"))
    tour.get_by_role("button", name="Done").click()
    assert violations(desk) == []

    findings, columns = desk.get_by_test_id("findings"), desk.get_by_test_id("columns")
    leak = findings.get_by_role("listitem").filter(has_text="Only known afterwards")
    expect(columns.get_by_label("Tell the model mending_minutes")).not_to_be_checked()
    leak.get_by_role("button", name="Use it all the same").click()
    expect(columns.get_by_label("Tell the model mending_minutes")).to_be_checked()
    expect(leak).to_contain_text("Used all the same, as you chose.")
    leak.get_by_role("button", name="Leave it out").click()
    expect(leak).to_contain_text("Left out")
    # As classes rather than an amount; and a column less.
    columns.get_by_label("What shelf is").select_option("category")
    columns.get_by_label("Tell the model peak_temp_c").uncheck()
    expect(desk.get_by_text("7 of them are told to the model.")).to_be_visible()

    desk.get_by_role("button", name="Compare models").click()
    expect(desk.get_by_role("progressbar")).to_be_visible()
    # It can be left and come back to.
    here = desk.url
    desk.goto(f"{studio.url}/jobs")
    expect(desk.get_by_text("firing_log.csv").first).to_be_visible()
    desk.goto(here)
    expect(desk.get_by_role("heading", name="How models compare")).to_be_visible(timeout=FITTED)
    chart = desk.get_by_test_id("compared")
    expect(chart.get_by_role("radio")).to_have_count(4)
    expect(chart).to_contain_text(re.compile(r"Guessing\s*knows nothing of the case\s*wrong in 48 of 100 rows"))
    assert violations(desk) == []
    chart.get_by_role("radio").nth(1).check()
    desk.get_by_label("Title of the page").fill("Will it hold?")
    desk.get_by_role("button", name="Make the page: Small tree").click()
    expect(desk.get_by_role("heading", name="The page is made")).to_be_visible(timeout=FITTED)
    expect(desk.get_by_test_id("checked")).to_contain_text(re.compile(r"\d+ of \d+ checks pass\."))
    desk.get_by_role("link", name="Open it").click()

    made = desk.get_by_test_id("made-of-table")
    expect(made).to_contain_text("firing_log.csv: 1,478 rows, of which 1,179 were learned from and 299 kept back.")
    with desk.expect_download() as download:
        made.get_by_role("link", name="Take the training script along").click()
    assert download.value.suggested_filename == "will-it-hold-training.zip"
    page = desk.frame_locator("iframe")
    expect(page.get_by_role("heading", name="Will it hold?")).to_be_visible()
    page.get_by_role("button", name="Show the answer").first.click()
    expect(page.locator("#answer")).to_contain_text("of 100")
    desk.get_by_role("link", name="Checks").click()
    expect(
        desk.get_by_text("Cases of one “stretch of time” go wrong together: how sure this is goes by 10 of those")
    ).to_be_visible()


def test_what_can_be_read_in_two_ways_is_asked(desk: Page, studio: Studio):
    rows = "".join(
        f'"{1 + at % 7},{100 + at % 900:03}";{at % 5};{"cracks" if at % 3 else "sound"}\n' for at in range(120)
    )
    desk.goto(f"{studio.url}/start")
    table = {"name": "pieces.csv", "mimeType": "text/csv", "buffer": ("weight;shelf;outcome\n" + rows).encode()}
    desk.locator('input[type="file"]').set_input_files(table)
    expect(desk.get_by_text("can be read in two ways")).to_be_visible()
    asked = desk.locator("fieldset")
    asked.get_by_role("button", name="1.234,5").click()
    expect(desk.get_by_text("can be read in two ways")).to_be_hidden()
    expect(desk.locator('[data-column="weight"]')).to_contain_text("1.1 to 7.218")


def test_what_is_no_table_is_said_where_it_was_chosen(desk: Page, studio: Studio):
    desk.goto(f"{studio.url}/start")
    picture = {"name": "pot.png", "mimeType": "image/png", "buffer": b"\x89PNG\r\n\x1a\n" + bytes(64)}
    desk.locator('input[type="file"]').set_input_files(picture)
    expect(desk.get_by_role("alert")).to_contain_text("It takes CSV")
