"""A call that needs libraries first, or is not waited for: it goes on as a job, and is answered with that."""

from flask import Response, request

from ..core.environments.requirements import read_requirements
from ..jobs.carrier import wake
from ..jobs.wanted import WantedMaking, write_wanted
from ..store.jobs import NewJob, add_job, waiting_making
from .identity import caller_name
from .job_views import job_view
from .problems import ApiProblem
from .state import state

__all__ = ["goes_on_as_job", "is_not_waited_for"]

# Of one author, under way or waiting; each may take minutes and gigabytes.
MOST_WAITING = 10
NAME_CHARACTERS = 200


def goes_on_as_job(
    author_id: int, wanted: WantedMaking, *, demo_id: int | None = None, file_name: str = ""
) -> Response:
    """Take in what is wanted as a job; the answer is 202 and where the job is.

    Parameters
    ----------
    author_id : int
        Whose it is.
    wanted : WantedMaking
        With its files held; the job lets go of them.
    demo_id : int, optional
        Of the demo that it is about.
    file_name : str, optional
        What the model's file is called, where nothing is built.

    Raises
    ------
    ApiProblem
        429 if that many wait already.
    """
    services = state().services
    if waiting_making(author_id) >= MOST_WAITING:
        services.files.let_go(wanted.files)
        detail = f"{MOST_WAITING} environments and models of yours wait already. Wait for one."
        raise ApiProblem(429, "Too many jobs", detail, retry_after=60)
    lines = read_requirements(wanted.requirements.encode()).lines if wanted.requirements else []
    job = add_job(
        NewJob(
            kind="environment" if wanted.requirements else "model",
            demo_id=demo_id,
            model_id=None,
            release_number=None,
            document=write_wanted(wanted),
            by_author=True,
            caller=caller_name()[:120],
            options={"do": wanted.do, "title": _title(wanted)},
            file=None,
            file_name=(", ".join(lines) or file_name)[:NAME_CHARACTERS],
            file_bytes=len(wanted.requirements.encode()),
            author_id=author_id,
            stage="ready",
        )
    )
    wake(services.settings)
    response = Response(job_view(job).model_dump_json(), status=202, content_type="application/json")
    response.headers["Location"] = f"/api/v1/jobs/{job.token}"
    if is_not_waited_for():
        response.headers["Preference-Applied"] = "respond-async"
    return response


def is_not_waited_for() -> bool:
    """Whether the caller would rather have a job than wait (`Prefer: respond-async`, RFC 7240)."""
    asked = (part.split(";")[0].strip() for part in request.headers.get("Prefer", "").split(","))
    return "respond-async" in (part.lower() for part in asked)


def _title(wanted: WantedMaking) -> str:
    if wanted.submission is None:
        return wanted.slug
    changes = wanted.submission.changes
    return wanted.submission.title or (changes.title if changes and changes.title else "")
