"""The pages: built files, with an address put in. Everything else they need comes from the API."""

import json
from pathlib import Path

from flask import Blueprint, Flask, Response, current_app, redirect, request
from markupsafe import escape
from werkzeug.wrappers import Response as BaseResponse

from ..access import count_link, door_of, grant, open_link, require_visible, visible_version
from ..headers import content_security_policy
from ..lookups import Door
from ..problems import ApiProblem, not_found

__all__ = ["blueprint", "install_problem_pages"]

blueprint = Blueprint("pages", __name__)

# What is put into a built page; slugs have nothing that HTML reads as its own.
SLUG_PLACE = 'data-slug=""'
# Fetched beside the scripts rather than after them: on a slow line that is half of the wait.
PAGE_PLACE = '<meta name="page" />'
PRELOAD = '<link rel="preload" as="fetch" crossorigin href="/api/v1/demos/{slug}/page{query}" />'
# Of a page on a phone's screen: its sign, and the paper behind it.
ICON_SIZES, PAPER = (192, 512), "#FAF8F3"
DETAIL_PLACE = "The server says why."


@blueprint.get("/")
@blueprint.get("/new")
@blueprint.get("/start")
@blueprint.get("/start/<job>")
@blueprint.get("/password")
@blueprint.get("/jobs")
@blueprint.get("/keys")
@blueprint.get("/sign-in/<token>")
@blueprint.get("/demos/<path:place>")
def workbench(place: str = "", token: str = "", job: str = "") -> Response:
    """The author's pages; which one is the page's own business.

    Opening a one-time link shows a page with a button: previews of links, and looking ahead, do not spend it.
    """
    return _page("workbench.html")


@blueprint.get("/d/<slug>", strict_slashes=False)
def visitor(slug: str) -> BaseResponse:
    """A visitor's page. From an address that the demo had before, and from one with a slash at its end, it goes on to
    the right one."""
    try:
        door, _ = require_visible(slug, draft=request.args.get("draft") == "1")
    except ApiProblem as problem:
        if problem.problem.status == 401:
            return _visitor_page(door_of(slug))
        return _page("missing.html", status=problem.problem.status)
    if request.path != f"/d/{door.slug}":
        return _moved(f"/d/{door.slug}")
    return _visitor_page(door)


@blueprint.get("/d/<slug>/manifest.webmanifest")
def manifest(slug: str) -> Response:
    """What a phone is told of a page that is put on its screen."""
    demo, version = visible_version(slug)
    told = {
        "name": version.document.title,
        "description": version.document.purpose,
        "lang": "en",
        "start_url": f"/d/{demo.slug}",
        "scope": f"/d/{demo.slug}",
        "display": "standalone",
        "background_color": PAPER,
        "theme_color": PAPER,
        "icons": [
            {"src": f"/assets/window-{size}.png", "sizes": f"{size}x{size}", "type": "image/png", "purpose": purpose}
            for size in ICON_SIZES
            for purpose in ("any", "maskable")
        ],
    }
    return Response(json.dumps(told, ensure_ascii=False), content_type="application/manifest+json")


@blueprint.get("/d/<slug>/offline.js")
def offline(slug: str) -> Response:
    """What answers for a page that its visitor keeps on a device, where there is no network."""
    door, _ = require_visible(slug)
    path = Path(current_app.config["PAGES"]) / "offline.js"
    if not path.exists():
        raise not_found()
    response = Response(path.read_text("utf-8"), content_type="text/javascript; charset=utf-8")
    # The page's own address has no folder of its own.
    response.headers["Service-Worker-Allowed"] = f"/d/{door.slug}"
    response.headers["Cache-Control"] = "no-cache"
    return response


def _visitor_page(door: Door) -> Response:
    """The page, with the sites that may frame it."""
    response = _page("visitor.html", door.slug)
    response.headers["Content-Security-Policy"] = content_security_policy(door.sites)
    return response


def _moved(path: str) -> BaseResponse:
    """On to another path, with the case in the query kept. Not for ever: an address can be taken back."""
    query = request.query_string.decode("latin-1")
    response = redirect(f"{path}?{query}" if query else path, code=302)
    response.headers["Cache-Control"] = "no-cache"
    return response


@blueprint.get("/l/<token>", strict_slashes=False)
def secret_link(token: str) -> Response:
    """A visitor's page by its secret link. The browser's further requests for this demo are let through."""
    try:
        door = open_link(token)
    except ApiProblem as problem:
        return _page("missing.html", status=problem.problem.status)
    response = _visitor_page(door)
    grant(response, door, token)
    # Looking at a page before anybody opens it is no opening.
    if request.method == "GET" and "Sec-Purpose" not in request.headers:
        count_link(token)
    return response


def install_problem_pages(app: Flask) -> None:
    """Whoever looks at an address with a browser reads a page, never a problem's JSON.

    Parameters
    ----------
    app : Flask
        It is changed in place.
    """

    @app.after_request
    def as_page(response: Response) -> Response:
        is_problem = response.content_type == "application/problem+json"
        if not is_problem or request.path.startswith("/api/") or "text/html" not in request.headers.get("Accept", ""):
            return response
        name = "missing.html" if response.status_code == 404 else "trouble.html"
        path = Path(current_app.config["PAGES"]) / name
        if not path.exists():
            return response
        problem = response.get_json(force=True)
        html = path.read_text("utf-8").replace(DETAIL_PLACE, str(escape(problem["detail"])), 1)
        page = Response(html, status=response.status_code, content_type="text/html; charset=utf-8")
        if "Retry-After" in response.headers:
            page.headers["Retry-After"] = response.headers["Retry-After"]
        for kept in ("Allow", "Set-Cookie"):
            for value in response.headers.getlist(kept):
                page.headers.add(kept, value)
        return page


def _page(name: str, slug: str = "", *, status: int = 200) -> Response:
    path = Path(current_app.config["PAGES"]) / name
    if not path.exists():
        raise not_found()
    html = path.read_text("utf-8")
    if slug:
        query = "?draft=1" if request.args.get("draft") == "1" else ""
        html = html.replace(SLUG_PLACE, f'data-slug="{slug}"', 1)
        html = html.replace(PAGE_PLACE, PRELOAD.format(slug=slug, query=query), 1)
    return Response(html, status=status, content_type="text/html; charset=utf-8")
