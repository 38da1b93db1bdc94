"""One decorator that parses, validates, answers and describes a call of the API.

A view gets its body as a type and returns a type; the description is made from the same ones.
"""

import functools
import json
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, TypeVar

from flask import Blueprint, Response, current_app, request
from pydantic import BaseModel, ValidationError
from werkzeug.exceptions import HTTPException

from ..core.documents import faults_of
from ..core.errors import MOST_NAMED, Fault, Faults
from .peers import TooSlow
from .problems import ApiProblem, faults_problem

__all__ = ["Api", "Operation", "give_way", "parse_body", "parse_json", "read_json", "refuse_large"]

Body = TypeVar("Body", bound=BaseModel)
# A refused body is read and thrown away up to here, so that the client gets to read why instead of a broken pipe.
DRAIN_BYTES, DRAIN_PIECE_BYTES = 64 << 20, 1 << 20
DRAIN_SECONDS = 5.0
# A body from here on is worth a turn of its own.
LARGE_BYTES = 64 << 10
# The largest model has some thousand fields, each with some settings.
MOST_NAMES = 40_000
LONG_DIGITS = 400
TURN_SECONDS = 0.0005
_large = threading.Lock()


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
    # Who may call it: settled before anything of the body is read.
    guard: Callable[..., Any] | None = None
    # Path and query parameters that are more than text, as JSON Schema.
    described: dict[str, dict[str, Any]] = field(default_factory=dict)
    required: tuple[str, ...] = ()
    content_type: str = "application/json"
    needs_body: bool = True
    # What it answers with where it goes on as a job: 202.
    job: type[BaseModel] | None = None


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
        guard: Callable[..., object] | None = None,
        described: dict[str, dict[str, object]] | None = None,
        required: tuple[str, ...] = (),
        content_type: str = "application/json",
        needs_body: bool = True,
        job: type[BaseModel] | None = None,
    ) -> Callable[[Callable[..., object]], Callable[..., object]]:
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
        guard : callable, optional
            Called with the path's arguments before anything of the body is read; raises if the caller may not.
        described : dict, optional
            JSON Schema of path and query parameters that are more than text.
        required : tuple of str
            Query parameters that must be there.
        content_type : str
            Of what comes back.
        needs_body : bool
            Whether the body may not be left out.
        job : type, optional
            What comes back, with 202, where it goes on as a job.
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
                guard,
                described or {},
                required,
                content_type,
                needs_body,
                job,
            )
            self.operations.append(operation)
            handler = self._handler(view, operation)
            self.blueprint.add_url_rule(path, endpoint=view.__name__, view_func=handler, methods=[method])
            return view

        return register

    def _handler(self, view: Callable[..., Any], operation: Operation) -> Callable[..., Response]:
        @functools.wraps(view)
        def handle(**arguments: Any) -> Response:
            try:
                if operation.guard is not None:
                    operation.guard(**arguments)
                if operation.body is not None and not operation.reads_itself:
                    arguments["body"] = parse_body(operation.body, read_json())
                result = view(**arguments)
            except Exception:
                _drain()
                raise
            if isinstance(result, Response):
                return result
            if result is None:
                return Response(status=204)
            return Response(
                result.model_dump_json(by_alias=True), status=operation.status, content_type="application/json"
            )

        return handle


def read_json(limit: int | None = None) -> object:
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
    if request.mimetype != "application/json" and not request.mimetype.endswith("+json"):
        came = f"as `{request.mimetype[:60]}`" if request.mimetype else "without one"
        detail = f"Send JSON, and say so: `Content-Type: application/json`. This came {came}."
        raise ApiProblem(415, "Not JSON", detail)
    refuse_large(limit, "The request")
    request.max_content_length = limit
    data = request.get_data(cache=False)
    # Every name in JSON has its colon. Counting them takes a thousandth of what reading them all would.
    if data.count(b":") > MOST_NAMES:
        detail = f"The request names more than {MOST_NAMES} things. Send only what this call takes."
        raise ApiProblem(422, "Too many things", detail, faults=[Fault("body", detail)])
    if len(data) < LARGE_BYTES:
        return parse_json(data)
    # Large ones are parsed one after another, and whoever else asks has a turn in between.
    with _large:
        parsed = parse_json(data)
        give_way()
    return parsed


def give_way() -> None:
    """Let others have their turn. Sleeping for no time at all would let only those go on who are here already; what
    has come over the network meanwhile is looked at when there is a time to wait for."""
    time.sleep(TURN_SECONDS)


def parse_json(data: bytes | str) -> object:
    """JSON as values that can be written down again.

    Parameters
    ----------
    data : bytes or str

    Raises
    ------
    ApiProblem
        400 if it is no JSON, or holds halves of characters.
    """
    try:
        text = data.decode("utf-8-sig") if isinstance(data, bytes) else data
        parsed = _loaded(text)
    except (ValueError, RecursionError):
        detail = "The body is not JSON." if data else 'The body is empty; send JSON, for example {"inputs": {…}}.'
        raise ApiProblem(400, "Not JSON", detail) from None
    # Half of a surrogate pair can only come as an escape, or as bytes that are no UTF-8 and were refused above.
    if "\\u" in text and not _is_text(parsed):
        raise ApiProblem(400, "Not text", "The JSON holds half of a character (a lone surrogate). Send whole ones.")
    return parsed


def _loaded(text: str) -> Any:
    try:
        return json.loads(text)
    except ValueError as error:
        if "integer string conversion" not in str(error):
            raise
    # A number of thousands of digits is one, and beyond all that can be used.
    return json.loads(text, parse_int=lambda digits: int(digits) if len(digits) < LONG_DIGITS else float(digits))


def _is_text(parsed: Any) -> bool:
    try:
        json.dumps(parsed, ensure_ascii=False).encode("utf-8")
    except (UnicodeEncodeError, ValueError, RecursionError):
        return False
    return True


def refuse_large(limit: int, what: str, stated: int | None = None) -> None:
    """Refuse a body that says it is larger than `limit` bytes; `stated` is the limit of what is in it, if that is less.

    Parameters
    ----------
    limit : int
        In bytes.
    what : str
        What the body is.
    stated : int or None, optional
        In bytes.

    Raises
    ------
    ApiProblem
        413.
    """
    length = request.content_length
    if length is not None and length > limit:
        detail = f"{what} is {_size(length)}; the limit is {_size(stated or limit)}. Send a smaller one."
        raise ApiProblem(413, "Too large", detail)


def _drain() -> None:
    """Throw away what of a refused body is still to come, in large pieces; what is left after that ends with the
    connection."""
    deadline, left = time.monotonic() + DRAIN_SECONDS, DRAIN_BYTES
    request.max_content_length = None
    try:
        while left > 0 and time.monotonic() < deadline and (part := request.stream.read(DRAIN_PIECE_BYTES)):
            left -= len(part)
            give_way()
    except (OSError, HTTPException, TooSlow):
        return


def _size(n_bytes: int) -> str:
    return f"{n_bytes / (1 << 20):.3g} MB" if n_bytes >= 1 << 20 else f"{n_bytes / 1024:.3g} KB"


def parse_body(type_: type[Body], data: object) -> Body:
    """What a body was parsed to, as a type.

    Parameters
    ----------
    type_ : type
    data : object

    Raises
    ------
    ApiProblem
        422 with every fault.
    """
    try:
        _refuse_strangers(type_, data)
        return type_.model_validate(data)
    except ValidationError as error:
        raise faults_problem(Faults(faults_of(error))) from error


def _refuse_strangers(type_: type[BaseModel], data: Any) -> None:
    """Refuse very many settings that are none before each is looked at."""
    strangers = [name for name in data if name not in type_.model_fields] if isinstance(data, dict) else []
    if len(strangers) > MOST_NAMED:
        raise faults_problem(
            Faults([Fault(name, f"`{name[:60]}` is not a setting. Leave it out.") for name in strangers])
        )
