"""Slow and broken lines: nothing stale looks current, each fault says what goes on, and *Try again* works."""

import email.utils
import re
import time

import pytest
from playwright.sync_api import Page, Route, expect

from .test_visitor import PREDICTIONS, answer, marks, wall, words_for

PROBLEM = {"type": "about:blank", "title": "Busy", "detail": "The model is busy."}


@pytest.fixture
def answered(page: Page) -> Page:
    wall(page).fill("13")
    expect(marks(page)).to_be_visible()
    return page


class Line:
    """What stands between the page and the server: lets through, holds back, or answers by itself."""

    def __init__(self, page: Page) -> None:
        self.reply: dict | None = None
        self.is_cut = self.is_held = False
        self.asked: list[float] = []
        self._held: list[Route] = []
        page.route(PREDICTIONS, self._take)

    def _take(self, route: Route) -> None:
        self.asked.append(time.monotonic())
        if self.is_held:
            self._held.append(route)
        elif self.is_cut:
            route.abort("internetdisconnected")
        elif self.reply is not None:
            route.fulfill(**self.reply)
        else:
            route.continue_()

    def let_go(self) -> None:
        self.is_held = False
        for route in self._held:
            route.continue_()
        self._held.clear()


def test_an_answer_that_is_late_leaves_the_old_one_dimmed_and_says_so(answered, visitor):
    page, line = answered, Line(answered)
    expect(page.locator("[data-field=wall_mm] [data-place=push]")).to_contain_text("point")
    line.is_held = True
    wall(page).fill("15")
    expect(answer(page)).to_contain_text("Answer to what stood here before")
    assert float(page.locator("[data-late=true]").evaluate("one => getComputedStyle(one).opacity")) < 0.6
    # What explains an answer never stands beside values it is not about.
    expect(page.locator("[data-field=wall_mm] [data-place=push]")).to_be_empty()
    expect(page.get_by_role("img", name=re.compile("If only"))).to_have_count(0)
    line.let_go()
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=15))
    expect(page.locator("[data-late=true]")).to_have_count(0)
    expect(page.locator("[data-field=wall_mm] [data-place=push]")).to_contain_text("point")


@pytest.mark.parametrize("status", [429, 503, 504])
def test_a_busy_server_is_asked_again_by_itself_a_second_later_at_least(answered, visitor, status):
    page, line = answered, Line(answered)
    line.reply = {"status": status, "json": {**PROBLEM, "status": status}, "headers": {"Retry-After": "0"}}
    wall(page).fill("15")
    expect(answer(page)).to_contain_text("The model is busy. This page asks again by itself.")
    while len(line.asked) < 3:
        page.wait_for_timeout(50)
    assert line.asked[1] - line.asked[0] >= 0.95
    # Each wait is longer than the one before.
    assert line.asked[2] - line.asked[1] >= 1.9
    line.reply = None
    page.get_by_role("button", name="Try again").first.click()
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=15))
    expect(answer(page)).not_to_contain_text("busy")


def test_how_long_to_wait_may_be_a_date(page, visitor):
    line = Line(page)
    until = email.utils.formatdate(time.time() + 3, usegmt=True)
    line.reply = {"status": 503, "json": {**PROBLEM, "status": 503}, "headers": {"Retry-After": until}}
    wall(page).fill("15")
    expect(answer(page)).to_contain_text("The model is busy.")
    line.reply = None
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=15))
    # A date is good to the second.
    assert 1.5 < line.asked[1] - line.asked[0] < 5


def test_without_a_connection_the_page_says_so_and_goes_on_when_it_is_back(context, answered, visitor):
    page, line = answered, Line(answered)
    line.is_cut = True
    wall(page).fill("15")
    expect(answer(page)).to_contain_text("The server cannot be reached.")
    told = page.get_by_test_id("announcement")
    expect(told).to_contain_text("The server cannot be reached.")
    # It is said once, however often the page asks.
    page.evaluate(
        """told => {
          window.changes = 0
          const watch = new MutationObserver(() => { window.changes += 1 })
          watch.observe(told, { childList: true, characterData: true, subtree: true })
        }""",
        told.element_handle(),
    )
    seen = len(line.asked)
    while len(line.asked) == seen:
        page.wait_for_timeout(50)
    page.wait_for_timeout(900)
    assert page.evaluate("window.changes") == 0
    line.is_cut = False
    page.evaluate("window.dispatchEvent(new Event('online'))")
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=15))


def test_a_server_that_fails_is_asked_again_when_somebody_presses(page, visitor):
    line = Line(page)
    line.reply = {"status": 500, "body": "<h1>oh</h1>", "headers": {"Content-Type": "text/html"}}
    wall(page).fill("15")
    expect(answer(page)).to_contain_text("The server did not answer as it should.")
    line.reply = None
    answer(page).get_by_role("button", name="Try again").click()
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=15))
    # The focus went down with the button: it is in the answer now.
    assert page.evaluate("document.querySelector('#answer').contains(document.activeElement)")


def test_a_page_that_cannot_be_loaded_says_so_and_loads_when_it_can(context, studio):
    page = context.new_page()
    page.route("**/page", lambda route: route.abort("internetdisconnected"))
    page.goto(f"{studio.url}/d/will-it-crack")
    expect(page.get_by_text("The server cannot be reached.")).to_be_visible()
    page.unroute("**/page")
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("button", name="Show the answer").first).to_be_visible()
