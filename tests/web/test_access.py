"""Who may open what."""

import re

import httpx
import pytest

from ..studio import wait_for
from .helpers import bring, problem

ROW = {"kiln": "gas", "pots": 20, "peak": 1230.5, "reduced": True}


@pytest.fixture
def demo(author):
    """A published demo that only its author may open."""
    slug = bring(author, title="Firing").json()["slug"]
    author.post(f"/api/v1/demos/{slug}/releases")
    yield f"/api/v1/demos/{slug}"
    author.delete(f"/api/v1/demos/{slug}")


def opens(client: httpx.Client, demo: str) -> bool:
    asked = client.post(f"{demo}/predictions", json={"inputs": ROW})
    shown = client.get(f"{demo}/page")
    assert (asked.status_code == 200) == (shown.status_code == 200)
    return shown.status_code == 200


def test_private_and_absent_demos_answer_alike(visitor, demo):
    for method, path, json in [("GET", "page", None), ("GET", "schema", None), ("POST", "predictions", {"inputs": {}})]:
        private = visitor.request(method, f"{demo}/{path}", json=json)
        absent = visitor.request(method, f"/api/v1/demos/no-such-demo/{path}", json=json)
        assert problem(private, 404) == problem(absent, 404)
    assert problem(visitor.get(demo), 404) == problem(visitor.get("/api/v1/demos/no-such-demo"), 404)
    assert visitor.get(demo.replace("/api/v1/demos", "/d")).text == visitor.get("/d/no-such-demo").text


def test_everyone_means_everyone_until_it_is_taken_back(author, visitor, demo):
    author.put(f"{demo}/access", json={"access": "everyone"})
    assert opens(visitor, demo)
    author.put(f"{demo}/access", json={"access": "private"})
    assert not opens(visitor, demo)
    assert opens(author, demo)


def test_a_secret_link_opens_for_whoever_has_it(studio, author, visitor, demo):
    link = author.put(f"{demo}/access", json={"access": "link"}).json()["link"]
    assert not opens(visitor, demo)
    assert f'data-slug="{demo.split("/")[-1]}"' in visitor.get(link).text
    assert opens(visitor, demo)
    with studio.client() as other:
        assert not opens(other, demo)
        assert other.get(link[:-1] + ("A" if link[-1] != "A" else "B")).status_code == 404
    assert author.get(demo).json()["access"]["link"] == link
    newer = author.put(f"{demo}/access", json={"access": "link", "new_link": True}).json()["link"]
    assert newer != link
    assert visitor.get(link).status_code == 404
    assert not opens(visitor, demo)


def test_a_secret_link_can_expire(author, visitor, demo):
    one_second = 1 / 86_400
    state = author.put(f"{demo}/access", json={"access": "link", "link_days": one_second, "new_link": True}).json()
    assert visitor.get(state["link"]).status_code == 200
    wait_for(lambda: visitor.get(state["link"]).status_code == 404, seconds=5, what="the link ending")
    assert not opens(visitor, demo)


def test_a_passcode_opens_for_whoever_knows_it(author, visitor, demo):
    problem(author.put(f"{demo}/access", json={"access": "passcode"}), 422)
    author.put(f"{demo}/access", json={"access": "passcode", "passcode": "celadon"})
    problem(visitor.get(f"{demo}/page"), 401)
    assert visitor.get(demo.replace("/api/v1/demos", "/d")).status_code == 200
    assert visitor.post(f"{demo}/passcode", json={"passcode": "celadon"}).status_code == 204
    assert opens(visitor, demo)
    author.put(f"{demo}/access", json={"access": "passcode", "passcode": "oxblood"})
    assert not opens(visitor, demo)
    wait_for(
        lambda: visitor.post(f"{demo}/passcode", json={"passcode": "celadon"}).status_code == 401,
        what="the old passcode being refused",
    )


def test_another_authors_demos_are_not_there(studio, author, demo):
    with studio.client(key="pw_not-a-key") as stranger:
        problem(stranger.get(demo), 401)
        problem(stranger.get("/api/v1/demos"), 401)
    with studio.client() as nobody:
        problem(nobody.get("/api/v1/demos"), 401)
        for method, path in [("PATCH", ""), ("DELETE", ""), ("POST", "/releases"), ("PUT", "/access")]:
            body = {"access": "everyone"} if method == "PUT" else {}
            problem(nobody.request(method, demo + path, json=body), 404)


def test_the_one_time_link_signs_in_once_and_the_password_after_that(studio):
    link = studio.run("sign-in").stdout.strip()
    with studio.client() as browser:
        assert browser.get(link, follow_redirects=False).status_code == 302
        session = browser.get("/api/v1/session").json()
        assert session["author"] == "studio"
        problem(browser.put("/api/v1/session/password", json={"password": "a kiln full of pots"}), 403)
        headers = {"X-CSRF-Token": session["csrf_token"]}
        problem(browser.put("/api/v1/session/password", json={"password": "short"}, headers=headers), 422)
        changed = browser.put("/api/v1/session/password", json={"password": "a kiln full of pots"}, headers=headers)
        assert changed.json()["has_password"] is True
        assert browser.get("/api/v1/demos").status_code == 200
    with studio.client() as second:
        second.get(link)
        assert second.get("/api/v1/session").json()["author"] is None
        signed_in = second.post("/api/v1/session", json={"name": "studio", "password": "a kiln full of pots"})
        assert signed_in.json()["author"] == "studio"
        token = signed_in.json()["csrf_token"]
        assert second.delete("/api/v1/session", headers={"X-CSRF-Token": token}).status_code == 204
        assert second.get("/api/v1/session").json()["author"] is None


def test_guessing_passwords_is_slowed_down(studio):
    with studio.client() as guesser:

        def guess() -> httpx.Response:
            answer = guesser.post("/api/v1/session", json={"name": "studio", "password": "a guess"})
            assert answer.status_code in (401, 429)
            return answer

        # A few slips are free; after them there is one guess a second.
        answers = [guess() for _ in range(25)]
    late = [answer for answer in answers if answer.status_code == 429]
    assert late
    assert int(late[0].headers["retry-after"]) >= 1
    problem(late[0], 429)


def test_session_cookies_are_out_of_reach_of_scripts_and_other_sites(studio):
    link = studio.run("sign-in").stdout.strip()
    with studio.client() as browser:
        # The guesses of other tests may have used up this address's share for a second.
        opened = wait_for(lambda: (answer := browser.get(link)).status_code == 302 and answer, what="signing in")
        cookie = opened.headers["set-cookie"]
    assert re.search("HttpOnly", cookie)
    assert re.search("SameSite=Lax", cookie)
