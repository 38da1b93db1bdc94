"""What is concluded about a model from its answers and the tables beside it, and what its author is asked of that."""

import numpy as np
import pandas as pd
import pytest
from sklearn.ensemble import RandomForestRegressor
from sklearn.linear_model import LinearRegression, LogisticRegression
from sklearn.multiclass import OneVsRestClassifier
from sklearn.multioutput import MultiOutputClassifier
from sklearn.neural_network import MLPClassifier
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import OneHotEncoder, StandardScaler

from plain_window.core.answers import make_answer
from plain_window.core.errors import MismatchFaults
from plain_window.core.intake.evaluation import evaluate_model
from plain_window.core.intake.known_cases import read_known_cases, weigh

from ..made_models import firings
from .test_models import inspect

TABLE = firings(300)
NUMBERS = TABLE[["pots", "peak", "kwh"]]
SIZES = np.select([TABLE["pots"] < 20, TABLE["pots"] < 40], ["few", "some"], "many")
TWO = np.column_stack([TABLE["pots"] > 30, TABLE["kwh"] > 150]).astype(int)
NETWORK = MLPClassifier((6,), solver="lbfgs", max_iter=40, tol=1, random_state=0)


def asked(inspection) -> list[str]:
    return [question.name for question in inspection.questions]


# --- one of several classes, or several labels ------------------------------------------------------------------------


@pytest.mark.parametrize("model", [NETWORK, make_pipeline(StandardScaler(), NETWORK)], ids=["alone", "scaled"])
def test_a_network_of_several_classes_answers_with_one_of_them(model):
    scaled = ((NUMBERS - NUMBERS.mean()) / NUMBERS.std()).round(3)
    opened, inspection = inspect(model.fit(scaled, SIZES), scaled.assign(size=SIZES))
    assert (inspection.answer.kind, inspection.target) == ("class", "size")
    assert [wording.name for wording in inspection.answer.classes] == ["few", "many", "some"]
    assert inspection.compiled.adopted
    np.testing.assert_allclose(opened.predict(scaled), model.predict_proba(scaled), atol=1e-12)


@pytest.mark.parametrize(
    "model",
    [NETWORK, OneVsRestClassifier(LogisticRegression()), MultiOutputClassifier(LogisticRegression())],
    ids=["network", "one against the rest", "one model each"],
)
def test_several_labels_stay_labels_and_are_named_after_their_columns(model):
    scaled = make_pipeline(StandardScaler(), model).fit(NUMBERS[["peak", "kwh"]], TWO)
    table = NUMBERS[["peak", "kwh"]].assign(is_full=TWO[:, 0], is_dear=TWO[:, 1].astype(bool))
    _, inspection = inspect(scaled, table)
    assert inspection.answer.kind == "labels"
    assert (inspection.targets, inspection.ignored) == (["is_full", "is_dear"], [])
    assert [wording.label for wording in inspection.answer.labels] == ["is full", "is dear"]


def test_the_author_puts_the_kind_of_answer_right_by_hand_where_the_answers_allow_it():
    model = make_pipeline(StandardScaler(), NETWORK).fit(NUMBERS, SIZES)
    assert inspect(model, NUMBERS, kind="labels")[1].answer.kind == "labels"
    labels = make_pipeline(StandardScaler(), OneVsRestClassifier(LogisticRegression())).fit(NUMBERS, TWO)
    with pytest.raises(MismatchFaults, match=r"cannot be one of several classes: for the first row it gives 0\.\d+"):
        inspect(labels, NUMBERS, kind="class")


# --- outcomes ---------------------------------------------------------------------------------------------------------


def test_several_numbers_take_name_range_and_evidence_each_from_its_own_column():
    model = LinearRegression().fit(NUMBERS[["pots"]], TABLE[["peak", "kwh"]])
    opened, inspection = inspect(model, TABLE[["pots", "kwh", "peak"]])
    # The columns stand in another order than the model's outputs.
    assert (inspection.targets, inspection.ignored) == (["peak", "kwh"], [])
    assert [(part.name, part.low) for part in inspection.answer.values] == [
        ("Peak", TABLE["peak"].min()),
        ("Kwh", TABLE["kwh"].min()),
    ]
    assert any("fit the columns `peak`, `kwh` in this order" in note for note in inspection.notes)
    known = read_known_cases(TABLE, inspection)
    evidence = weigh(opened.predict(known.rows), known, "numbers")
    off = np.abs(model.predict(NUMBERS[["pots"]]) - TABLE[["peak", "kwh"]].to_numpy())
    assert [one.typical_error for one in evidence.outputs] == pytest.approx(np.median(off, axis=0).tolist())
    kept_rows = evaluate_model(opened, TABLE[["pots", "kwh", "peak"]], inspection)[1]
    row = kept_rows.row(0)
    truths = TABLE.loc[TABLE["pots"] == row["pots"], ["peak", "kwh"]]
    assert kept_rows.outcomes[0] in {f"{peak:.12g}; {kwh:.12g}" for peak, kwh in truths.to_numpy()}
    answer, _ = make_answer(inspection.answer, [1230.0, 120.0], evidence)
    assert answer.values[0].interval.high - 1230 == pytest.approx(evidence.outputs[0].margins[40])


def test_the_author_is_asked_which_of_several_columns_is_the_outcome():
    model = LinearRegression().fit(NUMBERS[["pots"]], TABLE["kwh"])
    _, inspection = inspect(model, NUMBERS.assign(glaze="ash"))
    assert (inspection.target, inspection.candidates) == (None, ["peak", "kwh"])
    assert inspect(model, NUMBERS, target="kwh")[1].ignored == ["peak"]


def test_the_outcome_may_be_a_column_of_the_known_cases_alone():
    model = LinearRegression().fit(NUMBERS[["pots"]], TABLE["kwh"])
    known = TABLE[["pots", "kwh"]].tail(80)
    for target in ("kwh", None):
        opened, inspection = inspect(model, TABLE[["pots"]].head(100), target=target, known_cases=known)
        assert inspection.target == "kwh"
        inspection, kept_rows = evaluate_model(opened, TABLE[["pots"]].head(100), inspection, known)
        assert (inspection.evidence.n_known, kept_rows.n_known, kept_rows.outcomes) == (80, 80, None)
        assert inspection.answer.low == known["kwh"].min()
    with pytest.raises(MismatchFaults, match="Neither the reference table nor the known cases have a column `gas`"):
        inspect(model, TABLE[["pots"]], target="gas", known_cases=known)


@pytest.mark.parametrize("with_known", [False, True])
def test_labels_beside_other_words_in_the_outcomes_column_are_matched_by_agreement(with_known):
    model = LogisticRegression().fit(NUMBERS[["pots"]], (TABLE["pots"] > 30).astype(int))
    # "leaves" stands before "stays" in the alphabet, and means the second class.
    table = NUMBERS[["pots"]].assign(fate=np.where(TABLE["pots"] > 30, "leaves", "stays"))
    opened, inspection = inspect(model, table, labels=["No", "Yes"], known_cases=table if with_known else None)
    assert [wording.name for wording in inspection.answer.classes] == ["No", "Yes"]
    assert inspection.outcome_words == {"stays": "No", "leaves": "Yes"}
    assert "`stays` is `No`; `leaves` is `Yes`" in " ".join(inspection.notes)
    assert asked(inspection) == ["class-order"]
    inspection, kept_rows = evaluate_model(opened, table, inspection, table if with_known else None)
    assert set(kept_rows.outcomes) == {"No", "Yes"}
    if with_known:
        assert inspection.evidence.right > 0.95


# --- columns in another order -----------------------------------------------------------------------------------------


def test_columns_in_another_order_than_the_trainings_are_told_by_the_outcomes():
    model = RandomForestRegressor(20, random_state=0).fit(NUMBERS[["pots", "peak"]].to_numpy(), TABLE["kwh"])
    right = inspect(model, TABLE[["pots", "peak", "kwh"]])[1]
    assert (right.target, asked(right)) == ("kwh", [])
    assert any("none fits the outcomes better" in note for note in right.notes)
    wrong = inspect(model, TABLE[["peak", "pots", "kwh"]], target="kwh")[1]
    assert asked(wrong) == ["features"]
    assert "with the order `pots`, `peak` only" in wrong.questions[0].text
    # Words are classes' places here; a class error is a share.
    classes = LogisticRegression(C=1e6, max_iter=5000).fit(NUMBERS.to_numpy(), SIZES)
    swapped = inspect(classes, NUMBERS[["kwh", "peak", "pots"]].assign(size=SIZES))[1]
    assert "`pots`" in swapped.questions[0].text
    assert "of 100 of 200 rows" in swapped.questions[0].text


def test_without_outcomes_three_rows_are_to_be_compared_with_the_notebook():
    model = LinearRegression().fit(NUMBERS[["pots", "peak"]].to_numpy(), TABLE["kwh"])
    question = inspect(model, NUMBERS[["pots", "peak"]])[1].questions[0]
    assert (question.name, len(question.rows)) == ("features", 3)
    expected = model.predict(NUMBERS[["pots", "peak"]].head(3).to_numpy())
    assert [output[0] for output in question.outputs] == pytest.approx(expected.tolist())


def test_numbers_that_the_model_knows_as_words_stay_words():
    table = TABLE[["kwh"]].assign(shelf=TABLE["pots"] % 4)
    model = make_pipeline(OneHotEncoder(), LinearRegression()).fit(table[["shelf"]].astype(str), table["kwh"])
    opened, inspection = inspect(model, table)
    assert [option.value for option in inspection.fields[0].options] == ["0", "1", "2", "3"]
    expected = model.predict(table[["shelf"]].head(5).astype(str))
    np.testing.assert_allclose(opened.predict(table[["shelf"]].head(5).astype(str))[:, 0], expected)


def test_the_outcome_is_found_even_where_the_columns_stand_in_another_order():
    model = RandomForestRegressor(20, random_state=0).fit(NUMBERS[["pots", "peak"]].to_numpy(), TABLE["kwh"])
    _, inspection = inspect(model, TABLE[["peak", "pots", "kwh"]])
    assert (inspection.target, asked(inspection)) == ("kwh", ["features"])


def test_very_many_missing_columns_are_said_in_one_sentence_and_dates_by_their_name():
    wide = pd.DataFrame(np.random.default_rng(0).random((20, 300)), columns=[f"c{at}" for at in range(300)])
    model = LinearRegression().fit(wide, wide["c0"])
    with pytest.raises(MismatchFaults, match="None of the model's 300 columns") as caught:
        inspect(model, NUMBERS)
    assert len(caught.value.faults) == 1
    with pytest.raises(MismatchFaults, match="270 more columns of the model are not in the table") as caught:
        inspect(model, wide[[f"c{at}" for at in range(10)]])
    assert len(caught.value.faults) == 21
    days = pd.DataFrame({"day": [f"2026-03-{at % 28 + 1:02}" for at in range(60)], "kwh": np.arange(60.0)})
    dated = LinearRegression().fit(pd.DataFrame({"day": range(60)}), days["kwh"])
    with pytest.raises(MismatchFaults, match='Column `day` holds dates \\("2026-03-01"\\)'):
        inspect(dated, days)
