"""Compiled models: the library's answers from plain arrays, proved, or not adopted."""

import io

import numpy as np
import pandas as pd
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sklearn.compose import ColumnTransformer, TransformedTargetRegressor, make_column_transformer
from sklearn.decomposition import PCA, TruncatedSVD
from sklearn.ensemble import (
    AdaBoostRegressor,
    ExtraTreesClassifier,
    ExtraTreesRegressor,
    GradientBoostingClassifier,
    GradientBoostingRegressor,
    HistGradientBoostingClassifier,
    HistGradientBoostingRegressor,
    RandomForestClassifier,
    RandomForestRegressor,
)
from sklearn.feature_selection import SelectKBest
from sklearn.impute import SimpleImputer
from sklearn.linear_model import Lasso, LinearRegression, LogisticRegression, Ridge, RidgeClassifier
from sklearn.neural_network import MLPClassifier, MLPRegressor
from sklearn.pipeline import FeatureUnion, make_pipeline
from sklearn.preprocessing import (
    FunctionTransformer,
    MaxAbsScaler,
    MinMaxScaler,
    Normalizer,
    OneHotEncoder,
    OrdinalEncoder,
    RobustScaler,
    StandardScaler,
)
from sklearn.svm import LinearSVC
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor

from plain_window.core.compiled.building import CannotCompile
from plain_window.core.compiled.container import read_plan, write_plan
from plain_window.core.compiled.engine import CHUNK_ROWS, CompiledModel
from plain_window.core.compiled.from_sklearn import compile_sklearn
from plain_window.core.compiled.parity import RELATIVE_TOLERANCE, columns_of_table, prove, rows_around
from plain_window.core.compiled.plan import PlanDamaged, check_plan
from plain_window.core.fields.tables import read_table
from plain_window.core.models.pickled import Unpickled
from plain_window.core.models.sklearn import SklearnModel

from ..made_models import FEATURES, csv, firings

TABLE = read_table(io.BytesIO(csv(firings(300))))
NUMBERS = ["pots", "peak"]


def gappy(table: pd.DataFrame) -> pd.DataFrame:
    """The same firings with gaps in every column but the kiln's."""
    rng = np.random.default_rng(3)
    holed = table.copy()
    holed["pots"] = holed["pots"].astype("float64")
    for name in NUMBERS:
        holed.loc[rng.random(len(holed)) < 0.2, name] = np.nan
    return holed


def mixed(numbers=None, categories=None) -> ColumnTransformer:
    return make_column_transformer(
        (categories or OneHotEncoder(handle_unknown="ignore"), ["kiln"]),
        (numbers or StandardScaler(), NUMBERS),
        ("passthrough", ["reduced"]),
    )


def proved(model, table: pd.DataFrame = TABLE, *, may_miss=frozenset()):
    """The plan of a fitted model, after a round trip through its file, and the proof."""
    original = SklearnModel(Unpickled(model, None, []))
    plan = compile_sklearn(model, list(table.columns), gives_probabilities=original.found.gives_probabilities)
    plan = read_plan(write_plan(plan))
    return plan, prove(plan, original.predict, table, may_miss=may_miss)


CLASSES = {
    "logistic, two classes": LogisticRegression(),
    "logistic, one against the rest": LogisticRegression(solver="liblinear"),
    "ridge classifier": RidgeClassifier(),
    "linear SVM": LinearSVC(),
    "tree": DecisionTreeClassifier(max_depth=5, random_state=0),
    "random forest": RandomForestClassifier(25, random_state=0),
    "extra trees": ExtraTreesClassifier(25, random_state=0),
    "gradient boosting": GradientBoostingClassifier(n_estimators=20, random_state=0),
    "gradient boosting from zero": GradientBoostingClassifier(n_estimators=20, init="zero", random_state=0),
    "histogram boosting": HistGradientBoostingClassifier(max_iter=15, random_state=0),
    "network": MLPClassifier((7, 5), activation="tanh", solver="lbfgs", max_iter=30, tol=1, random_state=0),
}
NUMBERS_OUT = {
    "linear": LinearRegression(),
    "ridge": Ridge(),
    "lasso": Lasso(0.1),
    "tree": DecisionTreeRegressor(max_depth=6, random_state=0),
    "random forest": RandomForestRegressor(25, random_state=0),
    "extra trees": ExtraTreesRegressor(25, random_state=0),
    "gradient boosting": GradientBoostingRegressor(n_estimators=20, random_state=0),
    "histogram boosting": HistGradientBoostingRegressor(max_iter=15, random_state=0),
    "histogram boosting, Poisson": HistGradientBoostingRegressor(loss="poisson", max_iter=15, random_state=0),
    "network": MLPRegressor(hidden_layer_sizes=(8,), solver="lbfgs", max_iter=30, tol=1e6, random_state=0),
    "a target's logarithm": TransformedTargetRegressor(Ridge(), func=np.log, inverse_func=np.exp),
    "a scaled target": TransformedTargetRegressor(Ridge(), transformer=StandardScaler()),
}
PREPARATIONS = {
    "min-max": mixed(MinMaxScaler(clip=True)),
    "robust": mixed(RobustScaler()),
    "max-abs": mixed(MaxAbsScaler()),
    "normalised": mixed(Normalizer("l1")),
    "not centred": mixed(StandardScaler(with_mean=False)),
    "principal components": mixed(make_pipeline(StandardScaler(), PCA(2, whiten=True, random_state=0))),
    "singular values": mixed(TruncatedSVD(1, random_state=0)),
    "a known function": mixed(make_pipeline(FunctionTransformer(np.log1p), StandardScaler())),
    "several views": mixed(FeatureUnion([("scaled", StandardScaler()), ("raw", "passthrough")])),
    "first option dropped": mixed(categories=OneHotEncoder(drop="first")),
    "rare options together": mixed(categories=OneHotEncoder(min_frequency=98, handle_unknown="infrequent_if_exist")),
    "rare together, first dropped": mixed(categories=OneHotEncoder(min_frequency=98, drop="first")),
    "ordinal": mixed(categories=OrdinalEncoder(handle_unknown="use_encoded_value", unknown_value=-1)),
    "nested": make_pipeline(mixed(), SelectKBest(k=4), StandardScaler()),
}


@pytest.mark.parametrize("name", CLASSES)
def test_classifiers_say_what_the_library_says(name):
    model = make_pipeline(mixed(), CLASSES[name]).fit(TABLE[FEATURES], TABLE["outcome"])
    _, report = proved(model, TABLE[FEATURES])
    assert report.adopted, report.obstacle
    assert report.n_rows_compared == len(TABLE) + 1000


# liblinear takes two classes only.
@pytest.mark.parametrize("name", [name for name in CLASSES if name != "logistic, one against the rest"])
def test_classifiers_of_three_classes_say_what_the_library_says(name):
    model = make_pipeline(mixed(), CLASSES[name])
    model.fit(TABLE[FEATURES], pd.cut(TABLE["kwh"], 3, labels=["low", "usual", "high"]).astype(str))
    _, report = proved(model, TABLE[FEATURES])
    assert report.adopted, report.obstacle


@pytest.mark.parametrize("name", NUMBERS_OUT)
def test_regressors_say_what_the_library_says(name):
    model = make_pipeline(mixed(), NUMBERS_OUT[name]).fit(TABLE[FEATURES], TABLE["kwh"])
    _, report = proved(model, TABLE[FEATURES])
    assert report.adopted, report.obstacle


@pytest.mark.parametrize("name", ["random forest", "extra trees", "tree"])
def test_forests_of_several_numbers(name):
    model = make_pipeline(mixed(), NUMBERS_OUT[name]).fit(TABLE[FEATURES], TABLE[["kwh", "pots"]])
    plan, report = proved(model, TABLE[FEATURES])
    assert (plan.n_outputs, report.adopted) == (2, True)


@pytest.mark.parametrize("name", PREPARATIONS)
def test_preparations_say_what_the_library_says(name):
    model = make_pipeline(PREPARATIONS[name], LogisticRegression()).fit(TABLE[FEATURES], TABLE["outcome"])
    _, report = proved(model, TABLE[FEATURES])
    assert report.adopted, report.obstacle


@pytest.mark.parametrize(
    "preparation",
    [
        make_column_transformer((OneHotEncoder(), ["kiln"]), (SimpleImputer(), NUMBERS)),
        make_column_transformer((SimpleImputer(strategy="median", add_indicator=True), NUMBERS)),
        make_column_transformer((make_pipeline(SimpleImputer(), StandardScaler()), NUMBERS), remainder="drop"),
    ],
    ids=["mean", "median with flags", "mean, then scaled"],
)
def test_missing_values_are_filled_as_the_library_fills_them(preparation):
    table = gappy(TABLE)
    model = make_pipeline(preparation, Ridge()).fit(table[FEATURES], table["kwh"])
    _, report = proved(model, table[FEATURES], may_miss=set(NUMBERS))
    assert report.adopted, report.obstacle


@pytest.mark.parametrize("name", ["tree", "random forest", "histogram boosting", "extra trees"])
def test_trees_send_missing_values_where_the_library_does(name):
    table = gappy(TABLE)[NUMBERS]
    model = NUMBERS_OUT[name].fit(table, TABLE["kwh"])
    _, report = proved(model, table, may_miss=set(NUMBERS))
    assert report.adopted, report.obstacle
    assert report.largest_difference == 0


def test_missing_options_are_filled_or_an_option_of_their_own():
    table = TABLE[["kiln"]].astype("object").copy()
    table.loc[:20, "kiln"] = np.nan
    for encoder in (OneHotEncoder(), make_pipeline(SimpleImputer(strategy="most_frequent"), OneHotEncoder())):
        model = make_pipeline(encoder, Ridge()).fit(table, TABLE["kwh"])
        _, report = proved(model, table, may_miss={"kiln"})
        assert report.adopted, report.obstacle


def test_trees_choose_the_very_same_leaf_on_their_own_thresholds():
    forest = RandomForestRegressor(10, random_state=0).fit(TABLE[NUMBERS], TABLE["kwh"])
    tree = forest.estimators_[0].tree_
    at = [threshold for feature, threshold in zip(tree.feature, tree.threshold, strict=True) if feature == 1]
    edges = np.unique([value for t in at for value in (t, np.nextafter(t, 0), np.nextafter(t, 1e9), np.float32(t))])
    rows = pd.DataFrame({"pots": np.full(edges.size, 30.0), "peak": edges})
    plan, _ = proved(forest, TABLE[NUMBERS])
    np.testing.assert_array_equal(CompiledModel(plan).predict(columns_of_table(rows))[:, 0], forest.predict(rows))


def test_many_rows_come_out_as_single_rows_do():
    model = make_pipeline(mixed(), RandomForestClassifier(5, random_state=0)).fit(TABLE[FEATURES], TABLE["outcome"])
    compiled = CompiledModel(proved(model, TABLE[FEATURES])[0])
    many = rows_around(TABLE[FEATURES], n_rows=CHUNK_ROWS + 10, seed=1)
    together = compiled.predict(columns_of_table(many))
    for at in (0, 1, CHUNK_ROWS - 1, CHUNK_ROWS, CHUNK_ROWS + 9):
        alone = compiled.predict(columns_of_table(many.iloc[[at]]))
        np.testing.assert_array_equal(alone[0], together[at])


class _Subclass(Ridge):
    """May compute something else than its parent."""


@pytest.mark.parametrize(
    ("model", "obstacle"),
    [
        (AdaBoostRegressor(n_estimators=3), "`AdaBoostRegressor` has no compiled form"),
        (make_pipeline(StandardScaler(), _Subclass()), "`_Subclass` has no compiled form"),
        (make_pipeline(FunctionTransformer(lambda x: x * 2), Ridge()), "is no known NumPy function"),
        (TransformedTargetRegressor(Ridge(), func=np.arctan, inverse_func=np.tan), "is no function that is known here"),
    ],
)
def test_what_has_no_compiled_form_names_the_step(model, obstacle):
    fitted = model.fit(TABLE[NUMBERS], TABLE["kwh"])
    with pytest.raises(CannotCompile, match=obstacle):
        compile_sklearn(fitted, NUMBERS, gives_probabilities=False)


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
    plan = compile_sklearn(model, NUMBERS, gives_probabilities=False)
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
