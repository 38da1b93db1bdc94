"""A function in another process, over the bridge, beside calling it directly: `./plainwindow bench --bridge`."""

import contextlib
import json
import os
import signal
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from pathlib import Path

from .asking import followed
from .functions import MANY, SOURCE, alone_ms, asked_ms
from .load import Load, keep_busy
from .report import print_measures
from .servers import ROOT, Running, plain_window
from .tables import send_table

__all__ = ["measure_bridge"]

SLUG = "what-is-the-answer"
CONNECTIONS, BUSY_SECONDS, N_RETURNS, N_ROWS = 16, 6.0, 5, 20_000
# What a notebook would run; it says when it begins to connect, and when it is connected.
PROCESS = """
import sys, time
import numpy as np
sys.path.insert(0, {bridge!r})
from plain_window_bridge import connect
from measured import answer{many}
print(time.time(), flush=True)
bridge = connect(answer, to={url!r}, key={key!r}, demo={slug!r}, say=lambda line: None{batch})
print(time.time(), flush=True)
bridge.wait()
"""


def measure_bridge() -> None:
    """Measure and print: what the bridge adds to a call, calls a second, cases a second, and how soon it is back."""
    words: dict[str, str] = {}
    with tempfile.TemporaryDirectory() as scratch, plain_window(Path(scratch) / "home") as server:
        key = server.new_key()
        for name, seconds in (("a function of 1 ms", 0.001), ("a function of next to nothing", 0.0)):
            source = SOURCE.replace("{seconds}", str(seconds))
            with _connected(server, key, Path(scratch), source):
                _publish(server, key)
                alone, asked = alone_ms(source), asked_ms(server, SLUG, "")
                words[f"{name}, one connection, p50"] = (
                    f"alone {alone:.2f} ms, over bridge and HTTP {asked:.2f} ms: {asked - alone:.2f} ms more"
                )
                load = _busy(server)
                words[f"   {CONNECTIONS} connections"] = f"{load.per_second:.0f} calls/s, {load.failures} failures"
        with _connected(server, key, Path(scratch), SOURCE.replace("{seconds}", "0.0") + MANY):
            words["explained, with curves, with a form for many, p50"] = (
                f"{asked_ms(server, SLUG, '?with=explanation,curves'):.1f} ms"
            )
            words["a table, with a form for many"] = f"{_cases_a_second(server, key, Path(scratch)):.0f} cases/s"
        words["from connecting again to the first answer"] = _returns(server, key, Path(scratch))
    print_measures("The bridge", words)


@contextlib.contextmanager
def _connected(server: Running, key: str, scratch: Path, source: str) -> Iterator[float]:
    """A process that holds the function; gives when it began to connect."""
    (scratch / "measured.py").write_text(source)
    has_many = MANY in source
    program = PROCESS.format(
        bridge=str(ROOT / "bridge"),
        url=f"http://127.0.0.1:{server.port}",
        key=key,
        slug=SLUG,
        many=", many" if has_many else "",
        batch=", batch=many" if has_many else "",
    )
    environment = {**os.environ, "PYTHONPATH": str(scratch), "PYTHONDONTWRITEBYTECODE": "1"}
    process = subprocess.Popen([sys.executable, "-c", program], env=environment, stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    try:
        begun = float(process.stdout.readline())
        process.stdout.readline()
        yield begun
    finally:
        process.send_signal(signal.SIGKILL)
        process.wait()
        process.stdout.close()


def _call(server: Running, key: str, method: str, path: str, body: object = None) -> dict[str, object]:
    headers = {"Authorization": f"Bearer {key}", "Content-Type": "application/json"}
    content = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(
        f"http://127.0.0.1:{server.port}/api/v1{path}", content, headers=headers, method=method
    )
    with urllib.request.urlopen(request, timeout=60) as reply:
        found: dict[str, object] = json.loads(reply.read() or b"{}")
    return found


def _publish(server: Running, key: str) -> None:
    _call(server, key, "POST", f"/demos/{SLUG}/releases", {})
    _call(server, key, "PUT", f"/demos/{SLUG}/access", {"access": "everyone"})


def _busy(server: Running) -> Load:
    bodies = [json.dumps({"inputs": {"x": at / 40, "y": 5.0}}).encode() for at in range(400)]
    return keep_busy(
        server.port, f"/api/v1/demos/{SLUG}/predictions", bodies, connections=CONNECTIONS, seconds=BUSY_SECONDS
    )


def _cases_a_second(server: Running, key: str, scratch: Path) -> float:
    """Of a table of the author's, from sending it until all of it is answered."""
    table = scratch / "cases.csv"
    table.write_text("x,y\n" + "".join(f"{at % 100 / 10},{at % 7}\n" for at in range(N_ROWS)))
    begun = time.perf_counter()
    job = followed(server, key, send_table(server, key, SLUG, table))
    assert job["state"] == "done", job
    return N_ROWS / (time.perf_counter() - begun)


def _returns(server: Running, key: str, scratch: Path) -> str:
    """How long it takes from the moment that a process begins to connect until a visitor has an answer again."""
    taken = []
    for _ in range(N_RETURNS):
        with _connected(server, key, scratch, SOURCE.replace("{seconds}", "0.0")) as begun:
            while not _answers(server):
                time.sleep(0.01)
            taken.append(time.time() - begun)
    return f"{min(taken):.2f} to {max(taken):.2f} s"


def _answers(server: Running) -> bool:
    request = urllib.request.Request(
        f"http://127.0.0.1:{server.port}/api/v1/demos/{SLUG}/predictions",
        json.dumps({"inputs": {"x": 1.0, "y": 5.0}}).encode(),
        headers={"Content-Type": "application/json"},
    )
    try:
        with urllib.request.urlopen(request, timeout=60) as reply:
            return bool(reply.status == 200)
    except urllib.error.HTTPError:
        return False
