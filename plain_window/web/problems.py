"""Every error as `application/problem+json` (RFC 9457).

The layers below say what is wrong; here it gets a status, a title and the way on.
"""

import logging
from http import HTTPStatus

from flask import Flask, Response
from werkzeug.exceptions import HTTPException

from ..core.errors import Fault, Faults, ModelFailed, ModelNotOpened, TableNotRead
from ..runners.failures import RunnerBusy, RunnerFailed, RunnerRaised, RunnerUnavailable
from ..store.addresses import SlugTaken
from ..store.database import DATABASE_ERRORS
from ..store.demos import DraftMoved
from .peers import TooSlow
from .sentences import unavailable_sentence
from .types.problems import FieldProblem, Problem

__all__ = ["ApiProblem", "faults_problem", "install_problem_handlers", "not_found", "problem_response"]

log = logging.getLogger("web")

DATABASE_RETRY_SECONDS = 2


class ApiProblem(Exception):
    """An error with everything its answer needs.

    Parameters
    ----------
    status : int
    title, detail : str
        What kind of problem, and this one in a sentence.
    faults : list of Fault, optional
    retry_after : int, optional
        Seconds.
    traceback : str, optional
        For the demo's author only.
    requirements : list of str, optional
        Libraries with which a model might open.
    """

    def __init__(
        self,
        status: int,
        title: str,
        detail: str,
        *,
        faults: list[Fault] | None = None,
        retry_after: int | None = None,
        traceback: str | None = None,
        requirements: list[str] | None = None,
    ) -> None:
        super().__init__(detail)
        errors = None if faults is None else [_field_problem(fault) for fault in faults]
        self.problem = Problem(
            title=title, status=status, detail=detail, errors=errors, traceback=traceback, requirements=requirements
        )
        self.retry_after = retry_after


def _field_problem(fault: Fault) -> FieldProblem:
    return FieldProblem(field=fault.field, message=fault.message, asks=fault.asks or None, choices=list(fault.choices))


def not_found() -> ApiProblem:
    """What a demo that is not there and one that may not be seen have in common."""
    return ApiProblem(404, "Not found", "There is nothing at this address. Check it for a slip of the pen.")


def problem_response(error: ApiProblem) -> Response:
    """The answer to a request that went wrong.

    Parameters
    ----------
    error : ApiProblem
    """
    body = error.problem.model_dump_json(exclude_none=True)
    response = Response(body, status=error.problem.status, content_type="application/problem+json")
    if error.retry_after is not None:
        response.headers["Retry-After"] = str(error.retry_after)
    return response


def install_problem_handlers(app: Flask) -> None:
    """Turn every error into a problem body.

    Parameters
    ----------
    app : Flask
        It is changed in place.
    """
    app.register_error_handler(ApiProblem, problem_response)
    app.register_error_handler(HTTPException, _http)
    app.register_error_handler(Faults, lambda error: problem_response(faults_problem(error)))
    app.register_error_handler(ModelNotOpened, _model_not_opened)
    app.register_error_handler(TableNotRead, lambda error: _unusable("The table could not be read", "reference", error))
    app.register_error_handler(SlugTaken, _slug_taken)
    app.register_error_handler(DraftMoved, _draft_moved)
    app.register_error_handler(RunnerUnavailable, _runner_unavailable)
    app.register_error_handler(RunnerFailed, _runner_failed)
    for raised in (RunnerRaised, ModelFailed):
        app.register_error_handler(raised, _model_raised)
    app.register_error_handler(RunnerBusy, _runner_busy)
    app.register_error_handler(TooSlow, _too_slow)
    for database_error in DATABASE_ERRORS:
        app.register_error_handler(database_error, _database_away)
    app.register_error_handler(Exception, _unexpected)


def faults_problem(error: Faults) -> ApiProblem:
    """Several faults as one problem; of very many the first are named.

    Parameters
    ----------
    error : Faults
    """
    detail = error.faults[0].message if error.n_all == 1 else f"{error.n_all} things need mending."
    if error.n_all > len(error.faults):
        detail += f" The first {len(error.faults)} are named."
    return ApiProblem(422, "This cannot be used as it is", detail, faults=error.faults)


def _model_not_opened(error: ModelNotOpened) -> Response:
    problem = ApiProblem(
        422,
        "The model could not be opened",
        str(error),
        faults=[Fault("model", str(error))],
        traceback=error.traceback or None,
        requirements=error.requirements or None,
    )
    return problem_response(problem)


def _unusable(title: str, part: str, error: Exception) -> Response:
    return problem_response(ApiProblem(422, title, str(error), faults=[Fault(part, str(error))]))


def _slug_taken(error: SlugTaken) -> Response:
    detail = f"Another demo has the address `{error}`. Choose another."
    return problem_response(ApiProblem(409, "Address taken", detail, faults=[Fault("slug", detail)]))


def _draft_moved(_error: DraftMoved) -> Response:
    detail = "The draft was changed elsewhere since you read it. Read it again, and make your change there."
    return problem_response(ApiProblem(412, "Changed elsewhere", detail))


def _runner_unavailable(error: RunnerUnavailable) -> Response:
    return problem_response(ApiProblem(503, "Not ready", unavailable_sentence(error), retry_after=error.retry_after))


def _runner_busy(error: RunnerBusy) -> Response:
    whose = "You have" if error.is_own else "Others have"
    detail = f"{whose} asked for much of this model just now. Wait a moment and go on."
    return problem_response(ApiProblem(429, "Too many requests", detail, retry_after=error.retry_after))


def _too_slow(_error: TooSlow) -> Response:
    return problem_response(ApiProblem(408, "Too slow", "The request did not come within the time there is for it."))


def _runner_failed(error: RunnerFailed) -> Response:
    log.error("a runner cannot hold its model: %s", error)
    return problem_response(
        ApiProblem(
            503,
            "The model is not available",
            "The model cannot be used at the moment. Its author can see why.",
            retry_after=60,
        )
    )


def _model_raised(error: RunnerRaised | ModelFailed) -> Response:
    log.warning("a model could not answer: %s\n%s", error, error.traceback)
    return problem_response(ApiProblem(502, "No answer", "The model could not answer this case. Try other values."))


def _database_away(error: Exception) -> Response:
    log.warning("the database is away: %s", error)
    detail = "The records are not reachable just now. Try again in a moment."
    return problem_response(ApiProblem(503, "Not ready", detail, retry_after=DATABASE_RETRY_SECONDS))


def _http(error: HTTPException) -> Response:
    status = error.code or 500
    title = HTTPStatus(status).phrase if status in list(HTTPStatus) else "Error"
    response = problem_response(ApiProblem(status, title, _sentences().get(status, error.description or title)))
    for name, value in error.get_headers():
        # A 405 says which methods there are, a redirect where to.
        if name.lower() not in ("content-type", "content-length"):
            response.headers[name] = value
    return response


def _sentences() -> dict[int, str]:
    return {
        404: not_found().problem.detail,
        405: "This address does not take that method.",
        413: "This is larger than the limit.",
        500: "Something went wrong here, not with what you sent. Try again.",
    }


def _unexpected(error: Exception) -> Response:
    log.exception("unexpected error", exc_info=error)
    return problem_response(ApiProblem(500, "Something went wrong", _sentences()[500]))
