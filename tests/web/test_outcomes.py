"""What became of an answer: visitors say whether it was right, the author whether they may."""

import base64

import pytest

from ..studio import USUAL_PIECE
from .helpers import bring

FIRING = {"kiln": "gas", "pots": 20, "peak": 1230, "reduced": False}
PREDICTIONS = "/api/v1/demos/{slug}/predictions"


@pytest.fixture(scope="module")
def asked(studio, key) -> str:
    """A demo whose visitors may say what it really was."""
    with studio.client(key=key) as author:
        slug = bring(author, title="Was it right?").json()["slug"]
        author.patch(f"/api/v1/demos/{slug}", json={"parts": {"truth": True}})
        author.post(f"/api/v1/demos/{slug}/releases")
        author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
    return slug


def answer_of(client, slug: str, **changes) -> dict:
    return client.post(PREDICTIONS.format(slug=slug), json={"inputs": {**FIRING, **changes}}).json()


def say(client, slug: str, answer_id: str, **body):
    return client.post(f"{PREDICTIONS.format(slug=slug)}/{answer_id}/outcome", json=body)


def called(author, slug: str) -> tuple[int, int]:
    log = author.get(f"/api/v1/demos/{slug}/log").json()
    return log["called_right"], log["called_wrong"]


def test_an_answer_carries_an_id_and_what_became_of_it_is_kept_once(author, visitor, asked):
    right, wrong = called(author, asked)
    first, second = answer_of(visitor, asked)["id"], answer_of(visitor, asked, pots=31)["id"]
    assert first != second
    assert say(visitor, asked, first, right=True).status_code == 204
    assert say(visitor, asked, second, right=False, truth=131.5, comment="a slow night").status_code == 204
    assert called(author, asked) == (right + 1, wrong + 1)
    # Whoever was wrong about it says it again.
    assert say(visitor, asked, first, right=False).status_code == 204
    assert called(author, asked) == (right, wrong + 2)


def test_an_id_says_nothing_of_what_was_asked(visitor, asked):
    payload = answer_of(visitor, asked, peak=1213.875)["id"].rpartition(".")[0]
    assert payload
    assert b"1213.875" not in base64.urlsafe_b64decode(payload + "=" * (-len(payload) % 4))


@pytest.mark.parametrize(
    ("body", "status", "words"),
    [
        ({"right": False, "truth": "much"}, 422, "must be a number"),
        ({"right": False, "truth": [3]}, 422, "truth"),
        ({"truth": 3}, 422, "right"),
        ({"right": True, "comment": "x" * 1001}, 422, "comment"),
        ({"right": True, "inputs": {}}, 422, "inputs"),
    ],
)
def test_what_cannot_be_said_is_refused_in_words(visitor, asked, body, status, words):
    refused = say(visitor, asked, answer_of(visitor, asked)["id"], **body)
    assert refused.status_code == status
    assert words in refused.text


@pytest.mark.parametrize("made_up", ["1", "WyJhIl0.abc", "a" * 4000, "%00"])
def test_an_id_that_no_answer_had_is_not_there(visitor, asked, made_up):
    assert say(visitor, asked, made_up, right=True).status_code == 404


def test_an_answer_of_another_demo_is_none_of_this_one(visitor, asked):
    other = visitor.post(PREDICTIONS.format(slug="will-it-crack"), json={"inputs": USUAL_PIECE}).json()["id"]
    assert say(visitor, asked, other, right=True).status_code == 404


def test_the_author_switches_it_off(author, visitor):
    slug = bring(author, title="Nobody asks").json()["slug"]
    author.post(f"/api/v1/demos/{slug}/releases")
    author.put(f"/api/v1/demos/{slug}/access", json={"access": "everyone"})
    before = answer_of(visitor, slug)["id"]
    # What it really was is asked only where the author says so.
    assert say(visitor, slug, before, right=False, truth=12.0).status_code == 403
    author.patch(f"/api/v1/demos/{slug}", json={"parts": {"outcomes": False}})
    author.post(f"/api/v1/demos/{slug}/releases")
    assert answer_of(visitor, slug).get("id") is None
    assert say(visitor, slug, before, right=True).status_code == 403


def test_a_draft_has_no_answers_to_speak_of(author, asked):
    answer = author.post(f"{PREDICTIONS.format(slug=asked)}?draft=1", json={"inputs": FIRING}).json()
    assert answer.get("id") is None


def test_a_demo_that_is_not_open_does_not_say_whether_it_is_there(author, visitor):
    slug = bring(author, title="Closed").json()["slug"]
    assert say(visitor, slug, "1", right=True).status_code == 404
    assert say(visitor, "no-such-demo", "1", right=True).status_code == 404


def test_the_page_says_the_usual_answer_from_which_contributions_are_counted(author, visitor):
    usual = visitor.get("/api/v1/demos/will-it-crack/page").json()["usual"]
    assert usual["n_rows"] == 100
    assert sum(int(part["text"]) for part in usual["parts"]) == 100
    explained = visitor.post(
        f"{PREDICTIONS.format(slug='will-it-crack')}?with=explanation", json={"inputs": USUAL_PIECE}
    ).json()["explanation"]
    (part,) = [part for part in usual["parts"] if part["name"] == explained["of"]]
    assert part["value"] == pytest.approx(explained["baseline"], abs=1e-9)
    energy = visitor.get("/api/v1/demos/what-will-this-firing-use/page").json()["usual"]["parts"][0]
    assert energy["unit"] == "kWh"
    assert energy["text"] == f"{energy['value']:.1f}"
    # Counted from fewer rows the usual answer is another; none is said then.
    slug = bring(author, title="Fewer rows").json()["slug"]
    author.patch(f"/api/v1/demos/{slug}", json={"background_rows": 40})
    assert author.get(f"/api/v1/demos/{slug}/page?draft=1").json()["usual"] is None
