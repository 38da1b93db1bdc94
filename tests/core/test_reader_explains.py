"""The reader for browsers gives the same contributions and exact curves as the server's explanations do."""

import numpy as np
import pandas as pd
import pytest
from sklearn.ensemble import (
    ExtraTreesRegressor,
    GradientBoostingClassifier,
    GradientBoostingRegressor,
    HistGradientBoostingRegressor,
    RandomForestClassifier,
)
from sklearn.linear_model import LinearRegression, LogisticRegression
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import StandardScaler
from sklearn.svm import SVR
from sklearn.tree import DecisionTreeClassifier

from ..reader import explained_by_reader
from .plans import NUMBERS, TABLE, gappy, mixed, raw_columns
from .test_explain import explainer_of, row_of

CLASS, KWH = TABLE["outcome"] if "outcome" in TABLE else TABLE["kiln"], TABLE["peak"] * TABLE["pots"] / 100
FEATURES = TABLE[["kiln", "pots", "peak", "reduced"]]
MODELS = {
    "forest": (RandomForestClassifier(12, random_state=0), CLASS, "exact-forest"),
    "deep trees": (ExtraTreesRegressor(5, random_state=0), KWH, "exact-forest"),
    "tree": (DecisionTreeClassifier(random_state=0), CLASS, "exact-forest"),
    "boosted numbers": (GradientBoostingRegressor(n_estimators=20, random_state=0), KWH, "exact-forest"),
    "histogram boosting": (HistGradientBoostingRegressor(max_iter=15, random_state=0), KWH, "exact-forest"),
    # What turns scores into probabilities mixes the inputs: every coalition is asked about.
    "boosted classes": (GradientBoostingClassifier(n_estimators=8, random_state=0), CLASS, "exact-enumeration"),
    "logistic": (LogisticRegression(max_iter=2000), CLASS, "exact-enumeration"),
    "linear": (LinearRegression(), KWH, "exact-linear"),
    "kernel machine": (SVR(), KWH, "exact-enumeration"),
}
RANGES = {name: (float(FEATURES[name].min()), float(FEATURES[name].max())) for name in NUMBERS}
N_SAMPLE, ROWS, TOLERANCE = 40, (41, 77, 150), 1e-11


@pytest.mark.parametrize("name", MODELS)
def test_contributions_are_those_of_the_server_and_add_up(name):
    estimator, target, method = MODELS[name]
    model = make_pipeline(mixed(), estimator).fit(FEATURES, target)
    explainer = explainer_of(model, FEATURES, N_SAMPLE)
    sample = raw_columns(FEATURES.head(N_SAMPLE))
    rows = [row_of(FEATURES, at) for at in ROWS]
    n_outputs = explainer._compiled.plan.n_outputs
    for of in range(n_outputs):
        found = explained_by_reader(explainer._compiled.plan, sample, rows, of=of, ranges=RANGES)
        for row, said in zip(rows, found, strict=True):
            expected = explainer.explain(row, of=of)
            scale = max(1.0, abs(expected.baseline))
            assert said["method"] == method
            assert said["baseline"] == pytest.approx(expected.baseline, abs=TOLERANCE * scale)
            assert said["contributions"] == pytest.approx(expected.contributions, abs=TOLERANCE * scale)
            output = explainer._predict({one: [value] for one, value in row.items()})[0, of]
            assert sum(said["contributions"].values()) == pytest.approx(
                output - said["baseline"], abs=TOLERANCE * scale
            )
            curves = explainer.curves(row, of=of, full=True)
            for number, curve in said["curves"].items():
                if method != "exact-forest":
                    assert curve is None
                    continue
                # To the last bit where it jumps; what it says there is a sum in another order.
                assert (curve["shape"], curve["x"]) == (curves[number].shape, curves[number].x)
                assert len(curve["x"]) > 5
                assert curve["y"] == pytest.approx(curves[number].y, abs=TOLERANCE * scale)
    # Something is said at all.
    assert any(abs(value) > 0 for said in found for value in said["contributions"].values())


def test_what_is_missing_goes_where_the_trees_send_it():
    table = gappy(FEATURES)
    model = make_pipeline(mixed(numbers="passthrough"), HistGradientBoostingRegressor(max_iter=15, random_state=0))
    explainer = explainer_of(model.fit(table, KWH), table, N_SAMPLE)
    rows = [raw_columns(table.iloc[[at]]) for at in range(60, 80)]
    rows = [{name: values[0] for name, values in row.items()} for row in rows]
    assert any(None in row.values() for row in rows)
    sample = raw_columns(table.head(N_SAMPLE))
    found = explained_by_reader(explainer._compiled.plan, sample, rows, of=0, ranges={})
    for row, said in zip(rows, found, strict=True):
        expected = explainer.explain({name: np.nan if value is None else value for name, value in row.items()}, of=0)
        assert said["contributions"] == pytest.approx(expected.contributions, abs=1e-9)


def wide_kilns():
    rng = np.random.default_rng(4)
    wide = pd.DataFrame(rng.normal(size=(120, 34)).round(2), columns=[f"shelf_{at}" for at in range(34)])
    return wide, (wide.iloc[:, :6] * [3, -2, 1, 1, 0.5, 2]).sum(axis=1)


def test_more_inputs_than_a_word_has_bits_are_walked():
    wide, kwh = wide_kilns()
    explainer = explainer_of(ExtraTreesRegressor(6, random_state=0).fit(wide, kwh), wide, N_SAMPLE)
    sample, row = raw_columns(wide.head(N_SAMPLE)), row_of(wide, 77)
    (said,) = explained_by_reader(explainer._compiled.plan, sample, [row], of=0, ranges={})
    assert said["method"] == "exact-forest"
    assert said["contributions"] == pytest.approx(explainer.explain(row, of=0).contributions, abs=TOLERANCE)


def test_too_many_inputs_to_ask_about_one_with_another_are_sampled_and_say_how_far_off_they_may_be():
    wide, kwh = wide_kilns()
    explainer = explainer_of(make_pipeline(StandardScaler(), SVR()).fit(wide, kwh), wide, N_SAMPLE)
    sample, row = raw_columns(wide.head(N_SAMPLE)), row_of(wide, 77)
    first, again = explained_by_reader(explainer._compiled.plan, sample, [row, row], of=0, ranges={})
    server = explainer.explain(row, of=0, seconds=2.0)
    assert first["method"] == again["method"] == server.method == "sampled"
    output = explainer._predict({one: [value] for one, value in row.items()})[0, 0]
    assert sum(first["contributions"].values()) == pytest.approx(output - first["baseline"], abs=TOLERANCE)
    apart = [
        (first["contributions"][name] - own) / np.hypot(first["errors"][name], server.errors[name])
        for name, own in server.contributions.items()
    ]
    # Of 34 normal deviations hardly one lies beyond four.
    assert max(map(abs, apart)) < 5
    assert np.sqrt(np.mean(np.square(apart))) < 1.6
