"""Models whose columns are pixels: the scale of these is found, and a compiled form that says the same."""

import io

import numpy as np
import pandas as pd
import pytest
from sklearn.decomposition import PCA
from sklearn.ensemble import HistGradientBoostingClassifier, RandomForestClassifier
from sklearn.feature_selection import VarianceThreshold
from sklearn.gaussian_process import GaussianProcessClassifier
from sklearn.linear_model import LogisticRegression
from sklearn.neighbors import KNeighborsClassifier
from sklearn.neural_network import MLPClassifier, MLPRegressor
from sklearn.pipeline import make_pipeline
from sklearn.preprocessing import MinMaxScaler, StandardScaler
from sklearn.svm import SVC
from xgboost import XGBClassifier

from plain_window.core.contract import ModelFacts
from plain_window.core.contract.jobs import OpenFile
from plain_window.core.intake.opening import take_in
from plain_window.core.model_service.service import compiled_service
from plain_window.core.pictures.flattening import places_by_name

from ..made_models import csv, dumped
from ..marks import MARK_NAMES, archive_of, marks

PIXELS, OUTCOMES = marks(300)
# What a pixel of 255 is, and how a preparation says it.
SCALES = {
    "0..1": (1.0, "0..1", []),
    "0..16": (16.0, "spread", [1 / 16]),
    "0..255": (255.0, "0..255", []),
}
TELL = {
    "support vectors": SVC(),
    "neighbours": KNeighborsClassifier(),
    "trees": RandomForestClassifier(20, random_state=0),
    "boosted trees": HistGradientBoostingClassifier(max_iter=10),
    "means": make_pipeline(StandardScaler(), LogisticRegression(max_iter=500)),
    "ranges": make_pipeline(MinMaxScaler(), LogisticRegression(max_iter=500)),
}
TELL_NOTHING = {
    "weights": LogisticRegression(max_iter=500),
    "weights of weights": make_pipeline(PCA(8), LogisticRegression(max_iter=500)),
    "some of the pixels": make_pipeline(VarianceThreshold(1), PCA(5), LogisticRegression(max_iter=500)),
    "a network": MLPClassifier((20,), max_iter=2000, random_state=0),
}


def taken_in(model, known=None):
    files = {"model": io.BytesIO(dumped(model))}
    if known is not None:
        files["known"] = io.BytesIO(known)
    return take_in(files, OpenFile())


def scale_of(intake):
    preparation = intake.inspection.fields[0].preparation
    return preparation.scale, preparation.spread


@pytest.mark.parametrize("name", TELL)
@pytest.mark.parametrize("scale", SCALES)
def test_the_scale_of_pixels_is_read_off_the_numbers_in_the_model(name, scale):
    white, kind, spread = SCALES[scale]
    intake = taken_in(TELL[name].fit(PIXELS * white / 255, OUTCOMES))
    assert scale_of(intake) == (kind, spread)
    assert any("go up to" in note for note in intake.inspection.notes)
    assert "Numbers in the model tell the scale of the pixels" in intake.inspection.questions[0].text


def test_of_pictures_that_are_mostly_dark_the_scale_is_told_by_how_far_pixels_spread():
    seldom = np.random.default_rng(0).random(PIXELS.shape) < 0.1
    intake = taken_in(make_pipeline(StandardScaler(), LogisticRegression(max_iter=500)).fit(PIXELS * seldom, OUTCOMES))
    assert "go up to 1" in intake.inspection.notes[1]
    assert scale_of(intake) == ("0..255", [])
    # Of what is always white nothing is told by what it is divided by, which is 1.
    white = np.where(np.arange(64) < 8, 1.0, PIXELS / 255)
    light = taken_in(make_pipeline(StandardScaler(), LogisticRegression(max_iter=500)).fit(white, OUTCOMES))
    assert scale_of(light) == ("0..1", [])


@pytest.mark.parametrize("name", TELL_NOTHING)
def test_where_the_model_does_not_tell_nothing_is_said_of_it(name):
    intake = taken_in(TELL_NOTHING[name].fit(PIXELS, OUTCOMES))
    assert scale_of(intake) == ("0..1", [])
    assert not any("go up to" in note for note in intake.inspection.notes)


NAMES = {
    "counted from one": [f"pixel{at}" for at in range(1, 65)],
    "rows and columns": [f"pixel_{row}_{column}" for row in range(8) for column in range(8)],
    "sizes": [f"{row}x{column}" for row in range(1, 9) for column in range(1, 9)],
    "in the order of letters": sorted(f"px{at}" for at in range(64)),
    "column by column": [f"r{row}c{column}" for column in range(8) for row in range(8)],
}


def named(names):
    """The marks in a table whose columns are called so; what is called after a place holds that pixel."""
    places = places_by_name(names)
    return pd.DataFrame(PIXELS[:, places], columns=names)


@pytest.mark.parametrize("name", NAMES)
def test_columns_that_are_called_like_pixels_are_pixels(name):
    fitted = RandomForestClassifier(20, random_state=0).fit(named(NAMES[name]), OUTCOMES)
    intake = taken_in(fitted, archive_of(*marks(90, seed=8)))
    assert intake.inspection.fields[0].kind == "picture"
    assert f"(`{NAMES[name][0]}` to `{NAMES[name][-1]}`)" in intake.inspection.notes[0]
    assert intake.inspection.compiled.adopted
    # In another order than the training's hardly any would be right.
    assert intake.inspection.pictures.n_right >= 85
    facts = ModelFacts.of_inspection(intake.inspection.model_dump_json().encode())
    compiled = compiled_service(intake.compiled, facts, None).backend.predict([intake.inspection.warm_up_row])
    np.testing.assert_array_equal(
        compiled, intake.service(background_rows=1).backend.predict([intake.inspection.warm_up_row])
    )


@pytest.mark.parametrize(
    "names",
    [
        [f"x{at}" for at in range(64)],
        [f"pixel{at}" for at in range(2, 66)],
        [f"pixel{at}" for at in range(63)] + ["wall_mm"],
        [f"pixel{at % 60}_{at // 60}" for at in range(64)],
        [f"pixel{at}" for at in range(63)] + ["px63"],
        [],
    ],
    ids=["other names", "some missing", "one of them is none", "no square", "two names", "none"],
)
def test_other_columns_are_no_pixels(names):
    assert places_by_name(names) is None


def test_a_table_of_pixels_beside_the_model_is_taken_but_its_author_told_how_to_have_pictures():
    table = named(NAMES["counted from one"]).assign(mark=OUTCOMES)
    fitted = LogisticRegression(max_iter=2000).fit(table.drop(columns="mark"), OUTCOMES)
    files = {"model": io.BytesIO(dumped(fitted)), "reference": io.BytesIO(csv(table))}
    intake = take_in(files, OpenFile(target="mark"))
    assert len(intake.inspection.fields) == 64
    assert (
        "The columns are called like the pixels of a picture of 8 × 8. Bring the model without the table, and "
        "visitors draw or choose a picture instead of setting 64 numbers." in intake.inspection.notes
    )


@pytest.mark.parametrize("scale", SCALES)
def test_of_scales_that_get_as_many_right_one_is_taken_whose_probabilities_fit(scale):
    white, kind, spread = SCALES[scale]
    # Weights alone: which mark is likeliest is nearly the same on any scale, how likely it is, is not.
    fitted = LogisticRegression(C=100, max_iter=2000, fit_intercept=False).fit(PIXELS * white / 255, OUTCOMES)
    intake = taken_in(fitted, archive_of(*marks(90, seed=8)))
    right = [one.n_right for one in intake.inspection.pictures.tries[:4]]
    assert max(right) - min(right) <= 1
    assert max(right) >= 78
    assert scale_of(intake) == (kind, spread)


@pytest.mark.parametrize("name", TELL)
def test_a_scale_that_the_model_tells_and_known_pictures_bear_out_is_not_asked_about(name):
    intake = taken_in(TELL[name].fit(PIXELS * 16 / 255, OUTCOMES), archive_of(*marks(90, seed=8)))
    assert scale_of(intake) == SCALES["0..16"][1:]
    assert intake.inspection.questions == []


def test_scales_that_known_pictures_do_not_tell_apart_are_asked_about():
    # Hardly sure of anything on its own scale: on others it fits as well.
    fitted = LogisticRegression(max_iter=2000).fit(PIXELS / 255, OUTCOMES)
    intake = taken_in(fitted, archive_of(*marks(16, seed=8)))
    (question,) = intake.inspection.questions
    assert question.name == "preparation"
    assert question.text.endswith("right, and others are as likely by them.")
    assert "Going by them it could as well be" in intake.inspection.notes[-1]


@pytest.mark.parametrize("name", [*TELL, *TELL_NOTHING, "another library", "a number"])
def test_its_compiled_form_says_what_its_library_says(name):
    library = (
        XGBClassifier(n_estimators=10)
        if name == "another library"
        else MLPRegressor(hidden_layer_sizes=(9,), max_iter=3000, tol=1e-2, random_state=0)
    )
    outcomes = OUTCOMES if name in {**TELL, **TELL_NOTHING} else np.searchsorted(MARK_NAMES, OUTCOMES)
    intake = taken_in({**TELL, **TELL_NOTHING}.get(name, library).fit(PIXELS, outcomes))
    report = intake.inspection.compiled
    assert (report.adopted, report.obstacle) == (True, None)
    assert report.n_rows_compared > 1000
    facts = ModelFacts.of_inspection(intake.inspection.model_dump_json().encode())
    compiled = compiled_service(intake.compiled, facts, None)
    compiled.warm_up()
    row = intake.inspection.warm_up_row
    ours = compiled.backend.predict([row])
    np.testing.assert_allclose(ours, intake.service(background_rows=10).backend.predict([row]), rtol=1e-6, atol=1e-9)
    assert ours.shape == (1, 1 if name == "a number" else 3)


def test_one_that_cannot_be_compiled_is_asked_through_its_library():
    intake = taken_in(make_pipeline(StandardScaler(), GaussianProcessClassifier()).fit(PIXELS[:60], OUTCOMES[:60]))
    assert intake.compiled is None
    assert intake.inspection.compiled.obstacle
    assert intake.service(background_rows=10).backend.predict([intake.inspection.warm_up_row]).shape == (1, 3)
