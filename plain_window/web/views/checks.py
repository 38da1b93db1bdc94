"""The checks of a draft."""

from collections.abc import Iterator

from flask import Response, request, stream_with_context

from ...core.checks.result import CheckResult
from ...store.demos import draft_tag
from ...store.records import Demo
from ..access import require_owner
from ..checking import checks_of
from ..identity import caller_name
from ..lookups import read_draft
from ..state import state
from ..types.report import CheckRun
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
    results = _made(own_record(slug))
    if request.accept_mimetypes.best_match(["application/json", STREAM]) != STREAM:
        return run_of(list(results))
    lines = (result.model_dump_json() + "\n" for result in results)
    return Response(stream_with_context(lines), content_type=STREAM, headers={"X-Accel-Buffering": "no"})


def _made(demo: Demo) -> Iterator[CheckResult]:
    """Each check as it ends; once all are made they are remembered for this very draft."""
    results = []
    for result in checks_of(read_draft(demo, state().services), demo, caller=caller_name()):
        results.append(result)
        yield result
    state().checks.keep(draft_tag(demo), results)


def checked(demo: Demo) -> list[CheckResult]:
    """What the checks of a draft come to: as they did, if nothing has changed since, or made now.

    Parameters
    ----------
    demo : Demo
        Its record.

    Raises
    ------
    RunnerUnavailable
        If its model is not there to be asked.
    """
    return state().checks.of(draft_tag(demo)) or list(_made(demo))


def run_of(results: list[CheckResult]) -> CheckRun:
    """The checks together.

    Parameters
    ----------
    results : list of CheckResult
    """
    return CheckRun(fit=all(result.status != "fail" for result in results), checks=results)
