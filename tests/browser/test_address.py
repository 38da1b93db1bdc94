"""Links to a case, back, forward and reload, and what can be taken back."""

import re

from playwright.sync_api import Page, expect

from ..studio import USUAL_PIECE
from ..web.helpers import bring
from .test_adding_up import fragment_of
from .test_visitor import answer, marks, wall, words_for


def test_the_address_follows_the_case_and_a_reload_brings_it_back_with_what_was_kept(page, visitor):
    wall(page).fill("14")
    expect(marks(page)).to_be_visible()
    page.get_by_role("button", name="Keep to compare").click()
    wall(page).fill("12")
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=12))
    expect(page).to_have_url(re.compile("#case="))
    first = page.url
    wall(page).fill("11")
    page.wait_for_url(lambda address: address != first)
    page.wait_for_timeout(1000)
    page.reload()
    expect(wall(page)).to_have_value("11")
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=11))
    expect(page.get_by_role("region", name="Kept answers, as a table")).to_contain_text("14 mm")


def test_a_link_pasted_into_the_open_tab_opens_its_case_and_back_leads_back(page, visitor):
    wall(page).fill("14")
    expect(page).to_have_url(re.compile("#case="))
    page.evaluate("fragment => { location.hash = fragment }", fragment_of({**USUAL_PIECE, "wall_mm": 9.5}))
    expect(wall(page)).to_have_value("9.5")
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=9.5))
    page.go_back()
    expect(wall(page)).to_have_value("14")
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=14))
    page.go_forward()
    expect(wall(page)).to_have_value("9.5")


def test_back_leads_from_a_ready_case_to_what_stood_before_and_out_of_the_page_and_in_again(page, studio):
    page.get_by_role("button", name="A thick vase in a hurry").click()
    expect(marks(page)).to_be_visible()
    vase = wall(page).input_value()
    page.go_back()
    expect(answer(page)).to_contain_text("What is your case?")
    page.go_forward()
    expect(wall(page)).to_have_value(vase)
    page.wait_for_timeout(1000)
    page.goto(f"{studio.url}/healthz")
    page.go_back()
    expect(wall(page)).to_have_value(vase)
    expect(marks(page)).to_be_visible()


def test_the_link_to_what_can_be_trusted_leaves_the_case_alone(page):
    wall(page).fill("14")
    expect(page).to_have_url(re.compile("#case="))
    address = page.url
    page.get_by_role("link", name="How far to trust it").click()
    expect(page.locator("#trust")).to_be_in_viewport()
    expect(page.locator("#trust")).to_be_focused()
    assert page.url == address
    expect(wall(page)).to_have_value("14")


def test_starting_again_can_be_taken_back(page, visitor):
    wall(page).fill("14")
    expect(marks(page)).to_be_visible()
    page.get_by_role("button", name="Start again").click()
    expect(answer(page)).to_contain_text("What is your case?")
    expect(wall(page)).to_have_value("7.6")
    page.get_by_role("button", name="Undo").click()
    expect(wall(page)).to_have_value("14")
    expect(marks(page)).to_have_attribute("aria-label", words_for(visitor, wall_mm=14))


def test_a_picture_of_ones_own_comes_back_after_a_reload_but_not_in_a_link(context, studio):
    page: Page = context.new_page()
    page.goto(f"{studio.url}/d/how-is-the-glaze")
    page.get_by_role("button", name="Bare patches").click()
    expect(page.locator("#answer-heading")).to_have_text("Likely crawled")
    with page.expect_download() as download:
        page.evaluate(
            """async () => {
              const image = document.querySelector('.small-panes img')
              const link = document.createElement('a')
              link.href = image.src
              link.download = 'tile.jpg'
              link.click()
            }"""
        )
    own = download.value.path()
    page.set_input_files("input[type=file]", {"name": "own.jpg", "mimeType": "image/jpeg", "buffer": own.read_bytes()})
    expect(page.locator("#answer-heading")).to_have_text("Likely blisters")
    page.wait_for_timeout(1200)
    page.reload()
    expect(page.locator("#answer-heading")).to_have_text("Likely blisters")
    expect(page.get_by_role("img", name="Your picture", exact=True)).to_be_visible()


def test_back_from_a_page_that_was_loaded_anew_finds_each_case_of_before(page):
    page.get_by_role("button", name="A thick vase in a hurry").click()
    expect(marks(page)).to_be_visible()
    vase = wall(page).input_value()
    page.wait_for_timeout(1000)
    page.reload()
    expect(wall(page)).to_have_value(vase)
    page.get_by_role("button", name="Start again").click()
    page.get_by_role("button", name="A mug, well dried").click()
    mug = wall(page).input_value()
    assert mug != vase
    page.go_back()
    expect(answer(page)).to_contain_text("What is your case?")
    page.go_back()
    expect(wall(page)).to_have_value(vase)
    page.go_back()
    expect(answer(page)).to_contain_text("What is your case?")
    expect(wall(page)).to_have_value("7.6")
    for _ in range(3):
        page.go_forward()
    expect(wall(page)).to_have_value(mug)


def test_an_answer_kept_from_an_older_version_says_so_beside_the_newer(context, studio, author):
    slug = bring(author, title="Versions").json()["slug"]
    author.post(f"/api/v1/demos/{slug}/releases")
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
    page = context.new_page()
    page.goto(f"{studio.url}/d/{slug}")
    page.get_by_role("button", name="Show the answer").click()
    page.get_by_role("button", name="Keep to compare").click()
    kept = page.get_by_role("region", name="Kept answers, as a table")
    expect(kept).not_to_contain_text("of version")
    page.wait_for_timeout(1000)
    author.patch(f"/api/v1/demos/{slug}", json={"purpose": "Another page."})
    author.post(f"/api/v1/demos/{slug}/releases")
    page.reload()
    expect(kept.get_by_role("columnheader", name="Kept 1")).to_contain_text("of version 1")
