"""What an author sets of the page: a field that is fixed, a threshold, bands, a logo, when it asks."""

import base64
import io

import numpy as np
import pytest
from PIL import Image

from ..made_models import firings, regressor_pipeline
from .helpers import fields_at_fault, problem
from .test_behind import with_known
from .test_checks import FEATURES, KNOWN, TABLE, honest, results
from .test_folders import sent, unpacked


@pytest.fixture
def firing(author):
    """A number, with known cases."""
    table = firings(200).drop(columns="outcome")
    made = with_known(author, regressor_pipeline(table), table, firings(150, seed=9).drop(columns="outcome"))
    assert made.status_code == 201, made.text
    yield f"/api/v1/demos/{made.json()['slug']}"
    author.delete(f"/api/v1/demos/{made.json()['slug']}")


@pytest.fixture
def fate(author):
    """Two classes, with known cases."""
    made = with_known(author, honest(), TABLE, KNOWN, target="fate", title="Cracks or not")
    yield f"/api/v1/demos/{made.json()['slug']}"
    author.delete(f"/api/v1/demos/{made.json()['slug']}")


def ask(author, url: str, inputs: dict, **query) -> dict:
    asked = author.post(f"{url}/predictions", json={"inputs": inputs}, params={"draft": "1", **query})
    assert asked.status_code == 200, asked.text
    return asked.json()


CASE = {"kiln": "gas", "pots": 20, "peak": 1230.0, "reduced": True}


class TestFixed:
    def test_visitors_do_not_see_it_and_every_case_has_its_start_value(self, author, firing):
        free = ask(author, firing, {**CASE, "kiln": "wood"})["answer"]["value"]
        sample = [{"title": "One", "inputs": CASE}]
        changes = {"samples": sample, "fields": [{"name": "kiln", "hidden": True, "default": "wood"}]}
        state = author.patch(firing, json=changes).json()
        assert "kiln" not in state["samples"][0]["inputs"]
        shown = {name: value for name, value in CASE.items() if name != "kiln"}
        page = author.get(f"{firing}/page", params={"draft": "1"}).json()
        assert sorted(field["name"] for field in page["fields"]) == sorted(shown)
        assert [field["name"] for field in page["fixed"]] == ["kiln"]
        assert sorted(author.get(f"{firing}/schema", params={"draft": "1"}).json()["required"]) == sorted(shown)
        explained = ask(author, firing, shown, **{"with": "explanation,changes"})
        assert explained["answer"]["value"] == free
        # What it adds is part of the sum, and said with its value.
        explanation = explained["explanation"]
        parts = {one["field"]: one for one in explanation["contributions"]}
        assert parts["kiln"]["value"] == "wood"
        total = explanation["baseline"] + sum(one["contribution"] for one in explanation["contributions"])
        assert total == pytest.approx(free, abs=1e-9)
        assert all(one["field"] != "kiln" for way in explained["changes"]["ways"] for one in way["changes"])
        # The same value may be sent along; another is refused.
        assert ask(author, firing, {**shown, "kiln": "wood"})["answer"]["value"] == free
        refused = author.post(f"{firing}/predictions?draft=1", json={"inputs": CASE})
        assert fields_at_fault(refused) == ["kiln"]
        assert "is fixed by the author" in refused.text
        # Seen again, ready cases have it again.
        again = author.patch(firing, json={"fields": [{"name": "kiln", "hidden": False}]}).json()
        assert again["samples"][0]["inputs"]["kiln"] == "wood"

    def test_what_known_cases_said_with_it_free_is_not_said_any_more(self, author, firing):
        assert ask(author, firing, CASE)["answer"]["interval"]
        author.patch(firing, json={"fields": [{"name": "kiln", "hidden": True}]}).raise_for_status()
        shown = {name: value for name, value in CASE.items() if name != "kiln"}
        assert ask(author, firing, shown)["answer"]["interval"] is None
        assert author.get(firing).json()["report"] is None
        assert "which the page fixes" in problem(author.get(f"{firing}/report?draft=1"), 422)["detail"]
        found = results(author, firing.rpartition("/")[2])["report"]
        assert (found["status"], "it fixes Kiln" in found["finding"]) == ("warn", True)

    def test_not_every_field_can_be_hidden(self, author, firing):
        names = [field["name"] for field in author.get(firing).json()["fields"]]
        refused = author.patch(firing, json={"fields": [{"name": name, "hidden": True} for name in names]})
        assert fields_at_fault(refused) == ["fields"]
        assert "Show one of them." in refused.text

    def test_a_text_is_what_visitors_bring(self, author):
        refused = author.patch("/api/v1/demos/what-went-wrong", json={"fields": [{"name": "line", "hidden": True}]})
        assert "it is what visitors bring" in refused.text


class TestThreshold:
    CASES = KNOWN[FEATURES].head(80)

    def said(self, author, fate) -> list[str]:
        rows = self.CASES.to_dict("records")
        return [ask(author, fate, {**row, "clay": bool(row["clay"])})["answer"]["class"] for row in rows[:25]]

    def test_from_it_on_the_class_is_said_and_all_figures_follow(self, author, fate):
        model = honest()
        before = author.get(f"{fate}/report?draft=1").json()
        setting = {"threshold": 0.25, "threshold_of": "cracks"}
        state = author.patch(fate, json={"answer": setting}).json()
        shares = model.predict_proba(KNOWN[FEATURES])[:, list(model.classes_).index("cracks")]
        expected = np.where(shares >= 0.25, "cracks", "sound")
        assert self.said(author, fate) == expected[:25].tolist()
        truth = KNOWN["fate"].to_numpy()
        report = author.get(f"{fate}/report?draft=1").json()
        assert report["share_right"]["value"] == np.mean(expected == truth) != before["share_right"]["value"]
        assert state["report"]["right_of_100"] == round(100 * np.mean(expected == truth))
        at = report["confusion"]["classes"].index("cracks")
        hits = int(((expected == "cracks") & (truth == "cracks")).sum())
        assert report["confusion"]["counts"][at][at] == hits
        points = author.get(f"{fate}/thresholds", params={"class": "cracks"}).json()["points"]
        (point,) = (one for one in points if one["threshold"] == 0.25)
        assert point["hits"] == hits
        assert sum(point[name] for name in ("hits", "misses", "false_alarms", "quiet")) == len(KNOWN)
        wrong = author.get(f"{fate}/known", params={"draft": "1", "show": "wrong"}).json()["total"]
        assert wrong == int((expected != truth).sum())
        # Why it is said is told of the class that is asked about, whichever is said.
        row = {**self.CASES.iloc[0].to_dict(), "clay": bool(self.CASES.iloc[0]["clay"])}
        assert ask(author, fate, row, **{"with": "explanation"})["explanation"]["of"] == "cracks"

    def test_what_would_change_it_crosses_the_threshold(self, author, fate):
        author.patch(fate, json={"answer": {"threshold": 0.25, "threshold_of": "cracks"}}).raise_for_status()
        row = {**self.CASES.iloc[0].to_dict(), "clay": bool(self.CASES.iloc[0]["clay"])}
        found = ask(author, fate, row, **{"with": "changes"})
        assert found["changes"]["ways"]
        for way in found["changes"]["ways"]:
            assert way["answer"]["class"] != found["answer"]["class"]

    def test_it_is_for_two_classes_and_can_be_taken_back(self, author, fate):
        refused = author.patch(fate, json={"answer": {"threshold": 0.3}})
        assert problem(refused, 422)["errors"][0]["message"].startswith("`answer`: `threshold_of` must name the class")
        author.patch(fate, json={"answer": {"threshold": 0.3, "threshold_of": "sound"}}).raise_for_status()
        assert author.patch(fate, json={"answer": {"threshold": None}}).json()["answer"]["threshold"] is None
        crack = author.get("/api/v1/demos/will-it-crack/thresholds", params={"class": "cracks"})
        assert "two classes" in problem(crack, 422)["detail"]


USE_BANDS = [
    {"label": "Low use", "below": 60, "tone": "calm"},
    {"label": "Usual", "below": 90},
    {"label": "High use", "tone": "alert"},
]


class TestBands:
    def test_a_number_lies_in_one_as_it_is_rounded(self, author, firing):
        author.patch(firing, json={"answer": {"bands": USE_BANDS, "decimals": 0}}).raise_for_status()
        for pots in (1, 10, 20, 30, 40):
            answer = ask(author, firing, {**CASE, "pots": pots})["answer"]
            shown = float(answer["text"])
            expected = "Low use" if shown < 60 else "Usual" if shown < 90 else "High use"
            assert answer["band"]["label"] == expected

    @pytest.mark.parametrize("ends", [[90, 60, None], [60, None, None], [60, 90, 120], [60, 60, None]])
    def test_out_of_order_they_are_refused(self, author, firing, ends):
        bands = [{"label": f"Band {at}", **({} if end is None else {"below": end})} for at, end in enumerate(ends)]
        refused = author.patch(firing, json={"answer": {"bands": bands}})
        assert "from the lowest up" in refused.text
        assert refused.status_code == 422


def picture(kind: str) -> str:
    file = io.BytesIO()
    Image.new("RGB", (40, 20), "teal").save(file, kind)
    return base64.b64encode(file.getvalue()).decode()


class TestLogo:
    def test_it_is_shown_with_its_words_and_goes_along_with_the_folder(self, author, firing):
        logo = {"data": picture("PNG"), "alt": "A kiln"}
        author.patch(firing, json={"logo": logo, "asks": "button"}).raise_for_status()
        page = author.get(f"{firing}/page", params={"draft": "1"}).json()
        assert (page["logo"]["alt"], page["asks"]) == ("A kiln", "button")
        shown = author.get(f"{firing}/{page['logo']['path']}&draft=1")
        assert (shown.headers["content-type"], shown.content) == ("image/png", base64.b64decode(logo["data"]))
        files = unpacked(author.get(f"{firing}/folder").content)
        assert files["logo.png"] == shown.content
        copy = sent(author, "POST", "/api/v1/demos", author.get(f"{firing}/folder").content, slug="with-a-logo")
        assert copy.json()["logo"] == logo
        author.delete("/api/v1/demos/with-a-logo")
        assert author.patch(firing, json={"logo": {"data": ""}}).status_code == 200
        assert author.get(f"{firing}/page", params={"draft": "1"}).json()["logo"] is None

    @pytest.mark.parametrize(
        "data", ["no base64!", base64.b64encode(b"<svg onload=alert(1)>").decode(), picture("GIF")]
    )
    def test_only_pictures_of_plain_kinds_are_taken(self, author, firing, data):
        assert "PNG, JPEG or WebP" in author.patch(firing, json={"logo": {"data": data}}).text
