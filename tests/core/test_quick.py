"""Small models asked where the question is: the same answers, and a bound on what a row can take."""

import io
import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sklearn.ensemble import RandomForestRegressor
from sklearn.feature_extraction.text import CountVectorizer
from sklearn.linear_model import Ridge
from sklearn.neighbors import KNeighborsRegressor
from sklearn.pipeline import make_pipeline

from plain_window.core.contract import ModelFacts
from plain_window.core.contract.jobs import OpenFile
from plain_window.core.contract.requests import PredictRequest
from plain_window.core.intake.opening import take_in
from plain_window.core.intake.reopening import Intake
from plain_window.core.model_service import quick
from plain_window.core.model_service.quick import quick_model
from plain_window.core.model_service.service import compiled_service
from plain_window.core.model_service.strangers import Strangers
from plain_window.core.plan.container import read_plan, write_plan
from plain_window.core.plan.effort import effort_of
from plain_window.core.trust.similarity import Similarity

from ..made_models import FEATURES, classifier_pipeline, csv, dumped, firings
from .plans import TABLE, mixed, proved

FIRINGS = firings(400)


def opened(model, table=FIRINGS, known=None) -> tuple[Intake, ModelFacts]:
    files = {"model": io.BytesIO(dumped(model)), "reference": io.BytesIO(csv(table.drop(columns="kwh")))}
    if known is not None:
        files["known"] = io.BytesIO(csv(known.drop(columns="kwh")))
    intake = take_in(files, OpenFile(target="outcome"))
    return intake, ModelFacts.of_inspection(intake.inspection.model_dump_json().encode())


@pytest.fixture(scope="module")
def with_evidence() -> tuple[Intake, ModelFacts]:
    intake, facts = opened(classifier_pipeline(FIRINGS), known=firings(300, seed=11))
    assert facts.has_evidence
    return intake, facts


def test_a_quick_model_says_what_the_service_says_of_each_row(with_evidence):
    intake, facts = with_evidence
    model = quick_model(intake.compiled, facts, intake.kept_rows)
    service = compiled_service(intake.compiled, facts, intake.kept_rows)
    rows = json.loads(firings(40, seed=5)[FEATURES].to_json(orient="records"))
    # Far from anything, so that both kinds of likeness occur.
    rows += [{**row, "pots": 9000, "peak": 4.5} for row in rows[:10]]
    found = [model.predict(row) for row in rows]
    (reply,) = service.predict([PredictRequest(rows=rows)])
    assert [one.outputs for one in found] == reply.outputs.rows()
    assert [one.is_unlike for one in found] == reply.unlike
    assert set(reply.unlike) == {True, False}


def test_where_nothing_hangs_on_likeness_it_is_not_looked_for():
    intake, facts = opened(classifier_pipeline(FIRINGS))
    model = quick_model(intake.compiled, facts, intake.kept_rows)
    assert model.predict(facts.warm_up_row).is_unlike is None


def test_what_may_take_long_is_asked_elsewhere(with_evidence, monkeypatch):
    intake, facts = with_evidence
    assert quick_model(intake.compiled, facts, None) is not None
    for limit, least in (("MOST_BYTES", len(intake.compiled)), ("MOST_EFFORT", effort_of(read_plan(intake.compiled)))):
        with monkeypatch.context() as change:
            change.setattr(quick, limit, least - 1)
            assert quick_model(intake.compiled, facts, None) is None


def test_no_row_takes_more_steps_than_its_effort():
    forest, _ = proved(
        make_pipeline(mixed(), RandomForestRegressor(20, max_depth=6, random_state=0)).fit(TABLE, TABLE["peak"])
    )
    own = effort_of(forest)
    # Twenty trees of at most seven nodes on a way, and what the preparation touches.
    assert 20 * 7 <= own <= 20 * 7 + 20 + 200
    linear, _ = proved(make_pipeline(mixed(), Ridge()).fit(TABLE, TABLE["peak"]))
    assert effort_of(linear) < 200


def test_trees_that_are_one_long_way_are_counted_node_by_node():
    plan, _ = proved(make_pipeline(mixed(), RandomForestRegressor(1, random_state=0)).fit(TABLE, TABLE["peak"]))
    step = next(step for step in plan.steps if step.op == "forest")
    n_inner = 5000
    # Each node's left child is a leaf, its right one the next node: valid, and as deep as it is long.
    left = np.empty(2 * n_inner + 1, dtype="int32")
    left[0:-1:2], left[1::2], left[-1] = np.arange(1, 2 * n_inner, 2), 0, 0
    feature = np.full(left.size, -1, dtype="int32")
    feature[0:-1:2] = 0
    made = {
        "roots": np.zeros(500, dtype="int32"),
        "feature": feature,
        "threshold": np.zeros(left.size),
        "left": left,
        "missing_left": np.zeros(left.size, dtype="uint8"),
        "values": np.zeros((1, 1)),
    }
    arrays = {**plan.arrays, **{step.arrays[part]: array for part, array in made.items()}}
    spoiled = read_plan(write_plan(plan.model_copy(update={"arrays": arrays})))
    assert effort_of(spoiled) > 500 * n_inner


@pytest.mark.parametrize(
    "model",
    [
        make_pipeline(mixed(), KNeighborsRegressor()),
        make_pipeline(mixed(categories=CountVectorizer()), Ridge()),
    ],
    ids=["neighbours", "words"],
)
def test_a_step_without_a_bound_makes_a_plan_without_one(model):
    if isinstance(model[0].transformers[0][1], CountVectorizer):
        model[0].transformers[0] = (*model[0].transformers[0][:2], "kiln")
    plan, _ = proved(model.fit(TABLE, TABLE["peak"]))
    assert effort_of(plan) is None


values = st.one_of(st.none(), st.integers(-4000, 4000).map(lambda v: v / 8), st.sampled_from([0.0, 1.0, 1e9]))
rows = st.fixed_dictionaries({"a": values, "b": values, "c": st.sampled_from(["x", "y", "z", None, "new"])})


@settings(max_examples=60, deadline=None)
@given(st.lists(rows, min_size=1, max_size=30), st.lists(rows, min_size=1, max_size=8), st.integers(1, 40))
def test_likeness_found_quickly_is_the_likeness_there_is(known, asked, times):
    columns = {name: [row[name] for row in known] * times for name in ("a", "b", "c")}
    similarity = Similarity(columns, ["a", "b"], ["c"])
    strangers = Strangers(similarity.compared)
    for row in [*asked, *known[:3]]:
        _, away = similarity.nearest(row, most=similarity.n_rows)
        familiarity = similarity.familiarity(away)
        assert strangers.is_unlike(row) == familiarity.is_unlike
        assert similarity.familiarity(strangers.distances(row)) == familiarity
