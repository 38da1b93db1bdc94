"""What a page asks about pictures beside the answer: where the model looked, what a link leads to, samples."""

import base64
import json
from collections.abc import Iterator

from flask import Response, request

from ...core.errors import Fault, InputFaults
from ...core.fields import DrawingField, PictureField, check_inputs
from ...runners.client import RunnerFailed, RunnerRaised, RunnerUnavailable
from ..access import visible_version
from ..explained import output_of, where_answer
from ..given import picture_behind, read_given, sample_picture
from ..identity import caller, has_key
from ..problems import ApiProblem, not_found
from ..state import state
from ..types import Link, PicturePredictionRequest, PredictionRequest, WhereAnswer
from . import api
from .limits import slow_down
from .visiting import DRAFT_QUERY, EXPLAIN_QUERY, asks_draft, for_author, require_part

__all__ = []

# What may be sent as a sample, by its first bytes.
PICTURE_MAGIC = {
    b"\xff\xd8\xff": "image/jpeg",
    b"\x89PNG": "image/png",
    b"RIFF": "image/webp",
    b"GIF8": "image/gif",
    b"BM": "image/bmp",
    b"II*\x00": "image/tiff",
    b"MM\x00*": "image/tiff",
}
# Where a model looked takes it seconds: more often than a hand pauses while it draws, nobody needs it.
LOOKS_A_SECOND = 8.0
# Links one address may have opened; nobody pastes faster.
FETCHES_A_SECOND = 2.0


@api.operation(
    "POST",
    "/demos/<slug>/where",
    body=PredictionRequest,
    multipart=PicturePredictionRequest,
    reads_itself=True,
    answer=WhereAnswer,
    query={**DRAFT_QUERY, "field": "Which picture; the first if left out.", "of": EXPLAIN_QUERY["of"]},
    errors=(400, 401, 403, 404, 413, 422, 429, 502, 503),
)
def create_where(slug: str) -> Response:
    """Where the model looked, as it gets sharper: one JSON object a line, the last with `is_done`.

    The first line is a sketch: every part covered by itself. A line `{"detail": …}` says why there are no more.
    """
    if not has_key() or caller() is None:
        slow_down("where", min(LOOKS_A_SECOND, state().workshop.settings.limits.rate))
    demo, version = visible_version(slug, draft=asks_draft())
    document = version.document
    require_part(document, "pushes")
    given = read_given(document)
    row = check_inputs(document.fields, given.inputs, given.contents).values
    pictures = [field.name for field in document.fields if isinstance(field, PictureField | DrawingField)]
    name = request.args.get("field") or next(iter(pictures), "")
    if name not in pictures:
        raise ApiProblem(422, "No such picture", f"This demo has no picture or drawing called `{name[:60]}`.")
    of = output_of(document.answer, request.args.get("of"))
    runners = state().workshop.runners
    try:
        first = runners.where(version.job, row, field=name, of=of)
    except RunnerRaised as error:
        raise for_author(demo, error) from error
    if "missing" in first:
        raise ApiProblem(422, "Not worked out", f"Where the model looked is not shown. {first['missing']}")

    def lines() -> Iterator[str]:
        found = first
        yield where_answer(document.answer, name, found).model_dump_json() + "\n"
        while not found["is_done"]:
            try:
                found = runners.where(version.job, row, field=name, of=found["of"])
            except (RunnerUnavailable, RunnerFailed, RunnerRaised):
                yield json.dumps({"detail": "The model stopped before this was as sharp as it gets."}) + "\n"
                return
            yield where_answer(document.answer, name, found).model_dump_json() + "\n"

    return Response(lines(), content_type="application/x-ndjson", headers={"X-Accel-Buffering": "no"})


@api.operation(
    "POST", "/demos/<slug>/fetched", body=Link, query=DRAFT_QUERY, errors=(400, 401, 403, 404, 413, 422, 429, 503)
)
def fetch_link(slug: str, body: Link) -> Response:
    """The picture a link leads to, as a page shows it before it is asked about. Nothing is kept."""
    if not has_key() or caller() is None:
        slow_down("fetch", min(FETCHES_A_SECOND, state().workshop.settings.limits.rate))
    _, version = visible_version(slug, draft=asks_draft())
    picture = next((field for field in version.document.fields if isinstance(field, PictureField | DrawingField)), None)
    if picture is None:
        raise ApiProblem(422, "No picture wanted", "This demo asks for no picture.")
    content = picture_behind(body.link, picture.name)
    kind = _kind_of(content)
    if kind is None:
        raise InputFaults([Fault(picture.name, "There is no picture behind this link that can be shown. Try another.")])
    return Response(content, content_type=kind, headers={"Cache-Control": "no-store"})


def _kind_of(content: bytes) -> str | None:
    return next((kind for magic, kind in PICTURE_MAGIC.items() if content.startswith(magic)), None)


@api.operation("GET", "/demos/<slug>/samples/<name>", query=DRAFT_QUERY, errors=(401, 404, 503))
def get_sample(slug: str, name: str) -> Response:
    """A picture of one of the demo's samples, by its name `number.field`."""
    _, version = visible_version(slug, draft=asks_draft())
    value = sample_picture(version.document, name)
    if value is None or not isinstance(value.get("data"), str):
        raise not_found()
    content = base64.b64decode(value["data"])
    kind = _kind_of(content)
    if kind is None:
        raise not_found()
    return Response(content, content_type=kind, headers={"Cache-Control": "private, max-age=3600"})
