"""How the visitor's page feels: from a moved control to the next painted frame, what moves by itself, a first visit.

In Debian's headless Chromium, on the sample. The network and the slower processor are the browser's own emulation.
"""

import shutil
from dataclasses import dataclass

import numpy as np
from playwright.sync_api import Browser, Page, sync_playwright

from tests.browser.conftest import ARGUMENTS

__all__ = ["Vitals", "measure_vitals"]

MOVES = 240
# Latency in milliseconds and bytes a second: what browsers call fast 3G, as a round trip and as they slow a request.
FAST_3G = {"150 ms a round trip": (150, 1.6e6 / 8), "562 ms a request": (562.5, 1.44e6 / 8)}
WATCH = """
window.vitals = { spent: [], shifts: 0, painted: 0 }
document.addEventListener('input', (event) => {
  const from = event.timeStamp
  requestAnimationFrame(() => {
    const channel = new MessageChannel()
    channel.port1.onmessage = () => window.vitals.spent.push(performance.now() - from)
    channel.port2.postMessage(0)
  })
}, true)
const watch = (type, take) =>
  new PerformanceObserver((list) => list.getEntries().forEach(take)).observe({ type, buffered: true })
watch('layout-shift', (entry) => { if (!entry.hadRecentInput) window.vitals.shifts += entry.value })
watch('largest-contentful-paint', (entry) => { window.vitals.painted = entry.startTime })
"""


@dataclass(frozen=True)
class Vitals:
    """Times in milliseconds; shifts as browsers count them."""

    moved_ms: dict[str, float]
    shifts: dict[str, float]
    painted_ms: dict[str, float]
    cold_kb: float

    def words(self) -> dict[str, str]:
        """For a table."""
        moved = {
            f"moved control to the next frame, p98, {where}": f"{ms:.0f} ms" for where, ms in self.moved_ms.items()
        }
        shifts = {f"layout shift, {where}": f"{shift:.4f}" for where, shift in self.shifts.items()}
        painted = {f"largest paint on fast 3G, {what}": f"{ms:.0f} ms" for what, ms in self.painted_ms.items()}
        return {**moved, **shifts, **painted, "bytes of a first visit": f"{self.cold_kb:.0f} KB"}


def measure_vitals(url: str) -> Vitals:
    """All of it, each in a fresh browser profile."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=ARGUMENTS)
        moved, shifts = {}, {}
        for where, width, slower in (
            ("1280", 1280, 1),
            ("375", 375, 1),
            ("1280, processor a quarter as fast", 1280, 4),
        ):
            moved[where], shifts[where] = _dragged(browser, url, width, slower)
        painted, cold = {}, 0.0
        for what, (latency, speed) in FAST_3G.items():
            painted[what], cold = _first_visit(browser, url, latency, speed)
        browser.close()
    return Vitals(moved, shifts, painted, cold)


def _dragged(browser: Browser, url: str, width: int, slower: int) -> tuple[float, float]:
    """The 98th percentile while a slider is dragged, and what moved by itself from the first byte on."""
    page = browser.new_page(viewport={"width": width, "height": 800})
    page.add_init_script(WATCH)
    page.goto(url)
    page.get_by_role("button", name="Show the answer").locator("visible=true").first.click()
    page.get_by_text("What brought it").wait_for()
    slider = page.get_by_role("slider", name="Days drying")
    slider.scroll_into_view_if_needed()
    page.wait_for_timeout(1500)
    page.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": slower})
    _drag(page, slider)
    vitals = page.evaluate("window.vitals")
    page.close()
    return float(np.percentile(vitals["spent"], 98)), vitals["shifts"]


def _drag(page: Page, slider) -> None:
    box = slider.bounding_box()
    y = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + 12, y)
    page.mouse.down()
    for at in range(MOVES):
        share = 0.5 - 0.45 * np.cos(at / 12)
        page.mouse.move(box["x"] + box["width"] * share, y)
        page.wait_for_timeout(16)
    page.mouse.up()


def _first_visit(browser: Browser, url: str, latency: float, speed: float) -> tuple[float, float]:
    """When the largest part was painted, and how many KB came."""
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    devtools = page.context.new_cdp_session(page)
    sizes: list[int] = []
    devtools.on("Network.loadingFinished", lambda event: sizes.append(event["encodedDataLength"]))
    devtools.send("Network.enable")
    line = {"offline": False, "latency": latency, "downloadThroughput": speed, "uploadThroughput": speed / 2}
    devtools.send("Network.emulateNetworkConditions", line)
    page.add_init_script(WATCH)
    page.goto(url)
    page.get_by_role("button", name="Show the answer").locator("visible=true").first.wait_for()
    page.wait_for_timeout(1500)
    painted = page.evaluate("window.vitals.painted")
    page.close()
    return painted, sum(sizes) / 1024
