"""Films on a visitor's page: watched while they are looked at, jumped through, saved; and the camera."""

import io
import json
import re
from pathlib import Path

import av
import httpx
import pytest
from playwright.sync_api import BrowserContext, Locator, Page, expect

from ..detectors import SIDE
from ..films import film_of, sound_only
from ..studio import Studio, wait_for
from ..web.test_films import passing
from .conftest import violations

DONE = "that were asked about have an answer."
VIDEO = "v => [v.currentTime, v.videoWidth]"


@pytest.fixture
def belt(context: BrowserContext, studio: Studio) -> Page:
    page = context.new_page()
    page.goto(f"{studio.url}/d/along-the-belt")
    return page


def film_on(page: Page) -> Locator:
    return page.locator("#film")


def test_a_ready_film_is_watched_jumped_through_and_saved(belt: Page):
    section = film_on(belt)
    section.get_by_role("button", name="tiles passing").click()
    strips = section.get_by_test_id("strips")
    expect(strips).to_contain_text("cracked")
    expect(section.get_by_text(DONE)).to_be_visible()
    assert violations(belt) == []

    # A press on the strips, and the film is there; its boxes and its words are those of that moment.
    rows = strips.locator(".film-strips")
    size = rows.bounding_box()
    rows.click(position={"x": size["width"] / 2, "y": size["height"] / 2})
    moment = section.get_by_test_id("moment")
    expect(moment).to_contain_text("0:07")
    seconds, width = section.locator("video").evaluate(VIDEO)
    assert (round(seconds, 1), width) == (7.0, 320)
    said = moment.inner_text()
    n_boxes = section.locator("[data-box]").count()
    assert f"{n_boxes} tile" in said
    assert n_boxes > 1

    # By keys too, and what is switched off is nowhere.
    slider = section.get_by_label("Moment in the film")
    slider.focus()
    slider.press("End")
    # Whether its clock stops at the last frame or at the film's end is the browser's.
    expect(moment).to_contain_text(re.compile("0:1[34]"))
    slider.press("Home")
    expect(moment).to_contain_text("0:00")
    for kind in ("sound", "chipped", "cracked"):
        section.get_by_role("checkbox", name=kind).uncheck()
    expect(moment).to_contain_text("No tiles")
    expect(section.locator("[data-box]")).to_have_count(0)
    section.get_by_role("checkbox", name="cracked").check()

    # In words, each line a way to its moment.
    section.get_by_text("The film in words").click()
    line = section.get_by_role("list", name="What is said, from when on").get_by_role("button", name="1 tile").first
    line.click()
    expect(moment).to_contain_text("1 tile")

    with belt.expect_download() as saved:
        section.get_by_role("button", name="Save the film with its boxes").click()
    assert saved.value.suggested_filename == "tiles passing with boxes.mp4"
    with av.open(io.BytesIO(Path(saved.value.path()).read_bytes())) as film:
        assert (film.streams.video[0].codec_context.width, film.streams.video[0].codec_context.name) == (320, "h264")
    with belt.expect_download() as saved:
        section.get_by_role("button", name="Save the answers as a table").click()
    lines = Path(saved.value.path()).read_text("utf-8").splitlines()
    assert lines[0] == "seconds,label,score,x,y,width,height,fault"
    assert {line.split(",")[1] for line in lines[1:]} == {"cracked tile", ""}


def test_who_leaves_takes_the_film_along(belt: Page, context: BrowserContext, studio: Studio):
    section = film_on(belt)
    with belt.expect_response(lambda response: response.url.endswith("/jobs")) as sent:
        film = film_of(passing(400), codec="libx264", kind="mp4")
        section.get_by_label("Choose a film").set_input_files(
            {"name": "a.mp4", "mimeType": "video/mp4", "buffer": film}
        )
    address = f"{studio.url}/api/v1/jobs/{json.loads(sent.value.text())['id']}"
    expect(section.get_by_test_id("strips")).to_be_visible()
    assert httpx.get(address).status_code == 200
    belt.goto("about:blank")
    # Cancelled while it went on, forgotten once it was done: either way nothing of it is left.
    wait_for(lambda: httpx.get(address).status_code == 404 or _is_cancelled(address), what="the film being cancelled")
    job_id = address.rpartition("/")[2]
    assert not list((studio.home / "jobs").glob(f"{job_id}/*.frames"))


def _is_cancelled(address: str) -> bool:
    return httpx.get(address).json().get("state") == "cancelled"


def test_what_is_no_film_is_said_and_another_can_be_chosen(belt: Page):
    section = film_on(belt)
    choose = section.get_by_label("Choose a film")
    choose.set_input_files({"name": "a.mp4", "mimeType": "video/mp4", "buffer": sound_only()})
    expect(section.get_by_role("alert")).to_contain_text("has sound only, and no picture")
    # One that this browser cannot play is looked at all the same.
    film = film_of(passing(10), kind="avi", codec="mpeg2video")
    choose.set_input_files({"name": "old.avi", "mimeType": "video/x-msvideo", "buffer": film})
    expect(section.get_by_text("This browser cannot play this kind of film")).to_be_visible()
    expect(section.get_by_text(DONE)).to_be_visible()
    section.get_by_role("button", name="Make it one that this browser plays").click()
    expect(section.get_by_text("This browser cannot play this kind of film")).to_be_hidden()
    wait_for(lambda: section.locator("video").evaluate(VIDEO)[1] == SIDE[0], what="the film being played")
    section.get_by_role("button", name="Another film").click()
    expect(choose).to_be_attached()


def test_a_film_that_is_dropped_on_the_form_goes_to_its_section(belt: Page):
    film = list(film_of(passing(5), codec="libx264", kind="mp4"))
    dropped = belt.evaluate_handle(
        """(content) => {
            const data = new DataTransfer()
            data.items.add(new File([new Uint8Array(content)], 'dropped.mp4', { type: 'video/mp4' }))
            return data
        }""",
        film,
    )
    film_on(belt).get_by_role("button", name="use the camera").wait_for()
    belt.get_by_role("form").dispatch_event("drop", {"dataTransfer": dropped})
    expect(film_on(belt)).to_contain_text("dropped.mp4")
    expect(film_on(belt).get_by_text(DONE)).to_be_visible()
    expect(belt.get_by_test_id("found")).to_have_count(0)


def test_the_camera_is_answered_live_and_let_go_of(belt: Page):
    section = film_on(belt)
    section.get_by_role("button", name="use the camera").click()
    live = section.get_by_test_id("live")
    expect(live.get_by_test_id("moment")).not_to_have_text("Looking…")
    asked = "() => performance.getEntriesByType('resource').filter(one => one.name.includes('/predictions')).length"
    wait_for(lambda: belt.evaluate(asked) > 8, what="several questions")
    # One at a time, and no more than the author says: six a second, by the page's own clock.
    clock = f"() => [performance.now(), ({asked})()]"
    began, before = belt.evaluate(clock)
    belt.wait_for_timeout(2000)
    now, after = belt.evaluate(clock)
    assert after - before <= 6 * (now - began) / 1000 + 2
    assert violations(belt) == []
    live.get_by_role("button", name="Stop the camera").click()
    expect(section.get_by_text("use the camera")).to_be_visible()
    stopped = belt.evaluate(asked)
    belt.wait_for_timeout(600)
    assert belt.evaluate(asked) <= stopped + 1


def test_on_a_phone_film_and_strips_fit_its_width(belt: Page):
    belt.set_viewport_size({"width": 375, "height": 800})
    section = film_on(belt)
    section.get_by_role("button", name="tiles passing").click()
    expect(section.get_by_text(DONE)).to_be_visible()
    assert belt.evaluate("document.documentElement.scrollWidth") <= 375
    assert violations(belt) == []
