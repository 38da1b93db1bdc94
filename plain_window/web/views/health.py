"""Alive, and ready."""

from collections import Counter

from flask import Blueprint, Response

from ...authoring.model_intake import live_jobs
from ...core.contract.keeping import KeeperStatus
from ...runners.failures import RunnerUnavailable
from ...store.database import DATABASE_ERRORS
from ..state import state
from ..types.health import Health, Readiness

__all__ = ["blueprint"]

blueprint = Blueprint("health", __name__)


@blueprint.get("/healthz")
def alive() -> Response:
    """The process answers."""
    return Response(Health().model_dump_json(), content_type="application/json")


@blueprint.get("/readyz")
def ready() -> Response:
    """Database and keeper answer, and every live model is held.

    A model that cannot be held is its author's to mend; it does not make the server unready.
    """
    wanted, status = _live_keys(), _keeper_status()
    states = {runner.key: runner.state for runner in status.runners} if status else {}
    waiting = [key for key in wanted or [] if states.get(key, "starting") == "starting"]
    is_ready = wanted is not None and status is not None and not waiting
    body = Readiness(
        status="ready" if is_ready else "starting",
        database=wanted is not None,
        keeper=status is not None,
        runners=dict(Counter(states.values())),
        confinement=_confinement_words(status),
        probes=status.confinement.probes if status else {},
        missing=status.confinement.missing if status else [],
    )
    response = Response(body.model_dump_json(), status=200 if is_ready else 503, content_type="application/json")
    if not is_ready:
        response.headers["Retry-After"] = "1"
    return response


def _live_keys() -> list[str] | None:
    """Keys of the runners that live releases need; None while the database does not answer."""
    try:
        return [job.key for job in live_jobs(state().services)]
    except DATABASE_ERRORS:
        return None


def _keeper_status() -> KeeperStatus | None:
    try:
        return state().services.runners.status()
    except RunnerUnavailable:
        return None


def _confinement_words(status: KeeperStatus | None) -> str:
    if status is None:
        return "unknown"
    return "works" if status.confinement.works else status.confinement.reason
