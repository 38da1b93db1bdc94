"""What happens when something dies."""

import json
import os
import signal
import threading
from collections import Counter
from collections.abc import Iterator

import pymysql
import pytest
from peewee import OperationalError

from plain_window.samples import SAMPLES
from plain_window.store.database import database, use_database
from plain_window.store.records import Release

from ..studio import USUAL_PIECE, Studio, wait_for

PREDICTIONS = "/api/v1/demos/will-it-crack/predictions"


@pytest.fixture(scope="module")
def own_studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Studio]:
    """A Plain Window that may be hurt."""
    studio = Studio(tmp_path_factory.mktemp("hurt") / "home", environment={"PLAINWINDOW_RATE": "0"})
    yield studio
    studio.stop()


# Predictions answered so far, by the address of the studio that was asked.
answered: Counter[str] = Counter()


def ask(client):
    response = client.post(PREDICTIONS, json={"inputs": USUAL_PIECE})
    answered[str(client.base_url)] += response.status_code == 200
    return response


def rows(studio: Studio, sql: str) -> list[tuple]:
    url = json.loads((studio.home / "run" / "database.json").read_text())["url"]
    user, rest = url.removeprefix("mysql://").split(":", 1)
    password, rest = rest.split("@", 1)
    host, rest = rest.split(":", 1)
    port, name = rest.split("/", 1)
    connection = pymysql.connect(host=host, port=int(port), user=user, password=password, database=name)
    with connection, connection.cursor() as cursor:
        cursor.execute(sql)
        return list(cursor.fetchall())


def test_everything_is_reached_from_this_machine_only(own_studio):
    for kind, processes in own_studio.processes().items():
        assert processes, kind
        for process in processes:
            for connection in process.net_connections(kind="tcp"):
                if connection.status == "LISTEN":
                    assert connection.laddr.ip == "127.0.0.1"


def test_a_killed_runner_comes_back_and_requests_in_between_get_503(own_studio):
    with own_studio.client() as visitor:
        assert ask(visitor).status_code == 200
        runners = own_studio.processes()["runner"]
        # One for each sample; the others are not asked here.
        assert len(runners) == len(SAMPLES)
        for runner in runners:
            runner.kill()
        statuses = []

        def answered() -> bool:
            response = ask(visitor)
            statuses.append(response.status_code)
            if response.status_code == 503:
                assert int(response.headers["retry-after"]) >= 1
                assert response.headers["content-type"] == "application/problem+json"
            return response.status_code == 200

        wait_for(answered, what="the answer being back")
        assert set(statuses) == {200, 503}


def test_a_killed_database_comes_back_with_all_that_was_saved(own_studio):
    with own_studio.client(key=own_studio.new_key()) as author, own_studio.client() as visitor:
        author.patch("/api/v1/demos/will-it-crack", json={"purpose": "Before the kiln."})
        assert ask(visitor).status_code == 200
        (mariadb,) = own_studio.processes()["mariadb"]
        mariadb.kill()
        assert author.get("/api/v1/demos").status_code == 503
        # What visitors are shown is remembered: they need no database.
        assert ask(visitor).status_code == 200
        demos = wait_for(
            lambda: (response := author.get("/api/v1/demos")).status_code == 200 and response.json()["demos"],
            what="the database being back",
        )
        assert demos[0]["purpose"] == "Before the kiln."
        # Those answered while the database was away are recorded too.
        assert ask(visitor).status_code == 200
        count = "SELECT COUNT(*) FROM prediction WHERE outcome = 'answered'"
        expected = answered[str(visitor.base_url)]
        wait_for(lambda: rows(own_studio, count)[0][0] == expected, what="every entry being written")


def test_a_killed_keeper_comes_back_with_the_live_models(own_studio):
    with own_studio.client() as visitor:
        (keeper,) = own_studio.processes()["keeper"]
        keeper.kill()
        wait_for(lambda: visitor.get("/readyz").status_code == 503, what="not being ready")
        wait_for(lambda: visitor.get("/readyz").status_code == 200, what="being ready")
        assert ask(visitor).status_code == 200


def test_an_orderly_stop_writes_every_prediction_that_was_answered(tmp_path):
    studio = Studio(tmp_path / "home", environment={"PLAINWINDOW_RATE": "0"})
    with studio.client() as visitor:
        assert [ask(visitor).status_code for _ in range(25)] == [200] * 25
    assert studio.stop() == 0
    again = Studio(tmp_path / "home", environment={"PLAINWINDOW_RATE": "0"})
    try:
        written = rows(
            again, "SELECT COUNT(*), COUNT(inputs), MIN(duration_ms) > 0 FROM prediction WHERE release_number = 1"
        )
        assert written == [(25, 0, 1)]
    finally:
        again.stop()


def test_inputs_are_recorded_only_if_the_author_turned_that_on(own_studio):
    with own_studio.client(key=own_studio.new_key()) as author, own_studio.client() as visitor:
        author.patch("/api/v1/demos/will-it-crack", json={"record_inputs": True})
        author.post("/api/v1/demos/will-it-crack/releases")
        assert visitor.get("/api/v1/demos/will-it-crack/page").json()["records_inputs"] is True
        ask(visitor)
        query = "SELECT inputs FROM prediction WHERE inputs IS NOT NULL"
        (inputs,) = wait_for(lambda: rows(own_studio, query), what="the inputs being written")[0]
        assert json.loads(inputs) == USUAL_PIECE


def test_a_release_cannot_be_changed_even_from_inside(own_studio):
    use_database(json.loads((own_studio.home / "run" / "database.json").read_text())["url"])
    try:
        with pytest.raises(OperationalError, match="a release never changes"):
            Release.update(document="{}").execute()
    finally:
        database.close()
        database.close_idle()


def test_a_second_start_on_the_same_place_says_so(own_studio):
    second = own_studio.run("serve", check=False)
    assert second.returncode == 1
    assert "already runs on this state directory" in second.stderr


def test_many_at_once_are_all_answered(own_studio):
    statuses = []

    def visit() -> None:
        with own_studio.client() as visitor:
            statuses.extend(ask(visitor).status_code for _ in range(5))

    threads = [threading.Thread(target=visit) for _ in range(12)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert statuses == [200] * 60


def test_a_command_killed_outright_leaves_nothing_running(tmp_path):
    studio = Studio(tmp_path / "home")
    children = [process for kind in studio.processes().values() for process in kind]
    assert children
    os.kill(studio.process.pid, signal.SIGKILL)
    studio.process.wait()
    wait_for(
        lambda: all(not process.is_running() or process.status() == "zombie" for process in children),
        what="everything ending",
    )
