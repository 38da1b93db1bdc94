"""The reader of compiled models, in a browser without a server: what it says there is what the server's engine says."""

import json
from pathlib import Path

import pytest
from playwright.sync_api import Browser

from ..studio import ROOT
from ..vectors.written import PLACE

MODULE = ROOT / "frontend" / "runtime" / "dist" / "runtime.js"
# Of what is no plain arithmetic; the same bound as in Node.
RELATIVE = 1e-12
ASK = """
async ([code, vectors]) => {
  const { CompiledModel } = await import(URL.createObjectURL(new Blob([code], { type: 'text/javascript' })))
  const asText = (value) => (Number.isFinite(value) ? value : String(value))
  return vectors.map(({ model, columns }) => {
    const content = Uint8Array.from(atob(model), (sign) => sign.charCodeAt(0))
    return Array.from(new CompiledModel(content).predict(columns).data, asText)
  })
}
"""


def test_every_operation_says_in_a_browser_what_it_says_on_the_server(chromium: Browser, tmp_path: Path):
    vectors = json.loads(PLACE.read_text("utf-8"))
    # JSON has no word for it, and what is missing is asked as such.
    for vector in vectors:
        vector["columns"] = {
            name: [None if value == "NaN" else value for value in values] for name, values in vector["columns"].items()
        }
    # A page from a disk, with no network behind it.
    page_file = tmp_path / "page.html"
    page_file.write_text("<!doctype html><title>A page from a disk</title>", "utf-8")
    page = chromium.new_context(offline=True).new_page()
    page.goto(page_file.as_uri())
    found = page.evaluate(ASK, [MODULE.read_text("utf-8"), vectors])
    page.context.close()
    assert len(found) == len(vectors) > 100
    for vector, said in zip(vectors, found, strict=True):
        expected = [float(value) for row in vector["outputs"] for value in row]
        numbers = [float(value) for value in said]
        assert numbers == pytest.approx(expected, rel=RELATIVE, abs=0, nan_ok=True), vector["name"]
