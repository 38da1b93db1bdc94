"""Whole tables against a plain script with the library: `./plainwindow bench --tables`."""

import contextlib
import json
import subprocess
import sys
import tempfile
import threading
import time
import tomllib
from dataclasses import dataclass, field
from pathlib import Path

import pandas as pd
import psutil

from plain_window.samples import SAMPLES

from .asking import asked, followed, p95_ms
from .report import print_measures
from .servers import ROOT, Running, plain_window

__all__ = ["Memory", "measure_tables", "send_table"]

N_ROWS, N_ROWS_MORE = 1_000_000, 5_000_000
MODELS = {"will-it-crack": "300 trees", "what-will-this-firing-use": "boosting"}
WATCH_SECONDS = 0.2


@dataclass
class Memory:
    """The most that any process of a server takes while it is watched."""

    server: Running
    peak_mb: float = 0.0
    whose: str = ""
    stopping: threading.Event = field(default_factory=threading.Event)

    def watch(self) -> None:
        while not self.stopping.wait(WATCH_SECONDS):
            for process in psutil.Process(self.server.process.pid).children(recursive=True):
                with contextlib.suppress(psutil.Error):
                    taken = process.memory_info().rss / (1 << 20)
                    if taken > self.peak_mb:
                        self.peak_mb, self.whose = taken, " ".join(process.cmdline()[-2:])[-60:]


def measure_tables() -> None:
    """Measure and print: speed with one worker and two, memory, and what visitors notice meanwhile."""
    with tempfile.TemporaryDirectory() as scratch:
        folder = Path(scratch)
        plain: dict[str, float] = {}
        tables: dict[str, Path] = {}
        for name in MODELS:
            tables[name] = _table(name, N_ROWS, folder)
            plain[name] = _plain_seconds(name, tables[name], folder)
        words: dict[str, str] = {}
        for n_workers in (1, 2):
            with plain_window(folder / f"home-{n_workers}", PLAINWINDOW_JOB_WORKERS=str(n_workers)) as server:
                key = server.new_key()
                for name, kind in MODELS.items():
                    seconds, memory = _job_seconds(server, key, name, tables[name])
                    words[f"{kind}, {N_ROWS:,} rows, {n_workers} worker(s)"] = (
                        f"{seconds:.1f} s; plain script {plain[name]:.1f} s: {plain[name] / seconds:.2f} times as fast"
                    )
                    words[f"   most memory of a process, {kind}, {n_workers} worker(s)"] = (
                        f"{memory.peak_mb:.0f} MB ({memory.whose})"
                    )
                if n_workers == 2:
                    name = "what-will-this-firing-use"
                    more = _table(name, N_ROWS_MORE, folder)
                    seconds, memory = _job_seconds(server, key, name, more)
                    words[f"boosting, {N_ROWS_MORE:,} rows, 2 workers"] = f"{seconds:.1f} s"
                    words["   most memory of a process"] = f"{memory.peak_mb:.0f} MB ({memory.whose})"
                    words["visitors' answers, p95: idle, and while a table is answered"] = _visitors(
                        server, key, "will-it-crack", tables["will-it-crack"]
                    )
        print_measures("Whole tables, CSV in and out, from sending to the last byte of the result", words)


def _demo(name: str) -> Path:
    return SAMPLES[name]


def _table(name: str, n_rows: int, folder: Path) -> Path:
    path = folder / f"{name}-{n_rows}.csv"
    reference = pd.read_csv(_demo(name) / "reference.csv")
    some = reference.sample(n_rows, replace=True, random_state=1)
    some.insert(0, "number", range(n_rows))
    some.to_csv(path, index=False)
    return path


def _plain_seconds(name: str, table: Path, folder: Path) -> float:
    demo = _demo(name)
    target = tomllib.loads((demo / "demo.toml").read_text())["target"]
    features = [column for column in pd.read_csv(demo / "reference.csv", nrows=1).columns if column != target]
    command = [sys.executable, "-P", "-m", "benchmarks.plain_script", str(demo / "model.joblib"), str(table)]
    command += [str(folder / "plain.csv"), json.dumps(features)]
    done = subprocess.run(command, cwd=ROOT, check=True, capture_output=True, text=True)
    return float(done.stdout.strip().splitlines()[-1])


def _job_seconds(server: Running, key: str, slug: str, table: Path) -> tuple[float, Memory]:
    memory = Memory(server)
    watching = threading.Thread(target=memory.watch)
    watching.start()
    begun = time.perf_counter()
    address = send_table(server, key, slug, table)
    job = followed(server, key, address)
    assert job["state"] == "done", job
    with asked(server, key, "GET", f"{address}/result") as response:
        while response.read(1 << 20):
            pass
    seconds = time.perf_counter() - begun
    memory.stopping.set()
    watching.join()
    return seconds, memory


def send_table(server: Running, key: str, slug: str, table: Path) -> str:
    """Begin a job with a table of the author's; gives its address."""
    boundary = "plain-window-bench"
    head = (
        f'--{boundary}\r\nContent-Disposition: form-data; name="kind"\r\n\r\ntable\r\n--{boundary}\r\n'
        f'Content-Disposition: form-data; name="table"; filename="{table.name}"\r\n\r\n'
    ).encode()
    foot = f"\r\n--{boundary}--\r\n".encode()

    def parts():
        yield head
        with open(table, "rb") as file:
            while part := file.read(1 << 20):
                yield part
        yield foot

    headers = {
        "Content-Type": f"multipart/form-data; boundary={boundary}",
        "Content-Length": str(len(head) + table.stat().st_size + len(foot)),
    }
    with asked(server, key, "POST", f"/api/v1/demos/{slug}/jobs", parts(), headers) as response:
        assert response.status == 202, response.read()
        return response.headers["Location"]


def _visitors(server: Running, key: str, slug: str, table: Path) -> str:
    row = json.loads(pd.read_csv(table, nrows=1).drop(columns=["number", "outcome"]).iloc[0].to_json())
    body = json.dumps({"inputs": row})
    idle = p95_ms(server, slug, body)
    address = send_table(server, key, slug, table)
    time.sleep(6)
    busy = p95_ms(server, slug, body)
    with asked(server, key, "GET", address) as response:
        state = json.loads(response.read())["state"]
    assert state == "running", "it must go on while visitors ask"
    return f"{idle:.1f} ms; {busy:.1f} ms"
