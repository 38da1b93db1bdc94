"""Make the pictures in `docs/screenshots/` from the sample data.

Run with a fresh state directory, so that nothing but the sample is in them:

    PLAINWINDOW_HOME=$(mktemp -d) .venv/bin/python docs/screenshots.py
"""

import re
import shutil
import sys
import tempfile
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from plain_window.samples.will_it_crack.month import PLACE as MONTH  # noqa: E402
from tests.browser.conftest import ARGUMENTS  # noqa: E402
from tests.studio import Studio  # noqa: E402

FOLDER = ROOT / "docs" / "screenshots"
DESK, PHONE = {"width": 1280, "height": 800}, {"width": 375, "height": 800}


def main() -> None:
    """Start the sample, walk through the main views, take one picture of each."""
    with tempfile.TemporaryDirectory() as home, sync_playwright() as playwright:
        studio = Studio(Path(home) / "home")
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=ARGUMENTS)
        try:
            _visitor(browser, studio)
            _pictures(browser, studio)
            _in_pictures(browser, studio)
            _film(browser, studio)
            _author(browser, studio)
        finally:
            browser.close()
            studio.stop()


def _visitor(browser: Browser, studio: Studio) -> None:
    for name, size in [("visitor", DESK), ("phone", PHONE)]:
        page = browser.new_page(viewport=size)
        page.goto(f"{studio.url}/d/will-it-crack")
        page.get_by_role("button", name="Show the answer").first.wait_for()
        if name == "visitor":
            _take(page, f"{name}-invitation")
        page.get_by_role("radio", name="Porcelain").click()
        page.get_by_role("textbox", name="Wall thickness").fill("14")
        page.get_by_role("textbox", name="Days drying").fill("2")
        page.get_by_role("radiogroup", name="Handle or spout").get_by_role("radio", name="Yes").click()
        page.get_by_text("What brought it").wait_for()
        page.get_by_role("button", name="Try it").first.wait_for()
        page.evaluate("scrollTo(0, 0)")
        _take(page, f"{name}-answer")
        if name == "visitor":
            _behind(page)
        page.close()
    _table(browser, studio)
    page = browser.new_page(viewport=DESK)
    page.goto(f"{studio.url}/d/what-will-this-firing-use")
    page.get_by_role("textbox", name="Weight of the pots").fill("40")
    page.get_by_role("textbox", name="Peak temperature").fill("1260")
    page.get_by_text("What brought it").wait_for()
    page.evaluate("scrollTo(0, 0)")
    _take(page, "visitor-number")
    page.close()


def _table(browser: Browser, studio: Studio) -> None:
    """A month's pieces, looked at."""
    page = browser.new_page(viewport=DESK)
    page.goto(f"{studio.url}/d/will-it-crack")
    section = page.get_by_role("region", name="A whole table at once")
    section.get_by_label("Choose a table").set_input_files(MONTH)
    section.get_by_role("region", name="First answers").wait_for()
    section.evaluate("element => element.scrollIntoView()")
    _take(page, "visitor-table")
    page.close()


def _pictures(browser: Browser, studio: Studio) -> None:
    """A photograph with where the model looked, and a drawn mark with its strokes."""
    for name, slug, sample in [
        ("visitor-picture", "how-is-the-glaze", "Small holes"),
        ("visitor-drawing", "whose-mark-is-it", "Edda’s"),
    ]:
        page = browser.new_page(viewport=DESK)
        page.goto(f"{studio.url}/d/{slug}")
        page.get_by_role("button", name=sample).click()
        page.get_by_text(re.compile("partly covered pictures; |every combination")).wait_for()
        page.evaluate("scrollTo(0, 0)")
        _take(page, name)
        page.close()


def _in_pictures(browser: Browser, studio: Studio) -> None:
    """Boxes with one of them lit up."""
    page = browser.new_page(viewport=DESK)
    page.goto(f"{studio.url}/d/where-are-the-flaws")
    page.get_by_role("button", name="A tile with four").click()
    page.locator('[data-number="2"] button').click()
    page.evaluate("scrollTo(0, 0)")
    _take(page, "visitor-boxes")
    page.close()


def _film(browser: Browser, studio: Studio) -> None:
    """A film in its middle, with its boxes and its strips."""
    page = browser.new_page(viewport=DESK)
    page.goto(f"{studio.url}/d/along-the-belt")
    page.get_by_role("button", name="tiles passing").click()
    page.get_by_text("that were asked about have an answer.").wait_for()
    rows = page.locator(".film-strips")
    size = rows.bounding_box()
    assert size is not None
    rows.click(position={"x": size["width"] * 0.4, "y": 10})
    page.locator("[data-box]").first.wait_for()
    page.locator("#film").evaluate("at => at.scrollIntoView()")
    _take(page, "visitor-film")
    page.close()


def _behind(page: Page) -> None:
    """What stands further down: changes, similar cases, the case among others."""
    page.get_by_role("heading", name="What would change it").scroll_into_view_if_needed()
    page.get_by_text("Your case among those of").click()
    page.get_by_role("button", name="Closer").wait_for()
    page.get_by_role("heading", name="What would change it").evaluate("at => at.scrollIntoView()")
    _take(page, "visitor-behind")


def _author(browser: Browser, studio: Studio) -> None:
    page = browser.new_page(viewport=DESK)
    page.goto(studio.sign_in_link)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_label("New password").fill("a kiln full of pots")
    page.get_by_role("button", name="Set password").click()
    page.get_by_text("ready").first.wait_for()
    _take(page, "shelf")
    page.goto(f"{studio.url}/new")
    _take(page, "bring-a-model")
    for place in ("model", "inputs", "answer", "checks", "share"):
        page.goto(f"{studio.url}/demos/will-it-crack/{place}")
        page.frame_locator("iframe").get_by_role("textbox", name="Wall thickness").fill("14")
        page.frame_locator("iframe").get_by_text("Why, and what would change it").wait_for()
        page.frame_locator("iframe").locator("body").evaluate("() => scrollTo(0, 0)")
        _take(page, f"workbench-{place}")
    _starter(page, studio)
    page.close()


def _starter(page: Page, studio: Studio) -> None:
    """The sample table with what was found in it, and models compared."""
    page.goto(f"{studio.url}/start")
    page.get_by_role("button", name="try it with a made-up firing log").click()
    page.get_by_test_id("tour").wait_for()
    _take(page, "start-table")
    page.get_by_role("button", name="Compare models").click()
    page.get_by_role("heading", name="How models compare").wait_for(timeout=120_000)
    _take(page, "start-compared")


def _take(page: Page, name: str) -> None:
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(400)
    page.screenshot(path=FOLDER / f"{name}.png")


if __name__ == "__main__":
    main()
