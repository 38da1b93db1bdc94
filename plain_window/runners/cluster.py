"""Has workers ask models about chunks of rows: the inside of a runner whose work is `CarryChunks`.

Everything that unpickles is in here, behind the same walls as a runner's: a Dask scheduler, its workers, and the client
that sends them chunks. They talk TLS, with a certificate made at the start and known to nobody else, on the loopback of
a network namespace that holds nothing but them. What comes in and what goes out are types of the contract.

With a cluster that its operator has named there is only the client, which then shares this machine's network. That
cluster's workers need this program's `core`, which is sent to them.
"""

import contextlib
import io
import os
import socket
import tempfile
import threading
import time
import zipfile
from pathlib import Path
from typing import Any

import dask
from distributed import Client, KilledWorker, LocalCluster
from distributed.security import Security

from ..core.batches.carried import run_chunk
from ..core.contract import decoded, encoded
from ..core.contract.chunks import AskChunk, ChunkLost, ChunkNotDone, ChunkReply
from ..core.contract.jobs import CarryChunks
from ..core.errors import PlainWindowError
from .confinement import KERNELS_VARIABLE, PACKAGE
from .protocol import ProtocolError, receive, send
from .waiting import connections
from .watching import write_beat

__all__ = ["serve_chunks"]

SETTINGS = {
    "distributed.worker.profile.enabled": False,
    "distributed.worker.multiprocessing-method": "spawn",
    "distributed.admin.system-monitor.disk": False,
    "distributed.admin.system-monitor.host-cpu": False,
    "distributed.scheduler.allowed-failures": 2,
    "distributed.worker.memory.target": False,
    "distributed.worker.memory.spill": False,
    "distributed.worker.memory.pause": False,
    "distributed.worker.memory.terminate": False,
    "distributed.worker.use-file-locking": False,
}
CONNECT_SECONDS = "15s"
BEAT_SECONDS = 1.0
# After so long without a chunk nobody wants it any more.
IDLE_SECONDS = 300.0
# A chunk that takes longer is given up: the keeper ends all of this, and another begins.
CHUNK_SECONDS = 300.0


class ClusterNotReached(PlainWindowError):
    """The cluster that was named does not answer, or cannot run this program; the message is a sentence."""


def serve_chunks(task: CarryChunks, listening: socket.socket, control: socket.socket, heartbeat: memoryview) -> None:
    """Answer everyone who has chunks, until the keeper goes.

    Parameters
    ----------
    task : CarryChunks
    listening : socket.socket
    control : socket.socket
    heartbeat : memoryview
        Shared with the keeper, which ends what takes too long.
    """
    dask.config.set(SETTINGS)
    client = _foreign(task.scheduler) if task.scheduler else _own(task.n_workers)
    under_way = _UnderWay(heartbeat)
    for connection in connections(listening, control, seconds=IDLE_SECONDS, is_idle=lambda: under_way.is_idle):
        threading.Thread(target=_serve_one, args=(connection, client, under_way), daemon=True).start()


def _own(n_workers: int) -> Client:
    security = Security.temporary()
    cluster = LocalCluster(
        n_workers=n_workers,
        threads_per_worker=1,
        processes=True,
        host="127.0.0.1",
        protocol="tls://",
        security=security,
        dashboard_address=None,
        worker_dashboard_address=None,
        memory_limit=None,
        local_directory=tempfile.gettempdir(),
        silence_logs=40,
    )
    return Client(cluster, security=security)


def _foreign(scheduler: str) -> Client:
    try:
        client = Client(scheduler, timeout=CONNECT_SECONDS, set_as_default=False)
        # Refuses other versions of Python and of what chunks are sent with.
        client.get_versions(check=True)
        client.upload_file(str(_packed_core()))
    except Exception as error:  # whatever a cluster of somebody else's does wrong
        raise ClusterNotReached(
            f"The cluster at {scheduler} cannot be used: {str(error).strip().splitlines()[0][:300]}"
        ) from error
    return client


def _packed_core() -> Path:
    """What a worker elsewhere needs of this program, as a file that can be imported from."""
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as file:
        for path in sorted([PACKAGE / "__init__.py", *(PACKAGE / "core").rglob("*.py")]):
            file.write(path, str(path.relative_to(PACKAGE.parent)))
    place = Path(tempfile.mkdtemp()) / "plain_window_core.zip"
    place.write_bytes(packed.getvalue())
    return place


class _UnderWay:
    """Tells the keeper that chunks are under way, and since when the one that takes longest has made no way."""

    def __init__(self, heartbeat: memoryview) -> None:
        self._heartbeat = heartbeat
        self._begun: dict[int, float] = {}
        self._n_begun = self._n_told = 0
        self._lock = threading.Lock()
        threading.Thread(target=self._run, daemon=True).start()

    @property
    def is_idle(self) -> bool:
        """Whether nothing is, and nothing was since the last time somebody asked."""
        with self._lock:
            n_new, self._n_told = self._n_begun - self._n_told, self._n_begun
            return not self._begun and not n_new

    @contextlib.contextmanager
    def one(self) -> Any:
        """Around one chunk."""
        with self._lock:
            self._n_begun += 1
            number = self._n_begun
            self._begun[number] = time.monotonic()
        self._beat()
        try:
            yield
        finally:
            with self._lock:
                del self._begun[number]
            self._beat()

    def _run(self) -> None:
        while True:
            time.sleep(BEAT_SECONDS)
            self._beat()

    def _beat(self) -> None:
        with self._lock:
            now = time.monotonic()
            oldest = min(self._begun.values(), default=0.0)
            # As long as none takes too long, the call that the keeper sees is a new one each time.
            began = 0.0 if not self._begun else now if now - oldest < CHUNK_SECONDS else oldest
            write_beat(self._heartbeat, int(began * 1e9), self._n_begun, is_quick=False)


def _serve_one(connection: socket.socket, client: Client, under_way: _UnderWay) -> None:
    with connection, contextlib.suppress(OSError, ProtocolError):
        while True:
            ask = receive(connection, AskChunk)
            with under_way.one():
                reply = _carried(client, ask)
            send(connection, reply)


def _carried(client: Client, ask: AskChunk) -> ChunkReply:
    future = client.submit(run_chunk, encoded(ask), KERNELS_VARIABLE, pure=False)
    try:
        reply: ChunkReply = decoded(future.result(), ChunkReply)
        return reply
    except KilledWorker:
        return ChunkNotDone("The processes that asked the model about these rows ended, again and again.")
    except Exception as error:  # a cluster that is going, or workers that cannot run this
        if client.status != "running":
            # Of no use any more: the keeper starts another, which says what there is to say.
            os._exit(1)
        return ChunkLost(f"{type(error).__name__}: {str(error)[:300]}")
