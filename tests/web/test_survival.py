"""What happens when something dies."""

import contextlib
import json
import os
import signal
import threading
import time
from collections import Counter

import httpx
import psutil
import pymysql
import pytest
from peewee import OperationalError

from plain_window.samples import SAMPLES
from plain_window.store.database import database, use_database
from plain_window.store.records import Release

from ..made_models import running_on_opening
from ..studio import USUAL_PIECE, Studio, has_ended, wait_for
from .helpers import bring

PREDICTIONS = "/api/v1/demos/will-it-crack/predictions"


# Predictions answered so far, by the address of the studio that was asked.
answered: Counter[str] = Counter()


def ask(client, query: str = ""):
    response = client.post(PREDICTIONS + query, json={"inputs": USUAL_PIECE})
    answered[str(client.base_url)] += response.status_code == 200
    return response


def ask_why(client):
    """What explains an answer is the runner's to say, whoever gives the answer."""
    return ask(client, "?with=explanation")


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


def n_ready_runners(studio: Studio) -> int:
    """How many runners answer: beside the socket of each its keeper keeps a note."""
    return len(list((studio.home / "run" / "runners").glob("*.note")))


def kill_runners(studio: Studio) -> None:
    """Kill them all, with their keeper held still until they are gone: none is back before anyone asks."""
    runners = studio.processes()["runner"]
    # One for each sample; the others are not asked here.
    assert len(runners) == len(SAMPLES)
    (keeper,) = studio.processes()["keeper"]
    keeper.suspend()
    try:
        for runner in runners:
            runner.kill()
        wait_for(lambda: all(map(has_ended, runners)), what="the runners being gone")
    finally:
        threading.Timer(0.2, keeper.resume).start()


def test_a_killed_runner_comes_back_and_requests_in_between_get_503(own_studio):
    with own_studio.client() as visitor:
        assert ask_why(visitor).status_code == 200
        kill_runners(own_studio)
        # Who asks before anyone has noticed may be kept until it is back; not so with one that died before.
        wait_for(lambda: ask_why(visitor).status_code == 200, what="the answer being back")
        wait_for(lambda: n_ready_runners(own_studio) == len(SAMPLES), what="every runner being back")
        kill_runners(own_studio)
        in_between = ask_why(visitor)
        assert in_between.status_code == 503
        assert int(in_between.headers["retry-after"]) >= 1
        assert in_between.headers["content-type"] == "application/problem+json"
        wait_for(lambda: ask_why(visitor).status_code == 200, what="the answer being back")


def test_a_killed_database_comes_back_with_all_that_was_saved(own_studio):
    with own_studio.client(key=own_studio.new_key()) as author, own_studio.client() as visitor:
        author.patch("/api/v1/demos/will-it-crack", json={"purpose": "Before the kiln."})
        assert ask(visitor).status_code == 200
        (mariadb,) = own_studio.processes()["mariadb"]
        mariadb.kill()
        # What visitors are shown is remembered: they need no database.
        assert ask(visitor).status_code == 200
        # Back within a moment; who comes before that is told to come again.
        statuses = []

        def demos_again() -> list[dict]:
            response = author.get("/api/v1/demos")
            statuses.append(response.status_code)
            return response.status_code == 200 and response.json()["demos"]

        demos = wait_for(demos_again, what="the database being back")
        assert set(statuses) <= {200, 503}
        assert demos[0]["purpose"] == "Before the kiln."
        # Those answered while the database was away are recorded too.
        assert ask(visitor).status_code == 200
        count = "SELECT COUNT(*) FROM prediction WHERE outcome = 'answered'"
        expected = answered[str(visitor.base_url)]
        wait_for(lambda: rows(own_studio, count)[0][0] == expected, what="every entry being written")


def test_a_killed_keeper_is_followed_by_one_that_takes_the_runners_over(own_studio):
    with own_studio.client() as visitor:
        # Those still coming back from being killed would be ended with the keeper that was bringing them back.
        wait_for(lambda: n_ready_runners(own_studio) == len(SAMPLES), what="every runner being back")
        runners = {process.pid for process in own_studio.processes()["runner"]}
        (keeper,) = own_studio.processes()["keeper"]
        keeper.kill()
        # Nobody who asks notices anything.
        assert [ask_why(visitor).status_code for _ in range(20)] == [200] * 20
        wait_for(lambda: visitor.get("/readyz").status_code == 200, what="being ready")
        assert {process.pid for process in own_studio.processes()["runner"]} == runners
        # And what it took over it looks after: one that dies comes back.
        for process in own_studio.processes()["runner"]:
            process.kill()
        wait_for(lambda: ask_why(visitor).status_code == 200, what="the answer being back")


def test_a_keeper_killed_while_it_opens_a_model_leaves_nothing_half_open(own_studio):
    with own_studio.client(key=own_studio.new_key()) as author:
        slow = running_on_opening("import time; time.sleep(600)")
        bringing = threading.Thread(target=lambda: bring(author, model=slow))
        before = len(own_studio.processes()["runner"])
        bringing.start()
        wait_for(lambda: len(own_studio.processes()["runner"]) > before, what="the model being opened")
        (keeper,) = own_studio.processes()["keeper"]
        keeper.kill()
        wait_for(lambda: len(own_studio.processes()["runner"]) == before, what="what was half open being ended")
        bringing.join()


def test_a_deleted_demos_runner_is_gone_and_comes_back_with_it(own_studio):
    with own_studio.client(key=own_studio.new_key()) as author:
        before = len(own_studio.processes()["runner"])
        slug = bring(author, title="Soon gone").json()["slug"]
        assert len(own_studio.processes()["runner"]) == before + 1
        author.delete(f"/api/v1/demos/{slug}")
        wait_for(lambda: len(own_studio.processes()["runner"]) == before, what="its runner being gone")
        author.post(f"/api/v1/demos/{slug}/restore")
        wait_for(lambda: len(own_studio.processes()["runner"]) == before + 1, what="its runner being back")
        author.patch(f"/api/v1/demos/{slug}", json={"background_rows": 17})
        demo = author.get(f"/api/v1/demos/{slug}").json()
        inputs = {field["name"]: field["default"] for field in demo["fields"]}
        assert author.post(f"/api/v1/demos/{slug}/predictions?draft=1", json={"inputs": inputs}).status_code == 200
        wait_for(lambda: len(own_studio.processes()["runner"]) == before + 1, what="one runner for one draft")
        author.delete(f"/api/v1/demos/{slug}")


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


def test_a_start_right_after_a_kill_succeeds_under_load(tmp_path):
    """What the killed one has left is still answering visitors when the next one starts."""
    studio = Studio(tmp_path / "home", environment={"PLAINWINDOW_RATE": "0"})
    stopping = threading.Event()

    def visit() -> None:
        while not stopping.is_set():
            with contextlib.suppress(httpx.TransportError), studio.client() as visitor:
                ask(visitor)

    threads = [threading.Thread(target=visit) for _ in range(4)]
    for thread in threads:
        thread.start()
    os.kill(studio.process.pid, signal.SIGKILL)
    try:
        again = Studio(tmp_path / "home", port=studio.port)
        stopping.set()
        with again.client() as visitor:
            assert ask(visitor).status_code == 200
        assert again.stop() == 0
    finally:
        stopping.set()
        studio.process.wait()
        for thread in threads:
            thread.join()


def test_a_signal_to_stop_under_load_finishes_what_was_begun(tmp_path):
    """No answer that was begun is cut off, and all of it is over within ten seconds (printed, not asserted)."""
    studio = Studio(tmp_path / "home", environment={"PLAINWINDOW_RATE": "0"})
    cut, answers = [], []
    stopping = threading.Event()

    def visit() -> None:
        with studio.client() as visitor:
            while not stopping.is_set():
                try:
                    answers.append(visitor.post(f"{PREDICTIONS}?with=explanation,curves", json={"inputs": USUAL_PIECE}))
                except httpx.ConnectError:
                    return
                except httpx.TransportError as error:
                    cut.append(error)
                    return

    threads = [threading.Thread(target=visit) for _ in range(6)]
    for thread in threads:
        thread.start()
    wait_for(lambda: len(answers) > 50, what="visitors being answered")
    begun = time.monotonic()
    assert studio.stop() == 0
    print(f"stopped after {time.monotonic() - begun:.1f} s")
    stopping.set()
    for thread in threads:
        thread.join()
    assert {answer.status_code for answer in answers} == {200}
    # A connection on which nothing was under way may end in the moment its visitor asks again.
    assert [error for error in cut if not isinstance(error, httpx.RemoteProtocolError | httpx.ReadError)] == []


def test_a_command_killed_outright_leaves_nothing_running(tmp_path):
    studio = Studio(tmp_path / "home")
    children = [process for kind in studio.processes().values() for process in kind]
    assert children
    os.kill(studio.process.pid, signal.SIGKILL)
    studio.process.wait()
    wait_for(
        lambda: all(map(has_ended, children)),
        what="everything ending",
    )


def test_a_hail_of_signals_to_stop_stops_once(tmp_path):
    """Ctrl+C by an impatient hand, and what dies telling its children: each process may hear it several times."""
    studio = Studio(tmp_path / "home")
    (keeper,) = studio.processes()["keeper"]
    # It may be gone before it has heard them all.
    with contextlib.suppress(psutil.NoSuchProcess):
        for _ in range(200):
            keeper.send_signal(signal.SIGTERM)
    wait_for(lambda: has_ended(keeper), what="the keeper's end")
    # It was brought back; then all of it is told, over and over.
    wait_for(lambda: studio.processes().get("keeper"), what="another keeper")
    children = [process for kind in studio.processes().values() for process in kind]
    for _ in range(50):
        studio.process.send_signal(signal.SIGINT)
    assert studio.process.wait(timeout=60) in (0, -signal.SIGINT)
    wait_for(
        lambda: all(map(has_ended, children)),
        what="everything ending",
    )
