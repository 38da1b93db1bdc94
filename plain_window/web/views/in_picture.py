"""What lies in a picture, to keep: with its boxes drawn in or a table of them, what was made of it, a mask over it."""

import time

from flask import Response, request

from ...core.answers import BoxesAnswer, BoxesSetting, MaskSetting, PictureSetting
from ...core.errors import ModelFailed
from ...core.fields import check_inputs
from ...runners.failures import RunnerRaised
from ..access import visible_version
from ..explained_answers import read_wanted
from ..found_boxes import boxes_table, drawn_boxes, found_boxes, lowest_score
from ..identity import caller_name
from ..limits import slow_down_visitor
from ..made_pictures import made_file
from ..picture_kinds import picture_kind
from ..problems import ApiProblem
from ..quick_predictions import counted_as
from ..request_inputs import read_request_inputs
from ..state import state
from ..types.predictions import PicturePredictionRequest, PredictionRequest
from .api import api
from .asking import DRAFT_QUERY, SCORE_DESCRIBED, SCORE_QUERY, asks_draft, for_author

__all__: list[str] = []

FORMS = ("picture", "csv")
MADE_FORMS = ("picture", "mask")


@api.operation(
    "POST",
    "/demos/<slug>/boxes",
    body=PredictionRequest,
    multipart=PicturePredictionRequest,
    reads_itself=True,
    content_type="application/octet-stream",
    query={
        **DRAFT_QUERY,
        **SCORE_QUERY,
        "as": "`picture`: with the boxes drawn in, in the format it came in; or `csv`: a line a box.",
        "only": "A class by its name, several times for several: others are left out.",
    },
    described={**SCORE_DESCRIBED, "as": {"type": "string", "enum": list(FORMS), "default": "picture"}},
    errors=(400, 401, 403, 404, 413, 422, 429, 502, 503),
)
def create_boxes(slug: str) -> Response:
    """What is found in a picture as a file. Nothing of it is kept here."""
    started = time.perf_counter()
    slow_down_visitor(counted_as(True), state().services.settings.limits.rate)
    demo, version = visible_version(slug, draft=asks_draft())
    document, setting = version.document, version.document.answer
    if not isinstance(setting, BoxesSetting):
        raise ApiProblem(422, "No boxes", "This demo's answer is no boxes; there is nothing to draw.")
    form, least = _form(FORMS), lowest_score(setting)
    checked_inputs = read_request_inputs(document)
    checked = check_inputs(document.fields, checked_inputs.inputs, checked_inputs.contents)
    runners, caller, wanted = state().services.runners, caller_name(), read_wanted(document, {})
    try:
        written = found_boxes(runners, version, checked, wanted, least_score=least, caller=caller, started=started)
        answer = written.answer.answer
        assert isinstance(answer, BoxesAnswer), "boxes were asked for"
        only = set(request.args.getlist("only"))
        if only:
            answer = answer.model_copy(update={"boxes": [box for box in answer.boxes if box.name in only]})
        if form == "csv":
            return _file(boxes_table(answer).encode(), "text/csv; charset=utf-8", f"{demo.slug}-boxes.csv")
        drawn = drawn_boxes(runners, version, checked, answer, caller=caller)
    except (RunnerRaised, ModelFailed) as error:
        raise for_author(demo, error) from error
    # By what it is, not by what the model's process says it is.
    kind = picture_kind(drawn.content) or "application/octet-stream"
    return _file(drawn.content, kind, f"{demo.slug}-boxes.{kind.partition('/')[2]}")


@api.operation(
    "POST",
    "/demos/<slug>/made",
    body=PredictionRequest,
    multipart=PicturePredictionRequest,
    reads_itself=True,
    content_type="application/octet-stream",
    query={
        **DRAFT_QUERY,
        "as": "`picture`: what was made, in the format of what was given; of a mask that with the mask laid over it. "
        "`mask`: the mask itself, a grey PNG whose values are the classes' places.",
    },
    described={"as": {"type": "string", "enum": list(MADE_FORMS), "default": "picture"}},
    errors=(400, 401, 403, 404, 413, 422, 429, 502, 503),
)
def create_made(slug: str) -> Response:
    """What a model makes of a picture as a file, in full size. Nothing of it is kept here."""
    slow_down_visitor(counted_as(True), state().services.settings.limits.rate)
    demo, version = visible_version(slug, draft=asks_draft())
    document, setting = version.document, version.document.answer
    if not isinstance(setting, PictureSetting | MaskSetting):
        raise ApiProblem(422, "No picture", "This demo's answer is no picture.")
    form = _form(MADE_FORMS if isinstance(setting, MaskSetting) else MADE_FORMS[:1])
    sent = read_request_inputs(document)
    checked = check_inputs(document.fields, sent.inputs, sent.contents)
    runners, over = state().services.runners, form == "picture"
    try:
        made = made_file(runners, version, checked, most_side=None, laid_over=over, caller=caller_name())
    except (RunnerRaised, ModelFailed) as error:
        raise for_author(demo, error) from error
    kind = picture_kind(made.content) or "application/octet-stream"
    return _file(made.content, kind, f"{demo.slug}-{form}.{kind.partition('/')[2]}")


def _form(forms: tuple[str, ...]) -> str:
    form = request.args.get("as", "picture")
    if form not in forms:
        known = " or ".join(f"`{one}`" for one in forms)
        raise ApiProblem(422, "Unknown form", f"`as` may be {known}. Got `{form[:60]}`.")
    return form


def _file(content: bytes, type_: str, name: str) -> Response:
    response = Response(content, content_type=type_)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
