"""scikit-learn models of every kind: compiled, they say what the library says."""

import numpy as np
import pandas as pd
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sklearn.calibration import CalibratedClassifierCV
from sklearn.compose import TransformedTargetRegressor, make_column_transformer
from sklearn.decomposition import PCA, TruncatedSVD
from sklearn.discriminant_analysis import LinearDiscriminantAnalysis
from sklearn.ensemble import (
    AdaBoostClassifier,
    AdaBoostRegressor,
    BaggingClassifier,
    BaggingRegressor,
    ExtraTreesClassifier,
    ExtraTreesRegressor,
    GradientBoostingClassifier,
    GradientBoostingRegressor,
    HistGradientBoostingClassifier,
    HistGradientBoostingRegressor,
    RandomForestClassifier,
    RandomForestRegressor,
    StackingClassifier,
    StackingRegressor,
    VotingClassifier,
    VotingRegressor,
)
from sklearn.feature_extraction.text import CountVectorizer, TfidfVectorizer
from sklearn.feature_selection import SelectKBest
from sklearn.gaussian_process import GaussianProcessRegressor
from sklearn.impute import SimpleImputer
from sklearn.kernel_ridge import KernelRidge
from sklearn.linear_model import (
    Lasso,
    LinearRegression,
    LogisticRegression,
    Perceptron,
    PoissonRegressor,
    Ridge,
    RidgeClassifier,
    SGDClassifier,
)
from sklearn.model_selection import GridSearchCV
from sklearn.multiclass import OneVsRestClassifier
from sklearn.multioutput import ClassifierChain, MultiOutputClassifier, MultiOutputRegressor, RegressorChain
from sklearn.naive_bayes import BernoulliNB, CategoricalNB, ComplementNB, GaussianNB, MultinomialNB
from sklearn.neighbors import KNeighborsClassifier, KNeighborsRegressor
from sklearn.neural_network import MLPClassifier, MLPRegressor
from sklearn.pipeline import FeatureUnion, make_pipeline
from sklearn.preprocessing import (
    Binarizer,
    FunctionTransformer,
    KBinsDiscretizer,
    MaxAbsScaler,
    MinMaxScaler,
    Normalizer,
    OneHotEncoder,
    OrdinalEncoder,
    PolynomialFeatures,
    PowerTransformer,
    QuantileTransformer,
    RobustScaler,
    SplineTransformer,
    StandardScaler,
    TargetEncoder,
)
from sklearn.svm import SVC, SVR, LinearSVC, NuSVC
from sklearn.tree import DecisionTreeClassifier, DecisionTreeRegressor

from plain_window.core.formats.sklearn.compiling import compile_sklearn
from plain_window.core.plan.building import CannotCompile
from plain_window.core.plan.engine import CompiledModel
from plain_window.core.plan.parity import columns_of_table

from ..made_models import FEATURES
from .plans import NUMBERS, TABLE, gappy, mixed, proved

# Support vector machines with probabilities are deprecated, and still what people bring.
pytestmark = pytest.mark.filterwarnings("ignore::FutureWarning", "ignore::UserWarning")

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
    "perceptron": Perceptron(random_state=0),
    "descent, logistic": SGDClassifier(loss="log_loss", random_state=0),
    "descent, modified Huber": SGDClassifier(loss="modified_huber", random_state=0),
    "discriminant": LinearDiscriminantAnalysis(),
    "SVM": SVC(),
    "SVM, sigmoid": SVC(kernel="sigmoid", break_ties=True, decision_function_shape="ovr"),
    "SVM with probabilities": SVC(probability=True, random_state=0),
    "SVM, polynomial, with probabilities": SVC(kernel="poly", degree=2, coef0=1, probability=True, random_state=0),
    "nu-SVM": NuSVC(nu=0.2, kernel="linear"),
    "Gaussian naive Bayes": GaussianNB(),
    "Bernoulli naive Bayes": BernoulliNB(),
    "neighbours": KNeighborsClassifier(7),
    "neighbours by distance": KNeighborsClassifier(5, weights="distance", p=3),
    "AdaBoost": AdaBoostClassifier(n_estimators=12, random_state=0),
    "AdaBoost of linear models": AdaBoostClassifier(LogisticRegression(), n_estimators=4, random_state=0),
    "bagged trees": BaggingClassifier(n_estimators=6, random_state=0),
    "bagged SVMs on some columns": BaggingClassifier(SVC(), n_estimators=4, max_features=0.7, random_state=0),
    "hard votes": VotingClassifier([("a", GaussianNB()), ("b", DecisionTreeClassifier(max_depth=3)), ("c", SVC())]),
    "soft votes": VotingClassifier([("a", GaussianNB()), ("b", LogisticRegression())], voting="soft", weights=[1, 2]),
    "stacked": StackingClassifier([("a", GaussianNB()), ("b", LinearSVC())], passthrough=True, cv=3),
    "calibrated by a sigmoid": CalibratedClassifierCV(LinearSVC(), cv=3),
    "calibrated by steps": CalibratedClassifierCV(GaussianNB(), method="isotonic", cv=3),
    "calibrated by temperature": CalibratedClassifierCV(GaussianNB(), method="temperature", cv=3),
    "calibrated scores, by temperature": CalibratedClassifierCV(LinearSVC(), method="temperature", cv=3),
    "calibrated SVM": CalibratedClassifierCV(SVC(), cv=3, ensemble=False),
    "one model a class": OneVsRestClassifier(GaussianNB()),
    "one model a class, by scores": OneVsRestClassifier(LinearSVC()),
    "search": GridSearchCV(LogisticRegression(), {"C": [0.1, 1]}, cv=3),
    "network": MLPClassifier((7, 5), activation="tanh", solver="lbfgs", max_iter=30, tol=1, random_state=0),
}
# liblinear takes no more.
TWO_CLASSES_ONLY = {"logistic, one against the rest"}
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
    "Poisson": PoissonRegressor(),
    "SVM": SVR(C=10),
    "kernel ridge": KernelRidge(kernel="rbf"),
    "neighbours": KNeighborsRegressor(4, weights="distance"),
    "AdaBoost": AdaBoostRegressor(n_estimators=8, random_state=0),
    "bagged trees": BaggingRegressor(n_estimators=6, random_state=0),
    "votes": VotingRegressor([("a", Ridge()), ("b", SVR())], weights=[1, 3]),
    "stacked": StackingRegressor([("a", Ridge()), ("b", SVR())], cv=3),
    "a target's power": TransformedTargetRegressor(Ridge(), transformer=PowerTransformer()),
    "a target's Box-Cox power": TransformedTargetRegressor(Ridge(), transformer=PowerTransformer(method="box-cox")),
    "a target's quantiles": TransformedTargetRegressor(
        Ridge(), transformer=QuantileTransformer(n_quantiles=50, output_distribution="normal")
    ),
    "a target from 0 to 1": TransformedTargetRegressor(Ridge(), transformer=MinMaxScaler()),
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
    "target means": mixed(categories=TargetEncoder(random_state=0)),
    "products": mixed(make_pipeline(StandardScaler(), PolynomialFeatures(3))),
    "interactions only": mixed(make_pipeline(MinMaxScaler(), PolynomialFeatures(interaction_only=True))),
    "splines": mixed(SplineTransformer()),
    "splines by quantiles, straight on": mixed(SplineTransformer(knots="quantile", extrapolation="linear")),
    "splines going on": mixed(SplineTransformer(degree=2, extrapolation="continue", include_bias=False)),
    "splines going round": mixed(SplineTransformer(extrapolation="periodic")),
    "bins": mixed(KBinsDiscretizer(4, quantile_method="averaged_inverted_cdf")),
    "ordinal bins": mixed(KBinsDiscretizer(5, encode="ordinal", strategy="uniform")),
    "quantiles": mixed(QuantileTransformer(n_quantiles=40)),
    "quantiles on the bell curve": mixed(QuantileTransformer(n_quantiles=40, output_distribution="normal")),
    "powers": mixed(PowerTransformer()),
    "Box-Cox powers": mixed(PowerTransformer(method="box-cox")),
    "above or below": mixed(Binarizer(threshold=30)),
    "options of numbers": mixed(make_pipeline(KBinsDiscretizer(3, encode="ordinal"), OneHotEncoder())),
    "weighted views": FeatureUnion(
        [("a", mixed()), ("b", mixed(MinMaxScaler()))], transformer_weights={"a": 0.5, "b": 2}
    ),
    "rare options together, ordinal": mixed(categories=OrdinalEncoder(min_frequency=98)),
    "nested": make_pipeline(mixed(), SelectKBest(k=4), StandardScaler()),
}


@pytest.mark.parametrize("name", CLASSES)
def test_classifiers_say_what_the_library_says(name):
    model = make_pipeline(mixed(), CLASSES[name]).fit(TABLE[FEATURES], TABLE["outcome"])
    _, report = proved(model, TABLE[FEATURES])
    assert report.adopted, report.obstacle
    assert report.n_rows_compared == len(TABLE) + 1000


@pytest.mark.parametrize("name", [name for name in CLASSES if name not in TWO_CLASSES_ONLY])
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


@pytest.mark.parametrize(
    "model",
    [
        MultiOutputRegressor(HistGradientBoostingRegressor(max_iter=5)),
        RegressorChain(Ridge(), order=[1, 0]),
        LinearRegression(),
        KNeighborsRegressor(3),
        MLPRegressor(hidden_layer_sizes=(5,), solver="lbfgs", max_iter=20, tol=1e6, random_state=0),
    ],
    ids=lambda model: type(model).__name__,
)
def test_several_numbers(model):
    fitted = make_pipeline(mixed(), model).fit(TABLE[FEATURES], TABLE[["kwh", "pots"]])
    plan, report = proved(fitted, TABLE[FEATURES])
    assert (plan.n_outputs, report.adopted) == (2, True), report.obstacle


@pytest.mark.parametrize(
    "model",
    [
        RandomForestClassifier(8, random_state=0),
        MultiOutputClassifier(LogisticRegression()),
        OneVsRestClassifier(LogisticRegression()),
        ClassifierChain(LogisticRegression(), order=[1, 0, 2]),
        KNeighborsClassifier(5),
        MLPClassifier((5,), solver="lbfgs", max_iter=20, tol=1e6, random_state=0),
    ],
    ids=lambda model: type(model).__name__,
)
def test_several_labels(model):
    labels = np.column_stack([TABLE["kwh"] > 120, TABLE["peak"] > 1230, TABLE["reduced"]]).astype(int)
    fitted = make_pipeline(mixed(), model).fit(TABLE[FEATURES], labels)
    plan, report = proved(fitted, TABLE[FEATURES])
    assert (plan.n_outputs, report.adopted) == (3, True), report.obstacle


@pytest.mark.parametrize("model", [MultinomialNB(), ComplementNB()], ids=lambda model: type(model).__name__)
def test_naive_bayes_of_counts(model):
    fitted = model.fit(TABLE[["pots"]].assign(rest=60 - TABLE["pots"]), TABLE["outcome"])
    _, report = proved(fitted, TABLE[["pots"]].assign(rest=60 - TABLE["pots"]))
    assert report.adopted, report.obstacle


def test_naive_bayes_of_options():
    model = make_pipeline(OrdinalEncoder(), CategoricalNB()).fit(TABLE[["kiln", "reduced"]], TABLE["outcome"])
    _, report = proved(model, TABLE[["kiln", "reduced"]])
    assert report.adopted, report.obstacle


@pytest.mark.parametrize("how", ["categories by type", "codes by mask", "codes of numbers, some missing"])
def test_histogram_boosting_splits_by_options_as_the_library_does(how):
    table = TABLE[["kiln", "peak"]].assign(shelf=np.arange(len(TABLE)) % 9)
    target = TABLE["kwh"] + 30 * (TABLE["kiln"] == "wood") + 20 * (table["shelf"].isin([2, 5, 7]))
    may_miss = set()
    if how == "categories by type":
        table["kiln"] = table["kiln"].astype("category")
        model = HistGradientBoostingRegressor(max_iter=20).fit(table, target)
    elif how == "codes by mask":
        encoded = make_column_transformer((OrdinalEncoder(), ["kiln"]), remainder="passthrough")
        boosted = HistGradientBoostingRegressor(max_iter=20, categorical_features=[0, 2])
        model = make_pipeline(encoded, boosted).fit(table, target)
    else:
        table = table[["peak", "shelf"]].astype({"shelf": "float64"})
        table.loc[::7, "shelf"] = np.nan
        model = HistGradientBoostingRegressor(max_iter=20, categorical_features=["shelf"]).fit(table, target)
        may_miss = {"shelf", "peak"}
    plan, report = proved(model, table, may_miss=may_miss)
    assert report.adopted, report.obstacle
    assert any("goes_left_sets" in step.arrays for step in plan.steps)


LINES = [
    "Glaze ran onto the shelf, cone 6 bent flat",
    "cracked at the FOOT; dried too fast",
    "Crawling on the rim. Crème glaze, applied thick",
    "all sound",
    "foot cracked, rim cracked, shelf sound",
    "glaze glaze glaze ran",
    "",
]
READINGS = {
    "words": CountVectorizer(),
    "words once, without accents": CountVectorizer(binary=True, strip_accents="unicode"),
    "pairs of words, weighed": TfidfVectorizer(ngram_range=(1, 2), stop_words="english", sublinear_tf=True),
    "characters": TfidfVectorizer(analyzer="char", ngram_range=(2, 4), lowercase=False, norm="l1"),
    "characters within words": TfidfVectorizer(analyzer="char_wb", ngram_range=(2, 5), strip_accents="ascii"),
    "frequent words, not weighed": TfidfVectorizer(min_df=2, use_idf=False, norm=None),
}


@pytest.mark.parametrize("name", READINGS)
def test_texts_are_read_as_the_library_reads_them(name):
    texts = pd.DataFrame({"line": LINES * 8})
    outcome = np.arange(len(texts)) % 7 % 3
    model = make_pipeline(READINGS[name], LogisticRegression()).fit(texts["line"], outcome)
    plan, report = proved(model, texts)
    assert report.adopted, report.obstacle
    strange = ["ÇŘÄÇKED crème", "a", "shelf " * 300, "窯 釉薬 🔥 glaze", "\t\n", "rim\nrim  rim"]
    said = CompiledModel(plan).predict({"line": strange})
    np.testing.assert_allclose(said, model.predict_proba(pd.Series(strange)), rtol=1e-12)


def test_texts_and_numbers_together():
    table = TABLE[["pots"]].assign(line=[LINES[at % 6] for at in range(len(TABLE))])
    both = make_column_transformer((TfidfVectorizer(), "line"), (StandardScaler(), ["pots"]))
    model = make_pipeline(both, Ridge()).fit(table, TABLE["kwh"])
    _, report = proved(model, table)
    assert report.adopted, report.obstacle


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


class _Subclass(Ridge):
    """May compute something else than its parent."""


@pytest.mark.parametrize(
    ("model", "obstacle"),
    [
        (GaussianProcessRegressor(), "`GaussianProcessRegressor` has no compiled form"),
        (make_pipeline(StandardScaler(), _Subclass()), "`_Subclass` has no compiled form"),
        (make_pipeline(FunctionTransformer(lambda x: x * 2), Ridge()), "is no known NumPy function"),
        (
            TransformedTargetRegressor(Ridge(), func=np.sinh, inverse_func=np.arcsinh),
            "is no function that is known here",
        ),
    ],
)
def test_what_has_no_compiled_form_names_the_step(model, obstacle):
    fitted = model.fit(TABLE[NUMBERS], TABLE["kwh"])
    with pytest.raises(CannotCompile, match=obstacle):
        compile_sklearn(fitted, NUMBERS, wanted="numbers")


STEPS = [
    lambda: StandardScaler(),
    lambda: make_pipeline(MinMaxScaler(), PolynomialFeatures(2)),
    lambda: QuantileTransformer(n_quantiles=10),
    lambda: SplineTransformer(n_knots=3),
    lambda: KBinsDiscretizer(3, quantile_method="averaged_inverted_cdf"),
    lambda: PowerTransformer(),
]
PREDICTORS = [
    lambda: RandomForestRegressor(5, random_state=0),
    lambda: HistGradientBoostingRegressor(max_iter=5, min_samples_leaf=4),
    lambda: GradientBoostingRegressor(n_estimators=5),
    lambda: Ridge(),
    lambda: SVR(),
    # Fitted without any shrinking, splines may cancel each other in weights of millions: no two sums agree then.
    lambda: Ridge(),
]


@settings(max_examples=60, deadline=None)
@given(
    st.integers(0, 2**32 - 1),
    st.sampled_from(STEPS),
    st.sampled_from(PREDICTORS),
    st.sampled_from(["ignore", "drop", "ordinal"]),
    st.booleans(),
)
def test_any_pipeline_on_any_table_is_compiled_to_the_same_answers(seed, step, predictor, encoding, has_gaps):
    rng = np.random.default_rng(seed)
    n_rows, n_numbers = int(rng.integers(12, 80)), int(rng.integers(1, 4))
    numbers = [f"n{at}" for at in range(n_numbers)]
    table = pd.DataFrame(rng.normal(10.0 ** rng.integers(-3, 4), 1, size=(n_rows, n_numbers)), columns=numbers)
    table["clay"] = rng.choice(["grog", "stoneware", "Ton", "磁"], n_rows)
    numeric = step()
    if has_gaps:
        table.loc[rng.random(n_rows) < 0.2, numbers] = np.nan
        table.loc[0, numbers] = 1.0
        numeric = make_pipeline(SimpleImputer(add_indicator=True), numeric)
    encoder = {
        "ignore": OneHotEncoder(handle_unknown="ignore"),
        "drop": OneHotEncoder(drop="first"),
        "ordinal": OrdinalEncoder(handle_unknown="use_encoded_value", unknown_value=-1),
    }[encoding]
    prepared = make_column_transformer((encoder, ["clay"]), (numeric, numbers), sparse_threshold=0)
    model = make_pipeline(prepared, predictor()).fit(table, rng.normal(size=n_rows))
    _, report = proved(model, table, may_miss=set(numbers) if has_gaps else set())
    assert report.adopted, report.obstacle
