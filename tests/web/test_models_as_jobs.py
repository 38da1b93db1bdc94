"""Who does not wait while a model is opened gets a job: done, failed as the call itself would have, or cancelled."""

import httpx

from ..studio import wait_for
from .tables import ended

ASYNC = {"Prefer": "respond-async, wait=5"}
SLOW = """
import time
time.sleep({seconds})

def drying(wall: float = 5.0) -> float:
    "How slowly does it dry?"
    return 2 * wall
"""
TWO = "def drying(wall: float) -> float:\n    return wall\n\n\ndef firing(wall: float) -> float:\n    return wall\n"


def _sent(author: httpx.Client, source: str, **parts: str) -> httpx.Response:
    sent = author.post("/api/v1/demos", files={"function": ("drying.py", source.encode())}, data=parts, headers=ASYNC)
    assert sent.status_code == 202, sent.text
    return sent


def test_the_demo_is_there_once_the_job_is_done(author: httpx.Client):
    sent = _sent(author, SLOW.format(seconds=0.2))
    assert sent.headers["Location"] == f"/api/v1/jobs/{sent.json()['id']}"
    assert (sent.json()["kind"], sent.json()["file"]) == ("model", "drying.py")
    job = ended(author, sent)
    assert job["state"] == "done", job
    slug = job["result"]["slug"]
    asked = author.post(f"/api/v1/demos/{slug}/predictions?draft=1", json={"inputs": {"wall": 4}})
    assert asked.json()["answer"]["value"] == 8
    author.delete(f"/api/v1/demos/{slug}")


def test_what_the_call_would_have_said_is_said_by_the_job(author: httpx.Client):
    job = ended(author, _sent(author, TWO))
    assert job["state"] == "failed"
    (fault,) = job["errors"]
    assert (fault["asks"], fault["choices"]) == ("function_name", ["drying", "firing"])
    assert "has 2 public functions" in fault["message"]
    job = ended(author, _sent(author, TWO, function_name="firing"))
    assert job["state"] == "done", job
    author.delete(f"/api/v1/demos/{job['result']['slug']}")


def test_another_model_takes_a_demos_place_with_its_title_and_address(author: httpx.Client):
    slug = ended(author, _sent(author, TWO, function_name="firing"))["result"]["slug"]
    sent = author.put(
        f"/api/v1/demos/{slug}/model",
        files={"function": ("drying.py", SLOW.format(seconds=0).encode())},
        data={"function_name": "", "title": "How slowly?", "slug": "how-slowly"},
        headers=ASYNC,
    )
    assert (sent.json()["kind"], sent.json()["demo"]) == ("model", slug)
    job = ended(author, sent)
    assert (job["state"], job["result"]["slug"]) == ("done", "how-slowly"), job
    state = author.get("/api/v1/demos/how-slowly").json()
    assert (state["title"], state["found"]["steps"]) == ("How slowly?", ["drying()"])
    author.delete("/api/v1/demos/how-slowly")


def test_one_that_is_cancelled_in_mid_opening_leaves_no_demo(author: httpx.Client):
    before = {one["slug"] for one in author.get("/api/v1/demos").json()["demos"]}
    sent = _sent(author, SLOW.format(seconds=4))
    address = f"/api/v1/jobs/{sent.json()['id']}"
    wait_for(lambda: author.get(address).json()["state"] == "running")
    assert author.delete(address).status_code == 204
    # The next one is behind it: once that is done, so is what was cancelled.
    job = ended(author, _sent(author, TWO, function_name="drying"))
    author.delete(f"/api/v1/demos/{job['result']['slug']}")
    assert {one["slug"] for one in author.get("/api/v1/demos").json()["demos"]} == before
