"""The pages: built files, with an address put in. Everything else they need comes from the API."""

from pathlib import Path

from flask import Blueprint, Response, current_app, request

from ..access import door_of, grant, open_link, require_visible
from ..problems import ApiProblem, not_found

__all__ = ["blueprint"]

blueprint = Blueprint("pages", __name__)

# The one thing that is put into a built page; slugs have nothing that HTML reads as its own.
SLUG_PLACE = 'data-slug=""'


@blueprint.get("/")
@blueprint.get("/new")
@blueprint.get("/password")
@blueprint.get("/keys")
@blueprint.get("/sign-in/<token>")
@blueprint.get("/demos/<path:place>")
def workbench(place: str = "", token: str = "") -> Response:
    """The author's pages; which one is the page's own business.

    Opening a one-time link shows a page with a button: previews of links, and looking ahead, do not spend it.
    """
    return _page("workbench.html")


@blueprint.get("/d/<slug>")
def visitor(slug: str) -> Response:
    """A visitor's page."""
    try:
        door, _ = require_visible(slug, draft=request.args.get("draft") == "1")
    except ApiProblem as problem:
        if problem.problem.status == 401:
            return _page("visitor.html", door_of(slug).slug)
        return _page("missing.html", status=problem.problem.status)
    return _page("visitor.html", door.slug)


@blueprint.get("/l/<token>")
def secret_link(token: str) -> Response:
    """A visitor's page by its secret link. The browser's further requests for this demo are let through."""
    try:
        door = open_link(token)
    except ApiProblem as problem:
        return _page("missing.html", status=problem.problem.status)
    response = _page("visitor.html", door.slug)
    grant(response, door, token)
    return response


def _page(name: str, slug: str = "", *, status: int = 200) -> Response:
    path = Path(current_app.config["PAGES"]) / name
    if not path.exists():
        raise not_found()
    html = path.read_text("utf-8")
    if slug:
        html = html.replace(SLUG_PLACE, f'data-slug="{slug}"', 1)
    return Response(html, status=status, content_type="text/html; charset=utf-8")
