"""What a page says adds up, in every case tried: random cases of each sample, on the pages themselves."""

import base64
import json
import os
import random
import re

import pytest
from playwright.sync_api import BrowserContext, Page

from ..studio import Studio

# Each costs a tenth of a second of drawing; whoever changes how answers are said tries more.
CASES = int(os.environ.get("PLAINWINDOW_TEST_CASES", "80"))
# Counts the answers that came with what explains them, and those that came alone.
COUNTING = """
const original = window.fetch
window.answers = { alone: 0, explained: 0 }
window.fetch = async (...given) => {
  const response = await original(...given)
  const url = new URL(given[0].url ?? given[0], location.href)
  if (url.pathname.endsWith('/predictions')) {
    await response.clone().text()
    window.answers[(url.searchParams.get('with') ?? '').includes('explanation') ? 'explained' : 'alone'] += 1
  }
  return response
}
"""
# Opens each case as somebody does who pastes its link into the open tab, and reads what the page then says.
READING = """async ([fragments, isExplained]) => {
  const text = (root, query) => root.querySelector(query)?.innerText ?? ''
  const read = []
  const kind = isExplained ? 'explained' : 'alone'
  for (const fragment of fragments) {
    const before = window.answers[kind]
    const patience = performance.now() + 60_000
    location.hash = fragment
    while (window.answers[kind] === before) {
      if (performance.now() > patience) throw new Error(`no answer to ${fragment}`)
      await new Promise((go) => setTimeout(go, 4))
    }
    const frame = () => new Promise((go) => requestAnimationFrame(() => requestAnimationFrame(go)))
    await frame()
    // What explains is drawn when there is time for it.
    while (isExplained && document.querySelector('[data-testid=contributions]')?.ariaBusy !== 'false') await frame()
    const answer = document.querySelector('#answer')
    const why = document.querySelector('[data-testid=contributions]')
    read.push({
      headline: text(answer, '#answer-heading'),
      head: text(answer, '.answer-head'),
      marks: answer.querySelector('[aria-label^="Of 100"]')?.getAttribute('aria-label') ?? '',
      drawn: answer.querySelectorAll('[aria-label^="Of 100"] > *').length,
      rows: [...answer.querySelectorAll('.answer-head ul li')].map((row) => row.innerText),
      others: text(answer, '.answer-head ul + p'),
      strip: document.querySelector('.strip').textContent,
      why: why && text(why, 'h3'),
      parts: why ? [...why.querySelectorAll('li')].map((row) => row.lastElementChild.innerText) : [],
      rest: why ? text(why, '[data-testid=rest] > :last-child') : '',
    })
  }
  return read
}"""


def fragment_of(inputs: dict) -> str:
    told = json.dumps(inputs, ensure_ascii=False).encode()
    return "#case=" + base64.urlsafe_b64encode(told).decode().rstrip("=")


def random_cases(fields: list[dict], samples: list[dict], n: int = CASES) -> list[dict]:
    """Values anywhere in each field's range; pictures cut and turned, drawings and texts put together at random."""
    rng = random.Random(12)
    return [{field["name"]: _random_value(rng, field, samples) for field in fields} for _ in range(n)]


def _random_value(rng: random.Random, field: dict, samples: list[dict]):
    match field["kind"]:
        case "number":
            return round(rng.uniform(field["minimum"], field["maximum"]), 3)
        case "choice":
            return rng.choice(field["options"])["value"]
        case "yes_no":
            return rng.random() < 0.5
        case "text":
            words = " ".join(sample["inputs"][field["name"]] for sample in samples).split()
            return " ".join(rng.sample(words, min(len(words), rng.randint(2, 14))))
        case "picture":
            left, top = rng.uniform(0, 0.5), rng.uniform(0, 0.5)
            cut = {"left": left, "top": top, "width": rng.uniform(0.2, 0.5), "height": rng.uniform(0.2, 0.5)}
            return {**rng.choice(samples)["inputs"][field["name"]], "cut": cut, "turn": rng.choice([0, 90, 180, 270])}
        case "drawing":
            lines = [[[rng.random(), rng.random(), 0.5] for _ in range(2)] for _ in range(rng.randint(1, 4))]
            return {"strokes": lines, "cut": {"left": 0, "top": 0, "width": 1, "height": 1}, "turn": 0}


def read_cases(context: BrowserContext, studio: Studio, visitor, slug: str, *, is_explained: bool) -> list[dict]:
    about = visitor.get(f"/api/v1/demos/{slug}/page").json()
    page: Page = context.new_page()
    # Narrow enough for the strip, which says the same once more.
    page.set_viewport_size({"width": 800, "height": 900})
    page.add_init_script(COUNTING)
    page.goto(f"{studio.url}/d/{slug}")
    page.locator("#answer-heading").wait_for()
    fragments = [fragment_of(case) for case in random_cases(about["fields"], about["samples"])]
    read = page.evaluate(READING, [fragments, is_explained])
    assert len(read) == CASES
    # Not one answer over and over.
    assert len({one["head"] for one in read}) > 20
    return read


def amount(words: str) -> float:
    """What a row says: "takes off about 1.5 kWh" is −1.5."""
    if words == "hardly matters":
        return 0.0
    kind, number = re.match(r"(adds|takes off) (?:about )?([\d\u202f.]+)", words).groups()
    return (1 if kind == "adds" else -1) * float(number.replace("\u202f", ""))


def leads_from_start_to_end(one: dict) -> float:
    """Checks the contributions of one case as they are shown; gives the end."""
    start, end = (
        float(number.replace("\u202f", "").replace("−", "-"))
        for number in re.findall(r"(?:usual|to) ([−\d\u202f.]+)", one["why"])
    )
    total = start + sum(map(amount, one["parts"])) + (amount(one["rest"]) if one["rest"] else 0)
    assert total == pytest.approx(end, abs=1e-6), one
    return end


def test_a_class_of_few(context, studio, visitor):
    for one in read_cases(context, studio, visitor, "will-it-crack", is_explained=True):
        shares = [int(number) for number in re.findall(r"(\d+) [a-z]", one["marks"].removeprefix("Of 100: "))]
        assert sum(shares) == 100 == one["drawn"], one
        likeliest = shares[0]
        assert re.search(rf"(^|\D){likeliest} of 100", one["head"]), one
        assert one["headline"] in one["strip"], one
        assert re.search(rf"(^|\D){likeliest} ", one["strip"].replace("\xa0", " ")), one
        assert leads_from_start_to_end(one) == likeliest, one


def test_a_number(context, studio, visitor):
    for one in read_cases(context, studio, visitor, "what-will-this-firing-use", is_explained=True):
        said = float(re.match(r"[−\d\u202f.]+", one["headline"]).group().replace("\u202f", "").replace("−", "-"))
        assert leads_from_start_to_end(one) == pytest.approx(said), one
        assert one["headline"].split()[0] in one["strip"], one


@pytest.mark.parametrize("slug", ["how-is-the-glaze", "whose-mark-is-it", "what-went-wrong"])
def test_many_classes_and_their_others_make_100(context, studio, visitor, slug):
    for one in read_cases(context, studio, visitor, slug, is_explained=False):
        if one["drawn"]:
            shares = [int(number) for number in re.findall(r"(\d+) [a-z]", one["marks"].removeprefix("Of 100: "))]
        else:
            shares = [int(re.search(r"(\d+)(?:\s*of 100)?\s*$", row).group(1)) for row in one["rows"]]
            shares += [int(number) for number in re.findall(r"(\d+)(?:\s*of 100)?\s*$", one["others"])]
        assert sum(shares) == 100, one
        assert re.search(rf"(^|\D){shares[0]} of 100", one["head"]), one
        assert one["headline"] in one["strip"], one
