"""Whose address counts: the connection's, or what as many trusted proxies as there are have written down."""

import json

import pytest

from ..studio import USUAL_PIECE, Studio

PREDICTIONS = "/api/v1/demos/will-it-crack/predictions"
BODY = json.dumps({"inputs": USUAL_PIECE}).encode()
RATE = 4


@pytest.fixture(scope="module", params=[0, 1, 2])
def proxied(request, tmp_path_factory):
    """A server with so many trusted proxies in front of it."""
    environment = {"PLAINWINDOW_TRUSTED_PROXIES": str(request.param), "PLAINWINDOW_RATE": str(RATE)}
    studio = Studio(tmp_path_factory.mktemp(f"proxied-{request.param}") / "home", environment=environment)
    yield request.param, studio
    studio.stop()


def is_limited(studio: Studio, forwarded, *, quick: bool) -> bool:
    """Whether somebody who writes these addresses into their requests is slowed down."""
    kind = "application/json" if quick else "application/json; charset=utf-8"
    with studio.client() as visitor:
        statuses = [
            visitor.post(
                PREDICTIONS, content=BODY, headers={"Content-Type": kind, "X-Forwarded-For": forwarded(at)}
            ).status_code
            for at in range(6 * RATE)
        ]
    assert set(statuses) <= {200, 429}
    return 429 in statuses


@pytest.mark.parametrize("quick", [True, False], ids=["the short way", "the usual way"])
def test_what_a_client_writes_itself_changes_nothing(proxied, quick):
    n_proxies, studio = proxied
    only_one = is_limited(studio, lambda at: f"192.0.2.{at}", quick=quick)
    assert only_one == (n_proxies != 1)
    # As many addresses as there are proxies are theirs to write; what stands before those came with the request.
    ours = ", ".join(["198.51.100.7"] * max(1, n_proxies))
    assert is_limited(studio, lambda at: f"203.0.113.{at}, {ours}", quick=quick)


@pytest.mark.parametrize("quick", [True, False], ids=["the short way", "the usual way"])
def test_visitors_behind_trusted_proxies_do_not_share_one_limit(proxied, quick):
    n_proxies, studio = proxied
    behind = ", 198.51.100.9" * max(0, n_proxies - 1)
    assert is_limited(studio, lambda at: f"192.0.2.{at + 100}{behind}", quick=quick) == (n_proxies == 0)
