"""Models with libraries of their own, with real ones from the index: scikit-learn of two years beside today's."""

import io
import json
import subprocess
import sys
from collections.abc import Iterator
from typing import Any

import httpx
import pandas as pd
import pytest
import xgboost

from ..core.test_functions import zipped
from ..made_models import csv, dumped, firings, regressor_pipeline
from ..studio import Studio, wait_for
from .helpers import bring, problem
from .tables import as_csv, ended, result

REQUIREMENTS = "scikit-learn==1.3.2\npandas==2.1.4\n"
# Fetching and installing eighty megabytes on a busy machine.
BUILD_SECONDS = 400.0
TRAIN = """
import json, sys
sys.path.append(sys.argv[1])
import joblib, pandas as pd, sklearn
from sklearn.compose import make_column_transformer
from sklearn.ensemble import RandomForestClassifier
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import OneHotEncoder
table = pd.read_csv(sys.argv[2])
features = table.drop(columns=["kwh", "outcome"])
prepared = make_column_transformer((OneHotEncoder(), ["kiln"]), remainder="passthrough")
model = make_pipeline(prepared, RandomForestClassifier(10, random_state=0)).fit(features, table.outcome)
joblib.dump(model, sys.argv[3])
print(json.dumps([sklearn.__version__, model.predict_proba(features.head(20)).tolist()]))
"""


@pytest.fixture(scope="module")
def libraries(studio: Studio, key: str) -> str:
    """Where an environment's libraries lie, that was built through the API."""
    with studio.client(key=key) as author:
        sent = author.post("/api/v1/environments", files={"requirements": ("requirements.txt", REQUIREMENTS.encode())})
        if sent.status_code == 202:
            job = ended(author, sent, seconds=BUILD_SECONDS)
            assert job["state"] == "done", job
        (made,) = (one for one in author.get("/api/v1/environments").json()["environments"] if "1.3.2" in str(one))
        return str(studio.home / "environments" / made["id"] / "libraries")


@pytest.fixture(scope="module")
def old(libraries: str, tmp_path_factory: pytest.TempPathFactory) -> tuple[bytes, str, list[list[float]]]:
    """A model saved with those libraries, by them alone: the file, their version, and what it says of twenty rows."""
    folder = tmp_path_factory.mktemp("old")
    (folder / "table.csv").write_bytes(csv(firings()))
    arguments = [libraries, str(folder / "table.csv"), str(folder / "model.joblib")]
    done = subprocess.run(
        [sys.executable, "-S", "-P", "-c", TRAIN, *arguments], capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    version, expected = json.loads(done.stdout)
    return (folder / "model.joblib").read_bytes(), version, expected


TABLE = firings()
FEATURES = TABLE.drop(columns=["kwh", "outcome"])


def _bring_old(author: httpx.Client, content: bytes, **parts: Any) -> httpx.Response:
    return bring(author, model=content, reference=csv(TABLE.drop(columns="kwh")), target="outcome", **parts)


@pytest.fixture(scope="module")
def aged(studio: Studio, key: str, old: tuple[bytes, str, list[list[float]]]) -> Iterator[str]:
    """A demo of the old model, by its address."""
    with studio.client(key=key) as author:
        made = _bring_old(author, old[0], requirements=REQUIREMENTS, title="Aged")
        assert made.status_code == 201, made.text
        yield made.json()["slug"]
        author.delete(f"/api/v1/demos/{made.json()['slug']}")


def _probabilities(author: httpx.Client, slug: str, row: dict[str, Any]) -> dict[str, float]:
    asked = author.post(f"/api/v1/demos/{slug}/predictions?draft=1", json={"inputs": row})
    assert asked.status_code == 200, asked.text
    return {one["class"]: one["probability"] for one in asked.json()["answer"]["probabilities"]}


def test_a_model_of_two_years_ago_answers_as_it_did_beside_one_of_today(
    author: httpx.Client, aged: str, old: tuple[bytes, str, list[list[float]]]
):
    _, version, expected = old
    state = author.get(f"/api/v1/demos/{aged}").json()
    assert (version, state["found"]["running"]) == ("1.3.2", "1.3.2")
    assert {one["name"]: one["version"] for one in state["environment"]["packages"]}["pandas"] == "2.1.4"
    rows = json.loads(FEATURES.head(20).to_json(orient="records"))
    for row, (green, red) in zip(rows, expected, strict=True):
        assert _probabilities(author, aged, row) == {"green": green, "red": red}
    today = bring(author, model=dumped(regressor_pipeline(TABLE)), title="Today")
    assert today.json()["found"]["running"] != "1.3.2"
    asked = author.post(f"/api/v1/demos/{today.json()['slug']}/predictions?draft=1", json={"inputs": rows[0]})
    assert asked.status_code == 200
    author.delete(f"/api/v1/demos/{today.json()['slug']}")


def test_everything_else_works_as_for_any_model(author: httpx.Client, aged: str):
    row = json.loads(FEATURES.head(1).to_json(orient="records"))[0]
    explained = author.post(
        f"/api/v1/demos/{aged}/predictions?draft=1&with=explanation,curves", json={"inputs": row}
    ).json()
    total = sum(one["contribution"] for one in explained["explanation"]["contributions"])
    shown = explained["answer"]["probabilities"][0]["probability"]
    assert abs(explained["explanation"]["baseline"] + total - shown) < 1e-9
    assert {curve["field"] for curve in explained["curves"]} == set(FEATURES)
    table = {"table": ("firings.csv", as_csv(FEATURES.head(50)))}
    job = ended(author, author.post(f"/api/v1/demos/{aged}/jobs?draft=1", files=table, data={"kind": "table"}))
    assert list(result(author, job).columns[: len(FEATURES.columns)]) == list(FEATURES.columns)
    assert job["answered"] == 50
    checks = author.post(f"/api/v1/demos/{aged}/checks").json()["checks"]
    assert {one["name"]: one["status"] for one in checks}["repeatable"] == "pass"


def test_without_them_it_does_not_open_and_what_it_needs_is_offered(
    author: httpx.Client, old: tuple[bytes, str, list[list[float]]]
):
    body = problem(_bring_old(author, old[0]), 422)
    assert "saved with scikit-learn 1.3.2" in body["detail"]
    assert body["requirements"] == ["scikit-learn==1.3.2", "pandas", "numpy<2"]


def test_a_function_runs_with_them_and_says_what_it_lacks(author: httpx.Client, libraries: str):
    source = "import sklearn\nfrom typing import Annotated\n\n\ndef version(x: Annotated[float, (0, 1)]) -> str:\n"
    source += "    import os\n    if x > 4:\n        os._exit(1)\n    return sklearn.__version__\n"
    made = author.post(
        "/api/v1/demos",
        files={"function": ("f.py", source.encode()), "beside": ("b.zip", zipped({"a.txt": b"1"}))},
        data={"requirements": REQUIREMENTS},
    )
    assert made.status_code == 201, made.text
    slug = made.json()["slug"]
    ask = f"/api/v1/demos/{slug}/predictions?draft=1"
    assert author.post(ask, json={"inputs": {"x": 0.5}}).json()["answer"]["text"] == "1.3.2"
    # Whatever it does to its process, it is there again.
    assert author.post(ask, json={"inputs": {"x": 5}}).status_code == 503
    wait_for(lambda: author.post(ask, json={"inputs": {"x": 0.5}}).status_code == 200)
    author.delete(f"/api/v1/demos/{slug}")
    lacking = author.post(
        "/api/v1/demos",
        files={"function": ("f.py", b"import PIL\ndef f(x: float) -> float: return x")},
        data={"requirements": REQUIREMENTS},
    )
    body = problem(lacking, 422)
    assert "which is not among its requirements; add `Pillow`" in body["detail"]
    assert body["requirements"] == ["Pillow"]


def test_its_folder_has_them_and_makes_the_same_demo_again(author: httpx.Client, aged: str):
    packed = author.get(f"/api/v1/demos/{aged}/folder").content
    again = author.post("/api/v1/demos", files={"folder": ("demo.zip", packed)}, data={"slug": "aged-again"})
    assert again.status_code == 201, again.text
    assert again.json()["requirements"] == REQUIREMENTS
    assert again.json()["environment"]["id"] == author.get(f"/api/v1/demos/{aged}").json()["environment"]["id"]
    author.delete("/api/v1/demos/aged-again")


def test_they_can_be_taken_away(author: httpx.Client, libraries: str):
    source = b"def f(x: float) -> float: return 2 * x"
    sent = author.post("/api/v1/demos", files={"function": ("f.py", source)}, data={"requirements": REQUIREMENTS})
    slug = sent.json()["slug"]
    assert sent.json()["environment"]["is_here"]
    # Something must make it a multipart request where all parts are text.
    nothing = {"requirements": (None, b"")}
    away = author.put(f"/api/v1/demos/{slug}/model", files=nothing)
    assert away.status_code == 200, away.text
    assert (away.json()["demo"]["environment"], away.json()["demo"]["requirements"]) == (None, None)
    author.delete(f"/api/v1/demos/{slug}")


def test_what_holds_no_code_is_read_here_and_keeps_its_requirements(author: httpx.Client):
    numbers = FEATURES[["pots", "peak"]]
    booster = xgboost.XGBRegressor(n_estimators=3).fit(numbers, TABLE.kwh).get_booster()
    made = bring(author, model=bytes(booster.save_raw("json")), reference=csv(numbers), requirements="xgboost==1.7.6")
    assert made.status_code == 201, made.text
    assert (made.json()["environment"], made.json()["requirements"]) == (None, "xgboost==1.7.6")
    assert made.json()["compiled"]["adopted"]
    author.delete(f"/api/v1/demos/{made.json()['slug']}")


def test_what_cannot_be_had_ends_its_job_in_words_and_leaves_nothing(author: httpx.Client, studio: Studio):
    before = author.get("/api/v1/demos").json()
    sent = bring(author, requirements="scikit-learn==1.3.99", title="Never")
    job = ended(author, sent)
    assert job["state"] == "failed"
    assert job["detail"].startswith("There is no `scikit-learn==1.3.99` to be installed here; the nearest are 1.3.0")
    assert [one["field"] for one in job["errors"]] == ["requirements"]
    assert author.get("/api/v1/demos").json() == before
    refused = problem(bring(author, requirements="-r other.txt"), 422)
    assert [one["field"] for one in refused["errors"]] == ["requirements"]


def test_a_build_can_be_cancelled_and_is_nobody_elses(author: httpx.Client, studio: Studio):
    sent = bring(author, requirements="scipy==1.11.4\nscikit-learn==1.2.2", title="Cancelled")
    assert sent.status_code == 202
    place = sent.headers["Location"]
    with studio.client() as visitor:
        assert visitor.get(place).status_code == 404
    folder = studio.home / "environments"
    wait_for(lambda: list(folder.glob("making-*")), what="being built")
    assert author.delete(place).status_code == 204
    assert author.get(place).json()["state"] == "cancelled"
    wait_for(lambda: not list(folder.glob("making-*")))


def test_known_environments_are_listed_with_the_demos_that_use_them(author: httpx.Client, aged: str):
    listed = author.get("/api/v1/environments").json()["environments"]
    (used,) = (one for one in listed if aged in one["demos"])
    assert used["requirements"] == REQUIREMENTS
    assert used["bytes"] > 100 << 20
    assert pd.read_json(io.StringIO(json.dumps(used["packages"]))).name.is_monotonic_increasing
