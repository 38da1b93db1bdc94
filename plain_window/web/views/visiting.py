"""What visitors ask for: the page, the schema, predictions."""

import json
import math
import time
from typing import Any, TypeVar

import nh3
from flask import Response, request
from markdown_it import MarkdownIt
from msgspec import to_builtins

from ...core.answers import make_answer
from ...core.contract import AmongReply, ExplainReply, Missing, OverallReply, WhereReply
from ...core.demo import DemoDocument, Parts, Sample
from ...core.errors import ModelFailed, PlainWindowError
from ...core.fields import CheckedInputs, DrawingField, Note, PictureField, check_inputs, inputs_schema
from ...runners.client import RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable
from ..access import door_of, grant, passcode_proof, visible_version
from ..answer_ids import answer_id
from ..explained import (
    among_answer,
    changeable_fields,
    changes_answer,
    curves_answer,
    explanation_answer,
    output_of,
    overall_answer,
    seen_answer,
    similar_answer,
    where_answer,
)
from ..given import Given, read_given
from ..hashing import is_right_secret
from ..identity import caller, caller_name
from ..limits import check_guess, note_guess, slow_down_visitor
from ..problems import ApiProblem, not_found
from ..reporting import report_of
from ..served import ServedDemo, Version
from ..state import state
from ..types import (
    AmongAnswer,
    OverallAnswer,
    Page,
    Passcode,
    PicturePredictionRequest,
    PredictionAnswer,
    PredictionRequest,
    Timing,
    WhereAnswer,
)
from ..usual import usual_of
from . import api

__all__ = ["DRAFT_QUERY", "EXPLAIN_QUERY", "asks_draft", "for_author", "require_part"]

Reply = TypeVar("Reply", OverallReply, AmongReply)
# A reason comes out of a model's process; a sentence or two is all it may be.
REASON_CHARACTERS = 500

DRAFT_QUERY = {"draft": "`1` asks the draft (its author only)."}

EXPLAIN_QUERY = {
    "with": "What comes along, parted by commas: `explanation`, `curves`, `similar`, `changes`, `where`, `seen`.",
    "to": "With `changes`: the class that is wanted; any other than the likeliest if left out.",
    "reach": "With `changes`: the number that is to be reached; the usual answer if left out.",
    "of": "The class, or the number, that is explained; the likeliest class if left out.",
    "scale": "`score` explains the score behind a probability, where the model has one.",
    "curves": "`full` gives every step of a curve, not only what a small chart can show.",
}

# What `with` may name, and the part of the page that is.
PART_OF_WITH = {
    "explanation": "pushes",
    "curves": "curves",
    "similar": "similar",
    "changes": "changes",
    "where": "pushes",
    "seen": None,
}
# How long one answer may look into its pictures.
LOOK_SECONDS = 4.0
# With more fields than this, only the strongest are shown at first.
MOST_UNFOLDED, UNFOLDED_OF_MANY = 40, 20

_markdown = MarkdownIt("commonmark", {"html": False})


@api.operation("GET", "/demos/<slug>/page", answer=Page, query=DRAFT_QUERY, errors=(401, 404, 503))
def get_page(slug: str) -> Page:
    """All that a visitor's page needs."""
    demo, version = visible_version(slug, draft=asks_draft())
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
        parts=_possible_parts(version),
        ignored=version.unused,
        folded=_folded(version),
        report=report_of(version.evidence, document.answer),
        outcome=version.target,
        samples=[_light(at, sample) for at, sample in enumerate(document.samples)],
        usual=usual_of(document, version.job.inspection or {}),
        unconfirmed=_unconfirmed(version),
    )


def _unconfirmed(version: Version) -> list[str]:
    """What the author of a draft has not confirmed; a release was published knowing it."""
    if version.number is not None:
        return []
    questions = (version.job.inspection or {}).get("questions") or []
    return [question["text"] for question in questions if question["name"] not in version.document.confirmed]


def _possible_parts(version: Version) -> Parts:
    """The parts that are switched on, but for those that need reference rows where there are none."""
    found = version.job.inspection or {}
    impossible = [] if found.get("n_reference_rows") else ["changes", "similar", "among", "overall"]
    if found.get("picture_inputs"):
        # Every reference row would have to be asked about beside every picture.
        impossible += ["among", "overall"]
    return version.document.parts.model_copy(update=dict.fromkeys(impossible, False))


def _light(at: int, sample: Sample) -> Sample:
    """A sample whose pictures are fetched when they are needed, by their names."""
    inputs = {
        name: {"sample": f"{at}.{name}"} if isinstance(value, dict) and "data" in value else value
        for name, value in sample.inputs.items()
    }
    return sample.model_copy(update={"inputs": inputs})


@api.operation("GET", "/demos/<slug>/schema", query=DRAFT_QUERY, errors=(401, 404, 503))
def get_schema(slug: str) -> Response:
    """JSON Schema of the inputs."""
    _, version = visible_version(slug, draft=asks_draft())
    schema = inputs_schema(version.document.fields, title=version.document.title)
    return Response(json.dumps(schema), content_type="application/schema+json")


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
    slow_down_visitor("explain" if request.args.get("with") else "predict", state().workshop.settings.limits.rate)
    demo, version = visible_version(slug, draft=asks_draft())
    outcome, given = "failed", Given({}, {})
    try:
        given = read_given(version.document)
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
            by_author=_is_author(demo),
        )


def _recorded(document: DemoDocument, given: Given, outcome: str) -> str | None:
    """What is kept of the inputs where the author keeps them: never a picture, and nothing that was refused."""
    if not document.record_inputs or outcome == "refused":
        return None
    names = [field.name for field in document.fields if not isinstance(field, PictureField | DrawingField)]
    return json.dumps({name: given.inputs[name] for name in names if name in given.inputs})


@api.operation(
    "GET",
    "/demos/<slug>/overall",
    answer=OverallAnswer,
    query={**DRAFT_QUERY, "of": "The class, or the number, that this is about; the first if left out."},
    errors=(401, 403, 404, 422, 429, 502, 503),
)
def get_overall(slug: str) -> OverallAnswer:
    """What matters overall: importance, direction and average curves, worked out while nobody asks for answers."""
    version, of = _asked_version(slug, "overall")
    found = state().workshop.runners.overall(version.job, of=of, caller=caller_name())
    return overall_answer(version, _there(found), of)


@api.operation(
    "GET",
    "/demos/<slug>/among",
    answer=AmongAnswer,
    query={**DRAFT_QUERY, "field": "The field, by its name.", "of": "The class, or the number, of the answers."},
    required=("field",),
    errors=(401, 403, 404, 422, 429, 502, 503),
)
def get_among(slug: str) -> AmongAnswer:
    """Reference rows by one field and the model's answer, for a case to be drawn among."""
    version, of = _asked_version(slug, "among")
    name = request.args.get("field", "")
    field = next((field for field in version.document.fields if field.name == name), None)
    if field is None:
        known = ", ".join(f"`{field.name}`" for field in version.document.fields[:8])
        raise ApiProblem(422, "No such field", f"`field` must be one of {known}. Got `{name[:60]}`.")
    found = state().workshop.runners.among(version.job, field=name, of=of, caller=caller_name())
    return among_answer(version, _there(found), field, of)


def _asked_version(slug: str, part: str) -> tuple[Version, int]:
    """The version a part of the page is asked of, and the output it is about."""
    slow_down_visitor("explain", state().workshop.settings.limits.rate)
    _, version = visible_version(slug, draft=asks_draft())
    require_part(version.document, part)
    return version, output_of(version.document.answer, request.args.get("of")) or 0


def _there(found: Reply | Missing) -> Reply:
    """What was asked for, where it is there."""
    if isinstance(found, Missing):
        raise ApiProblem(422, "Nothing to compare with", found.reason[:REASON_CHARACTERS])
    return found


def _may_try_passcode(slug: str) -> None:
    """Before a passcode is read: how often it may be tried, the same for a demo that has none."""
    check_guess(f"passcode of {door_of(slug).slug or slug}")


@api.operation(
    "POST",
    "/demos/<slug>/passcode",
    body=Passcode,
    guard=_may_try_passcode,
    errors=(400, 401, 404, 413, 415, 422, 429, 503),
    status=204,
)
def give_passcode(slug: str, body: Passcode) -> Response:
    """Give the passcode; this browser's further requests are then let through."""
    door = door_of(slug)
    asks = door.access == "passcode" and door.is_live
    # As much work where there is nothing to guess.
    is_right = is_right_secret(door.passcode_hash if asks else None, body.passcode)
    note_guess(f"passcode of {door.slug or slug}", is_right=is_right)
    if not asks:
        raise not_found()
    if not is_right:
        raise ApiProblem(401, "Not this one", "That is not the passcode. Try again.")
    response = Response(status=204)
    grant(response, door, passcode_proof(door))
    return response


def _predict(version: Version, given: Given, started: float) -> PredictionAnswer:
    document = version.document
    checked = check_inputs(document.fields, given.inputs, given.contents)
    wanted = _wanted(document)
    if wanted or any(isinstance(field, PictureField | DrawingField) for field in document.fields):
        return _explained(version, given, checked, wanted, started)
    prediction = state().workshop.runners.predict(version.job, [checked.values], caller=caller_name())
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
        if PART_OF_WITH[name] is not None:
            require_part(document, PART_OF_WITH[name])
    if request.args.get("scale", "") not in ("", "probability", "score"):
        raise ApiProblem(422, "Unknown scale", "`scale` may be `probability` or `score`.")
    return wanted


def _explained(
    version: Version, given: Given, checked: CheckedInputs, wanted: set[str], started: float
) -> PredictionAnswer:
    document, at_score = version.document, request.args.get("scale") == "score"
    reply = state().workshop.runners.explain(
        version.job,
        checked.values,
        of=output_of(document.answer, request.args.get("of")),
        caller=caller_name(),
        explanation="explanation" in wanted,
        curves="curves" in wanted,
        at_score=at_score,
        full=request.args.get("curves") == "full",
        similar="similar" in wanted,
        seen="seen" in wanted,
        changes=_wanted_changes(document) if "changes" in wanted else None,
    )
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
    missing = (reply.missing or "")[:REASON_CHARACTERS]
    if "explanation" in wanted and reply.explanation is None:
        why = missing or "This model has no score behind its answer. Ask without `scale`."
        return [Note(field=None, level="warn", message=f"The answer is not explained. {why}")]
    if "curves" in wanted and reply.curves is None and missing:
        return [Note(field=None, level="warn", message=f"There are no curves. {missing}")]
    return []


def _looked(version: Version, checked: CheckedInputs, of: int) -> tuple[list[WhereAnswer] | None, list[Note]]:
    """Where the model looked in each picture, as sharp as it gets within the time; asked for in small steps, so that
    others have their turn in between."""
    found, deadline = [], time.monotonic() + LOOK_SECONDS
    for field in version.job.pictures:
        reply: WhereReply | Missing | None = None
        while reply is None or (not reply.is_done and time.monotonic() < deadline):
            reply = state().workshop.runners.where(
                version.job, checked.values, field=field, of=of, caller=caller_name()
            )
            if isinstance(reply, Missing):
                said = f"Where the model looked is not shown. {reply.reason[:REASON_CHARACTERS]}"
                return None, [Note(field=None, level="warn", message=said)]
        found.append(where_answer(version.document.answer, field, reply))
    return found or None, []


def require_part(document: DemoDocument, name: str) -> None:
    """Refuse what the author has switched off."""
    if not getattr(document.parts, name):
        detail = f"The author of this demo has switched `{name}` off."
        raise ApiProblem(403, "Switched off", detail)


def _wanted_changes(document: DemoDocument) -> dict[str, Any]:
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
        raise ApiProblem(422, "No number", f"`reach` must be a number. Got `{reach[:60]}`.")
    wanted = None if to is None or setting.kind == "number" else output_of(setting, to, asked="to")
    return {"fields": changeable_fields(document.fields), "to": wanted, "reach": number}


def _folded(version: Version) -> list[str]:
    """Of many fields those that are not among the strongest."""
    names = [field.name for field in version.document.fields]
    if len(names) <= MOST_UNFOLDED:
        return []
    order = {name: at for at, name in enumerate(version.strength)}
    strongest = set(sorted(names, key=lambda name: order.get(name, len(order)))[:UNFOLDED_OF_MANY])
    return [name for name in names if name not in strongest]


def for_author(demo: ServedDemo, error: RunnerRaised | ModelFailed) -> Exception:
    """The error with the library's traceback, if it is the demo's author who asks."""
    if not _is_author(demo):
        return error
    return ApiProblem(502, "No answer", str(error), traceback=error.traceback)


def _is_author(demo: ServedDemo) -> bool:
    """Whether it is the demo's author who tries it."""
    author = caller()
    return author is not None and author.id == demo.author_id


def asks_draft() -> bool:
    """Whether the draft is asked for rather than the release."""
    return request.args.get("draft") in ("1", "true")
