"""Films: the ready ones of a demo, and what came of frames, as it comes."""

import base64

from flask import Response

from ...core.documents import DemoDocument
from ...jobs.interest import note_interest
from ..access import visible_version
from ..film_frames import frames_from, rows_of
from ..job_views import job_view, visible_job
from ..numbers_asked import number_asked
from ..problems import not_found
from ..state import state
from ..types.films import FilmFrames
from .api import api
from .asking import DRAFT_QUERY, asks_draft

__all__: list[str] = []

MOST_FRAMES, USUAL_FRAMES = 2000, 500


@api.operation(
    "GET",
    "/jobs/<job_id>/frames",
    answer=FilmFrames,
    query={"offset": "How many to leave out.", "limit": "How many at most."},
    errors=(401, 404, 422, 503),
)
def get_frames(job_id: str) -> FilmFrames:
    """What came of a film's frames so far, with the job as it is. Whoever asks is taken to wait for the rest."""
    offset, limit = number_asked("offset", 0), number_asked("limit", USUAL_FRAMES, most=MOST_FRAMES)
    job = visible_job(job_id)
    if job.kind != "video":
        raise not_found()
    settings = state().services.settings
    note_interest(settings, job)
    rows = rows_of(DemoDocument.model_validate_json(job.document))
    return FilmFrames(job=job_view(job), rows=rows, frames=frames_from(settings, job, offset, limit))


@api.operation(
    "GET",
    "/demos/<slug>/films/<int:place>",
    query=DRAFT_QUERY,
    described={"place": {"type": "integer", "description": "The ready film's place, from 0."}},
    errors=(401, 404, 503),
    content_type="application/octet-stream",
)
def get_sample_film(slug: str, place: int) -> Response:
    """One of the demo's ready films, as its file."""
    _, version = visible_version(slug, draft=asks_draft())
    films = version.document.sample_films
    if place >= len(films):
        raise not_found()
    return Response(base64.b64decode(films[place].data), content_type="application/octet-stream")
