"""The short way for predictions says what the usual way says.

What tells them apart from outside is the type a body is sent as: with its charset spelled out, it goes the usual way.
"""

import json
import socket
import subprocess
import sys
import threading
import time
import zlib
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest

from plain_window.core.answers.kinds import NumberAnswer
from plain_window.settings import ROOT
from plain_window.store.changes import ChangeStamp
from plain_window.web.answer_ids import NONCES_AT_ONCE, AnswerIds
from plain_window.web.lookups import Remembered
from plain_window.web.worker import _PacedSocket, send_at_once

from ..studio import USUAL_PIECE, Studio, wait_for
from .helpers import bring

PREDICTIONS = "/api/v1/demos/will-it-crack/predictions"
LIMIT = 5
QUICK, USUAL = "application/json", "application/json; charset=utf-8"


@pytest.fixture(scope="module")
def limited(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Studio]:
    """A Plain Window that answers so many requests a second, behind a proxy that says whose they are."""
    environment = {"PLAINWINDOW_RATE": str(LIMIT), "PLAINWINDOW_TRUSTED_PROXIES": "1"}
    studio = Studio(tmp_path_factory.mktemp("limited") / "home", environment=environment)
    yield studio
    studio.stop()


def ask(client: httpx.Client, inputs, *, way: str, query: str = "", path: str = PREDICTIONS) -> httpx.Response:
    content = inputs if isinstance(inputs, bytes) else json.dumps({"inputs": inputs}).encode()
    return client.post(path + query, content=content, headers={"Content-Type": way})


def without_times(body: dict) -> dict:
    return {name: value for name, value in body.items() if name not in ("id", "timing_ms")}


@pytest.mark.parametrize(
    "query",
    [
        "",
        "?with=explanation,curves",
        "?with=explanation&of=warps",
        "?with=curves&curves=full",
        "?with=similar",
        "?with=changes&to=cracks",
        "?with=explanation&scale=score",
    ],
)
@pytest.mark.parametrize("changed", [{}, {"wall_mm": 31, "clay_body": "porcelain"}, {"attached": 1, "humidity": 61.5}])
def test_both_ways_give_the_same_answer(visitor, query, changed):
    quick, usual = (ask(visitor, {**USUAL_PIECE, **changed}, way=way, query=query) for way in (QUICK, USUAL))
    assert quick.status_code == usual.status_code == 200
    # Parts of an explanation that are estimated are so with the same seed.
    assert without_times(quick.json()) == without_times(usual.json())
    assert quick.json().keys() == usual.json().keys()


def test_both_ways_send_the_same_headers(visitor):
    quick, usual = (ask(visitor, USUAL_PIECE, way=way).headers for way in (QUICK, USUAL))
    plain = {name for name in usual if name not in ("date", "content-length")}
    assert {name for name in quick if name not in ("date", "content-length")} == plain
    assert all(quick[name] == usual[name] for name in plain)


@pytest.mark.parametrize(
    ("content", "query"),
    [
        (b"", ""),
        (b"{}", ""),
        (b"[1, 2]", ""),
        (b'{"inputs": 3}', ""),
        (b'{"inputs": {}}', ""),
        (b'{"inputs": {}, "output": {}}', ""),
        (b'{"inputs": {"wall_mm": NaN}}', ""),
        (b'{"inputs": {"wall_mm": 1e999}}', ""),
        (b'{"inputs": {"wall_mm": "\\ud800"}}', ""),
        (b"\xff\xfe{", ""),
        (json.dumps({"inputs": {**USUAL_PIECE, "wall_mm": "thick"}}).encode(), ""),
        (json.dumps({"inputs": {**USUAL_PIECE, "colour": "blue"}}).encode(), "?with=explanation"),
        (json.dumps({"inputs": USUAL_PIECE}).encode(), "?with=everything"),
        (json.dumps({"inputs": USUAL_PIECE}).encode(), "?with=changes&to=nothing"),
        (json.dumps({"inputs": USUAL_PIECE}).encode(), "?with=changes&reach=x"),
        (json.dumps({"inputs": USUAL_PIECE}).encode(), "?with=explanation&scale=loud"),
        (json.dumps({"inputs": USUAL_PIECE}).encode(), "?draft=1"),
        (b'{"inputs": {"a": ' + b"[" * 5000 + b"]" * 5000 + b"}}", ""),
    ],
)
def test_what_is_refused_is_refused_in_the_same_words(visitor, content, query):
    quick, usual = (ask(visitor, content, way=way, query=query) for way in (QUICK, USUAL))
    assert quick.status_code == usual.status_code
    assert 400 <= quick.status_code < 500
    assert quick.json() == usual.json()


@pytest.mark.parametrize("query", ["", "?with=explanation"])
@pytest.mark.parametrize("content", [b'{"inputs": {}}', json.dumps({"inputs": USUAL_PIECE}).encode()])
def test_who_asks_too_often_is_counted_once_a_request_whichever_way(limited, query, content):
    counts = {}
    for at, way in enumerate((QUICK, USUAL)):
        # Each has a second's worth saved up; nothing of it is left to chance but what comes in meanwhile.
        address = f"192.0.2.{zlib.crc32(f'{query}{content}{at}'.encode()) % 250}"
        with limited.client() as visitor:
            visitor.headers["X-Forwarded-For"] = address
            begun = time.monotonic()
            statuses = [ask(visitor, content, way=way, query=query).status_code for _ in range(30)]
            spent = time.monotonic() - begun
        answered = [status for status in statuses if status != 429]
        assert len(set(answered)) == 1
        assert LIMIT <= len(answered) <= LIMIT * (1 + spent) + 1
        counts[way] = answered[0]
    assert counts[QUICK] == counts[USUAL]


def test_a_plain_answer_needs_no_runner_and_no_database(own_studio):
    with own_studio.client() as visitor:
        before = wait_for(lambda: ask(visitor, USUAL_PIECE, way=QUICK), what="an answer").json()
        (keeper,) = own_studio.processes()["keeper"]
        # So that no runner comes back.
        keeper.suspend()
        try:
            for kind in ("runner", "mariadb"):
                for process in own_studio.processes()[kind]:
                    process.kill()
            after = wait_for(
                lambda: (given := ask(visitor, USUAL_PIECE, way=QUICK)).status_code == 200 and given, what="an answer"
            )
            assert without_times(after.json()) == without_times(before)
            assert ask(visitor, USUAL_PIECE, way=QUICK, query="?with=explanation").status_code == 503
        finally:
            keeper.resume()


def test_a_demo_that_is_closed_is_closed_to_the_short_way_at_once(author, visitor):
    slug = bring(author, title="Closing time").json()["slug"]
    demo, path = f"/api/v1/demos/{slug}", f"/api/v1/demos/{slug}/predictions"
    inputs = {field["name"]: field["default"] for field in author.get(demo).json()["fields"]}
    assert author.post(f"{demo}/releases").status_code == 201
    author.put(f"{demo}/access", json={"access": "everyone"})
    wait_for(lambda: ask(visitor, inputs, way=QUICK, path=path).status_code == 200, what="being open")
    author.put(f"{demo}/access", json={"access": "private"})
    assert [ask(visitor, inputs, way=way, path=path).status_code for way in (QUICK, USUAL)] == [404, 404]


def test_what_is_remembered_is_at_hand_only_until_something_changes(tmp_path: Path):
    stamp, reads = ChangeStamp(tmp_path), []
    remembered = Remembered(lambda key: reads.append(key) or len(reads), stamp)
    assert remembered.at_hand("a") is None
    assert remembered("a") == remembered.at_hand("a") == 1
    stamp.bump()
    assert remembered.at_hand("a") is None
    assert remembered("a") == 2


def test_a_change_is_seen_by_every_process_whatever_an_older_version_left_there(tmp_path: Path):
    (tmp_path / "changes").write_bytes(b"...")
    here, versions = ChangeStamp(tmp_path), []
    elsewhere = "import pathlib, sys; from plain_window.store.changes import ChangeStamp as Stamp; "
    for what in ("Stamp(pathlib.Path(sys.argv[1]))", "Stamp(pathlib.Path(sys.argv[1])).bump()"):
        versions.append(here.read())
        subprocess.run([sys.executable, "-c", elsewhere + what, str(tmp_path)], check=True, cwd=ROOT)
    # To look is no change.
    assert versions[0] == versions[1] != here.read()


def test_every_id_is_another_though_many_are_drawn_at_once():
    ids, answer = AnswerIds(b"one secret"), NumberAnswer(value=1.5, unit="kWh", text="1.5")
    made = [ids.make(7, 3, answer) for _ in range(2 * NONCES_AT_ONCE + 1)]
    nonces = {ids.read(one, is_right=True, truth=None, comment=None).prediction_id for one in made}
    assert len(nonces) == len(made)
    assert {len(nonce) for nonce in nonces} == {16}


def test_an_answer_that_is_not_taken_in_one_piece_is_sent_to_its_end():
    near, far = socket.socketpair()
    near.setsockopt(socket.SOL_SOCKET, socket.SO_SNDBUF, 4096)
    body, received = bytes(range(256)) * 4000, bytearray()
    with near, far:

        def read() -> None:
            while len(received) < len(body) and (piece := far.recv(1 << 16)):
                received.extend(piece)

        reader = threading.Thread(target=read)
        reader.start()
        environ = {"gunicorn.socket": _PacedSocket(near), "SERVER_PROTOCOL": "HTTP/1.1"}
        assert send_at_once(environ, b"", body) is not None
        near.shutdown(socket.SHUT_WR)
        reader.join()
        while piece := far.recv(1 << 16):
            received.extend(piece)
    assert bytes(received).endswith(b"\r\n\r\n" + body)


def test_an_id_is_taken_back_only_as_it_was_given_out():
    ids, others = AnswerIds(b"one secret"), AnswerIds(b"another")
    text = ids.make(7, 3, NumberAnswer(value=1.5, unit="kWh", text="1.5"))
    found = ids.read(text, is_right=True, truth=None, comment=None)
    assert (found.demo_id, found.release_number, found.answer) == (7, 3, "1.5")
    spoiled = [
        others.make(7, 3, NumberAnswer(value=1.5, unit="", text="")),
        "",
        "x",
        "é",
        text[:-1],
        text + "=",
        text + "A",
    ]
    spoiled += [text[:at] + ("A" if text[at] != "A" else "B") + text[at + 1 :] for at in range(len(text))]
    assert not any(ids.read(each, is_right=True, truth=None, comment=None) for each in spoiled)
