"""Predictions, with what explains them."""

import time

from flask import Response, request

from ...core.answers import BoxesSetting, MaskSetting, PictureSetting, TableSetting, TextSetting
from ...core.errors import ModelFailed, PlainWindowError
from ...core.fields import check_inputs
from ...runners.failures import RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable
from ..access import visible_version
from ..entered import count_entered, page_visitor
from ..explained_answers import explained_answer, read_wanted
from ..found_boxes import found_boxes, lowest_score
from ..identity import caller_name
from ..limits import slow_down_visitor
from ..lookups import ServedDemo, Version
from ..made_pictures import made_picture
from ..numbers_asked import number_asked
from ..plain_answers import add_id, plain_answer_elsewhere, plain_answer_here, recorded_inputs
from ..problems import ApiProblem
from ..quick_predictions import COUNTED, FAILED, counted_as
from ..request_inputs import RequestInputs, read_request_inputs
from ..state import state
from ..types.predictions import PicturePredictionRequest, PredictionAnswer, PredictionRequest
from ..written_answers import written_answer
from .api import api
from .asking import (
    DRAFT_QUERY,
    EXPLAIN_QUERY,
    IN_PICTURE_DESCRIBED,
    IN_PICTURE_QUERY,
    MOST_SIDE,
    asks_draft,
    for_author,
    is_author,
)

__all__ = ["answered"]


@api.operation(
    "POST",
    "/demos/<slug>/predictions",
    body=PredictionRequest,
    multipart=PicturePredictionRequest,
    reads_itself=True,
    answer=PredictionAnswer,
    query={**DRAFT_QUERY, **EXPLAIN_QUERY, **IN_PICTURE_QUERY},
    described=IN_PICTURE_DESCRIBED,
    errors=(400, 401, 403, 404, 413, 422, 429, 502, 503),
)
def create_prediction(slug: str) -> Response:
    """The model's answer for one case.

    A picture is a part named after its field, or within JSON `{"data": BASE64}`, `{"link": ADDRESS}` or
    `{"sample": NAME}`; a drawing may be `{"strokes": [[[x, y], …], …]}`.
    """
    started = time.perf_counter()
    if not request.environ.get(COUNTED):
        slow_down_visitor(counted_as(bool(request.args.get("with"))), state().services.settings.limits.rate)
    demo, version = visible_version(slug, draft=asks_draft())
    outcome, sent = "failed", RequestInputs({}, {})
    try:
        sent = read_request_inputs(version.document)
        answer = answered(demo, version, sent, started)
        outcome = "answered"
        return Response(answer, content_type="application/json")
    except PlainWindowError as error:
        outcome = "failed" if isinstance(error, ModelFailed) else "refused"
        raise (for_author(demo, error) if isinstance(error, ModelFailed) else error) from error
    except RunnerRaised as error:
        raise for_author(demo, error) from error
    except (RunnerUnavailable, RunnerFailed, RunnerBusy) as error:
        outcome = "overran" if getattr(error, "overran", False) else "unavailable"
        raise
    except ApiProblem:
        outcome = "refused"
        raise
    finally:
        state().predictions.add(
            demo_id=demo.id,
            release_number=version.number,
            duration_ms=(time.perf_counter() - started) * 1000,
            outcome=outcome,
            inputs=None if outcome == "refused" else recorded_inputs(version.document, sent.inputs),
            by_author=is_author(demo),
        )


def answered(demo: ServedDemo, version: Version, sent: RequestInputs, started: float) -> bytes:
    """The answer, as it goes out.

    Parameters
    ----------
    demo : ServedDemo
    version : Version
        Which is asked.
    sent : RequestInputs
    started : float
        When the request began, by `time.perf_counter`.

    Raises
    ------
    InputFaults, ModelFailed, RunnerRaised, RunnerUnavailable
        As the model and its runner do.
    """
    document = version.document
    if failed := request.environ.get(FAILED):
        raise failed
    checked = check_inputs(document.fields, sent.inputs, sent.contents)
    wanted = read_wanted(document, request.args)
    runners, caller = state().services.runners, caller_name()
    if isinstance(document.answer, BoxesSetting):
        least = lowest_score(document.answer)
        answer = found_boxes(runners, version, checked, wanted, least_score=least, caller=caller, started=started)
    elif isinstance(document.answer, PictureSetting | MaskSetting):
        most = number_asked("most_side", 0, most=MOST_SIDE) or None
        answer = made_picture(runners, version, checked, wanted, most_side=most, caller=caller, started=started)
    elif isinstance(document.answer, TextSetting | TableSetting):
        answer = written_answer(runners, version, checked, wanted, caller=caller, started=started)
    elif wanted.parts or document.has_pictures:
        answer = explained_answer(runners, version, sent.inputs, checked, wanted, caller=caller, started=started)
    else:
        answer = plain_answer_here(state().quick_models, version, checked, started=started) or plain_answer_elsewhere(
            runners, version, checked, caller=caller, started=started
        )
    add_id(state().answer_ids, demo, version, answer)
    state().speeds.note(version.job.key, answer.answer.timing_ms.predict)
    if not is_author(demo):
        page_of = page_visitor(request.headers.get("Origin"), request.remote_addr)
        count_entered(state().summaries, demo, version, checked, answer.answer.answer, page_of=page_of)
    return answer.json()
