"""A page that needs no server, from a disk with the network cut: a person finds there what the server's page says."""

from pathlib import Path

import httpx
import pytest
from playwright.sync_api import BrowserContext, Page, expect

from ..studio import Studio
from .conftest import violations

SLUG = "will-it-crack"
# Nobody is there to be told.
WAS_RIGHT = "\nWas this right?\nYes\nNo\n\n"


@pytest.fixture(scope="module")
def file(studio: Studio, key: str, tmp_path_factory: pytest.TempPathFactory) -> Path:
    with studio.client(key=key) as author:
        response: httpx.Response = author.get(f"/api/v1/demos/{SLUG}/take-away")
    path = tmp_path_factory.mktemp("stick") / "will it crack? (copy).html"
    path.write_bytes(response.content)
    return path


def opened(context: BrowserContext, address: str) -> Page:
    page = context.new_page()
    page.goto(address)
    page.get_by_role("button", name="Show the answer").wait_for()
    return page


def words_of(page: Page) -> tuple[str, str]:
    """What the page says, and apart from it what would change it: a search may be cut short on a busy machine."""
    changes = page.locator("section[aria-labelledby=changes-heading]")
    found = changes.inner_text()
    changes.evaluate("element => { element.style.display = 'none' }")
    said = page.get_by_role("main").inner_text()
    changes.evaluate("element => { element.style.display = '' }")
    return said, "" if "The time was up" in found else found


def as_a_visitor_does(page: Page) -> dict[str, str]:
    """What a page says on the way of somebody who tries this and that."""
    said = {"invited": page.get_by_role("main").inner_text()}
    page.get_by_role("textbox", name="Wall thickness").fill("14")
    page.get_by_role("textbox", name="Days drying").fill("2")
    page.get_by_role("radio", name="Porcelain").click()
    expect(page.get_by_role("heading", name="Likely to crack")).to_be_visible()
    for part in ("Cases like this one", "What would change it"):
        expect(page.get_by_role("region", name=part, exact=True).get_by_role("listitem").first).to_be_visible()
    page.wait_for_load_state("networkidle")
    # All that can be opened, and what comes to light by that.
    for _ in range(3):
        page.evaluate("() => document.querySelectorAll('details').forEach((one) => (one.open = true))")
        expect(page.get_by_role("region", name="What matters overall")).to_contain_text("Days drying")
        expect(page.get_by_text("Still counting")).to_have_count(0)
    expect(page.get_by_role("region", name="What matters overall").get_by_text("Typically").first).to_be_visible()
    said["answered"], said["changes"] = words_of(page)
    said["overall"] = page.get_by_role("region", name="What matters overall").inner_text()
    page.get_by_role("textbox", name="Wall thickness").fill("40")
    expect(page.get_by_text("is above everything in the author's table").first).to_be_visible()
    expect(page.get_by_role("region", name="Cases like this one", exact=True)).to_be_visible()
    page.wait_for_timeout(1500)
    said["far beyond"], _ = words_of(page)
    return said


def test_everything_a_visitor_reads_is_what_the_servers_page_says(context, studio, plane, file):
    server = as_a_visitor_does(opened(context, f"{studio.url}/d/{SLUG}"))
    alone = as_a_visitor_does(opened(plane, file.as_uri()))
    assert len(server["answered"]) > 3000
    assert WAS_RIGHT in server["answered"]
    changes = server.pop("changes"), alone.pop("changes")
    assert "" in changes or changes[0] == changes[1]
    assert alone == {name: text.replace(WAS_RIGHT, "") for name, text in server.items()}


def test_it_answers_in_a_thread_and_checks_itself(plane, file):
    page = opened(plane, file.as_uri())
    assert len(page.workers) == 1
    page.get_by_role("button", name="Check this page").click()
    expect(page.get_by_text("200 answers, and for 20 of them what each value adds, were asked again")).to_be_visible()
    expect(page.get_by_text("That is no more than adding in another order makes.")).to_be_visible()
    expect(page.get_by_text("do not rely on this copy")).to_have_count(0)


def test_without_threads_it_answers_within_the_page(plane, file):
    plane.add_init_script("delete globalThis.Worker")
    page = opened(plane, file.as_uri())
    page.get_by_role("button", name="Show the answer").click()
    expect(page.get_by_role("heading", name="Likely to come out sound")).to_be_visible()
    expect(page.get_by_role("region", name="Cases like this one", exact=True)).to_be_visible()
    assert page.workers == []


def test_with_storage_switched_off_and_within_a_frame_it_works(plane, file, tmp_path):
    frame = tmp_path / "frame.html"
    frame.write_text(
        f'<!doctype html><title>A frame</title><iframe sandbox="allow-scripts" src="{file.as_uri()}">', "utf-8"
    )
    page = plane.new_page()
    page.goto(frame.as_uri())
    inner = page.frame_locator("iframe")
    inner.get_by_role("button", name="Show the answer").first.click()
    expect(inner.get_by_role("heading", name="Likely to come out sound")).to_be_visible()


@pytest.mark.parametrize("width", [1280, 375])
def test_axe_finds_nothing_and_nothing_is_cut_off(plane, file, width):
    page = opened(plane, file.as_uri())
    page.set_viewport_size({"width": width, "height": 800})
    page.get_by_role("button", name="Show the answer").first.click()
    expect(page.get_by_role("region", name="Cases like this one", exact=True)).to_be_visible()
    assert violations(page) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= width


def changed_copy(file: Path, folder: Path, where: str) -> Path:
    """A copy in which one letter is another, within one of its blocks."""
    text = file.read_text("utf-8")
    at = text.index(where) + len(where) + 300
    copy = folder / "copy.html"
    copy.write_text(text[:at] + ("A" if text[at] != "A" else "B") + text[at + 1 :], "utf-8")
    return copy


@pytest.mark.parametrize("where", ['id="content">', 'id="model">'])
def test_a_copy_that_was_changed_says_so_instead_of_answering(plane, file, tmp_path, where):
    copy = changed_copy(file, tmp_path, where)
    page = plane.new_page()
    page.goto(copy.as_uri())
    expect(page.get_by_role("heading", name="This file is damaged")).to_be_visible()
    expect(page.get_by_text("Ask whoever gave it to you for another copy.")).to_be_visible()


def test_a_copy_that_was_cut_short_says_what_may_be_wrong(plane, file, tmp_path):
    text = file.read_text("utf-8")
    copy = tmp_path / "copy.html"
    copy.write_text(text[: text.index('id="model">') + 5000], "utf-8")
    page = plane.new_page()
    page.goto(copy.as_uri())
    expect(page.get_by_role("heading", name="Will it crack?")).to_be_visible()
    expect(page.get_by_text("the file was cut short on its way")).to_be_visible()


def test_the_author_reads_what_it_would_be_and_has_it_made(desk_of, studio):
    page = desk_of.new_page()
    page.goto(f"{studio.url}/demos/{SLUG}/share")
    page.get_by_text("As a file that needs no server").click()
    rows = page.get_by_role("checkbox", name="rows of your reference table")
    expect(rows).to_be_checked()
    rows.uncheck()
    expect(page.get_by_text("100 rows are in it all the same")).to_be_visible()
    expect(page.get_by_text("The reference table is not in it")).to_be_visible()
    rows.check()
    with page.expect_download() as download:
        page.get_by_role("button", name="Make the file").click()
    assert download.value.suggested_filename == f"{SLUG}.html"
    assert "<!doctype html>" in Path(download.value.path()).read_text("utf-8")[:20]
