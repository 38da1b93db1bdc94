"""One author's demos are none of another's business: for every call there is."""

import re
import subprocess
import sys

import httpx
import pytest

import plain_window.web.views  # noqa: F401 -- they register themselves
from plain_window.web.operations import Operation
from plain_window.web.views.api import api

from ..studio import Studio
from .helpers import bring, problem
from .tables import as_csv, ended, pieces, send

NEW_AUTHOR = """
import json, sys
from pathlib import Path
from plain_window.store.authors import make_key
from plain_window.store.changes import ChangeStamp
from plain_window.store.database import use_database
from plain_window.store.records import Author
run = Path(sys.argv[1])
use_database(json.loads((run / "database.json").read_text())["url"])
print(make_key(Author.create(name="neighbour"), "tests", ChangeStamp(run)))
"""
ABOUT_A_DEMO = [each for each in api.operations if "<slug>" in each.path]
# What a visitor may ask of a demo that is open.
VISITORS = {"get_page", "get_schema", "create_prediction", "get_overall", "get_among", "create_where", "fetch_link"}
VISITORS |= {
    "get_browser_content",
    "get_browser_model",
    "create_boxes",
    "create_made",
    "get_sample",
    "get_sample_film",
    "give_passcode",
    "give_outcome",
    "get_report",
    "get_known",
    "create_job",
}
BODIES = {
    "DraftChange": {"title": "Mine now"},
    "AccessChange": {"access": "everyone"},
    "Link": {"link": "https://pots.example/a.png"},
    "PredictionRequest": {"inputs": {}},
    "Passcode": {"passcode": "celadon"},
    "GivenOutcome": {"right": True},
}


@pytest.fixture(scope="module")
def neighbour(studio: Studio) -> httpx.Client:
    """A second author on the same server."""
    command = [sys.executable, "-P", "-c", NEW_AUTHOR, str(studio.home / "run")]
    done = subprocess.run(command, env=studio.environment, capture_output=True, text=True, check=True)
    with studio.client(key=done.stdout.strip()) as client:
        yield client


@pytest.fixture(scope="module")
def private(studio: Studio, key: str) -> str:
    """A published demo that is open to nobody but its author, by its address."""
    with studio.client(key=key) as author:
        slug = bring(author, title="A secret glaze").json()["slug"]
        assert author.post(f"/api/v1/demos/{slug}/releases").status_code == 201
        yield slug
        author.delete(f"/api/v1/demos/{slug}")


def ask(client: httpx.Client, operation: Operation, slug: str) -> httpx.Response:
    path = operation.path.replace("<slug>", slug).replace("<answer>", "x").replace("<name>", "0.picture")
    path = re.sub(r"<int:\w+>", "1", path)
    assert "<" not in path, path
    body = BODIES.get(operation.body.__name__, {}) if operation.body else None
    return client.request(operation.method, f"/api/v1{path}", json=body)


@pytest.mark.parametrize("operation", ABOUT_A_DEMO, ids=lambda each: f"{each.method} {each.path}")
def test_a_private_demo_is_not_there_for_another_author(neighbour, author, private, operation):
    before = author.get(f"/api/v1/demos/{private}").json()
    theirs, nowhere = ask(neighbour, operation, private), ask(neighbour, operation, "no-such-demo")
    problem(theirs, 404)
    assert theirs.json() == nowhere.json()
    assert author.get(f"/api/v1/demos/{private}").json() == before


@pytest.mark.parametrize(
    "operation",
    [each for each in ABOUT_A_DEMO if each.name not in VISITORS],
    ids=lambda each: f"{each.method} {each.path}",
)
def test_an_open_demo_is_no_less_its_authors_own(neighbour, visitor, operation):
    problem(ask(neighbour, operation, "will-it-crack"), 404)
    assert ask(visitor, operation, "will-it-crack").status_code in (401, 404)
    assert visitor.get("/api/v1/demos/will-it-crack/page").status_code == 200


def test_the_calls_of_visitors_are_all_known():
    assert {each.name for each in ABOUT_A_DEMO} >= VISITORS


def test_the_shelf_and_the_keys_are_ones_own(neighbour, author, private):
    assert private not in [demo["slug"] for demo in neighbour.get("/api/v1/demos").json()["demos"]]
    assert private in [demo["slug"] for demo in author.get("/api/v1/demos").json()["demos"]]


def test_what_another_author_deleted_cannot_be_brought_back(neighbour, author):
    slug = bring(author, title="Thrown away").json()["slug"]
    author.delete(f"/api/v1/demos/{slug}")
    problem(neighbour.post(f"/api/v1/demos/{slug}/restore"), 404)
    assert slug not in [demo["slug"] for demo in neighbour.get("/api/v1/demos").json()["deleted"]]
    assert author.post(f"/api/v1/demos/{slug}/restore").status_code == 200
    author.delete(f"/api/v1/demos/{slug}")


def test_an_address_that_was_taken_meanwhile_is_said_and_nothing_is_lost(author, neighbour):
    first = bring(author, title="First come", slug="first-come").json()["slug"]
    assert first == "first-come"
    author.delete(f"/api/v1/demos/{first}")
    assert bring(neighbour, title="First come", slug="first-come").json()["slug"] == "first-come"
    said = problem(author.post(f"/api/v1/demos/{first}/restore"), 409)
    assert "first-come" in said["detail"]
    assert first in [demo["slug"] for demo in author.get("/api/v1/demos").json()["deleted"]]
    neighbour.delete("/api/v1/demos/first-come")
    assert author.post(f"/api/v1/demos/{first}/restore").json()["title"] == "First come"
    author.delete(f"/api/v1/demos/{first}")


def test_a_job_of_an_authors_is_not_there_for_another(neighbour, author):
    sent = send(author, as_csv(pieces(3)))
    address = sent.headers["Location"]
    for response in (
        neighbour.get(address),
        neighbour.get(f"{address}/result"),
        neighbour.get(f"{address}/faults"),
        neighbour.get(f"{address}/events"),
        neighbour.patch(address, json={"dates": "day"}),
        neighbour.post(f"{address}/start"),
        neighbour.delete(address),
    ):
        problem(response, 404)
    assert sent.json()["id"] not in [job["id"] for job in neighbour.get("/api/v1/jobs").json()["jobs"]]
    assert ended(author, sent)["answered"] == 3
