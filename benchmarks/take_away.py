"""Files that need no server, opened in a browser from a disk: `./plainwindow bench --take-away`."""

import gzip
import shutil
import statistics
import tempfile
import time
from pathlib import Path

import httpx
import joblib
from playwright.sync_api import Browser, sync_playwright

from plain_window.samples.will_it_crack.pieces import make_pieces
from plain_window.samples.will_it_crack.train import FOLDER, fit_forest

from .painting import measure_painting
from .picture_files import bring_photographs, pictures_opened
from .report import print_measures
from .servers import ROOT, Running, plain_window

__all__ = ["measure_take_away"]

DIST = ROOT / "frontend" / "dist"
TEMPLATES = {
    "page, letters and reader": "take-away.html",
    "the same with what runs pictures": "take-away-pictures.html",
}
TABLES, PICTURES = ("will-it-crack", "large"), ("how-is-the-glaze", "photographs")
ARGUMENTS = ["--no-sandbox", "--disable-gpu"]
TIMES, N_TREES, N_PIECES = 7, 2000, 3000


def measure_take_away() -> None:
    """Measure and print: what a file weighs, how soon it answers, and whether the page keeps up with a hand."""
    words = {}
    for what, name in TEMPLATES.items():
        page = (DIST / name).read_bytes()
        words[what] = f"{len(page) / 1e3:.0f} KB, {len(gzip.compress(page, 9)) / 1e3:.0f} KB compressed"
    with tempfile.TemporaryDirectory() as scratch:
        with plain_window(Path(scratch) / "home") as server:
            server.publish(_large_demo(Path(scratch) / "large"))
            key = server.new_key()
            bring_photographs(server, key, "photographs")
            files = {slug: _taken(server, key, slug, Path(scratch)) for slug in (*TABLES, *PICTURES)}
        # What the server does when nobody asks is no part of it.
        with sync_playwright() as playwright:
            path = shutil.which("chromium-headless-shell")
            browser = playwright.chromium.launch(executable_path=path, args=ARGUMENTS)
            for slug, (file, seconds) in files.items():
                said = pictures_opened(browser, file) if slug in PICTURES else _opened(browser, file)
                size = file.stat().st_size / 1e6
                words[f"{slug}, {size:.1f} MB"] = f"made in {seconds:.1f} s the second time; {said}"
            browser.close()
        painting = measure_painting(files["will-it-crack"][0].as_uri())
    print_measures("Files that need no server, in Chromium from a disk", words)
    print_measures("From a moved control to the painted page", painting.words())


def _large_demo(folder: Path) -> Path:
    """The sample's forest with many more trees."""
    shutil.copytree(FOLDER, folder)
    joblib.dump(fit_forest(make_pieces(N_PIECES, seed=1), n_trees=N_TREES), folder / "model.joblib", compress=3)
    toml = folder / "demo.toml"
    toml.write_text(toml.read_text("utf-8").replace('slug = "will-it-crack"', 'slug = "large"'), "utf-8")
    return folder


def _taken(server: Running, key: str, slug: str, folder: Path) -> tuple[Path, float]:
    """The file, and how many seconds it took once what matters overall was worked out."""
    address = f"http://127.0.0.1:{server.port}/api/v1/demos/{slug}/take-away"
    file, seconds = folder / f"{slug}.html", 0.0
    for _ in range(2):
        begun = time.perf_counter()
        response = httpx.get(address, headers={"Authorization": f"Bearer {key}"}, timeout=120)
        file.write_bytes(response.raise_for_status().content)
        seconds = time.perf_counter() - begun
    return file, seconds


def _opened(browser: Browser, file: Path) -> str:
    """From the navigation until the page is drawn, answers for the first time, and says why."""
    drawn, answered, explained = [], [], []
    for _ in range(TIMES):
        page = browser.new_context(offline=True).new_page()
        begun = time.perf_counter()
        page.goto(file.as_uri())
        button = page.get_by_role("button", name="Show the answer").first
        button.wait_for()
        drawn.append(time.perf_counter() - begun)
        button.click()
        # Its heading stands there while the model is asked, too.
        page.locator("#answer").get_by_text("Answer for these values").first.wait_for()
        answered.append(time.perf_counter() - begun)
        page.get_by_text("What brought it from").first.wait_for()
        explained.append(time.perf_counter() - begun)
        page.context.close()
    middle = statistics.median
    return (
        f"drawn after {middle(drawn):.2f} s, first answer after {middle(answered):.2f} s, "
        f"what brought it about after {middle(explained):.2f} s"
    )
