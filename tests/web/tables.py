"""Tables of cases, sent and followed."""

import io
import time
from typing import Any

import httpx
import pandas as pd

from ..studio import SAMPLE

ENDED = ("done", "failed", "cancelled")


def pieces(n_rows: int, *, seed: int = 3) -> pd.DataFrame:
    """Rows like those the sample was trained on, each with a name of its own."""
    table = pd.read_csv(SAMPLE / "reference.csv")
    some = table.sample(n_rows, replace=n_rows > len(table), random_state=seed).reset_index(drop=True)
    some.insert(0, "piece", [f"P-{at}" for at in range(n_rows)])
    return some


def as_csv(table: pd.DataFrame) -> bytes:
    return table.to_csv(index=False).encode()


def send(
    client: httpx.Client, table: bytes, *, slug: str = "will-it-crack", name: str = "pieces.csv", **options: Any
) -> httpx.Response:
    files = {"table": (name, io.BytesIO(table))}
    return client.post(f"/api/v1/demos/{slug}/jobs", files=files, data={"kind": "table", **options})


def ended(client: httpx.Client, sent: httpx.Response, *, seconds: float = 240.0) -> dict[str, Any]:
    """The job once it is over."""
    assert sent.status_code == 202, sent.text
    deadline = time.monotonic() + seconds
    while (job := client.get(sent.headers["Location"]).json())["state"] not in ENDED:
        assert time.monotonic() < deadline, job
        time.sleep(0.1)
    return job


def result(client: httpx.Client, job: dict[str, Any]) -> pd.DataFrame:
    response = client.get(f"/api/v1/jobs/{job['id']}/result")
    assert response.status_code == 200
    return pd.read_csv(io.BytesIO(response.content))
