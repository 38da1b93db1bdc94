"""Functions as models beside calling them directly: `./plainwindow bench --functions`."""

import http.client
import json
import statistics
import tempfile
import time
import types
from pathlib import Path

from .report import print_measures
from .servers import Running, plain_window

__all__ = ["MANY", "SOURCE", "alone_ms", "asked_ms", "measure_functions"]

N_CASES = 400
# Two functions that compute for about a millisecond and for next to nothing, without and with a form for many.
SOURCE = '''
import time
from typing import Annotated

import numpy as np


def answer(x: Annotated[float, (0, 10)], y: Annotated[float, (0, 10)] = 5.0) -> float:
    """What is the answer?"""
    until = time.perf_counter() + {seconds}
    while time.perf_counter() < until:
        pass
    return 2 * x + y
'''
MANY = """

def many(x: np.ndarray, y: np.ndarray) -> np.ndarray:
    return 2 * x + y
"""
TOML = 'title = "What is the answer?"\nslug = "{slug}"\n'


def measure_functions() -> None:
    """Measure and print: an answer over HTTP beside the function's own time, and explained ones."""
    words: dict[str, str] = {}
    with tempfile.TemporaryDirectory() as scratch, plain_window(Path(scratch) / "home") as server:
        for name, seconds, more in (
            ("a function of 1 ms", 0.001, ""),
            ("a function of next to nothing", 0.0, ""),
            ("the same with a form for many cases", 0.0, MANY),
        ):
            source = SOURCE.replace("{seconds}", str(seconds)) + more
            slug = f"function-{len(words)}"
            folder = Path(scratch) / slug
            folder.mkdir()
            (folder / "function.py").write_text(source)
            (folder / "demo.toml").write_text(TOML.replace("{slug}", slug))
            rows = "".join(f"{at / 30},{10 - at / 30}\n" for at in range(300))
            (folder / "reference.csv").write_text("x,y\n" + rows)
            server.publish(folder)
            alone, asked = alone_ms(source), asked_ms(server, slug, "")
            explained = asked_ms(server, slug, "?with=explanation,curves")
            words[name] = (
                f"alone {alone:.2f} ms, over HTTP {asked:.2f} ms: {asked - alone:.2f} ms more; explained, with curves "
                f"{explained:.1f} ms"
            )
    print_measures("Functions, one connection, p50", words)


def alone_ms(source: str) -> float:
    """What a call of its function `answer` takes by itself, p50."""
    module = types.ModuleType("measured")
    exec(source, module.__dict__)
    times = []
    for at in range(N_CASES):
        begun = time.perf_counter()
        module.answer(at / 40, 5.0)
        times.append((time.perf_counter() - begun) * 1000)
    return statistics.median(times)


def asked_ms(server: Running, slug: str, query: str) -> float:
    """What an answer over HTTP takes on one connection, p50."""
    connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=60)
    times = []
    for at in range(N_CASES if not query else 40):
        body = json.dumps({"inputs": {"x": at / 40, "y": 5.0}})
        begun = time.perf_counter()
        address = f"/api/v1/demos/{slug}/predictions{query}"
        connection.request("POST", address, body, {"Content-Type": "application/json"})
        reply = connection.getresponse()
        assert reply.read(), reply.status
        assert reply.status == 200, reply.status
        times.append((time.perf_counter() - begun) * 1000)
    connection.close()
    return statistics.median(times)
