"""Predictions, with what explains them."""

import json
import math
import time

from flask import request
from msgspec import to_builtins

from ...core.answers import make_answer
from ...core.contract import ExplainReply, Missing, RegionsReply
from ...core.contract.requests import ChangesWanted, ExplainRequest
from ...core.documents import DemoDocument
from ...core.errors import ModelFailed, PlainWindowError
from ...core.fields import CheckedInputs, DrawingField, Note, PictureField, check_inputs
from ...runners.client import RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable
from ..access import visible_version
from ..answer_ids import answer_id
from ..explanation_answers import (
    changeable_fields,
    changes_answer,
    curves_answer,
    explanation_answer,
    output_of,
    seen_answer,
    similar_answer,
    where_answer,
)
from ..identity import caller_name
from ..limits import slow_down_visitor
from ..lookups import Version
from ..problems import ApiProblem
from ..request_inputs import RequestInputs, read_request_inputs
from ..sentences import missing_sentence
from ..state import state
from ..types import PicturePredictionRequest, PredictionAnswer, PredictionRequest, Timing, WhereAnswer
from .api import api
from .asking import DRAFT_QUERY, EXPLAIN_QUERY, asks_draft, for_author, is_author, require_part

# What `with` may name, and the part of the page that is.
PART_OF_WITH = {
    "explanation": "pushes",
    "curves": "curves",
    "similar": "similar",
    "changes": "changes",
    "where": "pushes",
    "seen": None,
}

# A reason comes out of a model's process; a sentence or two is all it may be.
REASON_CHARACTERS = 500

# How long one answer may look into its pictures.
LOOK_SECONDS = 4.0


@api.operation(
    "POST",
    "/demos/<slug>/predictions",
    body=PredictionRequest,
    multipart=PicturePredictionRequest,
    reads_itself=True,
    answer=PredictionAnswer,
    query={**DRAFT_QUERY, **EXPLAIN_QUERY},
    errors=(400, 401, 403, 404, 413, 422, 429, 502, 503),
)
def create_prediction(slug: str) -> PredictionAnswer:
    """The model's answer for one case.

    A picture is a part named after its field, or within JSON `{"data": BASE64}`, `{"link": ADDRESS}` or
    `{"sample": NAME}`; a drawing may be `{"strokes": [[[x, y], …], …]}`.
    """
    started = time.perf_counter()
    # The page asks for every answer once by itself and once with what explains it; either is counted by itself.
    slow_down_visitor("explain" if request.args.get("with") else "predict", state().services.settings.limits.rate)
    demo, version = visible_version(slug, draft=asks_draft())
    outcome, given = "failed", RequestInputs({}, {})
    try:
        given = read_request_inputs(version.document)
        answer = _predict(version, given, started)
        if version.number is not None and version.document.parts.outcomes:
            answer.id = answer_id(demo.id, version.number, answer.answer)
        outcome = "answered"
        return answer
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
            inputs=_recorded(version.document, given, outcome),
            by_author=is_author(demo),
        )


def _recorded(document: DemoDocument, given: RequestInputs, outcome: str) -> str | None:
    """What is kept of the inputs where the author keeps them: never a picture, and nothing that was refused."""
    if not document.record_inputs or outcome == "refused":
        return None
    names = [field.name for field in document.fields if not isinstance(field, PictureField | DrawingField)]
    return json.dumps({name: given.inputs[name] for name in names if name in given.inputs})


def _predict(version: Version, given: RequestInputs, started: float) -> PredictionAnswer:
    document = version.document
    checked = check_inputs(document.fields, given.inputs, given.contents)
    wanted = _wanted(document)
    if wanted or any(isinstance(field, PictureField | DrawingField) for field in document.fields):
        return _explained(version, given, checked, wanted, started)
    prediction = state().services.runners.predict(version.job, [checked.values], caller=caller_name())
    # A value that was never seen makes a case that was never seen.
    is_unlike = bool(checked.notes) or any(prediction.unlike)
    answer, answer_notes = make_answer(document.answer, prediction.outputs[0], version.evidence, is_unlike=is_unlike)
    return PredictionAnswer(
        answer=answer,
        notes=checked.notes + answer_notes,
        release=version.number,
        timing_ms=Timing(
            predict=round(prediction.predict_ms, 3), total=round((time.perf_counter() - started) * 1000, 3)
        ),
    )


def _wanted(document: DemoDocument) -> set[str]:
    """What is to come along with the answer.

    Raises
    ------
    ApiProblem
        422 for anything that is not known, 403 for what the author has switched off.
    """
    wanted = {part.strip() for part in request.args.get("with", "").split(",")} - {""}
    unknown = wanted - PART_OF_WITH.keys()
    if unknown:
        detail = (
            f"`with` may be `explanation`, `curves`, `similar`, `changes`, `where` or `seen`, parted by commas. "
            f"Got `{sorted(unknown)[0][:60]}`."
        )
        raise ApiProblem(422, "Unknown part", detail)
    for name in sorted(wanted):
        part = PART_OF_WITH[name]
        if part is not None:
            require_part(document, part)
    if request.args.get("scale", "") not in ("", "probability", "score"):
        raise ApiProblem(422, "Unknown scale", "`scale` may be `probability` or `score`.")
    return wanted


def _explained(
    version: Version, given: RequestInputs, checked: CheckedInputs, wanted: set[str], started: float
) -> PredictionAnswer:
    document, at_score = version.document, request.args.get("scale") == "score"
    asked = ExplainRequest(
        row=checked.values,
        of=output_of(document.answer, request.args.get("of")),
        explanation="explanation" in wanted,
        curves="curves" in wanted,
        at_score=at_score,
        full=request.args.get("curves") == "full",
        similar="similar" in wanted,
        seen="seen" in wanted,
        changes=_wanted_changes(document) if "changes" in wanted else None,
    )
    reply = state().services.runners.explain(version.job, asked, caller=caller_name())
    is_unlike = bool(checked.notes) or (reply.familiarity is not None and reply.familiarity.is_unlike)
    answer, notes = make_answer(document.answer, reply.outputs, version.evidence, is_unlike=is_unlike)
    where, where_notes = _looked(version, checked, reply.of) if "where" in wanted else (None, [])
    notes = [*notes, *where_notes, *_unexplained(reply, wanted)]
    notes += [Note(field=field, level="info", message=said[:REASON_CHARACTERS]) for field, said in reply.notes]
    return PredictionAnswer(
        answer=answer,
        notes=checked.notes + notes,
        explanation=reply.explanation
        and explanation_answer(
            document.answer, reply.explanation, reply.of, given.inputs, at_score=at_score, words=reply.words
        ),
        curves=None
        if reply.curves is None
        else curves_answer(document.answer, reply.curves, reply.of, document.fields),
        familiarity=None if reply.familiarity is None else to_builtins(reply.familiarity),
        similar=None if reply.similar is None else similar_answer(version, reply.similar),
        changes=None if reply.changes is None else changes_answer(version, reply.changes, given.inputs),
        where=where,
        seen=None if reply.seen is None else seen_answer(reply.seen),
        release=version.number,
        timing_ms=Timing(
            predict=round(reply.predict_ms, 3),
            explain=round(reply.explain_ms, 3),
            total=round((time.perf_counter() - started) * 1000, 3),
        ),
    )


def _unexplained(reply: ExplainReply, wanted: set[str]) -> list[Note]:
    """That something was asked for and is not there, and why."""
    missing = missing_sentence(reply.missing) if reply.missing else ""
    if "explanation" in wanted and reply.explanation is None:
        why = missing or missing_sentence("no-score")
        message = f"The answer is not explained. {why}"
        return [Note(field=None, level="warn", message=message, code="not-explained")]
    if "curves" in wanted and reply.curves is None and missing:
        return [Note(field=None, level="warn", message=f"There are no curves. {missing}", code="no-curves")]
    return []


def _looked(version: Version, checked: CheckedInputs, of: int) -> tuple[list[WhereAnswer] | None, list[Note]]:
    """Where the model looked in each picture, as sharp as it gets within the time; asked for in small steps, so that
    others have their turn in between."""
    found, deadline = [], time.monotonic() + LOOK_SECONDS
    for field in version.job.needed_facts.picture_inputs:
        reply: RegionsReply | None = None
        while reply is None or (not reply.is_done and time.monotonic() < deadline):
            known = state().services.runners.regions(
                version.job, checked.values, field=field, of=of, caller=caller_name()
            )
            if isinstance(known, Missing):
                said = f"Where the model looked is not shown. {missing_sentence(known.reason)}"
                return None, [Note(field=None, level="warn", message=said, code="not-looked")]
            reply = known
        found.append(where_answer(version.document.answer, field, reply))
    return found or None, []


def _wanted_changes(document: DemoDocument) -> ChangesWanted:
    """What is to be reached by changes, and which fields may change."""
    setting, to, reach = document.answer, request.args.get("to"), request.args.get("reach")
    if setting.kind not in ("class", "number"):
        detail = "What would change it is found only for answers of one class or one number."
        raise ApiProblem(422, "Nothing to change", detail)
    try:
        number = None if reach is None else float(reach)
    except ValueError:
        number = math.nan
    if number is not None and not math.isfinite(number):
        raise ApiProblem(422, "No number", f"`reach` must be a number. Got `{(reach or '')[:60]}`.")
    wanted = None if to is None or setting.kind == "number" else output_of(setting, to, asked="to")
    return ChangesWanted(fields=changeable_fields(document.fields), to=wanted, reach=number)
