"""What was asked of a demo, how long it took and how it ended; for its author."""

import json
from collections.abc import Iterator
from typing import Any

from flask import Response, request, stream_with_context

from ...store.demos import draft_of
from ...store.log import log_page, log_rows
from ...store.outcomes import count_outcomes, outcomes_of
from ...store.records import Prediction
from ...store.retention import forget_inputs_of
from ..access import require_owner
from ..csv_lines import csv_line
from ..numbers_asked import number_asked
from ..problems import ApiProblem
from ..types.log import LogEntry, LogPage
from .api import api
from .demos import own_record

__all__: list[str] = []

MOST_ENTRIES, USUAL_ENTRIES = 500, 100
OUTCOMES = ("answered", "failed", "overran", "refused", "unavailable")
OUTCOME_QUERY = {"outcome": "Only calls that ended so: `answered`, `failed`, `overran`, `refused` or `unavailable`."}


@api.operation(
    "GET",
    "/demos/<slug>/log",
    guard=require_owner,
    answer=LogPage,
    query={**OUTCOME_QUERY, "offset": "How many of the newest to pass over.", "limit": "How many to give, up to 500."},
    described={
        "outcome": {"type": "string", "enum": list(OUTCOMES)},
        "offset": {"type": "integer", "minimum": 0},
        "limit": {"type": "integer", "minimum": 1, "maximum": MOST_ENTRIES},
    },
    errors=(401, 404, 422, 503),
)
def get_log(slug: str) -> LogPage:
    """What was asked, the newest first. What was entered is there only where the author keeps it."""
    demo = own_record(slug)
    offset, limit = number_asked("offset", 0), number_asked("limit", USUAL_ENTRIES, most=MOST_ENTRIES)
    total, found = log_page(demo.id, outcome=_outcome(), offset=offset, limit=max(1, limit))
    right, wrong = count_outcomes(demo.id)
    return LogPage(total=total, entries=[_entry(one) for one in found], called_right=right, called_wrong=wrong)


@api.operation(
    "GET",
    "/demos/<slug>/log.csv",
    guard=require_owner,
    query=OUTCOME_QUERY,
    described={"outcome": {"type": "string", "enum": list(OUTCOMES)}},
    errors=(401, 404, 422, 503),
    content_type="text/csv",
)
def get_log_table(slug: str) -> Response:
    """The same as a table for spreadsheets, a column a field. Nothing in it is taken for a formula."""
    demo, outcome = own_record(slug), _outcome()
    names = [field.name for field in draft_of(demo).fields]
    # With the request's context, so that the connection goes back when the last line has gone out.
    lines = stream_with_context(_lines(names, log_rows(demo.id, outcome=outcome)))
    response = Response(lines, content_type="text/csv; charset=utf-8")
    response.headers["Content-Disposition"] = f'attachment; filename="{demo.slug}-log.csv"'
    return response


@api.operation(
    "GET",
    "/demos/<slug>/outcomes.csv",
    guard=require_owner,
    errors=(401, 404, 503),
    content_type="text/csv",
)
def get_outcomes_table(slug: str) -> Response:
    """What visitors said became of their cases, as a table for spreadsheets."""
    demo = own_record(slug)
    rows: list[list[Any]] = [["at", "release", "answer", "right", "truth", "comment"]]
    for one in outcomes_of(demo.id):
        at = one.at.isoformat(timespec="seconds") + "Z"
        rows.append([at, one.release_number, one.answer, int(one.is_right), one.truth or "", one.comment or ""])
    response = Response("".join(map(csv_line, rows)), content_type="text/csv; charset=utf-8")
    response.headers["Content-Disposition"] = f'attachment; filename="{demo.slug}-outcomes.csv"'
    return response


@api.operation("DELETE", "/demos/<slug>/log/inputs", guard=require_owner, errors=(401, 403, 404, 503), status=204)
def delete_inputs(slug: str) -> None:
    """Forget what was entered: all of it, now. That something was asked stays counted."""
    forget_inputs_of(own_record(slug).id)


def _lines(names: list[str], entries: Iterator[Prediction]) -> Iterator[str]:
    yield csv_line(["at", "release", "outcome", "milliseconds", "by_author", *names])
    for one in entries:
        inputs = json.loads(one.inputs) if one.inputs else {}
        known = [one.at.isoformat(timespec="milliseconds") + "Z", one.release_number or "draft", one.outcome]
        yield csv_line(
            [*known, round(one.duration_ms, 1), int(one.by_author), *(inputs.get(name, "") for name in names)]
        )


def _entry(one: Prediction) -> LogEntry:
    return LogEntry(
        id=one.id,
        at=one.at,
        release=one.release_number,
        outcome=one.outcome,
        milliseconds=round(one.duration_ms, 3),
        by_author=bool(one.by_author),
        inputs=json.loads(one.inputs) if one.inputs else None,
    )


def _outcome() -> str | None:
    wanted = request.args.get("outcome") or None
    if wanted is not None and wanted not in OUTCOMES:
        raise ApiProblem(422, "Unknown outcome", f"`outcome` may be {', '.join(f'`{one}`' for one in OUTCOMES)}.")
    return wanted
