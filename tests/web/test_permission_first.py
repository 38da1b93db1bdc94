"""Who asks and whether they may comes before anything of what they sent is looked at; and that is bounded."""

import json
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest

from ..studio import USUAL_PIECE
from .helpers import problem

DEMO = "/api/v1/demos/will-it-crack"
JSON = {"Content-Type": "application/json"}
# A megabyte of faults, and of inputs that are none.
BAD_FIELDS = json.dumps({"fields": [{}] * 340_000}).encode()[: (1 << 20) - 10] + b"]}"
BAD_INPUTS = json.dumps({"inputs": {f"f{number}": 1 for number in range(80_000)}}).encode()


# Asks whether the server is alive until something comes in, and prints how often, and how long it took at most.
LOOK = """
import http.client, select, sys, time
waits = []
while not select.select([sys.stdin], [], [], 0.005)[0]:
    begun = time.perf_counter()
    connection = http.client.HTTPConnection("127.0.0.1", int(sys.argv[1]))
    connection.request("GET", "/healthz")
    assert connection.getresponse().status == 200
    connection.close()
    waits.append(time.perf_counter() - begun)
print(len(waits), max(waits))
"""


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [
        ("PATCH", DEMO, 404),
        ("PUT", f"{DEMO}/access", 404),
        ("POST", "/api/v1/demos", 401),
        ("PUT", "/api/v1/session/password", 401),
        ("POST", "/api/v1/keys", 401),
        ("POST", "/api/v1/demos/private-demo/predictions", 404),
        ("POST", "/api/v1/demos/private-demo/fetched", 404),
    ],
)
def test_a_body_is_not_parsed_for_who_may_not_send_it(visitor, method, path, status):
    # Not even JSON: it would be 400 if it were read.
    problem(visitor.request(method, path, content=b"{" * 1000, headers=JSON), status)


def test_of_very_many_faults_fifty_are_named_and_the_rest_counted(visitor, author):
    body = problem(visitor.post(f"{DEMO}/predictions", content=BAD_INPUTS, headers=JSON), 422)
    assert len(body["errors"]) == 1
    some = {f"f{number}": 1 for number in range(30_000)}
    body = problem(visitor.post(f"{DEMO}/predictions", json={"inputs": some}), 422)
    assert len(body["errors"]) == 50
    assert body["detail"] == f"{30_000 + len(USUAL_PIECE)} things need mending. The first 50 are named."
    answer = author.patch(DEMO, content=BAD_FIELDS, headers=JSON)
    assert len(problem(answer, 422)["errors"]) == 1
    assert len(answer.content) < 1000
    many = {f"setting {number}": number for number in range(30_000)}
    assert len(problem(author.patch(DEMO, json=many), 422)["errors"]) == 50


def test_a_slip_in_a_fields_name_is_guessed_for_the_first_few_only(visitor):
    slips = {f"wall_m{letter}": 1 for letter in "abcdefgh"}
    errors = problem(visitor.post(f"{DEMO}/predictions", json={"inputs": {**USUAL_PIECE, **slips}}), 422)["errors"]
    assert [fault["message"].endswith('Did you mean "wall_mm"?') for fault in errors] == [True] * 5 + [False] * 3


def test_others_are_served_while_sixteen_send_the_worst_they_can(studio):
    def send(number: int) -> int:
        with studio.client() as sender:
            path, body = ((DEMO, BAD_FIELDS), (f"{DEMO}/predictions", BAD_INPUTS))[number % 2]
            method = ("PATCH", "POST")[number % 2]
            return sender.request(method, path, content=body, headers=JSON).status_code

    # Looked at from another process: in this one the senders are in each other's way.
    looking = subprocess.Popen(
        [sys.executable, "-c", LOOK, str(studio.port)], stdin=subprocess.PIPE, stdout=subprocess.PIPE
    )
    with ThreadPoolExecutor(16) as senders:
        statuses = list(senders.map(send, range(48)))
    n_looks, longest = looking.communicate(b".")[0].split()
    assert set(statuses) == {404, 422}
    assert int(n_looks) > 3
    print(f"longest wait for /healthz: {float(longest) * 1000:.0f} ms")


@pytest.mark.parametrize(
    "name", ["²", "١", "9" * 5000, "-1", "0", "0.", "0.glaze", "\ud800".encode("utf-8", "replace").decode()]
)
def test_a_sample_by_any_name_is_there_or_not(visitor, name):
    value = {"picture": {"sample": name}}
    answer = visitor.post("/api/v1/demos/how-is-the-glaze/predictions", json={"inputs": value})
    assert answer.status_code == 422
    assert visitor.get(f"/api/v1/demos/how-is-the-glaze/samples/{name[:200]}").status_code == 404


def test_an_address_that_is_too_long_is_a_problem_like_any_other(studio):
    with httpx.Client(base_url=studio.url) as client:
        body = problem(client.get("/api/v1/" + "x" * 9000), 414)
    assert body["title"] == "Too long"


@pytest.mark.parametrize(
    ("host", "status"),
    [("localhost", 200), ("127.0.0.1:80", 200), ("[::1]", 200), ("LOCALHOST.", 200), ("evil.example", 421), ("", 421)],
)
def test_only_names_that_are_ours_are_answered(studio, host, status):
    with httpx.Client(base_url=studio.url) as client:
        answer = client.get(f"{DEMO}/page", headers={"Host": host})
        assert answer.status_code == status, answer.text
        assert client.get("/healthz", headers={"Host": "10.0.0.7:8700"}).status_code == 200


def test_times_carry_their_zone(author):
    assert author.get("/api/v1/demos").json()["demos"][0]["changed"].endswith("Z")
    assert author.get(DEMO).json()["release"]["created"].endswith("Z")


def test_the_description_is_made_once_and_sent_once(visitor):
    first = visitor.get("/api/v1/openapi.json")
    assert first.headers["content-encoding"] == "gzip"
    again = visitor.get("/api/v1/openapi.json", headers={"If-None-Match": first.headers["etag"]})
    assert (again.status_code, again.content) == (304, b"")
    plain = visitor.get("/api/v1/openapi.json", headers={"Accept-Encoding": "identity"})
    assert plain.json() == first.json()
