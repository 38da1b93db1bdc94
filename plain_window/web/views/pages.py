"""The pages: built files, with an address put in. Everything else they need comes from the API."""

from pathlib import Path

from flask import Blueprint, Response, current_app, redirect, request

from ...store.authors import use_sign_in_link
from ..access import grant, open_link, visible_version
from ..identity import begin_session
from ..problems import ApiProblem, not_found
from ..served import ServedDemo
from ..state import state
from .limits import slow_down_guesses

__all__ = ["blueprint"]

blueprint = Blueprint("pages", __name__)

# The one thing that is put into a built page; slugs have nothing that HTML reads as its own.
SLUG_PLACE = 'data-slug=""'


@blueprint.get("/")
@blueprint.get("/new")
@blueprint.get("/password")
@blueprint.get("/demos/<path:place>")
def workbench(place: str = "") -> Response:
    """The author's pages; which one is the page's own business."""
    return _page("workbench.html")


@blueprint.get("/d/<slug>")
def visitor(slug: str) -> Response:
    """A visitor's page."""
    try:
        demo, _ = visible_version(slug, draft=request.args.get("draft") == "1")
    except ApiProblem as problem:
        if problem.problem.status == 401:
            return _page("visitor.html", slug)
        return _page("missing.html", status=problem.problem.status)
    return _page("visitor.html", demo.slug)


@blueprint.get("/l/<token>")
def secret_link(token: str) -> Response:
    """A visitor's page by its secret link. The browser's further requests for this demo are let through."""
    try:
        demo: ServedDemo = open_link(token)
    except ApiProblem as problem:
        return _page("missing.html", status=problem.problem.status)
    response = _page("visitor.html", demo.slug)
    grant(response, demo, token)
    return response


@blueprint.get("/sign-in/<token>")
def sign_in(token: str) -> Response:
    """A one-time link: signs in and goes on to the shelf, or to the form if it was used before."""
    slow_down_guesses("sign-in")
    author = use_sign_in_link(token)
    if author is None:
        return redirect("/?link=used")  # type: ignore[return-value]
    begin_session(author.id, author.session_number)
    state().workshop.stamp.bump()
    return redirect("/" if author.password_hash else "/password")  # type: ignore[return-value]


def _page(name: str, slug: str = "", *, status: int = 200) -> Response:
    path = Path(current_app.config["PAGES"]) / name
    if not path.exists():
        raise not_found()
    html = path.read_text("utf-8")
    if slug:
        html = html.replace(SLUG_PLACE, f'data-slug="{slug}"', 1)
    return Response(html, status=status, content_type="text/html; charset=utf-8")
