"""Signing in and out, passwords, keys."""

import re
import stat

import httpx
import pytest

from ..studio import Studio, wait_for
from .helpers import problem

PASSWORD = "a kiln full of pots"


def sign_in(studio: Studio, browser: httpx.Client) -> dict[str, str]:
    """Sign a browser in by a new link; the headers its page sends along."""
    token = studio.run("sign-in").stdout.strip().rpartition("/")[2]
    signed_in = wait_for(
        # The guesses of other tests may have used up this address's share for a second.
        lambda: (answer := browser.post("/api/v1/session/link", json={"token": token})).status_code != 429 and answer,
        what="signing in",
    )
    assert signed_in.status_code == 200, signed_in.text
    return {"X-CSRF-Token": signed_in.json()["csrf_token"]}


@pytest.fixture
def browser(studio):
    with studio.client() as browser:
        yield browser


def author_of(browser: httpx.Client) -> str | None:
    return browser.get("/api/v1/session").json()["author"]


def test_opening_a_one_time_link_does_not_spend_it_and_pressing_the_button_does(studio, browser):
    link = studio.run("sign-in").stdout.strip()
    path = link.removeprefix(studio.url)
    for method in ("HEAD", "GET", "GET"):
        assert browser.request(method, path).status_code == 200
    assert author_of(browser) is None
    body = {"token": link.rpartition("/")[2]}
    assert browser.post("/api/v1/session/link", json=body).json()["author"] == "studio"
    with studio.client() as second:
        again = wait_for(
            lambda: (answer := second.post("/api/v1/session/link", json=body)).status_code != 429 and answer
        )
        assert "used before" in problem(again, 401)["detail"]
        assert author_of(second) is None


def test_signing_out_ends_the_session_whoever_has_its_cookie(studio, browser):
    headers = sign_in(studio, browser)
    with studio.client() as thief:
        thief.cookies.update(browser.cookies)
        assert author_of(thief) == "studio"
        problem(browser.delete("/api/v1/session"), 403)
        assert browser.delete("/api/v1/session", headers=headers).status_code == 204
        assert author_of(thief) is None
        problem(thief.get("/api/v1/demos"), 401)


def test_all_sessions_end_at_once(studio, browser):
    headers = sign_in(studio, browser)
    with studio.client() as other:
        sign_in(studio, other)
        assert browser.delete("/api/v1/sessions", headers=headers).status_code == 204
        assert (author_of(browser), author_of(other)) == (None, None)


def test_a_fresh_link_sets_a_new_password_and_an_older_session_needs_the_old_one(studio, browser):
    headers = sign_in(studio, browser)
    for password, status in (("short", 422), (PASSWORD, 200)):
        changed = browser.put("/api/v1/session/password", json={"password": password}, headers=headers)
        assert changed.status_code == status
    # The password was set, so this is another session now: one that no link has begun.
    headers = {"X-CSRF-Token": changed.json()["csrf_token"]}
    assert changed.json()["asks_old_password"] is True
    without = browser.put("/api/v1/session/password", json={"password": "another kiln of pots"}, headers=headers)
    assert "old password is not right" in problem(without, 401)["detail"]
    with studio.client() as forgetful:
        headers = sign_in(studio, forgetful)
        answer = forgetful.put("/api/v1/session/password", json={"password": "glaze on my sleeve"}, headers=headers)
        assert answer.json()["has_password"] is True
    # Setting it ended every other session.
    assert author_of(browser) is None

    def by_password() -> httpx.Response | None:
        answer = browser.post("/api/v1/session", json={"name": "studio", "password": "glaze on my sleeve"})
        return answer if answer.status_code != 429 else None

    assert wait_for(by_password, what="signing in by password").json()["author"] == "studio"


def test_a_key_neither_signs_in_nor_sets_a_password_nor_makes_keys(author):
    for method, path, body in [
        ("PUT", "/session/password", {"password": PASSWORD}),
        ("DELETE", "/session", None),
        ("DELETE", "/sessions", None),
        ("GET", "/keys", None),
        ("POST", "/keys", {"name": "another"}),
        ("DELETE", "/keys/1", None),
    ]:
        answer = author.request(method, f"/api/v1{path}", json=body)
        assert "signed in" in problem(answer, 403)["detail"]
        assert "set-cookie" not in answer.headers


def test_keys_are_made_listed_and_revoked_on_the_page(studio, browser):
    headers = sign_in(studio, browser)
    made = browser.post("/api/v1/keys", json={"name": "the kiln's clock"}, headers=headers)
    assert made.status_code == 201
    listed = {key["name"]: key for key in browser.get("/api/v1/keys").json()["keys"]}
    assert listed["the kiln's clock"]["used"] is None
    assert "key" not in listed["the kiln's clock"] or listed["the kiln's clock"]["key"] is None
    with studio.client(key=made.json()["key"]) as program:
        assert program.get("/api/v1/demos").status_code == 200
        assert browser.get("/api/v1/keys").json()["keys"][0]["used"].endswith("Z")
        revoke = f"/api/v1/keys/{made.json()['id']}"
        assert browser.delete(revoke, headers=headers).status_code == 204
        problem(program.get("/api/v1/demos"), 401)
        problem(browser.delete(revoke, headers=headers), 404)


def test_keys_are_listed_and_revoked_by_command(studio):
    key = studio.new_key("to be revoked")
    number = re.search(r"(\d+)  to be revoked  \(made \d{4}-\d\d-\d\d, never used\)", studio.run("keys").stdout)[1]
    studio.run("revoke", number)
    with studio.client(key=key) as program:
        problem(program.get("/api/v1/demos"), 401)
    assert "to be revoked" not in studio.run("keys").stdout
    assert "There is no key" in studio.run("revoke", number, check=False).stderr


def test_guessing_passwords_is_slowed_down(studio):
    with studio.client() as guesser:

        def guess() -> httpx.Response:
            answer = guesser.post("/api/v1/session", json={"name": "studio", "password": "a guess"})
            assert answer.status_code in (401, 429)
            return answer

        answers = [guess() for _ in range(25)]
    late = [answer for answer in answers if answer.status_code == 429]
    assert late
    assert int(late[0].headers["retry-after"]) >= 1
    problem(late[0], 429)


def test_whoever_guesses_does_not_lock_the_owner_out(studio):
    """After wrong guesses from this very address the one-time link still signs in."""
    with studio.client() as guesser:
        wait_for(
            lambda: guesser.post("/api/v1/session", json={"name": "studio", "password": "a guess"}).status_code == 429,
            what="guessing having to wait",
        )
        assert sign_in(studio, guesser)


@pytest.mark.parametrize("kind", ["text/plain", "application/x-www-form-urlencoded", "multipart/form-data", ""])
def test_a_form_of_another_site_cannot_sign_anybody_in(browser, kind):
    body = b'{"name": "studio", "password": "x"}'
    headers = {"Content-Type": kind} if kind else {}
    answer = wait_for(
        lambda: (got := browser.post("/api/v1/session", content=body, headers=headers)).status_code != 429 and got
    )
    assert "application/json" in problem(answer, 415)["detail"]


def test_session_cookies_are_out_of_reach_of_scripts_and_other_sites(studio, browser):
    sent = []
    browser.event_hooks["response"] = [lambda response: sent.append(response.headers.get("set-cookie", ""))]
    sign_in(studio, browser)
    cookie = next(filter(None, sent))
    assert "HttpOnly" in cookie
    assert "SameSite=Lax" in cookie


def test_the_sign_in_link_is_kept_from_logs_that_others_read(studio):
    assert "/sign-in/" not in studio.said()
    path = studio.home / "run" / "sign-in-link"
    assert stat.S_IMODE(path.stat().st_mode) == 0o600
    assert studio.sign_in_link.startswith(f"{studio.url}/sign-in/")
