"""Models made of tables, from sending one to the demo: `./plainwindow bench --starters`."""

import tempfile
import threading
import time
from pathlib import Path

import httpx
import numpy as np
import pandas as pd

from plain_window.samples.only_a_table import TABLE

from .report import print_measures
from .servers import Running, plain_window
from .tables import Memory

__all__ = ["measure_starters"]

SIZES = ((5_000, 20, "class"), (5_000, 20, "number"), (500_000, 50, "class"), (500_000, 50, "number"))
N_CATEGORIES = 5
FOLLOW_SECONDS = 0.2
ENDED = ("done", "failed", "cancelled")


def measure_starters() -> None:
    """Measure and print: until a table is looked at, until models are compared, until the demo is there, and memory."""
    words: dict[str, str] = {}
    with tempfile.TemporaryDirectory() as scratch, plain_window(Path(scratch) / "home") as server:
        key = server.new_key()
        words["the sample, 1,478 × 12, three classes"] = _started(server, key, TABLE)
        for n_rows, n_columns, answer in SIZES:
            path = Path(scratch) / f"{n_rows}-{answer}.csv"
            _table(n_rows, n_columns, answer).to_csv(path, index=False)
            name = f"{n_rows:,} × {n_columns}, {'three classes' if answer == 'class' else 'a number'}"
            words[f"{name}, {path.stat().st_size / 1e6:.0f} MB"] = _started(server, key, path)
    print_measures("Models made of tables", words)


def _table(n_rows: int, n_columns: int, answer: str) -> pd.DataFrame:
    """Measures and categories, some of which what happens hangs on."""
    rng = np.random.default_rng(1)
    measures = {f"m{at}_mm": rng.normal(10, 3, n_rows).round(2) for at in range(n_columns - N_CATEGORIES - 1)}
    table = pd.DataFrame(measures)
    for at in range(N_CATEGORIES):
        table[f"c{at}"] = rng.choice([f"v{value}" for value in range(3 + 3 * at)], n_rows)
    sum_ = (
        table["m0_mm"]
        + 0.5 * table["m1_mm"] * (table["c0"] == "v0")
        + np.sin(table["m2_mm"])
        + rng.normal(0, 3, n_rows)
    )
    table["outcome"] = sum_.round(2) if answer == "number" else pd.cut(sum_, [-99, 9, 13, 99], labels=["a", "b", "c"])
    return table


def _started(server: Running, key: str, path: Path) -> str:
    api = httpx.Client(
        base_url=f"http://127.0.0.1:{server.port}/api/v1", headers={"Authorization": f"Bearer {key}"}, timeout=300
    )
    memory = Memory(server)
    watching = threading.Thread(target=memory.watch)
    watching.start()
    begun = time.perf_counter()
    with open(path, "rb") as file:
        sent = api.post("/starters", files={"table": (path.name, file)}, data={"target": "outcome"})
    sent.raise_for_status()
    looked = compared = 0.0
    while (job := api.get(f"/jobs/{sent.json()['id']}").json())["state"] not in ENDED:
        now = time.perf_counter() - begun
        looked = looked or (now if job["starter"] else 0.0)
        compared = compared or (now if job["starter"] and job["starter"]["compared"] else 0.0)
        time.sleep(FOLLOW_SECONDS)
    seconds = time.perf_counter() - begun
    memory.stopping.set()
    watching.join()
    took = f"looked at after {looked:.1f} s, compared after {compared:.1f} s, {job['state']} after {seconds:.1f} s"
    return f"{took}; {job['total'] - 1} fits; at most {memory.peak_mb:,.0f} MB ({memory.whose.rsplit('.', 1)[-1]})"
