"""The floor: a Flask route that takes the same request and answers always the same."""

from flask import Flask, Response

app = Flask(__name__)


@app.post("/api/v1/demos/will-it-crack/predictions")
def constant() -> Response:
    return Response('{"answer": {"kind": "number", "value": 0.0}}', content_type="application/json")
