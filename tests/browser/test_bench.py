"""The author's bench: from files to a page others open, and each place's own work."""

import http.server
import re
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pandas as pd
import pytest
from playwright.sync_api import Browser, FrameLocator, Page, Route, expect
from sklearn.linear_model import LogisticRegression

from ..made_models import csv, dumped
from ..studio import Studio, wait_for
from ..web.test_behind import with_known
from ..web.test_checks import FEATURES, KNOWN, TABLE, honest
from .conftest import violations

# How long somebody looks at a page before each action; the journey counts it, and sleeps through none of it.
READING_SECONDS = 3.0


@pytest.fixture(scope="module")
def pots(studio, key) -> Iterator[str]:
    """A demo with two classes and known cases."""
    with studio.client(key=key) as author:
        made = with_known(author, honest(), TABLE, KNOWN, target="fate", title="Pots that dry")
        slug = made.json()["slug"]
        author.post(f"/api/v1/demos/{slug}/releases").raise_for_status()
        author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"}).raise_for_status()
        yield slug
        author.delete(f"/api/v1/demos/{slug}")


@pytest.fixture
def bench(desk_of, studio, pots) -> Iterator[Page]:
    page = desk_of.new_page()
    page.goto(f"{studio.url}/demos/{pots}/model")
    page.get_by_role("heading", name="Pots that dry").wait_for()
    yield page
    page.close()


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A model with its tables, as they lie about."""
    folder = tmp_path_factory.mktemp("files")
    (folder / "pots.joblib").write_bytes(dumped(honest()))
    (folder / "pots.csv").write_bytes(csv(TABLE))
    (folder / "kept_back_test.csv").write_bytes(csv(KNOWN))
    return folder


def go(page: Page, place: str) -> None:
    page.get_by_role("navigation", name="Places of this demo").get_by_role("link", name=place).click()
    page.wait_for_url(f"**/{place.lower()}")


def shown(page: Page) -> FrameLocator:
    """The visitor's page of the draft."""
    return page.frame_locator("iframe")


class Journey:
    """A new author, whose actions are counted."""

    def __init__(self, page: Page) -> None:
        self.page, self.actions = page, 0

    def press(self, name: str, role: str = "button") -> None:
        self.actions += 1
        self.page.get_by_role(role, name=name).first.click()

    def fill(self, label: str, text: str) -> None:
        self.actions += 1
        self.page.get_by_label(label, exact=True).fill(text)


def test_from_files_to_a_page_that_a_stranger_opens(chromium, studio, files, author, capsys):
    context = chromium.new_context(viewport={"width": 1280, "height": 800})
    page = context.new_page()
    page.goto(studio.run("sign-in").stdout.strip().splitlines()[-1])
    begun = page.evaluate("performance.timeOrigin + performance.now()")
    new = Journey(page)
    new.press("Sign in")
    # A password can wait.
    new.press("Plain Window", "link")
    new.press("Bring a model", "link")
    new.actions += 1
    page.get_by_label("All files at once", exact=False).set_input_files(sorted(files.iterdir()))
    expect(page.get_by_test_id("all-files")).to_contain_text("kept_back_test.csv is taken for the known cases")
    new.fill("Title", "Will the pot crack?")
    new.press("Open the model")
    page.get_by_role("navigation", name="Places of this demo").wait_for()
    new.press("Answer", "link")
    new.fill("What is counted, in the plural", "pots")
    new.press("Checks", "link")
    expect(page.get_by_test_id("checks").get_by_role("status")).to_contain_text("Nothing stands in the way")
    new.press("Share", "link")
    new.fill("Purpose, in one sentence", "See whether a pot may crack as it dries.")
    new.press("Publish")
    expect(page.get_by_role("button", name="Published")).to_be_visible()
    new.press("Everyone", "radio")
    address = page.get_by_test_id("address")
    address.wait_for()
    with_stranger = chromium.new_context(viewport={"width": 375, "height": 720})
    stranger = with_stranger.new_page()
    stranger.goto(address.inner_text())
    stranger.get_by_role("button", name="Show the answer").first.click()
    expect(stranger.locator("#answer-heading")).to_have_text(re.compile("Cracks|Sound"))
    seconds = (page.evaluate("performance.timeOrigin + performance.now()") - begun) / 1000
    whole = seconds + READING_SECONDS * new.actions
    with capsys.disabled():
        print(
            f"\nfrom files to a stranger's answer: {new.actions} actions, {seconds:.0f} s; "
            f"with {READING_SECONDS:g} s of reading before each, {whole:.0f} s"
        )
    assert new.actions < 25
    author.delete("/api/v1/demos/" + address.inner_text().rpartition("/")[2])
    for one in (context, with_stranger):
        one.close()


def test_links_are_made_shown_to_phones_and_taken_back_one_by_one(bench, studio):
    go(bench, "Share")
    bench.get_by_role("radio", name="Secret link").click()
    links = bench.get_by_test_id("links")
    links.get_by_label("For whom").fill("The apprentices")
    links.get_by_label("It ends").select_option("after a week")
    links.get_by_role("button", name="Make a link").click()
    row = links.get_by_role("listitem").filter(has_text="The apprentices")
    expect(row).to_contain_text("not opened yet; ends")
    path = row.get_by_role("link").get_attribute("href")
    row.get_by_role("button", name="Code for phones").click()
    expect(row.get_by_role("img")).to_have_attribute(
        "aria-label", f"A code for a phone's camera; it opens {studio.url}{path}"
    )
    with studio.client() as somebody:
        assert somebody.get(path).status_code == 200
        bench.reload()
        expect(row).to_contain_text("opened 1 time")
        assert violations(bench) == []
        row.get_by_role("button", name="Revoke").click()
        expect(row).to_have_count(0)
        assert somebody.get(path).status_code == 404


@contextmanager
def site(html: str) -> Iterator[str]:
    """A page on another origin of this machine."""

    class Answering(http.server.BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            self.send_response(200)
            self.send_header("Content-Type", "text/html; charset=utf-8")
            self.end_headers()
            self.wfile.write(html.encode())

        def log_message(self, *_: object) -> None:
            pass

    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), Answering)
    thread = threading.Thread(target=server.serve_forever, daemon=True)
    thread.start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()
    server.server_close()
    thread.join()


def test_a_site_that_is_allowed_shows_the_page_and_another_does_not(bench, chromium: Browser, pots, author):
    author.put(f"/api/v1/demos/{pots}/access", json={"access": "everyone"}).raise_for_status()
    bench.reload()
    go(bench, "Share")
    embed = bench.get_by_test_id("embed")
    embed.get_by_text("Within another page").click()
    snippet = embed.get_by_test_id("snippet").inner_text()
    with site(f"<h1>The studio</h1>{snippet}") as address:
        context = chromium.new_context()
        refused: list[str] = []
        elsewhere = context.new_page()
        elsewhere.on("requestfailed", lambda request: refused.append(request.url))
        elsewhere.goto(address)
        wait_for(lambda: elsewhere.wait_for_timeout(50) or any(pots in url for url in refused), what="being refused")
        embed.get_by_label("Sites that may show it", exact=False).fill("studio.example")
        embed.get_by_role("button", name="Allow these").click()
        expect(embed.get_by_role("status")).to_contain_text("with nothing after it")
        embed.get_by_label("Sites that may show it", exact=False).fill(f"{address}/")
        embed.get_by_role("button", name="Allow these").click()
        expect(embed.get_by_role("status")).to_have_text(f"Allowed: {address}")
        again = context.new_page()
        again.goto(address)
        frame = again.frame_locator("iframe")
        frame.get_by_role("button", name="Show the answer").first.click()
        expect(frame.get_by_role("heading", name=re.compile("Cracks|Sound"))).to_be_visible()
        context.close()


def test_a_threshold_shows_what_it_does_while_it_is_dragged_and_the_page_follows(bench, pots, author):
    author.patch(f"/api/v1/demos/{pots}", json={"answer": {"threshold": None}}).raise_for_status()
    go(bench, "Answer")
    sheet = bench.get_by_test_id("threshold")
    sheet.get_by_label("Say one class from a probability on").click()
    slider = sheet.get_by_role("slider")
    points = author.get(f"/api/v1/demos/{pots}/thresholds", params={"class": "cracks"}).json()["points"]
    # Whoever drags before the other class is saved loses nothing of it.
    held: list[Route] = []

    def hold(asked: Route) -> None:
        # Only the first; what comes after it waits for it by itself.
        if asked.request.method == "PATCH" and not held:
            held.append(asked)
        else:
            asked.continue_()

    bench.route(f"**/api/v1/demos/{pots}", hold)
    sheet.get_by_label("The class that is said").select_option("Cracks")
    for _ in range(3):
        slider.press("ArrowLeft")
    expect(sheet.get_by_text("47 of 100")).to_be_visible()
    held[0].continue_()
    expect(sheet.get_by_role("row", name="hits")).to_contain_text(f"{points[46]['hits']} (")
    expect(sheet.get_by_role("row", name="false alarms)")).to_contain_text(f"{points[46]['false_alarms']} (")
    sheet.get_by_label("What a miss costs").fill("5")
    sheet.get_by_label("What a false alarm costs").fill("1")
    costs = [5 * one["misses"] + one["false_alarms"] for one in points]
    take = sheet.get_by_role("button", name="Take that")
    take.click()
    expect(bench.get_by_role("status").filter(has_text="Saved")).to_be_visible()
    taken = round(float(slider.input_value()))
    assert costs[taken - 1] == min(costs)
    shown(bench).get_by_role("button", name="Show the answer").first.click()
    expect(shown(bench).get_by_text(f"is said from {taken} of 100 on")).to_be_visible()
    assert violations(bench) == []


def test_outputs_of_a_notebook_are_pasted_and_the_first_difference_opened(bench, pots, author):
    said = KNOWN[FEATURES].head(12)
    said = said.assign(prediction=honest().predict(said))
    wrong = said.copy()
    wrong.loc[3, "prediction"] = "sound" if said.loc[3, "prediction"] == "cracks" else "cracks"
    wrong.loc[3, "wall"] = 9.3
    author.patch(f"/api/v1/demos/{pots}", json={"answer": {"threshold": None}}).raise_for_status()
    go(bench, "Checks")
    sheet = bench.get_by_test_id("expected")
    sheet.get_by_text("Compare with your notebook").click()
    sheet.get_by_label("Or paste it here, with its header").fill(csv(wrong).decode())
    sheet.get_by_role("button", name="Compare", exact=True).click()
    expect(sheet.get_by_role("status")).to_contain_text("Brought: 12 rows, by prediction.")
    sheet.get_by_role("button", name="Show row 4 on the page").click()
    expect(shown(bench).get_by_role("textbox", name="Wall")).to_have_value("9.3")
    sheet.get_by_role("button", name="Take it away").click()
    expect(bench.get_by_test_id("checks")).to_contain_text("No outputs of your own were brought")


@pytest.fixture(scope="module")
def newer(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A worse model; and one as it is there with its tables, but for the name of a feature."""
    folder = tmp_path_factory.mktemp("newer")
    (folder / "worse.joblib").write_bytes(dumped(LogisticRegression(C=0.003).fit(TABLE[FEATURES], TABLE["fate"])))
    table, known = (rows.rename(columns={"wall": "wall_mm"}) for rows in (TABLE, KNOWN))
    features = ["wall_mm" if name == "wall" else name for name in FEATURES]
    (folder / "renamed.joblib").write_bytes(dumped(LogisticRegression().fit(table[features], table["fate"])))
    (folder / "renamed.csv").write_bytes(csv(table))
    (folder / "renamed_kept_back.csv").write_bytes(csv(known))
    return folder


def test_another_model_is_looked_at_beside_the_old_one_and_left(bench, newer, pots, author):
    before = author.get(f"/api/v1/demos/{pots}").json()
    go(bench, "Model")
    bench.get_by_label("Model file, a file").set_input_files(newer / "worse.joblib")
    found = bench.get_by_test_id("comparison")
    expect(found).to_contain_text("worse.")
    found.get_by_text("with another answer").click()
    found.get_by_role("button", name="Show it").first.click()
    expect(shown(bench).locator("#answer-heading")).to_be_visible()
    assert violations(bench) == []
    found.get_by_role("button", name="Leave all as it is").click()
    expect(found).to_have_count(0)
    assert author.get(f"/api/v1/demos/{pots}").json()["fields"] == before["fields"]


def test_a_model_comes_with_the_tables_it_needs_or_not_at_all(bench, files, newer, pots, author):
    url = f"/api/v1/demos/{pots}"
    author.patch(url, json={"fields": [{"name": "wall", "label": "Wall of the pot"}]}).raise_for_status()
    bench.reload()
    parts = bench.get_by_test_id("parts")
    bench.get_by_label("Model file, a file").set_input_files(newer / "renamed.joblib")
    expect(parts.get_by_role("alert")).to_contain_text("wall_mm")
    expect(parts).to_contain_text("chosen, not taken over yet: renamed.joblib")
    # What goes with it is added to it.
    parts.get_by_label("Several at once", exact=False).set_input_files(
        [newer / "renamed.csv", newer / "renamed_kept_back.csv"]
    )
    found = bench.get_by_test_id("comparison")
    expect(found.get_by_label("What wall_mm was called before")).to_have_value("wall")
    expect(found).to_contain_text("200 are answered as before, 0 otherwise. Right for")
    assert violations(bench) == []
    found.get_by_role("button", name="Take it over").click()
    expect(parts.get_by_role("status")).to_contain_text("Taken over.")
    field = next(one for one in author.get(url).json()["fields"] if one["name"] == "wall_mm")
    assert field["label"] == "Wall of the pot"
    # Back to what it was, all at once.
    back = [files / "pots.joblib", files / "pots.csv", files / "kept_back_test.csv"]
    parts.get_by_label("Several at once", exact=False).set_input_files(back)
    found.get_by_role("button", name="Take it over").click()
    expect(parts.get_by_role("status")).to_contain_text("Taken over.")
    author.patch(url, json={"fields": [{"name": "wall", "label": "Wall"}]}).raise_for_status()
    assert [one["name"] for one in author.get(url).json()["fields"]] == FEATURES


def test_many_fields_are_edited_at_once_fixed_and_undone_in_one_step(bench, pots, author):
    go(bench, "Inputs")
    many = bench.get_by_test_id("many")
    many.get_by_role("button", name="All").click()
    many.get_by_label("Group of all chosen").fill("The pot")
    many.get_by_role("button", name="Set group").click()
    expect(shown(bench).get_by_role("heading", name="The pot")).to_be_visible()
    many.get_by_role("button", name="None").click()
    bench.get_by_label("Choose Days to edit with others").check()
    many.get_by_role("button", name="Fix and hide").click()
    expect(shown(bench).get_by_role("textbox", name="Days")).to_have_count(0)
    expect(shown(bench).get_by_text("the author of this page fixed that")).to_be_visible()
    assert violations(bench) == []
    bench.get_by_role("button", name="Undo").click()
    expect(shown(bench).get_by_role("textbox", name="Days")).to_be_visible()
    bench.get_by_role("button", name="Undo").click()
    expect(shown(bench).get_by_role("heading", name="The pot")).to_have_count(0)
    assert {field["group"] for field in author.get(f"/api/v1/demos/{pots}").json()["fields"]} == {""}


def test_a_click_on_a_part_of_the_page_opens_its_settings(bench):
    go(bench, "Inputs")
    page = shown(bench)
    page.get_by_role("button", name="Show the answer").first.click()
    page.locator("#contributions-heading").click()
    bench.wait_for_url("**/answer")
    expect(bench.get_by_role("group", name="On the page")).to_be_in_viewport()
    page.get_by_role("heading", name="Pots that dry").click()
    bench.wait_for_url("**/share")
    expect(bench.get_by_label("Title", exact=True)).to_be_in_viewport()
    # Whoever only tries a control is not led away.
    page.get_by_role("textbox", name="Days").click()
    assert bench.url.endswith("/share")
    page.locator("[data-field=days]").click(position={"x": 2, "y": 2})
    bench.wait_for_url("**/inputs")
    expect(bench.get_by_role("button", name="More of Days")).to_have_attribute("aria-expanded", "true")
    # There a control opens its own line.
    page.get_by_role("textbox", name="Wall").click()
    expect(bench.get_by_role("button", name="More of Wall")).to_have_attribute("aria-expanded", "true")
    bench.get_by_role("button", name="More of Wall").click()
    expect(bench.get_by_role("button", name="More of Wall")).to_have_attribute("aria-expanded", "false")
    assert violations(bench) == []


def test_keys_lead_to_places_ask_and_are_listed(bench):
    bench.keyboard.press("2")
    bench.wait_for_url("**/inputs")
    shown(bench).get_by_role("button", name="Show the answer").first.wait_for()
    bench.keyboard.press("Control+Enter")
    expect(shown(bench).locator("#answer-heading")).to_have_text(re.compile("Cracks|Sound"))
    # A digit that is typed is a digit.
    bench.get_by_label("Label").first.press("3")
    assert bench.url.endswith("/inputs")
    bench.get_by_label("Label").first.press("Backspace")
    bench.get_by_role("heading", name="Inputs").click()
    bench.keyboard.press("?")
    expect(bench.get_by_role("dialog")).to_contain_text("the next known case")
    assert violations(bench) == []
    bench.keyboard.press("Escape")
    expect(bench.get_by_role("dialog")).to_have_count(0)


def test_a_page_that_asks_by_a_button_says_what_its_answer_is_about(context, studio: Studio, author, pots):
    author.patch(f"/api/v1/demos/{pots}", json={"asks": "button", "answer": {"threshold": None}}).raise_for_status()
    author.post(f"/api/v1/demos/{pots}/releases").raise_for_status()
    author.put(f"/api/v1/demos/{pots}/access", json={"access": "everyone"}).raise_for_status()
    page = context.new_page()
    page.goto(f"{studio.url}/d/{pots}")
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url) if "predictions" in request.url else None)
    page.get_by_role("textbox", name="Wall").fill("3.5")
    expect(page.get_by_text("then ask for the answer")).to_be_visible()
    assert asked == []
    page.get_by_role("button", name="Show the answer").first.click()
    expect(page.locator("#answer-heading")).to_have_text("Sound")
    page.get_by_role("textbox", name="Wall").fill("11")
    expect(page.get_by_text("This answers what stood here before.")).to_be_visible()
    page.get_by_role("button", name="Show the answer").first.click()
    expect(page.locator("#answer-heading")).to_have_text("Cracks")
    expect(page.get_by_text("This answers what stood here before.")).to_have_count(0)
    author.patch(f"/api/v1/demos/{pots}", json={"asks": "auto"}).raise_for_status()


def test_what_matters_overall_is_worked_out_by_all_rows_in_sight(bench, pots, author):
    table = pd.concat([TABLE, TABLE])
    slug = with_known(author, honest(), table, KNOWN, target="fate", title="Many pots").json()["slug"]
    bench.goto(bench.url.replace(f"{pots}/model", f"{slug}/answer"))
    bench.get_by_role("button", name="Work it out by all that are kept").click()
    expect(bench.get_by_text("was worked out by all rows that are kept")).to_be_visible(timeout=150_000)
    page = shown(bench)
    page.get_by_text("What matters overall").click()
    expect(page.get_by_text(f"on average over {len(table)} cases")).to_be_visible()
    bench.goto(bench.url.replace(f"/demos/{slug}/answer", "/jobs"))
    row = bench.get_by_role("listitem").filter(has_text="What matters overall, by all rows")
    expect(row).to_contain_text("the page says that from now on")
    assert not violations(bench)
    author.delete(f"/api/v1/demos/{slug}")
