"""Where chunks are asked about: workers behind walls, or a cluster that its operator has named."""

import os
import socket
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import pytest

from ..studio import Studio, wait_for
from .tables import as_csv, ended, pieces, result, send

N_ROWS = 60_000
# As few as are worth sending to workers.
SOME_ROWS = 6000


@dataclass
class Cluster:
    """Somebody's Dask cluster, whose processes know nothing of this program."""

    address: str
    processes: list[subprocess.Popen[bytes]]

    def end(self) -> None:
        while self.processes:
            process = self.processes.pop()
            process.terminate()
            process.wait(20)


@pytest.fixture
def cluster(tmp_path: Path) -> Iterator[Cluster]:
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
    found = Cluster(address, running)
    yield found
    found.end()


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
        for worker in workers:
            inside = Path("/proc") / str(worker.pid) / "root"
            assert (inside / "usr").is_dir()
            assert not (inside / own_studio.home.relative_to("/")).exists()
        assert ended(author, sent)["answered"] == N_ROWS


def test_a_cluster_that_exists_is_sent_the_same_chunks_and_said_to_be_gone_once_it_is(
    cluster: Cluster, tmp_path: Path
) -> None:
    environment = {"PLAINWINDOW_RATE": "0", "PLAINWINDOW_DASK_SCHEDULER": cluster.address}
    studio = Studio(tmp_path / "home", environment=environment)
    try:
        with studio.client(key=studio.new_key()) as author:
            table = pieces(SOME_ROWS)
            # Its worker compiles the kernels first: it knows nothing of ours.
            job = ended(author, send(author, as_csv(table)))
            assert (job["state"], job["answered"]) == ("done", SOME_ROWS)
            assert not studio.workers()
            # A small table is asked of the model's own runner: both say the same.
            few = ended(author, send(author, as_csv(table.head(50))))
            whole, part = result(author, job), result(author, few)
            assert list(whole["probability cracks"].head(50)) == list(part["probability cracks"])
            assert list(whole["answer"].head(50)) == list(part["answer"])
            # Rows that nobody could ask about are not rows the model has no answer for.
            cluster.end()
            lost = ended(author, send(author, as_csv(table)))
            assert (lost["state"], lost["done"], lost["answered"]) == ("failed", 0, 0)
            assert f"The cluster at {cluster.address} cannot be used" in lost["detail"]
    finally:
        studio.stop()
