"""Pictures and drawings on the pages, as visitors and authors use them."""

import re

import httpx
import pytest
from playwright.sync_api import Page, expect

from plain_window.samples import SAMPLES

from ..studio import Studio
from .conftest import press_sign_in, violations

GLAZE = SAMPLES["how-is-the-glaze"]
CRAWLING, PINHOLES = GLAZE / "samples" / "crawling.jpg", GLAZE / "samples" / "pinholes.jpg"

# Files reach a page by dropping and pasting as events that carry them.
HAND_OVER = """([how, bytes, type]) => {
  const data = new DataTransfer()
  data.items.add(new File([new Uint8Array(bytes)], 'tile.jpg', {type}))
  const place = [...document.querySelectorAll('p')].find((one) => one.textContent.startsWith('Drop'))
  const target = how === 'drop' ? place : window
  const options = {bubbles: true, cancelable: true}
  const event = how === 'drop'
    ? new DragEvent('drop', {...options, dataTransfer: data})
    : new ClipboardEvent('paste', {...options, clipboardData: data})
  target.dispatchEvent(event)
}"""


@pytest.fixture
def glaze(context, studio: Studio) -> Page:
    page = context.new_page()
    page.goto(f"{studio.url}/d/how-is-the-glaze")
    page.get_by_role("button", name="Choose a picture").wait_for()
    return page


@pytest.fixture
def mark(context, studio: Studio) -> Page:
    page = context.new_page()
    page.goto(f"{studio.url}/d/whose-mark-is-it")
    page.get_by_role("img", name="The mark").wait_for()
    return page


def answer(page: Page):
    return page.locator("#answer")


def headline(page: Page):
    return page.locator("#answer-heading")


def seen(page: Page) -> str:
    """The address of the picture as the model sees it."""
    return page.get_by_alt_text("Your picture as the model sees it").first.get_attribute("src")


def test_before_a_picture_there_is_an_invitation(glaze):
    expect(headline(glaze)).to_have_text("Show it a picture")
    expect(answer(glaze)).to_contain_text("Nothing you show it is kept")
    assert violations(glaze) == []


def test_a_picture_is_chosen_and_answered_with_where_it_looked(glaze):
    glaze.set_input_files("input[type=file]", CRAWLING)
    expect(headline(glaze)).to_have_text("Likely crawled")
    where = glaze.get_by_test_id("where")
    expect(glaze.get_by_text("Clear: what spoke for").locator("visible=true")).to_be_visible()
    expect(where).to_contain_text(re.compile(r"From \d+ partly covered pictures; each of these is right within about"))
    assert violations(glaze) == []
    where.get_by_text("Read every patch as a table").click()
    expect(where.get_by_role("cell")).to_have_count(49)


def test_why_it_is_not_shown_where_it_looked_is_said(glaze):
    detail = "Where the model looked is not shown. The model takes too long for the many questions."
    told = {"type": "about:blank", "title": "Not worked out", "status": 422, "detail": detail}
    glaze.route("**/where?*", lambda route: route.fulfill(status=422, json=told), times=1)
    glaze.set_input_files("input[type=file]", CRAWLING)
    expect(answer(glaze).get_by_text(detail)).to_be_visible()
    assert violations(glaze) == []
    # It was about that picture.
    glaze.set_input_files("input[type=file]", PINHOLES)
    expect(glaze.get_by_test_id("where")).to_be_visible()
    expect(glaze.get_by_text(detail)).to_have_count(0)


@pytest.mark.parametrize("how", ["drop", "paste"])
def test_a_picture_is_dropped_or_pasted(glaze, how):
    glaze.evaluate(HAND_OVER, [how, list(PINHOLES.read_bytes()), "image/jpeg"])
    expect(headline(glaze)).to_have_text("Likely pinholes")


def test_the_camera_takes_a_picture(glaze):
    glaze.get_by_role("button", name="Take one").click()
    glaze.get_by_role("button", name="Take the picture").click()
    expect(glaze.get_by_role("img", name="Your picture", exact=True)).to_be_visible()
    expect(headline(glaze)).to_have_text(re.compile("Likely"))
    # The camera's light goes out: nothing shows its picture any more.
    expect(glaze.locator("video")).to_have_count(0)


def test_a_picture_may_be_drawn(glaze):
    glaze.get_by_role("button", name="Draw one").click()
    box = glaze.get_by_role("img", name="A sheet to draw on").bounding_box()
    glaze.mouse.move(box["x"] + 40, box["y"] + 40)
    glaze.mouse.down()
    glaze.mouse.move(box["x"] + 200, box["y"] + 160, steps=5)
    glaze.mouse.up()
    assert violations(glaze) == []
    glaze.get_by_role("button", name="Use this drawing").click()
    expect(headline(glaze)).to_have_text(re.compile("Likely"))


def test_a_link_that_leads_inside_is_refused_in_words(glaze, studio: Studio):
    glaze.get_by_role("button", name="From a link").click()
    glaze.get_by_label("Link to a picture").fill(f"{studio.url}/healthz")
    glaze.get_by_role("button", name="Fetch it").click()
    expect(glaze.get_by_text("leads to an address that is not public")).to_be_visible()
    assert violations(glaze) == []


def test_a_file_that_is_no_picture_gets_a_sentence_and_the_next_one_works(glaze):
    glaze.set_input_files("input[type=file]", GLAZE / "demo.toml")
    expect(answer(glaze)).to_contain_text("no picture that can be read here")
    glaze.set_input_files("input[type=file]", CRAWLING)
    expect(headline(glaze)).to_have_text("Likely crawled")


def test_a_part_is_cut_out_and_turned_and_undone(glaze):
    glaze.get_by_role("button", name="Bare patches").click()
    expect(headline(glaze)).to_have_text("Likely crawled")
    whole = seen(glaze)
    glaze.get_by_role("button", name="Cut out").click()
    box = glaze.get_by_test_id("cut").bounding_box()
    glaze.mouse.move(box["x"] + 10, box["y"] + 10)
    glaze.mouse.down()
    glaze.mouse.move(box["x"] + 90, box["y"] + 70, steps=4)
    glaze.mouse.up()
    cut = glaze.get_by_test_id("cut")
    before = cut.bounding_box()
    assert before["width"] < box["width"] / 2 + 8
    cut.focus()
    glaze.keyboard.press("ArrowRight")
    glaze.keyboard.press("Shift+ArrowDown")
    after = cut.bounding_box()
    assert after["x"] > before["x"]
    assert after["height"] > before["height"]
    glaze.get_by_role("button", name="Use this part").click()
    shown = glaze.get_by_alt_text("Your picture as the model sees it").first
    expect(shown).not_to_have_attribute("src", whole)
    part = seen(glaze)
    glaze.get_by_role("button", name="Turn").click()
    expect(shown).not_to_have_attribute("src", part)
    glaze.get_by_role("button", name="Undo").click()
    expect(shown).to_have_attribute("src", part)
    glaze.get_by_role("button", name="Undo").click()
    expect(shown).to_have_attribute("src", whole)


def draw(page: Page, *strokes: list[tuple[float, float]]) -> None:
    box = page.get_by_role("img", name="The mark").bounding_box()
    for stroke in strokes:
        places = [(box["x"] + x * box["width"], box["y"] + y * box["height"]) for x, y in stroke]
        page.mouse.move(*places[0])
        page.mouse.down()
        for place in places[1:]:
            page.mouse.move(*place, steps=5)
        page.mouse.up()


def test_a_mark_is_answered_while_it_is_drawn(mark):
    draw(mark, [(0.3, 0.15), (0.3, 0.85)], [(0.7, 0.15), (0.7, 0.85)], [(0.3, 0.5), (0.7, 0.5)])
    expect(headline(mark)).to_have_text("Likely Hana’s")
    expect(mark.get_by_text("3 strokes")).to_be_visible()
    strokes = mark.get_by_test_id("where").get_by_role("list", name="Strokes").get_by_role("listitem")
    expect(strokes).to_have_count(3)
    expect(mark.get_by_test_id("where")).to_contain_text("every combination was tried")
    assert violations(mark) == []
    mark.get_by_role("button", name="Take back a stroke").click()
    expect(mark.get_by_text("2 strokes")).to_be_visible()
    expect(strokes).to_have_count(2)
    mark.get_by_role("button", name="Clear").click()
    expect(answer(mark)).to_contain_text("Draw something")


def test_without_a_pen_a_sample_is_drawn_and_its_link_carries_it(mark, context, studio: Studio):
    context.grant_permissions(["clipboard-read", "clipboard-write"])
    mark.get_by_role("button", name="Edda’s").click()
    expect(headline(mark)).to_have_text("Likely Edda’s")
    mark.get_by_role("button", name="Send this case").click()
    mark.get_by_text("A link to this case is copied").wait_for()
    other = context.new_page()
    other.goto(mark.evaluate("navigator.clipboard.readText()"))
    expect(headline(other)).to_have_text("Likely Edda’s")


def test_an_author_sees_what_the_model_sees_and_its_misses(context, studio: Studio):
    page = context.new_page()
    press_sign_in(page, studio)
    page.get_by_role("link", name="Keys").wait_for()
    page.goto(f"{studio.url}/demos/how-is-the-glaze/inputs")
    sheet = page.get_by_test_id("preparation")
    sheet.get_by_label("Try a picture").set_input_files(CRAWLING)
    expect(sheet.get_by_text("Likely crawled")).to_be_visible()
    expect(sheet.get_by_alt_text("The picture as the model sees it")).to_be_visible()
    sheet.get_by_text("ways tried on known pictures").click()
    expect(sheet.get_by_text("in use")).to_have_count(1)
    known = page.get_by_test_id("known-pictures")
    known.get_by_label("Choose a zip").set_input_files(GLAZE / "known.zip")
    expect(known.get_by_text("274 of 300 right.")).to_be_visible()
    expect(known.get_by_text("said: ").first).to_be_visible()
    assert violations(page) == []
    sheet.get_by_role("combobox", name="Order", exact=True).select_option(label="blue, green, red")
    expect(page.get_by_text("Saved")).to_be_visible()
    with httpx.Client(base_url=studio.url) as visitor:
        (field,) = visitor.get("/api/v1/demos/how-is-the-glaze/page").json()["fields"]
    assert field["preparation"]["order"] == "rgb"
    page.get_by_role("button", name="Undo").click()
    expect(sheet.get_by_role("combobox", name="Order", exact=True)).to_have_value("rgb")
    samples = page.get_by_test_id("samples")
    before = samples.get_by_role("listitem").count()
    samples.get_by_label("Add pictures").set_input_files([CRAWLING, PINHOLES])
    expect(samples.get_by_role("listitem")).to_have_count(before + 2)
    expect(page.frame_locator("iframe").get_by_role("button", name="pinholes", exact=True)).to_be_visible()
    samples.get_by_role("button", name="Take away pinholes").click()
    expect(samples.get_by_role("listitem")).to_have_count(before + 1)
    samples.get_by_role("button", name="Take away crawling").click()
    expect(samples.get_by_role("listitem")).to_have_count(before)


def test_known_pictures_are_stepped_through_with_the_page_filled_in(desk_of, studio: Studio):
    page = desk_of.new_page()
    page.goto(f"{studio.url}/demos/how-is-the-glaze/checks")
    known = page.get_by_test_id("known-cases")
    expect(known.get_by_role("img")).to_be_visible()
    known.get_by_role("button", name="Show it on the page").click()
    shown = page.frame_locator("iframe")
    for number in (1, 2, 3):
        expect(known.get_by_role("status")).to_have_text(f"{number} of 300")
        # "have crawled, 86 of 100" here, "Likely crawled" there.
        answered = known.get_by_role("definition").nth(1).inner_text().split(",")[0].split()[-1]
        expect(shown.locator("#answer-heading")).to_contain_text(answered)
        page.keyboard.press("n")
    assert violations(page) == []
    page.close()
