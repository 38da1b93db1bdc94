"""Where a model looked, as a stream: it ends, and it ends when the demo is closed to whoever reads it."""

import json
import threading
import time

import pytest

from ..studio import Studio, wait_for

DEMO = "/api/v1/demos/whose-mark-is-it"


def strokes(number: int) -> list[list[list[float]]]:
    """A scribble of so many strokes."""
    return [[[0.1 + 0.8 * (n % 17) / 17, 0.1], [0.1 + 0.8 * (n % 13) / 13, 0.9]] for n in range(number)]


@pytest.fixture(scope="module")
def own(tmp_path_factory):
    studio = Studio(tmp_path_factory.mktemp("streams") / "home", environment={"PLAINWINDOW_RATE": "0"})
    yield studio
    studio.stop()


@pytest.fixture(scope="module")
def drawing(own) -> dict:
    with own.client() as visitor:
        field = next(field for field in visitor.get(f"{DEMO}/page").json()["fields"] if field["kind"] == "drawing")
    return {field["name"]: {"strokes": strokes(300)}}


def test_a_stream_ends_once_the_demo_goes_private_and_not_when_all_is_known(own, drawing):
    with own.client(key=own.new_key()) as author, own.client() as visitor:
        lines, closed_at = [], [0.0]

        def close() -> None:
            wait_for(lambda: len(lines) >= 2, what="the stream having begun")
            author.put(f"{DEMO}/access", json={"access": "private"})
            closed_at[0] = time.monotonic()

        closing = threading.Thread(target=close)
        with visitor.stream("POST", f"{DEMO}/where", json={"inputs": drawing}) as response:
            assert response.status_code == 200
            closing.start()
            for line in response.iter_lines():
                lines.append(json.loads(line))
        ended = time.monotonic()
        closing.join()
        author.put(f"{DEMO}/access", json={"access": "everyone"})
    assert lines[-1] == {"detail": "This demo can no longer be seen."}
    assert not lines[-2]["is_done"]
    print(f"ended {ended - closed_at[0]:.2f} s after it went private")


def test_one_visitor_who_asks_for_much_is_slowed_down_and_others_are_answered(own, drawing):
    """Twenty at once look into drawings of 300 strokes; somebody else's answers come as if they were not there."""
    pid = [process.pid for process in own.processes()["runner"]]
    statuses: list[int] = []
    begun = threading.Barrier(21)

    def look() -> None:
        with own.client() as greedy:
            begun.wait()
            answer = greedy.post(f"{DEMO}/predictions?with=where,explanation", json={"inputs": drawing})
            statuses.append(answer.status_code)
            if answer.status_code == 429:
                assert int(answer.headers["retry-after"]) >= 1

    threads = [threading.Thread(target=look) for _ in range(20)]
    for thread in threads:
        thread.start()
    waits = []
    with own.client() as other:
        begun.wait()
        few = {name: {"strokes": strokes(3)} for name in drawing}
        while any(thread.is_alive() for thread in threads):
            at = time.monotonic()
            assert other.post(f"{DEMO}/predictions", json={"inputs": few}).status_code == 200
            waits.append(time.monotonic() - at)
    for thread in threads:
        thread.join()
    assert set(statuses) <= {200, 429}
    assert 200 in statuses
    assert len(waits) >= 5
    # No runner was stopped for being asked too much.
    assert [process.pid for process in own.processes()["runner"]] == pid
    print(f"longest wait for another's answer: {max(waits) * 1000:.0f} ms of {len(waits)}")
