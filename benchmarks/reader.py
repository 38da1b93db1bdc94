"""Compiled models asked in a browser, from a disk and with no server: `./plainwindow bench --reader`."""

import base64
import gzip
import shutil
import tempfile
from pathlib import Path

import numpy as np
from playwright.sync_api import sync_playwright

from plain_window.core.contract.kept_rows import read_kept_rows
from plain_window.core.plan.container import read_plan, write_plan
from plain_window.core.plan.plan import Plan
from plain_window.samples import SAMPLES

from .asking import CASE
from .report import print_measures
from .servers import ROOT

__all__ = ["measure_reader"]

MODULE = ROOT / "frontend" / "runtime" / "dist" / "runtime.js"
ARGUMENTS = ["--no-sandbox", "--disable-gpu"]
SAMPLE_ROWS = 100
# Each part is timed by the page itself; the first answer is that of code that has never run.
MEASURE = """
async ([code, model, columns, sample]) => {
  const { CompiledModel, Explainer } = await import(URL.createObjectURL(new Blob([code], { type: 'text/javascript' })))
  const content = Uint8Array.from(atob(model), (sign) => sign.charCodeAt(0))
  let begun = performance.now()
  const asked = new CompiledModel(content)
  const opened = performance.now() - begun
  asked.predict(columns)
  const first = performance.now() - begun
  for (let at = 0; at < 2000; at++) asked.predict(columns)
  // The page's clock is coarse: many at a time, and the median of those.
  const times = Array.from({ length: 41 }, () => {
    begun = performance.now()
    for (let at = 0; at < 100; at++) asked.predict(columns)
    return (performance.now() - begun) / 100
  })
  const explainer = new Explainer(asked, sample)
  const row = Object.fromEntries(Object.entries(columns).map(([name, [value]]) => [name, value]))
  const numbers = Object.keys(row).filter((name) => typeof row[name] === 'number')
  const ends = (name) => [Math.min(...sample[name]), Math.max(...sample[name])]
  const explain = () => {
    begun = performance.now()
    explainer.explain(row, 1)
    for (const name of Object.keys(row)) {
      if (numbers.includes(name)) explainer.steps(row, name, ...ends(name), 1)
      else explainer.options(row, name, [...new Set(sample[name])], 1)
    }
    return performance.now() - begun
  }
  const made = explain()
  const explained = Array.from({ length: 41 }, explain)
  const middle = (list) => list.sort((a, b) => a - b)[20]
  return { opened, first, answer: middle(times), made, explained: middle(explained) }
}
"""


def measure_reader() -> None:
    """Measure and print: the sample's forest, and one twice as large, opened, asked about a row, and why."""
    opened = SAMPLES["will-it-crack"].parent / "opened"
    content = gzip.decompress((opened / "compiled.gz").read_bytes())
    sample = read_kept_rows(gzip.decompress((opened / "kept_rows.gz").read_bytes())).first(SAMPLE_ROWS)
    columns = {name: [value] for name, value in CASE.items()}
    module = MODULE.read_text("utf-8")
    words = {"the reader, compressed": f"{len(gzip.compress(module.encode(), 9)) / 1024:.1f} KB"}
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        page_file = Path(folder) / "page.html"
        page_file.write_text("<!doctype html><title>A page from a disk</title>")
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=ARGUMENTS)
        for name, model in (("300 trees", content), ("600 trees", write_plan(_doubled(read_plan(content))))):
            page = browser.new_context(offline=True).new_page()
            page.goto(page_file.as_uri())
            found = page.evaluate(MEASURE, [module, base64.b64encode(model).decode(), columns, sample])
            page.context.close()
            words[f"{name}, {len(model) / 1e6:.1f} MB"] = (
                f"opened in {found['opened']:.0f} ms, first answer after {found['first']:.0f} ms, "
                f"then {found['answer']:.3f} ms a row; contributions to a class and all curves "
                f"{found['explained']:.0f} ms, {found['made']:.0f} the first time"
            )
        browser.close()
    print_measures("Compiled models in Chromium, from a disk", words)


def _doubled(plan: Plan) -> Plan:
    """The same model with each of its trees twice: it says the same, and is twice as large."""
    step = next(step for step in plan.steps if step.op == "forest")
    own = {part: plan.arrays[name] for part, name in step.arrays.items()}
    is_leaf = own["feature"] < 0
    again = {**own, "roots": own["roots"] + own["feature"].size}
    again["left"] = own["left"] + np.where(is_leaf, len(own["values"]), own["feature"].size).astype("int32")
    made = {name: np.concatenate([own[part], again[part]]) for part, name in step.arrays.items()}
    return plan.model_copy(update={"arrays": {**plan.arrays, **made}})
