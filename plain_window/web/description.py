"""OpenAPI 3.1 from the operations, and so from the types that validate."""

import re
from collections.abc import Mapping
from typing import Any

from pydantic import BaseModel
from pydantic.json_schema import JsonSchemaMode, models_json_schema

from .. import __version__
from .operations import Api, Operation
from .types.problems import Problem

__all__ = ["describe"]

Schemas = Mapping[tuple[type[Any], JsonSchemaMode], dict[str, Any]]

REF = "#/components/schemas/{model}"
ERROR_WORDS = {
    400: "Not JSON, or not what this call takes",
    401: "Not signed in",
    403: "The session's CSRF token is missing",
    404: "Not there, or not for this caller",
    409: "The address is taken, or something is to be confirmed first",
    408: "The request came too slowly",
    412: "The draft was changed since it was read",
    413: "Too large",
    414: "The address is too long",
    415: "The body is not of the kind that this call takes",
    421: "The server does not go by that name",
    422: "Understood but not usable; every fault is listed",
    429: "Too many requests; `Retry-After` says when to come back",
    502: "The model could not answer",
    503: "Not ready; `Retry-After` says when to come back",
}
# What may come of any call.
ANYWHERE = (408, 414, 421)
# Guards that do not ask for an author.
OPEN_GUARDS = ("_may_sign_in", "check_link_use", "_may_try_passcode", "_may_fetch")


def describe(api: Api) -> dict[str, object]:
    """The description of the API.

    Parameters
    ----------
    api : Api
        With all its operations registered.

    Returns
    -------
    dict
        An OpenAPI 3.1 document.
    """
    schemas, definitions = _schemas(api.operations)
    paths: dict[str, dict[str, Any]] = {}
    for operation in api.operations:
        path = "/api/v1" + re.sub(r"<(?:\w+:)?(\w+)>", r"{\1}", operation.path)
        paths.setdefault(path, {})[operation.method.lower()] = _operation(operation, schemas)
    return {
        "openapi": "3.1.0",
        "jsonSchemaDialect": "https://json-schema.org/draft/2020-12/schema",
        "info": {
            "title": "Plain Window",
            "version": __version__,
            "description": "Trained models as pages. Inputs in, an answer out; errors are RFC 9457 problems.",
            "license": {"name": "Apache-2.0", "identifier": "Apache-2.0"},
        },
        "paths": paths,
        "components": {
            "schemas": definitions,
            "securitySchemes": {
                "key": {"type": "http", "scheme": "bearer", "description": "A key made with `./plainwindow key NAME`."},
            },
        },
        "security": [{}, {"key": []}],
    }


def _schemas(operations: list[Operation]) -> tuple[Schemas, dict[str, Any]]:
    wanted: dict[tuple[type[BaseModel], JsonSchemaMode], None] = {(Problem, "serialization"): None}
    for operation in operations:
        for type_ in (operation.body, operation.multipart):
            if type_:
                wanted[(type_, "validation")] = None
        if operation.answer:
            wanted[(operation.answer, "serialization")] = None
    by_type: Schemas
    by_type, definitions = models_json_schema(list(wanted), by_alias=True, ref_template=REF)
    return by_type, definitions.get("$defs", {})


def _operation(operation: Operation, schemas: Schemas) -> dict[str, Any]:
    described: dict[str, Any] = {
        "operationId": operation.name,
        "summary": operation.summary,
        "parameters": _parameters(operation),
        "responses": _responses(operation, schemas),
    }
    if operation.guard is not None and operation.guard.__name__ not in OPEN_GUARDS:
        described["security"] = [{"key": []}]
    if operation.description:
        described["description"] = operation.description
    if operation.body:
        schema = schemas[(operation.body, "validation")]
        described["requestBody"] = {
            "required": operation.needs_body,
            "content": {"application/json": {"schema": schema}},
        }
    if operation.multipart:
        schema = schemas[(operation.multipart, "validation")]
        content = described.setdefault("requestBody", {"required": True, "content": {}})["content"]
        content["multipart/form-data"] = {"schema": schema}
    return described


def _parameters(operation: Operation) -> list[dict[str, Any]]:
    in_path = [
        {"name": name, "in": "path", "required": True, "schema": _path_schema(operation, kind, name)}
        for kind, name in re.findall(r"<(?:(\w+):)?(\w+)>", operation.path)
    ]
    in_query = [
        {
            "name": name,
            "in": "query",
            "required": name in operation.required,
            "schema": operation.described.get(name, {"type": "string"}),
            "description": sentence,
        }
        for name, sentence in operation.query.items()
    ]
    return in_path + in_query


def _path_schema(operation: Operation, kind: str, name: str) -> dict[str, Any]:
    usual = {"type": "integer", "minimum": 0} if kind == "int" else {"type": "string", "minLength": 1}
    return operation.described.get(name, usual)


def _responses(operation: Operation, schemas: Schemas) -> dict[str, Any]:
    good: dict[str, Any] = {"description": operation.summary}
    if operation.answer:
        good["content"] = {operation.content_type: {"schema": schemas[(operation.answer, "serialization")]}}
    elif operation.content_type != "application/json":
        good["content"] = {operation.content_type: {}}
    problem = {"application/problem+json": {"schema": schemas[(Problem, "serialization")]}}
    responses = {str(operation.status if operation.answer or operation.status != 200 else 200): good}
    if operation.job:
        of_job = {"application/json": {"schema": schemas[(operation.job, "serialization")]}}
        responses["202"] = {"description": "It goes on as a job", "content": of_job}
    of_body = (415,) if operation.body else ()
    for status in sorted({*operation.errors, *of_body, *ANYWHERE}):
        responses[str(status)] = {"description": ERROR_WORDS[status], "content": problem}
    return responses
