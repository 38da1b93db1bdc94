"""The checks of a draft."""

from collections.abc import Iterator

from flask import Response, request, stream_with_context

from ...core.checks.result import CheckResult
from ...store.demos import draft_tag
from ..access import require_owner, visible_version
from ..checking import checks_of
from ..identity import caller_name
from ..lookups import Version
from ..report_types import CheckRun
from ..state import state
from .api import api
from .demos import own_record

__all__ = ["checked"]

STREAM = "application/x-ndjson"


@api.operation(
    "POST",
    "/demos/<slug>/checks",
    guard=require_owner,
    answer=CheckRun,
    errors=(401, 403, 404, 503),
)
def create_checks(slug: str) -> CheckRun | Response:
    """Run the checks on the draft. With `Accept: application/x-ndjson` a line a check comes as it ends."""
    tag = draft_tag(own_record(slug))
    _, version = visible_version(slug, draft=True)
    caller = caller_name()
    if request.accept_mimetypes.best_match(["application/json", STREAM]) == STREAM:
        lines = _lines(version, tag, caller)
        return Response(stream_with_context(lines), content_type=STREAM, headers={"X-Accel-Buffering": "no"})
    results = list(checks_of(version, caller=caller))
    state().checks.keep(tag, results)
    return run_of(results)


def _lines(version: Version, tag: str, caller: str) -> Iterator[str]:
    results = []
    for result in checks_of(version, caller=caller):
        results.append(result)
        yield result.model_dump_json() + "\n"
    state().checks.keep(tag, results)


def checked(slug: str, tag: str) -> list[CheckResult]:
    """What the checks of a draft come to: as they did, if nothing has changed since, or made now.

    Parameters
    ----------
    slug : str
        The demo's address.
    tag : str
        Of the draft.
    """
    known = state().checks.of(tag)
    if known is None:
        _, version = visible_version(slug, draft=True)
        known = list(checks_of(version, caller=caller_name()))
        state().checks.keep(tag, known)
    return known


def run_of(results: list[CheckResult]) -> CheckRun:
    """The checks together.

    Parameters
    ----------
    results : list of CheckResult
    """
    return CheckRun(fit=all(result.status != "fail" for result in results), checks=results)
