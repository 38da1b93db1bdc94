"""Compiled models: the proof, and the file that holds one."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sklearn.ensemble import RandomForestClassifier
from sklearn.linear_model import Ridge
from sklearn.pipeline import make_pipeline

from plain_window.core.formats.sklearn.adapter import SklearnModel
from plain_window.core.formats.sklearn.compiling import compile_sklearn
from plain_window.core.formats.sklearn.pickled import Unpickled
from plain_window.core.intake import compiling
from plain_window.core.intake.inspection import inspect_model
from plain_window.core.plan.checking import check_plan
from plain_window.core.plan.container import read_plan, write_plan
from plain_window.core.plan.engine import CHUNK_ROWS, CompiledModel
from plain_window.core.plan.parity import RELATIVE_TOLERANCE, columns_of_table, prove, rows_around
from plain_window.core.plan.plan import PlanDamaged

from ..made_models import FEATURES
from .plans import NUMBERS, TABLE, mixed, proved


def test_many_rows_come_out_as_single_rows_do():
    model = make_pipeline(mixed(), RandomForestClassifier(5, random_state=0)).fit(TABLE[FEATURES], TABLE["outcome"])
    compiled = CompiledModel(proved(model, TABLE[FEATURES])[0])
    many = rows_around(TABLE[FEATURES], n_rows=CHUNK_ROWS + 10, seed=1)
    together = compiled.predict(columns_of_table(many))
    for at in (0, 1, CHUNK_ROWS - 1, CHUNK_ROWS, CHUNK_ROWS + 9):
        alone = compiled.predict(columns_of_table(many.iloc[[at]]))
        np.testing.assert_array_equal(alone[0], together[at])


def test_a_plan_that_differs_is_not_adopted_and_the_worst_row_is_shown():
    model = make_pipeline(mixed(), Ridge()).fit(TABLE[FEATURES], TABLE["kwh"])
    plan, report = proved(model, TABLE[FEATURES])
    assert report.adopted
    weights = next(step.arrays["weights"] for step in plan.steps if step.op == "linear")
    plan.arrays[weights] = plan.arrays[weights] * (1 + 1e-9)
    report = prove(plan, SklearnModel(Unpickled(model, None, [])).predict, TABLE[FEATURES])
    assert not report.adopted
    assert report.largest_difference > RELATIVE_TOLERANCE
    assert set(report.worst_row) == set(FEATURES)
    assert "differs from the original" in report.obstacle


def test_a_proof_that_takes_too_long_is_none():
    model = Ridge().fit(TABLE[NUMBERS], TABLE["kwh"])
    plan = compile_sklearn(model, NUMBERS, wanted="numbers")
    original = SklearnModel(Unpickled(model, None, [])).predict
    assert "took more than" in prove(plan, original, TABLE[NUMBERS], seconds=-1).obstacle


# --- the file ---------------------------------------------------------------------------------------------------------


def _file() -> bytes:
    model = make_pipeline(mixed(), RandomForestClassifier(3, random_state=0)).fit(TABLE[FEATURES], TABLE["outcome"])
    return write_plan(proved(model, TABLE[FEATURES])[0])


FILE = _file()


@settings(max_examples=300)
@given(st.data())
def test_a_damaged_file_is_refused_and_never_misread(data):
    damaged = bytearray(FILE)
    if data.draw(st.booleans(), label="cut"):
        del damaged[data.draw(st.integers(0, len(FILE) - 1)) :]
    else:
        at = data.draw(st.integers(0, len(FILE) - 1))
        damaged[at] ^= data.draw(st.integers(1, 255))
    try:
        plan = read_plan(bytes(damaged))
    except PlanDamaged:
        return
    # What is still read must be what was written: the damage was in white space of the header.
    assert write_plan(plan) == FILE


@given(st.binary(max_size=300))
def test_anything_else_is_no_compiled_model(content):
    with pytest.raises(PlanDamaged):
        read_plan(content)


def _spoiled(spoil) -> None:
    plan = read_plan(FILE)
    forest = next(step for step in plan.steps if step.op == "forest")
    arrays = {part: plan.arrays[name].copy() for part, name in forest.arrays.items()}
    spoil(plan, forest, arrays)
    for part, name in forest.arrays.items():
        plan.arrays[name] = arrays[part]
    check_plan(plan)


@pytest.mark.parametrize(
    ("spoil", "message"),
    [
        (lambda plan, forest, arrays: arrays["left"].__setitem__(0, 0), "leads backwards"),
        (lambda plan, forest, arrays: arrays["left"].__setitem__(0, 10**6), "leads backwards or out"),
        (lambda plan, forest, arrays: arrays["feature"].__setitem__(0, 99), "a feature that is not there"),
        (lambda plan, forest, arrays: arrays["roots"].__setitem__(0, -1), "starts outside"),
        (lambda plan, forest, arrays: arrays.update(threshold=arrays["threshold"][:-1]), "differ in length"),
        (
            lambda plan, forest, arrays: arrays.update(feature=arrays["feature"].astype("int64")),
            "must be a list of int32",
        ),
        (lambda plan, forest, arrays: arrays.update(values=arrays["values"][:3]), "a leaf has no value"),
        (lambda plan, forest, arrays: setattr(forest, "op", "exec"), "there is no operation `exec`"),
        (lambda plan, forest, arrays: setattr(forest, "inputs", ["b99"]), "no step before it has written"),
        (lambda plan, forest, arrays: setattr(forest, "width", 7), "another width"),
        (lambda plan, forest, arrays: plan.inputs.clear(), "a column that is no input"),
        (lambda plan, forest, arrays: plan.steps.clear(), "there are no steps"),
        (lambda plan, forest, arrays: setattr(plan, "version", 2), "version 2"),
    ],
)
def test_a_plan_that_contradicts_itself_is_refused(spoil, message):
    with pytest.raises(PlanDamaged, match=message):
        _spoiled(spoil)


def test_what_is_too_large_to_be_handed_over_is_left_to_its_library(monkeypatch):
    forest = make_pipeline(mixed(), RandomForestClassifier(5, random_state=0)).fit(TABLE[FEATURES], TABLE["outcome"])
    model = SklearnModel(Unpickled(forest, None, []))
    _, plan = inspect_model(model, TABLE)
    assert plan is not None
    monkeypatch.setattr(compiling, "COMPILED_BYTES", sum(array.nbytes for array in plan.arrays.values()) - 1)
    found, plan = inspect_model(model, TABLE)
    assert (plan, found.compiled.adopted) == (None, False)
    assert found.compiled.obstacle.endswith("are the most. Fewer or shallower trees make it smaller.")
