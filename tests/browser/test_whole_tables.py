"""A whole table on the pages: dropped, understood, begun, left, found again, taken away."""

import csv as csv_module
import io
from collections.abc import Iterator

import pytest
from playwright.sync_api import Locator, Page, expect

from ..made_models import firings
from ..web.helpers import bring
from ..web.tables import as_csv, pieces
from .conftest import violations


@pytest.fixture(scope="module")
def taking_tables(studio, key) -> Iterator[str]:
    """The address of a page whose visitors may have tables answered."""
    with studio.client(key=key) as author:
        slug = bring(author, title="Firings, many at once").json()["slug"]
        author.patch(f"/api/v1/demos/{slug}", json={"parts": {"tables": True}, "table_rows": 5000})
        author.post(f"/api/v1/demos/{slug}/releases", json={"despite": {}}).raise_for_status()
        author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"}).raise_for_status()
        yield f"{studio.url}/d/{slug}"
        author.delete(f"/api/v1/demos/{slug}")


@pytest.fixture
def section(context, taking_tables) -> Iterator[Locator]:
    page = context.new_page()
    page.goto(taking_tables)
    found = page.get_by_role("region", name="A whole table at once")
    found.wait_for()
    yield found
    page.close()


def choose(section: Locator, table: bytes, name: str = "firings.csv") -> None:
    section.get_by_label("Choose a table").set_input_files({"name": name, "mimeType": "text/csv", "buffer": table})


@pytest.mark.parametrize("width", [1280, 375])
def test_a_table_is_put_right_begun_left_and_taken_away(section: Locator, width: int) -> None:
    page = section.page
    page.set_viewport_size({"width": width, "height": 800})
    table = firings(60).drop(columns=["kwh", "outcome"]).rename(columns={"pots": "number of pieces"})
    table["peak"] = table["peak"].astype(object)
    table.loc[3, "peak"] = "hot"
    choose(section, as_csv(table))
    expect(section.get_by_text("One field has no column yet")).to_be_visible()
    expect(section.get_by_role("button", name="Answer all 60 rows")).to_be_disabled()
    assert violations(page) == []
    section.get_by_label("pots", exact=False).first.select_option("number of pieces")
    expect(section.get_by_role("region", name="First answers").get_by_role("row")).to_have_count(9)
    assert violations(page) == []
    section.get_by_role("button", name="Answer all 60 rows").click()
    expect(section.get_by_text("59 of 60 rows are answered")).to_be_visible()
    expect(section.get_by_role("cell", name='must be a number. You gave "hot"')).to_be_visible()
    assert violations(page) == []
    page.reload()
    expect(section.get_by_text("59 of 60 rows are answered")).to_be_visible()
    with page.expect_download() as download:
        section.get_by_role("link", name="CSV", exact=True).click()
    assert download.value.suggested_filename == "firings with answers.csv"
    rows = list(csv_module.DictReader(io.StringIO(download.value.path().read_text("utf-8"))))
    assert [row["number of pieces"] for row in rows] == [str(value) for value in table["number of pieces"]]
    section.get_by_role("button", name="Another table").click()
    expect(section.get_by_label("Choose a table")).to_be_attached()


def test_what_is_no_table_is_said_in_words_and_another_can_be_chosen(section: Locator) -> None:
    choose(section, b"\x89PNG\r\n\x1a\n" + bytes(80), "kiln.csv")
    expect(section.get_by_role("alert")).to_contain_text("is a picture, not a table")
    choose(section, as_csv(firings(5)[["kiln", "pots", "peak", "reduced"]]))
    expect(section.get_by_role("button", name="Answer all 5 rows")).to_be_enabled()


def test_an_author_drops_a_table_cancels_it_and_finds_all_jobs_in_one_list(desk_of, studio) -> None:
    page: Page = desk_of.new_page()
    page.goto(f"{studio.url}/demos/will-it-crack/share")
    sheet = page.get_by_test_id("tables")
    sheet.wait_for()
    transfer = page.evaluate_handle(
        "text => { const data = new DataTransfer(); data.items.add(new File([text], 'many.csv')); return data }",
        as_csv(pieces(120_000)).decode(),
    )
    sheet.get_by_test_id("table-cases").dispatch_event("drop", {"dataTransfer": transfer})
    sheet.get_by_role("button", name="Answer all").click()
    expect(sheet.get_by_role("progressbar")).to_be_visible()
    sheet.get_by_role("button", name="Cancel").click()
    expect(sheet.get_by_label("Choose a table")).to_be_attached()
    choose(sheet, as_csv(pieces(4)), "few.csv")
    sheet.get_by_role("button", name="Answer all 4 rows").click()
    expect(sheet.get_by_text("All 4 rows are answered.")).to_be_visible()
    sheet.get_by_text("How it did on these rows").click()
    expect(sheet.get_by_text("of 4 known cases")).to_be_visible()
    page.get_by_role("link", name="Jobs").click()
    row = page.get_by_role("listitem").filter(has_text="few.csv")
    expect(row).to_contain_text("All 4 rows are answered.")
    assert violations(page) == []
    row.get_by_role("button", name="Forget few.csv").click()
    expect(page.get_by_role("listitem").filter(has_text="few.csv")).to_have_count(0)
    page.close()
