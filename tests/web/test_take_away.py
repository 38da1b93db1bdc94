"""A demo as one file that needs no server: what it says of a case is what the server says."""

import base64
import gzip
import io
import json
import random
import re
import subprocess
import tarfile
from pathlib import Path
from typing import Any

import httpx
import numpy as np
import pandas as pd
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sklearn.compose import make_column_transformer
from sklearn.ensemble import HistGradientBoostingClassifier, RandomForestClassifier, RandomForestRegressor
from sklearn.feature_extraction.text import TfidfVectorizer
from sklearn.linear_model import LinearRegression, LogisticRegression
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import OrdinalEncoder, StandardScaler

from plain_window.core.answers.rounding import margin_words, number_words, of_100, share_100
from plain_window.core.fields.checking import number_text

from ..core.test_picture_models import network
from ..made_models import csv, dumped, firings, mixed_preparation
from ..studio import ROOT, USUAL_PIECE, wait_for
from .helpers import bring, problem

READER = Path(__file__).parents[1] / "taken.mjs"
EXPLAINED = ["explanation", "curves", "similar", "changes"]
# Of sums of many numbers, in another order; beside ten, or what is compared where that is more.
WITHIN = 1e-12
# What is told in 32 bits; it is compared with a threshold and not shown.
SINGLE = 1e-6
FEATURES = ["kiln", "pots", "peak", "reduced"]
rng = np.random.default_rng(11)


def taken(author: httpx.Client, slug: str, folder: Path, query: str = "") -> Path:
    response = author.get(f"/api/v1/demos/{slug}/take-away{query}")
    assert response.status_code == 200, response.text
    assert response.headers["content-disposition"] == f'attachment; filename="{slug}.html"'
    path = folder / f"{slug}.html"
    path.write_bytes(response.content)
    return path


def said_by(path: Path, cases: list[dict[str, Any]], parts: list[str]) -> Any:
    """What a file says of some cases, or what is wrong with it."""
    return told({"path": str(path), "cases": cases, "parts": parts})


def told(question: dict[str, Any]) -> Any:
    asked = json.dumps(question)
    done = subprocess.run(["node", str(READER)], input=asked + "\n", capture_output=True, text=True, check=True)
    said = json.loads(done.stdout)
    return said.get("error") or said["answers"]


def cases_of(page: dict[str, Any], n_cases: int = 12) -> list[dict[str, Any]]:
    """Cases all over the fields, a little beyond what was seen too."""
    draw = random.Random(5)

    def drawn(field: dict[str, Any]) -> Any:
        if field["optional"] and draw.random() < 0.2:
            return None
        if field["kind"] == "number":
            low, high = field["seen"]["low"], field["seen"]["high"]
            value = draw.uniform(low - 0.1 * (high - low), high + 0.1 * (high - low))
            return round(value) if field["whole"] else value
        if field["kind"] == "choice":
            return draw.choice(field["options"])["value"]
        if field["kind"] == "text":
            return " ".join(
                draw.choice(["glaze", "CRAWLED", "near", "the", "rim", "Größe", "釉薬", "🔥"]) for _ in range(6)
            )
        return draw.random() < 0.5

    return [{field["name"]: drawn(field) for field in page["fields"]} for _ in range(n_cases)]


def differences(server: Any, file: Any, path: str = "") -> list[str]:
    if isinstance(server, dict) and isinstance(file, dict):
        names = (server.keys() | file.keys()) - {"timing_ms", "id"}
        return [
            one for name in sorted(names) for one in differences(server.get(name), file.get(name), f"{path}.{name}")
        ]
    if isinstance(server, list) and isinstance(file, list) and len(server) == len(file):
        pairs = zip(server, file, strict=True)
        return [one for at, (a, b) in enumerate(pairs) for one in differences(a, b, f"{path}[{at}]")]
    if type(server) is bool or not isinstance(server, int | float) or not isinstance(file, int | float):
        return [] if server == file and type(server) is type(file) else [f"{path}: {server!r}, {file!r}"]
    within = SINGLE if path.startswith(".familiarity") else WITHIN
    return [] if abs(server - file) <= within * max(10.0, abs(server)) else [f"{path}: {server!r}, {file!r}"]


def comparable(answer: dict[str, Any], other: dict[str, Any]) -> dict[str, Any]:
    """Without the order of what is as large as the next, and without a search for changes that the clock cut short."""
    plain = {**answer, "release": None}
    if answer["explanation"]:
        by_field = sorted(answer["explanation"]["contributions"], key=lambda one: one["field"])
        words = [
            {**one, "words": sorted(one["words"], key=lambda word: word["word"])}
            for one in answer["explanation"]["words"]
        ]
        plain["explanation"] = {**answer["explanation"], "contributions": by_field, "words": words}
    if any(one["changes"] and not one["changes"]["is_complete"] for one in (answer, other)):
        plain["changes"] = None
    return plain


def assert_says_the_same(author: httpx.Client, slug: str, path: Path, parts: list[str]) -> None:
    cases = cases_of(author.get(f"/api/v1/demos/{slug}/page?draft=1").json())
    for asked in ([], parts):
        query = f"&with={','.join(asked)}" if asked else ""
        expected = [
            author.post(f"/api/v1/demos/{slug}/predictions?draft=1{query}", json={"inputs": case}).json()
            for case in cases
        ]
        for server, file in zip(expected, said_by(path, cases, asked), strict=True):
            assert differences(comparable(server, file), comparable(file, server)) == []


@pytest.mark.parametrize("slug", ["will-it-crack", "what-will-this-firing-use", "what-went-wrong"])
def test_the_samples_say_the_same_without_the_server(author, slug, tmp_path):
    assert_says_the_same(author, slug, taken(author, slug, tmp_path), EXPLAINED)


def gaps_and_classes():
    table = firings()[[*FEATURES, "outcome"]].assign(pots=lambda own: own["pots"].where(rng.random(len(own)) > 0.2))
    encoder = make_column_transformer((OrdinalEncoder(), ["kiln"]), remainder="passthrough")
    boosted = HistGradientBoostingClassifier(max_iter=15, random_state=0)
    return make_pipeline(encoder, boosted).fit(table[FEATURES], table["outcome"]), table, {}


def two_numbers():
    table = firings().assign(hours=lambda own: own["kwh"] / 7).drop(columns="outcome")
    forest = RandomForestRegressor(12, random_state=0)
    return make_pipeline(mixed_preparation(), forest).fit(table[FEATURES], table[["kwh", "hours"]]), table, {}


def two_labels():
    table = firings().drop(columns=["outcome", "kwh"])
    table["crazed"], table["stained"] = (table["peak"] > 1230).astype(int), (table["pots"] > 30).astype(int)
    forest = RandomForestClassifier(12, random_state=0)
    model = make_pipeline(mixed_preparation(), forest).fit(table[FEATURES], table[["crazed", "stained"]])
    return model, table, {"answer": "labels", "target": "crazed,stained"}


def many_weights():
    """More inputs than can be asked about one with another: what is linear is exact all the same."""
    table = pd.DataFrame(rng.normal(size=(150, 14)).round(2), columns=[f"shelf_{at}" for at in range(14)])
    kwh = table.sum(axis=1)
    return make_pipeline(StandardScaler(), LinearRegression()).fit(table, kwh), table.assign(kwh=kwh), {}


def words_and_a_number():
    words = ["glaze", "crawled", "crack", "rim", "foot", "kiln", "wet", "pin", "Größe", "釉薬"]
    table = pd.DataFrame({"note": [" ".join(rng.choice(words, rng.integers(3, 12))) for _ in range(150)]})
    table["wall_mm"] = rng.normal(7, 2, 150).round(1)
    verdict = np.where(table["note"].str.contains("crack") ^ (table["wall_mm"] > 8), "bad", "good")
    both = make_column_transformer((TfidfVectorizer(), "note"), (StandardScaler(), ["wall_mm"]))
    return make_pipeline(both, LogisticRegression()).fit(table, verdict), table.assign(verdict=verdict), {}


MADE = [gaps_and_classes, two_numbers, two_labels, many_weights, words_and_a_number]


@pytest.mark.parametrize("make", MADE, ids=lambda make: make.__name__)
def test_other_models_say_the_same_without_the_server(author, make, tmp_path):
    model, table, texts = make()
    slug = bring(author, model=dumped(model), reference=csv(table), title=make.__name__, **texts).json()["slug"]
    answers_changes = make not in (two_numbers, two_labels)
    assert_says_the_same(author, slug, taken(author, slug, tmp_path), EXPLAINED if answers_changes else EXPLAINED[:3])


def test_what_is_wrong_with_a_case_is_said_in_the_same_words(author, tmp_path):
    path = taken(author, "will-it-crack", tmp_path)
    wrong = [
        {"wall_mm": "thick"},
        {"wall_mm": None},
        {"clay_body": "granite"},
        {"handle": 3},
        {"wall_mm": [1]},
        {"height_mm": 3},
    ]
    cases = [{**USUAL_PIECE, **one} for one in wrong] + [{}]
    for case, said in zip(cases, said_by(path, cases, []), strict=True):
        response = author.post("/api/v1/demos/will-it-crack/predictions", json={"inputs": case})
        expected = [
            (one["field"], one["message"].split(" Did you mean")[0]) for one in problem(response, 422)["errors"]
        ]
        found = [(one["field"], one["message"].removesuffix(" Leave it out.")) for one in said["faults"]]
        assert found == [(field, message.removesuffix(" Leave it out.")) for field, message in expected]


def test_without_the_rows_none_is_in_it_but_the_sample_and_it_claims_less(author, tmp_path):
    query = "?rows=0"
    path = taken(author, "will-it-crack", tmp_path, query)
    with_rows = author.get("/api/v1/demos/will-it-crack/take-away").content
    assert len(path.read_bytes()) < len(with_rows)
    (said,) = said_by(path, [USUAL_PIECE], EXPLAINED[:3])
    (server,) = [author.post("/api/v1/demos/will-it-crack/predictions", json={"inputs": USUAL_PIECE}).json()]
    # What is still possible holds only for cases like the known ones, and that cannot be told here.
    assert server["answer"]["possible"] is not None
    assert said["answer"]["possible"] is None
    assert said["similar"] is None
    assert said["answer"]["probabilities"] == server["answer"]["probabilities"]
    assert said["explanation"]["n_background"] == 100
    plan = author.get(f"/api/v1/demos/will-it-crack/take-away/plan{query}").json()
    assert plan["has_rows"] is False
    assert plan["shows_rows"] is True
    assert any("unlike those the model is known by" in sentence for sentence in plan["left_out"])


def test_a_page_that_explains_nothing_takes_no_row_along_and_has_its_curves_all_the_same(author, tmp_path):
    table = firings()
    forest = make_pipeline(mixed_preparation(), RandomForestRegressor(12, random_state=0))
    model = forest.fit(table[FEATURES], table["kwh"])
    table = table.drop(columns="outcome")
    slug = bring(author, model=dumped(model), reference=csv(table), title="Unexplained").json()["slug"]
    author.patch(f"/api/v1/demos/{slug}", json={"parts": {"contributions": False}})
    path = taken(author, slug, tmp_path, "?rows=0")
    (case, *_) = cases_of(author.get(f"/api/v1/demos/{slug}/page?draft=1").json())
    server = author.post(f"/api/v1/demos/{slug}/predictions?draft=1&with=curves", json={"inputs": case}).json()
    (said,) = said_by(path, [case], ["curves"])
    assert {curve["shape"] for curve in said["curves"]} == {"steps", "options"}
    assert differences(server["curves"], said["curves"]) == []
    plan = author.get(f"/api/v1/demos/{slug}/take-away/plan?rows=0").json()
    assert (plan["n_sample"], plan["has_rows"]) == (0, False)


def test_without_the_rows_a_number_has_no_bounds_that_hold_only_for_what_is_like_known_cases(author, tmp_path):
    slug = "what-will-this-firing-use"
    page = author.get(f"/api/v1/demos/{slug}/page").json()
    case = {field["name"]: field["default"] for field in page["fields"]}
    server = author.post(f"/api/v1/demos/{slug}/predictions", json={"inputs": case}).json()["answer"]
    assert server["interval"] is not None
    (said,) = said_by(taken(author, slug, tmp_path, "?rows=0"), [case], [])
    assert said["answer"] == {**server, "interval": None}
    plan = author.get(f"/api/v1/demos/{slug}/take-away/plan?rows=0").json()
    assert any("how far off it may be" in sentence for sentence in plan["left_out"])


def test_what_matters_overall_is_the_number_that_the_page_says_by_then(author, tmp_path):
    table = firings(300).drop(columns="outcome")
    forest = make_pipeline(mixed_preparation(), RandomForestRegressor(12, random_state=0))
    model = forest.fit(table[FEATURES], table["kwh"])
    slug = bring(author, model=dumped(model), reference=csv(table), title="By all rows").json()["slug"]
    job = author.post(f"/api/v1/demos/{slug}/jobs", files={"kind": (None, "importance")}).json()
    wait_for(lambda: author.get(f"/api/v1/jobs/{job['id']}").json()["state"] == "done", what="importance by all rows")
    expected = author.get(f"/api/v1/demos/{slug}/overall?draft=1").json()
    html = taken(author, slug, tmp_path).read_text("utf-8")
    (packed,) = re.findall(r'id="content">([^<]*)<', html)
    content = json.loads(gzip.decompress(base64.b64decode(packed)))
    assert list(content["overall"].values()) == [expected]
    assert len(content["proof"]) == 200


NUMBERS = st.floats(-1e12, 1e12) | st.integers(-4000, 4000).map(lambda eighths: eighths / 8) | st.floats(-1e-3, 1e-3)
SHARES = st.lists(st.floats(0, 1, exclude_min=True), min_size=2, max_size=6)


@given(
    st.lists(st.tuples(NUMBERS, st.integers(0, 6)), min_size=40, max_size=40),
    st.lists(SHARES, min_size=10, max_size=10),
)
@settings(max_examples=12, deadline=None)
def test_numbers_are_rounded_to_the_same_words_ties_too(numbers, shares):
    calls: list[list[Any]] = []
    expected: list[Any] = []
    for value, decimals in numbers:
        calls += [["numberWords", value, decimals], ["marginWords", abs(value), decimals], ["numberText", value]]
        expected += [number_words(value, decimals), margin_words(abs(value), decimals), number_text(value)]
        calls.append(["significant", value, 10])
        expected.append(f"{value:.10g}")
    for some in shares:
        calls += [["share100", some], ["of100", some[0]]]
        expected += [share_100(some), of_100(some[0])]
    assert told({"calls": calls}) == expected


def test_what_it_weighs_is_said_before_it_is_made(author):
    plan = author.get("/api/v1/demos/will-it-crack/take-away/plan").json()
    file = author.get("/api/v1/demos/will-it-crack/take-away").content
    assert plan["bytes"] == sum(part["bytes"] for part in plan["parts"]) == pytest.approx(len(file), rel=0.05)
    assert plan["is_large"] is False


def test_nothing_in_it_is_fetched_or_sent_and_no_other_script_runs(author):
    response = author.get("/api/v1/demos/will-it-crack/take-away?show=1")
    text = response.text
    (policy,) = re.findall(r'http-equiv="Content-Security-Policy" content="([^"]*)"', text)
    assert response.headers["content-security-policy"] == policy
    assert response.headers["content-disposition"].startswith("inline")
    rules = dict(rule.split(" ", 1) for rule in policy.split("; "))
    assert rules["default-src"] == "'none'"
    assert "connect-src" not in rules
    assert re.fullmatch(r"'sha256-\S+' 'sha256-\S+'", rules["script-src"])


@pytest.mark.parametrize("where", ["content", "model", "end"])
def test_a_file_that_was_changed_or_cut_short_is_refused(author, tmp_path, where):
    path = taken(author, "what-will-this-firing-use", tmp_path)
    text = path.read_text("utf-8")
    at = text.index(f'id="{where}">') + 400 if where != "end" else text.index('id="model">') + 2000
    other = "A" if text[at] != "A" else "B"
    path.write_text(text[:at] if where == "end" else text[:at] + other + text[at + 1 :], "utf-8")
    assert said_by(path, [], []).startswith("FileDamaged")


@pytest.mark.parametrize(
    ("slug", "why"),
    [
        ("kiln-by-hand", "Only compiled models fit into a file"),
        ("along-the-belt", "Answers of this kind are made by the server"),
    ],
)
def test_what_does_not_fit_into_a_file_is_told_with_what_else_there_is(author, slug, why):
    plan = author.get(f"/api/v1/demos/{slug}/take-away/plan").json()
    assert plan["obstacle"].startswith(why)
    assert "Host the page here" in plan["obstacle"]
    refused = problem(author.get(f"/api/v1/demos/{slug}/take-away"), 409)
    assert refused["detail"] == plan["obstacle"]


def test_a_model_that_looks_at_a_picture_and_more_does_not_fit_into_a_file(author):
    table = pd.DataFrame({"peak": [1100.0, 1240, 1280], "wall": [4.0, 5, 6]})
    files = {"model": ("m.onnx", network([1, 3, 8, 8], beside=2)), "reference": ("t.csv", csv(table))}
    brought = author.post("/api/v1/demos", files=files)
    assert brought.status_code == 201, brought.text
    plan = author.get(f"/api/v1/demos/{brought.json()['slug']}/take-away/plan").json()
    assert plan["obstacle"].startswith(
        "In a browser a model looks at one picture and nothing else; this one takes more."
    )
    assert "Host the page here" in plan["obstacle"]


def test_it_is_for_the_author_alone_and_a_slip_is_said(author, visitor):
    problem(visitor.get("/api/v1/demos/will-it-crack/take-away"), 404)
    problem(visitor.get("/api/v1/demos/will-it-crack/take-away/plan"), 404)
    refused = problem(author.get("/api/v1/demos/will-it-crack/take-away?rows=some"), 422)
    assert refused["detail"] == "`rows` may be `1` or `0`. Got `some`."


def test_a_page_of_ones_own_asks_the_model_in_three_lines_with_types(author, tmp_path):
    """As a developer does: the package unpacked where packages lie, the lines checked by the compiler, and run."""
    package = author.get("/assets/plain-window-runtime.tgz")
    assert package.headers["cache-control"] == "no-cache"
    home = tmp_path / "node_modules" / "plain-window-runtime"
    home.mkdir(parents=True)
    with tarfile.open(fileobj=io.BytesIO(package.content)) as packed:
        for member in packed.getmembers():
            member.name = member.name.removeprefix("package/")
            packed.extract(member, home, filter="data")
    model = author.get("/api/v1/demos/will-it-crack/compiled")
    assert model.headers["content-disposition"] == 'attachment; filename="will-it-crack.safetensors"'
    (tmp_path / "model.safetensors").write_bytes(model.content)
    columns = {name: [value] for name, value in USUAL_PIECE.items()}
    lines = f"""
        import {{ CompiledModel, type Columns, type Block }} from 'plain-window-runtime'
        const own: Columns = {json.dumps(columns)}
        export const asked = (content: Uint8Array): Block => new CompiledModel(content).predict(own)
    """
    (tmp_path / "own.ts").write_text(lines, "utf-8")
    (tmp_path / "package.json").write_text('{"type": "module"}', "utf-8")
    compiler = ROOT / "frontend" / "node_modules" / ".bin" / "tsc"
    options = ["--strict", "--module", "nodenext", "--target", "es2022", "--lib", "es2022"]
    done = subprocess.run([compiler, *options, "own.ts"], cwd=tmp_path, capture_output=True, text=True, check=False)
    assert done.stdout == ""
    script = (
        "import { readFileSync } from 'node:fs'; import { asked } from './own.js';"
        "console.log(JSON.stringify([...asked(readFileSync('model.safetensors')).data]))"
    )
    run = ["node", "--input-type=module", "-e", script]
    said = json.loads(subprocess.run(run, cwd=tmp_path, capture_output=True, text=True, check=True).stdout)
    answer = author.post("/api/v1/demos/will-it-crack/predictions", json={"inputs": USUAL_PIECE}).json()["answer"]
    assert sorted(said) == sorted(one["probability"] for one in answer["probabilities"])


def test_a_model_without_a_compiled_form_has_none_to_take(author, visitor):
    refused = problem(author.get("/api/v1/demos/kiln-by-hand/compiled"), 409)
    assert refused["detail"].startswith("This model is asked through its library.")
    problem(visitor.get("/api/v1/demos/will-it-crack/compiled"), 404)
