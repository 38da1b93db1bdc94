"""By thumb, by key and by ear: touch, focus, what is announced, what stays in sight and what must not move."""

import re
import time

import pytest
from playwright.sync_api import BrowserContext, Page, Route, expect

from ..studio import Studio
from .conftest import violations
from .test_visitor import answer, marks, wall

SAMPLES = ["will-it-crack", "what-will-this-firing-use", "what-went-wrong", "whose-mark-is-it", "how-is-the-glaze"]
# Layout shifts that no press of a finger or key brought about, as the browser counts them.
SHIFTS = """
window.shifts = []
new PerformanceObserver((list) => {
  for (const entry of list.getEntries())
    if (!entry.hadRecentInput && entry.value > 0.0001)
      window.shifts.push([entry.value, ...entry.sources.map(({ node }) => node?.outerHTML?.slice(0, 90))])
}).observe({ type: 'layout-shift', buffered: true })
"""
# Longer than the time in which the browser puts what moves down to a press: what comes then must find its room waiting.
LATE_MS = 700


def open_sample(context: BrowserContext, studio: Studio, slug: str, **viewport: int) -> Page:
    page = context.new_page()
    if viewport:
        page.set_viewport_size(viewport)
    page.add_init_script(SHIFTS)
    page.goto(f"{studio.url}/d/{slug}")
    page.locator("#answer-heading").wait_for()
    return page


def ask(page: Page) -> None:
    """An answer, however this page is asked."""
    button = page.get_by_role("button", name="Show the answer").locator("visible=true")
    if button.count():
        button.first.click()
    elif page.locator(".small-panes button").count():
        page.locator(".small-panes button").first.click()
    else:
        page.get_by_role("button", name="Edda’s").or_(
            page.get_by_role("button", name="A bang in the night")
        ).first.click()
    page.get_by_text("Was this right?").wait_for()


@pytest.fixture
def phone(chromium, studio) -> Page:
    context = chromium.new_context(viewport={"width": 375, "height": 740}, has_touch=True, is_mobile=True)
    page = open_sample(context, studio, "will-it-crack")
    yield page
    context.close()


def swipe(page: Page, start: tuple[float, float], end: tuple[float, float]) -> None:
    """A finger that comes down, moves and is lifted, as the browser gets it from a screen."""
    devtools = page.context.new_cdp_session(page)

    def touch(kind: str, *points: tuple[float, float]) -> None:
        devtools.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y} for x, y in points]})

    touch("touchStart", start)
    for step in range(1, 11):
        touch("touchMove", tuple(one + (other - one) * step / 10 for one, other in zip(start, end, strict=True)))
        page.wait_for_timeout(16)
    touch("touchEnd")
    page.wait_for_timeout(250)


def test_a_swipe_that_begins_on_a_slider_scrolls_and_leaves_its_value(phone):
    ask(phone)
    slider = phone.get_by_role("slider", name="Wall thickness")
    slider.scroll_into_view_if_needed()
    box = slider.bounding_box()
    before, top = wall(phone).input_value(), phone.evaluate("scrollY")
    x, y = box["x"] + box["width"] * 0.8, box["y"] + box["height"] / 2
    swipe(phone, (x, y), (x + 3, y - 250))
    assert phone.evaluate("scrollY") > top + 100
    assert wall(phone).input_value() == before
    # A finger that moves across means the slider.
    slider.scroll_into_view_if_needed()
    box = slider.bounding_box()
    y = box["y"] + box["height"] / 2
    swipe(phone, (box["x"] + box["width"] * 0.3, y), (box["x"] + box["width"] * 0.8, y))
    assert float(wall(phone).input_value()) > 12


def test_a_tap_on_a_slider_sets_it(phone):
    slider = phone.get_by_role("slider", name="Wall thickness")
    slider.scroll_into_view_if_needed()
    box = slider.bounding_box()
    phone.touchscreen.tap(box["x"] + box["width"] * 0.8, box["y"] + box["height"] / 2)
    expect(marks(phone)).to_be_attached()
    assert 13 < float(wall(phone).input_value()) < 17


def settle(page) -> None:
    """Wait until nothing is asked for, nothing is marked as busy, and what came has been drawn."""
    page.evaluate(
        """() => new Promise((settled) => {
          let quiet = 0, seen = -1
          const look = () => {
            const asked = performance.getEntriesByType('resource').length
            const isBusy = document.querySelector('[aria-busy=true]') !== null
            quiet = isBusy || asked !== seen ? 0 : quiet + 1
            seen = asked
            if (quiet > 24) settled()
            else requestAnimationFrame(look)
          }
          look()
        })"""
    )


def answer_late(context: BrowserContext) -> None:
    """Everything that the server says comes late, as from far away or from a busy machine."""

    def wait(call: Route) -> None:
        time.sleep(LATE_MS / 1000)
        call.continue_()

    context.route("**/api/**", wait)


@pytest.mark.parametrize("slug", SAMPLES)
@pytest.mark.parametrize("size", [(1280, 800), (375, 740)])
def test_nothing_moves_while_a_page_loads_and_first_answers_however_late(context, studio, slug, size):
    answer_late(context)
    page = open_sample(context, studio, slug, width=size[0], height=size[1])
    settle(page)
    ask(page)
    settle(page)
    assert page.evaluate("window.shifts") == []


def test_letters_that_come_late_move_nothing(context, studio):
    page = context.new_page()
    page.add_init_script(SHIFTS)
    held: list[Route] = []
    page.route("**/*.woff2", lambda letters: held.append(letters))
    page.goto(f"{studio.url}/d/will-it-crack", wait_until="commit")
    page.locator("#answer-heading").wait_for()
    assert held
    for letters in held:
        letters.continue_()
    page.evaluate("async () => { await document.fonts.ready }")
    settle(page)
    assert page.evaluate("window.shifts") == []


@pytest.mark.parametrize("slug", SAMPLES)
def test_there_is_room_for_a_finger(chromium, studio, slug):
    context = chromium.new_context(viewport={"width": 375, "height": 740}, has_touch=True, is_mobile=True)
    page = open_sample(context, studio, slug)
    ask(page)
    settle(page)
    small = page.evaluate(
        """() => {
          const query = 'button, select, [role=radio], input:not([type=file]), a[href], summary'
          const all = document.querySelectorAll(query)
          const isSeen = (one) => one.checkVisibility() && !one.matches('.sr-only, [aria-hidden=true]')
          return [...all].filter(isSeen).flatMap((one) => {
            const box = (one.closest('label') ?? one).getBoundingClientRect()
            // What stands within a sentence is as high as its line.
            const least = one.closest('p, dd, li > span') ? 24 : 43.5
            return box.height < least || box.width < 24 ? [[one.outerHTML.slice(0, 90), box.width, box.height]] : []
          })
        }"""
    )
    assert small == []
    context.close()


@pytest.mark.parametrize("size", [(1280, 800), (375, 740)])
def test_nothing_moves_while_the_page_loads_answers_and_is_dragged(context, studio, size):
    page = open_sample(context, studio, "will-it-crack", width=size[0], height=size[1])
    settle(page)
    assert page.evaluate("window.shifts") == []
    ask(page)
    slider = page.get_by_role("slider", name="Wall thickness")
    slider.scroll_into_view_if_needed()
    expect(page.get_by_role("img", name=re.compile("If only Wall thickness"))).to_be_visible()
    settle(page)
    box = slider.bounding_box()
    y = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + box["width"] * 0.31, y)
    page.mouse.down()
    for share in (0.9, 0.1, 0.99, 0.02, 0.6):
        page.mouse.move(box["x"] + box["width"] * share, y, steps=12)
        page.wait_for_timeout(700)
    assert page.evaluate("window.shifts") == []
    page.mouse.up()


def test_headline_marks_and_actions_stay_in_sight_at_the_last_field(context, studio):
    page = open_sample(context, studio, "will-it-crack", width=1280, height=800)
    ask(page)
    last = page.get_by_role("slider", name="Hours cooling")
    last.evaluate("one => one.scrollIntoView({block: 'center'})")
    for one in (page.locator("#answer-heading"), marks(page), page.get_by_role("button", name="Start again")):
        expect(one).to_be_in_viewport(ratio=1)


@pytest.mark.parametrize("slug", SAMPLES)
def test_nothing_is_wider_than_the_screen(context, studio, slug):
    page = open_sample(context, studio, slug, width=375, height=740)
    ask(page)
    if page.get_by_role("button", name="Keep to compare").count():
        page.get_by_role("button", name="Keep to compare").click()
    for summary in page.locator("summary").all():
        if summary.is_visible():
            summary.click()
    # 320 px, and what 1280 px is at 200 and at 400 %; then with text set as wide as somebody may need it.
    for width in (320, 640, 375):
        page.set_viewport_size({"width": width, "height": 700})
        assert page.evaluate("document.documentElement.scrollWidth") <= width
    page.evaluate(
        """() => {
          const sheet = new CSSStyleSheet()
          sheet.replaceSync(
            '* { line-height: 1.5 !important; letter-spacing: 0.12em !important; word-spacing: 0.16em !important }'
          )
          document.adoptedStyleSheets.push(sheet)
        }"""
    )
    assert page.evaluate("document.documentElement.scrollWidth") <= 375
    # What happens to lie half under the strip would be taken for small.
    page.evaluate("scrollTo(0, 0)")
    assert violations(page) == []


def test_contrast_over_a_tile_is_decided(context, studio):
    """No word stands on a picture, where its contrast would depend on what was photographed."""
    page = open_sample(context, studio, "how-is-the-glaze", width=1280, height=800)
    ask(page)
    page.get_by_test_id("where").wait_for()
    assert violations(page) == []
    assert (
        page.evaluate("axe.run(document, {runOnly: ['color-contrast']}).then((found) => found.incomplete.length)") == 0
    )


@pytest.mark.parametrize("slug", SAMPLES)
def test_axe_finds_nothing_in_forced_colours(chromium, studio, slug):
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, forced_colors="active")
    page = open_sample(context, studio, slug)
    ask(page)
    assert violations(page) == []
    context.close()


# --- keys and focus ---------------------------------------------------------------------------------------------------


def focused(page: Page) -> str:
    """What has the focus: its name for a screen reader, or its text; "BODY" if it is lost."""
    return page.evaluate(
        """() => {
          const one = document.activeElement
          if (!one || one === document.body) return 'BODY'
          const by = one.getAttribute('aria-labelledby')
          const name = one.getAttribute('aria-label') ?? (by && document.getElementById(by)?.innerText)
          return name ?? one.innerText ?? one.tagName
        }"""
    )


def from_the_top(page: Page) -> None:
    """The same answer on a page that was loaded anew, on which nothing has the focus yet."""
    page.wait_for_timeout(1200)
    page.reload()
    page.get_by_text("Was this right?").wait_for()


def press(page: Page, name: str) -> None:
    """A button, by keys."""
    button = page.get_by_role("button", name=name).locator("visible=true").first
    button.focus()
    page.keyboard.press("Enter")


def test_the_focus_is_never_lost_on_a_page_of_fields(page):
    press(page, "Show the answer")
    expect(marks(page)).to_be_visible()
    assert focused(page).startswith("Likely")
    press(page, "Try it")
    page.wait_for_timeout(900)
    assert focused(page) != "BODY"
    press(page, "Keep to compare")
    press(page, "Drop kept 1")
    page.wait_for_timeout(100)
    assert focused(page) != "BODY"
    press(page, "Undo")
    page.wait_for_timeout(200)
    assert focused(page) != "BODY"
    press(page, "Start again")
    expect(answer(page)).to_contain_text("What is your case?")
    assert focused(page) != "BODY"
    # Somebody who lets go on purpose is left alone.
    page.mouse.click(5, 400)
    assert focused(page) == "BODY"


def test_the_focus_is_never_lost_on_a_page_of_a_picture(context, studio):
    page = open_sample(context, studio, "how-is-the-glaze")
    page.locator(".small-panes button").first.focus()
    page.keyboard.press("Enter")
    expect(answer(page)).to_contain_text("Was this right?")
    for way in ("From a link", "Draw one", "Take one", "Cut out"):
        press(page, way)
        page.wait_for_timeout(150)
        assert focused(page) != "BODY", way
        page.keyboard.press("Escape")
        page.wait_for_timeout(150)
        assert focused(page) != "BODY", way
        expect(page.get_by_role("button", name="Turn")).to_be_visible()
    press(page, "Cut out")
    frame = page.get_by_test_id("cut")
    expect(frame).to_be_focused()
    assert frame.get_attribute("aria-label").endswith("all of the picture")
    for _ in range(10):
        page.keyboard.press("Shift+ArrowLeft")
    assert frame.get_attribute("aria-label").endswith("from 0 across and 0 down, 80 wide and 100 high, of 100")
    assert float(frame.evaluate("one => parseFloat(getComputedStyle(one).outlineWidth)")) >= 2
    page.keyboard.press("Enter")
    page.wait_for_timeout(300)
    assert focused(page) != "BODY"
    press(page, "Take away")
    page.wait_for_timeout(100)
    assert focused(page) != "BODY"


def test_the_focus_is_never_lost_on_a_sheet(context, studio):
    page = open_sample(context, studio, "whose-mark-is-it")
    press(page, "Edda’s")
    expect(answer(page)).to_contain_text("Was this right?")
    sheet = page.get_by_role("img", name=re.compile("^The mark"))
    assert re.search(r": \d+ strokes$", sheet.get_attribute("aria-label"))
    press(page, "Take back a stroke")
    assert focused(page) != "BODY"
    press(page, "Clear")
    page.wait_for_timeout(200)
    assert focused(page) != "BODY"
    expect(page.get_by_role("img", name="The mark: nothing drawn yet")).to_be_visible()
    expect(page.get_by_text("Without a pen, try")).to_be_visible()


@pytest.mark.parametrize("slug", SAMPLES)
@pytest.mark.parametrize("width", [1280, 375])
def test_every_page_can_be_walked_by_keys_and_nothing_sticks_over_the_focus(context, studio, slug, width):
    page = open_sample(context, studio, slug, width=width, height=800)
    ask(page)
    from_the_top(page)
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="Skip to the answer")).to_be_focused()
    walked: list[str] = []
    for _ in range(120):
        page.keyboard.press("Tab")
        found = page.evaluate(
            """async () => {
              // The browser scrolls to what has the focus with its next frame.
              await new Promise((go) => requestAnimationFrame(() => requestAnimationFrame(go)))
              const one = document.activeElement
              if (!one || one === document.body) return null
              const isNew = !one.dataset.walked
              one.dataset.walked = 'yes'
              const box = one.getBoundingClientRect()
              const [x, y] = [box.x + box.width / 2, box.y + Math.min(box.height / 2, 12)]
              const top = document.elementFromPoint(Math.min(innerWidth - 1, Math.max(0, x)), y)
              const isSeen = !!top && (one.contains(top) || top.contains(one) || one.labels?.[0]?.contains(top))
              return { name: one.outerHTML.slice(0, 120), isSeen, isNew, y: box.y }
            }"""
        )
        # Around once, and nothing was stood on twice.
        if found is None or not found["isNew"]:
            break
        assert found["isSeen"], found
        walked.append(found["name"])
    assert 8 < len(walked) < 120
    assert found is None, found
    tree = page.locator("body").aria_snapshot()
    assert not re.search(r"- (button|link|slider|textbox|combobox|checkbox)\s*(\[.*\])?\s*$", tree, re.MULTILINE), tree


def test_skipping_to_the_answer_takes_the_focus_there(page):
    ask(page)
    from_the_top(page)
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.locator("#answer")).to_be_focused()


def test_a_screen_reader_hears_only_what_changed_once_the_hand_rests(page):
    told = page.get_by_test_id("announcement")
    # All within the page: a test that is slow to type rests between two numbers itself.
    heard = wall(page).evaluate(
        """async (input, values) => {
            const told = document.querySelector('[data-testid=announcement]')
            const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
            const heard = []
            for (const value of values) {
                set.call(input, value)
                input.dispatchEvent(new Event('input', { bubbles: true }))
                await new Promise((done) => setTimeout(done, 120))
                heard.push(told.innerText)
            }
            return heard
        }""",
        ["9", "10", "11", "12", "14"],
    )
    assert heard == [""] * 5
    expect(told).to_have_text(re.compile(r"Likely to [\w ]+: \d+ of 100$"))
    wall(page).fill("13")
    expect(told).to_have_text(re.compile(r"^Now \d+ of 100$"))
    wall(page).fill("thick")
    expect(told).to_contain_text("Wall thickness must be a number")
    described = wall(page).get_attribute("aria-describedby")
    assert any("thick" in page.locator(f"#{one}").inner_text() for one in described.split())


def test_the_key_that_keeps_can_be_switched_off_and_is_a_letter_where_one_types(page):
    ask(page)
    kept = page.get_by_role("region", name="Kept answers, as a table")
    wall(page).focus()
    page.keyboard.press("k")
    expect(kept).to_have_count(0)
    wall(page).fill("9")
    expect(marks(page)).to_be_visible()
    expect(page.get_by_role("button", name="Keep to compare")).to_have_attribute("aria-disabled", "false")
    page.get_by_role("slider", name="Wall thickness").focus()
    page.keyboard.press("k")
    expect(kept).to_have_count(1)
    page.get_by_role("checkbox", name="The key K keeps the answer").click()
    page.get_by_role("button", name="Drop kept 1").click()
    page.get_by_role("slider", name="Wall thickness").focus()
    page.keyboard.press("k")
    expect(kept).to_have_count(0)


# --- as people write numbers ------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("typed", "value"), [("1,240", 1240), ("1 240", 1240), ("1240 °C", 1240), ("1240°C", 1240), ("1’240", 1240)]
)
def test_numbers_are_read_as_people_write_them(page, typed, value):
    page.get_by_role("textbox", name="Peak temperature").fill(typed)
    expect(page.get_by_test_id("echo")).to_contain_text(f"{value} °C")
    expect(page.locator("[data-field=peak_temp]")).not_to_contain_text("below")


def test_where_a_number_has_two_readings_the_page_asks(chromium, studio):
    context = chromium.new_context(locale="de-DE")
    page = open_sample(context, studio, "will-it-crack")
    page.get_by_role("textbox", name="Peak temperature").fill("1,240")
    expect(page.locator("[data-field=peak_temp]")).to_contain_text("may be 1240 or 1.24")
    page.get_by_role("textbox", name="Peak temperature").fill("1240,5")
    expect(page.get_by_test_id("echo")).to_contain_text("1240.5 °C")
    context.close()
