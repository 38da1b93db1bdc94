"""Models of other libraries and formats: opened, described, compiled, and saying what their library says."""

import io

import joblib
import lightgbm
import numpy as np
import onnx
import pandas as pd
import pytest
import skl2onnx
import skops.io
import xgboost
from skl2onnx.common.data_types import FloatTensorType, StringTensorType
from sklearn.ensemble import RandomForestClassifier, RandomForestRegressor
from sklearn.linear_model import LogisticRegression, Ridge
from sklearn.pipeline import make_pipeline

from plain_window.core.errors import ModelFailed, ModelNotOpened
from plain_window.core.formats.opening import open_model

from ..made_models import FEATURES, classifier_pipeline, mixed_preparation
from .plans import NUMBERS, TABLE, gappy, mixed, read_twice

WOOD = (TABLE["kiln"] == "wood").astype(float)
OPTIONS = TABLE[["kiln", "pots", "peak"]].astype({"kiln": "category"})
THREE = pd.cut(TABLE["kwh"], 3, labels=False)


def opened(content: bytes, preprocessor: bytes | None = None):
    return open_model(io.BytesIO(content), io.BytesIO(preprocessor) if preprocessor else None)


def inspected(content: bytes, table: pd.DataFrame, **options):
    model = opened(content)
    inspection, _ = read_twice(model, table, **options)
    return model, inspection


def boosted(parameters: dict, table: pd.DataFrame, target, rounds: int = 12) -> xgboost.Booster:
    matrix = xgboost.DMatrix(table, label=target, enable_categorical=True)
    return xgboost.train({"max_depth": 4, "nthread": 1, **parameters}, matrix, rounds)


def leaves(parameters: dict, table: pd.DataFrame, target, rounds: int = 12) -> lightgbm.Booster:
    settings = {"num_leaves": 9, "verbose": -1, "min_data_in_leaf": 5, "min_data_per_group": 5, **parameters}
    return lightgbm.train(settings, lightgbm.Dataset(table, label=target), rounds)


XGBOOST = {
    "reg:squarederror": (TABLE["kwh"], {}),
    "reg:gamma": (TABLE["kwh"], {}),
    "count:poisson": (TABLE["pots"], {}),
    "reg:absoluteerror": (TABLE["kwh"], {}),
    "binary:logistic": (WOOD, {}),
    "binary:hinge": (WOOD, {}),
    "multi:softprob": (THREE, {"num_class": 3}),
    "multi:softmax": (THREE, {"num_class": 3}),
}


@pytest.mark.parametrize("file", ["json", "ubj"])
@pytest.mark.parametrize("objective", XGBOOST)
def test_xgboost_of_each_objective_is_compiled(objective, file):
    target, parameters = XGBOOST[objective]
    table = gappy(TABLE)[NUMBERS]
    booster = boosted({"objective": objective, **parameters}, table, target)
    model, inspection = inspected(bytes(booster.save_raw(file)), table.assign(outcome=target))
    assert inspection.compiled.adopted, inspection.compiled.obstacle
    assert inspection.compiled.largest_difference < 1e-6
    assert (model.found.library, model.found.format) == ("XGBoost", f"xgboost-{file}")
    assert all(field.optional for field in inspection.fields)
    if objective == "multi:softprob":
        said = booster.predict(xgboost.DMatrix(TABLE[NUMBERS]))
        np.testing.assert_allclose(model.predict(TABLE[NUMBERS]), said, rtol=1e-6)


@pytest.mark.parametrize("parameters", [{"booster": "dart", "rate_drop": 0.3}, {"num_parallel_tree": 3}])
def test_xgboost_with_dropped_and_with_parallel_trees(parameters):
    booster = boosted(parameters, TABLE[NUMBERS], TABLE["kwh"])
    _, inspection = inspected(bytes(booster.save_raw("ubj")), TABLE[[*NUMBERS, "kwh"]])
    assert inspection.compiled.adopted, inspection.compiled.obstacle


def test_xgboost_splits_by_options_and_knows_their_names():
    booster = boosted({"max_cat_to_onehot": 1}, OPTIONS, TABLE["kwh"] + 40 * WOOD)
    _, inspection = inspected(bytes(booster.save_raw("json")), TABLE[["kiln", *NUMBERS, "kwh"]])
    assert inspection.compiled.adopted, inspection.compiled.obstacle
    assert [option.value for option in inspection.fields[0].options] == ["electric", "gas", "wood"]
    unknown = TABLE[["kiln", *NUMBERS]].head(1).assign(kiln="oil")
    with pytest.raises(ModelFailed, match="does not know the value 'oil' of `kiln`"):
        opened(bytes(booster.save_raw("json"))).predict(unknown)


LIGHTGBM = {
    "regression": (TABLE["kwh"], {}),
    "poisson": (TABLE["pots"], {}),
    "quantile": (TABLE["kwh"], {"alpha": 0.9}),
    "binary": (WOOD, {"sigmoid": 0.7}),
    "multiclass": (THREE, {"num_class": 3}),
    "multiclassova": (THREE, {"num_class": 3}),
    "cross_entropy": (WOOD * 0.8, {}),
    "regression, square roots": (TABLE["kwh"], {"objective": "regression", "reg_sqrt": True}),
    "regression, zeros for missing": (TABLE["kwh"], {"objective": "regression", "zero_as_missing": True}),
    "regression, averaged": (
        TABLE["kwh"],
        {"objective": "regression", "boosting": "rf", "bagging_freq": 1, "bagging_fraction": 0.7},
    ),
}


@pytest.mark.parametrize("name", LIGHTGBM)
def test_lightgbm_of_each_objective_is_compiled(name):
    target, parameters = LIGHTGBM[name]
    table = gappy(TABLE)[NUMBERS]
    table.loc[::11, "pots"] = 0.0
    booster = leaves({"objective": name, **parameters}, table, target)
    model, inspection = inspected(booster.model_to_string().encode(), table.assign(outcome=target))
    assert inspection.compiled.adopted, inspection.compiled.obstacle
    assert model.found.library == "LightGBM"


def test_lightgbm_without_missing_values_takes_one_for_zero():
    table = TABLE[NUMBERS] - TABLE[NUMBERS].mean()
    model = opened(leaves({}, table, TABLE["kwh"]).model_to_string().encode())
    holed = table.assign(peak=np.nan)
    plan = read_twice(model, table.assign(kwh=TABLE["kwh"]))[1]
    from plain_window.core.plan.engine import CompiledModel

    said = CompiledModel(plan).predict({name: holed[name].to_numpy() for name in NUMBERS})
    np.testing.assert_allclose(said, model.predict(holed), rtol=1e-12)


def test_lightgbm_splits_by_options_and_writes_underscores_for_spaces():
    table = OPTIONS.rename(columns={"peak": "peak of firing"})
    booster = leaves({}, table, TABLE["kwh"] + 40 * WOOD)
    plain = table.astype({"kiln": "str"}).assign(kwh=TABLE["kwh"])
    _, inspection = inspected(booster.model_to_string().encode(), plain)
    assert inspection.compiled.adopted, inspection.compiled.obstacle
    assert [field.name for field in inspection.fields] == ["kiln", "pots", "peak of firing"]
    assert [option.value for option in inspection.fields[0].options] == ["electric", "gas", "wood"]


WRAPPERS = {
    "XGBoost, classes": (xgboost.XGBClassifier(n_estimators=8, n_jobs=1), TABLE["outcome"]),
    "XGBoost, three classes": (xgboost.XGBClassifier(n_estimators=8, n_jobs=1), THREE),
    "XGBoost, forest": (xgboost.XGBRFRegressor(n_estimators=8, n_jobs=1), TABLE["kwh"]),
    "XGBoost, numbers": (xgboost.XGBRegressor(n_estimators=8, n_jobs=1), TABLE["kwh"]),
    "LightGBM, classes": (lightgbm.LGBMClassifier(n_estimators=8, verbose=-1, n_jobs=1), TABLE["outcome"]),
    "LightGBM, three classes": (lightgbm.LGBMClassifier(n_estimators=8, verbose=-1, n_jobs=1), THREE),
    "LightGBM, numbers": (lightgbm.LGBMRegressor(n_estimators=8, verbose=-1, n_jobs=1), TABLE["kwh"]),
}


@pytest.mark.parametrize("name", WRAPPERS)
@pytest.mark.filterwarnings("ignore::UserWarning", "ignore::FutureWarning")
def test_wrapped_boosters_behind_a_pipeline_are_compiled(name):
    model, target = WRAPPERS[name]
    if model.__class__.__name__.startswith("XGBC"):
        target = pd.Series(pd.factorize(target)[0])
    fitted = make_pipeline(mixed(), model).fit(TABLE[FEATURES], target)
    file = io.BytesIO()
    joblib.dump(fitted, file)
    _, inspection = inspected(file.getvalue(), TABLE[FEATURES].assign(said=target))
    assert inspection.compiled.adopted, inspection.compiled.obstacle


def test_xgboost_that_stopped_early_counts_the_best_rounds_only():
    model = xgboost.XGBRegressor(n_estimators=60, early_stopping_rounds=2, learning_rate=1.0, n_jobs=1)
    model.fit(
        TABLE[NUMBERS][:200], TABLE["kwh"][:200], eval_set=[(TABLE[NUMBERS][200:], TABLE["kwh"][200:])], verbose=0
    )
    assert model.best_iteration + 1 < model.get_booster().num_boosted_rounds()
    file = io.BytesIO()
    joblib.dump(model, file)
    _, inspection = inspected(file.getvalue(), TABLE[[*NUMBERS, "kwh"]])
    assert inspection.compiled.adopted, inspection.compiled.obstacle


# --- skops ------------------------------------------------------------------------------------------------------------


def test_skops_files_are_opened_and_compiled():
    content = skops.io.dumps(classifier_pipeline(TABLE))
    model, inspection = inspected(content, TABLE[[*FEATURES, "outcome"]])
    assert (model.found.format, inspection.compiled.adopted) == ("skops", True)


class OwnStep(Ridge):
    """A type that no trusted package has."""


def test_skops_files_with_a_type_from_elsewhere_name_it():
    content = skops.io.dumps(OwnStep().fit(TABLE[NUMBERS], TABLE["kwh"]))
    with pytest.raises(ModelNotOpened, match=r"needs `tests[.]core[.]test_other_libraries[.]OwnStep`"):
        opened(content)


# --- a preprocessor in a second file ----------------------------------------------------------------------------------


def dumped(model) -> bytes:
    file = io.BytesIO()
    joblib.dump(model, file)
    return file.getvalue()


@pytest.mark.parametrize("kind", ["scikit-learn", "XGBoost", "LightGBM"])
def test_a_preprocessor_in_a_second_file_comes_first(kind):
    preparation = mixed_preparation().fit(TABLE[FEATURES])
    ready = preparation.transform(TABLE[FEATURES])
    if kind == "scikit-learn":
        content = dumped(RandomForestRegressor(5, random_state=0).fit(ready, TABLE["kwh"]))
    elif kind == "XGBoost":
        content = bytes(boosted({}, ready, TABLE["kwh"]).save_raw("json"))
    else:
        content = leaves({}, ready, TABLE["kwh"]).model_to_string().encode()
    model = opened(content, dumped(preparation))
    inspection, _ = read_twice(model, TABLE[[*FEATURES, "kwh"]])
    assert inspection.compiled.adopted, inspection.compiled.obstacle
    assert [field.name for field in inspection.fields] == FEATURES
    assert model.found.steps[0].lower().startswith("columntransformer")


def test_a_preprocessor_that_transforms_nothing_is_refused():
    model = dumped(LogisticRegression().fit(TABLE[NUMBERS], TABLE["outcome"]))
    with pytest.raises(ModelNotOpened, match="The preprocessor file holds a `dict`, which transforms nothing"):
        opened(model, dumped({"mean": 1}))
    with pytest.raises(ModelNotOpened, match="The preprocessor could not be opened"):
        opened(model, b"\x89PNG and so on")


# --- damage -----------------------------------------------------------------------------------------------------------

JSON = bytes(boosted({}, TABLE[NUMBERS], TABLE["kwh"], 2).save_raw("json"))
UBJ = bytes(boosted({}, TABLE[NUMBERS], TABLE["kwh"], 2).save_raw("ubj"))
TEXT = leaves({}, TABLE[NUMBERS], TABLE["kwh"], 2).model_to_string().encode()


@pytest.mark.parametrize(
    ("content", "message"),
    [
        (JSON[:-300], "XGBoost could not read the model file"),
        (UBJ[: len(UBJ) // 2], "XGBoost could not read the model file"),
        (TEXT[: len(TEXT) // 3], "the text ends before its trees do"),
        (b'{"name": "a table"}', "a JSON document, but not one that XGBoost saved"),
        (b"<html><body>", "an XML or HTML document, but not PMML"),
        (b"binf\x00\x00", "XGBoost's old binary format"),
        (b"import joblib\n", "is a Python script without a function"),
        (b"predict = lambda wall: 2 * wall\n", "is a Python script without a function"),
        (b"# written some other day\n", "is a Python script without a function"),
        (b'"""What a firing uses."""\n', "is a Python script without a function"),
    ],
)
def test_what_cannot_be_read_says_what_it_is(content, message):
    with pytest.raises(ModelNotOpened, match=message):
        opened(content)


# --- ONNX -------------------------------------------------------------------------------------------------------------


def exported(model, types, **options) -> bytes:
    return skl2onnx.convert_sklearn(model, initial_types=types, **options).SerializeToString()


@pytest.mark.parametrize("zipmap", [True, False])
def test_onnx_of_one_input_takes_its_names_from_the_table(zipmap):
    model = RandomForestClassifier(5, random_state=0).fit(TABLE[NUMBERS].to_numpy("float32"), TABLE["outcome"])
    content = exported(model, [("x", FloatTensorType([None, 2]))], options={"zipmap": zipmap})
    adapter, inspection = inspected(content, TABLE[[*NUMBERS, "outcome"]])
    assert adapter.found.classes == ["green", "red"]
    assert [field.name for field in inspection.fields] == NUMBERS
    assert inspection.compiled.obstacle == "ONNX models have no compiled form; onnxruntime serves them."
    said = model.predict_proba(TABLE[NUMBERS].to_numpy("float32"))
    np.testing.assert_allclose(adapter.predict(TABLE[NUMBERS]), said, atol=1e-6)


def test_onnx_of_several_inputs_has_a_column_each():
    model = classifier_pipeline(TABLE)
    types = [
        ("kiln", StringTensorType([None, 1])),
        ("pots", FloatTensorType([None, 1])),
        ("peak", FloatTensorType([None, 1])),
        ("reduced", FloatTensorType([None, 1])),
    ]
    adapter, inspection = inspected(exported(model, types), TABLE[[*FEATURES, "outcome"]])
    assert adapter.found.features == FEATURES
    off = np.abs(adapter.predict(TABLE[FEATURES]) - model.predict_proba(TABLE[FEATURES])).max(axis=1)
    # Single precision sends a row that stands on a threshold the other way now and then: one tree of ten.
    assert np.mean(off < 1e-6) > 0.97
    assert off.max() < 0.11
    assert inspection.answer.kind == "class"


def test_onnx_regressors_give_numbers():
    model = Ridge().fit(TABLE[NUMBERS].to_numpy("float32"), TABLE[["kwh", "pots"]])
    adapter, inspection = inspected(
        exported(model, [("x", FloatTensorType([None, 2]))]), TABLE[NUMBERS].assign(kwh=1.0), target="kwh"
    )
    assert (adapter.found.task, len(inspection.answer.values)) == ("numbers", 2)


def graph(operator: str, shape: list, domain: str = "") -> bytes:
    node = onnx.helper.make_node(operator, ["x"], ["y"], domain=domain)
    value = onnx.TensorProto.FLOAT
    info = [onnx.helper.make_tensor_value_info(name, value, shape) for name in ("x", "y")]
    made = onnx.helper.make_graph([node], "made up", info[:1], info[1:])
    opsets = [onnx.helper.make_opsetid("", 17), onnx.helper.make_opsetid("kiln.tools", 1)]
    return onnx.helper.make_model(made, opset_imports=opsets, ir_version=8).SerializeToString()


@pytest.mark.parametrize(
    ("content", "message"),
    [
        (graph("Glaze", [None, 2], "kiln.tools"), r"uses the operator `[\w.:]*Glaze`, which onnxruntime does not have"),
        (graph("Relu", [None, 2])[:-30], "is damaged, or is neither ONNX|could not load the model|has no steps"),
        (b"\x08\x07\x12\x04kiln", "its graph has no steps"),
    ],
)
def test_onnx_files_that_do_not_fit_say_why(content, message):
    with pytest.raises(ModelNotOpened, match=message):
        opened(content)


def test_onnx_probabilities_are_told_by_what_makes_them():
    assert opened(graph("Softmax", [None, 3])).found.classes == ["0", "1", "2"]
    assert opened(graph("Sigmoid", [None, 1])).found.task == "class"
    assert opened(graph("Sigmoid", [None, 3])).found.task == "labels"
    assert opened(graph("Relu", [None, 3])).found.task == "numbers"
    assert opened(graph("Relu", [1, 3, 32, 32])).found.task == "picture"
