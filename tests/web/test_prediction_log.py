"""What is recorded of predictions, and what no entry can do to the rest."""

import json

import pytest

from plain_window.store import predictions as log_module
from plain_window.store.database import database, packet_bytes, use_database
from plain_window.store.predictions import MOST_INPUT_BYTES, PredictionLog
from plain_window.store.records import Demo, Prediction

from ..studio import wait_for

DEMO_ID = 1_000_000


@pytest.fixture
def records(studio):
    use_database(json.loads((studio.home / "run" / "database.json").read_text())["url"])
    with database.connection_context():
        yield
        Prediction.delete().where(Prediction.demo_id == DEMO_ID).execute()
    database.close_idle()


def written(log: PredictionLog, *entries: dict) -> list[str | None]:
    """What is in the database once a log has taken these entries and stopped."""
    for entry in entries:
        log.add(**{"demo_id": DEMO_ID, "release_number": 1, "duration_ms": 1.0, "outcome": "answered"} | entry)
    log.stop()
    rows = Prediction.select().where(Prediction.demo_id == DEMO_ID).order_by(Prediction.id)
    return [row.inputs for row in rows]


@pytest.mark.parametrize(
    "bad",
    [
        {"outcome": "far too long a word for this column"},
        {"outcome": "no word"},
        {"release_number": 1 << 40},
        {"duration_ms": float("nan")},
        {"inputs": "\ud800"},
    ],
)
def test_an_entry_the_database_refuses_is_dropped_alone(records, bad):
    good = [{"inputs": str(number)} for number in range(40)]
    entries = [*good[:17], {"inputs": None} | bad, *good[17:]]
    assert written(PredictionLog(), *entries) == [str(number) for number in range(40)]


def test_inputs_that_are_too_long_are_left_out_and_the_entry_is_kept(records):
    inputs = written(PredictionLog(), {"inputs": "x" * MOST_INPUT_BYTES}, {"inputs": "x" * (MOST_INPUT_BYTES + 1)})
    assert inputs == ["x" * MOST_INPUT_BYTES, None]


def test_what_waits_is_bounded_in_bytes(records, monkeypatch):
    monkeypatch.setattr(log_module, "MAX_WAITING_BYTES", 1000)
    monkeypatch.setattr(log_module, "FLUSH_SECONDS", 60.0)
    inputs = written(PredictionLog(), *({"inputs": "x" * 400} for _ in range(4)))
    assert [one and len(one) for one in inputs] == [400, 400, None, None]


def test_batches_keep_within_what_the_database_takes(records, monkeypatch):
    assert packet_bytes() == 64 << 20, "our own database is told how much to take"
    # Somebody else's takes less.
    monkeypatch.setattr(log_module, "packet_bytes", lambda: 20_000)
    sizes, real = [], database.obj.execute_sql
    monkeypatch.setattr(database.obj, "execute_sql", lambda sql, *args: (sizes.append(len(sql)), real(sql, *args))[1])
    assert len(written(PredictionLog(), *({"inputs": '"' * 3000} for _ in range(30)))) == 30
    assert len([size for size in sizes if size > 50]) >= 15


def test_nothing_of_a_refused_case_is_stored(records, author, visitor):
    url = "/api/v1/demos/what-will-this-firing-use"
    demo = author.get(url).json()
    author.patch(url, json={"record_inputs": True})
    author.post(f"{url}/releases")
    inputs = {field["name"]: field["default"] for field in demo["fields"]}
    first = next(iter(inputs))
    demo_id = Demo.get(Demo.slug == demo["slug"]).id
    of_this = (Prediction.demo_id == demo_id) & (Prediction.release_number == demo["release"]["number"] + 1)
    for given in ({**inputs, first: "refused-word"}, {**inputs, "stranger": 1}, inputs):
        visitor.post(f"{url}/predictions", json={"inputs": given})
    rows = wait_for(
        lambda: len(found := list(Prediction.select().where(of_this))) == 3 and found, what="the entries being written"
    )
    assert sorted((row.outcome, row.inputs is not None) for row in rows) == [
        ("answered", True),
        ("refused", False),
        ("refused", False),
    ]
    author.patch(url, json={"record_inputs": False})
    author.post(f"{url}/releases")
