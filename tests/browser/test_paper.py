"""On paper: the answer first, then what was asked, then why; nothing split, and colours for paper from any theme."""

import io
import re

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from .test_hands import SAMPLES, ask, open_sample

# Of each block that is printed: its heading and what stands in its rows, as they are read.
BLOCKS = """() => {
  const seen = (one) => one.checkVisibility() && one.innerText.trim()
  return [...document.querySelectorAll('section section')].filter(seen).map((block) =>
    [...block.querySelectorAll('h3, li > span:first-child, dt')].filter(seen).map((part) => part.innerText))
}"""


def squeezed(text: str) -> str:
    return re.sub(r"\s+", "", text)


def sheets_of(pdf: bytes) -> list[str]:
    return [squeezed(sheet.extract_text()) for sheet in PdfReader(io.BytesIO(pdf)).pages]


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


def test_nothing_is_split_between_two_sheets(printed):
    """Read off the sheets themselves, large and small ones: what belongs together stands on one."""
    blocks = [block for block in printed.evaluate(BLOCKS) if block]
    assert len(blocks) >= 4
    assert all(len(lines) >= 2 for lines in blocks)
    for format in ("A4", "Letter", "A5"):
        sheets = sheets_of(printed.pdf(format=format))
        for lines in blocks:
            holding = [sheet for sheet in sheets if squeezed(lines[0]) in sheet]
            assert holding, (format, lines[0])
            assert [line for line in lines if squeezed(line) not in holding[0]] == [], format


def test_a_picture_is_printed_with_its_frost(context, studio):
    page = open_sample(context, studio, "how-is-the-glaze", width=1280, height=800)
    ask(page)
    page.get_by_text("partly covered pictures;").wait_for()
    frost = page.get_by_test_id("paper-frost")
    expect(frost).to_be_hidden()
    page.emulate_media(media="print")
    expect(frost).to_be_visible()
    covered = frost.locator("canvas").evaluate(
        """one => {
          const { data } = one.getContext('2d').getImageData(0, 0, one.width, one.height)
          return data.filter((value, at) => at % 4 === 3 && value > 100).length / (one.width * one.height)
        }"""
    )
    assert 0.2 < covered < 1


@pytest.mark.parametrize("slug", SAMPLES)
def test_a_sheet_or_two_are_enough(context, studio, slug):
    page = open_sample(context, studio, slug, width=1280, height=800)
    ask(page)
    page.wait_for_timeout(1500)
    assert len(sheets_of(page.pdf(format="A4"))) in (1, 2)
