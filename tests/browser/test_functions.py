"""A function as a model, as an author brings it and a visitor meets it."""

import re
from pathlib import Path

from playwright.sync_api import FrameLocator, Page, Route, expect

from .conftest import violations

BROKEN = '''from typing import Annotated, Literal

FACTORS = {"stoneware": 1.0}


def dryness(
    days: Annotated[float, (0, 14), "days"], clay: Literal["porcelain", "stoneware"]
) -> Annotated[float, "%"]:
    """How dry is the pot?

    Parameters
    ----------
    days
        Since it was thrown.
    """
    return 100 * days / 14 * FACTORS[clay]


def other(days: float) -> float:
    return days
'''

SPOKEN = '''import humanize


def spoken(pots: int = 1200) -> str:
    """Pots in words"""
    return humanize.intcomma(pots)
'''
# Fetching and installing them on a busy machine.
BUILD_MS = 300_000


def _bring(desk: Page, path: Path) -> None:
    desk.get_by_label("Model file").set_input_files(path)
    desk.get_by_role("button", name="Open the model").click()


def _preview(desk: Page) -> FrameLocator:
    return desk.frame_locator("iframe")


def test_a_function_is_brought_mended_and_asked(desk_of, studio, tmp_path):
    desk = desk_of.new_page()
    desk.goto(f"{studio.url}/new")
    path = tmp_path / "dryness.py"
    path.write_text(BROKEN)
    _bring(desk, path)
    # Which of two functions answers is asked, and then where it fails is shown: the line, and what it was called with.
    expect(desk.get_by_role("group", name="Which one answers?")).to_be_visible()
    desk.get_by_role("button", name="dryness", exact=True).click()
    expect(desk.get_by_role("alert")).to_contain_text("KeyError: 'porcelain' (line 16)")
    shown = desk.get_by_role("region", name="Where it failed")
    expect(shown).to_contain_text("clay = 'porcelain'")
    expect(shown.locator("span", has_text="> 16      return 100 * days / 14 * FACTORS[clay]")).to_have_count(1)
    assert violations(desk) == []
    path.write_text(BROKEN.replace('{"stoneware": 1.0}', '{"stoneware": 1.0, "porcelain": 0.5}'))
    _bring(desk, path)
    desk.wait_for_url("**/demos/how-dry-is-the-pot")
    visitor = _preview(desk)
    expect(visitor.get_by_role("heading", name="How dry is the pot?")).to_be_visible()
    expect(visitor.get_by_text("Since it was thrown.")).to_be_visible()
    visitor.get_by_role("button", name="Show the answer").first.click()
    expect(visitor.locator("body")).to_contain_text("25.0 %")
    desk.goto(f"{studio.url}/demos/how-dry-is-the-pot/model")
    parts = desk.get_by_test_id("parts")
    expect(parts.get_by_text("Files beside it", exact=True)).to_be_visible()
    expect(desk.get_by_text("dryness()", exact=True)).to_be_visible()
    assert violations(desk) == []
    desk.close()


def test_libraries_that_it_lacks_are_built_in_sight_even_if_the_connection_breaks(desk_of, studio, tmp_path):
    desk = desk_of.new_page()
    desk.goto(f"{studio.url}/new")
    path = tmp_path / "spoken.py"
    path.write_text(SPOKEN)
    _bring(desk, path)
    expect(desk.get_by_role("alert")).to_contain_text("humanize")
    assert violations(desk) == []
    broken = []

    def breaks(route: Route) -> None:
        broken.append(route.request.url)
        route.abort("connectionreset")

    desk.route("**/api/v1/jobs/*/events", breaks, times=1)
    desk.get_by_role("button", name="Build them and open it").click()
    expect(desk.get_by_role("log")).to_contain_text("Asked for: humanize", timeout=BUILD_MS)
    assert violations(desk) == []
    desk.wait_for_url("**/demos/pots-in-words", timeout=BUILD_MS)
    assert len(broken) == 1
    visitor = _preview(desk)
    visitor.get_by_role("button", name="Show the answer").first.click()
    expect(visitor.locator("body")).to_contain_text("1,200")
    desk.goto(f"{studio.url}/demos/pots-in-words/model")
    expect(desk.get_by_text("Libraries of its own").first).to_be_visible()
    expect(desk.get_by_text(re.compile(r"^humanize \d"))).to_be_visible()
    assert violations(desk) == []
    desk.close()


def test_the_sample_answers_with_its_units(page, studio):
    page.goto(f"{studio.url}/d/kiln-by-hand")
    page.get_by_role("button", name="The same on a Sunday").click()
    expect(page.get_by_text("Time", exact=True).first).to_be_visible()
    expect(page.get_by_text("kWh").first).to_be_visible()
    expect(page.get_by_role("textbox", name="Day of the firing")).to_have_value("2026-11-15")
    assert violations(page) == []
