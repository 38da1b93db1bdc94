"""Secret links: several of a demo, each with a name, an end and a count; and the sites that may frame its page."""

import datetime as dt

from ..studio import wait_for
from .helpers import fields_at_fault, problem


def new_link(author, demo: str, **settings) -> dict:
    made = author.post(f"{demo}/links", json=settings)
    assert made.status_code == 201, made.text
    return made.json()


def opens(studio, link: dict, demo: str) -> bool:
    """Whether somebody new who has the link gets at the page and what it needs."""
    with studio.client() as somebody:
        page = somebody.get(link["address"])
        needed = somebody.get(f"{demo}/page")
        assert page.status_code == needed.status_code
        return page.status_code == 200


def test_each_of_several_links_is_counted_and_revoked_by_itself(studio, author, visitor, demo):
    apprentices, buyers = new_link(author, demo, name="Apprentices"), new_link(author, demo, name="Buyers")
    assert author.get(demo).json()["access"]["access"] == "link"
    assert [opens(studio, link, demo) for link in (apprentices, buyers, buyers)] == [True, True, True]
    visitor.get(apprentices["address"], headers={"Sec-Purpose": "prefetch"})
    visitor.head(apprentices["address"])
    visitor.get(apprentices["address"])
    listed = author.get(f"{demo}/links").json()
    assert [(link["name"], link["opened"]) for link in listed["links"]] == [("Buyers", 2), ("Apprentices", 2)]

    assert author.delete(f"{demo}/links/{apprentices['id']}").status_code == 204
    assert not opens(studio, apprentices, demo)
    assert opens(studio, buyers, demo)
    # Also for whoever had opened it.
    problem(visitor.get(f"{demo}/page"), 404)
    problem(author.delete(f"{demo}/links/{apprentices['id']}"), 404)
    assert author.get(f"{demo}/links").json()["total"] == 1


def test_a_link_ends_when_it_was_said_to(studio, author, visitor, demo):
    soon = dt.datetime.now(dt.UTC) + dt.timedelta(seconds=4)
    link = new_link(author, demo, name="For today", expires=soon.isoformat())
    assert opens(studio, link, demo)
    # Only the page is asked for until then: the end may fall between two requests.
    wait_for(lambda: visitor.get(link["path"]).status_code == 404, what="the link ending")
    assert not opens(studio, link, demo)
    assert [one["has_ended"] for one in author.get(f"{demo}/links").json()["links"]] == [True]


def test_what_cannot_be_a_link_is_refused_with_the_way_on(author, demo):
    over = author.post(f"{demo}/links", json={"expires": "2020-01-01T00:00:00"})
    assert fields_at_fault(over) == ["expires"]
    assert "Give a time to come" in over.json()["detail"]
    assert author.get(demo).json()["access"]["access"] == "private"
    author.put(f"{demo}/access", json={"access": "everyone"})
    refused = problem(author.post(f"{demo}/links", json={}), 409)
    assert "Set its access to `link` first." in refused["detail"]


def test_only_sites_that_are_named_may_frame_the_page(author, visitor, demo):
    page = demo.replace("/api/v1/demos", "/d")
    named = {"access": "everyone", "sites": ["https://Studio.example/", "http://127.0.0.1:8000"]}
    assert author.put(f"{demo}/access", json=named).json()["sites"] == [
        "https://studio.example",
        "http://127.0.0.1:8000",
    ]
    policy = visitor.get(page).headers["content-security-policy"]
    assert policy.endswith("frame-ancestors 'self' https://studio.example http://127.0.0.1:8000")
    # Nothing else is framed, and the sites stay when the access changes.
    assert visitor.get("/").headers["content-security-policy"].endswith("frame-ancestors 'self'")
    assert author.put(f"{demo}/access", json={"access": "link"}).json()["sites"] == [
        "https://studio.example",
        "http://127.0.0.1:8000",
    ]
    # Saying sites only makes no link where its author has revoked all.
    for link in author.get(f"{demo}/links").json()["links"]:
        author.delete(f"{demo}/links/{link['id']}")
    author.put(f"{demo}/access", json={"sites": []}).raise_for_status()
    assert author.get(f"{demo}/links").json()["total"] == 0
    for wrong in ("studio.example", "https://studio.example/pots", "*", "https://a.example; script-src *"):
        assert fields_at_fault(author.put(f"{demo}/access", json={"access": "link", "sites": [wrong]})) == ["sites.0"]
