"""The author's pages, as a person uses them: from the one-time link to a page that others can open."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, FrameLocator, Page, expect

from ..made_models import csv, dumped, firings, regressor_pipeline
from ..studio import Studio
from .conftest import WAIT_MS, press_sign_in, violations

PASSWORD = "a kiln full of pots"


@pytest.fixture(scope="module")
def empty_studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Studio]:
    """A Plain Window that nobody has used yet."""
    studio = Studio(tmp_path_factory.mktemp("empty") / "home", command="serve")
    yield studio
    studio.stop()


@pytest.fixture(scope="module")
def signed_in(chromium: Browser, empty_studio: Studio) -> Iterator[BrowserContext]:
    """The author's browser, signed in by the one-time link, with a password set."""
    context = chromium.new_context(viewport={"width": 1280, "height": 800})
    context.set_default_timeout(WAIT_MS)
    page = context.new_page()
    press_sign_in(page, empty_studio)
    page.get_by_label("New password").fill(PASSWORD)
    page.get_by_role("button", name="Set password").click()
    expect(page.get_by_text("The shelf is empty.")).to_be_visible()
    page.close()
    yield context
    context.close()


@pytest.fixture
def desk(signed_in: BrowserContext, empty_studio: Studio) -> Iterator[Page]:
    page = signed_in.new_page()
    page.goto(empty_studio.url)
    yield page
    page.close()


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """What an author has lying about after training."""
    folder = tmp_path_factory.mktemp("trained")
    table = firings()
    (folder / "firing.joblib").write_bytes(dumped(regressor_pipeline(table)))
    (folder / "firings.csv").write_bytes(csv(table.drop(columns="outcome")))
    (folder / "other.csv").write_bytes(
        csv(table.drop(columns="outcome").rename(columns={"peak": "Peak", "kiln": "oven"}))
    )
    (folder / "glaze.png").write_bytes(b"\x89PNG\r\n\x1a\n")
    return folder


@pytest.fixture(scope="module")
def firing(signed_in: BrowserContext, empty_studio: Studio, files: Path) -> str:
    """A demo brought through the form; its address."""
    page = signed_in.new_page()
    page.goto(f"{empty_studio.url}/new")
    _bring(page, files / "firing.joblib", files / "firings.csv", title="What will this firing use?")
    page.wait_for_url("**/demos/what-will-this-firing-use")
    page.close()
    return f"{empty_studio.url}/demos/what-will-this-firing-use"


def _bring(page: Page, model: Path, reference: Path, *, title: str) -> None:
    page.get_by_label("Model file").set_input_files(model)
    page.get_by_label("Reference table").set_input_files(reference)
    page.get_by_label("Title").fill(title)
    page.get_by_role("button", name="Open the model").click()


def preview(page: Page) -> FrameLocator:
    return page.frame_locator("iframe")


def test_the_empty_shelf_offers_a_sample_and_deleting_can_be_undone(desk):
    desk.get_by_role("button", name="open a sample").click()
    desk.wait_for_url("**/demos/will-it-crack")
    expect(preview(desk).get_by_role("heading", name="Will it crack?")).to_be_visible()
    desk.get_by_role("link", name="Plain Window").click()
    expect(desk.get_by_text("Draft, not published")).to_be_visible()
    desk.get_by_role("button", name="Delete Will it crack?").click()
    desk.get_by_role("button", name="Close the page and delete?").click()
    expect(desk.get_by_role("link", name="Will it crack?")).to_have_count(0)
    desk.get_by_role("button", name="Undo").click()
    expect(desk.get_by_role("link", name="Will it crack?")).to_be_visible()


def test_a_model_that_cannot_be_used_says_why_and_leaves_the_shelf_as_it_was(desk, files):
    desk.get_by_role("link", name="Bring a model").click()
    _bring(desk, files / "glaze.png", files / "firings.csv", title="A picture")
    expect(desk.get_by_role("alert")).to_contain_text("The model file is a picture, not a model")
    _bring(desk, files / "firing.joblib", files / "other.csv", title="Other names")
    expect(desk.get_by_role("alert")).to_contain_text("Column 1 of the model is `kiln`")
    expect(desk.get_by_role("alert")).to_contain_text("It has `Peak`, which differs only in case")
    desk.get_by_role("link", name="Back to the shelf").click()
    expect(desk.get_by_text("Other names")).to_have_count(0)


def test_inferred_fields_are_edited_in_place_and_shown_at_once(desk, firing):
    desk.goto(firing)
    row = desk.locator('li[data-field="pots"]')
    expect(row.get_by_label("Label")).to_have_value("Pots")
    row.get_by_role("button", name="More of").click()
    row.get_by_label("Label").fill("Pots in the kiln")
    row.get_by_label("Unit").fill("pots")
    row.get_by_label("Help").fill("Count the shelves.")
    row.get_by_label("Group").fill("Load")
    row.get_by_label("To", exact=True).fill("80")
    row.get_by_label("Starts at").fill("30")
    row.get_by_label("Starts at").press("Enter")
    page = preview(desk)
    expect(page.get_by_role("textbox", name="Pots in the kiln")).to_have_value("30")
    expect(page.get_by_role("slider", name="Pots in the kiln")).to_have_attribute("max", "80")
    expect(page.get_by_text("Count the shelves.")).to_be_visible()
    expect(page.get_by_role("heading", name="Load")).to_be_visible()


def test_a_setting_that_does_not_fit_is_said_under_it_and_undo_goes_back(desk, firing):
    desk.goto(firing)
    row = desk.locator('li[data-field="peak"]')
    row.get_by_role("button", name="More of").click()
    row.get_by_label("From", exact=True).fill("9999")
    row.get_by_label("From", exact=True).press("Enter")
    expect(row.get_by_role("alert")).to_contain_text("must be below `maximum`")
    row.get_by_label("Label").fill("Top temperature")
    row.get_by_label("Label").press("Enter")
    expect(preview(desk).get_by_role("textbox", name="Top temperature")).to_be_visible()
    desk.get_by_role("button", name="Undo").click()
    expect(row.get_by_label("Label")).to_have_value("Peak")
    expect(preview(desk).get_by_role("textbox", name="Peak", exact=True)).to_be_visible()


def test_fields_are_reordered_for_reading_only(desk, firing, empty_studio):
    desk.goto(firing)
    rows = desk.locator("li[data-field]")
    expect(rows).to_have_count(4)
    before = rows.evaluate_all("rows => rows.map(row => row.dataset.field)")
    handle = desk.get_by_role("button", name="Order of Reduced")
    handle.press("ArrowUp")
    expect(rows.nth(before.index("reduced") - 1)).to_have_attribute("data-field", "reduced")
    # The handle moves along with its row, and keeps the keys.
    expect(handle).to_be_focused()
    handle.press("Home")
    expect(rows.first).to_have_attribute("data-field", "reduced")
    rows.first.get_by_role("button", name="Order of").drag_to(rows.nth(1).get_by_role("button", name="Order of"))
    expect(rows.nth(1)).to_have_attribute("data-field", "reduced")
    for _ in range(3):
        desk.get_by_role("button", name="Undo").click()
    expect(rows.last).to_have_attribute("data-field", before[-1])
    expect(rows).to_have_count(4)


def test_a_published_demo_opens_for_others_as_its_author_says(desk, firing, chromium, empty_studio):
    desk.goto(f"{firing}/share")
    desk.get_by_label("Purpose, in one sentence").fill("Before you light the kiln.")
    desk.get_by_label("Purpose, in one sentence").press("Enter")
    desk.get_by_role("button", name="Publish version 1").click()
    expect(desk.get_by_text("Visitors see version 1, which is this draft.")).to_be_visible()
    other = chromium.new_context()
    other.set_default_timeout(WAIT_MS)
    guest = other.new_page()
    public = f"{empty_studio.url}/d/what-will-this-firing-use"

    guest.goto(public)
    expect(guest.get_by_role("heading", name="There is nothing here")).to_be_visible()

    desk.get_by_role("radio", name="Secret link").click()
    expect(desk.get_by_role("heading", name="Secret links")).to_be_visible()
    expect(desk.get_by_test_id("address")).to_contain_text("/l/")
    link = desk.get_by_test_id("address").inner_text()
    guest.goto(link)
    guest.get_by_role("button", name="Show the answer").click()
    expect(guest.locator("#answer h2")).to_be_visible()
    expect(guest.get_by_text("Before you light the kiln.")).to_be_visible()

    desk.get_by_role("radio", name="Only me").click()
    expect(desk.get_by_test_id("address")).to_have_text(public)
    guest.goto(link)
    expect(guest.get_by_role("heading", name="There is nothing here")).to_be_visible()

    desk.get_by_role("radio", name="Passcode").click()
    desk.get_by_label("Passcode, at least 6 characters").fill("celadon")
    desk.get_by_role("button", name="Set passcode").click()
    expect(desk.get_by_role("button", name="Set passcode")).to_have_count(0)
    guest.goto(public)
    guest.get_by_label("Passcode").fill("oxblood")
    guest.get_by_role("button", name="Open").click()
    expect(guest.get_by_role("alert")).to_contain_text("That is not the passcode")
    guest.get_by_label("Passcode").fill("celadon")
    guest.get_by_role("button", name="Open").click()
    expect(guest.get_by_role("heading", name="What will this firing use?")).to_be_visible()

    desk.get_by_role("radio", name="Everyone").click()
    expect(desk.locator("footer")).to_contain_text("open to everyone")
    stranger = chromium.new_context()
    page = stranger.new_page()
    page.goto(public)
    page.get_by_role("textbox", name="Pots").fill("58")
    expect(page.locator("#answer h2")).to_be_visible()
    stranger.close()
    other.close()


@pytest.mark.parametrize("place", ["model", "inputs", "answer", "share"])
def test_the_frame_is_the_windows_height_however_it_is_scrolled(desk, firing, place):
    """Rail and sill stay where they are for a wheel, and for whatever asks to be seen."""
    desk.goto(f"{firing}/{place}")
    sill = desk.get_by_role("link", name="Open the draft by itself")
    expect(sill).to_be_in_viewport()
    before = sill.bounding_box()
    desk.locator("main *").last.evaluate("one => one.scrollIntoView({block: 'start'})")
    desk.mouse.move(300, 400)
    desk.mouse.wheel(0, 5000)
    desk.keyboard.press("End")
    assert desk.locator("main").evaluate("one => one.scrollHeight <= one.clientHeight || one.scrollTop > 0")
    assert sill.bounding_box() == before
    moved = "[...document.querySelectorAll('*')].filter((one) => one.scrollTop && one.tagName !== 'MAIN').length"
    assert desk.evaluate(moved) == 0


def test_the_author_signs_out_and_in_again(chromium, empty_studio, signed_in):
    context = chromium.new_context()
    page = context.new_page()
    press_sign_in(page, empty_studio)
    expect(page.get_by_text("This link was used before")).to_be_visible()
    page.get_by_role("link", name="Sign in with your password").click()
    page.get_by_label("Name").fill("studio")
    page.get_by_label("Password").fill("not this one")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("do not belong together")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("heading", name="Your demos")).to_be_visible()
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    context.close()


def test_a_key_is_made_shown_once_and_revoked(desk, empty_studio):
    desk.get_by_role("link", name="Keys").click()
    desk.get_by_label("What it is for").fill("the kiln's clock")
    desk.get_by_role("button", name="Make a key").click()
    key = desk.get_by_role("status").locator("code").inner_text()
    row = desk.get_by_role("listitem").filter(has_text="the kiln's clock")
    expect(row).to_contain_text("never used")
    with empty_studio.client(key=key) as program:
        assert program.get("/api/v1/demos").status_code == 200
        desk.reload()
        expect(row).to_contain_text("used just now")
        expect(desk.get_by_text(key)).to_have_count(0)
        row.get_by_role("button", name="Revoke the kiln's clock").click()
        row.get_by_role("button", name="Programs with it stop working. Revoke?").click()
        expect(row).to_have_count(0)
        assert program.get("/api/v1/demos").status_code == 401


@pytest.mark.parametrize(
    "place", ["", "/new", "/password", "/keys", "/sign-in/used", "model", "inputs", "answer", "share"]
)
@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_axe_finds_nothing(desk, firing, empty_studio, place, scheme):
    desk.emulate_media(color_scheme=scheme, reduced_motion="reduce")
    desk.goto(f"{firing}/{place}" if place and not place.startswith("/") else f"{empty_studio.url}{place}")
    desk.get_by_role("heading").first.wait_for()
    desk.wait_for_load_state("networkidle")
    assert violations(desk) == []


# Last: it ends the session that the others here use.
def test_signing_out_everywhere_ends_other_browsers_too(chromium, empty_studio):
    browsers = [chromium.new_context() for _ in range(2)]
    pages = [browser.new_page() for browser in browsers]
    for page in pages:
        page.goto(empty_studio.run("sign-in").stdout.strip())
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("link", name="Password")).to_be_visible()
    pages[0].get_by_role("link", name="Password").click()
    pages[0].get_by_role("button", name="Sign out everywhere").click()
    expect(pages[0].get_by_label("Name")).to_be_visible()
    pages[1].reload()
    expect(pages[1].get_by_label("Name")).to_be_visible()
    for browser in browsers:
        browser.close()
