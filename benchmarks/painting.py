"""How long a visitor's page takes from a moved control to the painted answer, and to the painted ribbons.

In Debian's headless Chromium, on the sample. A key moves a slider a step; the page's own clock starts when the browser
hands the event on, and stops at the first frame painted after the answer (or a ribbon) has changed.
"""

import shutil
from dataclasses import dataclass

import numpy as np
from playwright.sync_api import sync_playwright

from tests.browser.conftest import ARGUMENTS

__all__ = ["Painting", "measure_painting"]

MOVES, WARM_UP_MOVES = 360, 10
WATCH = """() => {
  window.spent = {answer: [], ribbons: []}
  let begun = null, seen = {}
  const painted = (what) => {
    if (begun === null || seen[what]) return
    seen[what] = true
    const from = begun
    // After the next frame is put together comes a task: by then it has been painted.
    requestAnimationFrame(() => {
      const channel = new MessageChannel()
      channel.port1.onmessage = () => window.spent[what].push(performance.now() - from)
      channel.port2.postMessage(0)
    })
  }
  document.addEventListener('input', () => { begun = performance.now(); seen = {} }, true)
  new MutationObserver((changes) => {
    for (const {target} of changes) {
      if (target.closest?.('[data-place=ribbon]') && target.tagName === 'path') painted('ribbons')
      if (target.tagName === 'svg' && target.closest('#answer')) painted('answer')
    }
  }).observe(document.body, {subtree: true, attributes: true, attributeFilter: ['d', 'aria-label']})
}"""


@dataclass(frozen=True)
class Painting:
    """95th percentiles in milliseconds."""

    answer_p50_ms: float
    answer_p95_ms: float
    ribbons_p50_ms: float
    ribbons_p95_ms: float
    moves: int

    def words(self) -> dict[str, str]:
        """For a table."""
        return {
            "answer, p50 and p95": f"{self.answer_p50_ms:.0f} and {self.answer_p95_ms:.0f} ms",
            "ribbons, p50 and p95": f"{self.ribbons_p50_ms:.0f} and {self.ribbons_p95_ms:.0f} ms",
            "moves": str(self.moves),
        }


def measure_painting(url: str) -> Painting:
    """Move a slider a step at a time and wait for answer and ribbons each time."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=ARGUMENTS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(url)
        page.get_by_role("button", name="Show the answer").last.click()
        page.get_by_text("What brought it").wait_for()
        page.evaluate(WATCH)
        slider = page.get_by_role("slider", name="Days drying")
        slider.press("Home")
        for at in range(WARM_UP_MOVES + MOVES):
            # Up and down the steep part, where every step changes answer and ribbons.
            slider.press("ArrowRight" if at // 10 % 2 == 0 else "ArrowLeft")
            page.wait_for_timeout(120)
        spent = page.evaluate("window.spent")
        browser.close()
    answer, ribbons = (np.array(spent[what][WARM_UP_MOVES:]) for what in ("answer", "ribbons"))
    return Painting(*np.percentile(answer, [50, 95]), *np.percentile(ribbons, [50, 95]), moves=answer.size)
