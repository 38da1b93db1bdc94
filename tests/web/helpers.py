"""What several web tests do."""

import io
from typing import Any

import httpx

from ..made_models import csv, dumped, firings, regressor_pipeline

# Of the features of two models that take the same.
NO_DIFFERENCE: dict[str, list[Any]] = {"added": [], "gone": [], "changed": [], "renamed": [], "ranges": []}


def bring(
    author: httpx.Client, *, model: bytes | None = None, reference: bytes | None = None, **texts: Any
) -> httpx.Response:
    """Bring a model through the API; a small regressor on firings unless told otherwise."""
    table = firings()
    files = {
        "model": ("model.joblib", io.BytesIO(model or dumped(regressor_pipeline(table)))),
        "reference": ("reference.csv", io.BytesIO(reference or csv(table.drop(columns="outcome")))),
    }
    return author.post("/api/v1/demos", files=files, data=texts)


def problem(response: httpx.Response, status: int) -> dict[str, Any]:
    """The problem body of a response that must be one."""
    assert response.status_code == status, response.text
    assert response.headers["content-type"] == "application/problem+json"
    body = response.json()
    assert body["status"] == status
    assert body["title"]
    assert body["detail"].endswith((".", ")", "?"))
    return body


def fields_at_fault(response: httpx.Response) -> list[str]:
    return [fault["field"] for fault in problem(response, 422)["errors"]]
