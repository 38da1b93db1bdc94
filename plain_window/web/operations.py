"""One decorator that parses, validates, answers and describes a call of the API.

A view gets its body as a type and returns a type; the description is made from the same ones.
"""

import functools
import json
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, TypeVar

from flask import Blueprint, Response, current_app, request
from pydantic import BaseModel, ValidationError

from ..core.demo import faults_of
from .problems import ApiProblem

__all__ = ["Api", "Operation", "parse_body", "read_json", "refuse_large"]

Body = TypeVar("Body", bound=BaseModel)
# A refused body is read and thrown away up to here, so that the client gets to read why instead of a broken pipe.
DRAIN_BYTES = 64 << 20
DRAIN_SECONDS = 5.0


@dataclass(frozen=True)
class Operation:
    """One call, as the description needs it."""

    method: str
    path: str
    name: str
    summary: str
    description: str
    body: type[BaseModel] | None
    multipart: type[BaseModel] | None
    answer: type[BaseModel] | None
    status: int
    errors: tuple[int, ...]
    query: dict[str, str] = field(default_factory=dict)
    # Whether the view reads the body itself, in whichever form it comes.
    reads_itself: bool = False


class Api:
    """The operations of the API, collected while its views are defined."""

    def __init__(self) -> None:
        self.blueprint = Blueprint("api", __name__, url_prefix="/api/v1")
        self.operations: list[Operation] = []

    def operation(
        self,
        method: str,
        path: str,
        *,
        answer: type[BaseModel] | None = None,
        body: type[BaseModel] | None = None,
        multipart: type[BaseModel] | None = None,
        status: int = 200,
        errors: tuple[int, ...] = (),
        query: dict[str, str] | None = None,
        reads_itself: bool = False,
    ) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
        """Register a view.

        Parameters
        ----------
        method, path : str
            The path below `/api/v1`, with Flask's `<converters>`.
        answer : type, optional
            What the view returns. A view may return a Response of its own instead.
        body : type, optional
            What the JSON body must be; the view gets it as `body`.
        multipart : type, optional
            Describes a multipart body that the view reads itself.
        status : int
            When all went well.
        errors : tuple of int
            Statuses of the problems it may answer with.
        query : dict of str to str, optional
            Query parameters with a sentence each.
        reads_itself : bool
            Whether the view reads a body of either form itself.
        """

        def register(view: Callable[..., Any]) -> Callable[..., Any]:
            summary, _, description = (view.__doc__ or "").strip().partition("\n")
            operation = Operation(
                method,
                path,
                view.__name__,
                summary.rstrip("."),
                description.strip(),
                body,
                multipart,
                answer,
                status,
                errors,
                query or {},
                reads_itself,
            )
            self.operations.append(operation)
            handler = self._handler(view, operation)
            self.blueprint.add_url_rule(path, endpoint=view.__name__, view_func=handler, methods=[method])
            return view

        return register

    def _handler(self, view: Callable[..., Any], operation: Operation) -> Callable[..., Response]:
        @functools.wraps(view)
        def handle(**arguments: Any) -> Response:
            if operation.body is not None and not operation.reads_itself:
                arguments["body"] = parse_body(operation.body, read_json())
            result = view(**arguments)
            if isinstance(result, Response):
                return result
            if result is None:
                return Response(status=204)
            return Response(
                result.model_dump_json(by_alias=True), status=operation.status, content_type="application/json"
            )

        return handle


def read_json(limit: int | None = None) -> Any:
    """The request's JSON, refused before reading if it is larger than the limit.

    Parameters
    ----------
    limit : int, optional
        In bytes, where it is not the usual one.

    Raises
    ------
    ApiProblem
        413 or 400.
    """
    limit = limit or current_app.config["JSON_LIMIT"]
    refuse_large(limit, "The request")
    request.max_content_length = limit
    data = request.get_data(cache=False)
    try:
        return json.loads(data)
    except (ValueError, RecursionError):
        detail = "The body is not JSON." if data else 'The body is empty; send JSON, for example {"inputs": {…}}.'
        raise ApiProblem(400, "Not JSON", detail) from None


def refuse_large(limit: int, what: str) -> None:
    """Refuse a body that says it is larger than `limit` bytes.

    Raises
    ------
    ApiProblem
        413.
    """
    length = request.content_length
    if length is None or length <= limit:
        return
    _drain(length)
    raise ApiProblem(413, "Too large", f"{what} is {_size(length)}; the limit is {_size(limit)}. Send a smaller one.")


def _drain(length: int) -> None:
    deadline = time.monotonic() + DRAIN_SECONDS
    left = min(length, DRAIN_BYTES)
    request.max_content_length = None
    while left > 0 and time.monotonic() < deadline:
        part = request.stream.read(min(left, 1 << 16))
        if not part:
            break
        left -= len(part)


def _size(n_bytes: int) -> str:
    return f"{n_bytes / (1 << 20):.3g} MB" if n_bytes >= 1 << 20 else f"{n_bytes / 1024:.3g} KB"


def parse_body(type_: type[Body], data: Any) -> Body:
    """What a body was parsed to, as a type.

    Raises
    ------
    ApiProblem
        422 with every fault.
    """
    try:
        return type_.model_validate(data)
    except ValidationError as error:
        faults = faults_of(error)
        detail = faults[0].message if len(faults) == 1 else f"{len(faults)} things need mending."
        raise ApiProblem(422, "This cannot be used as it is", detail, faults=faults) from error
