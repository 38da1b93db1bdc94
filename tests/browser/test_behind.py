"""What stands behind an answer on the visitor's page, as a person uses it."""

import re

import numpy as np
import pandas as pd
import pytest
from playwright.sync_api import Page, expect
from sklearn.ensemble import RandomForestClassifier

from ..made_models import csv, dumped
from ..studio import USUAL_PIECE, Studio
from ..web.helpers import bring
from .conftest import violations

PREDICTIONS = "/api/v1/demos/will-it-crack/predictions"


@pytest.fixture
def wet_piece(page: Page) -> Page:
    """The sample's page with a thick piece that has hardly dried: likely to crack."""
    page.get_by_role("textbox", name="Wall thickness").fill("14")
    page.get_by_role("textbox", name="Days drying").fill("2")
    expect(page.get_by_role("heading", name="Likely to crack")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Try it: ")).first).to_be_enabled()
    return page


def ways(page: Page):
    return page.get_by_role("button", name=re.compile("^Try it: "))


def part(page: Page, name: str):
    return page.get_by_role("region", name=name, exact=True)


def test_trying_a_change_brings_the_answer_it_promised_and_can_be_undone(wet_piece):
    page = wet_piece
    row = part(page, "What would change it").get_by_role("listitem").first
    label, of_100 = re.search(r"→ (.+), (\d+) of 100", row.inner_text()).groups()
    ways(page).first.click()
    expect(page.get_by_role("img", name=f"Of 100: {of_100} {label}")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("textbox", name="Days drying")).to_have_value("2")
    expect(page.get_by_role("heading", name="Likely to crack")).to_be_visible()


def test_a_wanted_class_can_be_chosen(wet_piece, visitor):
    page = wet_piece
    section = part(page, "What would change it")
    section.get_by_role("combobox").select_option(label="warp")
    inputs = {**USUAL_PIECE, "wall_mm": 14, "drying_days": 2}
    body = visitor.post(f"{PREDICTIONS}?with=changes&to=warps", json={"inputs": inputs}).json()
    expect(ways(page)).to_have_count(len(body["changes"]["ways"]))
    expect(section.get_by_role("listitem").filter(has_text="come out sound")).to_have_count(0)


def test_kept_answers_stand_side_by_side_with_what_differs_marked(wet_piece):
    page = wet_piece
    page.get_by_role("button", name="Keep to compare").click()
    page.get_by_role("textbox", name="Wall thickness").fill("6")
    table = page.get_by_role("region", name="Kept answers, as a table")
    expect(table.get_by_role("row", name=re.compile("Wall thickness"))).to_contain_text("6 mm")
    expect(table.get_by_role("row", name=re.compile("Wall thickness"))).to_contain_text("different: 14 mm")
    expect(table.get_by_role("row", name=re.compile("Humidity"))).to_have_count(0)
    page.get_by_role("button", name="Go back to kept 1").click()
    expect(page.get_by_role("textbox", name="Wall thickness")).to_have_value("14")
    page.get_by_role("button", name="Drop kept 1").click()
    expect(table).to_have_count(0)


def test_k_keeps_an_answer_but_not_while_typing(wet_piece):
    page = wet_piece
    page.get_by_role("textbox", name="Wall thickness").press("k")
    expect(page.get_by_role("region", name="Kept answers, as a table")).to_have_count(0)
    page.get_by_role("textbox", name="Wall thickness").fill("14")
    expect(page.locator("#answer")).to_have_attribute("aria-busy", "false")
    page.get_by_role("slider", name="Wall thickness").press("k")
    expect(page.get_by_role("region", name="Kept answers, as a table")).to_be_visible()


def test_similar_cases_say_what_happened_and_can_be_read_as_a_table(wet_piece, visitor):
    page = wet_piece
    inputs = {**USUAL_PIECE, "wall_mm": 14, "drying_days": 2}
    similar = visitor.post(f"{PREDICTIONS}?with=similar", json={"inputs": inputs}).json()["similar"]
    section = part(page, "Cases like this one")
    expect(section.get_by_role("listitem")).to_have_count(len(similar))
    section.get_by_text("Read as a table").click()
    outcomes = section.get_by_role("row", name=re.compile("What happened")).get_by_role("cell").all_inner_texts()
    assert outcomes[1:] == [one["outcome_text"] for one in similar]


def test_the_case_among_the_reference_cases_can_be_looked_at_closer(wet_piece, visitor):
    page = wet_piece
    page.get_by_text("Your case among those of the author’s table").click()
    section = page.locator("details", has=page.get_by_text("Your case among those of the author’s table"))
    section.get_by_role("combobox").select_option(label="Wall thickness")
    chart = section.get_by_role("img", name=re.compile("Your Wall thickness, 14 mm"))
    expect(chart).to_be_visible()
    among = visitor.get("/api/v1/demos/will-it-crack/among?field=wall_mm&of=cracks").json()
    lower = round(sum(value < 14 for value in among["x"]) / len(among["x"]) * 100)
    expect(chart).to_have_attribute("aria-label", re.compile(f"higher than in {lower} of 100"))
    dots = chart.locator("g > *")
    expect(dots).to_have_count(len(among["x"]))
    section.get_by_role("button", name="Closer").click()
    expect(dots).not_to_have_count(len(among["x"]))
    chart.press("0")
    expect(dots).to_have_count(len(among["x"]))
    box = chart.bounding_box()
    page.mouse.move(box["x"] + box["width"] * 0.6, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.9, box["y"] + 40, steps=5)
    page.mouse.up()
    # What is dragged across is 60 to 90 % of the way; the chart has an edge of 12 of 640 on either side.
    low, high = min(among["x"]), max(among["x"])
    from_, to = (low + (share * 640 - 12) / 616 * (high - low) for share in (0.6, 0.9))
    inside = sum(from_ <= value <= to for value in among["x"])
    assert abs(dots.count() - inside) <= 3
    section.get_by_text("Read as a table").click()
    rows = section.get_by_role("row").all_inner_texts()
    assert sum(int(row.split("\t")[1]) for row in rows[1:]) == len(among["x"])


def test_curves_can_be_read_as_tables(wet_piece, visitor):
    page = wet_piece
    page.get_by_text("Read the curves as tables").click()
    table = page.get_by_role("table", name="Clay body")
    for value, label in (("grogged", "Grogged"), ("earthenware", "Earthenware")):
        inputs = {**USUAL_PIECE, "wall_mm": 14, "drying_days": 2, "clay_body": value}
        answer = visitor.post(PREDICTIONS, json={"inputs": inputs}).json()["answer"]
        cracks = next(one["probability"] for one in answer["probabilities"] if one["class"] == "cracks")
        expect(table.get_by_role("row", name=re.compile(label))).to_contain_text(f"{cracks * 100:.0f} of 100")


def test_what_matters_overall_opens_with_the_strongest_first(page):
    page.get_by_text("What matters overall").click()
    section = page.locator("details", has=page.get_by_text("What matters overall")).first
    expect(section.get_by_role("listitem")).to_have_count(len(USUAL_PIECE))
    expect(section.get_by_text("Still counting")).to_have_count(0)
    first = section.get_by_role("listitem").first
    expect(first).to_contain_text("Days drying")
    first.locator("summary").click()
    expect(first.get_by_role("row", name=re.compile("low values"))).to_contain_text("▲")
    expect(first.get_by_role("row", name=re.compile("high values"))).to_contain_text("▼")
    expect(first.get_by_role("img", name=re.compile("Average answer"))).to_be_visible()


def test_an_answer_says_how_sure_it_is(wet_piece, visitor):
    page = wet_piece
    inputs = {**USUAL_PIECE, "wall_mm": 14, "drying_days": 2}
    possible = visitor.post(PREDICTIONS, json={"inputs": inputs}).json()["answer"]["possible"]
    labels = {"cracks": "crack", "sound": "come out sound", "warps": "warp"}
    assert possible["words"][0] in ("likely", "possible")
    for name in possible["classes"][1:]:
        expect(page.locator("#answer")).to_contain_text(f"“{labels[name]}”")
    expect(page.locator("#answer")).to_contain_text("includes what really happens 90 of 100 times")
    page.get_by_role("textbox", name="Wall thickness").fill("90")
    page.get_by_role("textbox", name="Peak temperature").fill("300")
    expect(page.locator("#answer")).to_contain_text("unlike anything in the author’s table")


def test_a_number_says_how_far_off_it_may_be(context, studio: Studio):
    page = context.new_page()
    page.goto(f"{studio.url}/d/what-will-this-firing-use")
    page.get_by_role("button", name="Show the answer").last.click()
    expect(page.locator("#answer")).to_contain_text(re.compile(r"usually within ±\d+\.\d kWh"))
    page.get_by_label("to reach").fill("40")
    expect(ways(page).first).to_be_enabled()


def test_a_printed_page_has_the_answer_and_what_was_asked_but_no_buttons(wet_piece):
    page = wet_piece
    page.emulate_media(media="print")
    expect(page.get_by_role("heading", name="Likely to crack")).to_be_visible()
    expect(page.get_by_test_id("echo")).to_be_visible()
    for button in page.get_by_role("button").all():
        assert not button.is_visible(), button.inner_text()
    assert page.pdf().startswith(b"%PDF")


def test_many_fields_are_folded_and_can_be_opened(context, studio: Studio, author):
    rng = np.random.default_rng(5)
    names = [f"reading_{at}" for at in range(60)]
    table = pd.DataFrame(rng.normal(size=(150, 60)).round(3), columns=names)
    model = RandomForestClassifier(20, random_state=0).fit(table, np.where(table["reading_7"] > 0, "red", "green"))
    slug = bring(author, model=dumped(model), reference=csv(table), title="Sixty readings").json()["slug"]
    author.post(f"/api/v1/demos/{slug}/releases")
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
    page = context.new_page()
    page.goto(f"{studio.url}/d/{slug}")
    expect(page.get_by_role("slider")).to_have_count(20)
    expect(page.get_by_role("slider", name="Reading 7")).to_be_visible()
    page.get_by_text("40 more fields, which move the answer less").click()
    expect(page.get_by_role("slider")).to_have_count(60)


def test_switched_off_parts_are_not_on_the_page(context, studio: Studio, author):
    slug = bring(author, title="Few parts").json()["slug"]
    off = dict.fromkeys(("curves", "contributions", "changes", "similar", "among", "compare", "overall"), False)
    author.patch(f"/api/v1/demos/{slug}", json={"parts": off})
    author.post(f"/api/v1/demos/{slug}/releases")
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
    page = context.new_page()
    page.goto(f"{studio.url}/d/{slug}")
    page.get_by_role("button", name="Show the answer").last.click()
    expect(page.get_by_test_id("echo")).to_be_visible()
    for words in (
        "What would change it",
        "Cases like",
        "among those",
        "Keep to compare",
        "What matters",
        "adds",
    ):
        expect(page.get_by_text(words)).to_have_count(0)


@pytest.mark.parametrize("width", [1280, 375])
def test_axe_finds_nothing_behind_an_answer(wet_piece, width):
    page = wet_piece
    page.set_viewport_size({"width": width, "height": 800})
    page.get_by_role("button", name="Keep to compare").click()
    for words in ("Your case among those of the author’s table", "What matters overall", "Read the curves as tables"):
        page.get_by_text(words).click()
    expect(page.get_by_role("button", name="Closer")).to_be_visible()
    expect(page.get_by_text("Still counting")).to_have_count(0)
    assert violations(page) == []
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert wide <= width


def test_a_ready_line_is_answered_and_its_words_are_marked(context, studio: Studio, visitor):
    page = context.new_page()
    page.goto(f"{studio.url}/d/what-went-wrong")
    page.get_by_role("button", name="A bang in the night").click()
    words = page.get_by_test_id("words")
    expect(words).to_contain_text("bang▲")
    words.get_by_text("Read the words as a table").click()
    line = page.get_by_role("textbox", name="A line from the kiln log").input_value()
    url = "/api/v1/demos/what-went-wrong/predictions?with=explanation"
    said = visitor.post(url, json={"inputs": {"line": line}}).json()["explanation"]["words"][0]["words"]
    rows = words.get_by_role("row")
    expect(rows).to_have_count(len(said) + 1)
    expect(rows.nth(1)).to_contain_text(re.compile(rf"bang\s*adds (about )?{said[0]['contribution'] * 100:.0f} points"))
    expect(page.get_by_text(f"{len(line.split())} words")).to_be_visible()
    expect(page.get_by_role("region", name="What would change it")).to_have_count(0)
    assert violations(page) == []


def test_a_visitor_says_whether_it_was_right_and_what_it_really_was(context, studio: Studio, author):
    slug = bring(author, title="Say so").json()["slug"]
    author.patch(f"/api/v1/demos/{slug}", json={"parts": {"truth": True}})
    author.post(f"/api/v1/demos/{slug}/releases")
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
    page = context.new_page()
    page.goto(f"{studio.url}/d/{slug}")
    page.get_by_role("button", name="Show the answer").last.click()
    line = page.get_by_role("group", name="Was this right?")
    line.get_by_role("button", name="No").click()
    line.get_by_role("textbox", name="What it really was").fill("131,5")
    line.get_by_role("button", name="Say so").click()
    expect(line).to_contain_text("Thank you. Kept: your “no”, the answer and the time, nothing you entered.")
    assert author.get(f"/api/v1/demos/{slug}/log").json()["called_wrong"] == 1
    # The next answer is asked about anew.
    page.get_by_role("slider").first.press("End")
    expect(line.get_by_role("button", name="Yes")).to_be_visible()
    line.get_by_role("button", name="Yes").click()
    expect(line).to_contain_text("Kept: your “yes”")
    assert author.get(f"/api/v1/demos/{slug}/log").json()["called_right"] == 1
