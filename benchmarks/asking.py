"""Calls to a running server: jobs followed, and how long visitors wait."""

import contextlib
import http.client
import json
import statistics
import time
from collections.abc import Iterator
from typing import Any

from .servers import Running

__all__ = ["CASE", "asked", "followed", "p95_ms"]

ASK_SECONDS, ASK_PAUSE = 8.0, 0.02
FOLLOW_PAUSE = 0.1
# A case of *Will it crack?*.
CASE = {
    "clay_body": "porcelain",
    "wall_mm": 14,
    "width_cm": 20,
    "attached": True,
    "drying_days": 2,
    "humidity": 58,
    "covered": False,
    "glaze": "clear",
    "heating_rate": 120,
    "peak_temp": 1260,
    "cooling_hours": 12,
}


@contextlib.contextmanager
def asked(
    server: Running, key: str, method: str, path: str, body: Any = None, headers: dict[str, str] | None = None
) -> Iterator[http.client.HTTPResponse]:
    """What an author's call brings back, on a connection of its own."""
    connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=600)
    connection.request(method, path, body, {"Authorization": f"Bearer {key}", **(headers or {})})
    yield connection.getresponse()
    connection.close()


def followed(server: Running, key: str, address: str) -> dict[str, Any]:
    """A job once it is over."""
    while True:
        with asked(server, key, "GET", address) as response:
            job: dict[str, Any] = json.loads(response.read())
        if job["state"] in ("done", "failed", "cancelled"):
            return job
        time.sleep(FOLLOW_PAUSE)


def p95_ms(server: Running, slug: str, body: str) -> float:
    """How long a visitor waits for an answer, but for the slowest twentieth; one asks after the other."""
    connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=30)
    times = []
    until = time.perf_counter() + ASK_SECONDS
    while time.perf_counter() < until:
        begun = time.perf_counter()
        connection.request("POST", f"/api/v1/demos/{slug}/predictions", body, {"Content-Type": "application/json"})
        assert connection.getresponse().read()
        times.append((time.perf_counter() - begun) * 1000)
        time.sleep(ASK_PAUSE)
    connection.close()
    return statistics.quantiles(times, n=20)[-1]
