"""Where chunks are asked about: workers behind walls, or a cluster that its operator has named."""

import os
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from ..studio import Studio, wait_for
from .tables import as_csv, ended, pieces, result, send

N_ROWS = 60_000
# As few as are worth sending to workers.
SOME_ROWS = 6000


@pytest.fixture
def cluster(tmp_path: Path) -> Iterator[str]:
    """Somebody's Dask cluster, whose processes know nothing of this program."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    address = f"tcp://127.0.0.1:{port}"
    commands = [
        ["dask_scheduler", "--host", "127.0.0.1", "--port", str(port), "--no-dashboard"],
        ["dask_worker", address, "--host", "127.0.0.1", "--nthreads", "1", "--no-dashboard"],
    ]
    environment = {name: value for name, value in os.environ.items() if name != "PYTHONPATH"}
    running = [
        subprocess.Popen(
            [sys.executable, "-P", "-m", f"distributed.cli.{command[0]}", *command[1:]],
            cwd=tmp_path,
            env=environment,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        for command in commands
    ]
    yield address
    for process in reversed(running):
        process.terminate()
        process.wait(20)


def test_workers_are_behind_walls_of_their_own(own_studio: Studio) -> None:
    with own_studio.client(key=own_studio.new_key()) as author:
        sent = send(author, as_csv(pieces(N_ROWS)))
        workers = wait_for(own_studio.workers, what="workers")
        networks = {os.readlink(f"/proc/{worker.pid}/ns/net") for worker in workers}
        assert os.readlink("/proc/self/ns/net") not in networks
        assert len(networks) == 1
        # What they listen on is their own network's: nobody here can reach it.
        for worker in workers:
            lines = Path(f"/proc/{worker.pid}/net/tcp").read_text().splitlines()[1:]
            ports = {int(line.split()[1].partition(":")[2], 16) for line in lines if line.split()[3] == "0A"}
            assert ports
            for port in ports:
                with socket.socket() as line:
                    assert line.connect_ex(("127.0.0.1", port)) != 0 or port == own_studio.port
        assert all(Path(f"/proc/{worker.pid}/root/home").exists() is False for worker in workers)
        assert ended(author, sent)["answered"] == N_ROWS


def test_a_cluster_that_exists_is_sent_the_same_chunks(cluster: str, tmp_path: Path) -> None:
    environment = {"PLAINWINDOW_RATE": "0", "PLAINWINDOW_DASK_SCHEDULER": cluster}
    studio = Studio(tmp_path / "home", environment=environment)
    try:
        with studio.client(key=studio.new_key()) as author:
            table = pieces(SOME_ROWS)
            job = ended(author, send(author, as_csv(table)))
            assert (job["state"], job["answered"]) == ("done", SOME_ROWS)
            assert not studio.workers()
            # A small table is asked of the model's own runner: both say the same.
            few = ended(author, send(author, as_csv(table.head(50))))
            whole, part = result(author, job), result(author, few)
            assert list(whole["probability cracks"].head(50)) == list(part["probability cracks"])
            assert list(whole["answer"].head(50)) == list(part["answer"])
    finally:
        studio.stop()


def test_a_cluster_that_is_not_there_is_said_not_to_be(tmp_path: Path) -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        address = f"tcp://127.0.0.1:{probe.getsockname()[1]}"
    studio = Studio(tmp_path / "home", environment={"PLAINWINDOW_DASK_SCHEDULER": address})
    try:
        with studio.client(key=studio.new_key()) as author:
            started = time.monotonic()
            job = ended(author, send(author, as_csv(pieces(SOME_ROWS))), seconds=60)
            assert job["state"] == "failed"
            assert f"The cluster at {address} cannot be used" in job["detail"]
            assert time.monotonic() - started < 60
    finally:
        studio.stop()
