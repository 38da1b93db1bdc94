"""On paper: the answer first, then what was asked, then why; nothing split, and colours for paper from any theme."""

import re

import pytest
from playwright.sync_api import Page, expect

from .test_hands import SAMPLES, ask, open_sample

KEPT_TOGETHER = """one => {
  for (let at = one; at; at = at.parentElement) if (getComputedStyle(at).breakInside === 'avoid') return true
  return false
}"""


def pages_of(pdf: bytes) -> int:
    return len(re.findall(rb"/Type\s*/Page\b", pdf))


@pytest.fixture
def printed(context, studio) -> Page:
    page = open_sample(context, studio, "will-it-crack", width=1280, height=800)
    page.emulate_media(color_scheme="dark")
    page.get_by_role("button", name="A thick vase in a hurry").click()
    page.get_by_test_id("contributions").wait_for()
    page.get_by_role("button", name="Try it").first.wait_for()
    page.emulate_media(media="print", color_scheme="dark")
    return page


def test_the_answer_stands_first_then_what_was_asked_then_why(printed):
    order = [
        printed.locator("#answer-heading"),
        printed.get_by_test_id("echo"),
        printed.get_by_test_id("contributions"),
    ]
    tops = [one.bounding_box()["y"] for one in order]
    assert tops == sorted(tops)
    expect(printed.get_by_role("textbox", name="Wall thickness")).to_be_hidden()


def test_colours_are_for_paper_and_what_is_drawn_is_printed(printed):
    ink, paper = printed.locator("body").evaluate(
        "one => ['--ink', '--paper'].map((name) => getComputedStyle(one).getPropertyValue(name))"
    )
    assert (ink, paper) == ("#20302f", "#faf8f3")
    for drawn in printed.locator(".drawn:visible").all()[:20]:
        assert drawn.evaluate("one => getComputedStyle(one).printColorAdjust") == "exact"


def test_nothing_is_split_between_two_pages(printed):
    for query in (
        "[data-testid=contributions]",
        "[data-testid=contributions] li",
        ".answer-head",
        "[data-testid=echo] > div",
    ):
        one = printed.locator(query).first
        inside = one.evaluate(KEPT_TOGETHER)
        assert inside, query


@pytest.mark.parametrize("slug", SAMPLES)
def test_a_sheet_or_two_are_enough(context, studio, slug):
    page = open_sample(context, studio, slug, width=1280, height=800)
    ask(page)
    page.wait_for_timeout(1500)
    assert pages_of(page.pdf(format="A4")) in (1, 2)
