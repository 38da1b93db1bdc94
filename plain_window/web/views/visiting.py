"""What visitors ask for: the page, the schema, predictions."""

import json
import time

import nh3
from argon2 import PasswordHasher
from argon2.exceptions import VerificationError
from flask import Response, request
from markdown_it import MarkdownIt

from ...core.answers import make_answer
from ...core.errors import ModelFailed, PlainWindowError
from ...core.fields import CheckedInputs, Note, check_inputs, inputs_schema
from ...runners.client import RunnerFailed, RunnerRaised, RunnerUnavailable
from ..access import grant, passcode_proof, visible_version
from ..explained import curves_answer, explanation_answer, output_of
from ..identity import caller, has_key
from ..problems import ApiProblem, not_found
from ..served import ServedDemo, Version
from ..state import state
from ..types import Page, Passcode, PredictionAnswer, PredictionRequest, Timing
from . import api
from .limits import slow_down, slow_down_guesses

DRAFT_QUERY = {"draft": "`1` asks the draft (its author only)."}

EXPLAIN_QUERY = {
    "with": "`explanation`, `curves` or both, parted by a comma: what comes along with the answer.",
    "of": "The class, or the number, that is explained; the likeliest class if left out.",
    "scale": "`score` explains the score behind a probability, where the model has one.",
    "curves": "`full` gives every step of a curve, not only what a small chart can show.",
}

_markdown = MarkdownIt("commonmark", {"html": False})


@api.operation("GET", "/demos/<slug>/page", answer=Page, query=DRAFT_QUERY, errors=(401, 404, 503))
def get_page(slug: str) -> Page:
    """All that a visitor's page needs."""
    demo, version = visible_version(slug, draft=_asks_draft())
    document = version.document
    return Page(
        slug=demo.slug,
        title=document.title,
        purpose=document.purpose,
        description_html=nh3.clean(_markdown.render(document.description)) if document.description else "",
        not_for=document.not_for,
        licence=document.licence,
        fields=document.fields,
        answer=document.answer,
        release=version.number,
        records_inputs=document.record_inputs,
    )


@api.operation("GET", "/demos/<slug>/schema", query=DRAFT_QUERY, errors=(401, 404, 503))
def get_schema(slug: str) -> Response:
    """JSON Schema of the inputs."""
    _, version = visible_version(slug, draft=_asks_draft())
    schema = inputs_schema(version.document.fields, title=version.document.title)
    return Response(json.dumps(schema), content_type="application/schema+json")


@api.operation(
    "POST",
    "/demos/<slug>/predictions",
    body=PredictionRequest,
    answer=PredictionAnswer,
    query={**DRAFT_QUERY, **EXPLAIN_QUERY},
    errors=(400, 401, 404, 413, 422, 429, 502, 503),
)
def create_prediction(slug: str, body: PredictionRequest) -> PredictionAnswer:
    """The model's answer for one case."""
    started = time.perf_counter()
    # Knowing who asks refuses an invalid key, which must not lift the limit.
    if not has_key() or caller() is None:
        slow_down("predict", state().workshop.settings.limits.rate)
    demo, version = visible_version(slug, draft=_asks_draft())
    outcome = "failed"
    try:
        answer = _predict(version, body, started)
        outcome = "answered"
        return answer
    except PlainWindowError as error:
        outcome = "failed" if isinstance(error, ModelFailed) else "refused"
        raise (_for_author(demo, error) if isinstance(error, ModelFailed) else error) from error
    except RunnerRaised as error:
        raise _for_author(demo, error) from error
    except (RunnerUnavailable, RunnerFailed) as error:
        outcome = "overran" if getattr(error, "overran", False) else "unavailable"
        raise
    finally:
        state().predictions.add(
            demo_id=demo.id,
            release_number=version.number,
            duration_ms=(time.perf_counter() - started) * 1000,
            outcome=outcome,
            inputs=json.dumps(body.inputs) if version.document.record_inputs else None,
        )


@api.operation("POST", "/demos/<slug>/passcode", body=Passcode, errors=(400, 401, 404, 422, 429), status=204)
def give_passcode(slug: str, body: Passcode) -> Response:
    """Give the passcode; this browser's further requests are then let through."""
    slow_down_guesses("passcode")
    demo = state().served(slug)
    if demo is None or demo.live is None or demo.access != "passcode" or not demo.passcode_hash:
        raise not_found()
    try:
        PasswordHasher().verify(demo.passcode_hash, body.passcode)
    except VerificationError:
        raise ApiProblem(401, "Not this one", "That is not the passcode. Try again.") from None
    response = Response(status=204)
    grant(response, demo, passcode_proof(demo))
    return response


def _predict(version: Version, body: PredictionRequest, started: float) -> PredictionAnswer:
    document = version.document
    checked = check_inputs(document.fields, body.inputs)
    wanted = _wanted()
    if wanted:
        return _explained(version, body, checked, wanted, started)
    prediction = state().workshop.runners.predict(version.job, [checked.values])
    answer, answer_notes = make_answer(document.answer, prediction.outputs[0])
    return PredictionAnswer(
        answer=answer,
        notes=checked.notes + answer_notes,
        release=version.number,
        timing_ms=Timing(
            predict=round(prediction.predict_ms, 3), total=round((time.perf_counter() - started) * 1000, 3)
        ),
    )


def _wanted() -> set[str]:
    """What is to come along with the answer.

    Raises
    ------
    ApiProblem
        422 for anything that is not known.
    """
    wanted = {part.strip() for part in request.args.get("with", "").split(",")} - {""}
    unknown = wanted - {"explanation", "curves"}
    if unknown:
        detail = f"`with` may be `explanation`, `curves` or both. Got `{sorted(unknown)[0][:60]}`."
        raise ApiProblem(422, "Unknown part", detail)
    if request.args.get("scale", "") not in ("", "probability", "score"):
        raise ApiProblem(422, "Unknown scale", "`scale` may be `probability` or `score`.")
    return wanted


def _explained(
    version: Version, body: PredictionRequest, checked: CheckedInputs, wanted: set[str], started: float
) -> PredictionAnswer:
    document, at_score = version.document, request.args.get("scale") == "score"
    reply = state().workshop.runners.explain(
        version.job,
        checked.values,
        of=output_of(document.answer, request.args.get("of")),
        explanation="explanation" in wanted,
        curves="curves" in wanted,
        at_score=at_score,
        full=request.args.get("curves") == "full",
    )
    answer, notes = make_answer(document.answer, reply["outputs"])
    of, found, curves = reply["of"], reply["explanation"], reply["curves"]
    if found is None and "explanation" in wanted:
        why = reply.get("missing", "This model has no score behind its answer. Ask without `scale`.")
        notes = [*notes, Note(field=None, level="warn", message=f"The answer is not explained. {why}")]
    return PredictionAnswer(
        answer=answer,
        notes=checked.notes + notes,
        explanation=found and explanation_answer(document.answer, found, of, body.inputs, at_score=at_score),
        curves=None if curves is None else curves_answer(document.answer, curves, of, document.fields),
        release=version.number,
        timing_ms=Timing(
            predict=round(reply["predict_ms"], 3),
            explain=round(reply["explain_ms"], 3),
            total=round((time.perf_counter() - started) * 1000, 3),
        ),
    )


def _for_author(demo: ServedDemo, error: RunnerRaised | ModelFailed) -> Exception:
    """The error with the library's traceback, if it is the demo's author who asks."""
    author = caller()
    if author is None or author.id != demo.author_id:
        return error
    return ApiProblem(502, "No answer", str(error), traceback=error.traceback)


def _asks_draft() -> bool:
    return request.args.get("draft") in ("1", "true")
