"""Opening model files: the same answers as the library, or a sentence."""

import gzip
import io
import json
import pickle
import re
import zipfile

import lightgbm
import numpy as np
import pandas as pd
import pytest
import sklearn
from sklearn.cluster import KMeans
from sklearn.ensemble import RandomForestClassifier, RandomForestRegressor
from sklearn.feature_extraction.text import TfidfVectorizer
from sklearn.linear_model import LinearRegression, LogisticRegression, Ridge
from sklearn.multioutput import MultiOutputClassifier
from sklearn.pipeline import Pipeline, make_pipeline
from sklearn.preprocessing import LabelEncoder, OrdinalEncoder, StandardScaler
from sklearn.svm import LinearSVC

from plain_window.core.errors import MismatchFaults, ModelNotOpened
from plain_window.core.fields import check_inputs
from plain_window.core.formats.model_table import model_table
from plain_window.core.formats.opening import open_model
from plain_window.core.intake.inspection import inspect_model
from plain_window.core.tables.reading import read_table

from ..made_models import (
    FEATURES,
    classifier_pipeline,
    csv,
    dumped,
    firings,
    gap_taking_regressor,
    nameless_classifier,
    regressor_pipeline,
)

TABLE = read_table(io.BytesIO(csv(firings()))).table


def inspect(model, table: pd.DataFrame = TABLE, **options):
    opened = open_model(io.BytesIO(dumped(model)))
    return opened, inspect_model(opened, read_table(io.BytesIO(csv(table))), **options)[0]


def answers(opened, inspection, table: pd.DataFrame) -> np.ndarray:
    """What the model says of the table's rows, each sent as a visitor would send it."""
    names = [column.name for column in inspection.columns]
    rows = []
    for _, row in table[names].iterrows():
        plain = {
            name: None if pd.isna(value) else getattr(value, "item", lambda v=value: v)() for name, value in row.items()
        }
        rows.append(check_inputs(inspection.fields, plain).values)
    return opened.predict(model_table(inspection.columns, rows))


@pytest.mark.parametrize("protocol", [2, 3, 4, 5])
def test_every_pickle_protocol_is_opened(protocol):
    file = io.BytesIO(pickle.dumps(classifier_pipeline(TABLE), protocol=protocol))
    assert open_model(file).found.classes == ["green", "red"]


@pytest.mark.parametrize("compress", [0, 3, ("gzip", 3), ("bz2", 3), ("xz", 3), ("lzma", 3)])
def test_every_compression_of_joblib_is_opened(compress):
    assert open_model(io.BytesIO(dumped(classifier_pipeline(TABLE), compress=compress))).found.task == "class"


def test_a_classifier_answers_row_by_row_as_the_library_does_on_the_table():
    model = classifier_pipeline(TABLE)
    opened, inspection = inspect(model, target="outcome")
    np.testing.assert_array_equal(answers(opened, inspection, TABLE), model.predict_proba(TABLE[FEATURES]))
    assert [field.kind for field in inspection.fields] == ["choice", "number", "number", "yes_no"]
    assert inspection.ignored == ["kwh"]


def test_a_regressor_answers_as_the_library_does():
    model = regressor_pipeline(TABLE)
    opened, inspection = inspect(model, TABLE.drop(columns="outcome"))
    np.testing.assert_array_equal(answers(opened, inspection, TABLE)[:, 0], model.predict(TABLE[FEATURES]))
    assert inspection.target == "kwh"
    assert (inspection.answer.name, inspection.answer.decimals) == ("Kwh", 1)
    assert (inspection.answer.low, inspection.answer.high) == (TABLE["kwh"].min(), TABLE["kwh"].max())


def test_a_model_without_names_finds_the_outcome_by_its_classes():
    model = nameless_classifier(TABLE)
    opened, inspection = inspect(model, TABLE[["pots", "peak", "outcome"]])
    assert inspection.target == "outcome"
    expected = model.predict_proba(TABLE[["pots", "peak"]].to_numpy())
    np.testing.assert_array_equal(answers(opened, inspection, TABLE), expected)


def test_gaps_are_allowed_where_table_and_model_have_them():
    gappy = TABLE[["pots", "peak", "kwh"]].copy()
    gappy.loc[gappy.index[:5], "peak"] = np.nan
    model = gap_taking_regressor(TABLE)
    opened, inspection = inspect(model, gappy, target="kwh")
    assert [field.optional for field in inspection.fields] == [False, True]
    np.testing.assert_allclose(
        answers(opened, inspection, gappy)[:, 0], model.predict(gappy[["pots", "peak"]]), rtol=1e-12
    )
    strict = make_pipeline(StandardScaler(), LinearRegression()).fit(TABLE[["pots", "peak"]], TABLE["kwh"])
    assert [field.optional for field in inspect(strict, gappy, target="kwh")[1].fields] == [False, False]


def test_several_outputs_become_numbers_or_labels():
    numbers = RandomForestRegressor(n_estimators=3, random_state=0).fit(TABLE[["pots"]], TABLE[["kwh", "peak"]])
    _, inspection = inspect(numbers, TABLE[["pots"]])
    assert (inspection.answer.kind, len(inspection.answer.values)) == ("numbers", 2)
    truths = np.column_stack([TABLE["reduced"], TABLE["pots"] > 30]).astype(int)
    labels = MultiOutputClassifier(LogisticRegression()).fit(TABLE[["peak", "kwh"]], truths)
    opened, inspection = inspect(labels, TABLE[["peak", "kwh"]])
    assert inspection.answer.kind == "labels"
    expected = np.column_stack([part[:, 1] for part in labels.predict_proba(TABLE[["peak", "kwh"]])])
    np.testing.assert_array_equal(answers(opened, inspection, TABLE), expected)


@pytest.mark.parametrize(
    ("classes", "names"), [([0, 1], ["0", "1"]), ([0.0, 1.0], ["0", "1"]), ([False, True], ["False", "True"])]
)
def test_classes_are_strings(classes, names):
    outcome = np.array(classes)[TABLE["reduced"].astype(int)]
    model = RandomForestClassifier(n_estimators=2, random_state=0).fit(TABLE[["pots"]], outcome)
    assert [item.name for item in inspect(model, TABLE[["pots"]])[1].answer.classes] == names


def test_labels_name_the_classes_in_class_order():
    model = classifier_pipeline(TABLE)
    _, inspection = inspect(model, target="outcome", labels=["Celadon", "Oxblood"])
    assert [item.name for item in inspection.answer.classes] == ["Celadon", "Oxblood"]
    with pytest.raises(MismatchFaults, match=r"has 2 classes \(green, red\); `labels` names 3"):
        inspect(model, target="outcome", labels=["a", "b", "c"])


def test_a_classifier_without_probabilities_says_so():
    model = make_pipeline(StandardScaler(), LinearSVC()).fit(TABLE[["pots", "peak"]], TABLE["outcome"])
    opened, inspection = inspect(model, TABLE[["pots", "peak"]])
    assert inspection.answer.gives_probabilities is False
    picked = np.array(["green", "red"])[answers(opened, inspection, TABLE).argmax(axis=1)]
    np.testing.assert_array_equal(picked, model.predict(TABLE[["pots", "peak"]]))


def test_a_model_of_one_text_takes_its_column():
    table = pd.DataFrame({"note": [f"{row.kiln} kiln, {row.pots} pots" for row in TABLE.itertuples()]})
    model = make_pipeline(TfidfVectorizer(), LogisticRegression()).fit(table["note"], TABLE["outcome"])
    opened, inspection = inspect(model, table.assign(outcome=TABLE["outcome"]))
    assert [(field.name, field.kind) for field in inspection.fields] == [("note", "text")]
    assert inspection.target == "outcome"
    np.testing.assert_array_equal(answers(opened, inspection, table), model.predict_proba(table["note"]))


def test_a_column_the_model_throws_away_is_no_field():
    from sklearn.compose import ColumnTransformer

    keep = ColumnTransformer([("keep", StandardScaler(), ["pots"])], remainder="drop")
    model = make_pipeline(keep, LinearRegression()).fit(TABLE[["pots", "peak"]], TABLE["kwh"])
    opened, inspection = inspect(model, TABLE[["pots", "peak", "kwh"]], target="kwh")
    assert [field.name for field in inspection.fields] == ["pots"]
    assert inspection.ignored == ["peak"]
    np.testing.assert_array_equal(answers(opened, inspection, TABLE)[:, 0], model.predict(TABLE[["pots", "peak"]]))


def test_an_unseen_category_in_the_table_is_named():
    model = make_pipeline(OrdinalEncoder(), LinearRegression()).fit(TABLE[["kiln"]], TABLE["kwh"])
    table = TABLE[["kiln"]].copy()
    table.loc[3, "kiln"] = "raku"
    with pytest.raises(MismatchFaults, match='Column `kiln` has the value "raku"'):
        inspect(model, table)


class OnlyInTheNotebook(LinearRegression):
    """Pickled by reference to a module that is not there when it is opened."""


def _bytes_with_missing_class(module: bytes = b"__main__") -> bytes:
    model = OnlyInTheNotebook().fit(TABLE[["pots"]], TABLE["kwh"])
    return pickle.dumps(model, protocol=2).replace(b"tests.core.test_models", module)


@pytest.mark.parametrize(
    ("content", "message"),
    [
        (b"", "The model file is empty"),
        (b"PK\x03\x04 and so on", "a zip archive that was cut off or damaged"),
        (b"\x89PNG\r\n\x1a\n", "is a picture, not a model"),
        (b"outcome,pots\nred,3\n", "is a table, not a model. It belongs into the place of the reference table"),
        (b"no pickle at all", "is damaged, or was not saved with joblib or pickle"),
        (dumped(LinearRegression().fit(TABLE[["pots"]], TABLE["kwh"]))[:-40], "ends too early|is damaged"),
        (pickle.dumps({"weights": [1, 2]}), "holds a dict, not a model"),
        (pickle.dumps("a model"), "holds a `str`, which is not a scikit-learn classifier or regressor"),
        (dumped(KMeans(2).fit(TABLE[["pots"]])), "neither classifies nor gives numbers"),
        (dumped(StandardScaler().fit(TABLE[["pots"]])), "is not a scikit-learn classifier or regressor"),
        (dumped(LinearRegression()), "was saved before it was fitted"),
        (b"cno_such_package.models\nModel\n.", "needs the package `no_such_package`, which is not installed here"),
        (b"csklearn.no_such_module\nModel\n.", "another version of scikit-learn: `sklearn.no_such_module`"),
        (
            _bytes_with_missing_class(),
            "needs `OnlyInTheNotebook`, which was defined in the training script or notebook",
        ),
        (_bytes_with_missing_class(b"plain_window.__main__"), "needs `OnlyInTheNotebook`, which was defined in the"),
    ],
)
def test_a_file_that_cannot_be_opened_says_why(content, message):
    with pytest.raises(ModelNotOpened, match=message):
        open_model(io.BytesIO(content))


def test_a_model_saved_with_other_things_is_taken_where_no_other_can_be_meant():
    model, beside = (
        regressor_pipeline(TABLE),
        {"columns": FEATURES, "words": LabelEncoder(), "kind": Pipeline, "rows": TABLE},
    )
    expected = open_model(io.BytesIO(dumped(model))).predict(TABLE[FEATURES])
    for held, name in (({"model": model, **beside}, "`model`"), ([model], "`0`"), (("kwh", model, None), "`1`")):
        opened = open_model(io.BytesIO(dumped(held)))
        np.testing.assert_array_equal(opened.predict(TABLE[FEATURES]), expected)
        assert any(f"the model in it, {name}, was taken" in note for note in opened.found.warnings)


def test_a_preprocessor_goes_in_front_of_a_model_in_a_dict_too():
    numbers = TABLE[["pots", "peak"]]
    scaler = StandardScaler().fit(numbers)
    model = Ridge().fit(scaler.transform(numbers), TABLE["kwh"])
    opened = open_model(io.BytesIO(dumped({"model": model})), io.BytesIO(dumped(scaler)))
    np.testing.assert_allclose(opened.predict(numbers)[:, 0], model.predict(scaler.transform(numbers)), rtol=1e-12)
    assert any("the model in it, `model`, was taken" in note for note in opened.found.warnings)


def _booster() -> lightgbm.Booster:
    return lightgbm.LGBMRegressor(n_estimators=2, verbose=-1).fit(TABLE[["pots"]], TABLE["kwh"]).booster_


NEARLY_MODELS = {
    "two models": (
        dumped({"a": Ridge(), "b": Ridge()}),
        "holds a dict with 2 models: `a`, `b`. Save the one to be asked",
    ),
    "a model and what prepares": (dumped((StandardScaler(), Ridge())), "make_pipeline(saved[0], saved[1])"),
    "a booster without its estimator": (dumped(_booster()), "of lightgbm. Save it as its library does, and bring that"),
    "a dump of LightGBM's": (json.dumps(_booster().dump_model()).encode(), "what LightGBM's `dump_model` wrote"),
    "a dump of XGBoost's": (b"booster[0]:\n0:[wall<5.5] yes=1,no=2,missing=1\n", "what XGBoost's `dump_model` wrote"),
    "a pointer": (
        b"version https://git-lfs/spec/v1\noid sha256:4d7a\nsize 12345\n",
        "a pointer of Git LFS, not the file",
    ),
}


@pytest.mark.parametrize("case", NEARLY_MODELS)
def test_what_is_nearly_a_model_says_how_to_save_it(case):
    content, words = NEARLY_MODELS[case]
    with pytest.raises(ModelNotOpened, match=re.escape(words)):
        open_model(io.BytesIO(content))


def test_a_model_of_another_version_that_fails_says_which_it_was_which_is_here_and_what_failed():
    content = pickle.dumps(LinearRegression().fit(TABLE[["pots"]], TABLE["kwh"]), protocol=2)
    current = sklearn.__version__
    gone = content.replace(b"LinearRegression\n", b"LinearRegressor_\n").replace(current.encode(), b"0.24.2")
    with pytest.raises(ModelNotOpened) as caught:
        open_model(io.BytesIO(gone))
    sentence, lines = str(caught.value).split("\n\n")
    assert f"was saved with scikit-learn 0.24.2; here is {current}, which cannot read it: AttributeError" in sentence
    assert "skl2onnx.to_onnx(model" in lines


def zipped(**entries: bytes) -> bytes:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as archive:
        for name, content in entries.items():
            archive.writestr(name.replace("__", "/"), content)
    return file.getvalue()


WEIGHTS = b"\x80\x02ccollections\nOrderedDict\nq\x00)Rq\x01."
NOTEBOOK = b'{"cells": [], "metadata": {}, "nbformat": 4, "nbformat_minor": 5}'
OTHER_FILES = {
    ".h5": (b"\x89HDF\r\n\x1a\n" + bytes(64), "an HDF5 file, as Keras saves", "keras.InputSpec(shape=(None,"),
    ".keras": (
        zipped(**{"config.json": b"{}", "metadata.json": b'{"keras_version": "3.5.0"}', "model.weights.h5": b""}),
        "a Keras model, saved with Keras 3.5.0",
        'model.export("model.onnx", format="onnx"',
    ),
    ".pt of weights": (zipped(**{"m__data.pkl": WEIGHTS, "m__version": b"3"}), "of weights", "load_state_dict"),
    ".pt": (
        zipped(**{"m__data.pkl": b"\x80\x02cnet\nNet\n."}),
        "a PyTorch model",
        'dynamic_axes={"input": {0: "batch"}',
    ),
    ".pt, scripted": (
        zipped(**{"m__data.pkl": b"\x80\x02}", "m__code____torch__.py": b""}),
        "a scripted PyTorch model",
        "torch.jit.load",
    ),
    ".pth of old": (b"\x80\x02\x8a\x0al\xfc\x9cF\xf9 j\xa8P\x19.", "a PyTorch model", "torch.onnx.export"),
    ".ipynb": (NOTEBOOK, "a notebook", "joblib.dump"),
    ".py": (b"import joblib\n\n\ndef train():\n    pass\n", "a Python script", "joblib.dump"),
    ".pb, saved": (b"\x08\x01\x12\x80\x01\n\x20serve Placeholder" + bytes(99), "a TensorFlow model", "--saved-model"),
    ".pb, frozen": (b"\n\x20\n\x05input\x12\x0bPlaceholder*\x0b\n\x05dtype\x12\x020\x01", "a frozen", "--graphdef"),
    ".tflite": (b"\x1c\x00\x00\x00TFL3" + bytes(40), "a TensorFlow Lite model", "--tflite"),
    ".mlmodel": (b"\x08\x04\x12\x40\n\x10\n\x05image" + bytes(60), "a Core ML model", ""),
    ".rds": (gzip.compress(b"X\n\x00\x00\x00\x03" + bytes(500)), "an object saved by R", "save_pmml(pmml(model)"),
    ".safetensors": ((64).to_bytes(8, "little") + b'{"w": {}}' + bytes(60), "a safetensors file", "load_state_dict"),
    ".xlsx": (zipped(**{"xl__workbook.xml": b"<workbook/>"}), "an Excel table", ""),
    ".parquet": (b"PAR1" + bytes(20), "a Parquet table", ""),
    ".csv": (b"clay;wall\nfine;4\nrough;5\n", "a table", ""),
}


@pytest.mark.parametrize("kind", OTHER_FILES)
def test_a_file_of_another_kind_is_recognised_by_content_with_the_way_on(kind):
    content, what, lines = OTHER_FILES[kind]
    with pytest.raises(ModelNotOpened, match=what) as caught:
        open_model(io.BytesIO(content))
    sentence, _, given = str(caught.value).partition("\n\n")
    assert sentence.endswith((".", ":"))
    assert lines in given
    assert bool(given) == bool(lines)


def test_another_version_is_reported_before_it_is_trusted():
    model = LinearRegression().fit(TABLE[["pots"]], TABLE["kwh"])
    current = model.__getstate__()["_sklearn_version"].encode()
    older = b"1" + current[1:-1] + b"0" if current[-1:] != b"0" else current[:-1] + b"1"
    found = open_model(io.BytesIO(pickle.dumps(model).replace(current, older))).found
    assert found.saved_with == older.decode()
    assert f"saved with scikit-learn {older.decode()}" in found.warnings[0]


def test_class_names_come_from_a_list_a_table_or_the_outcomes_column():
    model = LogisticRegression().fit(TABLE[["pots", "peak"]], (TABLE["kwh"] > TABLE["kwh"].median()).astype(int))
    table = TABLE[["pots", "peak"]].assign(size=np.where(TABLE["kwh"] > TABLE["kwh"].median(), "much", "little"))

    def names(labels=None, outcome=table):
        inspection = inspect(model, outcome, labels=labels)[1]
        return [wording.name for wording in inspection.answer.classes], inspection.notes

    assert names(["low", "high"])[0] == ["low", "high"]
    assert names(["name", "low", "high"])[0] == ["low", "high"]
    assert names(["class,name", "1,high", "0,low"])[0] == ["low", "high"]
    said, notes = names()
    assert said == ["little", "much"]
    assert "in the order of the alphabet" in notes[0]
    # Words that run against the numbers are matched by where model and outcome agree, which is to be confirmed.
    against = table.assign(size=table["size"].map({"much": "above", "little": "below"}))
    said, notes = names(outcome=against)
    assert said == ["below", "above"]
    assert "`0` is `below`; `1` is `above`" in notes[0]
    # Words that have nothing to do with the answers are not taken for their names.
    by_chance = np.random.default_rng(0).permutation(against["size"])
    said, notes = names(outcome=against.assign(size=by_chance))
    assert said in (["0", "1"], ["above", "below"])
