"""A demo as one file that needs no server: what it would be, and the file."""

import base64
import re
from html import unescape
from pathlib import Path

from flask import Response, current_app, request

from ...core.takeaway.page import LARGE_BYTES, filled_page, packed
from ..access import require_owner, visible_version
from ..beside import beside
from ..lookups import ServedDemo, Version
from ..problems import ApiProblem
from ..state import state
from ..take_away_content import content_of, written
from ..take_away_weights import weights_of
from ..take_away_wish import Wish, left_out, model_file, obstacle_of, sends_rows, shows_rows
from ..types.take_away import TakeAwayPart, TakeAwayPlan
from .api import api
from .asking import DRAFT_QUERY, asks_draft
from .page_data import page_of

__all__: list[str] = []

# By whether the model looks at pictures, and whether it is a graph.
TEMPLATES = {
    (False, False): "take-away.html",
    (True, False): "take-away-pixels.html",
    (True, True): "take-away-pictures.html",
}
POLICY = re.compile(r'http-equiv="Content-Security-Policy" content="([^"]*)"')
QUERY = {
    **DRAFT_QUERY,
    "rows": "`1` takes the rows of the reference table along, `0` leaves them out but for those that contributions are "
    "counted against; if left out they go along where the page hands out rows already.",
}
PLAN_FOR = (
    "`page` says what a page of this server would send that answers in its visitor's browser (`answers_in`); `file` "
    "what a file would be, which is meant if it is left out."
)


@api.operation(
    "GET",
    "/demos/<slug>/take-away/plan",
    guard=require_owner,
    answer=TakeAwayPlan,
    query={**QUERY, "for": PLAN_FOR},
    errors=(401, 404, 422, 503),
)
def get_plan(slug: str) -> TakeAwayPlan:
    """What the file would be: whether it can be made, what it weighs, what would not be in it."""
    _, version = _asked_version(slug)
    is_file = _is_for_file()
    obstacle = obstacle_of(version, is_file=is_file)
    if obstacle is not None:
        return TakeAwayPlan(obstacle=obstacle, release=version.number)
    wish = _wish(version, is_file=is_file)
    n_page = len(_template(wish)) if wish.is_file else 0
    parts = beside(lambda: _parts(wish, n_page))
    total = sum(part.bytes for part in parts)
    return TakeAwayPlan(
        release=version.number,
        has_rows=wish.has_rows,
        shows_rows=shows_rows(version),
        n_rows=wish.kept_rows.n_rows,
        n_sample=wish.n_sample,
        bytes=total,
        parts=parts,
        is_large=total > LARGE_BYTES,
        left_out=left_out(wish),
    )


@api.operation(
    "GET",
    "/demos/<slug>/take-away",
    guard=require_owner,
    content_type="text/html",
    query={**QUERY, "show": "`1` opens it instead of saving it."},
    errors=(401, 404, 409, 422, 502, 503),
)
def get_take_away(slug: str) -> Response:
    """The demo as one HTML file, which answers in its visitor's browser and asks nobody.

    Of what is published, or of the draft where nothing is.
    """
    demo, version = _asked_version(slug)
    obstacle = obstacle_of(version)
    if obstacle is not None:
        raise ApiProblem(409, "It does not fit into a file", obstacle)
    wish = _wish(version)
    template = _template(wish)
    model = model_file(version).read_bytes()
    logo = version.document.logo
    picture = base64.b64decode(logo.data) if logo is not None and logo.data else None
    content = content_of(state().services.runners, wish, page_of(demo, version), picture, _report(version, wish), model)
    text = written(content)
    file = beside(
        lambda: filled_page(
            template, title=version.document.title, slug=demo.slug, content=packed(text), model=packed(model)
        )
    )
    response = Response(file, content_type="text/html; charset=utf-8")
    kind = "inline" if request.args.get("show") == "1" else "attachment"
    response.headers["Content-Disposition"] = f'{kind}; filename="{demo.slug}.html"'
    # Its own, which is stricter than that of our pages but for the script within it.
    response.headers["Content-Security-Policy"] = _policy(template)
    return response


def _asked_version(slug: str) -> tuple[ServedDemo, Version]:
    """What is published, unless the draft is asked for or there is nothing else."""
    demo, draft = visible_version(slug, draft=True)
    return demo, draft if asks_draft() or demo.live is None else demo.live


@api.operation(
    "GET",
    "/demos/<slug>/compiled",
    guard=require_owner,
    content_type="application/octet-stream",
    query=DRAFT_QUERY,
    errors=(401, 404, 409),
)
def get_compiled(slug: str) -> Response:
    """The compiled model by itself, for a page or a program of one's own that reads it (docs/compiled-model.md).

    Of what is published, or of the draft where nothing is.
    """
    demo, version = _asked_version(slug)
    if version.job.compiled is None:
        why = version.inspection.compiled.obstacle or "It was not compiled."
        raise ApiProblem(409, "There is no compiled form", f"This model is asked through its library. {why}")
    response = Response(Path(version.job.compiled).read_bytes(), content_type="application/octet-stream")
    response.headers["Content-Disposition"] = f'attachment; filename="{demo.slug}.safetensors"'
    return response


def _is_for_file() -> bool:
    wanted = request.args.get("for", "file")
    if wanted not in ("file", "page"):
        raise ApiProblem(422, "For a file or a page", f"`for` may be `file` or `page`. Got `{wanted[:60]}`.")
    return wanted == "file"


def _wish(version: Version, *, is_file: bool = True) -> Wish:
    asked = request.args.get("rows")
    if asked not in (None, "0", "1"):
        raise ApiProblem(422, "With the rows or without", f"`rows` may be `1` or `0`. Got `{asked[:60]}`.")
    usual = shows_rows(version) if is_file else sends_rows(version)
    return Wish(version, has_rows=usual if asked is None else asked == "1", is_file=is_file)


def _template(wish: Wish) -> bytes:
    path = Path(current_app.config["PAGES"]) / TEMPLATES[wish.looks, wish.runs_graph]
    if not path.exists():
        raise ApiProblem(503, "The pages are not built", "Start the server with `./plainwindow`, which builds them.")
    return path.read_bytes()


def _policy(template: bytes) -> str:
    found = POLICY.search(template.decode("utf-8"))
    return unescape(found[1]) if found else "default-src 'none'"


def _parts(wish: Wish, n_page: int) -> list[TakeAwayPart]:
    """What weighs how much, the heaviest first."""
    weights = weights_of(wish)
    if wish.is_file:
        # There bytes are written as letters, which takes a third more.
        weights = {name: round(4 / 3 * own) for name, own in weights.items()}
        # What runs models of pictures stands in the page as it was built.
        weights["page"] = n_page - weights["engine"]
    return [
        TakeAwayPart.model_validate({"name": name, "bytes": weights[name]})
        for name in sorted(weights, key=lambda one: -weights[one])
        if weights[name]
    ]


def _report(version: Version, wish: Wish) -> dict[str, object] | None:
    """How the model did on known cases, where visitors are shown that; without rows not the worst of them either."""
    if not version.document.parts.report or version.evidence is None:
        return None
    from ..full_report import full_report
    from ..known_cases import known_of

    known = known_of(version)
    report = beside(lambda: full_report(version, known, None))
    if not wish.has_rows:
        report = report.model_copy(update={"worst": []})
    return report.model_dump(mode="json", by_alias=True)
