"""Files that several bring at once, and what is left of those who failed."""

import datetime as dt
import json
import threading
from pathlib import Path

import pytest

from plain_window.store import files as store_files
from plain_window.store.database import database, now, use_database
from plain_window.store.files import FileStore
from plain_window.store.records import StoredFile

from ..made_models import csv, dumped, firings, regressor_pipeline
from .helpers import bring, problem


@pytest.fixture
def store(studio, tmp_path: Path):
    """A store of its own beside the studio's records."""
    use_database(json.loads((studio.home / "run" / "database.json").read_text())["url"])
    with database.connection_context():
        yield FileStore(tmp_path)
        StoredFile.delete().where(StoredFile.size == 11).execute()
    database.close_idle()


def taken(store: FileStore, content: bytes = b"a glaze ...") -> str:
    incoming = store.incoming(limit=100, too_large=ValueError)
    incoming.write(content)
    return store.take(incoming)


def test_a_file_that_another_works_with_is_not_deleted(store):
    first, second = taken(store), taken(store)
    assert first == second
    store.let_go([second])
    assert store.path(first).read_bytes() == b"a glaze ..."
    store.let_go([first])
    assert not store.path(first).exists()
    assert StoredFile.get_or_none(StoredFile.hash == first) is None


def test_who_died_with_a_file_in_hand_is_cleaned_up_after(store, tmp_path: Path):
    kept, left = taken(store, b"a glaze one"), taken(store, b"a glaze two")
    long_ago = now() - dt.timedelta(hours=store_files.HOLD_HOURS + 1)
    StoredFile.update(held_at=long_ago).where(StoredFile.hash == left).execute()
    (tmp_path / "incoming-abc").write_bytes(b"half")
    store.sweep()
    assert store.path(kept).exists()
    assert not store.path(left).exists()
    assert (tmp_path / "incoming-abc").exists(), "it may still be arriving"
    store.let_go([kept])


def test_the_sweep_and_many_who_bring_and_drop_one_file_leave_it_whole_or_gone(store):
    stopping = threading.Event()
    missing: list[str] = []

    def come_and_go() -> None:
        with database.connection_context():
            for _ in range(30):
                hash_ = taken(store)
                if not store.path(hash_).exists():
                    missing.append(hash_)
                store.let_go([hash_])

    def sweep() -> None:
        with database.connection_context():
            while not stopping.is_set():
                store.sweep()

    threads = [threading.Thread(target=come_and_go) for _ in range(4)]
    sweeping = threading.Thread(target=sweep)
    for thread in [*threads, sweeping]:
        thread.start()
    for thread in threads:
        thread.join()
    stopping.set()
    sweeping.join()
    assert missing == []
    assert StoredFile.select().where(StoredFile.size == 11).count() == 0


def test_the_same_model_brought_twice_at_once_and_one_with_a_bad_table(studio, key):
    """The one that fails takes nothing away from the one that does not."""
    table = firings(seed=99)
    model, good = dumped(regressor_pipeline(table)), csv(table.drop(columns="outcome"))
    answers = {}

    def send(name: str, reference: bytes) -> None:
        with studio.client(key=key) as author:
            answers[name] = bring(author, model=model, reference=reference, slug=f"twice-{name}")

    threads = [
        threading.Thread(target=send, args=arguments)
        for arguments in (("good", good), ("bad", b"pots\n1\n"), ("worse", b"\0\1\2"), ("again", good))
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    problem(answers["bad"], 422)
    problem(answers["worse"], 422)
    assert (answers["good"].status_code, answers["again"].status_code) == (201, 201)
    with studio.client(key=key) as author:
        for name in ("good", "again"):
            url = f"/api/v1/demos/twice-{name}"
            demo = author.get(url).json()
            inputs = {field["name"]: field["default"] for field in demo["fields"]}
            assert author.post(f"{url}/predictions?draft=1", json={"inputs": inputs}).status_code == 200
            author.delete(url)
