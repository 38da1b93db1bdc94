"""Buckets and growing waits, kept in files that all web processes share."""

from pathlib import Path

import pytest

from plain_window.web import rate as rate_module
from plain_window.web.rate import FREE_GUESSES, MOST_WAIT_SECONDS, GrowingWait, RateLimit


@pytest.fixture
def clock(monkeypatch):
    """A time of day that goes on only when told to."""
    now = [1_000_000.0]
    monkeypatch.setattr(rate_module.time, "time", lambda: now[0])
    return now


def test_tokens_are_saved_up_and_come_back_with_time(tmp_path: Path, clock):
    limit = RateLimit(tmp_path)
    assert [limit.wait_seconds("a", rate=2.0, saved=3.0) for _ in range(4)] == [0, 0, 0, 0.5]
    clock[0] += 0.5
    assert limit.wait_seconds("a", rate=2.0, saved=3.0) == 0
    assert limit.wait_seconds("a", rate=2.0, saved=3.0) == 0.5
    assert limit.wait_seconds("a", rate=0) == 0


def test_processes_share_what_they_count(tmp_path: Path, clock):
    one, other = RateLimit(tmp_path), RateLimit(tmp_path)
    assert one.wait_seconds("a", rate=1.0) == 0
    assert other.wait_seconds("a", rate=1.0) == 1.0


def test_nobodys_bucket_is_another_address_however_many_there_are(tmp_path: Path, clock):
    """Twice as many addresses as there were buckets once: some shared one then; now each has its own or a new one."""
    limit = RateLimit(tmp_path)
    assert limit.wait_seconds("the one", rate=1.0, saved=1.0) == 0
    waits = [limit.wait_seconds(f"10.0.{number >> 8}.{number & 255}", rate=1.0, saved=1.0) for number in range(20_000)]
    assert set(waits) == {0.0}


def test_where_an_entry_is_cannot_be_foreseen(tmp_path: Path):
    (tmp_path / "one").mkdir()
    (tmp_path / "other").mkdir()
    places = [
        [RateLimit(tmp_path / name)._table.find(f"10.0.0.{n}")[0] for n in range(50)] for name in ("one", "other")
    ]
    assert sum(a == b for a, b in zip(*places, strict=True)) < 5


def test_the_wait_grows_with_wrong_guesses_and_is_forgotten_with_a_right_one(tmp_path: Path, clock):
    waits, guesses = [], GrowingWait(tmp_path)
    for _ in range(FREE_GUESSES + 12):
        waits.append(guesses.wait_seconds("a"))
        guesses.note_wrong("a")
    assert waits[:FREE_GUESSES] == [0] * FREE_GUESSES
    assert waits[FREE_GUESSES : FREE_GUESSES + 4] == [2, 4, 8, 16]
    assert waits[-1] == MOST_WAIT_SECONDS
    assert guesses.wait_seconds("b") == 0
    clock[0] += MOST_WAIT_SECONDS
    assert guesses.wait_seconds("a") == 0
    guesses.note_right("a")
    guesses.note_wrong("a")
    assert guesses.wait_seconds("a") == 0


def test_wrong_guesses_are_forgotten_after_a_day(tmp_path: Path, clock):
    guesses = GrowingWait(tmp_path)
    for _ in range(20):
        guesses.note_wrong("a")
    clock[0] += 86_401
    assert guesses.wait_seconds("a") == 0
    guesses.note_wrong("a")
    assert guesses.wait_seconds("a") == 0
