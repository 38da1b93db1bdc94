"""How a demo is used, and a call asked once more."""

import json
import time

from flask import Response

from ...core.errors import ModelFailed
from ...runners.failures import RunnerRaised
from ...store.log import find_call
from ...store.outcomes import count_outcomes, outcomes_of
from ...store.use import days_of, times_of
from ..access import require_owner, visible_version
from ..live_use import live_report
from ..numbers_asked import number_asked
from ..problems import ApiProblem, not_found
from ..request_inputs import RequestInputs
from ..types.predictions import PredictionAnswer
from ..types.use import Use, UseDay, UseOutcomes, UseTimes
from .api import api
from .asking import for_author
from .demos import own_record
from .predictions import answered

__all__: list[str] = []

USUAL_DAYS, MOST_DAYS = 30, 730


@api.operation(
    "GET",
    "/demos/<slug>/use",
    guard=require_owner,
    answer=Use,
    query={"days": f"How many days to look back; {USUAL_DAYS} if left out."},
    described={"days": {"type": "integer", "minimum": 1, "maximum": MOST_DAYS}},
    errors=(401, 404, 422, 503),
)
def get_use(slug: str) -> Use:
    """Answers a day, times, failures, and what visitors said became of them. The author's own tries do not count."""
    demo = own_record(slug)
    days, times = days_of(demo.id, days=max(1, number_asked("days", USUAL_DAYS, most=MOST_DAYS))), times_of(demo.id)
    right, wrong = count_outcomes(demo.id)
    _, version = visible_version(slug, draft=False)
    said = outcomes_of(demo.id, release=version.number) if version.number is not None else []
    return Use(
        answers=sum(day.answers for day in days),
        failures=sum(day.failures for day in days),
        times=UseTimes(median_ms=round(times.median, 3), p95_ms=round(times.of_95, 3)) if times else None,
        outcomes=UseOutcomes(right=right, wrong=wrong),
        days=[UseDay(**vars(day)) for day in days],
        live=live_report(version.number, said, version.document.answer) if version.number and said else None,
    )


@api.operation(
    "POST",
    "/demos/<slug>/log/<int:call>/again",
    guard=lambda slug, call: require_owner(slug),
    answer=PredictionAnswer,
    errors=(401, 403, 404, 422, 502, 503),
)
def ask_again(slug: str, call: int) -> Response:
    """Ask the draft what was asked then: whether what failed still does. It needs what was entered to have been kept.

    Where the model fails, the problem has its traceback.
    """
    started = time.perf_counter()
    entry = find_call(own_record(slug).id, call)
    if entry is None:
        raise not_found()
    if entry.inputs is None:
        detail = "What was entered was not kept, so it cannot be asked again. The demo can keep it from now on."
        raise ApiProblem(422, "Not kept", detail)
    demo, version = visible_version(slug, draft=True)
    try:
        answer = answered(demo, version, RequestInputs(json.loads(entry.inputs), {}), started)
    except (ModelFailed, RunnerRaised) as error:
        raise for_author(demo, error) from error
    return Response(answer, content_type="application/json")
