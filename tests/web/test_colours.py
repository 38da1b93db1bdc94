"""What is drawn into a file to keep has the colours that the page shows it in."""

import re
from pathlib import Path

from plain_window.core.boxes.drawing import MARK_COLOURS, TONE_COLOURS
from plain_window.core.made.masks import KIND_COLOURS

PAGES = Path(__file__).parents[2] / "frontend" / "src"


def test_boxes_and_masks_are_saved_in_the_pages_colours():
    light = (PAGES / "parts" / "styles.css").read_text().partition("prefers-color-scheme: dark")[0]
    named = {name: colour.upper() for name, colour in re.findall(r"--([a-z0-9-]+): (#[0-9a-f]{6});", light)}
    assert {f"mark-{at + 1}": colour for at, colour in enumerate(MARK_COLOURS)} == {
        name: colour for name, colour in named.items() if name.startswith("mark-")
    }
    assert {name: named[name] for name in TONE_COLOURS} == TONE_COLOURS
    kinds = (PAGES / "domain" / "kindColours.ts").read_text()
    assert tuple(re.findall(r"'(#[0-9A-F]{6})'", kinds)) == KIND_COLOURS
