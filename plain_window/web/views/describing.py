"""The API's description of itself, and the form of a `demo.toml`."""

from flask import Response, json

from ...core.demo import DemoChanges
from ..description import describe
from . import api

# Keys of demo.toml that are about bringing the demo in.
FOLDER_KEYS = {
    "slug": {"type": "string", "description": "The address: lower-case letters, digits and hyphens."},
    "target": {"type": "string", "description": "The outcome's column in the reference table."},
}


@api.operation("GET", "/openapi.json")
def openapi() -> Response:
    """This description."""
    return _json(describe(api))


@api.operation("GET", "/demo.schema.json")
def demo_schema() -> Response:
    """JSON Schema of `demo.toml`."""
    schema = DemoChanges.model_json_schema()
    schema["properties"] = {**FOLDER_KEYS, **schema["properties"]}
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = "demo.toml"
    return _json(schema)


def _json(document: dict) -> Response:
    return Response(json.dumps(document), content_type="application/json")
