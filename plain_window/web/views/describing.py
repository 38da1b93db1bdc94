"""The API's description of itself, and the form of a `demo.toml`."""

import functools
import gzip
import hashlib
from typing import Any

from flask import Response, json, request

from ...core.documents import DemoChanges
from ..description import describe
from .api import api

# Keys of demo.toml that are about bringing the demo in.
FOLDER_KEYS = {
    "slug": {"type": "string", "description": "The address: lower-case letters, digits and hyphens."},
    "target": {"type": "string", "description": "The outcome's column in the reference table."},
}


@api.operation("GET", "/openapi.json")
def openapi() -> Response:
    """This description."""
    return _openapi().response()


@api.operation("GET", "/demo.schema.json")
def demo_schema() -> Response:
    """JSON Schema of `demo.toml`."""
    return _demo_schema().response()


@functools.cache
def _openapi() -> "_Document":
    return _Document(describe(api))


@functools.cache
def _demo_schema() -> "_Document":
    schema = DemoChanges.model_json_schema()
    schema["properties"] = {**FOLDER_KEYS, **schema["properties"]}
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = "demo.toml"
    return _Document(schema)


class _Document:
    """A document that is the same until the program changes: made once, compressed once, known by its hash."""

    def __init__(self, document: dict[str, Any]) -> None:
        self._plain = json.dumps(document).encode()
        self._packed = gzip.compress(self._plain, mtime=0)
        self._hash = hashlib.sha256(self._plain).hexdigest()[:32]

    def response(self) -> Response:
        """It, or that the caller has it already."""
        packs = bool(request.accept_encodings["gzip"])
        response = Response(self._packed if packs else self._plain, content_type="application/json")
        if packs:
            response.headers["Content-Encoding"] = "gzip"
        response.vary.add("Accept-Encoding")
        response.set_etag(self._hash)
        response.headers["Cache-Control"] = "no-cache"
        response.make_conditional(request)
        return response
