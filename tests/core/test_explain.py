"""Contributions and curves against brute force and closed forms, on random models."""

import itertools
import math

import numpy as np
import pandas as pd
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sklearn.compose import TransformedTargetRegressor, make_column_transformer
from sklearn.ensemble import (
    AdaBoostClassifier,
    BaggingRegressor,
    ExtraTreesRegressor,
    GradientBoostingClassifier,
    GradientBoostingRegressor,
    HistGradientBoostingRegressor,
    RandomForestClassifier,
)
from sklearn.linear_model import LogisticRegression, Ridge
from sklearn.neighbors import KNeighborsRegressor
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import FunctionTransformer, OneHotEncoder, OrdinalEncoder, PolynomialFeatures, StandardScaler
from sklearn.svm import SVR

from plain_window.core.explain import explainer as explaining
from plain_window.core.explain import pace, paths, patterns
from plain_window.core.explain.coalitions import enumerate_coalitions, sample_orders
from plain_window.core.explain.curves import ribbon_steps
from plain_window.core.explain.explainer import Explainer, FieldFacts, ReferenceSample, TooSlow
from plain_window.core.formats.sklearn.adapter import SklearnModel
from plain_window.core.formats.sklearn.compiling import compile_sklearn
from plain_window.core.formats.sklearn.pickled import Unpickled
from plain_window.core.plan.engine import CompiledModel
from plain_window.core.plan.parity import columns_of_table

from ..made_models import FEATURES
from .plans import TABLE, gappy, mixed

TOLERANCE = 1e-9


def facts_of(table: pd.DataFrame) -> list[FieldFacts]:
    facts = []
    for name in table.columns:
        if pd.api.types.is_numeric_dtype(table[name]) and not pd.api.types.is_bool_dtype(table[name]):
            facts.append(FieldFacts(name, "number", float(table[name].min()), float(table[name].max())))
        else:
            facts.append(FieldFacts(name, "choice", options=tuple(sorted(table[name].unique(), key=str))))
    return facts


def explainer_of(model, table: pd.DataFrame, n_sample_rows: int = 40) -> Explainer:
    wanted = SklearnModel(Unpickled(model, None, [])).wanted
    compiled = CompiledModel(compile_sklearn(model, list(table.columns), wanted=wanted))
    sample = {name: list(values) for name, values in columns_of_table(table.head(n_sample_rows)).items()}
    return Explainer(compiled.predict, ReferenceSample(sample), facts_of(table), compiled)


def row_of(table: pd.DataFrame, at: int) -> dict:
    return {name: values[0] for name, values in columns_of_table(table.iloc[[at]]).items()}


def by_brute_force(explainer: Explainer, row: dict, of: int) -> dict[str, float]:
    """Shapley's own formula, over every coalition of raw columns."""
    sample, names = explainer._sample.columns, list(row)

    def value(coalition: frozenset) -> float:
        mixed_rows = {name: [row[name]] * len(sample[name]) if name in coalition else sample[name] for name in names}
        return float(explainer._predict(mixed_rows)[:, of].mean())

    values = {
        frozenset(some): value(frozenset(some))
        for n in range(len(names) + 1)
        for some in itertools.combinations(names, n)
    }
    out = {}
    for name in names:
        total = 0.0
        for some, worth in values.items():
            if name not in some:
                weight = math.factorial(len(some)) * math.factorial(len(names) - len(some) - 1)
                total += weight / math.factorial(len(names)) * (values[some | {name}] - worth)
        out[name] = total
    return out


EXACT = {
    "forest": (RandomForestClassifier(12, random_state=0), "outcome", "exact-forest"),
    "bagged trees": (BaggingRegressor(n_estimators=5, random_state=0), "kwh", "exact-forest"),
    "extra trees": (ExtraTreesRegressor(8, random_state=0), "kwh", "exact-forest"),
    "boosted trees": (GradientBoostingRegressor(n_estimators=15, random_state=0), "kwh", "exact-forest"),
    "histogram boosting": (HistGradientBoostingRegressor(max_iter=10), "kwh", "exact-forest"),
    "linear": (Ridge(), "kwh", "exact-linear"),
    "boosted classes": (GradientBoostingClassifier(n_estimators=10, random_state=0), "outcome", "exact-enumeration"),
    "logistic": (LogisticRegression(), "outcome", "exact-enumeration"),
    "AdaBoost": (AdaBoostClassifier(n_estimators=5, random_state=0), "outcome", "exact-enumeration"),
    "a target's logarithm": (
        TransformedTargetRegressor(GradientBoostingRegressor(n_estimators=8), func=np.log, inverse_func=np.exp),
        "kwh",
        "exact-enumeration",
    ),
    "support vectors": (SVR(), "kwh", "exact-enumeration"),
}


@pytest.mark.parametrize("name", EXACT)
def test_contributions_are_shapleys_and_add_up_to_the_answer(name):
    model, target, method = EXACT[name]
    fitted = make_pipeline(mixed(), model).fit(TABLE[FEATURES], TABLE[target])
    explainer = explainer_of(fitted, TABLE[FEATURES])
    row = row_of(TABLE[FEATURES], 200)
    for of in range(2 if target == "outcome" else 1):
        found = explainer.explain(row, of=of)
        assert found.method == method
        said = explainer._predict({name: [value] for name, value in row.items()})[0, of]
        assert sum(found.contributions.values()) == pytest.approx(said - found.baseline, abs=TOLERANCE)
        brute = by_brute_force(explainer, row, of)
        assert max(map(abs, brute.values())) > 1e-3
        for field, contribution in found.contributions.items():
            assert contribution == pytest.approx(brute[field], abs=TOLERANCE)


def test_columns_mixed_of_several_fields_are_explained_exactly_too():
    numbers = make_pipeline(StandardScaler(), PolynomialFeatures(2))
    model = make_pipeline(mixed(numbers), GradientBoostingRegressor(n_estimators=10)).fit(TABLE[FEATURES], TABLE["kwh"])
    explainer = explainer_of(model, TABLE[FEATURES])
    row = row_of(TABLE[FEATURES], 100)
    found = explainer.explain(row, of=0)
    assert found.method == "exact-enumeration"
    brute = by_brute_force(explainer, row, 0)
    assert found.contributions == pytest.approx(brute, abs=TOLERANCE)


@settings(max_examples=60, deadline=None)
@given(st.integers(0, 2**32 - 1), st.booleans())
def test_walks_patterns_and_enumeration_agree_on_random_trees(seed, by_walking):
    rng = np.random.default_rng(seed)
    n_rows = int(rng.integers(30, 90))
    table = pd.DataFrame(
        {
            "clay": rng.choice(["stoneware", "porcelain", "grog"], n_rows),
            "shelf": rng.integers(0, 5, n_rows).astype("float64"),
            "peak": rng.normal(size=n_rows),
            "days": rng.normal(size=n_rows),
        }
    )
    target = rng.normal(size=n_rows) + table["peak"] * (table["clay"] == "grog") + (table["shelf"] % 2) * table["days"]
    if rng.random() < 0.6:
        table.loc[rng.random(n_rows) < 0.2, "peak"] = np.nan
    if rng.random() < 0.5:
        encoder = make_column_transformer((OneHotEncoder(), ["clay"]), remainder="passthrough")
        boosted = HistGradientBoostingRegressor(max_iter=4, min_samples_leaf=3, max_leaf_nodes=12)
    else:
        encoder = make_column_transformer((OrdinalEncoder(), ["clay"]), remainder="passthrough")
        boosted = HistGradientBoostingRegressor(
            max_iter=4, min_samples_leaf=3, max_leaf_nodes=12, categorical_features=[0, 1]
        )
    model = make_pipeline(encoder, boosted).fit(table, target)
    with pytest.MonkeyPatch.context() as patch:
        if by_walking:
            patch.setattr(patterns, "MOST_ENTRIES", 0)
        explainer = explainer_of(model, table, n_sample_rows=int(rng.integers(1, n_rows)))
        case = {
            name: (None if value != value else value)
            for name, value in row_of(table, int(rng.integers(n_rows))).items()
        }
        found = explainer.explain(case, of=0)
    assert found.method == "exact-forest"
    ask, players = explainer._mixer(case, 0)
    exact = enumerate_coalitions(ask, n_fields=len(players), n_sample_rows=explainer.n_sample_rows)[:, 0]
    said = {**dict.fromkeys(table, 0.0), **dict(zip(players, exact.tolist(), strict=True))}
    assert found.contributions == pytest.approx(said, abs=TOLERANCE)


def test_scores_are_explained_where_there_are_any():
    fitted = make_pipeline(mixed(), LogisticRegression()).fit(TABLE[FEATURES], TABLE["outcome"])
    explainer = explainer_of(fitted, TABLE[FEATURES])
    row = row_of(TABLE[FEATURES], 10)
    second, first = (explainer.explain(row, of=of, at_score=True) for of in (1, 0))
    assert second.method == "exact-linear"
    score = fitted.decision_function(TABLE[FEATURES].iloc[[10]])[0]
    assert second.baseline + sum(second.contributions.values()) == pytest.approx(score, abs=TOLERANCE)
    assert first.contributions == pytest.approx({name: -value for name, value in second.contributions.items()})


def test_sampled_contributions_keep_to_their_stated_error():
    weights = np.linspace(-1, 1, 12)
    sample = np.random.default_rng(5).normal(size=(30, 12))
    case = np.linspace(0.5, 2, 12)

    def outputs(rows: np.ndarray) -> np.ndarray:
        return np.tanh(rows @ weights)[:, None] + (rows[:, [0]] > 0) * rows[:, [1]]

    def ask(takes: np.ndarray, rows: np.ndarray) -> np.ndarray:
        return outputs(np.where(takes, case, sample[rows]))

    exact = enumerate_coalitions(ask, n_fields=12, n_sample_rows=30)[:, 0]
    held = 0
    for seed in range(100):
        sampled = sample_orders(ask, n_fields=12, n_sample_rows=30, seed=seed, seconds=60, small_error=0.01)
        assert sampled.errors.max() <= 0.01
        # One field a run, so that the runs are independent of each other.
        field = seed % 12
        held += abs(sampled.contributions[field, 0] - exact[field]) <= 1.96 * sampled.errors[field, 0]
    assert held >= 93


def test_the_same_case_gives_the_same_numbers_and_time_that_is_up_an_estimate():
    table = pd.DataFrame(np.random.default_rng(0).normal(size=(60, 14)), columns=[f"f{at}" for at in range(14)])
    fitted = make_pipeline(FunctionTransformer(np.tanh), SVR()).fit(table, table.sum(axis=1))
    explainer = explainer_of(fitted, table)
    row = row_of(table, 3)
    hurried = explainer.explain(row, of=0, seconds=0.0)
    assert hurried.method == "sampled"
    assert hurried == explainer.explain(row, of=0, seconds=0.0)
    assert all(error > 0 for error in hurried.errors.values())
    said = explainer._predict({name: [value] for name, value in row.items()})[0, 0]
    total = hurried.baseline + sum(hurried.contributions.values())
    assert total == pytest.approx(said, abs=1e-9)


def test_estimates_cut_short_add_up_exactly_and_still_keep_to_their_stated_error():
    table = pd.DataFrame(np.random.default_rng(0).normal(size=(150, 30)), columns=[f"f{at}" for at in range(30)])
    fitted = KNeighborsRegressor(5).fit(table, table.iloc[:, :6].sum(axis=1))
    explainer = explainer_of(fitted, table, n_sample_rows=40)
    held = []
    for at in range(12):
        row = row_of(table, 100 + at)
        ask, players = explainer._mixer(row, 0)
        whole = float(ask(np.ones((1, len(players)), dtype=bool), np.zeros(1, dtype=int))[0, 0])
        sampling = {"n_fields": len(players), "n_sample_rows": 40, "seconds": 60, "small_error": 0.0}
        total = np.array([whole - explainer.usual(0)])
        better = sample_orders(ask, **sampling, seed=at, total=total, most_pairs=400).contributions[:, 0]
        hurried = explainer.explain(row, of=0, seconds=0.0)
        assert hurried.method == "sampled"
        assert hurried.baseline + sum(hurried.contributions.values()) == pytest.approx(whole, abs=1e-9)
        # What is left of the better estimate's own error counts against this test, not for it.
        held += [
            abs(hurried.contributions[name] - value) <= 1.96 * hurried.errors[name]
            for name, value in zip(players, better, strict=True)
        ]
    assert np.mean(held) >= 0.93


def test_fields_that_cannot_reach_the_answer_do_not_make_an_exact_explanation_an_estimate():
    table = pd.DataFrame(np.random.default_rng(0).normal(size=(60, 14)), columns=[f"f{at}" for at in range(14)])
    keep = make_column_transformer(("passthrough", [f"f{at}" for at in range(5)]))
    fitted = make_pipeline(keep, SVR()).fit(table, table.iloc[:, :5].sum(axis=1))
    found = explainer_of(fitted, table).explain(row_of(table, 3), of=0)
    assert found.method == "exact-enumeration"
    assert [name for name, value in found.contributions.items() if value == 0] == [f"f{at}" for at in range(5, 14)]


# --- curves -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", ["forest", "boosted trees", "histogram boosting"])
def test_a_tree_curve_jumps_exactly_where_the_model_does(name):
    model, target, _ = EXACT[name]
    scaled = make_pipeline(FunctionTransformer(np.log1p), StandardScaler())
    fitted = make_pipeline(mixed(scaled), model).fit(TABLE[FEATURES], TABLE[target])
    explainer = explainer_of(fitted, TABLE[FEATURES])
    row = row_of(TABLE[FEATURES], 150)
    curves = explainer.curves(row, of=0, full=True)
    assert [curves[name].shape for name in FEATURES] == ["options", "steps", "steps", "options"]
    for field in ("pots", "peak"):
        curve = curves[field]
        assert len(curve.x) > 3
        starts = np.array(curve.x)
        # At each jump, just below it, and between any two: what the model itself says.
        places = np.concatenate([starts, np.nextafter(starts[1:], -np.inf), (starts[1:] + starts[:-1]) / 2])
        held = np.searchsorted(starts, places, side="right") - 1
        columns = {other: [value] * len(places) for other, value in row.items()}
        said = explainer._predict({**columns, field: places.tolist()})[:, 0]
        np.testing.assert_allclose(np.array(curve.y)[held], said, rtol=0, atol=1e-9)


def test_full_curves_of_more_steps_than_an_answer_holds_keep_as_many_as_it_does(monkeypatch):
    model, target, _ = EXACT["forest"]
    explainer = explainer_of(make_pipeline(mixed(), model).fit(TABLE[FEATURES], TABLE[target]), TABLE[FEATURES])
    row = row_of(TABLE[FEATURES], 150)
    whole = explainer.curves(row, of=0, full=True)["peak"]
    monkeypatch.setattr(explaining, "MOST_STEPS", 40)
    some = explainer.curves(row, of=0, full=True)["peak"]
    assert len(some.x) <= 10 < len(whole.x)
    assert (some.thinned, whole.thinned) == (True, False)
    by_place = dict(zip(whole.x, whole.y, strict=True))
    assert [by_place[place] for place in some.x] == some.y


def test_a_curve_that_is_thinned_holds_at_every_point_it_keeps():
    x = np.sort(np.random.default_rng(1).uniform(0, 10, 5000))
    y = np.cumsum(np.random.default_rng(2).normal(size=5000))
    # Between it and the next stand a field without pieces and one that is level.
    both, first = np.concatenate([x, x[:50]]), np.array([0, 5000, 5000, 5050])
    wild, none, level = ribbon_steps(first, both, np.concatenate([y, np.zeros(50)]), most=100)
    assert wild[2]
    assert 90 <= len(wild[0]) <= 101
    np.testing.assert_array_equal(wild[1], y[np.searchsorted(x, wild[0])])
    assert (wild[0][0], wild[1][0], wild[1][-1]) == (x[0], y[0], y[-1])
    assert (none[0].size, none[2]) == (0, False)
    assert (level[0].tolist(), level[1].tolist(), level[2]) == ([x[0]], [0], False)


def test_a_case_near_one_told_before_gets_the_same_numbers_to_the_bit():
    fitted = make_pipeline(mixed(), RandomForestClassifier(40, random_state=0)).fit(TABLE[FEATURES], TABLE["outcome"])
    cases = [row_of(TABLE[FEATURES], 3) | {"peak": peak} for peak in np.linspace(900, 1300, 9)]
    moved = explainer_of(fitted, TABLE[FEATURES])
    for case in cases + cases[::-2]:
        alone = explainer_of(fitted, TABLE[FEATURES])
        assert moved.explain(case, of=1) == alone.explain(case, of=1)


def test_other_curves_are_asked_where_the_reference_values_lie():
    fitted = make_pipeline(mixed(), SVR(C=10)).fit(TABLE[FEATURES], TABLE["kwh"])
    explainer = explainer_of(fitted, TABLE[FEATURES])
    row = row_of(TABLE[FEATURES], 20)
    curve = explainer.curves(row, of=0)["pots"]
    assert curve.shape == "line"
    assert (curve.x[0], curve.x[-1]) == (TABLE["pots"].min(), TABLE["pots"].max())
    asked = pd.concat([TABLE[FEATURES].iloc[[20]]] * len(curve.x)).assign(pots=curve.x)
    np.testing.assert_allclose(curve.y, fitted.predict(asked), rtol=1e-12)


def test_what_does_not_matter_is_told_as_that():
    table = TABLE[FEATURES].assign(always=3.0)
    only_pots = make_column_transformer(("passthrough", ["pots", "always"]))
    fitted = make_pipeline(only_pots, RandomForestClassifier(5, random_state=0)).fit(table, TABLE["outcome"])
    explainer = explainer_of(fitted, table)
    found = explainer.explain(row_of(table, 4), of=0)
    assert [found.contributions[name] for name in ("kiln", "peak", "reduced", "always")] == [0, 0, 0, 0]
    curves = explainer.curves(row_of(table, 4), of=0)
    assert len(set(curves["peak"].y)) == len(set(curves["kiln"].y)) == 1


@pytest.mark.parametrize("rows", [1, 5])
def test_a_background_of_one_row_or_of_alike_rows(rows):
    fitted = make_pipeline(mixed(), RandomForestClassifier(5, random_state=0)).fit(TABLE[FEATURES], TABLE["outcome"])
    same = pd.concat([TABLE[FEATURES].iloc[[7]]] * rows + [TABLE[FEATURES]])
    explainer = explainer_of(fitted, same, n_sample_rows=rows)
    found = explainer.explain(row_of(TABLE[FEATURES], 9), of=0)
    assert found.contributions == pytest.approx(by_brute_force(explainer, row_of(TABLE[FEATURES], 9), 0), abs=TOLERANCE)
    at_home = explainer.explain(row_of(TABLE[FEATURES], 7), of=0)
    assert set(at_home.contributions.values()) == {0.0}


def test_missing_values_are_explained_like_others():
    table = gappy(TABLE)[["pots", "peak"]]
    fitted = HistGradientBoostingRegressor(max_iter=10).fit(table, TABLE["kwh"])
    explainer = explainer_of(fitted, table)
    row = {"pots": None, "peak": 1240.0}
    assert explainer.explain(row, of=0).contributions == pytest.approx(by_brute_force(explainer, row, 0), abs=TOLERANCE)


# --- slow models ------------------------------------------------------------------------------------------------------


def test_a_slow_model_is_asked_less_and_one_that_is_too_slow_not_at_all():
    numbers = TABLE[["pots", "peak"]]
    explainer = explainer_of(make_pipeline(StandardScaler(), SVR()).fit(numbers, TABLE["kwh"]), numbers)
    row = row_of(numbers, 3)
    usual = explainer.curves(row, of=0)["pots"]
    explainer.row_seconds = 0.05
    fewer = explainer.curves(row, of=0)["pots"]
    assert 2 <= len(fewer.x) < len(usual.x)
    assert {fewer.x[0], fewer.x[-1]} == {usual.x[0], usual.x[-1]}
    estimate = explainer.explain(row, of=0, seconds=0.0)
    assert estimate.method == "sampled"
    assert max(estimate.errors.values()) > 0
    explainer.row_seconds = 1.0
    for asked in (lambda: explainer.explain(row, of=0), lambda: explainer.curves(row, of=0)):
        with pytest.raises(TooSlow):
            asked()


def test_a_model_is_not_called_slow_for_a_first_call_that_waited(monkeypatch):
    numbers = TABLE[["pots", "peak"]]
    # Begun and ended: it was held up for a second's third first, and then took a millisecond.
    moments = iter([0.0, 0.3, 0.3, 0.301])
    monkeypatch.setattr(pace.time, "perf_counter", lambda: next(moments))
    explainer = explainer_of(Ridge().fit(numbers, TABLE["kwh"]), numbers, n_sample_rows=20)
    assert explainer.row_seconds == pytest.approx(0.001 / 20)


def test_the_curve_of_a_number_that_may_be_unknown_says_what_the_answer_is_then():
    table = gappy(TABLE)[["pots", "peak"]]
    model = HistGradientBoostingRegressor(max_iter=20).fit(table, TABLE["kwh"])
    explainer = explainer_of(model, table)
    explainer._fields = [FieldFacts(one.name, one.kind, one.low, one.high, optional=True) for one in explainer._fields]
    row = row_of(TABLE[["pots", "peak"]], 5)
    curves = explainer.curves(row, of=0)
    for name in table:
        unknown = pd.DataFrame([{**row, name: np.nan}])
        assert curves[name].unknown == pytest.approx(model.predict(unknown.astype("float64"))[0])


# --- where the table of paths would be too large ----------------------------------------------------------------------


@pytest.mark.parametrize("limit", ["MOST_FIELDS", "MOST_RANGE_ENTRIES"])
def test_walking_trees_says_what_their_paths_say(limit, monkeypatch):
    table = TABLE[FEATURES]
    model = make_pipeline(mixed(), ExtraTreesRegressor(30, random_state=0)).fit(table, TABLE["kwh"])
    row, quick = row_of(table, 7), explainer_of(model, table)
    monkeypatch.setattr(paths, limit, 1)
    walking = explainer_of(model, table)
    assert (quick._trees[False].paths is None, walking._trees[False].paths is None) == (False, limit == "MOST_FIELDS")
    expected, said = quick.explain(row, of=0), walking.explain(row, of=0)
    assert said.method == expected.method == "exact-forest"
    assert said.contributions == pytest.approx(expected.contributions, abs=TOLERANCE)
    for name, curve in quick.curves(row, of=0, full=True).items():
        assert walking.curves(row, of=0, full=True)[name].x == curve.x
        assert walking.curves(row, of=0, full=True)[name].y == pytest.approx(curve.y, abs=TOLERANCE)


def test_every_coalition_is_asked_about_whatever_else_the_machine_does():
    numbers = TABLE[["pots", "peak"]]
    explainer = explainer_of(make_pipeline(StandardScaler(), SVR()).fit(numbers, TABLE["kwh"]), numbers)
    assert explainer.explain(row_of(numbers, 3), of=0).method == "exact-enumeration"
    # While nobody waits, a piece must stay short: a slow model's coalitions are sampled then.
    explainer.row_seconds = 0.01
    assert explainer.explain(row_of(numbers, 3), of=0, most_seconds=0.2).method == "sampled"
