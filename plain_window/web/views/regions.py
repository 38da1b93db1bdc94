"""What a page asks about pictures beside the answer: where the model looked, what a link leads to, samples."""

import base64
import json
import time
from collections.abc import Iterator

from flask import Response, request, stream_with_context

from ...core.contract import Missing
from ...core.errors import Fault, InputFaults
from ...core.fields import DrawingField, PictureField, check_inputs
from ...runners.failures import RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable
from ..access import require_visible, visible_version
from ..explanation_answers import (
    output_of,
    where_answer,
)
from ..identity import caller_name
from ..limits import slow_down_visitor
from ..parts import require_part
from ..picture_kinds import picture_kind
from ..problems import ApiProblem, not_found
from ..request_inputs import (
    picture_behind,
    read_request_inputs,
    sample_picture,
)
from ..sentences import missing_sentence
from ..state import state
from ..types.explanations import WhereAnswer
from ..types.predictions import Link, PicturePredictionRequest, PredictionRequest
from .api import api
from .asking import DRAFT_QUERY, EXPLAIN_QUERY, asks_draft, for_author

__all__ = []

# Where a model looked takes it seconds: more often than a hand pauses while it draws, nobody needs it.
LOOKS_A_SECOND = 8.0
# A stream ends, however busy the model is; and while it waits for a turn it looks whether it may go on.
MOST_LOOK_SECONDS, PATIENCE_SECONDS = 60.0, 0.5


@api.operation(
    "POST",
    "/demos/<slug>/where",
    body=PredictionRequest,
    multipart=PicturePredictionRequest,
    reads_itself=True,
    answer=WhereAnswer,
    content_type="application/x-ndjson",
    query={**DRAFT_QUERY, "field": "Which picture; the first if left out.", "of": EXPLAIN_QUERY["of"]},
    errors=(400, 401, 403, 404, 413, 422, 429, 502, 503),
)
def create_where(slug: str) -> Response:
    """Where the model looked, as it gets sharper: one JSON object a line, the last with `is_done`.

    The first line is a sketch: every part covered by itself. A line `{"detail": …}` says why there are no more.
    """
    slow_down_visitor("where", LOOKS_A_SECOND)
    demo, version = visible_version(slug, draft=asks_draft())
    document = version.document
    require_part(document, "contributions")
    sent = read_request_inputs(document)
    row = check_inputs(document.fields, sent.inputs, sent.contents).values
    pictures = [field.name for field in document.fields if isinstance(field, PictureField | DrawingField)]
    name = request.args.get("field") or next(iter(pictures), "")
    if name not in pictures:
        raise ApiProblem(422, "No such picture", f"This demo has no picture or drawing called `{name[:60]}`.")
    of = output_of(document.answer, request.args.get("of"))
    asker, ask = caller_name(), state().services.runners.regions
    try:
        first = ask(version.job, row, field=name, of=of, caller=asker)
    except RunnerRaised as error:
        raise for_author(demo, error) from error
    if isinstance(first, Missing):
        raise ApiProblem(
            422, "Not worked out", f"Where the model looked is not shown. {missing_sentence(first.reason)}"
        )

    def lines() -> Iterator[str]:
        found, deadline = first, time.monotonic() + MOST_LOOK_SECONDS
        yield where_answer(document.answer, name, found).model_dump_json() + "\n"
        while not found.is_done:
            try:
                # Who may no longer see the demo sees no more of this either.
                require_visible(slug, draft=asks_draft())
                sharper = ask(version.job, row, field=name, of=found.of, caller=asker, patience=PATIENCE_SECONDS)
            except RunnerBusy:
                if time.monotonic() < deadline:
                    continue
                yield _last_line("Others have asked for much of this model. Ask again in a moment.")
                return
            except ApiProblem:
                yield _last_line("This demo can no longer be seen.")
                return
            except (RunnerUnavailable, RunnerFailed, RunnerRaised):
                yield _last_line("The model stopped before this was as sharp as it gets.")
                return
            if isinstance(sharper, Missing) or (not sharper.is_done and time.monotonic() > deadline):
                yield _last_line("That is as sharp as it gets within the time.")
                return
            found = sharper
            yield where_answer(document.answer, name, found).model_dump_json() + "\n"

    return Response(
        stream_with_context(lines()), content_type="application/x-ndjson", headers={"X-Accel-Buffering": "no"}
    )


def _last_line(why: str) -> str:
    return json.dumps({"detail": why}) + "\n"


def _may_fetch(slug: str) -> None:
    require_visible(slug, draft=asks_draft())


@api.operation(
    "POST",
    "/demos/<slug>/fetched",
    body=Link,
    guard=_may_fetch,
    query=DRAFT_QUERY,
    content_type="image/*",
    errors=(400, 401, 403, 404, 413, 415, 422, 429, 503),
)
def fetch_link(slug: str, body: Link) -> Response:
    """The picture a link leads to, as a page shows it before it is asked about. Nothing is kept."""
    _, version = visible_version(slug, draft=asks_draft())
    picture = next((field for field in version.document.fields if isinstance(field, PictureField | DrawingField)), None)
    if picture is None:
        raise ApiProblem(422, "No picture wanted", "This demo asks for no picture.")
    content = picture_behind(body.link, picture.name)
    kind = picture_kind(content)
    if kind is None:
        raise InputFaults([Fault(picture.name, "There is no picture behind this link that can be shown. Try another.")])
    return Response(content, content_type=kind, headers={"Cache-Control": "no-store"})


@api.operation(
    "GET",
    "/demos/<slug>/samples/<name>",
    query=DRAFT_QUERY,
    described={"name": {"type": "string", "description": "`number.field`: the sample's place, from 0, and a field."}},
    content_type="image/*",
    errors=(401, 404, 503),
)
def get_sample(slug: str, name: str) -> Response:
    """A picture of one of the demo's samples, by its name `number.field`."""
    _, version = visible_version(slug, draft=asks_draft())
    value = sample_picture(version.document, name)
    data = value.get("data") if value is not None else None
    if not isinstance(data, str):
        raise not_found()
    content = base64.b64decode(data)
    kind = picture_kind(content)
    if kind is None:
        raise not_found()
    return Response(content, content_type=kind, headers={"Cache-Control": "private, max-age=3600"})
