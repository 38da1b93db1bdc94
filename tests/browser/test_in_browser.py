"""A page of the server that answers in its visitor's browser: nothing entered leaves it, but by its visitor's word."""

from collections.abc import Iterator

import httpx
import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Route, expect

from ..studio import Studio
from .conftest import WAIT_MS, violations
from .test_take_away import WAS_RIGHT, as_a_visitor_does

SLUG = "will-it-crack"
LEAVES_NOTHING = "nothing you enter leaves this device"


@pytest.fixture(scope="module")
def author(studio: Studio, key: str) -> Iterator[httpx.Client]:
    with studio.client(key=key) as author:
        yield author


def answering_in_browsers(author: httpx.Client, sample: str, slug: str) -> str:
    """A sample once more, published with its page answering in browsers."""
    folder = author.get(f"/api/v1/demos/{sample}/folder").content
    brought = author.post("/api/v1/demos", files={"folder": ("again.zip", folder)}, data={"slug": slug})
    assert brought.status_code == 201, brought.text
    assert author.patch(f"/api/v1/demos/{slug}", json={"answers_in": "browser"}).status_code == 200
    assert author.post(f"/api/v1/demos/{slug}/releases", json={}).status_code in (200, 201)
    assert author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"}).status_code == 200
    return slug


@pytest.fixture(scope="module")
def slug(author: httpx.Client) -> Iterator[str]:
    """The sample once more, with its page answering in browsers."""
    yield answering_in_browsers(author, SLUG, "cracks-here")
    author.delete("/api/v1/demos/cracks-here")


@pytest.fixture
def sent(context: BrowserContext) -> list[str]:
    """What leaves the browser that is more than looking something up."""
    sent: list[str] = []
    context.on("request", lambda request: sent.append(request.url) if request.method != "GET" else None)
    return sent


def opened(context: BrowserContext, studio: Studio, slug: str) -> Page:
    page = context.new_page()
    page.goto(f"{studio.url}/d/{slug}")
    page.get_by_role("button", name="Show the answer").last.wait_for()
    return page


def where(page: Page) -> str:
    return page.get_by_test_id("where-answered").inner_text()


def test_everything_a_visitor_reads_is_what_the_server_says_and_nothing_leaves(context, studio, slug, sent):
    server = as_a_visitor_does(opened(context, studio, SLUG))
    sent.clear()
    page = opened(context, studio, slug)
    here = as_a_visitor_does(page)
    assert LEAVES_NOTHING in where(page)
    assert sent == []
    changes = server.pop("changes"), here.pop("changes")
    assert "" in changes or changes[0] == changes[1]
    assert here == {name: text.replace(WAS_RIGHT, "") for name, text in server.items()}


def test_by_its_visitors_word_the_server_answers_counts_and_is_told(context, studio, slug, sent):
    page = opened(context, studio, slug)
    page.get_by_role("button", name="Show the answer").last.click()
    expect(page.get_by_role("heading", name="Likely to come out sound")).to_be_visible()
    expect(page.get_by_text("Was this right?")).to_have_count(0)
    page.get_by_role("button", name="Let the server answer").click()
    expect(page.get_by_text("The server then gets what you enter.")).to_be_visible()
    assert sent == []
    page.get_by_role("button", name="Let it answer").click()
    expect(page.get_by_text("Was this right?")).to_be_visible()
    assert any(url.endswith(f"/{slug}/predictions") for url in sent)
    page.reload()
    expect(page.get_by_text("The server answers, and gets what you enter")).to_be_visible()
    page.get_by_role("button", name="Answer in this browser instead").click()
    expect(page.get_by_text("Was this right?")).to_have_count(0)
    sent.clear()
    page.get_by_role("radio", name="Porcelain").click()
    expect(page.get_by_text("81 of 100 pieces like this")).to_be_visible()
    assert sent == []


def test_what_cannot_be_fetched_or_is_damaged_is_said_and_nothing_is_sent(context, studio, slug, sent):
    def cut(route: Route) -> None:
        whole = route.fetch()
        route.fulfill(response=whole, body=whole.body()[:5000])

    context.route("**/browser/model*", cut)
    page = opened(context, studio, slug)
    expect(page.get_by_text("What was fetched for it is damaged.")).to_be_visible()
    expect(page.get_by_role("button", name="Check this page")).to_be_disabled()
    page.get_by_role("button", name="Show the answer").last.click()
    expect(page.get_by_text("Under the title the page says why.").last).to_be_visible()
    context.unroute("**/browser/model*")
    context.route("**/browser/model*", lambda route: route.abort())
    page.get_by_role("button", name="Try again").first.click()
    expect(page.get_by_text("could not be fetched. Check the connection.")).to_be_visible()
    assert sent == []
    context.unroute("**/browser/model*")
    page.get_by_role("button", name="Try again").first.click()
    # What was asked is answered as soon as it can be.
    expect(page.get_by_role("heading", name="Likely to come out sound")).to_be_visible()
    assert sent == []


def test_on_a_slow_line_it_says_how_far_it_is_and_offers_the_server(context, studio, slug, sent):
    held: list[Route] = []
    context.route("**/browser/model*", lambda route: held.append(route))
    page = opened(context, studio, slug)
    expect(page.get_by_role("progressbar", name="The model on its way")).to_be_visible()
    page.get_by_role("button", name="Show the answer").last.click()
    expect(page.get_by_text("The model is on its way:")).to_be_visible()
    expect(page.get_by_role("button", name="Let the server answer")).to_be_visible()
    assert sent == []
    held[0].continue_()
    expect(page.get_by_role("heading", name="Likely to come out sound")).to_be_visible()


def test_who_saves_data_is_asked_before_much_is_fetched(context, studio, slug):
    context.add_init_script("Object.defineProperty(navigator, 'connection', { value: { saveData: true } })")

    def heavier(route: Route) -> None:
        page = route.fetch().json()
        page["browser"]["bytes"] = 9_000_000
        route.fulfill(json=page)

    context.route("**/page", heavier)
    fetched: list[str] = []
    context.on("request", lambda request: fetched.append(request.url) if "/browser/" in request.url else None)
    page = opened(context, studio, slug)
    expect(page.get_by_text("That takes the model: 9.0 MB to fetch.")).to_be_visible()
    assert fetched == []
    page.get_by_role("button", name="Fetch it").click()
    page.get_by_role("button", name="Show the answer").last.click()
    expect(page.get_by_role("heading", name="Likely to come out sound")).to_be_visible()


def test_kept_on_a_device_it_opens_without_a_network_until_its_author_shuts_it(chromium: Browser, studio, slug, author):
    # A profile of its own: what was kept must go with it.
    context = chromium.new_context(viewport={"width": 375, "height": 800})
    context.set_default_timeout(WAIT_MS)
    page = opened(context, studio, slug)
    page.get_by_role("button", name="Keep it on this device").click()
    expect(page.get_by_text("It is kept here, and opens without a network.")).to_be_visible()
    page.close()
    context.set_offline(True)
    page = opened(context, studio, slug)
    page.get_by_role("button", name="Show the answer").last.click()
    expect(page.get_by_role("heading", name="Likely to come out sound")).to_be_visible()
    page.evaluate("document.querySelectorAll('details').forEach((one) => (one.open = true))")
    expect(page.get_by_role("region", name="What matters overall")).to_contain_text("Days drying")
    expect(page.get_by_text("It brings 200 cases with what the server said of them.")).to_be_visible()
    page.get_by_role("button", name="Check this page").click()
    expect(page.get_by_text("That is no more than adding in another order makes.")).to_be_visible()
    expect(page.get_by_role("button", name="Forget it here")).to_be_visible()
    page.close()
    context.set_offline(False)
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "private"})
    try:
        shut = context.new_page()
        shut.goto(f"{studio.url}/d/{slug}")
        expect(shut.get_by_role("heading", name="Will it crack?")).to_have_count(0)
        assert shut.evaluate("async () => (await caches.keys()).length") == 0
        context.set_offline(True)
        with pytest.raises(Exception, match="ERR_INTERNET_DISCONNECTED"):
            context.new_page().goto(f"{studio.url}/d/{slug}")
    finally:
        author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
        context.close()


def test_what_was_promised_holds_until_the_page_is_loaded_again(context, studio, slug, author, sent):
    context.route("**/browser/model*", lambda route: route.abort())
    page = opened(context, studio, slug)
    expect(page.get_by_text("could not be fetched. Check the connection.")).to_be_visible()
    demo = f"/api/v1/demos/{slug}"
    author.patch(demo, json={"answers_in": "server"}).raise_for_status()
    author.post(f"{demo}/releases").raise_for_status()
    try:
        # While it waits the page looks for what is newer.
        with page.expect_response("**/page"):
            page.get_by_role("button", name="Show the answer").last.click()
        expect(page.get_by_text("What you enter stays on this device meanwhile.")).to_be_visible()
        page.wait_for_timeout(1500)
        assert sent == []
        # This tab still has the case, and asks for its answer.
        page.reload()
        expect(page.get_by_role("heading", name="Likely to come out sound")).to_be_visible()
        assert any(url.endswith(f"/{slug}/predictions") for url in sent)
        expect(page.get_by_test_id("where-answered")).to_have_count(0)
    finally:
        author.patch(demo, json={"answers_in": "browser"}).raise_for_status()
        author.post(f"{demo}/releases").raise_for_status()


@pytest.mark.parametrize("width", [1280, 375])
def test_axe_finds_nothing_in_the_line_that_says_who_answers(context, studio, slug, width):
    page = opened(context, studio, slug)
    page.set_viewport_size({"width": width, "height": 800})
    page.get_by_role("button", name="Let the server answer").click()
    assert violations(page) == []
    page.get_by_role("button", name="Stay here").click()
    assert page.evaluate("document.documentElement.scrollWidth") <= width


def test_the_author_has_it_answer_in_browsers_and_reads_what_that_takes(desk_of, studio, slug):
    page = desk_of.new_page()
    page.goto(f"{studio.url}/demos/{slug}/share")
    places = page.get_by_role("group", name="Where answers are worked out")
    expect(places.get_by_role("radio", name="In visitors’ browsers")).to_be_checked()
    expect(places).to_contain_text("Whoever opens the page gets the model itself")
    expect(places.get_by_text("KB go to each browser, once")).to_be_visible()
    places.get_by_role("checkbox", name="rows of your reference table").uncheck()
    expect(places.get_by_text("no similar cases are shown")).to_be_visible()
    expect(page.frame_locator("iframe").get_by_text(LEAVES_NOTHING).first).to_be_visible()
