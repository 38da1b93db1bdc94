"""A demo whose model stays in its author's process: what visitors and the author see of it when that goes and comes."""

import re
import sys
from collections.abc import Iterator
from typing import Annotated

import httpx
import pytest
from playwright.sync_api import BrowserContext, expect

from ..studio import ROOT, Studio
from .conftest import violations

sys.path.insert(0, str(ROOT / "bridge"))
from plain_window_bridge import Bridge, connect

STAND_IN = """
from typing import Annotated

def drying_hours(wall: Annotated[float, (2, 20), "mm"] = 6) -> Annotated[float, "hours"]:
    return 10.0 * wall
"""


def drying_hours(wall: Annotated[float, (2, 20), "mm"] = 6) -> Annotated[float, "hours"]:
    """How long must it dry?"""
    return 12.0 * wall


@pytest.fixture
def connected(studio: Studio, key: str, author: httpx.Client) -> Iterator[Bridge]:
    """A published demo: its version 1 is a file, its version 2 is answered from this process."""
    made = author.post("/api/v1/demos", files={"function": ("drying.py", STAND_IN.encode())}).raise_for_status().json()
    demo = f"/api/v1/demos/{made['slug']}"
    author.put(f"{demo}/access", json={"access": "everyone"}).raise_for_status()
    author.post(f"{demo}/releases", json={}).raise_for_status()
    bridge = connect(drying_hours, to=studio.url, key=key, demo=made["slug"], say=lambda line: None)
    author.post(f"{demo}/releases", json={}).raise_for_status()
    yield bridge
    bridge.close()
    author.delete(demo)


def test_a_page_that_stands_open_tells_when_its_process_goes_and_what_answers_meanwhile(
    context: BrowserContext, desk_of: BrowserContext, studio: Studio, key: str, connected: Bridge
):
    page = context.new_page()
    page.set_viewport_size({"width": 375, "height": 740})
    page.goto(f"{studio.url}/d/{connected.demo}")
    show = page.get_by_role("button", name="Show the answer").locator("visible=true").first
    show.click()
    answer = page.locator("#answer-heading")
    expect(answer).to_have_text(re.compile(r"^72(\.0)? hours"))
    notice = page.get_by_test_id("away")
    expect(notice).to_have_count(0)

    connected.close()
    page.get_by_role("textbox", name="Wall").fill("8")
    expect(notice).to_contain_text("The process that answers here has been away since")
    expect(notice).to_contain_text("Until it is back there are no answers")
    assert violations(page) == []

    desk = desk_of.new_page()
    desk.goto(f"{studio.url}/demos/{connected.demo}/model")
    expect(desk.get_by_text("! away, last seen just now.")).to_be_visible()
    expect(desk.get_by_text("connect(drying_hours, to=")).to_be_visible()
    desk.get_by_label("While its process is away").select_option("version 1 answers")
    expect(desk.get_by_text("The page says so, and since when.")).to_be_visible()
    assert violations(desk) == []
    desk.close()

    expect(notice).to_contain_text("answers meanwhile")
    expect(notice).to_contain_text("Version 1, of ")
    expect(answer).to_have_text(re.compile(r"^80(\.0)? hours"))
    expect(page.get_by_text("version 1", exact=False).nth(1)).to_be_visible()
    assert violations(page) == []

    with connect(drying_hours, to=studio.url, key=key, demo=connected.demo, say=lambda line: None):
        expect(notice).to_have_count(0)
        expect(answer).to_have_text(re.compile(r"^96(\.0)? hours"))
