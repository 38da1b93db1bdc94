"""Films asked about frame by frame, through the API."""

import csv
import io
import json
import time
import zipfile
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import httpx
import numpy as np
import pytest

from ..detectors import SIDE, as_bytes, detector, picture_with, plainly_found
from ..films import film_of, plain_frames, sound_only
from ..studio import Studio, wait_for
from .helpers import problem
from .tables import ENDED, ended

DEMO = "/api/v1/demos/patches-in-films"
LEFT_SECONDS = 5
ENVIRONMENT = {
    "PLAINWINDOW_RATE": "0",
    "PLAINWINDOW_FILM_LEFT_SECONDS": str(LEFT_SECONDS),
    "PLAINWINDOW_FILM_KEPT_SECONDS": "8",
    "PLAINWINDOW_VISITOR_FILM_MINUTES": "1",
}


def passing(n: int) -> list[np.ndarray]:
    """Frames over which a red patch passes from left to right; every fifth is empty."""
    return [picture_with(*([] if at % 5 == 4 else [("red", 5 + at % 6, 5, 1.0)])) for at in range(n)]


@pytest.fixture(scope="module")
def studio_of_films(tmp_path_factory: pytest.TempPathFactory):
    studio = Studio(tmp_path_factory.mktemp("films") / "home", environment=ENVIRONMENT)
    yield studio
    studio.stop()


@pytest.fixture(scope="module")
def author(studio_of_films: Studio):
    """The author of a detector's demo, which visitors may send films to."""
    key = studio_of_films.new_key()
    headers = {"Authorization": f"Bearer {key}"}
    with httpx.Client(base_url=studio_of_films.url, headers=headers, timeout=90) as author:
        archive = io.BytesIO()
        with zipfile.ZipFile(archive, "w") as pictures:
            for at in range(3):
                pictures.writestr(f"{at}.png", as_bytes(picture_with(("red", 3 + 4 * at, 3, 1.0), ("blue", 9, 8, 1.0))))
        files = {"model": detector("columns, centre"), "known": archive.getvalue()}
        made = author.post("/api/v1/demos", files=files, data={"slug": "patches-in-films", "title": "Patches"})
        assert made.status_code == 201, made.text
        settings = {"confirmed": ["reading", "preparation"], "film_rate": 10, "parts": {"films": True}}
        assert author.patch(DEMO, json=settings).status_code == 200
        assert author.post(f"{DEMO}/releases", json={"despite": {"words": "a test"}}).status_code == 201
        author.put(f"{DEMO}/access", json={"access": "everyone"})
        yield author


@pytest.fixture
def visitor(studio_of_films: Studio, author: httpx.Client):
    with httpx.Client(base_url=studio_of_films.url, timeout=90) as visitor:
        yield visitor


def send(client: httpx.Client, film: bytes, *, demo: str = DEMO, name: str = "belt.mkv", **options: Any):
    data = {"kind": "video", **({"options": json.dumps(options)} if options else {})}
    return client.post(f"{demo}/jobs", files={"video": (name, io.BytesIO(film))}, data=data)


def frames_of(client: httpx.Client, job: dict[str, Any]) -> list[dict[str, Any]]:
    return client.get(f"/api/v1/jobs/{job['id']}/frames", params={"limit": 2000}).json()["frames"]


def test_every_frame_has_what_plain_numpy_finds_in_it(author: httpx.Client, visitor: httpx.Client):
    frames = passing(20)
    sent = send(visitor, film_of(frames))
    assert sent.json()["film"] == {
        "width": SIDE[0],
        "height": SIDE[1],
        "seconds": 2.0,
        "film_rate": 10.0,
        "has_sound": False,
        "rate": 10.0,
    }
    job = ended(visitor, sent)
    assert (job["state"], job["done"], job["answered"], job["faults"]) == ("done", 20, 20, 0)
    found = frames_of(visitor, job)
    assert [frame["at"] for frame in found] == [round(at / 10, 3) for at in range(20)]
    for frame, picture in zip(found, frames, strict=True):
        plain = plainly_found(picture)
        assert [box["label"] for box in frame["boxes"]] == [one[0] for one in plain]
        for box, (_, score, *place) in zip(frame["boxes"], plain, strict=True):
            assert [box[side] for side in ("x", "y", "width", "height")] == pytest.approx(place, abs=0.5)
            assert box["score"] == pytest.approx(score, abs=0.01)
        # And what a visitor is told of that frame as a picture.
        if frame["at"] < 0.3:
            asked = visitor.post(f"{DEMO}/predictions", files={"picture": as_bytes(picture)}).json()
            told = [{**box, "x": round(box["x"], 2), "y": round(box["y"], 2)} for box in asked["answer"]["boxes"]]
            assert told == frame["boxes"]


def test_it_is_saved_as_a_table_and_as_a_film_with_its_boxes(visitor: httpx.Client):
    frames = passing(10)
    job = ended(visitor, send(visitor, film_of(frames, rate=10)))
    assert job["result"]["formats"] == ["csv", "film"]
    result = f"/api/v1/jobs/{job['id']}/result"
    lines = list(csv.DictReader(io.StringIO(visitor.get(result).text)))
    n_boxes = [len(plainly_found(picture)) for picture in frames]
    assert len(lines) == sum(max(1, n) for n in n_boxes)
    assert {line["label"] for line in lines} == {"red", ""}
    assert [line["seconds"] for line in lines if not line["label"]] == ["0.4", "0.9"]

    made = visitor.get(result, params={"format": "film"})
    assert (made.status_code, made.headers["content-type"]) == (200, "video/mp4")
    assert made.headers["content-disposition"] == 'attachment; filename="belt with answers.mp4"'
    drawn = [
        np.abs(frame.astype(int) - picture).mean()
        for (_, frame), picture in zip(plain_frames(made.content), frames, strict=True)
    ]
    assert [share > 2 for share in drawn] == [n > 0 for n in n_boxes]
    # Nothing is drawn of what is switched off.
    without = visitor.get(result, params={"format": "film", "only": "blue"}).content
    assert all(
        np.abs(frame.astype(int) - picture).mean() < 2
        for (_, frame), picture in zip(plain_frames(without), frames, strict=True)
    )
    problem(visitor.get(result, params={"format": "parquet"}), 422)

    # What is forgotten is gone, the film too.
    assert visitor.delete(f"/api/v1/jobs/{job['id']}").status_code == 204
    problem(visitor.get(f"/api/v1/jobs/{job['id']}"), 404)
    problem(visitor.get(result), 404)


def test_answers_come_while_the_film_is_looked_at(visitor: httpx.Client):
    sent = send(visitor, film_of(passing(600), codec="libx264", kind="mp4"))
    address = f"{sent.headers['Location']}/frames"
    first = wait_for(lambda: (now := visitor.get(address).json())["frames"] and now, what="first answers")
    assert first["job"]["state"] == "running"
    assert [row["name"] for row in first["rows"]] == ["red", "blue"]
    last = wait_for(lambda: (now := visitor.get(address, params={"offset": 500}).json())["frames"] and now, what="last")
    assert last["frames"][0]["at"] == pytest.approx(50.0)
    job = ended(visitor, sent)
    assert (job["done"], job["seconds_left"], job["place"]) == (600, None, 0)


def test_films_wait_in_line_and_know_when_they_will_be_done(author: httpx.Client, visitor: httpx.Client):
    one = send(author, film_of(passing(5000), codec="libx264", kind="mp4"))
    other = send(visitor, film_of(passing(40), codec="libx264", kind="mp4"))
    address = other.headers["Location"]

    def waits_and_knows() -> dict[str, Any] | None:
        job = visitor.get(address).json()
        return job if job["state"] != "waiting" or job["seconds_left"] else None

    job = wait_for(waits_and_knows, what="how long it takes")
    assert (job["state"], job["place"]) == ("waiting", 1)
    ahead = author.get(one.headers["Location"]).json()
    assert ahead["state"] == "running"
    # It is before the other: what is left of it, and the other's own time.
    assert job["seconds_left"] > 0.5 * ahead["seconds_left"]
    author.delete(one.headers["Location"])
    assert ended(visitor, other)["state"] == "done"


def test_who_leaves_has_it_cancelled_by_word_or_by_silence(author: httpx.Client, visitor: httpx.Client):
    film = film_of(passing(590), codec="libx264", kind="mp4")
    cancelled = send(visitor, film)
    assert visitor.delete(cancelled.headers["Location"]).status_code == 204
    assert visitor.get(cancelled.headers["Location"]).json()["state"] == "cancelled"
    # Nobody asks about this one any more, which waits for a long one; the author sees what becomes of it.
    long = send(author, film_of(passing(5000), codec="libx264", kind="mp4"))
    left = send(visitor, film).json()["id"]

    def over() -> dict[str, Any] | None:
        jobs = {job["id"]: job for job in author.get("/api/v1/jobs").json()["jobs"]}
        return jobs[left] if jobs[left]["state"] in ENDED else None

    job = wait_for(over, what="what is left being cancelled")
    assert (job["state"], job["detail"]) == ("cancelled", "Nobody asked about it any more.")
    author.delete(long.headers["Location"])


def test_who_waits_for_the_first_look_has_not_left(studio_of_films: Studio, visitor: httpx.Client):
    (keeper,) = studio_of_films.processes()["keeper"]
    keeper.suspend()
    try:
        with ThreadPoolExecutor(1) as pool:
            sending = pool.submit(send, visitor, film_of(passing(5)))
            # Longer than the silence by which others are known to have left.
            time.sleep(LEFT_SECONDS + 2)
            keeper.resume()
            assert ended(visitor, sending.result())["state"] == "done"
    finally:
        keeper.resume()


def test_a_film_that_is_over_stays_while_somebody_asks_and_is_forgotten_when_nobody_does(
    studio_of_films: Studio, author: httpx.Client, visitor: httpx.Client
):
    job = ended(visitor, send(visitor, film_of(passing(5))))
    address, folder = f"/api/v1/jobs/{job['id']}", studio_of_films.home / "jobs" / job["id"]
    assert job["result"]["kept_until"] is None
    until = time.monotonic() + 12
    while time.monotonic() < until:
        assert visitor.get(address).status_code == 200
        time.sleep(0.5)
    wait_for(lambda: job["id"] not in [one["id"] for one in author.get("/api/v1/jobs").json()["jobs"]], what="its end")
    problem(visitor.get(address), 404)
    assert not folder.exists()
    # The author's own stays.
    kept = ended(author, send(author, film_of(passing(5))))
    assert kept["result"]["kept_until"] is not None


def test_who_takes_a_film_slowly_does_not_hold_up_the_next(studio_of_films: Studio, author: httpx.Client):
    rng = np.random.default_rng(1)
    noise = [rng.integers(0, 256, (480, 640, 3), dtype="uint8") for _ in range(60)]
    job = ended(author, send(author, film_of(noise, codec="libx264", kind="mp4")))
    result = f"/api/v1/jobs/{job['id']}/result?format=film"
    with studio_of_films.client(key=studio_of_films.new_key()) as slow, slow.stream("GET", result) as taken:
        assert taken.status_code == 200
        parts = taken.iter_raw(1000)
        first = next(parts)

        def made() -> bytes | None:
            response = author.get(result)
            assert response.status_code in (200, 503)
            return response.content if response.status_code == 200 else None

        whole = wait_for(made, what="the other film being made")
        # More than lies in the lines between the two, or the slow one would have had all of it.
        assert len(whole) > 8_000_000
        assert len(plain_frames(whole)) == 60
        rest = b"".join(parts)
    assert len(first) + len(rest) == len(whole)


def test_a_film_goes_on_where_it_stood_whatever_dies(studio_of_films: Studio, author: httpx.Client):
    n = 1500
    # The reader and the model's runner are among the runners.
    sent = send(author, film_of(passing(n), codec="libx264", kind="mp4"), rate=30)
    done = 0
    for kind in ("runner", "jobs", "keeper", "mariadb"):

        def further(than: int = done) -> dict[str, Any] | None:
            response = author.get(sent.headers["Location"])
            return response.json() if response.status_code == 200 and response.json()["done"] > than else None

        job = wait_for(further, what="the next frames")
        assert job["state"] == "running", f"over before {kind} was killed"
        done = job["done"]
        for process in studio_of_films.processes()[kind]:
            process.kill()

    def over() -> dict[str, Any] | None:
        response = author.get(sent.headers["Location"])
        return response.json() if response.status_code == 200 and response.json()["state"] in ENDED else None

    job = wait_for(over, seconds=180, what="the film's end")
    assert (job["state"], job["done"], job["answered"]) == ("done", n, n), job
    at = [frame["at"] for frame in frames_of(author, job)]
    assert at == [round(place / 10, 3) for place in range(n)]


@pytest.mark.parametrize(
    ("film", "sentence"),
    [
        (lambda: sound_only(), "has sound only"),
        (lambda: b"no film at all", "is no film that can be read here"),
        (lambda: film_of(passing(40), kind="mp4", codec="libx264")[:900], "breaks off"),
        (lambda: film_of(passing(3), times=[0.0, 1.0, 100.0]), "lasts 1:40 minutes; the limit is 1 minute"),
        (lambda: film_of([np.zeros((2400, 4200, 3), "uint8")], kind="mp4", codec="libx264"), "4200 × 2400 pixels"),
        (lambda: b"", "`video` is missing"),
    ],
    ids=["sound only", "no film", "cut short", "too long", "too large", "nothing"],
)
def test_what_cannot_be_asked_about_is_said_at_once(visitor: httpx.Client, film, sentence: str):
    refused = problem(send(visitor, film()), 422)
    assert sentence in refused["detail"]
    assert [fault["field"] for fault in refused["errors"]] == ["video"]


def test_whoever_may_not_is_told_before_anything_is_read(author: httpx.Client, visitor: httpx.Client):
    author.patch(DEMO, json={"parts": {"films": False}})
    author.post(f"{DEMO}/releases", json={"despite": {"words": "a test"}})
    try:
        assert visitor.get(f"{DEMO}/page").json()["parts"]["films"] is False
        refused = problem(send(visitor, b"not even looked at"), 403)
        assert "Its author can let it take films" in refused["detail"]
    finally:
        author.patch(DEMO, json={"parts": {"films": True}})
        author.post(f"{DEMO}/releases", json={"despite": {"words": "a test"}})
    tables = problem(author.post(f"{DEMO}/jobs", files={"table": b"a\n1\n"}), 422)
    assert "Send it a film" in tables["detail"]
    films = problem(send(author, b"x", demo="/api/v1/demos/will-it-crack"), 422)
    assert "looks at no picture" in films["detail"]
    made = problem(send(author, b"x", demo="/api/v1/demos/how-will-it-look-fired"), 422)
    assert "answers with pictures" in made["detail"]


def test_a_films_classes_are_those_of_its_frames_as_pictures(author: httpx.Client):
    demo = "/api/v1/demos/how-is-the-glaze"
    rng = np.random.default_rng(5)
    frames = [np.clip(rng.normal(120 + 20 * at, 30, (240, 330, 3)), 0, 255).astype("uint8") for at in range(4)]
    job = ended(author, send(author, film_of(frames), demo=demo, rate=10))
    found = frames_of(author, job)
    # There is nothing to draw into it; it comes as every browser plays it.
    assert job["result"]["formats"] == ["csv", "film"]
    made = author.get(f"/api/v1/jobs/{job['id']}/result", params={"format": "film"})
    assert len(plain_frames(made.content)) == 4
    for frame, picture in zip(found, frames, strict=True):
        answer = author.post(f"{demo}/predictions", files={"picture": as_bytes(picture)}).json()["answer"]
        shares = {one["class"]: (one["probability"], one["of_100"]) for one in answer["probabilities"]}
        assert frame["said"] == answer["class"]
        rows = author.get(f"/api/v1/jobs/{job['id']}/frames").json()["rows"]
        assert {row["name"]: mark for row, mark in zip(rows, frame["marks"], strict=True)} == {
            name: mark for name, (_, mark) in shares.items()
        }
        assert frame["values"] == pytest.approx([shares[row["name"]][0] for row in rows], abs=1e-6)
    lines = list(csv.DictReader(io.StringIO(author.get(f"/api/v1/jobs/{job['id']}/result").text)))
    assert [line["answer"] for line in lines] == [frame["said"] for frame in found]
