"""Environments: which there are, what is in them, and building one ahead."""

from flask import Response

from ...core.environments.requirements import MOST_BYTES, read_requirements
from ...core.errors import Fault, MismatchFaults
from ...jobs.wanted import WantedMaking
from ...store.environments import find_environment, known_environments
from ..identity import require_author
from ..making_jobs import goes_on_as_job
from ..state import state
from ..types.environments import EnvironmentList, EnvironmentPackage, EnvironmentView, NewEnvironment
from ..types.jobs import JobView
from ..uploads import receive_upload
from .api import api

__all__: list[str] = []


@api.operation("GET", "/environments", answer=EnvironmentList, guard=require_author, errors=(401, 403, 503))
def list_environments() -> EnvironmentList:
    """The libraries that demos here have of their own, the newest first, and which of your demos use each."""
    return _listed(require_author().id)


def _listed(author_id: int) -> EnvironmentList:
    folders = state().services.environments
    return EnvironmentList(
        environments=[
            EnvironmentView(
                id=one.hash,
                requirements=one.requirements,
                packages=[EnvironmentPackage(name=each.name, version=each.version) for each in one.packages],
                bytes=one.size,
                demos=one.demos,
                is_here=folders.is_there(one.hash),
            )
            for one in known_environments(author_id)
        ]
    )


@api.operation(
    "POST",
    "/environments",
    multipart=NewEnvironment,
    answer=EnvironmentView,
    job=JobView,
    guard=require_author,
    errors=(400, 401, 403, 408, 413, 422, 429, 503),
)
def create_environment() -> EnvironmentView | Response:
    """Build an environment ahead of the demo that needs it: 202 and a job, unless the same was built before."""
    author, services = require_author(), state().services
    upload = receive_upload(services.files, {}, {"requirements": MOST_BYTES})
    text = upload.texts.get("requirements", "")
    requirements = read_requirements(text.encode())
    if not requirements.lines:
        raise MismatchFaults([Fault("requirements", "It names no package. Write one a line, like `pandas==2.1.4`.")])
    known = find_environment(requirements.key)
    if known is None or not services.environments.is_there(known):
        return goes_on_as_job(author.id, WantedMaking("build", text))
    return next(one for one in _listed(author.id).environments if one.id == known)
