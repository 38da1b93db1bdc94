"""From a table alone to a demo, through the API."""

import io
import json
import subprocess
import sys
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import numpy as np
import pandas as pd
import pytest

from plain_window.samples.only_a_table import TABLE

from ..studio import Studio, wait_for
from .helpers import fields_at_fault, problem
from .tables import ended

SAMPLE = TABLE.read_bytes()


def _send(
    client: httpx.Client, table: bytes = SAMPLE, *, name: str = "firing_log.csv", **options: Any
) -> httpx.Response:
    return client.post("/api/v1/starters", files={"table": (name, io.BytesIO(table))}, data=options)


def _pieces(n_rows: int = 520, seed: int = 1) -> pd.DataFrame:
    rng = np.random.default_rng(seed)
    wall = rng.normal(6, 2, n_rows).round(2)
    cracks = rng.random(n_rows) < 1 / (1 + np.exp(-1.5 * (wall - 6)))
    return pd.DataFrame(
        {"wall_mm": wall, "shelf": rng.integers(1, 6, n_rows), "outcome": np.where(cracks, "cracks", "sound")}
    )


def _csv(table: pd.DataFrame) -> bytes:
    return table.to_csv(index=False).encode()


@pytest.fixture(scope="module")
def made(studio: Studio, key: str) -> Iterator[dict[str, Any]]:
    """A demo made of the sample table, and the job that made it."""
    with studio.client(key=key) as author:
        job = ended(author, _send(author, target="outcome", title="Will it hold?"))
        assert job["state"] == "done", job
        yield job
        author.delete(f"/api/v1/demos/{job['result']['slug']}")


def test_an_ordinary_demo_comes_of_it(author: httpx.Client, made: dict[str, Any]):
    slug = made["result"]["slug"]
    assert slug == "will-it-hold"
    demo = author.get(f"/api/v1/demos/{slug}").json()
    fields = {field["name"]: field for field in demo["fields"]}
    # Neither the leak nor the names of rows and groups; a date as what of it comes again.
    assert set(fields) == {
        *(
            "fired_on_month",
            "fired_on_weekday",
            "clay",
            "form",
            "wall_mm",
            "drying_days",
            "peak_temp_c",
            "weight_g",
            "shelf",
        )
    }
    assert (fields["wall_mm"]["label"], fields["wall_mm"]["unit"]) == ("Wall", "mm")
    assert fields["weight_g"]["optional"]
    assert next(one["value"] for one in fields["fired_on_weekday"]["options"]) == "Monday"
    usual = {name: field["default"] for name, field in fields.items()}
    asked = author.post(f"/api/v1/demos/{slug}/predictions?draft=1", json={"inputs": usual})
    assert asked.json()["answer"]["kind"] == "class"


def test_its_report_is_about_rows_that_no_model_saw(author: httpx.Client, made: dict[str, Any]):
    slug, compared = made["result"]["slug"], made["starter"]["compared"]
    report = author.get(f"/api/v1/demos/{slug}/report").json()
    assert report["cases"] == compared["n_kept_back"] == 1478 - compared["n_of"]
    offered = next(one for one in compared["tried"] if one["candidate"] == compared["offered"])
    # What comparing promised, and what came on rows that are later still: said by the job as by the report.
    found = made["starter"]["kept_error"]
    assert (found["n_rows"], found["error"]) == (report["cases"], pytest.approx(1 - report["share_right"]["value"]))
    assert abs(found["error"] - offered["error"]) < 0.08
    # How sure that is, too: rows near in time go wrong together.
    assert (report["known_group"], report["things"]) == ("stretch of time", 10)
    assert (1 - found["high"], 1 - found["low"]) == (
        pytest.approx(report["share_right"]["low"]),
        pytest.approx(report["share_right"]["high"]),
    )
    assert found["beside"] == "alike"
    assert found == author.get(f"/api/v1/demos/{slug}/starter").json()["kept_error"]


def test_its_checks_are_made_with_it(author: httpx.Client, made: dict[str, Any]):
    told = {one["name"]: (one["status"], one["finding"]) for one in made["starter"]["checks"]}
    now = author.post(f"/api/v1/demos/{made['result']['slug']}/checks").json()
    assert now["fit"]
    # What hangs on the clock is left out.
    assert told.pop("speed")[0] == "pass"
    assert told == {one["name"]: (one["status"], one["finding"]) for one in now["checks"] if one["name"] != "speed"}


def test_the_script_makes_its_very_model_by_hand(author: httpx.Client, made: dict[str, Any], scratch: Path):
    slug = made["result"]["slug"]
    packed = author.get(f"/api/v1/demos/{slug}/starter/script")
    zipfile.ZipFile(io.BytesIO(packed.content)).extractall(scratch)
    requirements = (scratch / "requirements.txt").read_text().split()
    assert all("==" in line for line in requirements)
    assert any(line.startswith("scikit-learn==") for line in requirements)
    subprocess.run([sys.executable, "-P", "train.py", str(TABLE), "made.joblib"], cwd=scratch, check=True)
    folder = zipfile.ZipFile(io.BytesIO(author.get(f"/api/v1/demos/{slug}/folder").content))
    (model,) = [name for name in folder.namelist() if name.endswith(".joblib")]
    assert folder.read(model) == (scratch / "made.joblib").read_bytes()


def test_it_says_how_it_was_made(author: httpx.Client, made: dict[str, Any]):
    origin = author.get(f"/api/v1/demos/{made['result']['slug']}/starter").json()
    assert (origin["group"], origin["time"], origin["target"]) == ("batch", "fired_on", "outcome")
    assert "mending_minutes" not in origin["columns"]
    assert any("`mending_minutes` is filled in" in sentence for sentence in origin["sentences"])
    assert origin["compared"]["verdict"] == made["starter"]["compared"]["verdict"]


def test_fitted_again_with_more_rows_it_replaces_its_model(author: httpx.Client):
    slug = ended(author, _send(author, _csv(_pieces()), target="outcome", title="Which?"))["result"]["slug"]
    before = author.get(f"/api/v1/demos/{slug}/starter").json()
    kept = {json.dumps(one["inputs"]) for one in _known(author, slug)}
    # The same rows and those of another month.
    more = pd.concat([_pieces(), _pieces(150, seed=2)])
    job = ended(author, _send(author, _csv(more), again=slug))
    assert (job["state"], job["result"]["slug"]) == ("done", slug), job
    origin = author.get(f"/api/v1/demos/{slug}/starter").json()
    assert (before["n_rows"], origin["n_rows"]) == (520, 670)
    assert (origin["columns"], origin["settings"]) == (before["columns"], before["settings"])
    assert origin["differences"]["answers"]["cases"] >= before["n_kept_back"]
    # Nothing was compared again; what the new model does on rows that it has not seen is said all the same.
    assert (origin["compared"], origin["kept_error"]["beside"]) == (None, "")
    assert origin["kept_error"]["n_rows"] == origin["n_kept_back"] > before["n_kept_back"]
    # Rows that were kept back stay so: the new model has not learned from what the old one was judged by.
    later = {json.dumps(one["inputs"]) for one in _known(author, slug)}
    assert len(kept & later) >= 0.9 * len(kept) > 50
    # What was compared was compared on other rows.
    assert origin["compared"] is None
    assert author.get(f"/api/v1/demos/{slug}").json()["title"] == "Which?"
    # Another of the models that were tried, of the same table.
    ended(author, _send(author, _csv(more), again=slug, model="tree"))
    assert author.get(f"/api/v1/demos/{slug}/starter").json()["candidate"] == "tree"
    author.delete(f"/api/v1/demos/{slug}")


def _known(author: httpx.Client, slug: str) -> list[dict[str, Any]]:
    return author.get(f"/api/v1/demos/{slug}/known?limit=500").json()["cases"]


def test_next_month_a_missing_column_is_named_and_the_demo_stays(author: httpx.Client, made: dict[str, Any]):
    slug = made["result"]["slug"]
    table = pd.read_csv(io.BytesIO(SAMPLE)).drop(columns="clay")
    refused = problem(_send(author, _csv(table), again=slug), 422)
    assert "no column `clay`" in refused["errors"][0]["message"]
    assert author.get(f"/api/v1/demos/{slug}").status_code == 200


REFUSED = {
    "no column said": (_csv(_pieces()), {}, "target", "It may be `outcome`"),
    "no such column": (_csv(_pieces()), {"target": "colour"}, "target", "has no column `colour`"),
    "nothing left": (
        _csv(_pieces()),
        {"target": "outcome", "drop": '["wall_mm", "shelf"]'},
        "drop",
        "No column is left",
    ),
    "a picture": (b"\x89PNG\r\n\x1a\n" + bytes(100), {"target": "outcome"}, "table", "CSV"),
    "too few rows": (_csv(_pieces(20)), {"target": "outcome"}, "table", "at least 40"),
    "a stranger dropped": (_csv(_pieces()), {"target": "outcome", "drop": '["colour"]'}, "drop", "no column `colour`"),
    "strangers by commas": (
        _csv(_pieces()),
        {"target": "outcome", "drop": "shelf, hue"},
        "drop",
        "no column `hue`",
    ),
    "no JSON": (_csv(_pieces()), {"target": "outcome", "drop": "[colour"}, "options", "JSON"),
    "no such model": (_csv(_pieces()), {"target": "outcome", "model": "oracle"}, "model", "linear"),
    "not one's own": (_csv(_pieces()), {"again": "nobody-has-this"}, "again", "You have no demo"),
}


@pytest.mark.parametrize("case", REFUSED)
def test_what_cannot_be_is_said_at_once(author: httpx.Client, case: str):
    table, options, field, words = REFUSED[case]
    refused = _send(author, table, **options)
    told = problem(refused, 422)
    assert fields_at_fault(refused)[0] == field
    assert words in told["errors"][0]["message"]


def test_a_model_that_was_brought_is_of_no_table(author: httpx.Client):
    assert problem(author.get("/api/v1/demos/will-it-crack/starter"), 409)
    assert problem(_send(author, again="will-it-crack"), 409)


def test_only_authors_start_and_see(visitor: httpx.Client, author: httpx.Client):
    assert _send(visitor, target="outcome").status_code == 401
    sent = _send(author, _csv(_pieces()), target="outcome", hold="true")
    assert visitor.get(sent.headers["Location"]).status_code == 404
    author.delete(sent.headers["Location"])


def test_held_it_waits_for_choices_and_again_for_the_model(author: httpx.Client):
    sent = _send(author, _csv(_pieces().assign(verdict=lambda one: one["outcome"].str.upper() + "!")), hold="true")
    job = sent.json()
    assert job["held"]
    assert job["starter"]["sheet"]["target"] in ("outcome", "verdict")
    path = f"/api/v1/starters/{job['id']}"
    looked = author.patch(path, json={"target": "outcome"}).json()
    assert [one["columns"] for one in looked["starter"]["sheet"]["findings"] if one["kind"] == "gives-away"] == [
        ["verdict"]
    ]
    assert set(looked["starter"]["used"]) == {"wall_mm", "shelf"}
    assert author.patch(path, json={"keep": ["verdict"]}).json()["starter"]["used"] == ["wall_mm", "shelf", "verdict"]
    assert author.patch(path, json={"keep": [], "drop": ["shelf"]}).json()["starter"]["used"] == ["wall_mm"]
    refused = author.patch(path, json={"time": "wall_mm"})
    assert fields_at_fault(refused) == ["time"]
    # What cannot be predicted is said, and changes nothing.
    assert fields_at_fault(author.patch(path, json={"target": "colour"})) == ["target"]
    now = author.get(f"/api/v1/jobs/{job['id']}").json()
    assert (now["held"], now["starter"]["choices"]["target"], now["errors"]) == (True, "outcome", [])
    assert author.post(f"/api/v1/jobs/{job['id']}/start").status_code == 202
    wait_for(lambda: author.get(f"/api/v1/jobs/{job['id']}").json()["held"])
    compared = author.get(f"/api/v1/jobs/{job['id']}").json()["starter"]["compared"]
    assert compared["is_better"]
    assert next(one["candidate"] for one in compared["tried"]) == "guess"
    author.patch(path, json={"model": "tree"})
    sent = author.post(f"/api/v1/jobs/{job['id']}/start")
    sent.headers["Location"] = f"/api/v1/jobs/{job['id']}"
    done = ended(author, sent)
    slug = done["result"]["slug"]
    assert author.get(f"/api/v1/demos/{slug}/starter").json()["candidate"] == "tree"
    assert problem(author.patch(path, json={"model": "linear"}), 409)
    author.delete(f"/api/v1/demos/{slug}")


def test_cancelled_while_it_fits_it_leaves_nothing(author: httpx.Client):
    before = len(author.get("/api/v1/demos").json()["demos"])
    sent = _send(author, target="outcome")
    job = sent.headers["Location"]
    wait_for(lambda: (now := author.get(job).json())["state"] == "running" and now["done"] > 0)
    running = author.get(job).json()
    assert 0 < running["done"] < running["total"]
    assert author.delete(job).status_code == 204
    assert author.get(job).json()["state"] == "cancelled"
    assert len(author.get("/api/v1/demos").json()["demos"]) == before


def test_of_noise_the_page_itself_says_so(author: httpx.Client):
    table = _pieces(120)
    table["outcome"] = np.random.default_rng(4).permutation(table["outcome"])
    job = ended(author, _send(author, _csv(table), target="outcome"))
    assert job["starter"]["compared"]["verdict"].startswith("No model is better than guessing")
    demo = author.get(f"/api/v1/demos/{job['result']['slug']}").json()
    assert "no better than guessing" in demo["not_for"]
    author.delete(f"/api/v1/demos/{job['result']['slug']}")


def test_the_command_makes_one_too(studio, author: httpx.Client, scratch: Path):
    (scratch / "pieces.csv").write_bytes(_csv(_pieces()))
    said = studio.run(
        "start", str(scratch / "pieces.csv"), "--predict", "outcome", "--as", "by-command", "--model", "linear"
    ).stdout
    assert "is better than guessing by" in said
    assert "checks pass." in said
    assert "Made `by-command`, as a draft" in said
    assert author.get("/api/v1/demos/by-command/starter").json()["candidate"] == "linear"
    author.delete("/api/v1/demos/by-command")


def test_the_command_names_both_ways_of_what_can_be_read_in_two(studio, scratch: Path):
    table = _pieces().assign(fired=[f"{1 + at % 11:02}/{1 + at % 12:02}/2026" for at in range(len(_pieces()))])
    (scratch / "pieces.csv").write_bytes(_csv(table))
    done = studio.run("start", str(scratch / "pieces.csv"), "--predict", "outcome", check=False)
    assert done.returncode
    assert "may begin with the day or with the month. Say which. (`--dates day` or `--dates month`)" in done.stderr
