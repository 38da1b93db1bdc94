"""The vectors that readers of compiled models are held against are what this one says, and leave nothing out."""

import base64
import json

from plain_window.core.plan.operations import OPERATIONS

from ..vectors.written import PLACE, written_vectors


def test_every_operation_has_vectors_and_they_are_what_the_engine_says():
    kept, made = (json.loads(text) for text in (PLACE.read_text("utf-8"), written_vectors()))
    # Each begins with a step that makes numbers of columns.
    assert {vector["op"] for vector in made} | {"numbers"} == set(OPERATIONS)
    assert [vector["name"] for vector in kept] == [vector["name"] for vector in made], "run `python -m tests.vectors`"
    for old, new in zip(kept, made, strict=True):
        assert (_sum_of(old), old["columns"]) == (_sum_of(new), new["columns"]), old["name"]
        # Mathematical libraries differ in their last digits from machine to machine.
        assert _rounded(old["outputs"]) == _rounded(new["outputs"]), old["name"]


def _sum_of(vector: dict) -> str:
    """What stands for all of a model's content; the order of its file's header is anybody's."""
    content = base64.b64decode(vector["model"])
    return json.loads(content[8 : 8 + int.from_bytes(content[:8], "little")])["__metadata__"]["plain_window_sum"]


def _rounded(outputs: list[list]) -> list[list]:
    return [[value if isinstance(value, str) else f"{value:.12e}" for value in row] for row in outputs]
