"""The vectors that readers of compiled models are held against are what this one says, and leave nothing out."""

import base64
import json

import numpy as np
import pytest

from plain_window.core.plan.operations import OPERATIONS
from plain_window.core.plan.single_row import SIMPLE, SingleRow

from ..vectors.cases import cases
from ..vectors.written import PLACE, written_vectors
from .plans import assert_alone_as_together


def test_every_operation_has_vectors_and_they_are_what_the_engine_says():
    kept, made = (json.loads(text) for text in (PLACE.read_text("utf-8"), written_vectors()))
    # Each begins with a step that makes numbers of columns.
    assert {vector["op"] for vector in made} | {"numbers"} == set(OPERATIONS)
    assert [vector["name"] for vector in kept] == [vector["name"] for vector in made], "run `python -m tests.vectors`"
    for old, new in zip(kept, made, strict=True):
        assert (_sum_of(old), old["columns"]) == (_sum_of(new), new["columns"]), old["name"]
        # Mathematical libraries differ in their last digits from machine to machine.
        assert _rounded(old["outputs"]) == _rounded(new["outputs"]), old["name"]


@pytest.mark.parametrize("case", list(cases()), ids=lambda case: case.name)
def test_a_row_asked_for_alone_is_answered_as_in_a_table(case):
    with np.errstate(all="ignore"):
        assert_alone_as_together(case.plan, case.columns)


def test_the_simple_steps_of_a_row_are_taken_together_up_to_the_first_that_is_not_simple():
    whole = {case.plan.steps[-1].op for case in cases() if SingleRow(case.plan).n_steps == len(case.plan.steps)}
    assert whole == set(SIMPLE) - {"numbers"}


def _sum_of(vector: dict) -> str:
    """What stands for all of a model's content; the order of its file's header is anybody's."""
    content = base64.b64decode(vector["model"])
    return json.loads(content[8 : 8 + int.from_bytes(content[:8], "little")])["__metadata__"]["plain_window_sum"]


def _rounded(outputs: list[list]) -> list[list]:
    return [[value if isinstance(value, str) else f"{value:.12e}" for value in row] for row in outputs]
