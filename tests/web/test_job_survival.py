"""A job outlives whatever dies: its result is whole, no row twice and none missing."""

import contextlib
import os
import signal
import subprocess
import time
from typing import Any

import httpx
import pytest

from plain_window.samples.only_a_table import TABLE

from ..studio import Studio, wait_for
from .tables import ENDED, as_csv, pieces, result, send

N_ROWS = 260_000


def test_a_result_is_whole_whatever_dies_meanwhile(own_studio: Studio) -> None:
    table = pieces(N_ROWS)
    with own_studio.client(key=own_studio.new_key()) as author:
        address, done = send(author, as_csv(table)).headers["Location"], 0
        for kind in ("worker", "jobs", "keeper", "mariadb"):
            job = _further(author, address, than=done)
            assert job["state"] == "running", f"over before {kind} was killed"
            done = job["done"]
            victims = own_studio.workers() if kind == "worker" else own_studio.processes()[kind]
            victims[0].kill()
        job = _over(author, address)
        assert (job["state"], job["done"], job["answered"]) == ("done", N_ROWS, N_ROWS)
        answers = result(author, job)
        assert list(answers["piece"]) == list(table["piece"])
        # The same as in one go, from where it was carried on as well.
        again = result(author, _over(author, send(author, as_csv(table.tail(2000))).headers["Location"]))
        assert list(again["answer"]) == list(answers["answer"].tail(2000))
        assert (again["probability cracks"].to_numpy() == answers["probability cracks"].tail(2000).to_numpy()).all()


def test_a_model_is_made_once_whatever_dies_while_it_is_fitted(own_studio: Studio) -> None:
    with own_studio.client(key=own_studio.new_key()) as author:
        files = {"table": ("firing_log.csv", TABLE.read_bytes())}
        address = author.post("/api/v1/starters", files=files, data={"target": "outcome"}).headers["Location"]
        reached = _further(author, address, than=15)["done"]
        own_studio.processes()["jobs"][0].kill()
        # How far it is is told now and then: its first steps may never be seen.
        wait_for(lambda: author.get(address).json()["done"] < reached, what="beginning anew")
        job = _over(author, address)
        assert job["state"] == "done", job
        slugs = [demo["slug"] for demo in author.get("/api/v1/demos").json()["demos"]]
        assert [slug for slug in slugs if slug.startswith("which-outcome")] == [job["result"]["slug"]]


def test_a_job_goes_on_after_the_whole_service_was_killed(own_studio: Studio) -> None:
    table = pieces(150_000, seed=5)
    with own_studio.client(key=own_studio.new_key()) as author:
        address = send(author, as_csv(table)).headers["Location"]
        assert _further(author, address, than=0)["state"] == "running"
    own_studio.process.send_signal(signal.SIGKILL)
    own_studio.process.wait(10)
    again = Studio(own_studio.home, environment={"PLAINWINDOW_RATE": "0"}, port=own_studio.port)
    try:
        with again.client(key=again.new_key()) as author:
            job = _over(author, address)
            assert (job["state"], job["answered"]) == ("done", 150_000)
            assert list(result(author, job)["piece"]) == list(table["piece"])
    finally:
        again.stop()


@pytest.mark.skipif(os.geteuid() != 0, reason="only root can have a small disk")
def test_a_full_disk_ends_a_job_with_a_reason_and_harms_nothing(own_studio: Studio) -> None:
    """The folder of jobs stands in for the disk: a small one of its own."""
    own_studio.stop()
    studio = Studio(own_studio.home, environment={"PLAINWINDOW_RATE": "0"}, port=own_studio.port)
    jobs = studio.home / "jobs"
    subprocess.run(["mount", "-t", "tmpfs", "-o", "size=4m", "tmpfs", str(jobs)], check=True)
    try:
        with studio.client(key=studio.new_key()) as author:
            job = _over(author, send(author, as_csv(pieces(60_000))).headers["Location"])
            assert job["state"] == "failed"
            assert "no room left" in job["detail"]
            assert list(jobs.iterdir()) == []
            assert author.get("/readyz").status_code == 200
    finally:
        studio.stop()
        subprocess.run(["umount", str(jobs)], check=True)


def _further(client: httpx.Client, address: str, *, than: int) -> dict[str, Any]:
    """The job once it has come further; calls may fail while something comes back."""

    def reached() -> dict[str, Any] | None:
        job = _now(client, address)
        return job if job and (job["done"] > than or job["state"] in ENDED) else None

    return wait_for(reached, what="the job's next chunk")


def _over(client: httpx.Client, address: str) -> dict[str, Any]:
    def reached() -> dict[str, Any] | None:
        job = _now(client, address)
        return job if job and job["state"] in ENDED else None

    return wait_for(reached, seconds=120, what="the job's end")


def _now(client: httpx.Client, address: str) -> dict[str, Any] | None:
    with contextlib.suppress(httpx.HTTPError):
        response = client.get(address)
        if response.status_code == 200:
            return response.json()
    time.sleep(0.1)
    return None
