"""The bridge: a function in another process answers a demo, goes, comes back, is cut, and is killed in mid-call."""

import contextlib
import enum
import io
import os
import subprocess
import sys
import threading
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated, Any, Literal

import httpx
import msgpack
import numpy as np
import pandas as pd
import pytest
from jupyter_client.manager import KernelManager
from sklearn.linear_model import LogisticRegression
from websockets.exceptions import ConnectionClosed, InvalidStatus
from websockets.sync.client import connect as open_websocket

from ..studio import ROOT, Studio, wait_for

sys.path.insert(0, str(ROOT / "bridge"))
from plain_window_bridge import Bridge, BridgeRefused, connect

NOTEBOOK = """
import os, sys, time
sys.path.insert(0, {bridge!r})
from typing import Annotated
from plain_window_bridge import connect
def slow(x: Annotated[float, (0, 10)]) -> float:
    "How slow is it?"
    if x > 20:
        open({begun!r}, "w").close()
        time.sleep(60)
    return 2 * x
bridge = connect(slow, to={url!r}, key={key!r}, demo="from-a-notebook", say=lambda line: None)
print("connected", bridge.demo)
"""


STAND_IN = """
from typing import Annotated, Literal

Shares = dict[Literal["cracks", "sound"], float]

def cracks(wall: Annotated[float, (0, 12)], clay: Literal["red", "white"], dry: bool = True) -> Shares:
    "Will it crack?"
    return {"cracks": 0.25, "sound": 0.75}
"""


class Clay(enum.Enum):
    red = "red"
    white = "white"


LIMITS = (0.0, 12.0)


def cracks(
    wall: Annotated[float, LIMITS, "mm"], clay: Clay, dry: bool = True
) -> dict[Literal["cracks", "sound"], float]:
    """Will it crack?

    Parameters
    ----------
    wall
        At its thinnest.
    """
    assert isinstance(clay, Clay)
    if wall > 20:
        raise ValueError("no such wall")
    share = wall / 12 * (0.5 if clay is Clay.red else 1.0)
    return {"cracks": share, "sound": 1 - share}


@pytest.fixture
def bridged(studio: Studio, key: str) -> Iterator[Any]:
    """Connects what it is given; all of it is let go of, and its demos deleted, afterwards."""
    made: list[Bridge] = []

    def bridging(model: Any, *, host: str = "127.0.0.1", **options: Any) -> Bridge:
        to = studio.url.replace("127.0.0.1", host)
        bridge = connect(model, to=to, key=key, say=lambda line: None, **options)
        made.append(bridge)
        return bridge

    yield bridging
    for one in made:
        one.close()
    with studio.client(key=key) as author:
        for slug in {one.demo for one in made}:
            author.delete(f"/api/v1/demos/{slug}")


def _asked(client: httpx.Client, slug: str, inputs: dict[str, Any], query: str = "") -> httpx.Response:
    return client.post(f"/api/v1/demos/{slug}/predictions?draft=1{query}", json={"inputs": inputs})


def _publish(author: httpx.Client, demo: str) -> None:
    released = author.post(f"{demo}/releases", json={})
    if released.status_code == 409:
        despite = {one["field"]: "tried by hand" for one in released.json()["errors"]}
        released = author.post(f"{demo}/releases", json={"despite": despite})
    released.raise_for_status()


def _in_another_process(bridged: Any, **options: Any) -> Bridge:
    """As a process does that knows nothing of what this one has connected: by another name of the same server."""
    return bridged(cracks, host="localhost", **options)


def _comes_back(author: httpx.Client, slug: str, inputs: dict[str, Any]) -> None:
    wait_for(lambda: _asked(author, slug, inputs).status_code == 200, what="an answer")


CASE = {"wall": 6.0, "clay": "white", "dry": True}


def test_a_function_answers_from_where_it_is_and_its_body_stays_there(author: httpx.Client, bridged: Any):
    bridge = bridged(cracks, demo="cracks-elsewhere", name="the bench")
    state = author.get(f"/api/v1/demos/{bridge.demo}").json()
    assert (state["title"], state["answer"]["kind"]) == ("Will it crack?", "class")
    wall, clay, _dry = state["fields"]
    assert (wall["minimum"], wall["maximum"], wall["unit"], wall["help"]) == (0, 12, "mm", "At its thinnest.")
    assert [one["value"] for one in clay["options"]] == ["red", "white"]
    answer = _asked(author, bridge.demo, CASE, "&with=curves").json()
    assert {one["class"]: one["probability"] for one in answer["answer"]["probabilities"]} == {
        "cracks": 0.5,
        "sound": 0.5,
    }
    assert {one["field"] for one in answer["curves"]} == {"wall", "clay", "dry"}
    (listed,) = (one for one in author.get("/api/v1/bridges").json()["bridges"] if one["demo"] == bridge.demo)
    assert (listed["connected"], listed["name"]) == (True, "the bench")
    packed = zipfile.ZipFile(io.BytesIO(author.get(f"/api/v1/demos/{bridge.demo}/folder").content))
    told = packed.read("function.py").decode()
    assert "no such wall" not in told
    assert "class Clay" in told


def test_what_it_raises_reaches_its_author_only(author: httpx.Client, bridged: Any):
    bridge = bridged(cracks, demo="cracks-elsewhere")
    failed = _asked(author, bridge.demo, {**CASE, "wall": 30})
    assert failed.status_code == 502
    assert "ValueError: no such wall" in failed.text


def test_while_it_is_away_visitors_read_so_and_then_it_answers_again(author: httpx.Client, bridged: Any):
    bridge = bridged(cracks, demo="cracks-elsewhere")
    bridge.close()
    wait_for(lambda: "is not connected just now" in _asked(author, bridge.demo, CASE).text)
    assert _asked(author, bridge.demo, CASE).status_code == 503
    state = author.get(f"/api/v1/demos/{bridge.demo}").json()["bridge"]
    assert (state["connected"], state["since"] is not None) == (False, True)
    bridged(cracks, demo="cracks-elsewhere")
    assert _asked(author, bridge.demo, CASE).status_code == 200


def test_a_published_file_answers_while_the_process_is_away_and_the_page_says_which(
    author: httpx.Client, visitor: httpx.Client, bridged: Any
):
    files = {"function": ("cracks.py", STAND_IN.encode())}
    made = author.post("/api/v1/demos", files=files, data={"title": "Cracks elsewhere"}).raise_for_status()
    demo = f"/api/v1/demos/{made.json()['slug']}"
    author.put(f"{demo}/access", json={"access": "everyone"}).raise_for_status()
    _publish(author, demo)
    bridge = bridged(cracks, demo=made.json()["slug"])
    _publish(author, demo)

    def asked() -> tuple[int, int | None]:
        found = visitor.post(f"{demo}/predictions", json={"inputs": CASE})
        return found.status_code, found.json().get("release")

    refused = author.put(f"{demo}/release-while-away", json={"number": 2})
    assert (refused.status_code, "a process of yours too" in refused.json()["detail"]) == (422, True)
    assert visitor.get(f"{demo}/page").json()["away"] is None
    assert asked() == (200, 2)
    bridge.close()
    wait_for(lambda: asked() == (503, None))
    away = visitor.get(f"{demo}/page").json()["away"]
    assert (away["release"], away["published_at"], away["since"] is not None) == (2, None, True)
    author.put(f"{demo}/release-while-away", json={"number": 1}).raise_for_status()
    assert asked() == (200, 1)
    page = visitor.get(f"{demo}/page").json()
    assert (page["release"], page["away"]["release"], page["away"]["published_at"] is not None) == (1, 2, True)
    bridged(cracks, demo=made.json()["slug"])
    assert asked() == (200, 2)
    assert visitor.get(f"{demo}/page").json()["away"] is None


def test_a_cell_that_is_run_again_answers_the_same_demo(author: httpx.Client, bridged: Any):
    def wall_days(x: Annotated[float, (0, 10)]) -> float:
        return x

    first = bridged(wall_days)

    def wall_days(x: Annotated[float, (0, 10)]) -> float:
        return 3 * x

    again = bridged(wall_days)
    assert (again.demo, first.is_connected) == (first.demo, False)
    assert _asked(author, again.demo, {"x": 2}).json()["answer"]["value"] == 6


def test_a_line_that_is_cut_is_made_again(author: httpx.Client, bridged: Any):
    bridge = bridged(cracks, demo="cracks-elsewhere")
    bridge._socket.socket.shutdown(2)
    wait_for(lambda: not bridge.is_connected)
    wait_for(lambda: bridge.is_connected)
    _comes_back(author, bridge.demo, CASE)


def test_a_second_process_is_refused_or_takes_over(author: httpx.Client, bridged: Any):
    first = bridged(cracks, demo="cracks-elsewhere", name="the first")
    with pytest.raises(BridgeRefused, match=r"Another process answers for `cracks-elsewhere` already \(`the first`\)"):
        _in_another_process(bridged, demo="cracks-elsewhere")
    assert _asked(author, first.demo, CASE).status_code == 200
    _in_another_process(bridged, demo="cracks-elsewhere", take_over=True)
    wait_for(lambda: not first._thread.is_alive())
    assert "has taken `cracks-elsewhere` over" in first._refusal
    _comes_back(author, first.demo, CASE)


def test_many_calls_are_under_way_and_a_batch_form_takes_them_together(author: httpx.Client, bridged: Any):
    sizes = []

    def twice(x: Annotated[float, (0, 10)]) -> float:
        return 2 * x

    def twice_each(x: np.ndarray) -> np.ndarray:
        sizes.append(len(x))
        return 2 * x

    bridge = bridged(twice, batch=twice_each, demo="twice-elsewhere")
    answers: list[float] = []

    def ask(at: int) -> None:
        for _ in range(20):
            answers.append(_asked(author, bridge.demo, {"x": at}).json()["answer"]["value"] - 2 * at)

    threads = [threading.Thread(target=ask, args=(at,)) for at in range(8)]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    assert answers == [0.0] * 160
    assert max(sizes) > 1


def test_a_fitted_model_is_connected_as_it_is_with_its_table(author: httpx.Client, bridged: Any):
    table = pd.DataFrame({"wall": np.linspace(1, 9, 60), "days": np.tile([1, 5, 9], 20)})
    table["outcome"] = np.where(table.wall + table.days > 10, "sound", "cracks")
    model = LogisticRegression().fit(table[["wall", "days"]], table.outcome)
    bridge = bridged(model, reference=table, target="outcome", title="Fitted elsewhere")
    case = table[["wall", "days"]].iloc[[7]]
    answer = _asked(
        author, bridge.demo, {"wall": case.wall.item(), "days": int(case.days.item())}, "&with=explanation"
    ).json()
    found = {one["class"]: one["probability"] for one in answer["answer"]["probabilities"]}
    assert found == pytest.approx(dict(zip(model.classes_, model.predict_proba(case)[0], strict=True)))
    total = sum(one["contribution"] for one in answer["explanation"]["contributions"])
    shown = answer["answer"]["probabilities"][0]["probability"]
    assert answer["explanation"]["baseline"] + total == pytest.approx(shown)


def test_a_notebooks_kernel_is_killed_in_mid_call(studio: Studio, author: httpx.Client, key: str, tmp_path: Path):
    begun = tmp_path / "begun"
    kernel = KernelManager(kernel_name="python3")
    kernel.kernel_cmd = [sys.executable, "-m", "ipykernel_launcher", "-f", "{connection_file}"]
    kernel.start_kernel()
    client = kernel.client()
    client.start_channels()
    try:
        client.wait_for_ready(timeout=60)
        code = NOTEBOOK.format(bridge=str(ROOT / "bridge"), url=studio.url, key=key, begun=str(begun))
        done = client.execute_interactive(code, timeout=90, output_hook=lambda message: None)
        assert done["content"]["status"] == "ok", done["content"]
        assert _asked(author, "from-a-notebook", {"x": 4}).json()["answer"]["value"] == 8
        replies: list[int] = []
        call = threading.Thread(target=lambda: replies.append(_asked(author, "from-a-notebook", {"x": 30}).status_code))
        call.start()
        wait_for(begun.exists, what="the call")
        kernel.shutdown_kernel(now=True)
        call.join(timeout=30)
        assert replies == [503]
        wait_for(lambda: "is not connected just now" in _asked(author, "from-a-notebook", {"x": 4}).text)
    finally:
        client.stop_channels()
        with contextlib.suppress(RuntimeError):
            kernel.shutdown_kernel(now=True)
        author.delete("/api/v1/demos/from-a-notebook")


def test_what_is_no_process_of_ours_is_turned_away(studio: Studio, author: httpx.Client, key: str, bridged: Any):
    address = studio.url.replace("http", "ws") + "/api/v1/bridge"
    with pytest.raises(BridgeRefused, match="The key is not known there"):
        connect(cracks, to=studio.url, key="none", demo="x", say=lambda line: None)
    with pytest.raises(InvalidStatus), open_websocket(address, proxy=None):
        pass
    assert author.get("/api/v1/bridge").status_code == 426
    headers = {"Authorization": f"Bearer {key}"}

    def first_reply(message: bytes) -> str:
        with open_websocket(address, additional_headers=headers, proxy=None, compression=None) as line:
            line.send(message)
            return str(msgpack.unpackb(line.recv(timeout=20))["reason"])

    hello = {"say": "hello", "protocol": 1, "source": "def f(x: float) -> float: ...", "function": "f"}
    assert "not how the bridge begins" in first_reply(b"nothing")
    assert "speaks protocol 99" in first_reply(msgpack.packb({**hello, "protocol": 99}))
    assert "What is told of the function is no Python file" in first_reply(
        msgpack.packb({**hello, "source": "this is no python", "demo": "no-python"})
    )
    bridge = bridged(cracks, demo="cracks-elsewhere")
    # A reply that nobody asked for ends the line; the client makes another.
    bridge._socket.send(msgpack.packb({"say": "reply", "id": 10**6, "reply": b""}))
    wait_for(lambda: not bridge.is_connected)
    wait_for(lambda: bridge.is_connected)
    with pytest.raises(ConnectionClosed):
        first_reply(b"\0" * (65 << 20))


def test_the_client_is_a_wheel_that_pip_installs(studio: Studio, author: httpx.Client, tmp_path: Path):
    name = author.get("/api/v1/bridges").json()["client"]
    wheel = tmp_path / name
    wheel.write_bytes(author.get(f"/api/v1/bridge/{name}").content)
    command = [
        sys.executable,
        "-m",
        "pip",
        "install",
        "--no-deps",
        "--no-index",
        "--target",
        str(tmp_path / "made"),
        str(wheel),
    ]
    done = subprocess.run(command, capture_output=True, text=True, check=False, env={**os.environ, "PYTHONPATH": ""})
    assert done.returncode == 0, done.stderr
    assert (tmp_path / "made" / "plain_window_bridge" / "__init__.py").is_file()
