"""Alive, and ready."""

from collections import Counter

from flask import Blueprint, Response

from ...runners.client import RunnerUnavailable
from ...store.database import DATABASE_ERRORS, database
from ..state import state
from ..types import Health, Readiness

__all__ = ["blueprint"]

blueprint = Blueprint("health", __name__)


@blueprint.get("/healthz")
def alive() -> Response:
    """The process answers."""
    return Response(Health().model_dump_json(), content_type="application/json")


@blueprint.get("/readyz")
def ready() -> Response:
    """Database and keeper answer, and no live model is still starting.

    A model that cannot be held is its author's to mend; it does not make the server unready.
    """
    has_database, runners, confinement = _database_answers(), None, "unknown"
    try:
        status = state().workshop.runners.status()
        runners = Counter(runner["state"] for runner in status["runners"])
        confinement = "works" if status["confinement"]["works"] else status["confinement"]["reason"]
    except RunnerUnavailable:
        pass
    is_ready = has_database and runners is not None and not runners["starting"]
    body = Readiness(
        status="ready" if is_ready else "starting",
        database=has_database,
        keeper=runners is not None,
        runners=dict(runners or {}),
        confinement=confinement,
    )
    response = Response(body.model_dump_json(), status=200 if is_ready else 503, content_type="application/json")
    if not is_ready:
        response.headers["Retry-After"] = "1"
    return response


def _database_answers() -> bool:
    try:
        database.execute_sql("SELECT 1")
    except DATABASE_ERRORS:
        return False
    return True
