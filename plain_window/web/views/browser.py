"""What a page fetches that answers in its visitor's browser: what answers rest on, and the compiled model."""

import hashlib
from collections.abc import Callable

from flask import Response, request

from ..access import visible_version
from ..browser_answers import browser_wish, mark_of
from ..limits import slow_down_visitor
from ..lookups import ServedDemo, Version
from ..problems import ApiProblem
from ..state import state
from ..take_away_content import content_of, written
from ..take_away_wish import Wish, model_file
from .api import api
from .asking import DRAFT_QUERY, asks_draft
from .page_data import page_of

__all__: list[str] = []

# How often one address may fetch, a second; a page does once each.
FETCH_RATE, FETCHES_SAVED = 1.0, 20.0
PACKED = "application/gzip"
QUERY = {**DRAFT_QUERY, "mark": "The page's `browser.mark`: keeps what belongs together together where it is kept."}


@api.operation(
    "GET",
    "/demos/<slug>/browser/content",
    query=QUERY,
    content_type=PACKED,
    errors=(401, 404, 409, 429, 502, 503),
)
def get_browser_content(slug: str) -> Response:
    """What answers rest on where a page answers in its visitor's browser: fields, wording, evidence, reference answers.

    JSON, compressed with gzip; its form is that of a file that needs no server.
    """
    demo, version, wish = _asked(slug)

    def make() -> bytes:
        page, model = page_of(demo, version), model_file(version).read_bytes()
        return written(content_of(state().services.runners, wish, page, None, None, model))

    return _packed(f"content {slug} {mark_of(wish)}", make)


@api.operation(
    "GET",
    "/demos/<slug>/browser/model",
    query=QUERY,
    content_type=PACKED,
    errors=(401, 404, 409, 429, 503),
)
def get_browser_model(slug: str) -> Response:
    """The compiled model where a page answers in its visitor's browser, or the ONNX graph; compressed with gzip."""
    _, version, _ = _asked(slug)
    path = model_file(version)
    return _packed(str(path), path.read_bytes)


def _asked(slug: str) -> tuple[ServedDemo, Version, Wish]:
    demo, version = visible_version(slug, draft=asks_draft())
    slow_down_visitor("what it answers by", FETCH_RATE, saved=FETCHES_SAVED)
    wish = browser_wish(version)
    if wish is None:
        raise ApiProblem(409, "The server answers", "This page is answered by its server. Load it again.")
    return demo, version, wish


def _packed(name: str, make: Callable[[], bytes]) -> Response:
    """A file that browsers keep, and ask about before they use it again."""
    response = Response(state().packed_files.of(name, make), content_type=PACKED)
    response.set_etag(hashlib.sha256(name.encode()).hexdigest()[:32])
    response.headers["Cache-Control"] = "private, no-cache"
    response.make_conditional(request)
    return response
