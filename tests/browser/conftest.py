"""Debian's Chromium, headless: without the window and its own pages, which take a third of the time."""

import os
import shutil
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from ..studio import ROOT, Studio

ARGUMENTS = [
    # Chromium refuses its own sandbox to root; it only ever opens pages of ours here.
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    # A camera that shows a made-up picture, and nobody to ask whether it may be used.
    "--use-fake-device-for-media-stream",
    "--use-fake-ui-for-media-stream",
]
# Opening a model takes a few seconds, on a busy machine many; a test says what must come, never how fast. Whoever works
# on a page sets it lower, to see sooner what fails.
WAIT_MS = int(os.environ.get("PLAINWINDOW_TEST_WAIT_MS", "60000"))
expect.set_options(timeout=WAIT_MS)
AXE = ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js"


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    path = shutil.which("chromium-headless-shell")
    assert path, "the Debian package `chromium-headless-shell` is missing"
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=path, args=ARGUMENTS)
        yield browser
        browser.close()


@pytest.fixture
def context(chromium: Browser) -> Iterator[BrowserContext]:
    """A browser profile of its own, in which no page may complain."""
    context = chromium.new_context(viewport={"width": 1280, "height": 800})
    context.set_default_timeout(WAIT_MS)
    complaints: list[str] = []
    context.on("weberror", lambda error: complaints.append(str(error.error)))
    context.on("console", lambda line: complaints.append(line.text) if "Content Security Policy" in line.text else None)
    yield context
    context.close()
    assert complaints == []


@pytest.fixture
def plane(chromium: Browser) -> Iterator[BrowserContext]:
    """A browser without a network, in which no page asks for anything but its own file, or complains."""
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, offline=True)
    context.set_default_timeout(WAIT_MS)
    asked: list[str] = []
    complaints: list[str] = []
    context.on("request", lambda request: asked.append(request.url))
    context.on("weberror", lambda error: complaints.append(str(error.error)))
    context.on("console", lambda line: complaints.append(line.text) if "Content Security Policy" in line.text else None)
    yield context
    context.close()
    assert [url for url in asked if not url.startswith(("file:", "data:", "blob:"))] == []
    assert complaints == []


@pytest.fixture
def page(context: BrowserContext, studio: Studio) -> Page:
    """The sample's page, as a visitor opens it."""
    page = context.new_page()
    page.goto(f"{studio.url}/d/will-it-crack")
    page.get_by_role("button", name="Show the answer").wait_for()
    return page


@pytest.fixture(scope="module")
def desk_of(chromium: Browser, studio: Studio) -> Iterator[BrowserContext]:
    """The author's browser, signed in by a link of its own."""
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, permissions=["clipboard-read"])
    context.set_default_timeout(WAIT_MS)
    page = context.new_page()
    page.goto(studio.run("sign-in").stdout.strip().splitlines()[-1])
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("button", name="Sign out", exact=True)).to_be_visible()
    page.close()
    yield context
    context.close()


def press_sign_in(page: Page, studio: Studio) -> None:
    """Open the one-time link and press its button."""
    page.goto(studio.sign_in_link)
    page.get_by_role("button", name="Sign in").click()


def violations(page: Page) -> list[str]:
    """What axe finds wrong with the page as it is, rule by rule."""
    # Through the debugger's door: the page's own policy lets no foreign script in.
    page.evaluate(AXE.read_text("utf-8"))
    tags = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
    result = page.evaluate("tags => axe.run(document, {runOnly: tags})", tags)
    return [f"{item['id']}: {node['html'][:160]}" for item in result["violations"] for node in item["nodes"]]
