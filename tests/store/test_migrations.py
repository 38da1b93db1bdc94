"""A database that an earlier version wrote comes along with all that is in it."""

import re

import pytest

from plain_window.store import database as store
from plain_window.store.addresses import old_addresses
from plain_window.store.authors import first_author, keys_of
from plain_window.store.database import database, run_migrations
from plain_window.store.demos import find_demo
from plain_window.store.records import Model, StoredFile
from plain_window.store.releases import live_releases

NUMBERED = store._numbered()
WHEN = "'2026-05-04 10:20:30.5'"
# A row in every table of the first version, in an order that foreign keys allow.
WRITTEN = [
    f"INSERT INTO author (id, name, password_hash, created) VALUES (3, 'studio', 'hash', {WHEN})",
    f"INSERT INTO sign_in_link VALUES ('{'a' * 64}', 3, {WHEN}, NULL)",
    f"INSERT INTO api_key (id, author_id, name, key_hash, created) VALUES (5, 3, 'notebook', '{'b' * 64}', {WHEN})",
    f"INSERT INTO stored_file (hash, size, created) VALUES ('{'c' * 64}', 7, {WHEN}), ('{'d' * 64}', 8, {WHEN})",
    "INSERT INTO model (id, runner_key, model_file, reference_file, target, inspection, created) "
    f"VALUES (11, 'key', '{'c' * 64}', '{'d' * 64}', 'crack ’ 裂', '{{}}', {WHEN})",
    "INSERT INTO demo (id, slug, author_id, model_id, draft, access, created, changed) "
    f"VALUES (13, 'kiln', 3, 11, '{{\"title\": \"Öfen 🔥\"}}', 'link', {WHEN}, {WHEN})",
    "INSERT INTO demo_release (id, demo_id, number, model_id, document, created) "
    f"VALUES (17, 13, 1, 11, '{{}}', {WHEN})",
    "UPDATE demo SET live_release_id = 17",
    f"INSERT INTO secret_link (id, demo_id, created) VALUES (19, 13, {WHEN})",
    "INSERT INTO prediction (id, at, demo_id, release_number, duration_ms, outcome, inputs) "
    f"VALUES (23, {WHEN}, 13, 1, 2.5, 'answered', '{{\"pots\": 3}}')",
]

TABLES = {re.search(r"(?:INTO|UPDATE) (\w+)", statement)[1] for statement in WRITTEN}


def everything() -> dict[str, list[dict]]:
    """All rows of all tables, by table."""
    found = {}
    for (table,) in database.execute_sql("SHOW TABLES").fetchall():
        cursor = database.execute_sql(f"SELECT * FROM {table}")
        names = [column[0] for column in cursor.description]
        found[table] = [dict(zip(names, row, strict=True)) for row in cursor.fetchall()]
    return found


@pytest.mark.parametrize("n_before", [1, len(NUMBERED) - 1], ids=["the first version", "the version before this one"])
def test_nothing_is_lost_and_everything_is_found(empty, monkeypatch, n_before):
    with monkeypatch.context() as earlier:
        earlier.setattr(store, "_numbered", lambda: NUMBERED[:n_before])
        assert run_migrations() == [number for number, _ in NUMBERED[:n_before]]
    for statement in WRITTEN:
        # Percent signs are the client's own.
        database.execute_sql(statement.replace("%", "%%"))
    before = everything()
    assert run_migrations() == [number for number, _ in NUMBERED[n_before:]]
    after = everything()
    assert {table for table, rows in before.items() if rows} == {"migration", *TABLES}
    for table in TABLES:
        kept = [{name: row[name] for name in old} for row, old in zip(after[table], before[table], strict=True)]
        assert kept == before[table], table
    # And what the program asks for is there.
    author, demo = first_author(), find_demo("kiln")
    assert (author.id, [key.name for key in keys_of(author)]) == (3, ["notebook"])
    assert (demo.id, demo.access, demo.model.target) == (13, "link", "crack ’ 裂")
    assert [release.number for release in live_releases()] == [1]
    assert list(old_addresses()) == []
    assert Model.get_by_id(11).preprocessor_file_id is None
    assert StoredFile.get_by_id("c" * 64).holds == 0


def test_a_second_run_finds_nothing_to_do(empty):
    assert run_migrations() == [number for number, _ in NUMBERED]
    assert run_migrations() == []
