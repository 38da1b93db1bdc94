"""What takes longer than a glance is worked out by a job: what matters overall by all rows, how answers usually lie."""

import io

import pytest

from ..made_models import csv, firings
from ..studio import Studio, wait_for
from .helpers import bring, problem

SAMPLE = "/api/v1/demos/will-it-crack"
# Longer for all rows of its table than a call may take, and than anybody waits.
CALL_SECONDS = 2
SLOW = '''
import time
from typing import Literal

def full(pots: int, peak: float) -> dict[Literal["half", "whole"], float]:
    """How full a kiln is."""
    time.sleep(0.02)
    return {"half": 0.9, "whole": 0.1} if pots * peak < 12_000 else {"half": 0.2, "whole": 0.8}
'''


def begin(author, url: str, kind: str, **texts: str) -> dict:
    files = {name: (None, value) for name, value in {"kind": kind, **texts}.items()}
    begun = author.post(f"{url}/jobs", files=files)
    assert begun.status_code == 202, begun.text
    return begun.json()


def ended(author, job: dict) -> dict:
    def over():
        now = author.get(f"/api/v1/jobs/{job['id']}").json()
        return now["state"] in ("done", "failed", "cancelled") and now

    return wait_for(over, seconds=240, what="the job's end")


def settled(client, url: str, of: str) -> dict:
    def finished():
        body = client.get(f"{url}/overall", params={"of": of}).json()
        return body["share_done"] == 1 and body

    return wait_for(finished, seconds=120, what="what matters overall")


def test_what_matters_overall_by_all_rows_takes_the_place_of_what_some_said(author, visitor):
    glance = settled(visitor, SAMPLE, "warps")
    assert author.get(SAMPLE).json()["overall_by_all"] is False
    done = ended(author, begin(author, SAMPLE, "importance", of="warps"))
    assert (done["state"], done["kind"], done["done"], done["total"]) == ("done", "importance", 100, 100)
    assert done["result"]["slug"] == "will-it-crack"
    assert done["result"]["formats"] == []
    thorough = visitor.get(f"{SAMPLE}/overall", params={"of": "warps"}).json()
    n_kept = author.get(SAMPLE).json()["n_reference_rows"]
    assert glance["n_rows"] < thorough["n_rows"] == n_kept
    widths = [
        {one["field"]: one["importance"][2] - one["importance"][1] for one in found["fields"]}
        for found in (glance, thorough)
    ]
    assert all(widths[1][field] < widths[0][field] for field in widths[0])
    by_field = {one["field"]: one["importance"] for one in glance["fields"]}
    for one in thorough["fields"]:
        # Some of the rows said so much within their own error; the interval is a 95 % one, of eleven fields.
        _, low, high = by_field[one["field"]]
        assert low - (high - low) < one["importance"][0] < high + (high - low)
    assert any(job["id"] == done["id"] for job in author.get("/api/v1/jobs").json()["jobs"])
    taken = problem(author.get(f"/api/v1/jobs/{done['id']}/result"), 409)
    assert taken["detail"] == "What came of this job stands with its demo; there is no file of it."
    # Another class has not been asked about.
    assert settled(visitor, SAMPLE, "cracks")["n_rows"] < n_kept


@pytest.fixture(scope="module")
def hasty(tmp_path_factory):
    """A Plain Window whose models have little time."""
    studio = Studio(
        tmp_path_factory.mktemp("hasty") / "home", environment={"PLAINWINDOW_CALL_SECONDS": str(CALL_SECONDS)}
    )
    yield studio
    studio.stop()


def test_a_slow_model_is_not_killed_for_a_look_at_drift_and_a_job_counts_its_answers(hasty):
    table = firings(180)[["pots", "peak"]]
    with hasty.client(key=hasty.new_key()) as author, hasty.client() as visitor:
        files = {"function": ("full.py", SLOW.encode()), "reference": ("reference.csv", io.BytesIO(csv(table)))}
        url = f"/api/v1/demos/{author.post('/api/v1/demos', files=files).json()['slug']}"
        published = author.post(f"{url}/releases", json={"despite": {"speed": "it is slow on purpose"}})
        assert published.status_code < 300, published.text
        author.put(f"{url}/access", json={"access": "everyone"}).raise_for_status()
        runners = {process.pid for process in hasty.processes()["runner"]}
        found = author.get(f"{url}/drift").json()
        assert (found["answers"], found["answers_counted"], found["can_be_counted"]) == ([], False, True)
        assert {one["field"] for one in found["fields"]} == {"pots", "peak"}
        asked = visitor.post(f"{url}/predictions", json={"inputs": {"pots": 10, "peak": 1000.0}})
        assert asked.json()["answer"]["class"] == "half"
        assert runners <= {process.pid for process in hasty.processes()["runner"]}
        job = begin(author, url, "drift")
        wait_for(lambda: author.get(f"/api/v1/jobs/{job['id']}").json()["done"] >= 20, what="some rows being counted")
        # Whoever carries it out is lost: it goes on where it stood.
        (carrier,) = hasty.processes()["jobs"]
        carrier.kill()
        done = ended(author, job)
        assert (done["state"], done["done"], done["total"]) == ("done", 180, 180)
        (answer,) = author.get(f"{url}/drift").json()["answers"]
        share = round(100 * float((table["pots"] * table["peak"] < 12_000).mean()), 1)
        assert 0 < share < 100
        assert {one["name"]: one["reference"] for one in answer["bins"]} == pytest.approx(
            {"half": share, "whole": 100 - share}
        )


def test_only_the_author_begins_it_and_only_where_something_can_come_of_it(author, visitor):
    wanted = {"kind": (None, "importance")}
    problem(visitor.post(f"{SAMPLE}/jobs", files=wanted), 403)
    body = problem(author.post(f"{SAMPLE}/jobs", files={**wanted, "of": (None, "explodes")}), 422)
    assert "`sound`" in body["detail"]
    table = {"kind": (None, "drift"), "table": ("month.csv", b"wall_mm\n7\n")}
    sent = problem(author.post(f"{SAMPLE}/jobs", files=table), 422)
    assert sent["errors"][0]["message"].endswith("Leave `table` out.")
    pictures = author.post("/api/v1/demos/how-is-the-glaze/jobs", files=wanted)
    assert "pictures" in problem(pictures, 422)["detail"]
    unknown = problem(author.post(f"{SAMPLE}/jobs", files={"kind": (None, "opinion")}), 422)
    assert "`table` or `importance` or `drift`" in unknown["errors"][0]["message"]
    slug = bring(author, title="Firing without rows").json()["slug"]
    author.delete(f"/api/v1/demos/{slug}")
    problem(author.post(f"/api/v1/demos/{slug}/jobs", files=wanted), 404)
